//! LaTeX.
//!
//! # Read
//! LaTeX2e and the packages that documents commonly use, macros of their own expanded
//! ([`LatexReadOptions`]). Sections, floats, formulas, statements, items and listings get the numbers
//! that TeX gives them, and references show these. Files that a document includes come through the
//! caller's resolver.
//!
//! # Not preserved
//! What is only about the layout of paper is left out, each command with a finding. Drawings are shown
//! as their source. Pages have no numbers: a reference to one shows the number of its target. Macros are
//! expanded, so that a document that is written again has none.

mod read;

pub(crate) use read::read;

use std::sync::Arc;

/// The class of code that is the source of a drawing.
pub(crate) const DRAWING: &str = "drawing";

/// How LaTeX is read.
#[derive(Debug, Clone, Default)]
pub struct LatexReadOptions {
    /// Whether sizes, colours and alignment are kept. Default: not.
    pub looks: bool,
}

/// The characters of a piece of LaTeX that is only text: accents and symbols as characters.
pub(crate) fn plain_text_of(source: &str) -> String {
    let text: Arc<str> = source.into();
    let (document, ..) = read(&text, &LatexReadOptions::default(), &());
    let lines = document.blocks.iter().filter_map(|block| match &block.kind {
        crate::document::BlockKind::Paragraph(content) => {
            Some(crate::document::plain_text(content))
        }
        _ => None,
    });
    lines.collect::<Vec<_>>().join(" ")
}
