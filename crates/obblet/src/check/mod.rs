//! What is wrong in a document before it is published: its structure, its links, what keeps people
//! from reading it, its spelling of signs, and of a page whether it is valid HTML.
//!
//! Nothing is asked of the network: of addresses outside only the form is looked at.
//!
//! ```
//! use obblet::check::{CheckOptions, check};
//! use obblet::Format;
//! use obblet::findings::{Code, Severity};
//! let text = b"# Tides\n\n### Low water\n\n[here](#ebb)\n";
//! let checked = check(text, Format::Markdown, &CheckOptions::default(), &())?;
//! let found: Vec<(u32, Code)> = checked
//!     .findings
//!     .iter()
//!     .map(|finding| (finding.position.map_or(0, |position| position.line), finding.code))
//!     .collect();
//! assert_eq!(found[0], (3, Code::HeadingLevelJump));
//! assert!(found.contains(&(5, Code::AnchorBroken)) && found.contains(&(5, Code::LinkTextVague)));
//! assert_eq!(Code::AnchorBroken.severity(), Severity::Error);
//! # Ok::<(), obblet::ReadError>(())
//! ```

mod characters;
mod destination;
mod language;
mod links;
mod mending;
mod patch;
mod pictures;
mod places;
mod structure;
mod tables;
mod validity;
#[cfg(test)]
mod work_tests;

pub use links::NearLink;
pub use mending::mend;
pub use patch::{MendedSource, mend_source};

use crate::additions::Additions;
use crate::convert::{OpenedPage, read_with, refuse_unreadable};
use crate::document::{
    Block, BlockKind, CompactString, Document, Ids, Inline, Node, SourceMap, Visit, id_of_words,
    plain_text, walk,
};
use crate::draft::Draft;
use crate::findings::{Code, FindingKind, Findings};
use crate::format::Format;
use crate::formats::html::dom::Dom;
use crate::formats::{ReadError, Reading, html};
use crate::house::House;
use crate::options::WriteOptions;
use crate::resolver::Resolver;
use std::collections::HashSet;

/// What [`check`] can be told.
#[derive(Debug, Clone, Default)]
pub struct CheckOptions {
    /// The destination: what it allows, and how it spells quotation marks. The default asks nothing
    /// of either.
    pub house: House,
    /// Readers that the program adds.
    pub additions: Additions,
}

/// What [`check`] gives.
#[derive(Debug, Clone)]
pub struct Checked {
    /// What is wrong, by place, with lines and columns.
    pub findings: Findings,
    /// Every id that links can lead to.
    pub ids: HashSet<CompactString>,
    /// The links and pictures that lead to files nearby, for somebody who knows which files there are.
    pub near: Vec<NearLink>,
    /// What makes lines and columns of places.
    pub map: SourceMap,
}

/// What a check of a document is about.
struct Subject<'s> {
    document: &'s Document,
    format: Format,
    house: &'s House,
    ids: HashSet<CompactString>,
    findings: Findings,
}

/// Says what is wrong in a source or a page.
///
/// # Errors
/// Those of [`read`](crate::convert::read).
pub fn check(
    source: &[u8],
    format: Format,
    options: &CheckOptions,
    resolver: &dyn Resolver,
) -> Result<Checked, ReadError> {
    let mut read_options = options.house.read_options().with_nodes_for_html();
    read_options.html.looks = true;
    read_options.html.drop_page_frame = false;
    read_options.word.looks = true;
    read_options.latex.looks = true;
    let mut findings = Findings::new();
    let is_read_by_us = format == Format::Html && options.additions.reader(format).is_none();
    let (reading, page) = if is_read_by_us {
        refuse_unreadable(source, format)?;
        let page = OpenedPage::of(source);
        let dom = Dom::of_page_with_faults(&page.text);
        let is_page = html::is_page(page.text.as_bytes());
        let facts = validity::validate(&page.text, &dom, is_page, &mut findings);
        (page.read(&dom, &read_options), Some(facts))
    } else {
        (read_with(source, format, &read_options, resolver, &options.additions)?, None)
    };
    let Reading { document, findings: read, map, .. } = reading;
    let mut subject = Subject {
        document: &document,
        format,
        house: &options.house,
        ids: match &page {
            Some(page) => page.ids.clone(),
            None => ids_of(&document),
        },
        findings,
    };
    // Of a page the checks of its HTML say more.
    if page.is_none() {
        subject.readers(&read);
    }
    subject.structure();
    subject.tables();
    subject.pictures();
    subject.language();
    subject.characters();
    subject.mendable();
    let in_text = subject.links();
    subject.destination();
    let Subject { mut findings, ids, .. } = subject;
    if let SourceMap::Text(text) = &map {
        places::narrow(&mut findings, text);
    }
    findings.locate(&map);
    findings.sort();
    let near = page.map_or(in_text, |page| page.near);
    Ok(Checked { findings, ids, near, map })
}

impl Checked {
    /// Adds what is wrong with links to files nearby.
    pub fn add_about<'l>(&mut self, faults: impl IntoIterator<Item = (Code, &'l NearLink)>) {
        let mut found = Findings::new();
        for (code, link) in faults {
            found.add_about(code, &link.address, Some(link.place));
        }
        if let SourceMap::Text(text) = &self.map {
            places::narrow(&mut found, text);
        }
        found.locate(&self.map);
        self.findings.extend(found);
        self.findings.sort();
    }
}

impl Subject<'_> {
    /// What the reader found wrong in the source.
    fn readers(&mut self, read: &Findings) {
        let is_wrong = |kind: FindingKind| matches!(kind, FindingKind::Problem | FindingKind::Lost);
        for finding in read.iter().filter(|finding| is_wrong(finding.kind())) {
            // Gaps between levels are looked for in all formats alike.
            if finding.code != Code::HeadingLevelJump {
                self.findings.take(finding.clone());
            }
        }
    }

    /// Every node of the text and of its notes.
    fn nodes(&self) -> impl Iterator<Item = Node<'_>> {
        let notes = self.document.notes.iter().map(|note| note.content.as_slice());
        let parts = std::iter::once(self.document.blocks.as_slice()).chain(notes);
        parts.flat_map(walk).filter_map(|visit| match visit {
            Visit::Enter(node) => Some(node),
            Visit::Leave(_) => None,
        })
    }
}

/// All that links can lead to: what the source names, and the headings by their words.
fn ids_of(document: &Document) -> HashSet<CompactString> {
    let mut ids = Ids::default();
    let mut nameless = Vec::new();
    // What formulas and works are named on the page, only writing it tells.
    let mut has_written_ids = !document.bibliography.is_empty();
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    for visit in std::iter::once(document.blocks.as_slice()).chain(notes).flat_map(walk) {
        let Visit::Enter(node) = visit else { continue };
        match (node.id(), node) {
            (Some(id), _) => {
                ids.stated(id);
            }
            (None, Node::Block(Block { kind: BlockKind::Heading(heading), .. })) => {
                nameless.push(&heading.content);
            }
            (None, Node::Block(Block { kind: BlockKind::Formula(_), .. }))
            | (None, Node::Inline(Inline::Formula(_) | Inline::Foreign(_))) => {
                has_written_ids = true;
            }
            _ => {}
        }
    }
    for content in nameless {
        ids.made(&id_of_words(&plain_text(content)));
    }
    // Notes are numbered on the page.
    for number in 1..=document.notes.len() {
        ids.made(&format!("note-{number}"));
    }
    let mut ids = ids.into_taken();
    let page = has_written_ids.then(|| Draft::of(document, &WriteOptions::format(Format::Html)));
    if let Some(Ok(draft)) = page {
        ids.extend(draft.ids().iter().cloned());
    }
    ids
}

/// The words of inlines on one line.
fn words_of(inlines: &[crate::document::Inline]) -> String {
    plain_text(inlines).split_whitespace().collect::<Vec<_>>().join(" ")
}
