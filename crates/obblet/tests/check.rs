//! Checks on the cases in `fixtures/check.txt`, the validity of the pieces in `fixtures/validity.txt`,
//! and hostile input.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

mod fixture;

use obblet::check::{CheckOptions, check, mend_source};
use obblet::findings::{Severity, Topic};
use obblet::{Format, House};
use std::fmt::Write as _;
use std::path::Path;

/// What is found, a line each.
fn told(source: &[u8], format: Format, house: &House) -> String {
    let options = CheckOptions { house: house.clone(), ..CheckOptions::default() };
    let mut out = String::new();
    for finding in &check(source, format, &options, &()).unwrap().findings {
        let place = finding.position.map_or("-".into(), |at| format!("{}:{}", at.line, at.column));
        writeln!(
            out,
            "{place} {} {}: {}",
            finding.code.severity(),
            finding.code,
            finding.message()
        )
        .unwrap();
    }
    out
}

#[test]
fn cases_are_found_and_mended_as_they_say() {
    fixture::check("check.txt", |case| {
        let format = Format::of_name(case.part("format")).unwrap_or(Format::Markdown);
        let house = House::from_toml(case.part("house")).unwrap();
        let source = case.part("source").to_owned() + "\n";
        let mut parts = vec![("found", told(source.as_bytes(), format, &house))];
        if case.has("mended") {
            let mended = mend_source(source.as_bytes(), format, &house, &()).unwrap();
            let text = mended.map_or("nothing".into(), |mended| mended.text);
            if let Some(again) = mend_source(text.as_bytes(), format, &house, &()).unwrap() {
                assert_eq!(again.text, text, "{}: mended twice", case.name);
            }
            parts.push(("mended", text));
        }
        parts
    });
}

/// What a mended source had stays: its line endings, and what a program has logged.
#[test]
fn line_endings_and_drawers_stay() {
    let mended = |source: &str, format: Format| {
        let mended = mend_source(source.as_bytes(), format, &House::default(), &()).unwrap();
        mended.map(|mended| mended.text)
    };
    let dos = "# A\r\n\r\nHigh  water\r\n";
    assert_eq!(mended(dos, Format::Markdown).as_deref(), Some("# A\r\n\r\nHigh water\r\n"));
    assert_eq!(mended("# A\r\n\nHigh  water\n", Format::Markdown), None);
    assert_eq!(mended("\\section{A}\n\nHigh  water\n", Format::Latex), None);
    let log = "* A\n:LOGBOOK:\n- State \"DONE\"       from \"TODO\"\n:END:\nHigh  water\n";
    assert_eq!(mended(log, Format::Org), Some(log.replace("High  water", "High water")));
    let only_log = "* A\n:LOGBOOK:\n- State \"DONE\"       from \"TODO\"\n:END:\nHigh water\n";
    assert_eq!(mended(only_log, Format::Org), None);
}

/// A piece of a page as a page.
fn page_of(piece: &str) -> String {
    let start = piece.to_ascii_lowercase();
    if start.starts_with("<!doctype") || start.starts_with("<html") {
        return piece.into();
    }
    let head = "<meta charset=\"utf-8\"><title>Mill</title>";
    format!(
        "<!DOCTYPE html>\n<html lang=\"en\">\n<head>{head}</head>\n<body>\n{piece}\n</body>\n</html>\n"
    )
}

#[test]
fn valid_pieces_are_told_from_others() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/fixtures/validity.txt");
    let list = std::fs::read_to_string(path).unwrap();
    let mut pieces: Vec<(char, String)> = Vec::new();
    for line in list.lines() {
        match line.split_at_checked(2) {
            Some((mark, piece)) if ["+ ", "- ", "~ ", "! "].contains(&mark) => {
                pieces.push((mark.chars().next().unwrap(), piece.into()));
            }
            _ if line.is_empty() || line.starts_with('#') => {}
            _ => {
                let (_, piece) = pieces.last_mut().unwrap();
                piece.push('\n');
                piece.push_str(line);
            }
        }
    }
    assert!(pieces.len() > 400, "{}", pieces.len());
    let mut wrong = String::new();
    for (mark, piece) in pieces {
        let checked =
            check(page_of(&piece).as_bytes(), Format::Html, &CheckOptions::default(), &()).unwrap();
        let errors: Vec<String> = checked
            .findings
            .iter()
            .filter(|f| f.code.topic() == Topic::Html && f.code.severity() == Severity::Error)
            .map(|finding| finding.message())
            .collect();
        let is_valid = matches!(mark, '+' | '!');
        if is_valid != errors.is_empty() {
            writeln!(wrong, "{mark} {piece}\n    {errors:?}").unwrap();
        }
    }
    assert!(wrong.is_empty(), "{wrong}");
}
