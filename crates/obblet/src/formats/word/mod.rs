//! Word documents: WordprocessingML in an OPC package (ECMA-376, Transitional and Strict).
//!
//! # Read
//! Parts are found by their relationships, not by fixed names. Meaning comes from styles and
//! outline levels: headings, quotations, code, lists by their numbering definitions, tables with
//! spans and header rows, pictures, footnotes and endnotes, links, bookmarks, tracked changes.
//!
//! A place in a Word file is a paragraph of its main part, counted from 1 in document order,
//! tables included.
//!
//! # Limits
//! A part may unpack to 256 MiB. Tables, text boxes and content controls nest to 25 levels, links
//! and changes in a line to 40; what is deeper is read without its nesting, with a finding.
//!
//! # Not preserved
//! Looks (fonts, sizes, colours, borders) are not read yet and are counted in one finding. The
//! proofing language of single words, revision save marks and spelling marks say nothing to a
//! reader and are passed over. Equations keep their characters only. Headers, footers, comments,
//! charts and embedded objects are findings.

mod package;
mod read;
mod xml;

pub use package::PackageError;

use super::Reading;

/// What the Word reader can be told.
#[derive(Debug, Clone, Default)]
pub struct WordReadOptions {
    /// Read fonts, sizes, colours, borders and the document's named styles. Default: no.
    pub looks: bool,
    /// What becomes of tracked changes. Default: shown.
    pub changes: Changes,
    /// Keep the page header and footer of the first page, above and below the text. Default: no.
    pub running_heads: bool,
}

/// What becomes of tracked changes.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Changes {
    /// They stay tracked changes.
    #[default]
    Shown,
    /// The text is what it is with all of them.
    Accepted,
    /// The text is what it was before any of them.
    Rejected,
}

/// Reads a Word file.
///
/// # Errors
/// [`PackageError`] when the bytes are no Word package: not a ZIP archive, or one without a main
/// document part.
pub fn read(source: &[u8], options: &WordReadOptions) -> Result<Reading, PackageError> {
    read::read_package(source, options)
}
