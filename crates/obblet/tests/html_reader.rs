//! The HTML reader on hostile pages.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

use obblet::{Format, ReadOptions, WriteOptions, convert, read, write};

/// 100,000 open elements of each kind, read and written both ways on a small stack.
#[test]
fn deep_pages_end_in_a_finding() {
    let check = || {
        for tags in
            ["<div>", "<ul><li>", "<span>", "<b>", "<blockquote>", "<section role=doc-endnotes>"]
        {
            let page = tags.repeat(100_000) + "ebb";
            let reading = read(page.as_bytes(), Format::Html, &ReadOptions::default()).unwrap();
            let codes: Vec<_> = reading.findings.iter().map(|f| f.code.name()).collect();
            assert!(
                codes.contains(&"nesting-too-deep") || tags.contains("endnotes"),
                "{tags} {codes:?}"
            );
            for format in [Format::Html, Format::Markdown] {
                assert!(write(&reading.document, &WriteOptions::format(format)).is_ok(), "{tags}");
            }
            // Raw HTML in Markdown goes through the sanitiser.
            let options = WriteOptions::format(Format::Html);
            assert!(convert(page.as_bytes(), Format::Markdown, &options).is_ok(), "{tags}");
        }
    };
    std::thread::Builder::new().stack_size(2 << 20).spawn(check).unwrap().join().unwrap();
}
