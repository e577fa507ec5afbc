//! The plain text reader on the cases in `fixtures/text_reader.txt`, on what the plain text writer
//! writes, and on anything.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

mod fixture;

use obblet::document::{Document, plain_text};
use obblet::formats::text::{TextReadOptions, TextWriteOptions, read, write};
use obblet::house::House;
use obblet::{Format, WriteOptions};
use proptest::prelude::*;

fn as_markdown(document: &Document) -> String {
    let written = obblet::write(document, &WriteOptions::format(Format::Markdown)).unwrap();
    written.text().to_owned()
}

#[test]
fn texts_are_read_as_what_they_look_like() {
    fixture::check("text_reader.txt", |case| {
        let source = case.part("text").to_owned() + "\n";
        let house = House::from_toml(case.part("house")).unwrap();
        let (document, findings) = read(&source, &house.read_options().text);
        let took: Vec<String> = findings
            .iter()
            .map(|finding| format!("{} × {}", finding.count, finding.subject.as_deref().unwrap()))
            .collect();
        vec![("read", as_markdown(&document)), ("took", took.join("\n"))]
    });
}

/// What the writer writes is read so that it is written in the same way again.
#[test]
fn what_is_written_is_read_and_written_again() {
    let source = "# The mill\n\nThe sea fills the *pond* at flood; at ebb the gates close, and the \
        water that wants to go home must turn the wheel.\n\n## Gates\n\n- north\n- south\n\n  with \
        two leaves\n\n1. open\n2. close\n\n> Mind your head.\n\n| Gate | Water |\n| --- | --- |\n\
        | north | 4.31 |\n\n***\n\nThe end of it.\n";
    let (document, _) = obblet::formats::markdown::read(source, &Default::default());
    let (text, _) = write(&document, &TextWriteOptions::default()).unwrap();
    let (again, _) = read(&text, &TextReadOptions::default());
    let (second, _) = write(&again, &TextWriteOptions::default()).unwrap();
    assert_eq!(second, text);
}

proptest! {
    /// No word of a text is lost, whatever it looks like.
    #[test]
    fn no_word_is_lost(text in "([a-z]{2,6}|CHAPTER ONE|[-*>|#_.] ?|\n\n|\n| {1,6}|[0-9]\\. |====|---- ---|: ){0,60}") {
        let (document, _) = read(&text, &TextReadOptions::default());
        let shown = as_markdown(&document);
        for word in text.split(|c: char| !c.is_ascii_lowercase()).filter(|word| word.len() > 1) {
            prop_assert!(shown.contains(word), "{word} of {text:?} is not in {shown:?}");
        }
        prop_assert!(!plain_text(&document.metadata.title).contains('\n'));
    }
}
