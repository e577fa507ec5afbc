//! A document of 10,000 paragraphs with lists and tables as a Word file, against deflating the same parts.
//!
//! The result is checked before anything is timed: it reads back with all its paragraphs.
//!
//! ```text
//! cargo bench -p obblet --bench word_write
//! ```

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a bench fails by panicking")]

#[path = "../tests/package/mod.rs"]
mod package;
mod ratio;
#[path = "../tests/word_corpus/mod.rs"]
mod word_corpus;

use obblet::document::Document;
use obblet::formats::word;
use std::io::{Cursor, Read as _};
use zip::ZipArchive;

const PARAGRAPHS: usize = 10_000;

fn main() {
    let (size, rounds) = ratio::workload(PARAGRAPHS);
    let document = corpus(size.min(PARAGRAPHS));
    let file = written(&document);
    let parts = parts_of(&file);
    let bytes = parts.iter().map(|(_, bytes)| bytes.len()).sum();
    let read = word::read(&file, &Default::default()).expect("a Word file").document;
    assert_eq!(paragraphs(&read), paragraphs(&document));
    let parts: Vec<(&str, Vec<u8>)> =
        parts.iter().map(|(name, bytes)| (name.as_str(), bytes.clone())).collect();
    println!("parts {bytes} bytes, file {}, {rounds} rounds", file.len());
    let ours = || written(&document).len();
    let reference = || package::package(&parts).len();
    ratio::report("Document to Word", "deflating the same parts", bytes, rounds, ours, reference);
}

/// Chapters as word processors write them, with at least so many paragraphs.
fn corpus(least: usize) -> Document {
    let mut bytes = 4 << 20;
    loop {
        let file = word_corpus::word_file(&word_corpus::main_part(bytes));
        let document = word::read(&file, &Default::default()).expect("a Word file").document;
        if paragraphs(&document) >= least {
            return document;
        }
        bytes *= 2;
    }
}

/// Paragraphs, those of items and cells too.
fn paragraphs(document: &Document) -> usize {
    use obblet::document::{BlockKind, Node, Visit, walk};
    let is_paragraph = |visit: &Visit<'_>| matches!(visit, Visit::Enter(Node::Block(block)) if matches!(block.kind, BlockKind::Paragraph(_)));
    walk(&document.blocks).filter(is_paragraph).count()
}

fn written(document: &Document) -> Vec<u8> {
    word::write(document, &Default::default()).expect("a document that is not too deep").0
}

fn parts_of(file: &[u8]) -> Vec<(String, Vec<u8>)> {
    let mut archive = ZipArchive::new(Cursor::new(file)).expect("a ZIP archive");
    let mut parts = Vec::new();
    for at in 0..archive.len() {
        let mut part = archive.by_index(at).expect("a part");
        let mut bytes = Vec::new();
        part.read_to_end(&mut bytes).expect("a whole part");
        parts.push((part.name().expect("a name").into_owned(), bytes));
    }
    parts
}
