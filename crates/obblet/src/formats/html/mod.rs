//! HTML.
//!
//! # Write
//! The HTML Living Standard: semantic elements, no presentational ones, no empty paragraphs, no
//! wrapper without a meaning. [`write_body`] makes what stands inside a page's `main`; the whole
//! page is made around it by [`page`](crate::page).
//!
//! Raw HTML that a source carries is parsed together with the blocks around it, up to the block that
//! closes its last element, freed of everything that may run code, and written anew from the parsed
//! tree ([`RawHtml::Sanitised`]), unless the caller trusts the source.
//!
//! # Read
//! Any page or fragment ([`read`]), also one saved as one file with its pictures: what elements and their
//! attributes say, and what style sheets and `style` attributes say of the meaning and, when asked, of
//! the looks; word processors' own ways of saying it. Scripts are not run.
//!
//! # Not preserved
//! Looks, named styles and column widths are left to the destination's own style sheet unless they are
//! asked for, review comments too. Page breaks and the packing of citations have no place in the output;
//! each is a finding. A formula whose tree is not known is MathML that shows its TeX source, with a
//! finding. The mark behind a list's number (`1)`) is the browser's.

mod address;
mod attribute_guard;
mod bounded;
mod citations;
mod comments;
pub(crate) mod css;
mod depth_guard;
pub(crate) mod dom;
pub(crate) mod elements;
mod escape;
mod formula;
mod open_tags;
pub(crate) mod outline;
mod read;
mod sanitise;
mod saved_page;
pub(crate) mod select;
mod write;

mod sniff;
mod source_tags;
mod tasks;

pub use crate::document::id_of_words;
pub(crate) use bounded::{RawPiece, bounded};
pub use dom::{Spelling, Syntax};
pub(crate) use formula::formula_of;
pub use read::{HtmlReadOptions, read, read_with};
pub(crate) use read::{Part, read_inline_parts, read_parts, read_tree};
pub(crate) use saved_page::{SavedParts, opened};
pub use sniff::is_page;
pub(crate) use sniff::{shows_own_metadata, stated_encoding};
pub(crate) use source_tags::{Tag, tags};
pub use write::{
    Body, HeadingEntry, HtmlWriteOptions, LooksForm, PicturePlacement, RawHtml, escaped_text,
    write_body,
};
pub(crate) use write::{Survey, element_of, is_language_tag, write_blocks};

/// The attribute that says what a reference shows of its target, and its values.
const SHOWS: &str = "data-shows";
const REFERENCES: [(crate::document::ReferenceShows, &str); 6] = [
    (crate::document::ReferenceShows::Number, "number"),
    (crate::document::ReferenceShows::EquationNumber, "equation"),
    (crate::document::ReferenceShows::LabelAndNumber, "label"),
    (crate::document::ReferenceShows::Text, "text"),
    (crate::document::ReferenceShows::Page, "page"),
    (crate::document::ReferenceShows::Relative, "relative"),
];

/// The kind of a note that belongs at the end of the text, not at the foot of its page.
const ENDNOTE: &str = "endnote";

/// The kinds of what stands at the edges of each page of paper.
const PAGE_HEADER: &str = "page-header";
const PAGE_FOOTER: &str = "page-footer";

/// The attribute of a list whose numbers have several parts: `%1.%2`.
const NUMBER_PATTERN: &str = "data-pattern";

/// The attribute of a number that stands before an item as text.
const ITEM_LABEL: &str = "data-label";

/// Harmless HTML of a part of a body; what had to go is a finding.
pub(crate) fn sanitised(html: &str, findings: &mut crate::findings::Findings) -> String {
    sanitise::sanitise(html, &mut crate::document::Ids::default(), findings, None).html
}

/// Whether following this address runs nothing.
pub(crate) fn address_is_harmless(address: &str) -> bool {
    address::check_trusted(address, address::AddressUse::Link).is_ok()
}
