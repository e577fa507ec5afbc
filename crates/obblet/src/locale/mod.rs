//! What languages write in ways of their own: dates, and the few words that documents show on their own.

mod dates;
mod words;

pub(crate) use dates::date;
pub(crate) use words::Words;

/// The title of what has none.
pub(crate) const UNTITLED: &str = "Untitled";
