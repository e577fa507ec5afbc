//! Four threads in one process, for minutes: three convert hostile sources under limits, one friendly ones.
//! Memory stays flat, and the friendly ones take no longer at the end than at the beginning.

use crate::kind::{Kind, kinds};
use crate::task::TASKS;
use obblet::{Cancel, Limits};
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::{Duration, Instant};

/// Steps that one hostile conversion may take.
const STEPS: u64 = 20_000;
const HOSTILE_THREADS: usize = 3;
const SIZE: usize = 8 << 10;

/// Memory that may be left from one minute to another, in bytes: caches fill at first.
const DRIFT: usize = 16 << 20;

/// Runs for so many minutes, and says each minute what was done and what memory there is.
pub(crate) fn soak(minutes: u64, memory: impl Fn() -> usize + Sync) {
    let kinds = kinds();
    let (hostile, exceeded, friendly) =
        (AtomicUsize::new(0), AtomicUsize::new(0), AtomicUsize::new(0));
    let end = Cancel::default();
    std::thread::scope(|scope| {
        for thread in 0..HOSTILE_THREADS {
            let (kinds, end, hostile, exceeded) = (&kinds, &end, &hostile, &exceeded);
            scope.spawn(move || {
                let limits = Limits { steps: STEPS, cancel: end.clone(), ..Limits::default() };
                let mine = || kinds.iter().skip(thread).step_by(HOSTILE_THREADS);
                for kind in mine().cycle().take_while(|_| !end.is_cancelled()) {
                    let source = kind.source(SIZE);
                    for task in TASKS {
                        let done = limits.run(|| task.run(kind, &source));
                        hostile.fetch_add(1, Ordering::Relaxed);
                        exceeded.fetch_add(usize::from(done.is_err()), Ordering::Relaxed);
                    }
                }
            });
        }
        let (kinds, end, friendly) = (&kinds, &end, &friendly);
        let ordinary: Vec<&Kind> = kinds.iter().filter(|kind| kind.is_ordinary()).collect();
        let waits = scope.spawn(move || {
            let mut longest = Duration::ZERO;
            for kind in ordinary.into_iter().cycle().take_while(|_| !end.is_cancelled()) {
                let source = kind.source(SIZE);
                for task in TASKS {
                    let begun = Instant::now();
                    task.run(kind, &source);
                    longest = longest.max(begun.elapsed());
                    friendly.fetch_add(1, Ordering::Relaxed);
                }
            }
            longest
        });
        let mut held = Vec::new();
        for minute in 1..=minutes {
            std::thread::sleep(Duration::from_secs(60));
            // Between documents there is little; the least of some looks is what is kept.
            let looks = (0..200).map(|_| {
                std::thread::sleep(Duration::from_millis(10));
                memory()
            });
            held.push(looks.min().unwrap_or_default());
            let count = |counter: &AtomicUsize| counter.load(Ordering::Relaxed);
            println!(
                "minute {minute}: {} hostile, {} of them ended by their limit, {} friendly; {} kB held",
                count(&hostile),
                count(&exceeded),
                count(friendly),
                held[held.len() - 1] >> 10
            );
        }
        end.cancel();
        let longest = waits.join().expect("friendly sources are converted");
        println!("the longest friendly task took {longest:?}");
        let (first, last) = (held[0], held[held.len() - 1]);
        assert!(last <= first + DRIFT, "memory grew from {first} to {last} bytes");
    });
}
