//! Paragraphs, verse, quotations and changes of scene.

use super::inlines::inlines;
use super::lines::{Chunk, Line, chunks};
use super::{ParagraphForm, Reader};
use crate::document::{Block, BlockKind, Inline, LineBreak, Place};

/// The longest line of verse, in columns.
const VERSE: usize = 50;

impl Reader {
    /// The paragraphs of a chunk.
    pub(super) fn paragraphs(&mut self, chunk: &Chunk<'_>, blocks: &mut Vec<Block>) {
        let base = chunk.lines.iter().skip(1).map(|line| line.indent).min().unwrap_or(0);
        let mut open: Vec<Line<'_>> = Vec::new();
        for line in &chunk.lines {
            let begins = match self.shape.paragraphs {
                ParagraphForm::Line => true,
                ParagraphForm::Indent => line.indent >= base + 2,
                ParagraphForm::BlankLine | ParagraphForm::Guessed => false,
            };
            if begins && !open.is_empty() {
                blocks.push(paragraph(&open));
                open.clear();
            }
            open.push(*line);
        }
        if !open.is_empty() {
            blocks.push(paragraph(&open));
        }
    }

    /// A line of nothing but marks.
    pub(super) fn scene_break(
        &mut self,
        chunk: &Chunk<'_>,
        blocks: &mut Vec<Block>,
    ) -> Option<usize> {
        let text = chunk.only()?.text;
        let marks: Vec<char> = text.chars().filter(|c| !c.is_whitespace()).collect();
        let first = *marks.first()?;
        let is_all_one = marks.iter().all(|mark| *mark == first);
        let is_break = match first {
            '#' | '⁂' | '§' | '❦' | '~' => is_all_one && marks.len() <= 5,
            '*' | '-' | '_' | '=' | '·' | '•' | '—' | '–' | '.' => {
                is_all_one && marks.len() >= 3
            }
            _ => false,
        };
        if !is_break {
            return None;
        }
        self.took("changes of scene", chunk.place());
        blocks.push(Block::new(BlockKind::ThematicBreak).at(chunk.place()));
        Some(1)
    }

    /// Lines behind `>`, or a chunk that stands in as a whole.
    pub(super) fn quotation(
        &mut self,
        rest: &[Chunk<'_>],
        blocks: &mut Vec<Block>,
    ) -> Option<usize> {
        let chunk = rest.first()?;
        let is_marked =
            |chunk: &&Chunk<'_>| chunk.lines.iter().all(|line| line.text.starts_with('>'));
        let marked = rest.iter().take_while(is_marked).count();
        if marked > 0 {
            let taken = rest.get(..marked).unwrap_or_default();
            let mut inner: Vec<Line<'_>> = Vec::new();
            for chunk in taken {
                // Blank lines part what stands in two chunks.
                inner.extend(chunk.lines.first().map(|line| Line { text: "", ..*line }));
                inner.extend(chunk.lines.iter().map(|line| Line { indent: 0, ..line.behind(1) }));
            }
            return Some(self.push_quotation(&chunks(&inner), marked, chunk.place(), blocks));
        }
        let stands_in = |chunk: &Chunk<'_>| {
            let indent = chunk.indent();
            indent >= 4 && chunk.lines.iter().all(|line| line.indent - indent <= 4)
        };
        let is_centred = chunk.only().is_some_and(|line| line.indent > 12);
        if self.depth > 0
            || self.shape.paragraphs == ParagraphForm::Line
            || !stands_in(chunk)
            || is_centred
        {
            return None;
        }
        // In a text whose paragraphs begin with an indent one line is only that.
        if self.shape.paragraphs == ParagraphForm::Indent && chunk.lines.len() == 1 {
            return None;
        }
        let count = rest.iter().take_while(|chunk| stands_in(chunk)).count();
        let base = rest.iter().take(count).map(Chunk::indent).min().unwrap_or(0);
        let inner: Vec<Chunk<'_>> = rest
            .iter()
            .take(count)
            .map(|chunk| Chunk {
                lines: chunk
                    .lines
                    .iter()
                    .map(|line| Line { indent: line.indent - base, ..*line })
                    .collect(),
                blanks: chunk.blanks,
            })
            .collect();
        Some(self.push_quotation(&inner, count, chunk.place(), blocks))
    }

    fn push_quotation(
        &mut self,
        inner: &[Chunk<'_>],
        taken: usize,
        place: Place,
        blocks: &mut Vec<Block>,
    ) -> usize {
        self.took("quotations", place);
        let content = self.inner(inner);
        blocks.push(Block::new(BlockKind::Quotation(content)).at(place));
        taken
    }

    /// Short lines, most of which begin with a capital.
    pub(super) fn verse(&mut self, chunk: &Chunk<'_>, blocks: &mut Vec<Block>) -> Option<usize> {
        let lines = &chunk.lines;
        let is_short = |line: &Line<'_>| line.text.chars().count() <= VERSE;
        let is_wrapped_here = self.shape.width < VERSE + 10;
        if lines.len() < 2 || !lines.iter().all(is_short) || is_wrapped_here {
            return None;
        }
        let base = chunk.indent();
        let begins = |line: &&Line<'_>| {
            line.text.starts_with(|c: char| c.is_uppercase() || matches!(c, '“' | '‘' | '"'))
        };
        let ends = |line: &&Line<'_>| line.text.ends_with([',', '.', ';', ':', '!', '?', '—', '”']);
        let capitals = lines.iter().filter(begins).count();
        let stops = lines.iter().filter(ends).count();
        if capitals * 3 < lines.len() * 2 || stops * 3 < lines.len() {
            return None;
        }
        let content = lines
            .iter()
            .map(|line| {
                let mut content = inlines(line.text);
                let deeper = line.indent - base;
                if deeper > 0 {
                    content.insert(0, Inline::Text("\u{a0}".repeat(deeper).into()));
                }
                content
            })
            .collect();
        // Stanzas that follow each other are one poem.
        if let Some(Block { kind: BlockKind::Verse(before), place, .. }) = blocks.last_mut() {
            before.push(Vec::new());
            let more: Vec<Vec<Inline>> = content;
            before.extend(more);
            place.end = chunk.place().end;
            return Some(1);
        }
        self.took("verse", chunk.place());
        blocks.push(Block::new(BlockKind::Verse(content)).at(chunk.place()));
        Some(1)
    }
}

/// A paragraph of wrapped lines. A word that was parted at the end of a line stays so: its hyphen
/// may be its own.
fn paragraph(lines: &[Line<'_>]) -> Block {
    let mut content = Vec::new();
    let start = lines.first().map_or(0, |line| line.start);
    let end = lines.last().map_or(start, Line::end);
    let mut text = String::new();
    for (at, line) in lines.iter().enumerate() {
        if at > 0 {
            text.push('\n');
        }
        text.push_str(line.text);
    }
    for inline in inlines(&text) {
        content.push(inline);
    }
    Block::new(BlockKind::Paragraph(content)).at(Place::new(start, end))
}

/// The texts of a line that holds line endings, with soft breaks for these.
pub(super) fn push_text(content: &mut Vec<Inline>, text: &str) {
    for (at, line) in text.split('\n').enumerate() {
        if at > 0 {
            content.push(Inline::Break(LineBreak::Soft));
        }
        if !line.is_empty() {
            content.push(Inline::Text(line.into()));
        }
    }
}
