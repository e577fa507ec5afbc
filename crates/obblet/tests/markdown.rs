//! Markdown to HTML on the cases in `fixtures/markdown.txt`, and on hostile texts.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;

use obblet::document::{Node, SourceMap, Visit, walk};
use obblet::formats::markdown::{Dialect, MarkdownReadOptions, Switch, Switches, read};
use obblet::{Format, WriteOptions, convert, write};
use proptest::prelude::*;

#[test]
fn cases_read_as_they_say() {
    fixture::check("markdown.txt", |case| {
        let mut options = WriteOptions::house("body").unwrap();
        for setting in case.part("set").lines() {
            let (key, value) = setting.split_once('=').unwrap();
            options.house.set(key, value).unwrap();
        }
        let written = convert(case.part("source").as_bytes(), Format::Markdown, &options).unwrap();
        let lines: Vec<String> = written.findings.iter().map(|f| f.line("m.md")).collect();
        vec![("html", written.text().to_string()), ("findings", lines.join("\n"))]
    });
}

/// Each switch alone: on, its construct is read; off, the same text stays text.
#[test]
fn each_switch_reads_its_own_construct_and_no_other() {
    use Switch::*;
    let cases: [(Switch, &str, &str); 16] = [
        (Tables, "| a |\n|---|\n", "<table>"),
        (Strikethrough, "~~a~~", "<del>"),
        (Tasks, "- [x] a", "<input"),
        (BareAddresses, "www.mill.example", "<a href=\"http://www.mill.example\">"),
        (FrontMatter, "---\na: b\n---\ntext", "<p>text</p>"),
        (Footnotes, "a[^1]\n\n[^1]: b", "doc-noteref"),
        (Alerts, "> [!NOTE]\n> a", "<aside data-kind=\"note\">"),
        (Attributes, "# a {#b}", "<h1 id=\"b\">"),
        (Containers, "::: box\na\n:::", "<div class=\"box\">"),
        (DescriptionLists, "a\n: b", "<dl>"),
        (Math, "$a$", "<math><semantics>"),
        (Highlight, "==a==", "<mark>"),
        (Insertion, "++a++", "<ins>"),
        (Scripts, "a^2^", "<sup>2</sup>"),
        (Abbreviations, "TM\n\n*[TM]: b", "<abbr title=\"b\">"),
        (WikiLinks, "[[a]]", "<a href=\"a\">"),
    ];
    let html = |switches: Switches, text: &str| {
        let (document, _) = read(text, &MarkdownReadOptions { switches });
        write(&document, &WriteOptions::house("body").unwrap()).unwrap().text().to_string()
    };
    for (switch, text, expected) in cases {
        let alone = html(Switches::NONE.with(switch), text);
        assert!(alone.contains(expected), "{switch:?} alone: {alone}");
        let full = html(Dialect::Full.switches(), text);
        assert!(full.contains(expected), "{switch:?} among all: {full}");
        let without = html(Dialect::Full.switches().without(switch), text);
        if switch != FrontMatter {
            assert!(!without.contains(expected), "{switch:?} off: {without}");
        }
    }
    // The two switches that change plain text are in no dialect.
    for dialect in [Dialect::Standard, Dialect::Forge, Dialect::Full] {
        assert!(!dialect.switches().has(HardWraps) && !dialect.switches().has(SmartPunctuation));
    }
    assert_eq!(html(Switches::NONE.with(HardWraps), "a\nb"), "<p>a<br>\nb</p>\n");
    assert_eq!(html(Switches::NONE.with(SmartPunctuation), "\"a\" -- b"), "<p>“a” – b</p>\n");
    assert_eq!(html(Switches::NONE.with(HarmlessTags), "<xmp>"), "&lt;xmp&gt;\n");
}

/// Reads, writes and drops on a small stack.
fn on_small_stack(texts: Vec<(&'static str, String)>) {
    let check = move || {
        for (name, text) in texts {
            let (document, findings) = read(&text, &MarkdownReadOptions::default());
            let written = write(&document, &WriteOptions::house("body").unwrap()).unwrap();
            assert!(!written.bytes.is_empty(), "{name}");
            let said = findings.iter().any(|finding| finding.code.name() == "nesting-too-deep");
            assert!(said, "{name} nests without a finding");
        }
    };
    std::thread::Builder::new().stack_size(1 << 20).spawn(check).unwrap().join().unwrap();
}

#[test]
fn hostile_nesting_ends_in_a_finding() {
    let lists: String = (0..3000).map(|depth| format!("{}- a\n", "  ".repeat(depth))).collect();
    on_small_stack(vec![
        ("quotations", ">".repeat(100_000) + " a"),
        ("lists in a line", "- ".repeat(100_000) + "a"),
        ("lists below each other", lists),
        ("emphasis", "*a **a ".repeat(20_000) + &"b** b* ".repeat(20_000)),
        ("links", format!("{}a{}", "![".repeat(20_000), "](b)".repeat(20_000))),
    ]);
}

/// Known killers of Markdown readers: the tree they make stays in proportion to the text.
#[test]
fn killers_make_trees_in_proportion_to_their_texts() {
    let n = 5_000;
    let killers: [(&str, String); 14] = [
        ("open brackets", "[".repeat(n * 5)),
        ("brackets and links", "[".repeat(n) + &"[a](b)".repeat(n)),
        ("labels that are none", "[a]".repeat(n)),
        ("emphasis never closed", "**a *b _c ".repeat(n)),
        ("emphasis of mixed marks", "*_".repeat(n) + "a" + &"**_".repeat(n)),
        ("backtick runs of all lengths", (1..300).map(|k| "`".repeat(k) + " ").collect()),
        ("angle brackets", "<".repeat(n * 5)),
        ("comments never closed", "<!-- a ".repeat(n)),
        ("declarations never closed", "<!A a <?b ".repeat(n)),
        ("ampersands", "&&amp&#".repeat(n)),
        ("destinations never closed", "[a](b".repeat(n)),
        ("long pipe rows", format!("{}\n{}\n", "|a".repeat(n), "|-".repeat(n))),
        ("definitions", (0..n).map(|k| format!("[a{k}]: b{k}\n")).collect()),
        ("mail addresses", "a@b.c_".repeat(n)),
    ];
    for (name, text) in killers {
        let (document, _) = read(&text, &MarkdownReadOptions::default());
        let nodes = walk(&document.blocks).filter(|visit| matches!(visit, Visit::Enter(_))).count();
        assert!(nodes <= text.len() + 1, "{name}: {nodes} nodes of {} bytes", text.len());
    }
}

/// A short definition that is used often must not make the output grow with its square.
#[test]
fn references_expand_to_a_limit() {
    let text = format!("[a]: /{}\n\n{}", "x".repeat(10_000), "[a] ".repeat(10_000));
    let (document, findings) = read(&text, &MarkdownReadOptions::default());
    let written = write(&document, &WriteOptions::house("body").unwrap()).unwrap();
    assert!(written.bytes.len() < 12 * text.len(), "{} bytes", written.bytes.len());
    assert!(findings.iter().any(|finding| finding.code.name() == "expansion-limit"));
}

/// Pieces of text that mean something to the reader, in any order.
fn markdown_text() -> impl Strategy<Value = String> {
    let piece = prop::sample::select(vec![
        "a", "tide", " ", "  ", "\n", "\n\n", "\t", "*", "**", "_", "~~", "`", "```\n", "[", "]",
        "(", ")", "[a]: b\n", "!", "<", ">", "<b>", "</b>", "<!--", "-->", "&amp;", "\\", "#",
        "- ", "1. ", "> ", "|", "---", "===", "\"", ":", "www.a.b", "a@b.c", "é", "[x] ", "+ ",
        "\u{a0}",
    ]);
    prop::collection::vec(piece, 0..60).prop_map(|pieces| pieces.concat())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Whatever the text: places are in the source, and every page parses as it was written.
    #[test]
    fn any_text_reads_and_writes(text in markdown_text()) {
        for dialect in [Dialect::Standard, Dialect::Forge, Dialect::Full] {
            let options = MarkdownReadOptions { switches: dialect.switches() };
            let (document, findings) = read(&text, &options);
            let map = SourceMap::Text(text.as_str().into());
            for visit in walk(&document.blocks) {
                if let Visit::Enter(Node::Block(block)) = visit {
                    prop_assert!(block.place.start <= block.place.end);
                    prop_assert!(block.place.end as usize <= text.len());
                    prop_assert!(map.position(block.place).is_some());
                }
            }
            for finding in &findings {
                if let Some(place) = finding.place {
                    prop_assert!(place.end as usize <= text.len() + 1);
                }
            }
            let written = write(&document, &WriteOptions::house("body").unwrap()).unwrap();
            // Sanitising its own output changes nothing: it was harmless and well formed.
            let again = convert(written.text().as_bytes(), Format::Markdown,
                                &WriteOptions::house("body").unwrap());
            prop_assert!(again.is_ok());
        }
    }
}
