//! Hostile sources of every kind (`kinds.txt`), into every format, compared and checked: what comes out
//! and the memory that is taken stay in proportion to what goes in.
//!
//! `scripts/hostile` runs this again under a machine that counts instructions, at two sizes.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]
#![allow(clippy::string_slice, clippy::indexing_slicing, reason = "a test fails by panicking")]

mod kind;
#[path = "../package/mod.rs"]
mod package;
mod task;

use kind::{Kind, kinds};
use peak_alloc::PeakAlloc;
use task::{TASKS, Task};

#[global_allocator]
static MEMORY: PeakAlloc = PeakAlloc;

/// Bytes of each source when nothing else is said.
const SIZE: usize = 6 << 10;

/// How many bytes of memory may be taken, and may come out, for each byte that goes in; and how many in
/// any case.
const PER_BYTE: usize = 64;
const AT_LEAST: usize = 4 << 20;

fn main() {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    match arguments.iter().map(String::as_str).collect::<Vec<_>>()[..] {
        ["--measure", size, ref which @ ..] => measure(number(size), which),
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
    for kind in &kinds {
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
    println!("hostile: {} kinds, {} tasks each", kinds.len(), TASKS.len());
}
