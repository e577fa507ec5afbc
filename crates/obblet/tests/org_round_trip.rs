//! Org goes through the other formats and comes back the same, on documents that hold everything the
//! reader knows: `corpus/org`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod beside;
mod round_trip;

use beside::Folder;
use obblet::document::Document;
use obblet::{Converter, Format, ReadOptions, WriteOptions, write};

/// The works that the documents cite.
fn works() -> Folder {
    Folder::of([(
        "works.bib",
        "@book{marrow1893, author={Marrow, E.}, title={Tides}, year=1893}\n\
         @book{leat1921, author={Leat, B.}, title={Wheels}, year=1921}\n\
         @book{weir2001, author={Weir, A.}, title={Gates}, year=2001}",
    )])
}

fn read_as(bytes: &[u8], format: Format, keeps_hidden: bool) -> Document {
    let mut options = ReadOptions::default().with_nodes_for_html();
    options.org.keeps_hidden = keeps_hidden;
    Converter::default()
        .from(format)
        .resolver(&works())
        .read_as_it_is(bytes, &options)
        .unwrap()
        .document
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
    let again = read_as(&written(&returned, through), through, is_kept);
    round_trip::faults(&document, &returned, &back, &written(&again, Format::Org))
}

fn check(through: Format, is_unsayable: impl Fn(&str, &str) -> bool) {
    let mut documents = round_trip::corpus("org", "org", 20);
    documents.extend(round_trip::corpus("org", "../../../obblet-cli/demo/work", 1));
    round_trip::check(documents, |source| trip(source, through), is_unsayable);
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
        "restoration-log" => fault.contains("heading") || fault.contains("partly done"),
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
        "restoration-log" => fault.contains("heading") || fault.contains("partly done"),
        // An author has no address.
        "settings" => fault.contains("the authors"),
        _ => false,
    });
}
