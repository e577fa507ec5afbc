//! The account of a conversion: how many words the source held, the document holds and the output
//! holds, and where words are that reached nothing.
//!
//! Readers and writers say what they leave out. Whether they said all of it, they cannot know: the
//! account looks at the source's bytes and at the output's bytes with code of its own, and finds each
//! piece of the document's text in them, in order (`align`). What no piece stands in, no finding names
//! and is no markup (`source`) has reached nothing, and is a finding itself.

mod align;
mod letters;
mod output;
mod phrases;
mod pieces;
mod reading;
mod source;
mod strays;
#[cfg(test)]
#[allow(clippy::expect_used, clippy::indexing_slicing, reason = "a test fails by panicking")]
mod tests;

pub(crate) use output::{Output, of_output, of_page};
pub(crate) use reading::{SourceAccount, of_parts, of_reading};

/// A word or two in a row may be a mark or a label that is spelled in another way; so many of them in all
/// need no finding.
const MARK: u64 = 2;
const FEW_WORDS: u64 = 12;
