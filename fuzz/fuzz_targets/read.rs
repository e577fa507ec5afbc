//! Any bytes, read as Markdown and as HTML, then written as HTML: no panic, no hang.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::{ConvertError, Format, ReadError, WriteOptions, convert};

fuzz_target!(|bytes: &[u8]| {
    let options = WriteOptions::format(Format::Html);
    for format in [Format::Markdown, Format::Html] {
        match convert(bytes, format, &options) {
            Ok(written) => assert!(written.text().starts_with("<!DOCTYPE html>")),
            Err(ConvertError::Read(ReadError::NoText { .. })) => {}
            Err(error) => panic!("there is no text it cannot read: {error}"),
        }
    }
});
