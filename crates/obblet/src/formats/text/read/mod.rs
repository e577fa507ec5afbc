//! The plain text reader: from how a text looks to what it is.
//!
//! Nothing in a plain text says what it is, so the reader says with findings what it took for what.

mod front;
mod headings;
mod inlines;
mod lines;
mod lists;
mod prose;
mod tables;
mod topics;
#[cfg(test)]
mod work_tests;

use crate::document::{Block, CompactString, Document, Place};
use crate::findings::{Code, Findings};
use crate::work;
use headings::Ladder;
use lines::{Chunk, Shape, chunks, lines};

/// How deep lists and quotations may nest before what is deeper is read as paragraphs.
const DEPTH: usize = 20;

/// What the plain text reader can be told.
#[derive(Debug, Clone, Default)]
pub struct TextReadOptions {
    /// How paragraphs are told apart. Default: as the text looks.
    pub paragraphs: ParagraphForm,
}

/// How the paragraphs of a plain text are told apart.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum ParagraphForm {
    /// As the text looks.
    #[default]
    Guessed,
    /// By blank lines; lines in a paragraph are wrapped.
    BlankLine,
    /// By the indent of their first line.
    Indent,
    /// Each line is one.
    Line,
}

/// Reads a plain text. Any text is one, so this never fails.
///
/// ```
/// use obblet::document::{BlockKind, plain_text};
/// use obblet::formats::text::read;
/// let text = "CHAPTER ONE\n\nThe tide was out, and\nthe mill stood still.\n\n* * *\n\n  It _came_ back.\n";
/// let (document, findings) = read(text, &Default::default());
/// assert!(matches!(&document.blocks[0].kind, BlockKind::Heading(_)));
/// assert!(matches!(&document.blocks[2].kind, BlockKind::ThematicBreak));
/// assert_eq!(findings.iter().count(), 2, "a heading and a break were taken for what they are");
/// ```
#[must_use]
pub fn read(text: &str, options: &TextReadOptions) -> (Document, Findings) {
    let lines = lines(text);
    let mut chunks = chunks(&lines);
    let mut document = Document::default();
    let mut reader = Reader {
        shape: Shape::of(&chunks, options.paragraphs),
        ladder: Ladder::of(&chunks),
        findings: Findings::new(),
        depth: 0,
    };
    reader.front_matter(&mut chunks, &mut document.metadata);
    document.blocks = match reader.topics(&chunks) {
        Some(blocks) => blocks,
        None => {
            reader.title_page(&mut chunks, &mut document.metadata);
            reader.blocks(&chunks)
        }
    };
    (document, reader.findings)
}

/// The state of reading one text.
struct Reader {
    shape: Shape,
    ladder: Ladder,
    findings: Findings,
    depth: usize,
}

impl Reader {
    /// Says what something was taken for; one finding for each kind.
    fn took(&mut self, what: &str, place: Place) {
        self.findings.count(Code::TextTakenFor, what, Some(place));
    }

    /// The blocks of chunks, at the outermost level or inside another.
    fn blocks(&mut self, chunks: &[Chunk<'_>]) -> Vec<Block> {
        let mut blocks = Vec::new();
        let mut at = 0;
        while let Some(chunk) = chunks.get(at).filter(|_| !work::is_over()) {
            let rest = chunks.get(at..).unwrap_or_default();
            work::count(1 + chunk.lines.len());
            let taken = self
                .heading(rest, &mut blocks)
                .or_else(|| self.scene_break(chunk, &mut blocks))
                .or_else(|| self.table(chunk, &mut blocks))
                .or_else(|| self.list(rest, &mut blocks))
                .or_else(|| self.quotation(rest, &mut blocks))
                .or_else(|| self.verse(chunk, &mut blocks));
            at += taken.unwrap_or_else(|| {
                self.paragraphs(chunk, &mut blocks);
                1
            });
        }
        blocks
    }

    /// The blocks inside another, unless that is too deep.
    fn inner(&mut self, chunks: &[Chunk<'_>]) -> Vec<Block> {
        if self.depth >= DEPTH {
            let place = chunks.first().map(Chunk::place);
            self.findings.add(Code::NestingTooDeep, place);
            let mut blocks = Vec::new();
            chunks.iter().for_each(|chunk| self.paragraphs(chunk, &mut blocks));
            return blocks;
        }
        self.depth += 1;
        let blocks = self.blocks(chunks);
        self.depth -= 1;
        blocks
    }
}

/// Words in small letters, one space between them.
fn small(text: &str) -> CompactString {
    text.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase().into()
}
