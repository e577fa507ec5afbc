//! Lines, chunks of them between blank lines, and what the whole text looks like.

use super::ParagraphForm;
use crate::document::Place;
use crate::work;

/// A line without the white space around it.
#[derive(Debug, Clone, Copy)]
pub(super) struct Line<'t> {
    pub(super) text: &'t str,
    /// Columns before it.
    pub(super) indent: usize,
    /// Offset of the first byte of `text` in the source.
    pub(super) start: usize,
}

impl<'t> Line<'t> {
    pub(super) fn end(&self) -> usize {
        self.start + self.text.len()
    }

    /// What stands behind the first so many bytes, as a line of its own.
    pub(super) fn behind(&self, bytes: usize) -> Line<'t> {
        let (before, rest) = self.text.split_at_checked(bytes).unwrap_or((self.text, ""));
        let text = rest.trim_start();
        let skipped = rest.len() - text.len();
        Line {
            text,
            indent: self.indent + before.chars().count() + skipped,
            start: self.start + before.len() + skipped,
        }
    }

    pub(super) fn is_blank(&self) -> bool {
        self.text.is_empty()
    }

    /// Columns up to its end.
    pub(super) fn width(&self) -> usize {
        self.indent + self.text.chars().count()
    }
}

/// Lines without a blank one between them.
#[derive(Debug, Clone)]
pub(super) struct Chunk<'t> {
    pub(super) lines: Vec<Line<'t>>,
    /// How many blank lines stand before it.
    pub(super) blanks: usize,
}

impl<'t> Chunk<'t> {
    pub(super) fn place(&self) -> Place {
        let start = self.lines.first().map_or(0, |line| line.start);
        let end = self.lines.last().map_or(start, Line::end);
        Place::new(start, end)
    }

    /// Its only line.
    pub(super) fn only(&self) -> Option<Line<'t>> {
        match self.lines.as_slice() {
            [line] => Some(*line),
            _ => None,
        }
    }

    /// The least indent of its lines.
    pub(super) fn indent(&self) -> usize {
        self.lines.iter().map(|line| line.indent).min().unwrap_or(0)
    }
}

/// The lines of a text. A tab leads to the next column that eight divides.
pub(super) fn lines(text: &str) -> Vec<Line<'_>> {
    let mut start = 0;
    let mut lines = Vec::new();
    for whole in text.split_inclusive('\n') {
        work::count(1 + whole.len() / 16);
        let line = whole.trim_end();
        let inner = line.trim_start();
        let mut indent = 0;
        for c in line.chars().take_while(|c| c.is_whitespace()) {
            indent = if c == '\t' { (indent / 8 + 1) * 8 } else { indent + 1 };
        }
        lines.push(Line { text: inner, indent, start: start + line.len() - inner.len() });
        start += whole.len();
    }
    lines
}

/// Lines gathered between blank ones.
pub(super) fn chunks<'t>(lines: &[Line<'t>]) -> Vec<Chunk<'t>> {
    let mut chunks: Vec<Chunk<'t>> = Vec::new();
    let mut blanks = 0;
    let mut is_open = false;
    for line in lines {
        if line.is_blank() {
            blanks += 1;
            is_open = false;
            continue;
        }
        match chunks.last_mut().filter(|_| is_open) {
            Some(chunk) => chunk.lines.push(*line),
            None => chunks.push(Chunk { lines: vec![*line], blanks }),
        }
        (blanks, is_open) = (0, true);
    }
    chunks
}

/// What the whole text looks like.
#[derive(Debug, Clone, Copy)]
pub(super) struct Shape {
    pub(super) paragraphs: ParagraphForm,
    /// The column at which lines of running text end.
    pub(super) width: usize,
}

impl Shape {
    pub(super) fn of(chunks: &[Chunk<'_>], wanted: ParagraphForm) -> Self {
        let mut widths: Vec<usize> =
            chunks.iter().flat_map(|chunk| &chunk.lines).map(Line::width).collect();
        widths.sort_unstable();
        // The longest lines may be headings of a table or addresses.
        let width = widths.get(widths.len() * 9 / 10).copied().unwrap_or(0);
        let paragraphs = match wanted {
            ParagraphForm::Guessed => guessed(chunks, width),
            stated => stated,
        };
        Self { paragraphs, width }
    }
}

fn guessed(chunks: &[Chunk<'_>], width: usize) -> ParagraphForm {
    let long: Vec<&Chunk<'_>> = chunks.iter().filter(|chunk| chunk.lines.len() > 1).collect();
    let inner = || long.iter().flat_map(|chunk| chunk.lines.iter().skip(1));
    let all = inner().count();
    if all == 0 {
        return ParagraphForm::BlankLine;
    }
    let indented = inner().filter(|line| (2..=12).contains(&line.indent)).count();
    let flush = inner().filter(|line| line.indent == 0).count();
    // First lines stand in, the others do not, and there is something to tell apart.
    if width > 40 && indented * 12 > all && flush * 2 > all && !begin_lists(inner()) {
        return ParagraphForm::Indent;
    }
    let is_long = inner().filter(|line| line.text.chars().count() > 110).count();
    if is_long * 3 > all { ParagraphForm::Line } else { ParagraphForm::BlankLine }
}

/// Whether indented lines stand in because they are items.
fn begin_lists<'l>(lines: impl Iterator<Item = &'l Line<'l>>) -> bool {
    let indented: Vec<&Line<'_>> = lines.filter(|line| line.indent > 0).collect();
    let items = indented.iter().filter(|line| super::lists::item(line).is_some()).count();
    items * 3 > indented.len()
}
