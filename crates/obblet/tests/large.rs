//! Long Markdown goes to HTML in pieces; what comes out is what the whole tree would give.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;

use fixture::cases;
use obblet::document::Document;
use obblet::{Format, ReadOptions, WriteOptions, convert, read, write};

/// Longer than what is converted in one piece.
const LARGE: usize = (1 << 20) + (1 << 16);

/// The case, some prose, and code up to the length: code is quick to read.
fn source(case: &str) -> String {
    let prose =
        "\nThe tide turned at *four*, and the [miller](weir.md) closed gate `3`.\n".repeat(50);
    let code = "gate 3, closed at ebb; ".repeat(100);
    let lines = LARGE / code.len() + 1;
    format!("{case}\n\n{prose}\n```\n{}```\n", format!("{code}\n").repeat(lines))
}

#[test]
fn pieces_give_what_the_whole_tree_gives() {
    let all: String =
        cases("markdown.txt").iter().map(|case| case.part("source").to_string() + "\n\n").collect();
    let few = [
        all.as_str(),
        "---\ntitle: Log\nlang: de\n---\n\n### Low\n\n## High\n\nNote[^1].\n\n[^1]: Text with <b>raw</b> HTML.\n",
        "<div class=\"a\">\n\nnever closed\n\n# A heading\n",
        ":::contents\n:::\n\n# One\n\n<p>raw</p>\n\n# Two\n",
        "<div>\n\n:::contents\n:::\n\n</div>\n\n# One\n\n# Two\n",
        "Gate\n: of oak\n\nWeir\n: of stone\n\n[^x]: unused\n\nEbb\n: low\n",
        "# A <b id=\"a-2\">b</b>\n\n# A\n\n<i id=\"a\">c</i>\n",
    ];
    for house in ["body", "page"] {
        let options = WriteOptions::house(house).unwrap();
        for case in few {
            let source = source(case);
            let pieces = convert(source.as_bytes(), Format::Markdown, &options).unwrap();
            let (whole, findings) = whole(&source, &options);
            assert!(pieces.text() == whole.text(), "{house}: {case}");
            assert_eq!((&pieces.title, &pieces.ids), (&whole.title, &whole.ids), "{case}");
            let found: Vec<String> = pieces.findings.iter().map(|f| f.line("m.md")).collect();
            assert_eq!(found, findings, "{house}: {case}");
        }
    }
}

/// The same by way of the tree.
fn whole(source: &str, options: &WriteOptions) -> (obblet::Written, Vec<String>) {
    let reading = read(source.as_bytes(), Format::Markdown, &options.house.read_options()).unwrap();
    let written = write(&reading.document, options).unwrap();
    let mut findings = reading.findings;
    findings.extend(written.findings.clone());
    findings.locate(&reading.map);
    findings.sort();
    (written, findings.iter().map(|finding| finding.line("m.md")).collect())
}

#[test]
fn an_empty_long_source_is_said_to_be_empty() {
    let written =
        convert(&vec![b'\n'; LARGE], Format::Markdown, &WriteOptions::house("body").unwrap());
    let findings = written.unwrap().findings;
    assert_eq!(findings.iter().next().unwrap().code.name(), "source-empty");
    let read = read(b"", Format::Markdown, &ReadOptions::default()).unwrap();
    assert_eq!(read.document, Document::default());
}
