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

/// The name that a file states for what is made of it (`#+EXPORT_FILE_NAME`; Org manual, “Export
/// Settings”), without its ending. `None` where it states none, or one that is no plain name: it may
/// not lead to another folder.
///
/// ```
/// use obblet::formats::org::output_name;
/// assert_eq!(output_name(b"#+EXPORT_FILE_NAME: diary.html\n* Log").as_deref(), Some("diary"));
/// assert_eq!(output_name(b"#+EXPORT_FILE_NAME: ../diary"), None);
/// ```
#[must_use]
pub fn output_name(source: &[u8]) -> Option<String> {
    let text = String::from_utf8_lossy(source);
    let value = text.lines().find_map(|line| {
        let (key, value) = line.trim_start().strip_prefix("#+")?.split_once(':')?;
        key.eq_ignore_ascii_case("export_file_name").then_some(value)
    })?;
    let name = value.trim().trim_matches('"');
    let stem = name.rsplit_once('.').map_or(name, |(stem, _)| stem);
    let is_plain = !stem.is_empty()
        && !stem.starts_with('.')
        && !stem.contains(['/', '\\', ':'])
        && !stem.contains(char::is_control);
    is_plain.then(|| stem.to_string())
}

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
