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

/// Reads a Word file.
///
/// # Errors
/// [`PackageError`] when the bytes are no Word package: not a ZIP archive, or one without a main
/// document part.
pub fn read(source: &[u8]) -> Result<Reading, PackageError> {
    read::read_package(package::Package::open(source)?)
}
