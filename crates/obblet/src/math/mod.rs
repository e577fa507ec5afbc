//! Formulas as data: TeX source, and the tree that it stands for.
//!
//! How a tree is read from a notation and written in it stands above: [`notation`](crate::notation).

mod symbol_names;
mod symbol_table;
mod symbols;
mod tree;

pub(crate) use symbols::{
    ACCENTS, ARROWS, Class, SPANS, class_of, has_limits, is_function, symbol, tex_name,
};
pub use tree::{
    Arrangement, Array, BracketSide, Display, DisplayLine, Expression, Extent, Fenced, FormulaSize,
    FractionLine, LetterStyle, LineNumber, Overlap, Placement, SpacingClass, Strike,
};

use crate::source::CompactString;
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
    /// What the source says, where a reader knew it already.
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
