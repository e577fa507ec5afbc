//! Plain text: manuscripts and notes that come in, and what mail and text-only destinations take.
//!
//! # Read
//! From how a text looks ([`read`]): paragraphs by blank lines, by the indent of their first line, or one a
//! line; chapters by their words, in several languages, headings by a line below or by capitals; changes of
//! scene; lists; quotations; drawn tables; verse; emphasis by underscores and asterisks; bare addresses;
//! fields and a title at the head; and reference topics with sections in capitals. What was taken for what is
//! told in findings.
//!
//! # Write
//! Paragraphs wrapped at a width; headings of the two highest levels underlined; lists with their
//! marks; tables drawn with characters; notes and the addresses of links numbered, at the end.
//!
//! # Not preserved
//! Text has no formats but those that its marks show. Emphasis, code in lines, raised and lowered
//! letters and the like are findings, as are pictures (their words stay) and spans of cells.

mod read;
mod write;

pub use read::{ParagraphForm, TextReadOptions, read};
pub use write::{LinkNotes, TextWriteOptions, write};
