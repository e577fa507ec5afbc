//! What is written as a Word file reads back as the same document, and a second trip changes no byte.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod examples;
mod fixture;
mod generated;

use obblet::compare::{CompareOptions, compare};
use obblet::document::Document;
use obblet::formats::word;
use obblet::{Format, ReadOptions, read};
use std::io::Read as _;

fn read_markdown(text: &str) -> Document {
    let options = ReadOptions::default().with_nodes_for_html();
    read(text.as_bytes(), Format::Markdown, &options).unwrap().document
}

fn written(document: &Document) -> Vec<u8> {
    word::write(document, &Default::default()).unwrap().0
}

fn read_word(bytes: &[u8]) -> Document {
    word::read(bytes, &Default::default()).unwrap().document
}

/// The text of the main part.
fn main_part(file: &[u8]) -> String {
    let mut archive = zip::ZipArchive::new(std::io::Cursor::new(file)).unwrap();
    let mut text = String::new();
    archive.by_name("word/document.xml").unwrap().read_to_string(&mut text).unwrap();
    text
}

/// Whether a difference is one of what Word has no words for; the writer says so with a finding.
fn is_unsayable(fault: &str) -> bool {
    let has_no_address = fault.ends_with(" to ") || fault.contains("the link “” to");
    let is_nothing =
        ["heading missing: “”", "code missing: “”", "structure missing: what “” stands"];
    is_nothing.iter().any(|known| fault.starts_with(known))
        || fault.starts_with("link missing") && has_no_address
        // An author is a name, a property no list, and a note has no notes.
        || fault.starts_with("metadata changed: the authors")
        || fault.starts_with("metadata changed: other fields")
        || fault.starts_with("note missing: the mark of a note")
        || fault == "paragraph missing: “Nobody asks.”"
        || fault == "paragraph changed: “[note]” became “(Grinds.)”"
        // What most text is in is the language of a document that states none.
        || fault.starts_with("metadata extra: the language")
}

/// What a trip to Word and back changes.
fn faults_of(name: &str, document: &Document) -> Vec<String> {
    let first = written(document);
    let read = read_word(&first);
    let found = compare(document, &read, &CompareOptions::default());
    let mut faults: Vec<String> = found
        .differences
        .iter()
        .map(|found| format!("{} {}: {}", found.kind, found.change, found.what))
        .filter(|fault| !is_unsayable(fault))
        .map(|fault| format!("{name}: {fault}"))
        .collect();
    let second = written(&read);
    let third = written(&read_word(&second));
    if second != third {
        faults.push(format!("{name}: a second trip changes bytes"));
    }
    faults
}

#[test]
fn specification_examples_come_back_from_word() {
    let mut examples = examples::of_specifications();
    examples.extend(examples::of_demo());
    for case in fixture::cases("markdown.txt") {
        examples.push((case.name.clone(), case.part("source").to_string()));
    }
    let faults: Vec<String> =
        examples.iter().flat_map(|(name, text)| faults_of(name, &read_markdown(text))).collect();
    assert!(faults.is_empty(), "{} faults\n{}", faults.len(), faults.join("\n"));
}

/// Whatever a document holds, the file holds up: it reads back without a complaint of its reader, and what
/// is read back is settled.
#[test]
fn generated_documents_are_settled_after_one_trip() {
    // The generator's nested strategies need more room than a test thread has.
    let check = || {
        let run = generated::runner(60).run(&generated::document(), |document| {
            let first = written(&document);
            let reading = word::read(&first, &Default::default()).unwrap();
            // Fields are results from then on, and looks are not asked for.
            // These documents say the same few words again and again, so that nobody can tell their order.
            let is_usual = |code: &str| {
                let usual = ["field-flattened", "looks-not-read", "source-empty", "text-moved"];
                usual.contains(&code)
            };
            let complaints: Vec<String> = reading
                .findings
                .iter()
                .filter(|finding| !is_usual(finding.code.name()))
                .map(|finding| finding.line("w"))
                .collect();
            proptest::prop_assert!(complaints.is_empty(), "{complaints:?}");
            let second = written(&reading.document);
            let third = written(&read_word(&second));
            let (second, third) = (main_part(&second), main_part(&third));
            let at = second.bytes().zip(third.bytes()).take_while(|(one, two)| one == two).count();
            let around = |text: &str| {
                let near = text.bytes().skip(at.saturating_sub(200)).take(400).collect();
                String::from_utf8_lossy(&Vec::<u8>::from_iter::<Vec<u8>>(near)).into_owned()
            };
            proptest::prop_assert!(
                second == third,
                "a second trip changes\n{}\nto\n{}",
                around(&second),
                around(&third)
            );
            Ok(())
        });
        run.unwrap();
    };
    std::thread::Builder::new().stack_size(256 << 20).spawn(check).unwrap().join().unwrap();
}

/// Styles of other names say no more than those of ours: boxes are known by their controls.
#[test]
fn boxes_in_other_styles_are_boxes() {
    let document = read_markdown("::: warning\nLoud.\n:::\n\n::: tip Bring oil\nMuch.\n:::\n");
    let styles = word::StyleNames {
        admonition: "Trust Notice".into(),
        box_title: "Notice Head".into(),
        ..word::StyleNames::default()
    };
    let options = word::WordWriteOptions { styles, ..word::WordWriteOptions::default() };
    let (file, _) = word::write(&document, &options).unwrap();
    let found = compare(&document, &read_word(&file), &CompareOptions::default());
    let differences: Vec<String> = found.differences.iter().map(|d| d.what.clone()).collect();
    assert_eq!(differences, Vec::<String>::new());
    assert!(main_part(&file).contains("TrustNotice"));
}
