//! The formats, a folder each, and what all readers and writers share.

pub(crate) mod code_content;
pub(crate) mod depth;
pub mod html;
pub mod latex;
pub mod markdown;
pub mod org;
pub(crate) mod signature;
pub mod text;
pub mod text_source;
pub mod word;

use crate::account::Account;
use crate::document::{Document, SourceMap};
use crate::findings::Findings;
use thiserror::Error;

/// What a reader gives.
#[derive(Debug, Clone)]
pub struct Reading {
    /// The document, as far as it could be read.
    pub document: Document,
    /// What was lost, changed or found wrong on the way, in source order.
    pub findings: Findings,
    /// What turns places into lines and columns.
    pub map: SourceMap,
    /// How many words the source held, and what became of them.
    pub account: Account,
}

/// What the readers can be told.
#[derive(Debug, Clone, Default)]
pub struct ReadOptions {
    /// For the Markdown reader.
    pub markdown: markdown::MarkdownReadOptions,
    /// For the HTML reader.
    pub html: html::HtmlReadOptions,
    /// For the LaTeX reader.
    pub latex: latex::LatexReadOptions,
    /// For the Org reader.
    pub org: org::OrgReadOptions,
    /// For the plain text reader.
    pub text: text::TextReadOptions,
    /// For the Word reader.
    pub word: word::WordReadOptions,
    /// What becomes of HTML inside another format. Default: kept.
    pub embedded_html: EmbeddedHtml,
}

impl ReadOptions {
    /// The same options, with HTML inside another format made real blocks and inlines.
    #[must_use]
    pub fn with_nodes_for_html(self) -> Self {
        Self { embedded_html: EmbeddedHtml::Nodes, ..self }
    }
}

/// What becomes of HTML inside another format, as in Markdown.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum EmbeddedHtml {
    /// It stays markup, for a target that can hold it.
    #[default]
    Kept,
    /// It is read, and becomes blocks and inlines like all others.
    Nodes,
}

/// What a writer leaves out for those whom it writes for, in its finding.
pub(crate) const OTHER_AUDIENCES: &str = "text for other audiences";

/// Why no document could be made of a source.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum ReadError {
    /// Places count bytes in 32 bits.
    #[error("the source is larger than 4 GiB")]
    TooLarge,
    /// The source is not a ZIP archive, as all Word files are.
    #[error("this is no Word file: {0}")]
    NotWord(word::PackageError),
    /// The source is no text, and no format that is read.
    #[error("this is {is}; {advice}")]
    NoText {
        /// What the file is.
        is: &'static str,
        /// What to do.
        advice: &'static str,
    },
}

/// Why a document could not be written.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum WriteError {
    /// The document nests deeper than any reader makes it.
    #[error("the document nests deeper than {limit} levels")]
    TooDeep {
        /// The deepest level that is written, list items and cells counted too.
        limit: usize,
    },
    /// The house's pattern for Word files cannot be one.
    #[error("the pattern for Word files cannot be used: {0}")]
    Pattern(#[from] word::PatternError),
    /// The parts could not be put into one package.
    #[error("the parts of the file cannot be packed: {0}")]
    Package(String),
    /// A page could not be laid out.
    #[error("the page cannot be laid out: {0}")]
    Layout(String),
    /// The house names a file that is not among its files.
    #[error("the house names the file {0}, which was not given")]
    FileMissing(String),
}
