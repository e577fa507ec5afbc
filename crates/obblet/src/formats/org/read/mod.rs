//! Reading Org.
//!
//! | file | what it reads |
//! | --- | --- |
//! | `sources`, `lines` | what is included; what a line begins with |
//! | `settings`, `options` | what a file says about itself |
//! | `outline`, `properties`, `timestamps` | headings, with their tasks, properties and dates |
//! | `elements` | what stands below headings, and to whom it gives the word |
//! | `affiliated`, `blocks`, `drawers`, `lists`, `tables`, `code` | elements of one kind each |
//! | `inlines/` | what stands in a line |
//! | `notes`, `targets` | what marks and links point to |

mod affiliated;
mod blocks;
mod code;
mod drawers;
mod elements;
mod inlines;
mod lines;
mod lists;
mod metadata;
mod notes;
mod options;
mod outline;
mod properties;
mod settings;
mod sources;
mod survey;
mod tables;
mod targets;
mod tasks;
mod timestamps;
#[cfg(test)]
mod work_tests;

pub(super) use blocks::DYNAMIC;
pub(super) use code::without_shared_indentation;
pub(super) use drawers::TASK;
pub(super) use inlines::{
    entity_at, is_closing, is_known, is_opening, is_picture, is_white, plain_length,
    starts_plain_link,
};
pub(super) use lines::starts_element;
pub(super) use sources::needs_comma;
pub(super) use tables::FORMULAS as TABLE_FORMULAS;
pub(super) use targets::words_of;
pub(super) use timestamps::timestamp_at;

use super::OrgReadOptions;
use crate::document::{
    Block, BlockKind, ContentsKind, ContentsList, Document, FillerCells, NESTING_LIMIT, Place,
    Value,
};
use crate::findings::{Code, Findings};
use crate::resolver::Resolver;
use lines::Line;
use settings::Settings;
use sources::Sources;
use std::ops::Range;
use std::sync::Arc;
use survey::Survey;

/// Reads a document; files that it names come through the resolver. Gives the sources it was made of,
/// the document's own first.
pub(crate) fn read(
    text: &Arc<str>,
    options: &OrgReadOptions,
    resolver: &dyn Resolver,
) -> (Document, Findings, Vec<(String, Arc<str>)>) {
    let mut findings = Findings::new();
    let sources = Sources::gather(text, resolver, &mut findings);
    let lines = sources.lines();
    let survey = Survey::of(&lines);
    let settings = Settings::of(&lines, &survey.in_text, resolver);
    let bytes = sources.list.iter().map(|source| source.text.len()).sum();
    let macro_room = inlines::macros::room_of(bytes);
    let mut reader = Reader {
        lines,
        sources: &sources,
        survey,
        settings,
        options,
        resolver,
        document: Document::default(),
        findings,
        notes: notes::Notes::default(),
        targets: targets::Targets::default(),
        radio: None,
        selection: Vec::new(),
        open_blocks: Vec::new(),
        depth: 0,
        counters: std::collections::HashMap::new(),
        macro_room,
        open_macros: Vec::new(),
        filler_cells: FillerCells::for_source(bytes),
        in_link: false,
        code_line: 0,
    };
    reader.document();
    let Reader { document, findings, .. } = reader;
    let files = sources.list.iter().map(|source| (source.name.clone(), source.text.clone()));
    (document, findings, files.collect())
}

/// A value that is a number or a truth is one.
fn typed(value: &str) -> Value {
    match (value.parse::<i64>(), value) {
        (Ok(number), _) if number.to_string() == value => Value::Integer(number),
        (_, "true") => Value::Bool(true),
        (_, "false") => Value::Bool(false),
        _ => Value::Text(value.to_string()),
    }
}

struct Reader<'s> {
    lines: Vec<Line<'s>>,
    sources: &'s Sources,
    survey: Survey,
    settings: Settings,
    options: &'s OrgReadOptions,
    resolver: &'s dyn Resolver,
    document: Document,
    findings: Findings,
    notes: notes::Notes,
    targets: targets::Targets,
    /// The words that link to their radio target wherever they stand.
    radio: Option<inlines::RadioWords>,
    /// What of the outline is selected by tags; empty where nothing is.
    selection: Vec<outline::Selection>,
    /// The names of the blocks around what is read.
    open_blocks: Vec<String>,
    /// How deep elements stand in each other.
    depth: usize,
    /// The counters of the macro `n`.
    counters: std::collections::HashMap<String, i64>,
    /// Bytes that macros may still give.
    macro_room: usize,
    /// The names of the macros that are being expanded.
    open_macros: Vec<String>,
    filler_cells: FillerCells,
    /// Whether the words of a link are read, which hold no links.
    in_link: bool,
    /// The number of the last numbered line of code.
    code_line: usize,
}

impl Reader<'_> {
    fn document(&mut self) {
        self.survey_notes();
        self.survey_radio_targets();
        self.metadata();
        let mut blocks = self.outline();
        self.finish_notes();
        if let Some(Some(depth)) = self.settings.options.contents {
            let contents = ContentsList { kind: ContentsKind::Headings, depth };
            blocks.insert(0, Block::new(BlockKind::Contents(Box::new(contents))));
        }
        self.document.blocks = blocks;
        self.settle_targets();
        self.read_bibliography();
    }

    /// Reads something one level deeper; too deep, it is text.
    fn deeper<T>(&mut self, place: Place, read: impl FnOnce(&mut Self) -> T) -> Option<T> {
        if self.depth >= NESTING_LIMIT / 2 {
            self.findings.add(Code::NestingTooDeep, Some(place));
            return None;
        }
        self.depth += 1;
        let read = read(self);
        self.depth -= 1;
        Some(read)
    }

    /// The place of some lines.
    fn place_of(&self, range: &Range<usize>) -> Place {
        let first = self.lines.get(range.start).map(Line::place).unwrap_or_default();
        let last = self.lines.get(range.end.saturating_sub(1)).map(Line::place);
        let end =
            last.filter(|last| last.source == first.source).map_or(first.end, |last| last.end);
        Place { end, ..first }
    }

    fn hidden(&mut self, what: &str, place: Place) {
        self.findings.count(Code::NotPublished, what, Some(place));
    }
}
