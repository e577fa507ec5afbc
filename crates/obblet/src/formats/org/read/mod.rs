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
mod notes;
mod options;
mod outline;
mod properties;
mod settings;
mod sources;
mod survey;
mod tables;
mod targets;
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
    Block, BlockKind, ContentsKind, ContentsList, Document, FillerCells, Inline, NESTING_LIMIT,
    Person, Place, Value,
};
use crate::findings::{Code, Findings};
use crate::formats::latex::read_bibtex;
use crate::resolver::Resolver;
use lines::Line;
use settings::{HEAD_LINES, OtherSetting, Settings};
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

    /// What the file says about itself, for readers.
    fn metadata(&mut self) {
        let line = |reader: &mut Self, parts: Vec<String>| -> Vec<Inline> {
            reader.inlines_of_text(&parts.join(" "), Place::default())
        };
        let taken = std::mem::take(&mut self.settings.title);
        let title = line(self, taken);
        let taken = std::mem::take(&mut self.settings.subtitle);
        let subtitle = line(self, taken);
        let is_kept = self.options.keeps_hidden;
        let shown = &self.settings.options;
        let (has_title, has_author) = (shown.title || is_kept, shown.author || is_kept);
        let (has_email, has_date) = (shown.email || is_kept, shown.date || is_kept);
        let authors = std::mem::take(&mut self.settings.authors);
        let mut email = self.settings.email.take().map(Into::into);
        let hides = [
            (!has_title && !title.is_empty(), "title", "the title"),
            (!has_author && !authors.is_empty(), "author", "the author"),
            (!has_email && email.is_some(), "email", "the e-mail address"),
            (!has_date && self.settings.date.is_some(), "date", "the date"),
        ];
        for (_, key, what) in hides.into_iter().filter(|(is_hidden, ..)| *is_hidden) {
            self.findings.count(Code::NotPublished, what, self.settings.place(key));
        }
        let metadata = &mut self.document.metadata;
        if has_title {
            (metadata.title, metadata.subtitle) = (title, subtitle);
        }
        if has_author {
            metadata.authors = authors
                .into_iter()
                .filter(|name| !name.is_empty())
                .map(|name| Person {
                    name: name.into(),
                    email: if has_email { email.take() } else { None },
                    affiliation: None,
                })
                .collect();
        }
        if has_date {
            metadata.date =
                self.settings.date.take().map(|date| timestamps::bare_date(&date).into());
        }
        if !self.settings.description.is_empty() {
            metadata.description = Some(self.settings.description.join(" "));
        }
        metadata.keywords = self.settings.keywords.iter().map(Into::into).collect();
        metadata.language = self.settings.language.take().map(|tag| tag.replace('_', "-").into());
        self.other_settings();
    }

    /// Settings that have no place in the tree are kept for who writes Org again.
    fn other_settings(&mut self) {
        for (key, value) in &self.settings.own {
            let value = typed(value);
            if !self.options.keeps_hidden {
                self.findings.count(Code::KeywordKept, key, self.settings.place(key));
            }
            self.document.metadata.extra.push((key.into(), value));
        }
        let others = std::mem::take(&mut self.settings.others);
        if !self.options.keeps_hidden {
            let is_held = |setting: &OtherSetting| HEAD_LINES.contains(&setting.key.as_str());
            for setting in others.iter().filter(|setting| !setting.is_followed && !is_held(setting))
            {
                let place = self.settings.place(&setting.key);
                self.findings.count(Code::SettingNotKept, &setting.key, place);
            }
            self.keep_settings(others.into_iter().filter(is_held));
            return;
        }
        let extra = &mut self.document.metadata.extra;
        // Also without any: what is hidden then shall stay so.
        let options = self.settings.options.others.join(" ");
        extra.push(("options".into(), Value::Text(options)));
        self.keep_settings(others.into_iter());
    }

    /// Settings as fields; of one that stands several times, all lines.
    fn keep_settings(&mut self, settings: impl Iterator<Item = OtherSetting>) {
        let extra = &mut self.document.metadata.extra;
        for OtherSetting { key, value, .. } in settings {
            let value = Value::Text(value);
            match extra.iter_mut().find(|(known, _)| *known == key) {
                Some((_, Value::List(values))) => values.push(value),
                Some((_, known)) => {
                    let first = std::mem::replace(known, Value::Null);
                    *known = Value::List(vec![first, value]);
                }
                None => extra.push((key.into(), value)),
            }
        }
    }

    fn read_bibliography(&mut self) {
        for (name, source) in std::mem::take(&mut self.settings.bibliography_files) {
            let name = format!("{}{name}", self.sources.folder(source));
            let Some(text) = sources::file(self.resolver, &name) else {
                if !self.document.bibliography.is_empty() {
                    continue;
                }
                let place = self.settings.place("bibliography");
                self.findings.add_about(Code::IncludeMissing, &name, place);
                continue;
            };
            let (works, problems) = read_bibtex(&text);
            for problem in problems {
                let place = self.settings.place("bibliography");
                self.findings.add_about(Code::BibliographyBroken, &problem, place);
            }
            self.document.bibliography.extend(works);
        }
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
