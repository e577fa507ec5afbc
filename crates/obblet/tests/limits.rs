//! Every limit that a caller can set is reached, and ends what it is for.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

use obblet::check::{CheckOptions, check};
use obblet::compare::{CompareOptions, compare};
use obblet::{
    Cancel, Converter, Exceeded, Format, Limits, ReadOptions, Resolver, WriteOptions, Written,
    convert, read, write,
};
use std::time::{Duration, Instant};

const TEXT_FORMATS: [Format; 5] =
    [Format::Markdown, Format::Html, Format::Latex, Format::Org, Format::Text];

const FORMATS: [Format; 6] =
    [Format::Markdown, Format::Html, Format::Latex, Format::Org, Format::Text, Format::Word];

/// The same text in a format.
fn source(format: Format, paragraphs: usize) -> Vec<u8> {
    let text = "High water at *noon*, low water at six; see [the tables](tides.html).\n\n";
    let text = format!("# Tides\n\n{}", text.repeat(paragraphs));
    convert(text.as_bytes(), Format::Markdown, &WriteOptions::format(format)).unwrap().bytes
}

fn converted(
    source: &[u8],
    from: Format,
    to: Format,
    limits: &Limits,
) -> Result<Written, Exceeded> {
    limits.run(|| convert(source, from, &WriteOptions::format(to)).unwrap())
}

/// The steps of a conversion, by halving.
fn steps_of(source: &[u8], from: Format, to: Format) -> u64 {
    let (mut least, mut most) = (0_u64, 1 << 17);
    while most - least > most / 16 {
        let steps = least.midpoint(most);
        let limits = Limits { steps, ..Limits::default() };
        match converted(source, from, to, &limits) {
            Ok(_) => most = steps,
            Err(exceeded) => {
                assert_eq!(exceeded, Exceeded::Steps(steps), "{from} to {to}");
                least = steps;
            }
        }
    }
    most
}

#[test]
fn steps_grow_with_the_source_from_every_format_into_every_other() {
    for from in FORMATS {
        let (short, long) = (source(from, 60), source(from, 120));
        for to in FORMATS {
            let (one, two) = (steps_of(&short, from, to), steps_of(&long, from, to));
            assert!(one > 200, "{from} to {to}: {one} steps");
            assert!(two > one * 13 / 10 && two < one * 23 / 10, "{from} to {to}: {one}, {two}");
        }
    }
}

#[test]
fn a_spent_limit_ends_the_work_soon() {
    for from in TEXT_FORMATS {
        let source = source(from, 8_000);
        let begun = Instant::now();
        converted(&source, from, Format::Html, &Limits::default()).unwrap();
        let whole = begun.elapsed();
        let limits = Limits { steps: 2_000, ..Limits::default() };
        let begun = Instant::now();
        converted(&source, from, Format::Html, &limits).unwrap_err();
        // What passes over the bytes once, as decoding does, still does.
        assert!(begun.elapsed() * 2 < whole, "{from}: {:?} of {whole:?}", begun.elapsed());
    }
}

#[test]
fn somebody_else_can_cancel() {
    let source = source(Format::Markdown, 200_000);
    let cancel = Cancel::default();
    let limits = Limits { cancel: cancel.clone(), ..Limits::default() };
    let other = std::thread::spawn(move || {
        std::thread::sleep(Duration::from_millis(50));
        cancel.cancel();
    });
    let ended = converted(&source, Format::Markdown, Format::Word, &limits);
    assert_eq!(ended.unwrap_err(), Exceeded::Cancelled);
    other.join().unwrap();
}

#[test]
fn limits_inside_of_others_leave_those_in_force() {
    let source = source(Format::Markdown, 400);
    let inner = Limits { steps: 1_000, ..Limits::default() };
    let outer = Limits { steps: 50_000, ..Limits::default() };
    let work = |limits: &Limits| converted(&source, Format::Markdown, Format::Html, limits);
    let ended = outer.run(|| {
        assert_eq!(work(&inner).unwrap_err(), Exceeded::Steps(1_000));
        // The failure inside is no failure of what is around it.
        assert!(work(&Limits { steps: 40_000, ..Limits::default() }).is_ok());
    });
    assert!(ended.is_ok());
    let ended = outer.run(|| (0..9).map(|_| work(&Limits::default()).is_ok()).collect::<Vec<_>>());
    assert_eq!(ended.unwrap_err(), Exceeded::Steps(50_000));
    assert!(work(&Limits::default()).is_ok(), "a limit is still in force behind its work");
}

#[test]
fn nodes_and_bytes_have_limits() {
    for from in FORMATS {
        let source = source(from, 40);
        let limits = Limits { nodes: 60, ..Limits::default() };
        let ended =
            limits.run(|| read(&source, from, &ReadOptions::default()).map(|_| ()).unwrap());
        assert_eq!(ended.unwrap_err(), Exceeded::Nodes(60), "{from}");
        let limits = Limits { nodes: 1_000, ..Limits::default() };
        assert!(limits.run(|| read(&source, from, &ReadOptions::default()).unwrap()).is_ok());
    }
    let reading = read(&source(Format::Markdown, 400), Format::Markdown, &ReadOptions::default());
    let document = reading.unwrap().document;
    for to in FORMATS {
        let limits = Limits { output_bytes: 2_000, ..Limits::default() };
        let ended = limits.run(|| write(&document, &WriteOptions::format(to)).map(|_| ()).unwrap());
        assert_eq!(ended.unwrap_err(), Exceeded::OutputBytes(2_000), "{to}");
    }
}

#[test]
fn comparing_and_checking_are_work_as_well() {
    let sides = [source(Format::Markdown, 500), source(Format::Markdown, 600)];
    let limits = Limits { steps: 5_000, ..Limits::default() };
    let [left, right] = sides
        .each_ref()
        .map(|source| read(source, Format::Markdown, &ReadOptions::default()).unwrap().document);
    let ended = limits.run(|| compare(&left, &right, &CompareOptions::default()));
    assert_eq!(ended.unwrap_err(), Exceeded::Steps(5_000));
    for format in FORMATS {
        let source = source(format, 500);
        let ended =
            limits.run(|| check(&source, format, &CheckOptions::default(), &()).map(|_| ()));
        assert_eq!(ended.unwrap_err(), Exceeded::Steps(5_000), "{format}");
    }
}

/// Gives every file the same text.
struct Every(&'static str);

impl Resolver for Every {
    fn resolve(&self, _: &str) -> Option<Vec<u8>> {
        Some(self.0.as_bytes().to_vec())
    }
}

/// The codes of what is said about a conversion under limits.
fn codes(source: &str, from: Format, to: Format, limits: &Limits) -> Vec<String> {
    let options = WriteOptions::format(to);
    let written = limits.run(|| {
        Converter::with_options(&options)
            .from(from)
            .resolver(&Every("Weir.\n"))
            .convert(source.as_bytes())
            .unwrap()
    });
    written.unwrap().findings.iter().map(|finding| finding.code.to_string()).collect()
}

#[test]
fn what_would_grow_is_stopped_with_a_finding() {
    let of = |change: fn(&mut Limits)| {
        let mut limits = Limits::default();
        change(&mut limits);
        limits
    };
    let macros = "\\newcommand{\\a}{Weir}\\begin{document}\\a{} \\a{} \\a{} \\a\\end{document}";
    let inputs = "\\begin{document}\\input{a} \\input{b} \\input{c}\\end{document}";
    let includes = "#+INCLUDE: a.org\n#+INCLUDE: b.org\n#+INCLUDE: c.org\n";
    let table = format!("<table><tr>{}{}</table>", "<td>x".repeat(20), "<tr><td>y".repeat(20));
    let table = table.as_str();
    let cases = [
        (macros, Format::Latex, "macro-limit", of(|limits| limits.expansions = 2)),
        (inputs, Format::Latex, "macro-limit", of(|limits| limits.included_files = 2)),
        (inputs, Format::Latex, "macro-limit", of(|limits| limits.included_bytes = 13)),
        (includes, Format::Org, "include-missing", of(|limits| limits.included_files = 2)),
        (includes, Format::Org, "include-missing", of(|limits| limits.included_bytes = 13)),
        (table, Format::Html, "node-not-carried", of(|limits| limits.empty_cells = 0)),
    ];
    for (source, from, code, limits) in cases {
        let without = codes(source, from, Format::Word, &Limits::default());
        assert!(!without.iter().any(|found| found == code), "{source}: {without:?}");
        let with = codes(source, from, Format::Word, &limits);
        assert!(with.iter().any(|found| found == code), "{source}: {with:?}");
    }
}

#[test]
fn a_package_may_not_unpack_to_more() {
    let source = source(Format::Word, 400);
    let limits = Limits { unpacked_bytes: 1 << 10, ..Limits::default() };
    let ended = limits.run(|| read(&source, Format::Word, &ReadOptions::default()).map(|_| ()));
    let why = ended.unwrap().unwrap_err().to_string();
    assert!(why.contains("1024 bytes"), "{why}");
}
