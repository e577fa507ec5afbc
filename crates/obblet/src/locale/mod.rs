//! The few words that documents show on their own, by language.

mod words;

pub(crate) use words::Words;

/// The title of what has none.
pub(crate) const UNTITLED: &str = "Untitled";
