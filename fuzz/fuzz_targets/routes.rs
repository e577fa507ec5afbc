//! What is done with a source, whatever its format.

use obblet::check::{CheckOptions, check};
use obblet::compare::{CompareOptions, compare};
use obblet::{ConvertError, Format, ReadError, ReadOptions, WriteOptions, convert, read};

const FORMATS: [Format; 6] = [
    Format::Html,
    Format::Markdown,
    Format::Word,
    Format::Latex,
    Format::Org,
    Format::Text,
];

/// Into every format and, from there, back again; compared with itself; checked.
pub fn all(bytes: &[u8], from: Format) {
    let options = ReadOptions::default();
    let Ok(reading) = read(bytes, from, &options) else { return };
    for to in FORMATS {
        let Ok(written) = convert(bytes, from, &WriteOptions::format(to)) else { continue };
        match convert(&written.bytes, to, &WriteOptions::format(from)) {
            Ok(_) => {}
            // What is full of control characters is a binary file.
            Err(ConvertError::Read(ReadError::NoText { .. })) if controls(&written.bytes) > 3 => {}
            Err(error) => panic!("what is written as {to} cannot be read: {error}"),
        }
    }
    let (document, same) = (&reading.document, CompareOptions::default());
    assert!(compare(document, document, &same).is_same(), "it differs from itself");
    check(bytes, from, &CheckOptions::default(), &()).expect("what can be read can be checked");
}

fn controls(bytes: &[u8]) -> usize {
    bytes.iter().filter(|byte| byte.is_ascii_control() && !byte.is_ascii_whitespace()).count()
}
