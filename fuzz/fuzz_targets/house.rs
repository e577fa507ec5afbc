//! Any text as a house file, as its layout and as what it is used for, each behind a zero byte: no panic, no
//! hang.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::{Format, House, WriteOptions, convert};

fuzz_target!(|bytes: &[u8]| {
    let mut parts = bytes.split(|byte| *byte == 0);
    let mut next = || String::from_utf8_lossy(parts.next().unwrap_or_default()).into_owned();
    let (settings, layout, source) = (next(), next(), next());
    let Ok(mut house) = House::from_toml(&settings) else { return };
    if !layout.is_empty() {
        house.page.layout = "own.html".into();
        house.files.insert("own.html".into(), layout.into());
    }
    for format in [Format::Html, Format::Markdown, Format::Word, Format::Latex] {
        let options = WriteOptions { house: house.clone(), ..WriteOptions::format(format) };
        for from in [Format::Markdown, Format::Html] {
            let _ = convert(source.as_bytes(), from, &options);
        }
    }
});
