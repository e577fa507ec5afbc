//! Numbers of headings: where those that a document shows can be counted, Word counts them.

use super::Writer;
use super::list_levels::{LEVELS, Level};
use super::numbering::OpenList;
use crate::document::{Block, BlockKind, Document, Heading};
use crate::formats::word::number_formats::{NAMES, NumberFormat};

/// The formats of numbers that most headings have, before all others.
const USUAL: [&str; 5] = ["decimal", "upperRoman", "upperLetter", "lowerLetter", "lowerRoman"];

/// A heading with the numbers that Word would count to.
struct Counted<'d> {
    /// From 0.
    level: usize,
    label: &'d str,
    counters: [i32; LEVELS],
}

/// The levels of a list that makes the numbers of all headings that have one, if there is such a list.
fn levels(document: &Document) -> Option<[Option<Level>; LEVELS]> {
    let counted = counted(document)?;
    let mut levels = [const { None }; LEVELS];
    for at in 0..LEVELS {
        let here: Vec<&Counted<'_>> =
            counted.iter().filter(|heading| heading.level == at).collect();
        if !here.is_empty() {
            let found = level(&here, &levels)?;
            if let Some(place) = levels.get_mut(at) {
                *place = Some(found);
            }
        }
    }
    Some(levels)
}

/// The numbered headings with their counters. Levels are those of the numbers: the first one is 0.
fn counted(document: &Document) -> Option<Vec<Counted<'_>>> {
    let numbered = || headings(&document.blocks).filter(|heading| heading.number.is_some());
    let highest = numbered().map(|heading| heading.level).min()?;
    let mut counters = [0; LEVELS];
    let mut found = Vec::new();
    for heading in numbered() {
        let level = usize::from(heading.level - highest);
        let label = heading.number.as_deref()?;
        *counters.get_mut(level)? += 1;
        counters.iter_mut().skip(level + 1).for_each(|counter| *counter = 0);
        found.push(Counted { level, label, counters });
    }
    Some(found)
}

fn headings(blocks: &[Block]) -> impl Iterator<Item = &Heading> {
    blocks.iter().filter_map(|block| match &block.kind {
        BlockKind::Heading(heading) => Some(&**heading),
        _ => None,
    })
}

/// Format and text that make the labels of all headings of one level.
fn level(here: &[&Counted<'_>], outer: &[Option<Level>]) -> Option<Level> {
    let first = here.first()?;
    let rest = NAMES.into_iter().filter(|name| !USUAL.contains(name));
    let candidates = USUAL.into_iter().chain(rest);
    candidates
        .filter_map(|format| pattern(first, format, outer))
        .find(|level| here.iter().all(|heading| spelled(level, heading, outer) == heading.label))
}

/// The text that makes a label, with its numbers replaced by their places.
fn pattern(heading: &Counted<'_>, format: &'static str, outer: &[Option<Level>]) -> Option<Level> {
    let own = NumberFormat::of(format).spell(*heading.counters.get(heading.level)?);
    let at = heading.label.rfind(own.as_str()).filter(|_| !own.is_empty())?;
    let (mut before, behind) = (heading.label.get(..at)?, heading.label.get(at + own.len()..)?);
    let mut text = String::new();
    for (level, found) in outer.iter().enumerate().take(heading.level) {
        let Some(found) = found else { continue };
        let number = NumberFormat::of(found.format).spell(*heading.counters.get(level)?);
        if let Some((plain, rest)) = before.split_once(number.as_str()) {
            text.push_str(&format!("{plain}%{}", level + 1));
            before = rest;
        }
    }
    text.push_str(&format!("{before}%{}{behind}", heading.level + 1));
    Some(Level { format, text, start: 1, is_legal: false })
}

/// The label as Word would show it.
fn spelled(level: &Level, heading: &Counted<'_>, outer: &[Option<Level>]) -> String {
    let mut label = level.text.clone();
    for at in (0..=heading.level).rev() {
        let format = match at == heading.level {
            true => Some(level.format),
            false => outer.get(at).and_then(Option::as_ref).map(|level| level.format),
        };
        let number = heading.counters.get(at).copied().unwrap_or_default();
        let spelled = format.map(|format| NumberFormat::of(format).spell(number));
        label = label.replace(&format!("%{}", at + 1), &spelled.unwrap_or_default());
    }
    label
}

impl Writer<'_> {
    /// Defines the list of the headings' numbers, where there is one.
    pub(super) fn define_heading_numbers(&mut self) {
        let Some(levels) = levels(self.document) else { return };
        let highest = headings(&self.document.blocks)
            .filter(|heading| heading.number.is_some())
            .map(|heading| heading.level)
            .min();
        self.heading_list = highest.map(|highest| (self.lists.define_headings(levels), highest));
    }

    /// Level and list of a heading's number.
    pub(super) fn heading_numbering(&mut self, heading: &Heading) -> Option<(usize, u32)> {
        let (list, highest): &(OpenList, u8) = self.heading_list.as_ref()?;
        heading.number.as_ref()?;
        let level = usize::from(heading.level.checked_sub(*highest)?);
        Some((level, self.lists.heading(list, level)?))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::build::heading;

    fn document(labels: &[(u8, &str)]) -> Document {
        let blocks = labels.iter().map(|(level, label)| {
            let mut block = heading(*level, "Gates");
            if let BlockKind::Heading(heading) = &mut block.kind {
                heading.number = Some((*label).into());
            }
            block
        });
        Document::of(blocks.collect())
    }

    #[test]
    fn numbers_that_can_be_counted_have_levels() {
        type Case =
            (&'static [(u8, &'static str)], Option<&'static [(&'static str, &'static str)]>);
        let cases: [Case; 5] = [
            (
                &[(1, "1"), (2, "1.1"), (2, "1.2"), (1, "2"), (2, "2.1")],
                Some(&[("decimal", "%1"), ("decimal", "%1.%2")]),
            ),
            (
                &[(2, "Article I."), (3, "I(a)"), (2, "Article II."), (3, "II(a)")],
                Some(&[("upperRoman", "Article %1."), ("lowerLetter", "%1(%2)")]),
            ),
            (&[(1, "A."), (1, "B.")], Some(&[("upperLetter", "%1.")])),
            (&[(1, "1."), (1, "3.")], None),
            (&[(1, "一、"), (1, "二、")], Some(&[("ideographDigital", "%1、")])),
        ];
        for (labels, expected) in cases {
            let found = levels(&document(labels)).map(|levels| {
                levels.into_iter().flatten().map(|l| (l.format, l.text)).collect::<Vec<_>>()
            });
            let expected = expected.map(|levels| {
                levels.iter().map(|(f, t)| (*f, (*t).to_string())).collect::<Vec<_>>()
            });
            assert_eq!(found, expected, "{labels:?}");
        }
    }
}
