//! Org on the cases in `fixtures/org_*.txt`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;
mod tree;

use obblet::document::Document;
use obblet::findings::Findings;
use obblet::{Format, ReadOptions, read};

/// What is read, and what is found, with lines and columns.
fn read_org(source: &str) -> (Document, Findings) {
    let mut reading = read(source.as_bytes(), Format::Org, &ReadOptions::default()).unwrap();
    reading.findings.locate(&reading.map);
    (reading.document, reading.findings)
}

fn lines(findings: &Findings) -> String {
    findings.iter().map(|f| f.line("m.org")).collect::<Vec<_>>().join("\n")
}

/// Everything a document holds.
fn tree_of(document: &Document) -> String {
    let mut text = tree::of(&document.blocks);
    for (number, note) in document.notes.iter().enumerate() {
        text.push_str(&format!("\nnote {number}: {}", tree::of(&note.content)));
    }
    let metadata = tree::of(&document.metadata);
    if !metadata.is_empty() {
        text.push_str(&format!("\nmetadata: {metadata}"));
    }
    text.trim().to_string()
}

#[test]
fn elements_are_read_as_the_table_says() {
    fixture::check("org_elements.txt", |case| {
        let (document, findings) = read_org(case.part("source"));
        vec![("tree", tree_of(&document)), ("findings", lines(&findings))]
    });
}

/// Lines of sources, with what is read from them indented below: `⏎` is a line break.
#[test]
fn objects_are_read_as_the_table_says() {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/fixtures/org_objects.txt");
    let table = std::fs::read_to_string(path).unwrap();
    let mut found = String::new();
    let mut count = 0;
    for line in table.lines() {
        let is_source = !(line.is_empty() || line.starts_with("## ") || line.starts_with("    "));
        if !line.starts_with("    ") {
            found.push_str(&format!("{line}\n"));
        }
        if is_source {
            let (document, findings) = read_org(&line.replace('⏎', "\n"));
            let said = [tree_of(&document), lines(&findings)].join("\n");
            found.extend(said.trim().lines().map(|line| format!("    {line}\n")));
            count += 1;
        }
    }
    assert!(count >= 250, "{count} cases");
    if found != table {
        let beside = concat!(env!("CARGO_TARGET_TMPDIR"), "/org_objects.txt");
        std::fs::write(beside, &found).unwrap();
        let differs = found.lines().zip(table.lines()).find(|(found, wanted)| found != wanted);
        panic!("what was found is in {beside}; first {differs:?}");
    }
}
