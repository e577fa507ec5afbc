//! Plain text: what mail and text-only destinations take.
//!
//! # Write
//! Paragraphs wrapped at a width; headings of the two highest levels underlined; lists with their
//! marks; tables drawn with characters; notes and the addresses of links numbered, at the end.
//!
//! # Not preserved
//! Text has no formats but those that its marks show. Emphasis, code in lines, raised and lowered
//! letters and the like are findings, as are pictures (their words stay) and spans of cells.

mod write;

pub use write::{LinkNotes, TextWriteOptions, write};
