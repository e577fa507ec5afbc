//! Any text, read as Markdown in one of the dialects, written, read and written again: the second
//! text is the first, and the comparison finds no difference.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::compare::{CompareOptions, compare};
use obblet::document::Document;
use obblet::formats::markdown::{
    Dialect, MarkdownReadOptions, MarkdownWriteOptions, Switches, read, sayable_form, write,
};

fn document(text: &str, switches: Switches) -> Document {
    read(text, &MarkdownReadOptions { switches }).0
}

fuzz_target!(|input: (u8, &str)| {
    let (dialect, text) = input;
    let dialect = [Dialect::Full, Dialect::Forge, Dialect::Standard][usize::from(dialect % 3)];
    let switches = dialect.switches();
    let options = MarkdownWriteOptions { switches, ..MarkdownWriteOptions::default() };
    let first = document(text, switches);
    let (written, findings) = write(&first, &options).expect("no reader nests too deep");
    if findings.iter().any(|finding| finding.code.name() == "markup-ambiguous") {
        return;
    }
    let second = document(&written, switches);
    let said = sayable_form(&first, &options);
    let found = compare(&said, &second, &CompareOptions::default());
    assert!(found.is_same(), "{:?}\n--- from\n{text}\n--- written\n{written}", found.differences);
    let (again, _) = write(&second, &options).expect("no reader nests too deep");
    assert_eq!(again, written, "--- from\n{text}");
});
