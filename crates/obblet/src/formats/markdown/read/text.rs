//! The text of a leaf block, with the way back to the source.

use super::tree::Line;

/// Room for joined texts, used again and again.
#[derive(Debug, Default)]
pub(super) struct Scratch {
    text: String,
    /// Where each line starts in `text`.
    starts: Vec<usize>,
}

/// The lines of a leaf joined by newlines.
#[derive(Debug, Clone, Copy)]
pub(super) struct LeafText<'t> {
    pub(super) text: &'t str,
    lines: &'t [Line],
    /// Where each line starts in the text; empty when the text stands in the source just so.
    starts: &'t [usize],
}

impl<'t> LeafText<'t> {
    /// Joins lines; borrows from the source where they stand there just so.
    pub(super) fn join(source: &'t str, lines: &'t [Line], scratch: &'t mut Scratch) -> Self {
        let (Some(first), Some(last)) = (lines.first(), lines.last()) else {
            return Self { text: "", lines, starts: &[] };
        };
        let together = lines.windows(2).all(|pair| match pair {
            [one, two] => one.end + 1 == two.start,
            _ => true,
        });
        if together {
            let text = source.get(first.start as usize..last.end as usize).unwrap_or_default();
            return Self { text, lines, starts: &[] };
        }
        scratch.text.clear();
        scratch.starts.clear();
        for (index, line) in lines.iter().enumerate() {
            if index > 0 {
                scratch.text.push('\n');
            }
            scratch.starts.push(scratch.text.len());
            scratch.text.push_str(line.text(source));
        }
        Self { text: &scratch.text, lines, starts: &scratch.starts }
    }

    /// A text whose place in the source does not matter.
    pub(super) fn plain(text: &'t str) -> Self {
        Self { text, lines: &[], starts: &[] }
    }

    /// The text of a table cell, which stands in one line.
    pub(super) fn cell(text: &'t str, line: &'t [Line; 1]) -> Self {
        Self { text, lines: line, starts: &[] }
    }

    /// The offset in the source of an offset in the text.
    pub(super) fn in_source(&self, offset: usize) -> usize {
        let line = self.starts.partition_point(|start| *start <= offset).saturating_sub(1);
        let start = self.starts.get(line).copied().unwrap_or_default();
        self.lines.get(line).map_or(0, |line| line.start as usize) + offset - start
    }

    /// How many whole lines stand before an offset in the text.
    pub(super) fn lines_before(&self, offset: usize) -> usize {
        if offset >= self.text.len() && offset > 0 {
            return self.lines.len();
        }
        memchr::memchr_iter(b'\n', self.text.as_bytes().get(..offset).unwrap_or_default()).count()
    }
}
