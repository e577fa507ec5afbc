//! What readers give.

use crate::document::{Document, SourceMap};
use crate::findings::{Account, Findings};

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
