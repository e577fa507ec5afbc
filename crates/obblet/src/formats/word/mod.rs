//! Word documents: WordprocessingML in an OPC package (ECMA-376, Transitional and Strict).
//!
//! # Read
//! Parts are found by their relationships, not by fixed names. Meaning comes from styles, outline levels
//! and numbering, never from looks; looks stand beside it when they are asked for
//! ([`WordReadOptions::looks`]). Headings, lists, tables, notes, comments, tracked changes, fields,
//! content controls, pictures, text boxes, charts, diagrams, equations, properties and sources are read;
//! `docs/word.md` has the table of what becomes what.
//!
//! A place in a Word file is a paragraph of its main part, counted from 1 in document order,
//! tables included.
//!
//! # Limits
//! A part may unpack to 256 MiB, all parts to 512 MiB, and a part of 16 MiB or more to 200 times its packed
//! size. Tables, text boxes and content controls nest to 25 levels, links and changes in a line to 40, runs
//! in runs to 20; what is deeper is read without its nesting, with a finding.
//!
//! # Not preserved
//! Hidden text, page headers and footers unless they are asked for, embedded files, drawn shapes without
//! text, positions of what floats, text effects: each is a finding. Revision save marks and spelling marks
//! say nothing to a reader and are passed over; an element that nobody knows is a finding.

mod number_formats;
mod package;
mod read;
mod vocabulary;
mod write;
mod xml;

pub use super::error::{PackageError, PatternError};

use super::{ReadError, Reading, WriteError};
use crate::document::Document;
use crate::findings::Findings;
use std::sync::Arc;

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

/// Why a source is no text, if it is a file of an office program.
pub(crate) fn what_is_no_text(source: &[u8]) -> Option<ReadError> {
    match package::Package::open(source).and_then(|mut package| package.main_part()) {
        Ok(_) => Some(ReadError::NoText { is: "a Word file", advice: "read it as Word" }),
        Err(PackageError::Empty | PackageError::NotZip) => None,
        Err(error) => Some(ReadError::NotWord(error)),
    }
}

/// What the Word writer can be told.
#[derive(Debug, Clone, Default)]
pub struct WordWriteOptions {
    /// The paper. Default: by the document's language.
    pub paper: Paper,
    /// A Word file whose styles, theme, numbering, page set-up, headers and footers are taken over; then the
    /// paper is that file's. Default: none.
    pub pattern: Option<Arc<[u8]>>,
    /// The names of the styles that paragraphs get by what they are.
    pub styles: StyleNames,
}

/// Names of paragraph and table styles; see the defaults.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
pub struct StyleNames {
    /// Quotations. Default: `Quote`.
    pub quotation: String,
    /// Code. Default: `Code`.
    pub code: String,
    /// Text beside the main text. Default: `Box Text`.
    pub aside: String,
    /// Text of admonitions. Default: `Box Text`.
    pub admonition: String,
    /// Titles of admonitions and of what may be opened. Default: `Box Title`.
    pub box_title: String,
    /// Captions. Default: `caption`.
    pub caption: String,
    /// Tables. Default: `Ruled Table`.
    pub table: String,
}

impl Default for StyleNames {
    fn default() -> Self {
        Self {
            quotation: vocabulary::QUOTATION.into(),
            code: vocabulary::CODE.into(),
            aside: vocabulary::BOX_TEXT.into(),
            admonition: vocabulary::BOX_TEXT.into(),
            box_title: vocabulary::BOX_TITLE.into(),
            caption: vocabulary::CAPTION.into(),
            table: vocabulary::TABLE.into(),
        }
    }
}

/// The size of the pages.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Paper {
    /// Letter where the document's language is that of a country which uses it, else A4.
    #[default]
    ByLanguage,
    /// 210 by 297 millimetres.
    A4,
    /// 8.5 by 11 inches.
    Letter,
}

/// Writes a document as a Word file (ECMA-376 Transitional). The same document gives the same bytes.
///
/// ```
/// use obblet::document::{Document, build::*};
/// use obblet::formats::word;
/// let document = Document::of(vec![heading(1, "Tides"), paragraph("High at noon.")]);
/// let (bytes, findings) = word::write(&document, &Default::default())?;
/// assert!(findings.is_empty()); // silence means fidelity
/// let reading = word::read(&bytes, &Default::default()).expect("a Word file");
/// assert_eq!(reading.document.blocks.len(), 2);
/// # Ok::<(), obblet::WriteError>(())
/// ```
///
/// # Errors
/// [`WriteError::TooDeep`] when the document nests deeper than any reader makes it;
/// [`WriteError::Pattern`] when the pattern is no Word file that can be one;
/// [`WriteError::Package`] when the parts do not fit into a ZIP archive.
pub fn write(
    document: &Document,
    options: &WordWriteOptions,
) -> Result<(Vec<u8>, Findings), WriteError> {
    write_with(document, options, |_, _| ())
}

/// The same, and shows the parts that hold text before they are packed.
pub(crate) fn write_with(
    document: &Document,
    options: &WordWriteOptions,
    account: impl FnOnce(&[&str], &mut Findings),
) -> Result<(Vec<u8>, Findings), WriteError> {
    write::write_package(document, options, account)
}
