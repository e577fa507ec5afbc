//! Any text as Org, read and written as HTML and as Org, and that read again: no panic, no hang.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::{Format, WriteOptions, convert};

fuzz_target!(|bytes: &[u8]| {
    for format in [Format::Html, Format::Org] {
        let options = WriteOptions::format(format);
        if let Ok(written) = convert(bytes, Format::Org, &options) {
            let back = WriteOptions::format(Format::Org);
            convert(&written.bytes, format, &back).expect("what is written can be read");
        }
    }
});
