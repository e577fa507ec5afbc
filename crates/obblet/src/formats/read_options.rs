//! What readers can be told.

use super::{html, latex, markdown, org, text, word};

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
