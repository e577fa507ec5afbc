//! How much memory a long Word file takes on its way to HTML: at most ten times its main part.
#![cfg(target_os = "linux")]
#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod package;
mod process;
mod word_corpus;

use obblet::{Format, WriteOptions, convert};
use process::peak;

/// The only test of its process: others would add to the peak.
#[test]
fn a_long_main_part_takes_less_than_ten_times_its_size() {
    let main = word_corpus::main_part(20 << 20);
    let size = main.len();
    let file = word_corpus::word_file(&main);
    drop(main);
    let held = std::fs::read_to_string("/proc/self/statm").unwrap();
    let pages: usize = held.split_whitespace().nth(1).unwrap().parse().unwrap();
    for house in ["body", "looks"] {
        let options = WriteOptions::house(house).unwrap();
        let written = convert(&file, Format::Word, &options).unwrap();
        assert!(written.bytes.len() > size / 20);
        let ratio = (peak() - pages * 4096 + file.len()) as f64 / size as f64;
        println!("{house}: {ratio:.1} times {size} bytes");
        assert!(ratio <= 10.0, "{house}: {ratio:.1} times the main part");
    }
}
