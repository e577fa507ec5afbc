//! Formulas.
//!
//! For now a formula is its TeX source, kept as it was written. The tree behind the spellings
//! comes with the formula work; [`Formula`] is where it will live.

use crate::document::CompactString;
use serde::{Deserialize, Serialize};

/// A formula.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
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
}
