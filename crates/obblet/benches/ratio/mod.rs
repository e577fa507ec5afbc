//! Two pieces of work done in turn in one run: machines are noisy and differ, their ratio does not.

use std::hint::black_box;
use std::time::{Duration, Instant};

/// The size to work on and the rounds to run. `cargo test --benches` only wants to know that a bench
/// builds and works.
pub(crate) fn workload(size: usize) -> (usize, usize) {
    if std::env::args().any(|argument| argument == "--bench") { (size, 7) } else { (1 << 16, 1) }
}

/// Times both, an odd number of rounds each, and prints the ratio's median and extremes.
pub(crate) fn report<A, B>(
    name: &str,
    reference_name: &str,
    bytes: usize,
    rounds: usize,
    work: impl Fn() -> A,
    reference: impl Fn() -> B,
) {
    let (mut ours, mut theirs) = (Vec::new(), Vec::new());
    for _ in 0..rounds {
        ours.push(timed(&work));
        theirs.push(timed(&reference));
    }
    let mut ratios: Vec<f64> =
        ours.iter().zip(&theirs).map(|(a, b)| a.as_secs_f64() / b.as_secs_f64()).collect();
    ratios.sort_by(f64::total_cmp);
    ours.sort();
    theirs.sort();
    let speed = |time: Duration| bytes as f64 / time.as_secs_f64() / 1e6;
    println!("{name:<24} {:6.1} MB/s of source", speed(ours[rounds / 2]));
    println!("{reference_name:<24} {:6.1} MB/s of source", speed(theirs[rounds / 2]));
    println!(
        "ratio {:.2} (least {:.2}, greatest {:.2})",
        ratios[rounds / 2],
        ratios[0],
        ratios[rounds - 1]
    );
}

fn timed<T>(work: impl Fn() -> T) -> Duration {
    let begun = Instant::now();
    black_box(work());
    begun.elapsed()
}
