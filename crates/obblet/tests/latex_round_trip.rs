//! LaTeX goes through the other formats and comes back the same, on documents that hold everything the
//! reader knows: `corpus/latex`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use obblet::compare::{CompareOptions, compare};
use obblet::document::Document;
use obblet::{Format, ReadOptions, WriteOptions, read, write};
use std::path::PathBuf;

/// All documents, by name.
fn corpus() -> Vec<(String, String)> {
    let folder = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("tests/corpus/latex");
    let mut documents: Vec<(String, String)> = std::fs::read_dir(folder)
        .unwrap()
        .map(|entry| entry.unwrap().path())
        .filter(|path| path.extension().is_some_and(|extension| extension == "tex"))
        .map(|path| {
            let name = path.file_stem().unwrap().to_string_lossy().into_owned();
            (name, std::fs::read_to_string(&path).unwrap())
        })
        .collect();
    documents.sort();
    assert!(documents.len() >= 30, "{} documents", documents.len());
    documents
}

fn read_as(bytes: &[u8], format: Format) -> Document {
    read(bytes, format, &ReadOptions::default()).unwrap().document
}

fn written(document: &Document, format: Format) -> Vec<u8> {
    let mut options = WriteOptions::format(format);
    // A picture's folder is beside the page in both.
    options.picture_folder = Some("media".into());
    write(document, &options).unwrap().bytes
}

/// What is different after a trip, and whether a second trip changes anything.
fn trip(document: &Document, through: Format) -> Vec<String> {
    let there = written(document, through);
    let back = written(&read_as(&there, through), Format::Latex);
    let returned = read_as(&back, Format::Latex);
    let found = compare(document, &returned, &CompareOptions::default());
    let mut faults: Vec<String> =
        found.differences.iter().map(|d| format!("{} {}: {}", d.kind, d.change, d.what)).collect();
    let again = written(&read_as(&written(&returned, through), through), Format::Latex);
    if again != back {
        let (first, second) = (String::from_utf8_lossy(&back), String::from_utf8_lossy(&again));
        let line = first.lines().zip(second.lines()).find(|(one, two)| one != two);
        faults.push(format!("a second trip changes {line:?}"));
    }
    faults
}

fn check(through: Format, is_unsayable: impl Fn(&str, &str) -> bool) {
    let mut faults = Vec::new();
    for (name, source) in corpus() {
        let document = read_as(source.as_bytes(), Format::Latex);
        let found = trip(&document, through);
        let found = found.into_iter().filter(|fault| !is_unsayable(&name, fault));
        faults.extend(found.map(|fault| format!("{name}: {fault}")));
    }
    assert!(faults.is_empty(), "{} faults\n{}", faults.len(), faults.join("\n"));
}

#[test]
fn latex_comes_back_from_itself() {
    check(Format::Latex, |_, _| false);
}

#[test]
fn latex_comes_back_from_html() {
    // A page has no pages.
    check(Format::Html, |_, fault| {
        fault.contains("page break")
            || fault.starts_with("metadata extra: the title")
            // They are looks, and no element of HTML.
            || fault.starts_with("emphasis missing: small capitals")
    });
}

#[test]
fn latex_comes_back_from_word() {
    check(Format::Word, |name, fault| match name {
        // Word keeps the words of citations and of the list of works, not what they are.
        "bibliography" | "natbib" => true,
        // A drawing is code, and its class has no place.
        "drawings" => true,
        // Where some headings have numbers and some have none, the numbers are words.
        "chapters" | "sections" => fault.contains("heading") || fault.contains("the title"),
        // A formula of several lines has its numbers as tags, and does not count.
        "formulas" => fault.contains("number “7”") || fault.contains("second trip"),
        // Sizes are rounded, and one picture has one bookmark.
        "figures" | "subfigures" => fault.contains("second trip"),
        _ => false,
    });
}
