//! Any text as a formula of TeX: written as TeX and as MathML, and read from both again. No panic, no hang,
//! and what was written twice is the same.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::notation::{from_tex, to_tex};
use obblet::{Format, WriteOptions, convert};

fuzz_target!(|source: &str| {
    let once = to_tex(&from_tex(source));
    let twice = to_tex(&from_tex(&once));
    assert_eq!(to_tex(&from_tex(&twice)), twice, "--- from\n{source}\n--- once\n{once}");
    // What is full of control characters is a binary file and is refused.
    let line = source.replace(|c: char| c == '$' || c.is_control(), " ");
    let page = format!("$${line}$$\n");
    for format in [Format::Html, Format::Word, Format::Latex] {
        let written = convert(page.as_bytes(), Format::Markdown, &WriteOptions::format(format));
        let written = written.expect("a formula is no reason to write nothing");
        let back = WriteOptions::format(Format::Markdown);
        convert(&written.bytes, format, &back).expect("what is written can be read");
    }
});
