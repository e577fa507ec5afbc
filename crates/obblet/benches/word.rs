//! A long Word file to an HTML body, against unpacking it and reading the XML of its parts event by
//! event, with nothing done about them.
//!
//! The result is checked before anything is timed.
//!
//! ```text
//! cargo bench -p obblet --bench word
//! ```

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a bench fails by panicking")]

#[path = "../tests/package/mod.rs"]
mod package;
mod ratio;
#[path = "../tests/word_corpus/mod.rs"]
mod word_corpus;

use obblet::{Format, WriteOptions, convert};
use quick_xml::Reader;
use quick_xml::events::Event;
use std::io::{Cursor, Read as _};
use zip::ZipArchive;

/// Bytes of the main part.
const MAIN_PART: usize = 20 << 20;

fn main() {
    let (size, rounds) = ratio::workload(MAIN_PART);
    let main = word_corpus::main_part(size);
    let file = word_corpus::word_file(&main);
    let html = converted(&file);
    let count = |wanted: &str| html.matches(wanted).count();
    let chapters = main.matches("Heading1").count();
    assert_eq!(
        (count("<h1"), count("<table>"), count("<td>")),
        (chapters, chapters, chapters * 12)
    );
    let ours = || converted(&file).len();
    let reference = || events(&file);
    println!("main part {} bytes, file {}, {rounds} rounds", main.len(), file.len());
    ratio::report("Word to HTML", "unpacking and XML events", main.len(), rounds, ours, reference);
}

fn converted(file: &[u8]) -> String {
    let options = WriteOptions::house("body").expect("a built-in house");
    let written = convert(file, Format::Word, &options).expect("a Word file");
    String::from_utf8(written.bytes).expect("HTML is text")
}

fn events(file: &[u8]) -> usize {
    let mut archive = ZipArchive::new(Cursor::new(file)).expect("a ZIP archive");
    let mut count = 0;
    for at in 0..archive.len() {
        let mut text = String::new();
        let mut part = archive.by_index(at).expect("a part");
        part.read_to_string(&mut text).expect("text");
        let mut reader = Reader::from_str(&text);
        while !matches!(reader.read_event().expect("XML"), Event::Eof) {
            count += 1;
        }
    }
    count
}
