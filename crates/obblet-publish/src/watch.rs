//! Noticing that something in a folder has changed.

use notify::{Event, EventKind, RecommendedWatcher, RecursiveMode, Watcher as _};
use std::path::Path;
use std::sync::{Arc, Condvar, Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

/// How long nothing must change before a change is over: editors write in several steps.
const QUIET: Duration = Duration::from_millis(120);

/// Notices changes in folders.
///
/// ```no_run
/// use obblet_publish::Changes;
/// use std::{path::Path, time::Duration};
/// # fn main() -> Result<(), notify::Error> {
/// let changes = Changes::watch(&[Path::new("texts")])?;
/// let mut seen = changes.count();
/// while let Some(now) = changes.wait(seen, Duration::from_secs(3600)) {
///     println!("something has changed");
///     seen = now;
/// }
/// # Ok(())
/// # }
/// ```
pub struct Changes {
    counter: Arc<Counter>,
    /// Watches as long as it lives.
    _watcher: RecommendedWatcher,
}

#[derive(Default)]
struct Counter {
    state: Mutex<State>,
    changed: Condvar,
}

#[derive(Default)]
struct State {
    count: u64,
    last: Option<Instant>,
}

impl Changes {
    /// Watches folders with all that is in them.
    ///
    /// # Errors
    /// What the system says when it cannot watch one.
    pub fn watch(folders: &[&Path]) -> Result<Self, notify::Error> {
        let counter = Arc::new(Counter::default());
        let noting = counter.clone();
        let mut watcher = notify::recommended_watcher(move |event: notify::Result<Event>| {
            // Reading is no change; what cannot be told may be one.
            if event.map_or(true, |event| !matches!(event.kind, EventKind::Access(_))) {
                noting.note();
            }
        })?;
        for folder in folders {
            watcher.watch(folder, RecursiveMode::Recursive)?;
        }
        Ok(Self { counter, _watcher: watcher })
    }

    /// How many changes there have been.
    #[must_use]
    pub fn count(&self) -> u64 {
        self.counter.lock().count
    }

    /// Waits until there have been more changes than somebody has seen, and for the last one to be
    /// over. Gives how many there have been; `None` when that takes too long.
    #[must_use]
    pub fn wait(&self, seen: u64, longest: Duration) -> Option<u64> {
        let end = Instant::now() + longest;
        let mut state = self.counter.lock();
        loop {
            let now = Instant::now();
            let quiet = state.last.map_or(QUIET, |last| now.duration_since(last));
            if state.count != seen && quiet >= QUIET {
                return Some(state.count);
            }
            if now >= end {
                return None;
            }
            let rest = if state.count == seen { end - now } else { QUIET - quiet.min(QUIET) };
            let waited =
                self.counter.changed.wait_timeout(state, rest.max(Duration::from_millis(1)));
            state = waited.unwrap_or_else(PoisonError::into_inner).0;
        }
    }
}

impl Counter {
    fn lock(&self) -> MutexGuard<'_, State> {
        self.state.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn note(&self) {
        let mut state = self.lock();
        state.count += 1;
        state.last = Some(Instant::now());
        drop(state);
        self.changed.notify_all();
    }
}
