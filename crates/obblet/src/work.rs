//! How much work the library does on this thread: steps of every loop whose length a hostile text could
//! stretch, and the limits that somebody has set for it.
//!
//! The count belongs to the thread, not to an argument: it is taken in hundreds of places, the innermost
//! scanners among them. When a limit is reached, the loops of readers and writers act as if their input
//! had ended; whoever set the limit throws away what they made.

use crate::limits::{Exceeded, Limits};
use std::cell::{Cell, RefCell};

/// After how many steps the limits are looked at.
const LOOK: u64 = 4096;

/// What is looked at all the time; everything else is in [`Hold`].
struct Meter {
    /// Steps that this thread has taken.
    taken: Cell<u64>,
    /// The count at which the limits are looked at; 0 when the work is over.
    look_at: Cell<u64>,
    /// Nodes that may still be read.
    nodes_left: Cell<usize>,
    /// Bytes that an output may have.
    most_bytes: Cell<usize>,
}

thread_local! {
    static METER: Meter = const {
        Meter {
            taken: Cell::new(0),
            look_at: Cell::new(u64::MAX),
            nodes_left: Cell::new(usize::MAX),
            most_bytes: Cell::new(usize::MAX),
        }
    };
    static INNERMOST: RefCell<Option<Box<Hold>>> = const { RefCell::new(None) };
}

/// Limits that are in force.
struct Hold {
    limits: Limits,
    /// The count at which these limits, or those around them, end the work.
    ends_at: u64,
    exceeded: Option<Exceeded>,
    /// The nodes that those around may still read, and the bytes they may write.
    left_around: (usize, usize),
    outer: Option<Box<Hold>>,
}

impl Hold {
    /// What ends the work after so many steps of the thread.
    fn ended_by(&self, taken: u64) -> Option<Exceeded> {
        if self.limits.cancel.is_cancelled() {
            return Some(Exceeded::Cancelled);
        }
        match &self.outer {
            _ if taken < self.ends_at => self.outer.as_ref()?.ended_by(taken),
            Some(outer) if outer.ends_at <= taken => outer.ended_by(taken),
            _ => Some(Exceeded::Steps(self.limits.steps)),
        }
    }
}

/// Counts steps.
#[inline(always)]
pub(crate) fn count(steps: usize) {
    METER.with(|meter| {
        let taken = meter.taken.get().wrapping_add(steps as u64);
        meter.taken.set(taken);
        if taken >= meter.look_at.get() {
            look(meter);
        }
    });
}

/// Whether the work is to end: a limit is reached, or somebody cancelled.
#[inline(always)]
pub(crate) fn is_over() -> bool {
    METER.with(|meter| meter.look_at.get() == 0)
}

/// Counts nodes of a document that was read.
#[inline]
pub(crate) fn count_nodes(nodes: usize) {
    count(nodes);
    METER.with(|meter| match meter.nodes_left.get().checked_sub(nodes) {
        Some(left) => meter.nodes_left.set(left),
        None => end(meter, |limits| Exceeded::Nodes(limits.nodes)),
    });
}

/// Counts a step of a writer, whose output has so many bytes by now.
#[inline]
pub(crate) fn count_output(bytes: usize) {
    count(1);
    METER.with(|meter| {
        if bytes > meter.most_bytes.get() {
            end(meter, |limits| Exceeded::OutputBytes(limits.output_bytes));
        }
    });
}

/// Looks at the limits.
#[cold]
fn look(meter: &Meter) {
    INNERMOST.with_borrow_mut(|innermost| {
        let Some(hold) = innermost else { return meter.look_at.set(u64::MAX) };
        let taken = meter.taken.get();
        if hold.exceeded.is_none() {
            hold.exceeded = hold.ended_by(taken);
        }
        let next = taken.saturating_add(LOOK).min(hold.ends_at);
        meter.look_at.set(if hold.exceeded.is_some() { 0 } else { next });
    });
}

/// Ends the work, unless something has ended it before.
#[cold]
fn end(meter: &Meter, because: impl FnOnce(&Limits) -> Exceeded) {
    INNERMOST.with_borrow_mut(|innermost| {
        let Some(hold) = innermost else { return };
        hold.exceeded = hold.exceeded.or_else(|| Some(because(&hold.limits)));
        meter.look_at.set(0);
    });
}

/// One of the limits in force.
pub(crate) fn limit<T>(get: impl Fn(&Limits) -> T) -> T {
    INNERMOST.with_borrow(|innermost| match innermost {
        Some(hold) => get(&hold.limits),
        None => get(&Limits::default()),
    })
}

/// Puts limits in force, until what this gives is gone.
fn hold(limits: &Limits) -> Held {
    METER.with(|meter| {
        let left_around = (meter.nodes_left.get(), meter.most_bytes.get());
        INNERMOST.with_borrow_mut(|innermost| {
            let outer = innermost.take();
            let ends_at = meter.taken.get().saturating_add(limits.steps);
            let ends_at = outer.as_ref().map_or(ends_at, |outer| outer.ends_at.min(ends_at));
            let limits = limits.clone();
            let hold = Hold { limits, ends_at, exceeded: None, left_around, outer };
            *innermost = Some(Box::new(hold));
        });
        meter.nodes_left.set(limits.nodes);
        meter.most_bytes.set(limits.output_bytes);
        look(meter);
    });
    Held
}

impl Limits {
    /// Does some work of this library under these limits, on this thread. Inside other limits, the
    /// steps and the `cancel` of those hold as well.
    ///
    /// # Errors
    /// [`Exceeded`] when the work was ended before it was done.
    pub fn run<T>(&self, work: impl FnOnce() -> T) -> Result<T, Exceeded> {
        let held = hold(self);
        let done = work();
        match held.exceeded() {
            Some(exceeded) => Err(exceeded),
            None => Ok(done),
        }
    }
}

/// Limits are in force as long as this is there.
struct Held;

impl Held {
    /// Which limit has ended the work; also one that was reached just now.
    fn exceeded(&self) -> Option<Exceeded> {
        METER.with(look);
        INNERMOST.with_borrow(|innermost| innermost.as_ref()?.exceeded)
    }
}

impl Drop for Held {
    fn drop(&mut self) {
        METER.with(|meter| {
            INNERMOST.with_borrow_mut(|innermost| {
                let Some(hold) = innermost.take() else { return };
                meter.nodes_left.set(hold.left_around.0);
                meter.most_bytes.set(hold.left_around.1);
                *innermost = hold.outer;
            });
            look(meter);
        });
    }
}

#[cfg(test)]
pub(crate) use counted::assert_linear;

#[cfg(test)]
mod counted {
    use super::METER;

    /// The steps that some work takes.
    fn steps_of(work: impl FnOnce()) -> u64 {
        let taken = || METER.with(|meter| meter.taken.get());
        let before = taken();
        work();
        taken() - before
    }

    /// Doubled twice, a text takes at most twice the work, and a little.
    pub(crate) fn assert_linear(
        name: &str,
        size: usize,
        text: impl Fn(usize) -> String,
        work: impl Fn(&str),
    ) {
        let steps = |size| {
            let text = text(size);
            steps_of(|| work(&text))
        };
        let (one, two, four) = (steps(size), steps(2 * size), steps(4 * size));
        assert!(one > 0, "{name}: nothing was counted");
        let at_most = |before: u64| before * 22 / 10 + 1000;
        assert!(two <= at_most(one) && four <= at_most(two), "{name}: {one}, {two}, {four} steps");
    }
}
