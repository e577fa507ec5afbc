//! Identifiers: made from words, unique in a page.

use super::CompactString;
use crate::hashing::{QuickMap, QuickSet};
use std::collections::HashSet;

/// An id made from words: letters and digits of any script in lower case, with hyphens where
/// white space or hyphens stood. Empty when there is no letter and no digit.
///
/// ```
/// use obblet::formats::html::id_of_words;
/// assert_eq!(id_of_words("The Miller’s  Tale: 1893"), "the-millers-tale-1893");
/// assert_eq!(id_of_words("潮汐 und Mühle"), "潮汐-und-mühle");
/// ```
#[must_use]
pub fn id_of_words(words: &str) -> String {
    let mut id = String::with_capacity(words.len());
    for c in words.chars() {
        if c.is_alphanumeric() || c == '_' {
            id.extend(c.to_lowercase());
        } else if (c.is_whitespace() || c == '-') && !id.is_empty() && !id.ends_with('-') {
            id.push('-');
        }
    }
    id.truncate(id.trim_end_matches('-').len());
    id
}

/// An id as HTML takes it: no white space, not empty.
pub(crate) fn clean_id(id: &str) -> Option<CompactString> {
    let id = id.trim();
    let clean = match id.contains(char::is_whitespace) {
        true => id.chars().map(|c| if c.is_whitespace() { '-' } else { c }).collect(),
        false => CompactString::from(id),
    };
    (!clean.is_empty()).then_some(clean)
}

/// The ids of a page.
#[derive(Debug, Default)]
pub(crate) struct Ids {
    taken: HashSet<CompactString>,
    /// Those of them that may still be taken back: their part of the page will be written anew.
    unsettled: Vec<CompactString>,
    /// Ids the source states; they go to their nodes, not to generated ones.
    reserved: QuickSet<CompactString>,
    /// The number tried last for each base, so that a thousand equal headings stay linear.
    last_number: QuickMap<CompactString, u32>,
}

impl Ids {
    pub(crate) fn reserve(&mut self, id: &str) {
        self.reserved.extend(clean_id(id));
    }

    /// The id a source states, or `None` when an earlier node has it.
    pub(crate) fn stated(&mut self, id: &str) -> Option<CompactString> {
        let id = clean_id(id)?;
        self.take(id.clone()).then_some(id)
    }

    fn take(&mut self, id: CompactString) -> bool {
        let is_free = self.taken.insert(id.clone());
        if is_free {
            self.unsettled.push(id);
        }
        is_free
    }

    /// What was given out since the last call stays so.
    pub(crate) fn settle(&mut self) {
        self.unsettled.clear();
    }

    /// Takes back what was given out since [`settle`](Self::settle).
    pub(crate) fn release_unsettled(&mut self) {
        for id in self.unsettled.drain(..) {
            self.taken.remove(&id);
        }
    }

    /// A free id made from this base.
    pub(crate) fn made(&mut self, base: &str) -> CompactString {
        let base = if base.is_empty() { "section" } else { base };
        if self.is_free(base) {
            self.take(base.into());
            return base.into();
        }
        let mut number = self.last_number.get(base).copied().unwrap_or(1);
        loop {
            number += 1;
            let candidate = format!("{base}-{number}");
            if self.is_free(&candidate) {
                self.last_number.insert(base.into(), number);
                self.take(candidate.as_str().into());
                return candidate.into();
            }
        }
    }

    fn is_free(&self, id: &str) -> bool {
        !self.taken.contains(id) && !self.reserved.contains(id)
    }

    /// All ids given out, in no particular order.
    pub(crate) fn into_taken(self) -> HashSet<CompactString> {
        self.taken
    }
}
