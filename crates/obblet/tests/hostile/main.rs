//! Hostile sources of every kind (`kinds.txt`), into every format, compared and checked: what comes out
//! and the memory that is taken stay in proportion to what goes in.
//!
//! `scripts/hostile` runs this again under a machine that counts instructions, at two sizes;
//! `cargo test --release -p obblet --test hostile -- --soak 10` keeps four threads at it for ten minutes.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]
#![allow(clippy::string_slice, clippy::indexing_slicing, reason = "a test fails by panicking")]

mod kind;
#[path = "../package/mod.rs"]
mod package;
mod soak;
mod task;

use kind::{Kind, kinds};
use peak_alloc::PeakAlloc;
use task::{TASKS, Task};

#[global_allocator]
static MEMORY: PeakAlloc = PeakAlloc;

/// Bytes of each source in the test, and which share of the kinds it takes: all of them, larger and optimised,
/// are for the script.
const SIZE: usize = 2 << 10;
const EVERY: usize = 4;

/// How many bytes of memory may be taken, and may come out, for each byte that goes in; and how many in
/// any case.
const PER_BYTE: usize = 64;
const AT_LEAST: usize = 8 << 20;

fn main() {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    match arguments.iter().map(String::as_str).collect::<Vec<_>>()[..] {
        ["--measure", size, ref which @ ..] => measure(number(size), which),
        ["--soak", minutes] => soak::soak(number(minutes) as u64, || MEMORY.current_usage()),
        ["--count"] => println!("{}", kinds().len()),
        ["--list", ..] => println!("hostile_sources_stay_in_proportion: test"),
        _ => all_in_proportion(),
    }
}

fn number(text: &str) -> usize {
    text.parse().expect("a number")
}

/// What one task took for one source.
struct Taken {
    /// Bytes that came out.
    written: usize,
    /// Bytes of memory, over those that were taken before.
    memory: usize,
}

fn taken(task: Task, kind: &Kind, source: &[u8]) -> Taken {
    let before = MEMORY.current_usage();
    MEMORY.reset_peak_usage();
    let written = measured(task, kind, source);
    Taken { written, memory: MEMORY.peak_usage().saturating_sub(before) }
}

/// The work that is measured; its name is what the counting of instructions looks for.
#[inline(never)]
fn measured(task: Task, kind: &Kind, source: &[u8]) -> usize {
    task.run(kind, source)
}

/// Some kinds, by their numbers, under every task at a size; a line on each.
fn measure(size: usize, which: &[&str]) {
    let kinds = kinds();
    for kind in which.iter().map(|which| &kinds[number(which)]) {
        let source = kind.source(size);
        for task in TASKS {
            let Taken { written, memory } = taken(task, kind, &source);
            let (format, name) = (kind.format, kind.name);
            println!("{format}\t{name}\t{task}\t{}\t{written}\t{memory}", source.len());
        }
    }
}

/// The test itself.
fn all_in_proportion() {
    let kinds = kinds();
    assert!(kinds.len() > 400, "{} kinds", kinds.len());
    let mut faults = Vec::new();
    let ordinary = kinds.iter().filter(|kind| kind.is_ordinary()).count();
    assert_eq!(ordinary, 6, "one ordinary source for each format");
    for kind in kinds.iter().step_by(EVERY) {
        let source = kind.source(SIZE);
        let most = PER_BYTE * source.len().max(SIZE) + AT_LEAST;
        for task in TASKS {
            let Taken { written, memory } = taken(task, kind, &source);
            if written > most || memory > most {
                let (format, name) = (kind.format, kind.name);
                faults
                    .push(format!("{format}, {name}, {task}: {written} bytes out, {memory} taken"));
            }
        }
    }
    assert!(faults.is_empty(), "{} out of proportion:\n{}", faults.len(), faults.join("\n"));
    println!(
        "hostile: {} of {} kinds, {} tasks each",
        kinds.len().div_ceil(EVERY),
        kinds.len(),
        TASKS.len()
    );
}
