//! Formulas in their three spellings, on a table of them: `fixtures/formulas.txt`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use obblet::document::{Block, BlockKind, Document, Inline};
use obblet::formats::ReadOptions;
use obblet::math::Formula;
use obblet::notation::{from_tex, to_tex};
use obblet::{Format, Reading, WriteOptions, read, write};

fn table() -> Vec<&'static str> {
    let lines = include_str!("fixtures/formulas.txt").lines();
    lines.filter(|line| !line.is_empty() && !line.starts_with("# ")).collect()
}

/// Fails with all formulas that did not come back.
fn check(come_back: impl Fn(&str) -> Result<(), String>) {
    let formulas = table();
    assert!(formulas.len() >= 600, "{} formulas", formulas.len());
    let failed: Vec<String> = formulas
        .iter()
        .filter_map(|formula| {
            come_back(formula).err().map(|found| format!("{formula}\n    {found}"))
        })
        .collect();
    assert!(failed.is_empty(), "{} of {}:\n{}", failed.len(), formulas.len(), failed.join("\n"));
}

/// The first formula of a document that is written and read again.
fn through(formula: &Formula, format: Format) -> Formula {
    let block = BlockKind::Formula(Box::new(formula.clone()));
    let document = Document::of(vec![Block::new(block)]);
    let written = write(&document, &WriteOptions::format(format)).expect("it is written");
    let Reading { document, .. } =
        read(&written.bytes, format, &ReadOptions::default()).expect("it is read");
    let found = document.blocks.iter().find_map(|block| match &block.kind {
        BlockKind::Formula(formula) => Some(formula.as_ref().clone()),
        BlockKind::Paragraph(content) => content.iter().find_map(|inline| match inline {
            Inline::Formula(formula) => Some(formula.as_ref().clone()),
            _ => None,
        }),
        _ => None,
    });
    found.unwrap_or_else(|| panic!("no formula in {}", String::from_utf8_lossy(&written.bytes)))
}

fn formula(source: &str) -> Formula {
    Formula { source: source.into(), display: true, ..Formula::default() }
}

#[test]
fn tex_comes_back_letter_by_letter() {
    check(|source| {
        let written = to_tex(&from_tex(source));
        if written == source { Ok(()) } else { Err(written) }
    });
}

#[test]
fn every_formula_is_understood() {
    check(|source| {
        let tree = format!("{:?}", from_tex(source));
        if tree.contains("Source(") { Err(tree) } else { Ok(()) }
    });
}

/// The presentation alone: the annotation is taken away first.
#[test]
fn mathml_says_the_same() {
    check(|source| {
        let first = formula(source);
        let (found, markup) = through_mathml(&first);
        let is_same = first.meaning() == found.meaning();
        match is_same && first.stated_number() == found.stated_number() {
            true => Ok(()),
            false => Err(format!("{}\n    {markup}", found.source)),
        }
    });
}

/// A formula as the page shows it, and its markup.
fn through_mathml(formula: &Formula) -> (Formula, String) {
    let document = Document::of(vec![Block::new(BlockKind::Formula(Box::new(formula.clone())))]);
    let written = write(&document, &WriteOptions::format(Format::Html)).expect("it is written");
    let page = String::from_utf8(written.bytes).expect("it is text");
    let start = page.find("<annotation").expect("the source is there");
    let end = page.find("</annotation>").expect("the source ends");
    let bare = format!("{}{}", &page[..start], &page[end + "</annotation>".len()..]);
    let reading = read(bare.as_bytes(), Format::Html, &ReadOptions::default()).expect("it is read");
    let found = reading.document.blocks.iter().find_map(|block| match &block.kind {
        BlockKind::Formula(formula) => Some(formula.as_ref().clone()),
        _ => None,
    });
    let markup = bare[bare.find("<math").unwrap_or(0)..].lines().next().unwrap_or_default();
    (found.unwrap_or_else(|| panic!("no formula in {bare}")), markup.to_string())
}

/// MathML that is read and written again is the same MathML.
#[test]
fn mathml_comes_back_letter_by_letter() {
    check(|source| {
        let (found, first) = through_mathml(&formula(source));
        let (_, second) = through_mathml(&found);
        match first == second {
            true => Ok(()),
            false => Err(format!("{first}\n    {second}")),
        }
    });
}

#[test]
fn word_says_the_same() {
    check(|source| {
        let first = formula(source);
        let found = through(&first, Format::Word);
        let is_same = first.meaning() == found.meaning();
        match is_same && first.stated_number() == found.stated_number() {
            true => Ok(()),
            false => Err(found.source),
        }
    });
}

/// What Word's equations say comes back from them letter by letter.
#[test]
fn words_equations_come_back_letter_by_letter() {
    check(|source| {
        let first = through(&formula(source), Format::Word);
        let second = through(&first, Format::Word);
        match first.source == second.source {
            true => Ok(()),
            false => Err(format!("{}\n    {}", first.source, second.source)),
        }
    });
}

/// Other spellings, and what is wrong with some.
#[test]
fn loose_spellings_are_understood() {
    let lines = include_str!("fixtures/formula_spellings.txt").lines();
    let mut failed = Vec::new();
    for line in lines.filter(|line| !line.starts_with("# ")) {
        let mut parts = line.split("  =>  ");
        let source = parts.next().unwrap_or_default();
        let wanted = parts.next().unwrap_or_default();
        let code = parts.next();
        let written = to_tex(&from_tex(source));
        let block = Block::new(BlockKind::Formula(Box::new(formula(source))));
        let page = write(&Document::of(vec![block]), &WriteOptions::format(Format::Html));
        let findings = page.expect("it is written").findings;
        let found: Vec<String> = findings.iter().map(|finding| finding.code.to_string()).collect();
        if written != wanted || found.iter().map(String::as_str).next() != code {
            failed.push(format!("{source}\n    {written}\n    {found:?}"));
        }
    }
    assert!(failed.is_empty(), "{}", failed.join("\n"));
}

/// Nothing overflows, hangs or grows out of bounds.
#[test]
fn hostile_formulas_end() {
    let deep = 20_000;
    let sources = [
        "{".repeat(deep),
        "}".repeat(deep),
        r"\frac{".repeat(deep),
        r"\sqrt ".repeat(deep),
        r"\left(".repeat(deep),
        r"\begin{matrix}".repeat(deep),
        r"\displaystyle ".repeat(deep),
        r"\color{red}".repeat(deep),
        "a_".repeat(deep),
        "a_1".repeat(deep),
        "_{a^".repeat(deep),
        r"\text{$".repeat(deep),
        r"a\over ".repeat(deep),
        r"\hat".repeat(deep),
        r"\not".repeat(deep),
        "&".repeat(deep),
        r"\\".repeat(deep),
        "'".repeat(deep),
        r"\ce{".repeat(deep),
        format!(r"\ce{{{}}}", "^+".repeat(deep)),
        format!(r"\ce{{{}}}", "[".repeat(deep)),
        r"\begin{align}".to_string() + &r"a&\intertext{".repeat(deep),
    ];
    let run = move || {
        for source in sources {
            let written = to_tex(&from_tex(&source));
            let length = source.len() * 40 + 1000;
            assert!(written.len() < length, "{} of {}", written.len(), &source[..20]);
            for format in [Format::Html, Format::Word] {
                let block = Block::new(BlockKind::Formula(Box::new(formula(&source))));
                let written = write(&Document::of(vec![block]), &WriteOptions::format(format));
                assert!(written.is_ok());
            }
        }
    };
    let thread = std::thread::Builder::new().stack_size(2 << 20).spawn(run).expect("it starts");
    thread.join().expect("nothing overflows");
}
