//! The comparison on the cases in `fixtures/compare.txt`, on documents against themselves, and on
//! large ones.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

mod examples;
mod fixture;
mod generated;

use obblet::compare::{Change, CompareOptions, Comparison, Kind, compare};
use obblet::document::Document;
use obblet::formats::markdown::{MarkdownReadOptions, read};
use proptest::prelude::*;
use std::fmt::Write as _;

fn document(text: &str) -> Document {
    read(text, &MarkdownReadOptions::default()).0
}

fn told(found: &Comparison) -> String {
    let mut out = String::new();
    for difference in &found.differences {
        let lines = [difference.left_position, difference.right_position];
        let lines: Vec<String> =
            lines.iter().map(|at| at.map_or("-".into(), |at| at.line.to_string())).collect();
        let (kind, change) = (difference.kind, difference.change);
        writeln!(out, "{} {kind} {change}: {}", lines.join("|"), difference.what).unwrap();
    }
    out
}

#[test]
fn cases_differ_as_they_say() {
    fixture::check("compare.txt", |case| {
        let (left, right) = (case.part("left"), case.part("right"));
        let ignore = case.part("ignore").split_whitespace().filter_map(Kind::of_name).collect();
        let mut found = compare(&document(left), &document(right), &CompareOptions { ignore });
        let map = |text: &str| obblet::document::SourceMap::Text(text.into());
        found.locate(&map(left), &map(right));
        let mut parts = vec![("differences", told(&found))];
        if case.has("counts") {
            let line = |count: &obblet::compare::Count| {
                let numbers = [
                    count.left,
                    count.right,
                    count.kept,
                    count.changed,
                    count.moved,
                    count.missing,
                    count.extra,
                ];
                format!("{} {}", count.kind, numbers.map(|n| n.to_string()).join(" "))
            };
            parts.push(("counts", found.counts.iter().map(line).collect::<Vec<_>>().join("\n")));
        }
        parts
    });
}

#[test]
fn specification_examples_do_not_differ_from_themselves() {
    for (name, text) in examples::of_specifications().into_iter().chain(examples::of_demo()) {
        let document = document(&text);
        let found = compare(&document, &document, &CompareOptions::default());
        assert!(found.is_same(), "{name}: {}", told(&found));
    }
    let thread = std::thread::Builder::new().stack_size(256 << 20).spawn(|| {
        let run = generated::runner(100).run(&generated::document(), |document| {
            let found = compare(&document, &document, &CompareOptions::default());
            prop_assert!(found.is_same(), "{}", told(&found));
            for count in &found.counts {
                prop_assert_eq!(count.kept, count.left);
            }
            Ok(())
        });
        assert!(run.is_ok(), "{run:?}");
    });
    thread.unwrap().join().unwrap();
}

/// 10,000 blocks, of which every hundredth changed, every thousandth moved to the end, and every
/// other thousandth is missing.
#[test]
fn large_documents_are_told_exactly() {
    let paragraph = |n: usize, word: &str| {
        format!("Entry {n}: the miller {word} gate {} and wrote {}.\n\n", n % 7, n * 31 % 1009)
    };
    let (mut left, mut right, mut moved) = (String::new(), String::new(), String::new());
    for n in 0..10_000 {
        left.push_str(&paragraph(n, "opened"));
        match n % 1000 {
            500 => moved.push_str(&paragraph(n, "opened")),
            700 => {}
            _ if n % 100 == 50 => right.push_str(&paragraph(n, "closed")),
            _ => right.push_str(&paragraph(n, "opened")),
        }
    }
    let found = compare(&document(&left), &document(&(right + &moved)), &CompareOptions::default());
    let count = |change: Change| found.differences.iter().filter(|d| d.change == change).count();
    assert_eq!((count(Change::Changed), count(Change::Moved)), (100, 10), "{}", told(&found));
    assert_eq!((count(Change::Missing), count(Change::Extra)), (10, 0));
}

/// Documents that share nothing must not cost the square of their size.
#[test]
fn documents_that_share_nothing_end_in_time() {
    let text = |word: &str| {
        (0..10_000).map(|n| format!("{word}{n} {word} {n}{word}\n\n")).collect::<String>()
    };
    let found =
        compare(&document(&text("ebb")), &document(&text("flood")), &CompareOptions::default());
    assert_eq!(found.differences.len(), 20_000);
}
