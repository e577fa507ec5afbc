//! Findings: what a conversion has to say about what it could not carry, changed or mended.
//!
//! A finding is a stable [`Code`], a place in the source, and what it is about. The words people
//! read come from one table ([`Code::message`]), the line and column are worked out when
//! somebody looks.

mod account;
mod codes;
mod constructs;
mod explanations;
mod kind;
mod severity;
mod table;
mod topic;
mod weights;

pub use account::Account;
pub use codes::CodeFacts;
pub use constructs::Construct;
pub(crate) use constructs::OTHER_AUDIENCES;
pub use kind::FindingKind;
pub use severity::Severity;
pub use table::Code;
pub use topic::Topic;
pub use weights::Weight;

use crate::source::{CompactString, Place, Position, SourceMap, positions_in};
use serde::Serialize;
use std::collections::HashMap;
use std::fmt;

/// How many findings of one code are kept one by one; later ones are only counted, on the last.
pub const FINDINGS_PER_CODE: u32 = 500;

/// One thing a conversion has to say.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Finding {
    /// What happened.
    pub code: Code,
    /// What it happened to: an element's name, a label, a key.
    pub subject: Option<CompactString>,
    /// Where, in the source.
    #[serde(skip)]
    pub place: Option<Place>,
    /// A second place that explains the first, for example where a name was first defined.
    #[serde(skip)]
    pub also: Option<Place>,
    /// Line and column of `place`, once [`Findings::locate`] has run.
    pub position: Option<Position>,
    /// The included file that `place` is in, where that is not the source itself.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub file: Option<CompactString>,
    /// Line and column of `also`, once [`Findings::locate`] has run.
    pub also_position: Option<Position>,
    /// Where else it happened, as far as that is kept: at most [`FINDINGS_PER_CODE`] places.
    #[serde(skip)]
    pub others: Vec<Place>,
    /// How many times it happened.
    pub count: u32,
    /// How many words were left out, where that is known.
    #[serde(skip_serializing_if = "is_zero")]
    pub words: u64,
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "serde gives a reference")]
fn is_zero(words: &u64) -> bool {
    *words == 0
}

impl Finding {
    /// Whether something was lost, changed, repaired, or is a problem of the source.
    #[must_use]
    pub fn kind(&self) -> FindingKind {
        self.code.kind()
    }

    /// What it is about, where the code leaves that open.
    #[must_use]
    pub fn construct(&self) -> Option<Construct> {
        let is_open = self.code.is_about_constructs();
        self.subject.as_deref().filter(|_| is_open).and_then(Construct::of)
    }

    /// How much it matters.
    #[must_use]
    pub fn weight(&self) -> Weight {
        self.construct().map_or(self.code.weight(), Construct::weight)
    }

    /// Whether it may be about words that were left out.
    fn leaves_out(&self) -> bool {
        let is_lost = self.kind() == FindingKind::Lost;
        self.code.leaves_out() || is_lost && self.weight() == Weight::Content
    }

    /// What happened, in words, without the place.
    #[must_use]
    pub fn message(&self) -> String {
        let mut message = match &self.subject {
            Some(subject) => self.code.message().replace("{}", subject),
            None => self.code.message().replace(" “{}”", "").replace("{}", "something"),
        };
        if let Some(first) = self.also_position {
            message.push_str(&format!(" (first at {}:{})", first.line, first.column));
        }
        if self.count > 1 {
            message.push_str(&format!(" ({} times)", self.count));
        }
        message
    }

    /// The finding as one line that begins with the file, for example
    /// `guide.md:12:3: problem: the code fence is never closed [fence-unclosed]`.
    #[must_use]
    pub fn line(&self, file: &str) -> String {
        Line { finding: self, file }.to_string()
    }
}

struct Line<'a> {
    finding: &'a Finding,
    file: &'a str,
}

impl fmt::Display for Line<'_> {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Self { finding, file } = self;
        write!(out, "{}:", finding.file.as_deref().unwrap_or(file))?;
        if let Some(position) = finding.position {
            write!(out, "{}:{}:", position.line, position.column)?;
        }
        write!(out, " {}: {} [{}]", finding.kind(), finding.message(), finding.code)
    }
}

/// The findings of one step.
#[derive(Debug, Clone, Default)]
pub struct Findings {
    list: Vec<Finding>,
    /// How many of each code are in the list, and where the last one is.
    counts: HashMap<Code, (u32, usize)>,
    /// Findings that are counted by subject instead of listed one by one.
    by_subject: HashMap<(Code, CompactString), usize>,
}

impl Findings {
    /// No findings yet.
    #[must_use]
    pub fn new() -> Self {
        Self::default()
    }

    /// Says that something happened at a place.
    pub fn add(&mut self, code: Code, place: Option<Place>) {
        self.push(code, None, place, None);
    }

    /// Says that something happened to a named thing.
    pub fn add_about(&mut self, code: Code, subject: &str, place: Option<Place>) {
        self.push(code, Some(subject.into()), place, None);
    }

    /// Says that something happened to a named thing that another place explains.
    pub fn add_pair(&mut self, code: Code, subject: &str, place: Place, also: Place) {
        self.push(code, Some(subject.into()), Some(place), Some(also));
    }

    /// Like [`add_about`](Self::add_about), but once a subject: later ones are counted on it.
    pub fn count(&mut self, code: Code, subject: &str, place: Option<Place>) {
        self.count_at(code, subject, || place);
    }

    /// The same with a place that is only worked out where it is kept.
    pub(crate) fn count_at(
        &mut self,
        code: Code,
        subject: &str,
        place: impl FnOnce() -> Option<Place>,
    ) {
        match self.by_subject.get(&(code, subject.into())) {
            Some(&index) => {
                if let Some(finding) = self.list.get_mut(index) {
                    finding.count = finding.count.saturating_add(1);
                    if finding.others.len() < FINDINGS_PER_CODE as usize {
                        finding.others.extend(place());
                    }
                }
            }
            None => {
                let before = self.list.len();
                self.push(code, Some(subject.into()), place(), None);
                if self.list.len() > before {
                    self.by_subject.insert((code, subject.into()), before);
                }
            }
        }
    }

    fn push(
        &mut self,
        code: Code,
        subject: Option<CompactString>,
        place: Option<Place>,
        also: Option<Place>,
    ) {
        let (count, last) = self.counts.entry(code).or_default();
        if *count >= FINDINGS_PER_CODE {
            if let Some(finding) = self.list.get_mut(*last) {
                finding.count = finding.count.saturating_add(1);
            }
            return;
        }
        // A finding is one line, whatever it is about.
        let subject = subject.map(|subject| match subject.contains(char::is_control) {
            true => subject.split_whitespace().collect::<Vec<_>>().join(" ").into(),
            false => subject,
        });
        *count += 1;
        *last = self.list.len();
        let finding = Finding {
            code,
            subject,
            place,
            also,
            position: None,
            file: None,
            also_position: None,
            others: Vec::new(),
            count: 1,
            words: 0,
        };
        self.list.push(finding);
    }

    /// Says that words were left out here.
    pub(crate) fn add_words(&mut self, code: Code, words: u64, place: Place) {
        let counted = if words == 1 { "1 word".to_string() } else { format!("{words} words") };
        self.push(code, Some(counted.into()), Some(place), None);
        if let Some(finding) = self.counts.get(&code).and_then(|(_, last)| self.list.get_mut(*last))
        {
            finding.words += words;
        }
    }

    /// Whether notes or comments that were left out explain words that are missing; it says so then.
    pub(crate) fn explains_notes(&mut self, words: u64) -> bool {
        let is_note = |finding: &&mut Finding| {
            let name = finding.construct().map_or("", Construct::name);
            finding.kind() == FindingKind::Lost && matches!(name, "comment" | "note" | "note-mark")
        };
        let found = self.list.iter_mut().find(is_note);
        found.map(|finding| finding.words += words).is_some()
    }

    /// The findings, to be changed.
    pub(crate) fn iter_mut(&mut self) -> std::slice::IterMut<'_, Finding> {
        self.list.iter_mut()
    }

    /// Takes a finding as it is.
    pub(crate) fn take(&mut self, finding: Finding) {
        self.list.push(finding);
    }

    /// Works out lines and columns from a source, for findings that have none yet.
    pub fn locate(&mut self, map: &SourceMap) {
        for finding in self.list.iter_mut().filter(|finding| finding.position.is_none()) {
            finding.file = finding.place.and_then(|place| map.file(place)).map(Into::into);
        }
        self.locate_by(|places| map.positions(places));
    }

    /// The same from a text that no map owns.
    pub(crate) fn locate_in(&mut self, text: &str) {
        self.locate_by(|places| positions_in(text, places));
    }

    fn locate_by(&mut self, positions: impl Fn(&[Option<Place>]) -> Vec<Option<Position>>) {
        let open =
            |known: Option<Position>, place: Option<Place>| place.filter(|_| known.is_none());
        let first: Vec<_> = self.list.iter().map(|f| open(f.position, f.place)).collect();
        let also: Vec<_> = self.list.iter().map(|f| open(f.also_position, f.also)).collect();
        let found = positions(&first).into_iter().zip(positions(&also));
        for (finding, (first, also)) in self.list.iter_mut().zip(found) {
            finding.position = finding.position.or(first);
            finding.also_position = finding.also_position.or(also);
        }
    }

    /// Adds the findings of a later step.
    pub fn extend(&mut self, later: Findings) {
        self.list.extend(later.list);
        // The indices of both sides no longer hold; counting starts anew.
        self.counts.clear();
        self.by_subject.clear();
    }

    /// Joins findings that say the same of the same place.
    fn join_equal(&mut self) {
        self.list.dedup_by(|later, first| {
            // What was mended or changed twice in one place is two things.
            let is_fault = matches!(later.kind(), FindingKind::Lost | FindingKind::Problem);
            let is_same = later.place.is_some()
                && is_fault
                && (later.code, later.place, later.also) == (first.code, first.place, first.also)
                && later.subject == first.subject;
            if is_same && later.count > 1 {
                first.count = first.count.saturating_add(later.count);
            }
            is_same
        });
    }

    /// Sorts by place, findings without one last; findings at one place keep their order. What is said
    /// twice of one place is said once.
    pub fn sort(&mut self) {
        let source = |place: Option<Place>| place.map_or(0, |place| place.source);
        self.list
            .sort_by_key(|finding| (finding.place.is_none(), source(finding.place), finding.place));
        self.join_equal();
        self.counts.clear();
        self.by_subject.clear();
    }

    /// True when there is nothing to say.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    /// The findings, in the order they were made.
    pub fn iter(&self) -> std::slice::Iter<'_, Finding> {
        self.list.iter()
    }

    /// The findings as a list.
    #[must_use]
    pub fn into_vec(self) -> Vec<Finding> {
        self.list
    }
}

impl<'a> IntoIterator for &'a Findings {
    type Item = &'a Finding;
    type IntoIter = std::slice::Iter<'a, Finding>;

    fn into_iter(self) -> Self::IntoIter {
        self.iter()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_line_says_where_what_and_which_code() {
        let mut findings = Findings::new();
        findings.add(Code::FenceUnclosed, Some(Place::new(5, 8)));
        findings.add_pair(
            Code::LinkDefinitionDuplicate,
            "weir",
            Place::new(9, 12),
            Place::new(0, 4),
        );
        findings.locate(&SourceMap::Text("tide\n```\nmill\n".into()));
        let lines: Vec<String> = findings.iter().map(|finding| finding.line("log.md")).collect();
        assert_eq!(
            lines,
            [
                "log.md:2:1: problem: the code fence is never closed; the rest of its container is \
                 code [fence-unclosed]",
                "log.md:3:1: problem: the link label “weir” is defined again; the first definition \
                 holds (first at 1:1) [link-definition-duplicate]",
            ]
        );
    }

    #[test]
    fn findings_of_one_subject_are_counted_and_each_code_is_capped() {
        let mut findings = Findings::new();
        for _ in 0..3 {
            findings.count(Code::ElementUnknown, "w:odd", None);
        }
        for _ in 0..FINDINGS_PER_CODE + 7 {
            findings.add(Code::FenceUnclosed, None);
        }
        assert_eq!(findings.iter().next().map(|finding| finding.count), Some(3));
        assert_eq!(findings.iter().len(), 1 + FINDINGS_PER_CODE as usize);
        assert_eq!(findings.iter().last().map(|finding| finding.count), Some(8));
    }
}
