//! Hostile texts take work in proportion to their length.

use super::read;
use crate::formats::text::TextReadOptions;
use crate::work::assert_linear;

const KILLERS: [(&str, &str, usize); 12] = [
    ("items in one line", "- ", 4000),
    ("quotation marks", "> ", 4000),
    ("open marks", "*_", 4000),
    ("closing marks", "a_ ", 4000),
    ("opening marks", "_a ", 4000),
    ("items in items", "- - - - a\n", 400),
    ("schemes", "http://", 2000),
    ("at signs", "@", 8000),
    ("blank lines", "\n \t\n", 2000),
    ("items apart", "1. a\n\n", 1000),
    ("topic headings", "NAME\nSYNOPSIS\n", 500),
    ("fields", "a: b\n", 2000),
];

#[test]
fn hostile_texts_take_work_in_proportion_to_their_length() {
    let options = TextReadOptions::default();
    for (name, piece, size) in KILLERS {
        assert_linear(name, size, |n| piece.repeat(n), |text| drop(read(text, &options)));
    }
    let steps = |n: usize| (0..n).map(|depth| " ".repeat(depth.min(300)) + "- a\n").collect();
    assert_linear("items by indent", 500, steps, |text| drop(read(text, &options)));
    let wide = |n: usize| "|".repeat(n) + "\n---|---\n" + &"|".repeat(n / 100);
    assert_linear("bars", 4000, wide, |text| drop(read(text, &options)));
}
