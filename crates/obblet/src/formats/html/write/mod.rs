//! The HTML writer.

mod attributes;
mod blocks;
mod inlines;
mod notes;
mod tables;

pub(crate) use attributes::is_language_tag;
pub(crate) use inlines::element_of;

use super::escape;
use super::ids::Ids;
use super::sanitise::sanitise;
use crate::document::{
    Block, BlockKind, CompactString, Document, Inline, Node, NoteId, Place, Visit, walk,
};
use crate::findings::{Code, Findings};
use crate::formats::WriteError;
use crate::formats::depth::refuse_too_deep;
use crate::page::words::Words;
use std::collections::{HashMap, HashSet};

/// What the HTML writer can be told.
#[derive(Debug, Clone)]
pub struct HtmlWriteOptions {
    /// Give every heading an id. Default: yes.
    pub heading_ids: bool,
    /// Say of every header cell whether it heads a column or a row. Default: yes.
    pub header_scopes: bool,
    /// The level of the document's highest headings, 1 to 6; deeper ones follow. `None` keeps
    /// levels as they are. Default: `None`.
    pub top_heading_level: Option<u8>,
    /// Hold to what a validator wants of a whole page, also where that changes what the source
    /// says: no heading level left out, no link to a host that cannot be. Default: no.
    pub valid_page: bool,
    /// The audiences written for. What is meant for other audiences only is left out; what is
    /// meant for everybody is always written. Default: `web`.
    pub audiences: Vec<CompactString>,
    /// Where the pictures go that the document carries inside itself. Default: embedded.
    pub pictures: PicturePlacement,
    /// What becomes of raw HTML in the document. Default: sanitised.
    pub raw_html: RawHtml,
}

impl Default for HtmlWriteOptions {
    fn default() -> Self {
        Self {
            heading_ids: true,
            header_scopes: true,
            top_heading_level: None,
            valid_page: false,
            audiences: vec!["web".into()],
            pictures: PicturePlacement::Embedded,
            raw_html: RawHtml::Sanitised,
        }
    }
}

/// Where the pictures go that a document carries inside itself.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum PicturePlacement {
    /// Into the page, as `data:` addresses.
    Embedded,
    /// Into this folder beside the page; the caller writes them there.
    Beside(String),
}

/// What becomes of raw HTML in a document.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum RawHtml {
    /// It is parsed, freed of all that may run code, and written anew.
    Sanitised,
    /// It goes out as it is. Only for sources that may do anything on the destination.
    Trusted,
}

/// The inside of a page.
#[derive(Debug, Clone)]
pub struct Body {
    /// The HTML.
    pub html: String,
    /// The headings, in order, for a contents list.
    pub headings: Vec<HeadingEntry>,
    /// Whether the document has a contents list of its own.
    pub has_contents: bool,
    /// Every id in the HTML.
    pub ids: HashSet<CompactString>,
}

/// A heading of a written body.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct HeadingEntry {
    /// The level it was written with, 1 to 6.
    pub level: u8,
    /// Its id, when headings have ids.
    pub id: Option<CompactString>,
    /// Its words, without any format.
    pub text: String,
}

/// Text as it may stand in HTML, between elements and in quoted values: with character references
/// for `&`, `<`, `>` and `"`.
#[must_use]
pub fn escaped_text(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    escape::push_text(&mut out, text);
    if out.contains('"') { out.replace('"', "&quot;") } else { out }
}

/// Writes the inside of a page.
///
/// # Errors
/// [`WriteError::TooDeep`] when the document nests deeper than any reader makes it.
pub fn write_body(
    document: &Document,
    options: &HtmlWriteOptions,
) -> Result<(Body, Findings), WriteError> {
    refuse_too_deep(document)?;
    let mut writer = Writer::new(document, options);
    writer.blocks(&document.blocks);
    writer.notes();
    writer.fill_contents();
    let mut body = Body {
        has_contents: writer.contents.is_some(),
        html: writer.out,
        headings: writer.headings,
        ids: writer.ids.into_taken(),
    };
    let mut findings = writer.findings;
    if writer.has_raw_html && options.raw_html == RawHtml::Sanitised {
        let clean = sanitise(&body.html, &mut findings);
        body.html = clean.html;
        body.ids = clean.ids;
    }
    Ok((body, findings))
}

/// The state of writing one document.
pub(super) struct Writer<'d> {
    document: &'d Document,
    options: &'d HtmlWriteOptions,
    out: String,
    findings: Findings,
    ids: Ids,
    headings: Vec<HeadingEntry>,
    /// Where the contents list belongs into the output, and how deep it goes.
    contents: Option<(usize, u8)>,
    /// The headings around what is being written: wanted and written levels, outermost first.
    heading_levels: Vec<(u8, u8)>,
    /// What is added to heading levels.
    level_shift: i16,
    words: &'static Words,
    /// The notes in the order of their first marks, with the ids of all their marks.
    notes: Vec<(NoteId, Vec<CompactString>)>,
    note_numbers: HashMap<NoteId, usize>,
    has_raw_html: bool,
    /// Links do not stand inside links.
    inside_link: bool,
    /// The place of the block that is being written, for findings about its inlines.
    place: Place,
}

impl<'d> Writer<'d> {
    fn new(document: &'d Document, options: &'d HtmlWriteOptions) -> Self {
        let mut writer = Self {
            document,
            options,
            out: String::new(),
            findings: Findings::new(),
            ids: Ids::default(),
            headings: Vec::new(),
            contents: None,
            heading_levels: Vec::new(),
            level_shift: level_shift(document, options.top_heading_level),
            words: Words::of_language(document.metadata.language.as_deref()),
            notes: Vec::new(),
            note_numbers: HashMap::new(),
            has_raw_html: false,
            inside_link: false,
            place: Place::default(),
        };
        writer.reserve_ids();
        if let Some(tag) = document.metadata.language.as_deref().filter(|tag| !is_language_tag(tag))
        {
            let subject = format!("lang={tag}");
            writer.findings.add_about(Code::AttributeDropped, &subject, None);
        }
        writer
    }

    /// Ids that the source states must reach their own nodes, so no heading may take them.
    fn reserve_ids(&mut self) {
        let notes = self.document.notes.iter().flat_map(|note| walk(&note.content));
        for visit in walk(&self.document.blocks).chain(notes) {
            let Visit::Enter(node) = visit else { continue };
            let id = match node {
                Node::Block(block) => block.attributes.id(),
                Node::Item(item) => item.attributes.id(),
                Node::Row(_, row) => row.attributes.id(),
                Node::Cell(cell) => cell.attributes.id(),
                Node::Inline(Inline::Anchor(anchor)) => Some(anchor.id.as_str()),
                Node::Inline(Inline::Formatted(formatted)) => formatted.attributes.id(),
                Node::Inline(Inline::Link(link)) => link.attributes.id(),
                Node::Inline(Inline::Picture(picture)) => picture.attributes.id(),
                Node::Inline(Inline::Code(code)) => code.attributes.id(),
                Node::Inline(_) => None,
            };
            if let Some(id) = id {
                self.ids.reserve(id);
            }
        }
    }

    fn text(&mut self, text: &str) {
        escape::push_text(&mut self.out, text);
    }

    /// ` name="value"`
    fn attribute(&mut self, name: &str, value: &str) {
        self.out.push(' ');
        self.out.push_str(name);
        self.out.push_str("=\"");
        escape::push_value(&mut self.out, value);
        self.out.push('"');
    }
}

fn level_shift(document: &Document, top: Option<u8>) -> i16 {
    let Some(top) = top else { return 0 };
    let level = |block: &Block| match &block.kind {
        BlockKind::Heading(heading) => Some(heading.level),
        _ => None,
    };
    let highest = document.blocks.iter().filter_map(level).min();
    highest.map_or(0, |highest| i16::from(top) - i16::from(highest))
}
