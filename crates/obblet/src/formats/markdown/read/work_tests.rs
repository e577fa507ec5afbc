//! Hostile texts take work in proportion to their length.

use crate::formats::markdown::{Dialect, MarkdownReadOptions, MarkdownWriteOptions, read, write};
use crate::work::assert_linear;

type Text = fn(usize) -> String;

/// Texts that have slowed readers down: nesting, openers without closers, closers without
/// openers, runs, rows, references.
const KILLERS: [(&str, Text); 28] = [
    ("nested brackets", |n| "[".repeat(n) + "a" + &"]".repeat(n)),
    ("open brackets", |n| "[a](".repeat(n)),
    ("brackets that might be references", |n| "[a][b]".repeat(n)),
    ("nested pictures", |n| "![".repeat(n) + &"](x)".repeat(n)),
    ("open emphasis", |n| "*a _b ".repeat(n)),
    ("closed emphasis", |n| "a* b_ ".repeat(n)),
    ("emphasis of mixed marks", |n| "*a **b _c __d ~~e ==f ++g ^h ".repeat(n)),
    ("emphasis that nests", |n| "*a ".repeat(n) + &"b* ".repeat(n)),
    ("closers of another mark", |n| "*a ".repeat(n) + &"b_ ".repeat(n)),
    ("one long run", |n| "*".repeat(n) + "a" + &"*".repeat(n)),
    ("runs of three", |n| "a***b".repeat(n)),
    ("quotations", |n| ">".repeat(n) + "a"),
    ("quotation lines", |n| "> > > > a\n".repeat(n)),
    ("lists in one line", |n| "- ".repeat(n) + "a"),
    ("lists by indent", |n| (0..n.min(300)).map(|i| " ".repeat(2 * i) + "- a\n").collect()),
    ("addresses without marks", |n| "https://a.example/1 ".repeat(n)),
    ("items", |n| "- a\n".repeat(n)),
    ("definitions", |n| (0..n).map(|i| format!("[l{i}]: /u\n")).collect()),
    ("references", |n| "[a]: /u\n\n".to_string() + &"[a]".repeat(n)),
    ("backtick runs", |n| (1..=n).map(|i| "`".repeat(i % 50 + 1) + "a").collect()),
    ("less-than signs", |n| "<".repeat(n)),
    ("open tags and comments", |n| "<a b=\"<!-- <? <![CDATA[ ".repeat(n)),
    ("pipe rows", |n| "|".repeat(n) + "\n" + &"|-".repeat(n) + "|\n" + &"a|".repeat(n)),
    ("entities", |n| "&amp;&#1;&x".repeat(n)),
    ("dollars", |n| "$a $$b ".repeat(n)),
    ("addresses", |n| "http://a.b/(((www.a.b@c.d ".repeat(n)),
    ("notes", |n| (0..n).map(|i| format!("[^{i}]: a\n\nb[^{i}]\n\n")).collect()),
    ("containers", |n| "::: a\n".repeat(n) + &":::\n".repeat(n)),
];

#[test]
fn hostile_texts_take_work_in_proportion_to_their_length() {
    for (name, text) in KILLERS {
        for dialect in [Dialect::Standard, Dialect::Full] {
            let options = MarkdownReadOptions { switches: dialect.switches() };
            assert_linear(name, 500, text, |text| drop(read(text, &options)));
        }
    }
}

/// The writer reads what it wrote, a few times at most.
#[test]
fn writing_hostile_texts_takes_work_in_proportion_to_their_length() {
    for (name, text) in KILLERS {
        let options = MarkdownReadOptions::default();
        assert_linear(name, 500, text, |text| {
            let (document, _) = read(text, &options);
            let written = write(&document, &MarkdownWriteOptions::default());
            assert!(written.is_ok(), "{name}");
        });
    }
}
