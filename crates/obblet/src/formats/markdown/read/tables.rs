//! Tables drawn with pipes.

use crate::document::CellAlign;
use crate::work;
use std::ops::Range;

/// The columns of a delimiter row such as `| :-- | --: |`, or `None` when it is not one. A row
/// needs a pipe or a colon somewhere, so that a setext underline is none.
pub(super) fn delimiter_row(rest: &[u8]) -> Option<Vec<Option<CellAlign>>> {
    let plausible = rest.iter().all(|byte| b"|-: \t".contains(byte));
    if !plausible || !rest.iter().any(|byte| b"|:".contains(byte)) {
        return None;
    }
    let text = std::str::from_utf8(rest).ok()?;
    cells(text).map(|cell| delimiter_cell(text.get(cell)?)).collect()
}

fn delimiter_cell(cell: &str) -> Option<Option<CellAlign>> {
    let left = cell.starts_with(':');
    let dashes = cell.strip_prefix(':').unwrap_or(cell);
    let right = dashes.ends_with(':');
    let dashes = dashes.strip_suffix(':').unwrap_or(dashes);
    if dashes.is_empty() || !dashes.bytes().all(|byte| byte == b'-') {
        return None;
    }
    Some(match (left, right) {
        (false, false) => None,
        (true, false) => Some(CellAlign::Start),
        (false, true) => Some(CellAlign::End),
        (true, true) => Some(CellAlign::Centre),
    })
}

/// The cells of a row, trimmed, as ranges of its text. A pipe behind a backslash is content.
pub(super) fn cells(row: &str) -> Cells<'_> {
    let bytes = row.as_bytes();
    let mut start = skip_space(bytes, 0);
    if bytes.get(start) == Some(&b'|') {
        start += 1;
    }
    let end = bytes.iter().rposition(|byte| !b" \t".contains(byte)).map_or(0, |at| at + 1);
    Cells { bytes: bytes.get(..end).unwrap_or_default(), at: start }
}

/// The iterator behind [`cells`].
pub(super) struct Cells<'t> {
    bytes: &'t [u8],
    at: usize,
}

impl Iterator for Cells<'_> {
    type Item = Range<usize>;

    fn next(&mut self) -> Option<Range<usize>> {
        if self.at >= self.bytes.len() {
            return None;
        }
        let start = self.at;
        let mut here = start;
        while let Some(&byte) = self.bytes.get(here) {
            work::count(1);
            match byte {
                b'\\' => here += 2,
                b'|' => break,
                _ => here += 1,
            }
        }
        let mut end = here.min(self.bytes.len());
        self.at = end + 1;
        let start = skip_space(self.bytes, start).min(end);
        while end > start && self.bytes.get(end - 1).is_some_and(|byte| b" \t".contains(byte)) {
            end -= 1;
        }
        Some(start..end)
    }
}

fn skip_space(bytes: &[u8], mut at: usize) -> usize {
    while matches!(bytes.get(at), Some(b' ' | b'\t')) {
        at += 1;
    }
    at
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn rows_are_cut_at_pipes_that_are_not_escaped() {
        let cases: [(&str, &[&str]); 7] = [
            ("| a | b |", &["a", "b"]),
            ("a | b", &["a", "b"]),
            ("| a |", &["a"]),
            ("|a||b", &["a", "", "b"]),
            ("| a \\| b | c", &["a \\| b", "c"]),
            ("| a \\", &["a \\"]),
            ("  ", &[]),
        ];
        for (row, expected) in cases {
            let found: Vec<&str> = cells(row).map(|range| &row[range]).collect();
            assert_eq!(found, expected, "{row:?}");
        }
    }

    #[test]
    fn delimiter_rows_give_alignments() {
        let found = delimiter_row(b"| :-- | :-: | --: | - |");
        let expected =
            vec![Some(CellAlign::Start), Some(CellAlign::Centre), Some(CellAlign::End), None];
        assert_eq!(found, Some(expected));
        for wrong in ["---", "| - a |", "| : |", "|:-:-|", "||"] {
            assert_eq!(delimiter_row(wrong.as_bytes()), None, "{wrong:?}");
        }
    }
}
