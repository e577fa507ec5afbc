//! HTML to Markdown to HTML, and Markdown to HTML to Markdown, change nothing that the dialect can
//! say.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

mod examples;

use obblet::compare::{CompareOptions, compare};
use obblet::document::{Document, Metadata};
use obblet::formats::html::{HtmlWriteOptions, RawHtml, read as read_html, write_body};
use obblet::formats::markdown::{
    self, Dialect, MarkdownReadOptions, MarkdownWriteOptions, Switches,
};
use obblet::{Format, ReadOptions};

fn read_markdown(text: &str, switches: Switches) -> Document {
    let options =
        ReadOptions { markdown: MarkdownReadOptions { switches }, ..ReadOptions::default() };
    let options = options.with_nodes_for_html();
    let mut document = obblet::read(text.as_bytes(), Format::Markdown, &options).unwrap().document;
    // A body of HTML holds no metadata.
    document.metadata = Metadata::default();
    document
}

fn html(document: &Document) -> String {
    let audiences = vec!["web".into(), "print".into()];
    let options =
        HtmlWriteOptions { audiences, raw_html: RawHtml::Trusted, ..HtmlWriteOptions::default() };
    write_body(document, &options).unwrap().0.html
}

fn markdown(document: &Document, switches: Switches) -> String {
    let options = MarkdownWriteOptions { switches, ..MarkdownWriteOptions::default() };
    markdown::write(document, &options).unwrap().0
}

#[test]
fn specification_examples_come_back_from_html() {
    let switches = Dialect::Full.switches();
    let mut faults = Vec::new();
    let mut examples = examples::of_specifications();
    examples.extend(examples::of_demo());
    for (name, text) in examples {
        let document = read_markdown(&text, switches);
        let first = html(&document);
        let read = read_html(&first).0;
        let found = compare(&document, &read, &CompareOptions::default());
        for difference in &found.differences {
            faults.push(format!(
                "{name}: {} {}: {}",
                difference.kind, difference.change, difference.what
            ));
        }
        let between = markdown(&read, switches);
        let second = html(&read_markdown(&between, switches));
        if !same_html(&first, &second) {
            faults.push(format!("{name}: HTML\n{first}---\n{between}---\n{second}"));
        }
        let again = markdown(&read_html(&second).0, switches);
        if again != between {
            faults.push(format!("{name}: Markdown\n{between}---\n{again}"));
        }
    }
    assert!(faults.is_empty(), "{} faults\n{}", faults.len(), faults.join("\n"));
}

/// Equal but for runs of white space, which HTML shows as one space; in preformatted text each
/// character counts.
fn same_html(one: &str, two: &str) -> bool {
    let folded = |html: &str| {
        html.split_ascii_whitespace().collect::<Vec<_>>().join(" ").replace("<p> ", "<p>")
    };
    one == two || !one.contains("<pre") && folded(one) == folded(two)
}
