//! Words that were not found where they were looked for, and may be elsewhere.

use super::align::Aligned;
use super::letters::{next_letter, word_end};
use crate::hashing::QuickMap;
use memchr::memmem;
use std::ops::Range;

/// How often each word is there.
#[derive(Debug, Default)]
pub(super) struct Strays {
    counts: QuickMap<Box<[u8]>, u32>,
}

impl Strays {
    /// The words of a text that no piece was found in.
    pub(super) fn of_gaps(text: &mut Aligned<'_>) -> Self {
        let mut strays = Self::default();
        for gap in text.gaps() {
            for_each_word(text.bytes_of(&gap), |word| strays.add(word));
        }
        strays
    }

    /// All words of a text.
    pub(super) fn of_text(text: &str) -> Self {
        let mut strays = Self::default();
        for_each_word(text.as_bytes(), |word| strays.add(word));
        strays
    }

    /// Words of a stretch that pieces were found in.
    pub(super) fn add_reached(&mut self, text: &Aligned<'_>, range: Range<usize>) {
        let bytes = text.bytes_of(&range);
        let mut at = next_letter(bytes, 0);
        while at < bytes.len() {
            let end = word_end(bytes, at).max(at + 1);
            if text.is_reached(range.start + at) {
                self.add(bytes.get(at..end).unwrap_or_default());
            }
            at = next_letter(bytes, end);
        }
    }

    /// The words that are left, to be looked into.
    pub(super) fn longer(&self) -> Longer {
        let left = self.counts.iter().filter(|(_, count)| **count > 0);
        let words = left.flat_map(|(word, _)| word.iter().copied().chain([b' '])).collect();
        Longer { words, budget: LONGEST_SEARCH }
    }

    pub(super) fn add(&mut self, word: &[u8]) {
        match self.counts.get_mut(word) {
            Some(count) => *count += 1,
            None => {
                self.counts.insert(word.into(), 1);
            }
        }
    }

    /// How many words there are.
    pub(super) fn count(&self) -> u64 {
        self.counts.values().copied().map(u64::from).sum()
    }

    /// Whether a word is there once more, which is taken then.
    pub(super) fn take(&mut self, word: &[u8]) -> bool {
        let count = self.counts.get_mut(word).filter(|count| **count > 0);
        count.map(|count| *count -= 1).is_some()
    }
}

/// Bytes that are gone through for words that have grown together.
const LONGEST_SEARCH: usize = 1 << 26;

/// Words that others may be a part of.
pub(super) struct Longer {
    words: Vec<u8>,
    budget: usize,
}

impl Longer {
    /// Whether one of them has this word in it.
    pub(super) fn have(&mut self, part: &[u8]) -> bool {
        let Some(budget) = self.budget.checked_sub(self.words.len()) else { return false };
        self.budget = budget;
        memmem::find(&self.words, part).is_some()
    }
}

/// Calls `each` with every word of a text.
pub(super) fn for_each_word(text: &[u8], mut each: impl FnMut(&[u8])) {
    let mut at = next_letter(text, 0);
    while at < text.len() {
        let end = word_end(text, at).max(at + 1);
        each(text.get(at..end).unwrap_or_default());
        at = next_letter(text, end);
    }
}
