//! Any bytes, read as Markdown and as HTML, then written as HTML: no panic, no hang.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::{Format, WriteOptions, convert};

fuzz_target!(|bytes: &[u8]| {
    let options = WriteOptions::format(Format::Html);
    for format in [Format::Markdown, Format::Html] {
        let written = convert(bytes, format, &options).expect("there is no text it cannot read");
        assert!(written.text().starts_with("<!DOCTYPE html>"));
    }
});
