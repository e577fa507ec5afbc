//! A stretch of text whose objects are read, with what is known about its signs.

use super::marks::{self, is_white};
use crate::document::Place;
use crate::work;
use std::cell::{OnceCell, RefCell};
use std::ops::Range;

/// A no-break of zero width, which parts signs from what would give them a meaning.
pub(super) const ZERO_WIDTH: &str = "\u{200b}";
/// The byte that it starts with.
const ZERO_WIDTH_START: u8 = 0xe2;

pub(super) struct Leaf<'t> {
    pub(super) text: &'t str,
    /// The place of the first line.
    first: Place,
    /// Offsets of all lines, each with its place in the source; empty where there is only one.
    starts: Vec<(usize, Place)>,
    /// Where emphasis of each mark may end, sorted.
    ends: OnceCell<[Vec<u32>; 6]>,
    /// Where something stands, sorted; looked for once.
    found: RefCell<Vec<(&'static str, Vec<usize>)>>,
    /// The closing partners of brackets, braces and parentheses, sorted.
    partners: OnceCell<Vec<(usize, usize)>>,
    has_zero_width: bool,
}

impl<'t> Leaf<'t> {
    pub(super) fn of_text(text: &'t str, place: Place) -> Self {
        let has_zero_width = memchr::memchr(ZERO_WIDTH_START, text.as_bytes()).is_some()
            && text.contains(ZERO_WIDTH);
        Self {
            text,
            first: place,
            starts: Vec::new(),
            ends: OnceCell::new(),
            found: RefCell::default(),
            partners: OnceCell::new(),
            has_zero_width,
        }
    }

    pub(super) fn of_lines(text: &'t str, starts: Vec<(usize, Place)>) -> Self {
        let first = starts.first().map(|(_, place)| *place).unwrap_or_default();
        Self { starts, ..Self::of_text(text, first) }
    }

    /// The place of an offset.
    pub(super) fn place(&self, at: usize) -> Place {
        let line = self.starts.partition_point(|(start, _)| *start <= at);
        let known = line.checked_sub(1).and_then(|line| self.starts.get(line));
        let (start, place) = known.copied().unwrap_or((0, self.first));
        let skipped = u32::try_from(at - start).unwrap_or(0);
        Place { start: place.start.saturating_add(skipped).min(place.end), ..place }
    }

    /// The source that the text is of.
    pub(super) fn source(&self) -> u32 {
        self.first.source
    }

    /// Where something stands next.
    pub(super) fn next(&self, what: &'static str, from: usize) -> Option<usize> {
        work::count(1);
        let mut found = self.found.borrow_mut();
        let known = found.iter().position(|(known, _)| *known == what);
        let index = known.unwrap_or_else(|| {
            let all = memchr::memmem::find_iter(self.text.as_bytes(), what).collect();
            found.push((what, all));
            found.len() - 1
        });
        let (_, all) = found.get(index)?;
        // Occurrences that overlap are not in the list: look behind the last one again.
        let index = all.partition_point(|at| *at < from);
        if let Some(before) = index.checked_sub(1).and_then(|index| all.get(index))
            && before + what.len() > from
            && self.text.get(from..).is_some_and(|rest| rest.starts_with(what))
        {
            return Some(from);
        }
        all.get(index).copied()
    }

    /// Where the emphasis that begins here ends.
    pub(super) fn emphasis_end(&self, at: usize, range: &Range<usize>) -> Option<usize> {
        let mark = *self.text.as_bytes().get(at)?;
        let before = self.text.get(range.start..at)?.chars().next_back();
        if !marks::may_open(before, self.text.get(at + 1..range.end)?.chars().next()) {
            return None;
        }
        let index = marks::MARKS.iter().position(|known| *known == mark)?;
        let ends = self.ends.get_or_init(|| marks::ends(self.text)).get(index)?;
        let first = u32::try_from(at + 2).ok()?;
        let next = ends.get(ends.partition_point(|end| *end < first)).map(|end| *end as usize);
        let next = next.filter(|next| *next < range.end);
        // The end of the stretch is the end of a line.
        let last = range.end.checked_sub(1).filter(|last| *last >= at + 2)?;
        let is_end = || {
            self.text.as_bytes().get(last) == Some(&mark)
                && self
                    .text
                    .get(..last)
                    .and_then(|t| t.chars().next_back())
                    .is_some_and(|c| !is_white(c))
        };
        next.or_else(|| is_end().then_some(last))
    }

    /// The closing partner of a bracket, brace or parenthesis.
    pub(super) fn partner(&self, at: usize) -> Option<usize> {
        let partners = self.partners.get_or_init(|| partners(self.text));
        let index = partners.binary_search_by_key(&at, |(start, _)| *start).ok()?;
        partners.get(index).map(|(_, end)| *end)
    }

    /// Plain text, without the signs of zero width that only keep others apart.
    pub(super) fn push_plain(&self, range: Range<usize>, out: &mut String) {
        let text = self.text.get(range.clone()).unwrap_or_default();
        work::count(1 + text.len() / 16);
        if !self.has_zero_width || !text.contains(ZERO_WIDTH) {
            return out.push_str(text);
        }
        let mut left = range.start;
        for (start, _) in text.match_indices(ZERO_WIDTH) {
            let at = range.start + start;
            let behind = at + ZERO_WIDTH.len();
            out.push_str(self.text.get(left..at).unwrap_or_default());
            left = behind;
            let before = self.text.get(..at).and_then(|text| text.chars().next_back());
            let next = self.text.get(behind..).and_then(|text| text.chars().next());
            let keeps_apart = before.is_none_or(marks::is_sign) || next.is_some_and(marks::is_sign);
            if !keeps_apart {
                out.push_str(ZERO_WIDTH);
            }
        }
        out.push_str(self.text.get(left..range.end).unwrap_or_default());
    }
}

fn partners(text: &str) -> Vec<(usize, usize)> {
    let mut partners = Vec::new();
    let mut open: [Vec<usize>; 3] = Default::default();
    for (at, byte) in text.bytes().enumerate() {
        let (kind, opens) = match byte {
            b'[' => (0, true),
            b']' => (0, false),
            b'{' => (1, true),
            b'}' => (1, false),
            b'(' => (2, true),
            b')' => (2, false),
            _ => continue,
        };
        let Some(stack) = open.get_mut(kind) else { continue };
        if opens {
            stack.push(at);
        } else if let Some(start) = stack.pop() {
            partners.push((start, at));
        }
    }
    partners.sort_unstable();
    partners
}
