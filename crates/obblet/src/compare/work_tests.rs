//! Hostile documents are compared in proportion to their length.

use super::{CompareOptions, compare};
use crate::formats::markdown::{MarkdownReadOptions, read};
use crate::work::assert_linear;

type Text = fn(usize) -> String;

const KILLERS: [(&str, Text); 6] = [
    ("a word of many formats", |n| "~a~".repeat(n)),
    ("a word with marks in it", |n| "a**a".repeat(n)),
    ("superscripts", |n| "^a^".repeat(n)),
    ("words", |n| "a ".repeat(n)),
    ("headings of one name", |n| "# a\n\n".repeat(n)),
    ("links of one name", |n| "[a](b) ".repeat(n)),
];

#[test]
fn hostile_documents_take_work_in_proportion_to_their_length() {
    for (name, text) in KILLERS {
        assert_linear(name, 500, text, |text| {
            let (one, _) = read(text, &MarkdownReadOptions::default());
            let (two, _) = read(&format!("{text}\n\nz\n"), &MarkdownReadOptions::default());
            drop(compare(&one, &two, &CompareOptions::default()));
        });
    }
}
