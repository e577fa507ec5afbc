//! How much memory long Markdown takes on its way to HTML: at most eight times its own size.
#![cfg(target_os = "linux")]
#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod corpus;
mod process;

use corpus::corpus;
use obblet::{Format, WriteOptions, convert};
use process::peak;

/// The only test of its process: others would add to the peak.
#[test]
fn long_markdown_stays_under_eight_times_its_size() {
    let source = corpus(8 << 20);
    let before = peak();
    let options = WriteOptions::house("body").unwrap();
    let written = convert(source.as_bytes(), Format::Markdown, &options).unwrap();
    assert!(written.bytes.len() > source.len());
    // What the process held before is its own code and the source, which counts.
    let taken = peak() - before + source.len();
    let ratio = taken as f64 / source.len() as f64;
    println!("{ratio:.1} times {} bytes", source.len());
    assert!(ratio <= 8.0, "{ratio:.1} times the source");
}
