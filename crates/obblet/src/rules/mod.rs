//! Rules: a house's own changes to the HTML it is given. Each is a CSS selector and what becomes of
//! what it matches.
//!
//! Rules run one after the other over the written body, each over what the one before left. What a
//! rule matches is settled before it changes anything; then its actions run on one element after the
//! other, the inner ones first, in the order of [`Action`].
//!
//! ```
//! use obblet::{Format, House, WriteOptions, convert};
//! # fn main() -> Result<(), obblet::ConvertError> {
//! let house = House::from_toml(r#"
//! like = "body"
//!
//! [words]
//! protected = ["MTMT"]
//!
//! [[rules]]
//! on = "strong"
//! case = "capitals"
//! unwrap = true
//!
//! [[rules]]
//! on = "li"
//! before = "- "
//! after = "<br>"
//! unwrap = true
//! "#)?;
//! let options = WriteOptions { house, ..WriteOptions::format(Format::Html) };
//! let written = convert(b"Open **today**:\n\n- mill\n- weir\n", Format::Markdown, &options)?;
//! assert_eq!(written.text(), "<p>Open TODAY:</p>\n- mill<br>\n- weir\n");
//! # Ok(())
//! # }
//! ```
//!
//! # Words are kept apart
//! Where a block that a rule takes away stood beside text, a line break keeps the two apart. A list
//! without items and a table without rows go when a rule has left them so, as do blocks that a rule
//! has emptied and line breaks at the end of a block.
//!
//! # Limits
//! A change that HTML cannot hold (a block inside a line) is not made, with a finding. Selectors know
//! elements and attributes, no states such as `:hover`.

mod action;
mod apply;
mod case;
mod mend;
mod piece;
mod spaces;

pub use action::{Action, Case, Replacement, Rule, RuleFault};
pub(crate) use apply::{Ground, apply};
pub(crate) use mend::{mend, unwrap_apart};
