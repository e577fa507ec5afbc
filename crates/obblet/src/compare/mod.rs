//! What differs between two documents, whatever formats they came from.
//!
//! The two are aligned by their structure, not by lines: each heading, paragraph, table, code
//! block of the one finds its counterpart in the other, also when its words changed or it moved;
//! counterparts are then compared part by part. How a document was spelled (bullet marks, line
//! breaks of the source, ids that nobody refers to) is no difference.
//!
//! ```
//! use obblet::compare::{Change, CompareOptions, Kind, compare};
//! use obblet::document::{Document, build::*};
//! let left = Document::of(vec![heading(1, "Tides"), paragraph("High water at noon.")]);
//! let right = Document::of(vec![heading(2, "Tides"), paragraph("High water at one.")]);
//! let found = compare(&left, &right, &CompareOptions::default());
//! let kinds: Vec<(Kind, Change)> = found.differences.iter().map(|d| (d.kind, d.change)).collect();
//! assert_eq!(kinds, [(Kind::Heading, Change::Changed), (Kind::Paragraph, Change::Changed)]);
//! assert_eq!(found.differences[0].what, "level 1 became 2");
//! assert_eq!(found.differences[1].what, "“noon” became “one”");
//! assert!(compare(&left, &left, &CompareOptions::default()).is_same());
//! ```
//!
//! # Cost
//! Linear in the size of the documents and in the number of differences. Where a stretch shares
//! nothing, at most 40,000 pairs are looked at, and beyond that only those that share rare words;
//! of repetitive stretches with more than 4,000 differences the rest counts as different.

mod align;
mod common;
mod metadata;
mod objects;
mod pairs;
mod tables;
mod tokens;
mod units;
mod words;
#[cfg(test)]
mod work_tests;

use crate::document::{Document, Place, Position, SourceMap};
use serde::Serialize;
use std::fmt;

/// What [`compare`] can be told.
#[derive(Debug, Clone, Default)]
pub struct CompareOptions {
    /// Kinds whose differences are neither counted nor listed. Default: none.
    pub ignore: Vec<Kind>,
}

/// What a difference is about.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Kind {
    /// Headings: level, number, words.
    Heading,
    /// Paragraphs, terms and lines of verse: words and line breaks.
    Paragraph,
    /// List items: kind, depth and number of the list, state of the box.
    List,
    /// Tables: shape, spans, header cells, what stands in the cells.
    Table,
    /// Code blocks and code in lines: characters and language.
    Code,
    /// Formulas, in lines and displayed.
    Math,
    /// What blocks stand in: quotations, figures, admonitions, notes.
    Structure,
    /// Links: words and targets.
    Link,
    /// Pictures: which, and their alternative texts.
    Picture,
    /// Footnotes and endnotes: marks and texts.
    Note,
    /// Formats of words: emphasis, strong and the rest.
    Emphasis,
    /// Title, authors, language and the like.
    Metadata,
}

impl Kind {
    /// All kinds, in the order they are shown.
    pub const ALL: [Self; 12] = [
        Self::Heading,
        Self::Paragraph,
        Self::List,
        Self::Table,
        Self::Code,
        Self::Math,
        Self::Structure,
        Self::Link,
        Self::Picture,
        Self::Note,
        Self::Emphasis,
        Self::Metadata,
    ];

    /// The name used on the command line and in JSON.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Heading => "heading",
            Self::Paragraph => "paragraph",
            Self::List => "list",
            Self::Table => "table",
            Self::Code => "code",
            Self::Math => "math",
            Self::Structure => "structure",
            Self::Link => "link",
            Self::Picture => "picture",
            Self::Note => "note",
            Self::Emphasis => "emphasis",
            Self::Metadata => "metadata",
        }
    }

    /// The kind of this name.
    #[must_use]
    pub fn of_name(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.name() == name)
    }
}

impl fmt::Display for Kind {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(self.name())
    }
}

/// What became of a thing of the left document in the right one.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Change {
    /// It is there, but not the same.
    Changed,
    /// It is the same, but elsewhere.
    Moved,
    /// It is not there.
    Missing,
    /// It is only in the right one.
    Extra,
}

impl fmt::Display for Change {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(match self {
            Self::Changed => "changed",
            Self::Moved => "moved",
            Self::Missing => "missing",
            Self::Extra => "extra",
        })
    }
}

/// One difference.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Difference {
    /// What it is about.
    pub kind: Kind,
    /// What became of it.
    pub change: Change,
    /// What differs, in words.
    pub what: String,
    /// Where, in the left source.
    #[serde(skip)]
    pub left: Option<Place>,
    /// Where, in the right source.
    #[serde(skip)]
    pub right: Option<Place>,
    /// Line and column of `left`, once [`Comparison::locate`] has run.
    pub left_position: Option<Position>,
    /// Line and column of `right`, once [`Comparison::locate`] has run.
    pub right_position: Option<Position>,
}

/// How many things of one kind there are, and what became of them.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
pub struct Count {
    /// The kind.
    pub kind: Kind,
    /// How many the left document has.
    pub left: usize,
    /// How many the right document has.
    pub right: usize,
    /// How many are the same at the same place.
    pub kept: usize,
    /// How many are not the same.
    pub changed: usize,
    /// How many are elsewhere.
    pub moved: usize,
    /// How many only the left document has.
    pub missing: usize,
    /// How many only the right document has.
    pub extra: usize,
}

/// All that differs.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Comparison {
    /// One entry for each kind that either document has.
    pub counts: Vec<Count>,
    /// The differences, in the order of the left document.
    pub differences: Vec<Difference>,
}

impl Comparison {
    /// Whether nothing differs.
    #[must_use]
    pub fn is_same(&self) -> bool {
        self.differences.is_empty()
    }

    /// Works out lines and columns.
    pub fn locate(&mut self, left: &SourceMap, right: &SourceMap) {
        let places = |side: fn(&Difference) -> Option<Place>| -> Vec<Option<Place>> {
            self.differences.iter().map(side).collect()
        };
        let left = left.positions(&places(|difference| difference.left));
        let right = right.positions(&places(|difference| difference.right));
        for (difference, (left, right)) in
            self.differences.iter_mut().zip(left.into_iter().zip(right))
        {
            (difference.left_position, difference.right_position) = (left, right);
        }
    }
}

/// Compares two documents.
#[must_use]
pub fn compare(left: &Document, right: &Document, options: &CompareOptions) -> Comparison {
    let mut tally = Tally::new(&options.ignore);
    metadata::compare_metadata(left, right, &mut tally);
    pairs::compare_documents(left, right, &mut tally);
    tally.finished()
}

/// Counts and differences as they are gathered.
struct Tally<'o> {
    ignore: &'o [Kind],
    counts: Vec<Count>,
    differences: Vec<Difference>,
}

impl<'o> Tally<'o> {
    fn new(ignore: &'o [Kind]) -> Self {
        let empty = |kind| Count {
            kind,
            left: 0,
            right: 0,
            kept: 0,
            changed: 0,
            moved: 0,
            missing: 0,
            extra: 0,
        };
        Self { ignore, counts: Kind::ALL.map(empty).to_vec(), differences: Vec::new() }
    }

    fn count(&mut self, kind: Kind) -> &mut Count {
        // The counts are in the order of the enum.
        &mut self.counts[kind as usize]
    }

    /// A thing that both documents have just so.
    fn keep(&mut self, kind: Kind) {
        let count = self.count(kind);
        count.left += 1;
        count.right += 1;
        count.kept += 1;
    }

    /// A thing that both have, and that differs in one or more ways.
    fn change(&mut self, kind: Kind, places: Places) -> Changes<'_, 'o> {
        Changes { tally: self, kind, places, seen: false }
    }

    /// A thing that only one of them has, or that moved.
    fn report(&mut self, kind: Kind, change: Change, what: String, places: Places) {
        let count = self.count(kind);
        match change {
            Change::Changed => count.changed += 1,
            Change::Moved => count.moved += 1,
            Change::Missing => count.missing += 1,
            Change::Extra => count.extra += 1,
        }
        count.left += usize::from(change != Change::Extra);
        count.right += usize::from(change != Change::Missing);
        self.push(kind, change, what, places);
    }

    fn push(&mut self, kind: Kind, change: Change, what: String, places: Places) {
        if self.ignore.contains(&kind) {
            return;
        }
        self.differences.push(Difference {
            kind,
            change,
            what,
            left: places.0,
            right: places.1,
            left_position: None,
            right_position: None,
        });
    }

    fn finished(mut self) -> Comparison {
        let ignore = self.ignore;
        self.counts.retain(|count| count.left + count.right > 0 && !ignore.contains(&count.kind));
        Comparison { counts: self.counts, differences: self.differences }
    }
}

/// Where a thing stands in the two sources.
type Places = (Option<Place>, Option<Place>);

/// The ways in which one thing differs: counted once, told one by one.
struct Changes<'t, 'o> {
    tally: &'t mut Tally<'o>,
    kind: Kind,
    places: Places,
    seen: bool,
}

impl Changes<'_, '_> {
    fn add(&mut self, what: String) {
        self.seen = true;
        self.tally.push(self.kind, Change::Changed, what, self.places);
    }

    /// Adds what differs between two values, if they do.
    fn differ<T: PartialEq>(&mut self, name: &str, left: T, right: T, show: impl Fn(&T) -> String) {
        if left != right {
            self.add(format!("{name} {} became {}", show(&left), show(&right)));
        }
    }

    /// Counts the thing as changed or kept, unless it was counted as moved.
    fn end_unless(self, moved: bool) {
        if !moved {
            self.end();
        }
    }

    /// Counts the thing as changed or kept.
    fn end(self) {
        let count = self.tally.count(self.kind);
        count.left += 1;
        count.right += 1;
        if self.seen {
            count.changed += 1;
        } else {
            count.kept += 1;
        }
    }
}

/// A text cut to what fits into a line, in quotation marks.
fn quoted(text: &str) -> String {
    const LONGEST: usize = 60;
    let shown: String = text.chars().take(LONGEST).collect();
    let more = if shown.len() < text.len() { "…" } else { "" };
    format!("“{shown}{more}”")
}
