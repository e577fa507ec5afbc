//! Any text as HTML, cleaned, into every other format, compared with itself and checked: no panic, no hang,
//! no script, and what is written can be read.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::{Format, House, WriteOptions, convert};

mod routes;

fuzz_target!(|bytes: &[u8]| {
    routes::all(bytes, Format::Html);
    let house = House::for_cleaning(bytes);
    let options = WriteOptions { house, ..WriteOptions::format(Format::Html) };
    if let Ok(written) = convert(bytes, Format::Html, &options) {
        let text = written.text().to_ascii_lowercase();
        assert!(!text.contains("<script") && !text.contains("<iframe"), "{text}");
    }
});
