//! Documents that no reader would make, in every format: no panic, no hang, and what is written can be read.
//!
//! The bytes are instructions: each opens, closes or adds something.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::document::build::{
    bullets, code, code_block, emphasis, hard_break, heading, link, numbered, paragraph, picture,
    quotation, soft_break, strong, table,
};
use obblet::document::{Block, Document, Inline};
use obblet::{Format, ReadOptions, WriteOptions, read, write};

const WORDS: [&str; 24] = [
    "weir", " ", "", "*", "_a_", "[x](y)", "<b>", "&amp;", "\\", "$x$", "- ", "1. ", "#", "|", "`",
    "\n", "\u{a0}", "\u{301}", "\u{202e}", "{", "}", "::", "שלום", "https://a.example/?a=b&c",
];

struct Maker<'b> {
    bytes: std::slice::Iter<'b, u8>,
}

impl Maker<'_> {
    fn next(&mut self) -> usize {
        self.bytes.next().map_or(0, |byte| usize::from(*byte))
    }

    fn word(&mut self) -> &'static str {
        WORDS[self.next() % WORDS.len()]
    }

    fn inlines(&mut self, depth: usize) -> Vec<Inline> {
        (0..self.next() % 4).map(|_| self.inline(depth)).collect()
    }

    fn inline(&mut self, depth: usize) -> Inline {
        match self.next() % 9 {
            0 if depth < 6 => emphasis(self.inlines(depth + 1)),
            1 if depth < 6 => strong(self.inlines(depth + 1)),
            2 if depth < 6 => link(self.word(), self.inlines(depth + 1)),
            3 => code(self.word()),
            4 => picture(self.word(), self.inlines(6)),
            5 => soft_break(),
            6 => hard_break(),
            _ => self.word().into(),
        }
    }

    fn blocks(&mut self, depth: usize) -> Vec<Block> {
        (0..self.next() % 4).map(|_| self.block(depth)).collect()
    }

    fn block(&mut self, depth: usize) -> Block {
        match self.next() % 8 {
            0 => heading((self.next() % 8) as u8, self.inlines(0)),
            1 if depth < 6 => quotation(self.blocks(depth + 1)),
            2 if depth < 6 => {
                bullets((0..self.next() % 4).map(|_| self.blocks(depth + 1)).collect())
            }
            3 if depth < 6 => {
                let start = self.next() as i32 - 100;
                numbered(start, (0..self.next() % 4).map(|_| self.blocks(depth + 1)).collect())
            }
            4 => code_block(self.word(), self.word()),
            5 => {
                let head = [self.word(), self.word()];
                let body = [self.word(), self.word(), self.word()];
                table(&head[..self.next() % 3], &[&body[..self.next() % 4], &body[..1]])
            }
            _ => paragraph(self.inlines(0)),
        }
    }
}

fuzz_target!(|bytes: &[u8]| {
    let mut maker = Maker { bytes: bytes.iter() };
    let mut blocks = Vec::new();
    while maker.bytes.len() > 0 {
        blocks.push(maker.block(0));
    }
    let document = Document::of(blocks);
    let formats =
        [Format::Html, Format::Markdown, Format::Word, Format::Latex, Format::Org, Format::Text];
    for format in formats {
        let written = write(&document, &WriteOptions::format(format)).expect("it is not deep");
        read(&written.bytes, format, &ReadOptions::default()).expect("what is written can be read");
    }
});
