//! Progress on a terminal, and Ctrl-C.

use crate::failure::Code;
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressState, ProgressStyle};
use obblet_publish::Watcher;
use std::sync::atomic::{AtomicBool, Ordering};

/// Whether somebody has pressed Ctrl-C.
pub(crate) fn is_stopped() -> bool {
    STOPPED.load(Ordering::SeqCst)
}

static STOPPED: AtomicBool = AtomicBool::new(false);

/// Lets Ctrl-C end a run in good order; a second one does not wait.
pub(crate) fn listen_for_stop() {
    // Where there is no such key, or somebody listens already, nothing is to be done.
    let _ = ctrlc::set_handler(|| {
        if STOPPED.swap(true, Ordering::SeqCst) {
            std::process::exit(Code::Files as i32);
        }
    });
}

/// A progress bar, on a terminal only.
pub(crate) struct Bar(ProgressBar);

impl Bar {
    pub(crate) fn new() -> Self {
        let bar = ProgressBar::with_draw_target(None, ProgressDrawTarget::stderr());
        let form = "{bar:30} {pos} of {len} steps, {rate}, {eta} left  {wide_msg}";
        if let Ok(style) = ProgressStyle::with_template(form) {
            bar.set_style(style.with_key("rate", rate));
        }
        Self(bar)
    }

    /// Takes the bar away.
    pub(crate) fn finish(&self) {
        self.0.finish_and_clear();
    }
}

/// `364 a second`
fn rate(state: &ProgressState, out: &mut dyn std::fmt::Write) {
    let _ = write!(out, "{:.0} a second", state.per_sec());
}

impl Watcher for Bar {
    fn begins(&self, steps: usize) {
        self.0.set_length(steps as u64);
    }

    fn step(&self, file: &str) {
        self.0.set_message(file.to_string());
        self.0.inc(1);
    }

    fn is_stopped(&self) -> bool {
        is_stopped()
    }
}
