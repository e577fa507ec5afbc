//! What a command may take: memory and time. Hostile documents are bounded by the library; this is for what
//! nobody thought of.

use crate::talk::say;
use std::time::{Duration, Instant};

/// How often it is looked.
const LOOK: Duration = Duration::from_millis(40);

/// Ends the program with words when it takes more memory (in megabytes) or time (in seconds) than this;
/// 0 is no limit.
pub(crate) fn watch(memory: u64, time: u64) {
    if memory == 0 && time == 0 {
        return;
    }
    let began = Instant::now();
    std::thread::spawn(move || {
        loop {
            std::thread::sleep(LOOK);
            if time > 0 && began.elapsed() > Duration::from_secs(time) {
                end(&format!("it takes more than {time} seconds; --time-limit allows more"));
            }
            let taken = memory_stats::memory_stats().map_or(0, |taken| taken.physical_mem as u64);
            if memory > 0 && taken >> 20 > memory {
                end(&format!(
                    "it takes more than {memory} MB of memory; --memory-limit allows more"
                ));
            }
        }
    });
}

fn end(why: &str) -> ! {
    say(&format!("obblet: {why}"));
    std::process::exit(3)
}
