//! Org.
//!
//! # Read
//! The Org syntax document, whole ([`OrgReadOptions`]): outlines with their tasks, lists, tables, blocks,
//! drawers, notes, dates, links, macros, citations and formulas, and the settings that a file makes.
//! Files that a document includes come through the caller's resolver. Nothing is ever executed: results
//! are taken as they stand in the file.
//!
//! # Not preserved
//! Macros and included files are resolved. What a document keeps from its readers (archived trees,
//! comments, drawers of a program's own, planning lines) is left out, with a finding, unless the reader
//! is told to keep it; on the way to Org it is kept.

mod read;
mod special_blocks;
mod write;

pub(crate) use read::read;
pub(crate) use write::write;

/// The format's name on markup that is kept as it was written.
pub(crate) const ORG: &str = "org";

/// How Org is read.
#[derive(Debug, Clone, Default)]
pub struct OrgReadOptions {
    /// Whether what a document keeps from its readers is kept in the tree, for who writes Org again.
    /// Default: not.
    pub keeps_hidden: bool,
}

/// How Org is written.
#[derive(Debug, Clone, Default)]
pub struct OrgWriteOptions {
    /// The folder of the pictures that the document holds. Default: none.
    pub picture_folder: Option<String>,
    /// Break lines of text longer than this many characters. Default: 0, not at all.
    pub wrap: u32,
}
