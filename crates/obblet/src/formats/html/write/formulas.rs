//! Formulas as MathML.

use super::Writer;
use crate::document::Attributes;
use crate::formats::html::formula::push_formula;
use crate::math::Formula;

impl Writer<'_> {
    pub(super) fn formula(&mut self, formula: &Formula) {
        let numbered = formula.numbered(&mut self.findings, Some(self.place));
        let mut out = std::mem::take(&mut self.out);
        push_formula(&mut out, formula.source.trim(), formula.display, &numbered, self);
        self.out = out;
    }

    pub(super) fn display_formula(&mut self, formula: &Formula, attributes: &Attributes) {
        self.open("p", attributes);
        self.formula(formula);
        self.out.push_str("</p>\n");
    }
}
