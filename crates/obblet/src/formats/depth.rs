//! The bound on how deep a document may nest, for writers that use plain recursion.

use super::WriteError;
use crate::document::{Document, NESTING_LIMIT, walk};

/// Lists, tables and notes add steps of their own to each level of blocks.
const MOST: usize = NESTING_LIMIT * 6;

/// Refuses a depth that no reader makes.
pub(crate) fn refuse_depth(depth: usize) -> Result<(), WriteError> {
    match depth > MOST {
        true => Err(WriteError::TooDeep { limit: MOST }),
        false => Ok(()),
    }
}

/// Refuses a document that nests deeper than any reader makes it.
pub(crate) fn refuse_too_deep(document: &Document) -> Result<(), WriteError> {
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    let mut deepest = 0;
    for blocks in std::iter::once(document.blocks.as_slice()).chain(notes) {
        let mut nodes = walk(blocks);
        while nodes.next_node().is_some() {
            deepest = deepest.max(nodes.depth());
        }
    }
    refuse_depth(deepest)
}
