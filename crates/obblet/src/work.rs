//! How much work the library does, counted in its own tests only: steps of every loop whose length a
//! hostile text could stretch. A clock would say something about the machine.

/// Counts steps.
#[cfg(not(test))]
#[inline(always)]
pub(crate) fn count(_steps: usize) {}

#[cfg(test)]
pub(crate) use counted::{assert_linear, count};

#[cfg(test)]
mod counted {
    use std::cell::Cell;

    thread_local! {
        static STEPS: Cell<usize> = const { Cell::new(0) };
    }

    pub(crate) fn count(steps: usize) {
        STEPS.with(|count| count.set(count.get() + steps));
    }

    /// The steps that some work takes.
    fn steps_of(work: impl FnOnce()) -> usize {
        STEPS.with(|count| count.set(0));
        work();
        STEPS.with(Cell::get)
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
        let at_most = |before: usize| before * 22 / 10 + 1000;
        assert!(two <= at_most(one) && four <= at_most(two), "{name}: {one}, {two}, {four} steps");
    }
}
