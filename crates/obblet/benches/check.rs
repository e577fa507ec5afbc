//! Checking a page and checking Markdown, against html5ever parsing the page, or the page that the
//! Markdown makes, into `RcDom`.
//!
//! The workload: five megabytes of the demo's prose, lists, tables, code, links and raw HTML, and the page
//! that they make. What is found is counted before anything is timed.
//!
//! ```text
//! cargo bench -p obblet --bench check
//! ```

#![allow(clippy::expect_used, reason = "a bench fails by panicking")]

#[path = "../tests/corpus/mod.rs"]
mod corpus;
mod ratio;

use corpus::corpus;
use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, parse_document};
use markup5ever_rcdom::RcDom;
use obblet::check::{CheckOptions, check};
use obblet::{Format, WriteOptions, convert};

/// Bytes of Markdown.
const CORPUS: usize = 5 << 20;

fn main() {
    let (size, rounds) = ratio::workload(CORPUS);
    let markdown = corpus(size);
    let written = convert(
        markdown.as_bytes(),
        Format::Markdown,
        &WriteOptions::house("page").expect("a built-in house"),
    );
    let page = written.expect("any text is Markdown").text().to_string();
    let of_page = || found(&page, Format::Html);
    let of_markdown = || found(&markdown, Format::Markdown);
    println!("Markdown {} bytes, {} findings", markdown.len(), of_markdown());
    println!("page {} bytes, {} findings, {rounds} rounds", page.len(), of_page());
    let reference = || parsed(&page);
    let name = "html5ever into RcDom";
    ratio::report("checking the page", name, page.len(), rounds, of_page, reference);
    ratio::report("checking the Markdown", name, markdown.len(), rounds, of_markdown, reference);
}

fn found(source: &str, format: Format) -> usize {
    let checked = check(source.as_bytes(), format, &CheckOptions::default(), &());
    checked.expect("any text can be read").findings.iter().count()
}

fn parsed(page: &str) -> usize {
    let dom = parse_document(RcDom::default(), ParseOpts::default()).one(page);
    dom.document.children.borrow().len()
}
