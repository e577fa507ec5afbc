//! Where the words of a source are, by a look at its bytes that shares nothing with its reader.
//!
//! One file a format. Formats with a mark around every word say exactly where text is (`xml` for Word and
//! HTML); of the others everything counts as text until nothing was read of it, and then `markdown`, `org`
//! and `latex` say which of it is surely markup.

pub(super) mod latex;
pub(super) mod markdown;
pub(super) mod org;
pub(super) mod page;
pub(super) mod word;

use super::align::Aligned;
use memchr::memmem;
use std::ops::Range;

/// Paragraphs longer than this are not looked at as one.
const LONGEST: usize = 1 << 14;

/// The stretches between blank lines that have words which were not reached, each once.
pub(super) fn regions_with_gaps(text: &str, aligned: &mut Aligned<'_>) -> Vec<Range<usize>> {
    let mut regions: Vec<Range<usize>> = Vec::new();
    for gap in aligned.gaps() {
        if regions.last().is_some_and(|region| region.end >= gap.end) {
            continue;
        }
        let floor = regions.last().map_or(0, |region| region.end);
        let lowest = floor_boundary(text, gap.start.saturating_sub(LONGEST).max(floor));
        let highest = floor_boundary(text, gap.end.saturating_add(LONGEST).min(text.len()));
        let before = text.get(lowest..gap.start).unwrap_or_default();
        let behind = text.get(gap.end..highest).unwrap_or_default();
        let start = before.rfind("\n\n").map_or(lowest, |at| lowest + at + 2);
        let end = behind.find("\n\n").map_or(highest, |at| gap.end + at + 1);
        regions.push(start..end.max(gap.end));
    }
    regions
}

fn floor_boundary(text: &str, at: usize) -> usize {
    (0..=at.min(text.len())).rev().find(|at| text.is_char_boundary(*at)).unwrap_or(0)
}

/// The lines of a region, with the offset of each.
pub(super) fn lines<'t>(
    text: &'t str,
    region: &Range<usize>,
) -> impl Iterator<Item = (usize, &'t str)> {
    let mut at = region.start;
    text.get(region.clone()).unwrap_or_default().split_inclusive('\n').map(move |line| {
        let start = at;
        at += line.len();
        (start, line)
    })
}

/// Which bytes a region has: most signs that are looked for are not there.
pub(super) struct Bytes([bool; 256]);

impl Bytes {
    pub(super) fn of(text: &str, region: &Range<usize>) -> Self {
        let mut bytes = [false; 256];
        for byte in text.as_bytes().get(region.clone()).unwrap_or_default() {
            if let Some(is_there) = bytes.get_mut(usize::from(*byte)) {
                *is_there = true;
            }
        }
        Self(bytes)
    }

    /// Whether a sign may be there.
    pub(super) fn may_have(&self, sign: &str) -> bool {
        sign.bytes().all(|byte| self.0.get(usize::from(byte)) == Some(&true))
    }
}

/// Says of everything between two signs that it is markup; signs that stand across lines are found in
/// the region alone.
pub(super) fn reach_between(
    text: &str,
    region: &Range<usize>,
    (open, close): (&str, &str),
    aligned: &mut Aligned<'_>,
) {
    let Some(inside) = text.as_bytes().get(region.clone()) else { return };
    let find = |from: usize, sign: &str| memmem::find(inside.get(from..)?, sign.as_bytes());
    let mut at = 0;
    while let Some(start) = find(at, open) {
        let from = at + start + open.len();
        let Some(length) = find(from, close) else { return };
        let end = from + length + close.len();
        aligned.reach(region.start + at + start..region.start + end);
        at = end;
    }
}
