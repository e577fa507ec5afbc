//! Raw HTML in Markdown as real blocks and inlines, for targets that are not HTML: the cases in
//! `fixtures/embedded.txt` are read that way, hold no markup any more, and are shown as HTML.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;

use obblet::document::{BlockKind, Inline, Node, Visit, walk};
use obblet::{Format, ReadOptions, WriteOptions, read, write};

#[test]
fn cases_hold_nodes_and_no_markup() {
    let options = ReadOptions::default().with_nodes_for_html();
    fixture::check("embedded.txt", |case| {
        let reading = read(case.part("source").as_bytes(), Format::Markdown, &options).unwrap();
        let document = &reading.document;
        let notes = document.notes.iter().flat_map(|note| walk(&note.content));
        let is_markup = |visit: Visit<'_>| match visit {
            Visit::Enter(Node::Block(block)) => matches!(block.kind, BlockKind::Foreign(_)),
            Visit::Enter(Node::Inline(inline)) => matches!(inline, Inline::Foreign(_)),
            _ => false,
        };
        let markup = walk(&document.blocks).chain(notes).filter(|visit| is_markup(*visit)).count();
        assert_eq!(markup, 0, "{}", case.name);
        let written = write(document, &WriteOptions::house("body").unwrap()).unwrap();
        let findings: Vec<String> = reading.findings.iter().map(|f| f.line("m.md")).collect();
        vec![("html", written.text().to_string()), ("findings", findings.join("\n"))]
    });
}
