//! Sources that would become very much larger than they are: into every format, what comes out stays in
//! proportion, and nothing takes forever.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use obblet::{Converter, Format, House, Resolver, WriteOptions};

/// Bytes that may come out for each byte that goes in, and in any case.
const PER_BYTE: usize = 64;
const AT_LEAST: usize = 4 << 20;

/// Files beside a source.
struct Beside(Vec<(&'static str, String)>);

impl Resolver for Beside {
    fn resolve(&self, address: &str) -> Option<Vec<u8>> {
        let file = self.0.iter().find(|(name, _)| *name == address);
        file.map(|(_, text)| text.clone().into_bytes())
    }
}

/// What a source is, as what it is read, and what stands beside it.
type Source = (&'static str, Format, String, Vec<(&'static str, String)>);

fn sources() -> Vec<Source> {
    let ten = "#1".repeat(10);
    let nested = "\\a{".repeat(6) + "x" + &"}".repeat(6);
    let formula = format!("$\\def\\a#1{{{ten}}}{nested}$\n\n");
    let doubled: String =
        (0..28).map(|n| format!("@string{{s{} = s{n} # s{n}}}\n", n + 1)).collect();
    let strings = format!("@string{{s0 = {{xxxxxxxx}}}}\n{doubled}@misc{{k, title = s28}}\n");
    let columns = |sign: &str| vec!["x"; 4000].join(sign);
    let itself = "#+SETUPFILE: m.org\n".repeat(8) + "Text\n";
    let spans: String = (0..300).map(|_| "<td rowspan=60000>x").collect();
    let wide = format!(
        "|{}|\n|{}|\n{}\n",
        vec!["x"; 1000].join("|"),
        vec!["-"; 1000].join("|"),
        "|y|\n".repeat(100)
    );
    vec![
        ("a settings file that names itself", Format::Org, itself.clone(), vec![("m.org", itself)]),
        (
            "strings that double each other",
            Format::Latex,
            "\\begin{document}\\cite{k}\\bibliography{b}\\end{document}".into(),
            vec![("b.bib", strings)],
        ),
        ("macros in a formula", Format::Markdown, formula.repeat(50), Vec::new()),
        ("macros in a formula", Format::Latex, formula.repeat(20), Vec::new()),
        (
            "a macro that doubles itself",
            Format::Latex,
            format!("\\def\\a{{xxxxxxxx}}{}\\a", "\\edef\\a{\\a\\a}".repeat(28)),
            Vec::new(),
        ),
        (
            "a wide row above short ones",
            Format::Org,
            format!("|{}|\n{}", columns("|"), "|y|\n".repeat(3000)),
            Vec::new(),
        ),
        (
            "a wide row above short ones",
            Format::Latex,
            format!(
                "\\begin{{tabular}}{{l}}{}\\\\\n{}\\end{{tabular}}",
                columns("&"),
                "y\\\\\n".repeat(3000)
            ),
            Vec::new(),
        ),
        ("many tables with a wide row", Format::Markdown, wide.repeat(20), Vec::new()),
        (
            "cells that span rows from the side",
            Format::Html,
            format!("<p>a<table><tr>{spans}{}</table>", "<tr><td>y".repeat(3000)),
            Vec::new(),
        ),
    ]
}

#[test]
fn what_comes_out_stays_in_proportion() {
    for (name, from, source, beside) in sources() {
        let beside = Beside(beside);
        let read = source.len() + beside.0.iter().map(|(_, text)| text.len()).sum::<usize>();
        for to in
            [Format::Html, Format::Markdown, Format::Word, Format::Latex, Format::Org, Format::Text]
        {
            let written = Converter::with_options(&WriteOptions::format(to))
                .from(from)
                .resolver(&beside)
                .convert(source.as_bytes())
                .unwrap();
            let most = read * PER_BYTE + AT_LEAST;
            let length = written.bytes.len();
            assert!(length <= most, "{name}, {from} to {to}: {length} bytes of {read}");
        }
    }
}

#[test]
fn a_wide_row_above_short_ones_comes_back_as_it_was() {
    let row = |cell: &str| format!("| {} |\n", vec![cell; 200].join(" | "));
    let markdown = row("x") + &row("---") + &"| y |\n".repeat(40);
    let org = row("x") + &"| y |\n".repeat(40);
    for (format, source) in [(Format::Markdown, markdown), (Format::Org, org)] {
        let options = WriteOptions::format(format);
        let written =
            Converter::with_options(&options).from(format).convert(source.as_bytes()).unwrap();
        let codes: Vec<String> =
            written.findings.iter().map(|finding| finding.code.to_string()).collect();
        assert_eq!(codes.iter().filter(|code| *code == "table-too-wide").count(), 1, "{codes:?}");
        let rows = written.text().lines().filter(|line| line.trim_end().starts_with("| y")).count();
        assert_eq!(rows, 40, "{format}");
        let again = Converter::with_options(&options).from(format).convert(&written.bytes).unwrap();
        assert_eq!(again.text(), written.text(), "{format}");
    }
}

#[test]
fn rules_make_no_more_than_a_page_may_hold() {
    let rule = "[[rules]]\non = \"p\"\nfind = \"a\"\nwith = \"aaaaaaaaaa\"\n";
    let house = House::from_toml(&rule.repeat(10)).unwrap();
    let options = WriteOptions { house, ..WriteOptions::format(Format::Html) };
    let written =
        Converter::with_options(&options).from(Format::Markdown).convert(b"aaaa\n").unwrap();
    assert!(written.bytes.len() < 64 << 20);
    let codes: Vec<String> =
        written.findings.iter().map(|finding| finding.code.to_string()).collect();
    assert!(codes.contains(&"rule-too-costly".to_string()), "{codes:?}");
}

#[test]
fn a_layout_may_not_go_on_forever() {
    let cases = [
        "{% for a in range(90000) %}{% for b in range(90000) %}{% endfor %}{% endfor %}",
        "{% for a in range(90000) %}{{ leaf.body }}{{ leaf.body }}{% endfor %}",
    ];
    for layout in cases {
        let mut house = House::default();
        house.page.layout = "own.html".into();
        house.files.insert("own.html".into(), layout.into());
        let options = WriteOptions { house, ..WriteOptions::format(Format::Html) };
        let source = "The weir is high.\n\n".repeat(2000);
        let failed = Converter::with_options(&options)
            .from(Format::Markdown)
            .convert(source.as_bytes())
            .unwrap_err();
        let why = failed.to_string();
        assert!(why.contains("own.html"), "{why}");
    }
}
