//! HTML to HTML on the cases in `fixtures/html.txt`: what a page means, without what a program added.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;

use obblet::{Format, WriteOptions, convert};

#[test]
fn cases_read_as_they_say() {
    fixture::check("html.txt", |case| {
        let mut options = WriteOptions::house("body").unwrap();
        for setting in case.part("set").lines() {
            let (key, value) = setting.split_once('=').unwrap();
            options.house.set(key, value).unwrap();
        }
        let written = convert(case.part("source").as_bytes(), Format::Html, &options).unwrap();
        let again = convert(&written.bytes, Format::Html, &options).unwrap();
        assert_eq!(again.text(), written.text(), "{}: a second time", case.name);
        let lines: Vec<String> = written.findings.iter().map(|f| f.line("p.html")).collect();
        vec![("html", written.text().to_string()), ("findings", lines.join("\n"))]
    });
}
