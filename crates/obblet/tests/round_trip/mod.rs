//! Documents of the tests that go through another format and come back.

#![allow(dead_code, reason = "each test uses what it needs")]

use obblet::compare::{CompareOptions, compare};
use obblet::document::Document;
use std::path::PathBuf;

/// All documents of a folder in `tests/corpus`, by name; refuses fewer than there should be.
pub(crate) fn corpus(extension: &str, folder: &str, least: usize) -> Vec<(String, String)> {
    let folder = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("tests/corpus").join(folder);
    let mut documents: Vec<(String, String)> = std::fs::read_dir(folder)
        .unwrap()
        .map(|entry| entry.unwrap().path())
        .filter(|path| path.extension().is_some_and(|found| found == extension))
        .map(|path| {
            let name = path.file_stem().unwrap().to_string_lossy().into_owned();
            (name, std::fs::read_to_string(&path).unwrap())
        })
        .collect();
    documents.sort();
    assert!(documents.len() >= least, "{} documents", documents.len());
    documents
}

/// What is different after a trip, and whether a second trip changes anything of what it wrote.
pub(crate) fn faults(
    document: &Document,
    returned: &Document,
    back: &[u8],
    again: &[u8],
) -> Vec<String> {
    let found = compare(document, returned, &CompareOptions::default());
    let mut faults: Vec<String> =
        found.differences.iter().map(|d| format!("{} {}: {}", d.kind, d.change, d.what)).collect();
    if again != back {
        let (first, second) = (String::from_utf8_lossy(back), String::from_utf8_lossy(again));
        let line = first.lines().zip(second.lines()).find(|(one, two)| one != two);
        faults.push(format!("a second trip changes {line:?}"));
    }
    faults
}

/// Holds every document to its trip, but for what the format between has no words for.
pub(crate) fn check(
    documents: Vec<(String, String)>,
    trip: impl Fn(&str) -> Vec<String>,
    is_unsayable: impl Fn(&str, &str) -> bool,
) {
    let mut faults = Vec::new();
    for (name, source) in documents {
        let found = trip(&source).into_iter().filter(|fault| !is_unsayable(&name, fault));
        faults.extend(found.map(|fault| format!("{name}: {fault}")));
    }
    assert!(faults.is_empty(), "{} faults\n{}", faults.len(), faults.join("\n"));
}
