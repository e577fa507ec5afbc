//! Org on the cases in `fixtures/org_*.txt`, with files that it includes, and on hostile sources.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod beside;
mod examples;
mod fixture;
mod round_trip;
mod tree;

use beside::{Asked, Folder};
use obblet::compare::{CompareOptions, compare};
use obblet::document::Document;
use obblet::findings::Findings;
use obblet::{Converter, Format, ReadOptions, WriteOptions, convert, read, write};
use proptest::prelude::*;
use std::fmt::Write as _;

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

#[test]
fn cases_are_written_as_they_say() {
    fixture::check("org_writer.txt", |case| {
        let options = WriteOptions::format(Format::Org);
        let written = convert(case.part("source").as_bytes(), Format::Markdown, &options).unwrap();
        vec![("org", written.text().to_string()), ("findings", lines(&written.findings))]
    });
}

/// The tree of a document with files beside it, and the findings.
fn read_beside(source: &str, folder: &Folder) -> String {
    let options = ReadOptions::default();
    let mut reading = Converter::default()
        .from(Format::Org)
        .resolver(folder)
        .read_as_it_is(source.as_bytes(), &options)
        .unwrap();
    reading.findings.locate(&reading.map);
    format!("{}\n{}", tree_of(&reading.document), lines(&reading.findings)).trim().to_string()
}

#[test]
fn files_are_included_whole_in_part_and_as_code() {
    let folder = Folder::of([
        ("a.org", "* One\nfirst\n** Two\n:PROPERTIES:\n:CUSTOM_ID: two\n:END:\nsecond\n"),
        ("b/c.org", "[[file:d.png]] [[file:../e.md][e]]\n#+INCLUDE: \"f.org\"\n"),
        ("b/f.org", "deep [[nowhere]]\n"),
        ("g.py", "#+x\nprint(1)\n* no\n"),
        ("round.org", "#+INCLUDE: \"round.org\"\n"),
        ("setup.org", "#+TITLE: T\n#+MACRO: m filled\n#+TODO: NEXT | GONE\ntext is left\n"),
        ("r\u{20ac}.org", "euro\n"),
    ]);
    let cases = [
        (
            "* Top\n#+INCLUDE: \"a.org\"",
            "heading \"Top\" level=1\nheading \"One\" level=2\nparagraph \"first\"\n\
             heading \"Two\" level=3 attributes(id=two)\nparagraph \"second\"",
        ),
        (
            "#+INCLUDE: \"a.org::*Two\" :minlevel 1",
            "heading \"Two\" level=1 attributes(id=two)\nparagraph \"second\"",
        ),
        ("#+INCLUDE: a.org::#two :only-contents t", "paragraph \"second\""),
        ("#+INCLUDE: \"a.org\" :lines \"2-3\"", "paragraph \"first\""),
        ("#+INCLUDE: \"a.org\" :lines \"-2\"", "heading \"One\" level=1"),
        ("#+INCLUDE: \"a.org\" :lines \"7-\"", "paragraph \"second\""),
        (
            "#+INCLUDE: \"g.py\" src python",
            "code language=python text=\"#+x\\nprint(1)\\n* no\\n\"",
        ),
        ("#+INCLUDE: \"g.py\" example :lines \"2-3\"", "code text=\"print(1)\\n\""),
        ("#+INCLUDE: \"r\u{20ac}.org\" quote", "quotation\n  paragraph \"euro\""),
        (
            "#+INCLUDE: \"b/c.org\"",
            "paragraph picture(source(address=\"b/d.png\")) \" \" link(address=\"e.md\" \"e\") \
             break=soft \"deep \" \"nowhere\"\n\
             b/f.org:1:6: problem: nothing has the label “nowhere” [reference-missing]",
        ),
        (
            "#+INCLUDE: \"round.org\"\na",
            "paragraph \"a\"\nround.org:1:1: problem: the file “round.org” includes itself, and was \
             not read again [include-circular]",
        ),
        (
            "#+SETUPFILE: setup.org\n* NEXT {{{m}}}",
            "heading \"filled\" level=1 task(keyword=\"NEXT\")\nmetadata: title(\"T\")",
        ),
        (
            "#+begin_src org\n#+INCLUDE: \"a.org\"\n#+end_src",
            "code language=org text=\"#+INCLUDE: \\\"a.org\\\"\\n\"",
        ),
    ];
    for (source, expected) in cases {
        assert_eq!(read_beside(source, &folder), expected, "{source}");
    }
}

#[test]
fn line_ends_and_byte_order_marks_are_no_text() {
    let (document, findings) = read_org("\u{feff}#+TITLE: T\r\na\r\n\r\n* c\r\n");
    assert_eq!(
        tree_of(&document),
        "paragraph \"a\"\nheading \"c\" level=1\nmetadata: title(\"T\")"
    );
    assert!(findings.is_empty());
}

/// Lines for the head of a page may run code, so that only trusted ones stand there.
#[test]
fn own_lines_go_where_they_are_for() {
    let source = "#+TITLE: T\n#+HTML_HEAD: <script>one()</script>\n#+HTML_HEAD_EXTRA: <meta name=a>\n\
                  #+LATEX_HEADER: \\usepackage{one}\n#+LATEX_HEADER: \\usepackage{two}\na";
    let converted = |options: &WriteOptions| {
        let written = convert(source.as_bytes(), Format::Org, options).unwrap();
        (written.text().to_string(), lines(&written.findings))
    };
    let mut options = WriteOptions::house("page").unwrap();
    let (page, said) = converted(&options);
    assert!(!page.contains("one()") && said.contains("html_head"), "{said}");
    options.house.set("safety.trust_sources", "true").unwrap();
    let (page, said) = converted(&options);
    let (head, body) = page.split_once("</head>").unwrap();
    assert!(head.ends_with("<script>one()</script>\n<meta name=a>\n"), "{head}");
    assert!(!body.contains("one()") && said.is_empty(), "{said}");
    let (latex, _) = converted(&WriteOptions::format(Format::Latex));
    assert!(latex.contains("\\usepackage{one}\n\\usepackage{two}\n"), "{latex}");
    let (org, _) = converted(&WriteOptions::format(Format::Org));
    assert!(org.contains("#+latex_header: \\usepackage{one}\n#+latex_header: "), "{org}");
}

/// What is wanted of Markdown: Org says all of it, or a finding tells.
#[test]
fn markdown_comes_back_from_org() {
    for (name, text) in examples::of_demo() {
        let options = ReadOptions::default().with_nodes_for_html();
        let document = read(text.as_bytes(), Format::Markdown, &options).unwrap().document;
        let org = write(&document, &WriteOptions::format(Format::Org)).unwrap();
        let back = read(&org.bytes, Format::Org, &options).unwrap();
        let again = write(&back.document, &WriteOptions::format(Format::Org)).unwrap();
        let mut faults = round_trip::faults(&document, &back.document, &org.bytes, &again.bytes);
        faults.retain(|fault| !fault.starts_with("metadata"));
        assert!(faults.is_empty(), "{name}\n{}\n{}", faults.join("\n"), org.text());
    }
}

/// Every example of the specifications can be written, and read again without a complaint.
#[test]
fn specification_examples_are_written_and_read_without_trouble() {
    for (_, example) in examples::of_specifications() {
        let options = WriteOptions::format(Format::Org);
        let written = convert(example.as_bytes(), Format::Markdown, &options).unwrap();
        let back = read(&written.bytes, Format::Org, &ReadOptions::default()).unwrap();
        let complaints =
            ["block-unclosed", "block-unopened", "note-label-missing", "macro-unknown"];
        let found = back.findings.iter().find(|f| complaints.contains(&f.code.name()));
        assert!(found.is_none(), "{found:?}\n{example}\n{}", written.text());
    }
}

/// Nothing overflows, hangs, or grows out of bounds; what is deeper or longer is told.
#[test]
fn hostile_sources_end() {
    let deep = 20_000;
    let nested_list = |mut out: String, level: usize| {
        let _ = writeln!(out, "{}- a", " ".repeat(level));
        out
    };
    let stars = |mut out: String, level: usize| {
        let _ = writeln!(out, "{} a", "*".repeat(level + 1));
        out
    };
    let many = |line: &str| -> String {
        (0..deep).map(|number| line.replace('N', &number.to_string())).collect()
    };
    let sources = [
        (0..2_000).fold(String::new(), nested_list),
        "- ".repeat(deep),
        (0..1_500).fold(String::new(), stars),
        "#+begin_quote\n".repeat(deep),
        "#+begin_a\n#+end_b\n".repeat(deep),
        "#+end_quote\n".repeat(deep),
        format!("{}{}", "#+begin_quote\n".repeat(deep), "#+end_quote\n".repeat(deep)),
        ":A:\n".repeat(deep),
        "#+begin: x\n".repeat(deep),
        "\\begin{equation}\n".repeat(deep),
        "[fn::".repeat(deep),
        "[[".repeat(deep),
        "[[a][".repeat(deep),
        "*a ".repeat(deep),
        "*/_+".repeat(deep),
        "a_{".repeat(deep),
        "a^(".repeat(deep),
        "{{{a(".repeat(deep),
        "src_a[".repeat(deep),
        "call_a(".repeat(deep),
        "<<".repeat(deep),
        "<<<a".repeat(deep),
        "$a".repeat(deep),
        "\\(".repeat(deep),
        "\\a{".repeat(deep),
        "@@html:".repeat(deep),
        "[cite:@a;".repeat(deep),
        "<2026-12-01 ".repeat(deep),
        format!("#+MACRO: m {}\n{{{{{{m}}}}}}", "{{{m}}} ".repeat(50)),
        "#+MACRO: a {{{b}}}{{{b}}}\n#+MACRO: b {{{c}}}{{{c}}}\n#+MACRO: c {{{a}}}\n{{{a}}}".into(),
        format!("|{}\n{}", "a|".repeat(deep), "|a|\n".repeat(deep)),
        format!("#+TODO: {}\n{}", "x ".repeat(deep), "* a\n".repeat(deep)),
        "#+foo: a\n".repeat(deep),
        format!("#+TODO: {}\n{}", many("WN "), many("* WN a\n")),
        many("a[fn:N]\n\n[fn:N] b\n\n\n"),
        many("#+MACRO: N a\n#+LINK: N b\n#+keyN: c\n"),
        many("* a\n:PROPERTIES:\n:CUSTOM_ID: N\n:END:\n[[#N]] [[*a N]]\n"),
        "#+CAPTION: a\n".repeat(deep),
        "* a :export:\n* b\n".repeat(deep),
        "[fn:1] a\n".repeat(deep),
        "<<<a>>> <<<b>>>\n".repeat(deep),
        "[[*a]] \\ref{a}\n* a\n".repeat(deep / 10),
        // Words enough that it is a text at all.
        "High water. ".repeat(1000) + &"\u{0}\u{1}\u{FFFD}\\\u{1}*\u{200b}*".repeat(100),
    ];
    for source in sources {
        let shown: String = source.chars().take(30).collect();
        let run = move || {
            for format in [Format::Html, Format::Org] {
                convert(source.as_bytes(), Format::Org, &WriteOptions::format(format)).unwrap();
            }
        };
        let thread = std::thread::Builder::new().stack_size(8 << 20).spawn(run).unwrap();
        assert!(thread.join().is_ok(), "{shown}");
    }
}

#[test]
fn what_a_file_asks_for_is_only_asked_of_the_caller() {
    let asked = Asked::default();
    let source = "#+INCLUDE: \"../../secret\"\n#+SETUPFILE: /etc/mill\n#+BIBLIOGRAPHY: x.bib\n\
                  #+begin_src sh :exports results\ntouch /tmp/never\n#+end_src\n[[file:a.png]]";
    let options = WriteOptions::house("body").unwrap();
    let written = Converter::with_options(&options)
        .from(Format::Org)
        .resolver(&asked)
        .convert(source.as_bytes())
        .unwrap();
    let missing = written.findings.iter().filter(|f| f.code.name() == "include-missing").count();
    assert_eq!(missing, 3, "{}", lines(&written.findings));
    assert!(asked.has("../../secret"));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Text that nobody meant as markup comes back from Org as the same text.
    #[test]
    fn plain_text_comes_back(text in "[a-c*/_+=~\\[\\]<>{}|$^#:@\\\\. \\-0-9]{1,40}") {
        let text = text.split_whitespace().collect::<Vec<_>>().join(" ");
        let paragraph = obblet::document::build::paragraph(text.as_str());
        let document = Document::of(vec![paragraph]);
        let org = write(&document, &WriteOptions::format(Format::Org)).unwrap();
        let back = read(&org.bytes, Format::Org, &ReadOptions::default()).unwrap().document;
        let found = compare(&document, &back, &CompareOptions::default());
        prop_assert!(found.differences.is_empty(), "{text:?}\n{}", org.text());
    }

    /// Any bytes at all are read, and what is written of them is read as the same.
    #[test]
    fn anything_is_read_and_stays(source in "[ab *\n/_+=~\\[\\]<>{}|$^#:@\\\\,.\\-]{0,80}") {
        let mut options = ReadOptions::default();
        options.org.keeps_hidden = true;
        let read_kept = |bytes: &[u8]| read(bytes, Format::Org, &options).unwrap().document;
        let document = read_kept(source.as_bytes());
        let org = write(&document, &WriteOptions::format(Format::Org)).unwrap();
        prop_assume!(org.findings.is_empty());
        let back = read_kept(&org.bytes);
        let found = compare(&document, &back, &CompareOptions::default());
        prop_assert!(found.differences.is_empty(), "{source:?}\n{}", org.text());
        let again = write(&back, &WriteOptions::format(Format::Org)).unwrap();
        prop_assert_eq!(org.text(), again.text(), "{:?}", source);
    }
}
