//! Formulas.
//!
//! A formula is its TeX source and, where a reader could make one, the tree behind it
//! ([`Expression`]), from which MathML is written. Word's equations are read into that tree; TeX is
//! not read yet, so that a formula from Markdown or HTML has its source alone.

mod mathml;
mod symbols;
mod tex;
mod tree;

pub(crate) use mathml::push_mathml;
pub(crate) use tex::tex;
pub use tree::{Expression, FractionLine, LetterStyle, Placement};

use crate::document::CompactString;
use serde::{Deserialize, Serialize};
use std::sync::Arc;

/// A formula.
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct Formula {
    /// TeX source, without its delimiters.
    pub source: String,
    /// Whether it is set on a line of its own.
    pub display: bool,
    /// The label references use.
    pub label: Option<CompactString>,
    /// The number shown beside a display, for example `2.3`.
    pub number: Option<CompactString>,
    /// What the source says, where it is known.
    pub tree: Option<Arc<Expression>>,
}

/// The tree says nothing that the source does not say.
impl PartialEq for Formula {
    fn eq(&self, other: &Self) -> bool {
        let parts =
            |formula: &Self| (formula.display, formula.label.clone(), formula.number.clone());
        self.source == other.source && parts(self) == parts(other)
    }
}

impl Eq for Formula {}
