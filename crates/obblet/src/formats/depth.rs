//! The bound on how deep a document may nest, for writers that use plain recursion.

use super::WriteError;
use crate::document::{Document, NESTING_LIMIT, Visit, walk};

/// Lists, tables and notes add steps of their own to each level of blocks.
const MOST: usize = NESTING_LIMIT * 6;

/// How deep a walk stands, and has stood.
#[derive(Debug, Default)]
pub(crate) struct Depth {
    now: usize,
    deepest: usize,
}

impl Depth {
    pub(crate) fn step(&mut self, visit: &Visit<'_>) {
        match visit {
            Visit::Enter(_) => {
                self.now += 1;
                self.deepest = self.deepest.max(self.now);
            }
            Visit::Leave(_) => self.now = self.now.saturating_sub(1),
        }
    }

    /// An error where the walk was deeper than any reader makes a document.
    pub(crate) fn refuse_too_deep(&self) -> Result<(), WriteError> {
        match self.deepest > MOST {
            true => Err(WriteError::TooDeep { limit: MOST }),
            false => Ok(()),
        }
    }
}

/// Refuses a document that nests deeper than any reader makes it.
pub(crate) fn refuse_too_deep(document: &Document) -> Result<(), WriteError> {
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    let mut depth = Depth::default();
    let visits = std::iter::once(document.blocks.as_slice()).chain(notes).flat_map(walk);
    visits.for_each(|visit| depth.step(&visit));
    depth.refuse_too_deep()
}
