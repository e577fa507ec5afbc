//! Any two texts, compared: no panic, no hang, and the same both ways.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::compare::{Change, CompareOptions, compare};
use obblet::{Format, ReadOptions, read};

fuzz_target!(|texts: (&str, &str)| {
    let document = |text: &str| {
        let reading = read(text.as_bytes(), Format::Markdown, &ReadOptions::default());
        reading.map(|reading| reading.document).ok()
    };
    let (Some(left), Some(right)) = (document(texts.0), document(texts.1)) else { return };
    let options = CompareOptions::default();
    let (there, back) = (compare(&left, &right, &options), compare(&right, &left, &options));
    assert_eq!(there.is_same(), back.is_same(), "--- one\n{}\n--- other\n{}", texts.0, texts.1);
    for difference in &there.differences {
        assert!(!difference.what.is_empty() || difference.change == Change::Moved);
    }
});
