//! Plain text on the cases in `fixtures/text.txt`, and what holds for any document.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;
mod generated;

use obblet::document::{Block, BlockKind, Document, Node, Visit, walk};
use obblet::formats::text::{TextWriteOptions, write};
use obblet::{Format, House, WriteOptions, convert};
use proptest::prelude::*;
use std::cell::Cell;
use unicode_width::UnicodeWidthStr as _;

#[test]
fn cases_are_written_as_they_say() {
    fixture::check("text.txt", |case| {
        let mut house = House::built_in("text").unwrap();
        for setting in case.part("set").lines() {
            let (key, value) = setting.split_once('=').unwrap();
            house.set(key, value).unwrap();
        }
        let from = if case.has("page") { Format::Html } else { Format::Markdown };
        let source = if case.has("page") { case.part("page") } else { case.part("source") };
        let options = WriteOptions { house, ..WriteOptions::format(Format::Text) };
        let written = convert(source.as_bytes(), from, &options).unwrap();
        let lines: Vec<String> = written.findings.iter().map(|found| found.line("s")).collect();
        vec![("text", written.text().to_string()), ("findings", lines.join("\n"))]
    });
}

/// Whether anything in a block has lines of its own, or a least width.
fn keeps_lines(block: &Block) -> bool {
    use BlockKind::{Code, Formula, Heading, Table, Verse};
    walk(std::slice::from_ref(block)).any(|visit| {
        let Visit::Enter(Node::Block(block)) = visit else { return false };
        matches!(block.kind, Code(_) | Formula(_) | Heading(_) | Table(_) | Verse(_))
    })
}

/// No line is wider than asked but for words that are, no line ends in a space, and no two empty
/// lines stand together, whatever the document.
#[test]
fn lines_keep_to_their_width() {
    let thread = std::thread::Builder::new().stack_size(256 << 20).spawn(|| {
        let checked = Cell::new(0);
        let options = TextWriteOptions { wrap: Some(40), ..TextWriteOptions::default() };
        let run = generated::runner(120).run(&generated::document(), |document| {
            let (text, _) = write(&document, &options).unwrap();
            for line in text.lines() {
                prop_assert!(!line.ends_with(' '), "{line:?}");
            }
            for block in document.blocks.into_iter().filter(|block| !keeps_lines(block)) {
                let (text, _) = write(&Document::of(vec![block]), &options).unwrap();
                for line in text.lines() {
                    let words = line.trim_start_matches([' ', '>', '-']);
                    let is_long_word = !words.contains(' ');
                    prop_assert!(words.width() <= 40 || is_long_word, "{line:?}\n{text}");
                    checked.set(checked.get() + 1);
                }
            }
            Ok(())
        });
        run.unwrap();
        assert!(checked.get() > 100, "{}", checked.get());
    });
    thread.unwrap().join().unwrap();
}

/// A table of many columns and many short rows is not drawn: the text stays in proportion.
#[test]
fn very_wide_tables_are_not_drawn() {
    let wide = format!("<tr>{}", "<td>w".repeat(5000));
    let page = format!("<table>{wide}{}</table>", "<tr><td>x".repeat(5000));
    let options = WriteOptions::format(Format::Text);
    let written = convert(page.as_bytes(), Format::Html, &options).unwrap();
    assert!(written.text().len() < page.len(), "{} bytes", written.text().len());
    assert_eq!(written.text().matches('w').count(), 5000);
    assert_eq!(written.text().lines().filter(|line| *line == "x").count(), 5000);
    assert!(written.findings.iter().any(|found| found.message().contains("very wide table")));
}
