//! Org goes through the other formats and comes back the same, on documents that hold everything the
//! reader knows: `corpus/org`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use obblet::compare::{CompareOptions, compare};
use obblet::document::Document;
use obblet::{Format, ReadOptions, Resolver, WriteOptions, read_with, write};
use std::path::PathBuf;

/// The works that the documents cite.
struct Works;

impl Resolver for Works {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        let works = "@book{marrow1893, author={Marrow, E.}, title={Tides}, year=1893}\n\
                     @book{leat1921, author={Leat, B.}, title={Wheels}, year=1921}\n\
                     @book{weir2001, author={Weir, A.}, title={Gates}, year=2001}";
        (address == "works.bib").then(|| works.into())
    }
}

/// All documents, by name.
fn corpus() -> Vec<(String, String)> {
    let folder = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("tests/corpus/org");
    let mut documents: Vec<(String, String)> = std::fs::read_dir(folder)
        .unwrap()
        .map(|entry| entry.unwrap().path())
        .filter(|path| path.extension().is_some_and(|extension| extension == "org"))
        .map(|path| {
            let name = path.file_stem().unwrap().to_string_lossy().into_owned();
            (name, std::fs::read_to_string(&path).unwrap())
        })
        .collect();
    documents.sort();
    assert!(documents.len() >= 20, "{} documents", documents.len());
    documents
}

fn read_as(bytes: &[u8], format: Format, keeps_hidden: bool) -> Document {
    let mut options = ReadOptions::default().with_nodes_for_html();
    options.org.keeps_hidden = keeps_hidden;
    read_with(bytes, format, &options, &Works).unwrap().document
}

fn written(document: &Document, format: Format) -> Vec<u8> {
    let mut options = WriteOptions::format(format);
    // Headings of a page stand below its title; here they keep their levels.
    options.house.set("page.top_heading", "1").unwrap();
    // A picture's folder is beside the page in both.
    options.picture_folder = Some("media".into());
    write(document, &options).unwrap().bytes
}

/// What is different after a trip, and whether a second trip changes anything.
fn trip(source: &str, through: Format) -> Vec<String> {
    let is_kept = through == Format::Org;
    let document = read_as(source.as_bytes(), Format::Org, is_kept);
    let there = written(&document, through);
    let back = written(&read_as(&there, through, is_kept), Format::Org);
    let returned = read_as(&back, Format::Org, is_kept);
    let found = compare(&document, &returned, &CompareOptions::default());
    let mut faults: Vec<String> =
        found.differences.iter().map(|d| format!("{} {}: {}", d.kind, d.change, d.what)).collect();
    let again = written(&read_as(&written(&returned, through), through, is_kept), Format::Org);
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
        let found = trip(&source, through);
        let found = found.into_iter().filter(|fault| !is_unsayable(&name, fault));
        faults.extend(found.map(|fault| format!("{name}: {fault}")));
    }
    assert!(faults.is_empty(), "{} faults\n{}", faults.len(), faults.join("\n"));
}

#[test]
fn org_comes_back_from_itself() {
    check(Format::Org, |_, _| false);
}

#[test]
fn org_comes_back_from_html() {
    check(Format::Html, |_, fault| {
        // A page has no pages, states its language always, and names authors without their addresses.
        fault.contains("page break")
            || fault.starts_with("metadata extra: the language")
            || fault.starts_with("metadata changed: the authors")
            // What only programs read stands on no page, nor does a subtitle.
            || fault.starts_with("metadata missing: other fields")
            || fault.starts_with("metadata missing: the subtitle")
            // A work that nobody refers to is listed without a mark in the text.
            || fault.contains("[weir2001]")
    });
}

#[test]
fn org_comes_back_from_markdown() {
    check(Format::Markdown, |name, fault| match name {
        // Markdown has no citations, no numbers of headings and no tasks in them.
        "citations" => true,
        "numbers" | "paper" | "outline" => fault.contains("heading"),
        // Nor boxes that are ticked in part, nor items that set the number.
        "lists" => fault.contains("number") || fault.contains("partly done"),
        _ => false,
    });
}

#[test]
fn org_comes_back_from_word() {
    check(Format::Word, |name, fault| match name {
        // Word keeps the words of citations and of the list of works, not what they are.
        "citations" => true,
        // The summary of what may be opened has no formats.
        "blocks" => fault.contains("stones"),
        // Lines of a formula are not numbered one by one.
        "formulas" => fault.contains("aligned") || fault.contains("align"),
        "lists" => fault.contains("partly done"),
        // A note has one mark; others are links to it.
        "notes" => fault.contains("gain") || fault.contains("the mark of a note"),
        // States of tasks are words.
        "outline" => fault.contains("heading"),
        // An author has no address.
        "settings" => fault.contains("the authors"),
        _ => false,
    });
}
