//! Labels, and references to them.

use super::Reader;
use crate::document::{
    Anchor, Block, BlockKind, CompactString, Inline, Place, Reference, ReferenceShows,
    push_plain_text, walk_all_mut,
};
use crate::findings::{Code, Findings};
use crate::hashing::QuickMap;
use crate::tex::{Token, trimmed};

/// The ways to refer to a label.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum References {
    /// `\ref`: the number.
    Number,
    /// `\eqref`: the number in parentheses.
    Equation,
    /// `\pageref`.
    Page,
    /// `\autoref`: what it is, and its number.
    Named,
    /// `\cref`: the same, in small letters and short forms.
    Short,
    /// `\Cref`: the same at the start of a sentence.
    Capital,
    /// `\nameref`: its words.
    Words,
}

/// What a label stands for.
#[derive(Debug, Clone, Default)]
struct Target {
    number: CompactString,
    /// What it is, in English and in small letters: `section`, `figure`.
    kind: CompactString,
    title: String,
}

/// All labels, and what the next one would stand for.
#[derive(Debug, Default)]
pub(super) struct Labels {
    known: QuickMap<CompactString, Target>,
    current: Target,
    /// Whether anything refers to one of them.
    are_used: bool,
}

impl Labels {
    /// The words of what was counted last.
    pub(super) fn title<'l>(&mut self, lines: impl IntoIterator<Item = &'l [Inline]>) {
        let mut title = String::new();
        lines.into_iter().for_each(|line| push_plain_text(line, &mut title));
        self.current.title = trimmed(title);
    }

    pub(super) fn current(&mut self, number: &str, kind: &str) {
        self.current = Target { number: number.into(), kind: kind.into(), title: String::new() };
    }

    pub(super) fn add(&mut self, label: &str) {
        self.known.insert(label.into(), self.current.clone());
    }

    /// Gives a reference what it shows.
    fn settle(
        &self,
        reference: &mut Reference,
        place: Place,
        words: &super::packages::Words,
        findings: &mut Findings,
    ) {
        let how = match reference.stored.as_slice() {
            [Inline::Text(text)] if text.starts_with('\u{1}') => Some(text.clone()),
            [] => None,
            _ => return,
        };
        let Some(target) = self.known.get(reference.target.as_str()) else {
            findings.count(Code::ReferenceMissing, &reference.target, Some(place));
            reference.stored = vec!["??".into()];
            return;
        };
        if reference.shows == ReferenceShows::Page {
            findings.count(Code::PageReferenceAsNumber, &reference.target, Some(place));
        }
        reference.stored = vec![shown(target, reference.shows, how.as_deref(), words).into()];
    }

    pub(super) fn add_number(&mut self, label: &str, number: &str, kind: &str) {
        let target = Target { number: number.into(), kind: kind.into(), title: String::new() };
        self.known.insert(label.into(), target);
    }
}

impl Reader<'_> {
    /// One more of a counter; labels stand for it from now on. Gives the number.
    pub(super) fn step(&mut self, counter: &str, kind: &str) -> CompactString {
        self.front.step_counter(counter);
        let number = self.front.shown_counter(counter);
        let kind = if kind.is_empty() { counter } else { kind };
        self.labels.current(&number, kind);
        number
    }

    pub(super) fn number_within(&mut self, is_within: bool) {
        self.front.star();
        self.front.option();
        let counter = self.front.expanded_argument();
        let within = self.front.expanded_argument();
        if !self.front.has_counter(&counter) {
            self.front.new_counter(&counter, None);
        }
        self.front.count_within(&counter, &within, is_within);
        let shown = match is_within {
            true => format!(r"\the{within}.\arabic{{{counter}}}"),
            false => format!(r"\arabic{{{counter}}}"),
        };
        self.front.define_text(&format!("the{counter}"), &shown);
    }

    pub(super) fn label(&mut self) {
        self.front.option();
        let label = self.front.expanded_argument();
        if label.is_empty() {
            return;
        }
        self.labels.add(&label);
        if self.label_float(&label) || self.label_last(&label) {
            return;
        }
        self.sheet.push(Inline::Anchor(Box::new(Anchor { id: label.as_str().into() })));
    }

    pub(super) fn reference(&mut self, kind: References) {
        self.front.star();
        let labels = self.front.expanded_argument();
        let labels: Vec<String> = labels
            .split(',')
            .map(|label| label.trim().to_string())
            .filter(|l| !l.is_empty())
            .collect();
        self.sheet.mark_place();
        match labels.as_slice() {
            [] => {}
            [only] => self.push_reference(only, kind),
            [first, .., last] => {
                // The first one says what they are; the others are numbers.
                self.push_reference(first, kind);
                for label in labels.get(1..labels.len() - 1).unwrap_or_default() {
                    self.sheet.text.push_str(", ");
                    self.push_reference(label, number_of(kind));
                }
                self.sheet.text.push_str(&format!(" {} ", self.caption_words.and));
                self.push_reference(last, number_of(kind));
            }
        }
    }

    pub(super) fn reference_range(&mut self, is_capital: bool) {
        self.front.star();
        let first = self.front.expanded_argument();
        let last = self.front.expanded_argument();
        self.sheet.mark_place();
        let kind = if is_capital { References::Capital } else { References::Short };
        self.push_reference(&first, kind);
        self.sheet.text.push_str(&format!(" {} ", self.caption_words.to));
        self.push_reference(&last, References::Number);
    }

    fn push_reference(&mut self, label: &str, kind: References) {
        let shows = match kind {
            References::Number => ReferenceShows::Number,
            References::Equation => ReferenceShows::EquationNumber,
            References::Page => ReferenceShows::Page,
            References::Named | References::Short | References::Capital => {
                ReferenceShows::LabelAndNumber
            }
            References::Words => ReferenceShows::Text,
        };
        // How it is spelled is settled when all labels are known; the way is remembered till then.
        let stored = match kind {
            References::Short => vec![Inline::Text("\u{1}short".into())],
            References::Capital => vec![Inline::Text("\u{1}capital".into())],
            _ => Vec::new(),
        };
        self.labels.are_used = true;
        let target = label.into();
        self.sheet.push(Inline::Reference(Box::new(Reference { target, shows, stored })));
    }

    /// Gives headings their levels and references what they show, once all of them are known.
    pub(super) fn settle(&mut self) {
        // The highest level that occurs is 1; without parts and chapters that is a section's.
        let down = match self.highest_level {
            u8::MAX => 0,
            highest => highest.min(3).saturating_sub(1),
        };
        if down == 0 && !self.labels.are_used {
            return;
        }
        let labels = std::mem::take(&mut self.labels);
        let words = self.caption_words;
        let findings = &mut self.findings;
        let document = &mut self.document;
        let notes = document.notes.iter_mut().map(|note| &mut note.content);
        let raise = |block: &mut Block| {
            if let BlockKind::Heading(heading) = &mut block.kind {
                heading.level = heading.level.saturating_sub(down).clamp(1, 9);
            }
        };
        for blocks in std::iter::once(&mut document.blocks).chain(notes) {
            walk_all_mut(blocks, raise, |place, inlines| {
                for inline in inlines {
                    if let Inline::Reference(reference) = inline {
                        labels.settle(reference, place, &words, findings);
                    }
                }
            });
        }
    }
}

fn shown(
    target: &Target,
    shows: ReferenceShows,
    how: Option<&str>,
    words: &super::packages::Words,
) -> String {
    let number = &target.number;
    match shows {
        // What is not counted is known by its words.
        ReferenceShows::Page | ReferenceShows::LabelAndNumber
            if number.is_empty() && !target.title.is_empty() =>
        {
            target.title.clone()
        }
        ReferenceShows::EquationNumber => format!("({number})"),
        ReferenceShows::Text if !target.title.is_empty() => target.title.clone(),
        ReferenceShows::LabelAndNumber => {
            let word = words.of_kind(&target.kind, how);
            let number = match (target.kind.as_str(), how) {
                ("equation", Some(_)) => format!("({number})"),
                _ => number.to_string(),
            };
            format!("{word}\u{a0}{number}")
        }
        _ => number.to_string(),
    }
}

fn number_of(kind: References) -> References {
    match kind {
        References::Equation => References::Equation,
        References::Page => References::Page,
        _ => References::Number,
    }
}

/// Whether a token is a command of this name.
pub(super) fn is_command(token: Token, name: &str, names: &crate::tex::Names) -> bool {
    matches!(token, Token::Command(found) if names.text(found) == name)
}
