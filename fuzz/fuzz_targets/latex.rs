//! Any text as LaTeX, read and written as HTML and as LaTeX, and that read again: no panic, no hang.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::{Format, WriteOptions, convert};

fuzz_target!(|bytes: &[u8]| {
    for format in [Format::Html, Format::Latex] {
        let options = WriteOptions::format(format);
        if let Ok(written) = convert(bytes, Format::Latex, &options) {
            let back = WriteOptions::format(Format::Latex);
            convert(&written.bytes, format, &back).expect("what is written can be read");
        }
    }
});
