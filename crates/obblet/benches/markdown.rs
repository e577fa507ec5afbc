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

use corpus::corpus;
use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, QualName, local_name, ns, parse_fragment};
use markup5ever_rcdom::RcDom;
use obblet::{Format, WriteOptions, convert};
use std::hint::black_box;
use std::time::{Duration, Instant};

/// Bytes of Markdown.
const CORPUS: usize = 10 << 20;

/// Pairs of runs; an odd number, so that there is a median.
const ROUNDS: usize = 7;

fn main() {
    // `cargo test --benches` only wants to know that it builds and works.
    let (size, rounds) =
        if std::env::args().any(|a| a == "--bench") { (CORPUS, ROUNDS) } else { (1 << 16, 1) };
    let corpus = corpus(size);
    let html = converted(&corpus);
    assert_eq!(html.matches("<h1 ").count(), corpus.matches("\n# ").count(), "headings");
    assert_eq!(html.matches("<tr>").count(), table_rows(&corpus), "table rows");

    let (mut ours, mut reference) = (Vec::new(), Vec::new());
    for _ in 0..rounds {
        ours.push(timed(|| converted(black_box(&corpus)).len()));
        reference.push(timed(|| parsed(black_box(&html))));
    }
    let mut ratios: Vec<f64> =
        ours.iter().zip(&reference).map(|(a, b)| a.as_secs_f64() / b.as_secs_f64()).collect();
    ratios.sort_by(f64::total_cmp);
    let speed = |time: Duration| size as f64 / time.as_secs_f64() / 1e6;
    ours.sort();
    reference.sort();
    println!("corpus {} bytes, HTML {} bytes, {rounds} rounds", corpus.len(), html.len());
    println!("Markdown to HTML body    {:6.1} MB/s of Markdown", speed(ours[rounds / 2]));
    println!("html5ever into RcDom     {:6.1} MB/s of Markdown", speed(reference[rounds / 2]));
    println!(
        "ratio {:.2} (least {:.2}, greatest {:.2})",
        ratios[rounds / 2],
        ratios[0],
        ratios[rounds - 1]
    );
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

fn timed<T>(work: impl FnOnce() -> T) -> Duration {
    let begun = Instant::now();
    black_box(work());
    begun.elapsed()
}

/// Rows of all tables: lines with a pipe first, without the delimiter rows.
fn table_rows(corpus: &str) -> usize {
    let rows = corpus.lines().filter(|line| line.starts_with('|'));
    rows.filter(|line| !line.contains("--")).count()
}
