//! The plain text writer.

mod blocks;
mod inlines;
mod notes;
mod tables;
mod wrap;

use crate::document::{Attributes, CompactString, Document, NoteId, Place};
use crate::findings::{Code, Findings};
use crate::formats::WriteError;
use crate::formats::depth::refuse_too_deep;
use crate::locale::Words;
use std::collections::HashMap;

/// What the text writer can be told.
#[derive(Debug, Clone)]
pub struct TextWriteOptions {
    /// The longest line, in columns as terminals count them; `None` for a line a paragraph. Words
    /// longer than that stay whole. Default: 72.
    pub wrap: Option<u16>,
    /// What becomes of the addresses of links. Default: notes.
    pub links: LinkNotes,
    /// The audiences written for. Default: `web`.
    pub audiences: Vec<CompactString>,
}

/// What becomes of the addresses of links.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum LinkNotes {
    /// A number behind the link, and the address at the end of the text.
    Notes,
    /// The address in brackets behind the link.
    Inline,
    /// They go, with a finding.
    Dropped,
}

impl Default for TextWriteOptions {
    fn default() -> Self {
        Self { wrap: Some(72), links: LinkNotes::Notes, audiences: vec!["web".into()] }
    }
}

/// Writes a document as plain text.
///
/// ```
/// use obblet::formats::{markdown, text};
/// let source = "# Tides\n\nSee *the* [log](log.html).\n";
/// let (document, _) = markdown::read(source, &Default::default());
/// let (text, _) = text::write(&document, &Default::default())?;
/// assert_eq!(text, "Tides\n=====\n\nSee the log [1].\n\n[1] log.html\n");
/// # Ok::<(), obblet::WriteError>(())
/// ```
///
/// # Errors
/// [`WriteError::TooDeep`] when the document nests deeper than any reader makes it.
pub fn write(
    document: &Document,
    options: &TextWriteOptions,
) -> Result<(String, Findings), WriteError> {
    refuse_too_deep(document)?;
    let mut writer = Writer {
        document,
        options,
        findings: Findings::new(),
        notes: Vec::new(),
        note_numbers: HashMap::new(),
        address_numbers: HashMap::new(),
        words: Words::of_language(document.metadata.language.as_deref()),
        place: Place::default(),
    };
    let (mut lines, rest) = writer.opening(&document.blocks);
    blocks::join(&mut lines, writer.blocks(rest, options.wrap.map(usize::from)));
    blocks::join(&mut lines, writer.notes_at_end());
    let mut text = String::new();
    for line in &lines {
        text.push_str(line.trim_end());
        text.push('\n');
    }
    Ok((text, writer.findings))
}

/// What stands at the end of the text under a number.
enum NoteEntry {
    Note(NoteId),
    Address(CompactString),
}

/// The state of writing one document.
struct Writer<'d> {
    document: &'d Document,
    options: &'d TextWriteOptions,
    findings: Findings,
    notes: Vec<NoteEntry>,
    note_numbers: HashMap<NoteId, usize>,
    address_numbers: HashMap<CompactString, usize>,
    words: &'static Words,
    /// The place of the block that is being written, for findings about its inlines.
    place: Place,
}

impl Writer<'_> {
    fn lost(&mut self, what: &str) {
        self.findings.count(Code::NodeNotCarried, what, Some(self.place));
    }

    /// It is there, in a form that does not tell what it is.
    fn changed(&mut self, what: &str) {
        self.findings.count(Code::NodeChanged, what, Some(self.place));
    }

    /// What attributes say that text cannot say.
    fn report_attributes(&mut self, attributes: &Attributes) {
        let Some(set) = attributes.get() else { return };
        let said = [
            (!set.classes.is_empty(), "a class"),
            (!set.pairs.is_empty(), "a named value"),
            (set.language.is_some(), "the language of a part"),
            (set.direction.is_some(), "a direction of writing"),
            (set.revision.is_some(), "who made a tracked change, and when"),
        ];
        for (_, what) in said.into_iter().filter(|(is_said, _)| *is_said) {
            self.lost(what);
        }
    }
}
