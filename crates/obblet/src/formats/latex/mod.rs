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

mod bibtex;
mod read;
mod write;

pub(crate) use bibtex::read_bibtex;
pub(crate) use read::read;
pub(crate) use write::write;

use crate::document::CompactString;
use std::sync::Arc;

/// The class of code that is the source of a drawing.
pub(crate) const DRAWING: &str = "drawing";

/// How LaTeX is read.
#[derive(Debug, Clone, Default)]
pub struct LatexReadOptions {
    /// Whether sizes, colours and alignment are kept. Default: not.
    pub looks: bool,
}

/// How LaTeX is written.
#[derive(Debug, Clone)]
pub struct LatexWriteOptions {
    /// A whole document, or what stands in one. Default: a whole document.
    pub extent: LatexExtent,
    /// The class. In one with chapters, the highest headings are chapters. Default: `article`.
    pub class: String,
    /// The options of the class. Default: none.
    pub class_options: String,
    /// A template for what stands around the body, with `class`, `class_options`, `packages`, `title`,
    /// `title_lines`, `language` and `body`. Default: Obblet's own.
    pub layout: Option<String>,
    /// The folder of the pictures that the document holds. Default: the document's own.
    pub picture_folder: Option<String>,
    /// The audiences written for. Default: none, so that only what is for everybody is written.
    pub audiences: Vec<CompactString>,
}

impl Default for LatexWriteOptions {
    fn default() -> Self {
        Self {
            extent: LatexExtent::Document,
            class: "article".into(),
            class_options: String::new(),
            layout: None,
            picture_folder: None,
            audiences: Vec::new(),
        }
    }
}

impl LatexWriteOptions {
    /// Whether the class has chapters above its sections.
    fn has_chapters(&self) -> bool {
        read::has_chapters(&self.class)
    }

    /// Whether the class has an environment for the abstract.
    fn has_abstract(&self) -> bool {
        !matches!(self.class.as_str(), "book" | "scrbook" | "letter" | "extbook")
    }
}

/// How much of a document is written.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub enum LatexExtent {
    /// Class, packages, title and body.
    #[default]
    Document,
    /// The body alone, to be read in by another document.
    Body,
}

/// What babel calls a language.
pub(crate) fn babel_name(tag: &str) -> Option<&'static str> {
    read::language_name(tag)
}

/// Whether a command is one that the reader knows.
pub(crate) fn knows_command(name: &str) -> bool {
    read::knows_command(name)
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
