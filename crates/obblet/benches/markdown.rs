//! Markdown to an HTML body, against html5ever parsing that same HTML into `RcDom`.
//!
//! Machines are noisy and differ; the ratio of two pieces of work done in turn in one run does not.
//! The workload: ten megabytes of prose, lists, tables, code, links and raw HTML, the demo's texts with
//! ever other numbers in them. The result is checked before anything is timed.
//!
//! ```text
//! cargo bench -p obblet --bench markdown
//! ```

#![allow(clippy::expect_used, reason = "a bench fails by panicking")]

#[path = "../tests/corpus/mod.rs"]
mod corpus;
mod ratio;

use corpus::corpus;
use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, QualName, local_name, ns, parse_fragment};
use markup5ever_rcdom::RcDom;
use obblet::{Format, WriteOptions, convert};

/// Bytes of Markdown.
const CORPUS: usize = 10 << 20;

fn main() {
    let (size, rounds) = ratio::workload(CORPUS);
    let corpus = corpus(size);
    let html = converted(&corpus);
    assert_eq!(html.matches("<h1 ").count(), corpus.matches("\n# ").count(), "headings");
    assert_eq!(html.matches("<tr>").count(), table_rows(&corpus), "table rows");

    println!("corpus {} bytes, HTML {} bytes, {rounds} rounds", corpus.len(), html.len());
    let ours = || converted(&corpus).len();
    let reference = || parsed(&html);
    ratio::report("Markdown to HTML body", "html5ever into RcDom", size, rounds, ours, reference);
}

fn converted(markdown: &str) -> String {
    let options = WriteOptions::house("body").expect("a built-in house");
    let written =
        convert(markdown.as_bytes(), Format::Markdown, &options).expect("any text is Markdown");
    written.text().to_string()
}

fn parsed(html: &str) -> usize {
    let context = QualName::new(None, ns!(html), local_name!("body"));
    let sink = RcDom::default();
    let dom = parse_fragment(sink, ParseOpts::default(), context, Vec::new(), false).one(html);
    dom.document.children.borrow().len()
}

/// Rows of all tables: lines with a pipe first, without the delimiter rows.
fn table_rows(corpus: &str) -> usize {
    let rows = corpus.lines().filter(|line| line.starts_with('|'));
    rows.filter(|line| !line.contains("--")).count()
}
