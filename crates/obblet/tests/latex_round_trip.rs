//! LaTeX goes through the other formats and comes back the same, on documents that hold everything the
//! reader knows: `corpus/latex`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod round_trip;

use obblet::document::Document;
use obblet::{Format, ReadOptions, WriteOptions, read, write};

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
fn trip(source: &str, through: Format) -> Vec<String> {
    let document = read_as(source.as_bytes(), Format::Latex);
    let there = written(&document, through);
    let back = written(&read_as(&there, through), Format::Latex);
    let returned = read_as(&back, Format::Latex);
    let again = written(&read_as(&written(&returned, through), through), Format::Latex);
    round_trip::faults(&document, &returned, &back, &again)
}

fn check(through: Format, is_unsayable: impl Fn(&str, &str) -> bool) {
    let documents = round_trip::corpus("tex", "latex", 30);
    round_trip::check(documents, |source| trip(source, through), is_unsayable);
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
