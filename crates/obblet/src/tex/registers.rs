//! Counters and lengths.

use super::token::Name;
use crate::hashing::QuickMap;

/// How many counters may be set back, with every step of those above them.
const MOST_SET_BACK: usize = 4_000_000;

/// Which counter or length.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct RegisterId(u32);

/// Counters and lengths.
#[derive(Debug, Default)]
pub(super) struct Registers {
    all: Vec<Register>,
    /// Counters by their names.
    counters: QuickMap<Box<str>, RegisterId>,
    /// Registers without names, by whether they are lengths, and their numbers.
    numbered: QuickMap<(bool, i64), RegisterId>,
    /// How often counters were set back.
    resets: u64,
    /// How many counters were set back.
    set_back: usize,
}

#[derive(Debug, Default)]
struct Register {
    value: i64,
    is_length: bool,
    /// Counters that this one sets back to zero.
    below: Vec<RegisterId>,
    /// The command that shows a counter.
    shown_by: Option<Name>,
    /// When it was set back last.
    reset: u64,
}

impl Registers {
    /// A new number or length, which nothing but its command knows.
    pub(super) fn add(&mut self, is_length: bool) -> RegisterId {
        let id = RegisterId(u32::try_from(self.all.len()).unwrap_or(u32::MAX));
        self.all.push(Register { is_length, ..Register::default() });
        id
    }

    /// The register with this number.
    pub(super) fn numbered(&mut self, is_length: bool, number: i64) -> RegisterId {
        if let Some(id) = self.numbered.get(&(is_length, number)) {
            return *id;
        }
        let id = self.add(is_length);
        self.numbered.insert((is_length, number), id);
        id
    }

    fn at(&self, id: RegisterId) -> Option<&Register> {
        self.all.get(id.0 as usize)
    }

    fn at_mut(&mut self, id: RegisterId) -> Option<&mut Register> {
        self.all.get_mut(id.0 as usize)
    }

    pub(super) fn get(&self, id: RegisterId) -> i64 {
        self.at(id).map_or(0, |register| register.value)
    }

    /// Sets a value and gives the one before.
    pub(super) fn set(&mut self, id: RegisterId, value: i64) -> i64 {
        self.at_mut(id).map_or(0, |register| std::mem::replace(&mut register.value, value))
    }

    pub(super) fn is_length(&self, id: RegisterId) -> bool {
        self.at(id).is_some_and(|register| register.is_length)
    }

    /// The counter of this name, if there is one.
    pub(super) fn counter(&self, name: &str) -> Option<RegisterId> {
        self.counters.get(name).copied()
    }

    /// The counter of this name, which is made if it is not there.
    pub(super) fn counter_or_new(&mut self, name: &str) -> RegisterId {
        if let Some(id) = self.counter(name) {
            return id;
        }
        let id = self.add(false);
        self.counters.insert(name.into(), id);
        id
    }

    /// `below` is set back to zero by `above` from now on, or no longer.
    pub(super) fn count_within(&mut self, below: RegisterId, above: RegisterId, is_within: bool) {
        let Some(above) = self.at_mut(above) else { return };
        above.below.retain(|known| *known != below);
        if is_within {
            above.below.push(below);
        }
    }

    /// Sets all counters to zero that stand below this one. `false` when that was done too often already.
    pub(super) fn reset_below(&mut self, id: RegisterId) -> bool {
        if self.at(id).is_none_or(|register| register.below.is_empty()) {
            return true;
        }
        // Counters may be within each other in a circle.
        self.resets += 1;
        let now = self.resets;
        let mut open = vec![id];
        while let Some(next) = open.pop() {
            let below = self.at_mut(next).map(|it| std::mem::take(&mut it.below));
            let below = below.unwrap_or_default();
            self.set_back += below.len();
            if self.set_back > MOST_SET_BACK {
                return false;
            }
            for counter in &below {
                let Some(register) = self.at_mut(*counter) else { continue };
                register.value = 0;
                if std::mem::replace(&mut register.reset, now) != now {
                    open.push(*counter);
                }
            }
            if let Some(register) = self.at_mut(next) {
                register.below = below;
            }
        }
        true
    }

    /// The command that shows a counter, once it is known.
    pub(super) fn shown_by(&self, id: RegisterId) -> Option<Name> {
        self.at(id)?.shown_by
    }

    pub(super) fn show_by(&mut self, id: RegisterId, command: Name) {
        if let Some(register) = self.at_mut(id) {
            register.shown_by = Some(command);
        }
    }
}
