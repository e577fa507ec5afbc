//! The Markdown writer: what it writes reads back as the same document, and a second trip changes
//! no byte.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

mod examples;
mod fixture;
mod generated;

use obblet::document::Document;
use obblet::formats::markdown::{
    self, BulletMark, Dialect, EmphasisMark, FenceMark, HeadingForm, LinkForm, MarkdownReadOptions,
    MarkdownWriteOptions, Switch, Switches, TableForm,
};
use obblet::{Format, House};
use proptest::prelude::*;
use proptest::test_runner::TestCaseError;
use proptest::test_runner::TestError;
use serde_json::Value;

fn read(text: &str, switches: Switches) -> Document {
    markdown::read(text, &MarkdownReadOptions { switches }).0
}

/// A document as plain data, without places and without where front matter came from.
fn content(document: &Document) -> Value {
    let mut value = serde_json::to_value(document).unwrap();
    drop_places(&mut value);
    value
}

fn drop_places(value: &mut Value) {
    match value {
        Value::Object(fields) => {
            fields.remove("place");
            fields.values_mut().for_each(drop_places);
        }
        Value::Array(items) => items.iter_mut().for_each(drop_places),
        _ => {}
    }
}

/// The first place at which two documents differ.
fn difference(one: &Value, two: &Value) -> Option<String> {
    let inside = |name: &str, one: Option<&Value>, two: Option<&Value>| {
        let (one, two) = (one.unwrap_or(&Value::Null), two.unwrap_or(&Value::Null));
        difference(one, two).map(|inner| format!("{name} {inner}"))
    };
    match (one, two) {
        _ if one == two => None,
        (Value::Object(a), Value::Object(b)) if a.keys().eq(b.keys()) => {
            a.keys().find_map(|key| inside(key, a.get(key), b.get(key)))
        }
        (Value::Array(a), Value::Array(b)) if a.len() == b.len() => {
            (0..a.len()).find_map(|at| inside(&at.to_string(), a.get(at), b.get(at)))
        }
        _ => Some(format!("\nwanted: {one}\ngot:    {two}")),
    }
}

/// The lines around the first that two texts do not share.
fn line_difference(one: &str, two: &str) -> String {
    let same = one.lines().zip(two.lines()).take_while(|(one, two)| one == two).count();
    let around = |text: &str| {
        let lines: Vec<&str> = text.lines().skip(same.saturating_sub(4)).take(6).collect();
        lines.join("\n")
    };
    format!("\n{}\n--- became\n{}", around(one), around(two))
}

/// What went wrong with one document on its way there and back.
fn fault(document: &Document, options: &MarkdownWriteOptions) -> Option<String> {
    let (text, findings) = markdown::write(document, options).unwrap();
    let back = read(&text, options.switches);
    let said = markdown::sayable_form(document, options);
    let is_ambiguous = findings.iter().any(|f| f.code.name() == "markup-ambiguous");
    if content(&back) != content(&said) && !is_ambiguous {
        let difference = difference(&content(&said), &content(&back)).unwrap_or_default();
        return Some(format!("wrote:\n{text}\n{difference}"));
    }
    if findings.is_empty() && content(&said) != content(document) {
        let (one, two) = (content(document), content(&said));
        return Some(format!("silently changed:\n{one}\nto:\n{two}"));
    }
    let (again, _) = markdown::write(&back, options).unwrap();
    (again != text).then(|| format!("unstable:\n{text}\nthen:\n{again}"))
}

#[test]
fn cases_are_written_as_they_say() {
    fixture::check("markdown_writer.txt", |case| {
        let mut house = House::default();
        let mut source_house = House::default();
        for setting in case.part("set").lines() {
            let (key, value) = setting.split_once('=').unwrap();
            house.set(key, value).unwrap();
        }
        // A source may be read in another dialect than the target is written in.
        if !case.has("read") {
            source_house = house.clone();
        }
        let (text, format) = match case.has("html") {
            true => (case.part("html"), Format::Html),
            false => (case.part("source"), Format::Markdown),
        };
        let reading = obblet::read(text.as_bytes(), format, &source_house.read_options()).unwrap();
        let options = house.markdown_write_options();
        let (written, findings) = markdown::write(&reading.document, &options).unwrap();
        let line = |finding: &obblet::findings::Finding| {
            let subject = finding.subject.as_deref().unwrap_or_default();
            format!("{} {} {subject}", finding.kind(), finding.code)
        };
        let findings: Vec<String> = findings.iter().map(line).collect();
        vec![("markdown", written), ("findings", findings.join("\n"))]
    });
}

#[test]
fn specification_examples_come_back_in_every_dialect() {
    let mut faults = Vec::new();
    for dialect in [Dialect::Standard, Dialect::Forge, Dialect::Full] {
        let switches = dialect.switches();
        let options = MarkdownWriteOptions { switches, ..MarkdownWriteOptions::default() };
        for (name, text) in examples::of_specifications().into_iter().chain(examples::of_demo()) {
            let document = read(&text, switches);
            if let Some(fault) = fault(&document, &options) {
                faults.push(format!("--- {dialect:?} {name}\nsource:\n{text}\n{fault}"));
            }
        }
    }
    let count = faults.len();
    assert!(faults.is_empty(), "{count} faults\n{}", faults.join("\n"));
}

/// Documents at random may say what no Markdown does, so they are compared with what the writer
/// says that it says.
#[test]
fn generated_documents_come_back_as_the_writer_says() {
    // The generator's nested strategies need more room than a test thread has.
    let thread = std::thread::Builder::new().stack_size(256 << 20).spawn(generated_documents);
    thread.unwrap().join().unwrap();
}

fn generated_documents() {
    for (name, options) in variants() {
        let run = generated::runner(60)
            .run(&generated::document(), |document| comes_back(&document, &options));
        if let Err(TestError::Fail(reason, _)) = run {
            panic!("{name}: {reason}");
        }
        assert!(run.is_ok());
    }
}

/// Each dialect, and each other way of writing.
fn variants() -> Vec<(&'static str, MarkdownWriteOptions)> {
    let full = MarkdownWriteOptions::default;
    let dialect =
        |dialect: Dialect| MarkdownWriteOptions { switches: dialect.switches(), ..full() };
    vec![
        ("full", full()),
        ("standard", dialect(Dialect::Standard)),
        ("forge", dialect(Dialect::Forge)),
        ("forge without HTML", MarkdownWriteOptions { html: false, ..dialect(Dialect::Forge) }),
        (
            "other marks",
            MarkdownWriteOptions {
                bullet: BulletMark::Asterisk,
                emphasis: EmphasisMark::Underscore,
                headings: HeadingForm::Underlined,
                fence: FenceMark::Tildes,
                links: LinkForm::Reference,
                tables: TableForm::Compact,
                ..full()
            },
        ),
        ("wrapped", MarkdownWriteOptions { wrap: Some(30), ..full() }),
        (
            "hard wraps and smart punctuation",
            MarkdownWriteOptions {
                switches: full().switches.with(Switch::HardWraps).with(Switch::SmartPunctuation),
                ..full()
            },
        ),
    ]
}

fn comes_back(document: &Document, options: &MarkdownWriteOptions) -> Result<(), TestCaseError> {
    let (text, findings) = markdown::write(document, options).unwrap();
    let back = read(&text, options.switches);
    let said = markdown::sayable_form(document, options);
    let ambiguous = findings.iter().any(|finding| finding.code.name() == "markup-ambiguous");
    // Wrapped lines end elsewhere than the document's.
    if !ambiguous && options.wrap.is_none() {
        let difference = difference(&content(&said), &content(&back));
        prop_assert!(difference.is_none(), "{}\nwrote:\n{}", difference.unwrap_or_default(), text);
    }
    // A text that came back as another may hold links that had no definition before, words where
    // lines were broken, and marks that without HTML nothing can part.
    let settles = options.html && options.links == LinkForm::Inline && options.wrap.is_none();
    if ambiguous && !settles {
        return Ok(());
    }
    let (again, _) = markdown::write(&back, options).unwrap();
    prop_assert!(
        again == text,
        "unstable, ambiguous {ambiguous}: {}",
        line_difference(&text, &again)
    );
    Ok(())
}
