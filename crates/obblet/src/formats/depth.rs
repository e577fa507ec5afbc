//! The bound on how deep a document may nest, for writers that use plain recursion.

use super::WriteError;
use crate::document::{Document, NESTING_LIMIT, Visit, walk};

/// Refuses a document that nests deeper than any reader makes it.
pub(crate) fn refuse_too_deep(document: &Document) -> Result<(), WriteError> {
    // Lists, tables and notes add steps of their own to each level of blocks.
    const MOST: usize = NESTING_LIMIT * 6;
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    for blocks in std::iter::once(document.blocks.as_slice()).chain(notes) {
        let mut depth = 0_usize;
        for visit in walk(blocks) {
            match visit {
                Visit::Enter(_) => depth += 1,
                Visit::Leave(_) => depth -= 1,
            }
            if depth > MOST {
                return Err(WriteError::TooDeep { limit: MOST });
            }
        }
    }
    Ok(())
}
