//! How much memory long Markdown takes on its way to HTML: at most eight times its own size.
#![cfg(target_os = "linux")]
#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod corpus;

use corpus::corpus;
use obblet::{Format, WriteOptions, convert};

/// The most memory this process has held so far, in bytes.
fn peak() -> usize {
    let status = std::fs::read_to_string("/proc/self/status").unwrap();
    let line = status.lines().find(|line| line.starts_with("VmHWM:")).unwrap();
    let kibibytes: usize = line.split_whitespace().nth(1).unwrap().parse().unwrap();
    kibibytes * 1024
}

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
