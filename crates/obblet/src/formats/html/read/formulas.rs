//! Formulas in MathML.

use super::super::dom::NodeId;
use super::super::formula::formula_of;
use super::Reader;
use super::line::Line;
use crate::document::Inline;
use crate::findings::Code;

impl Reader<'_> {
    /// A formula: its TeX source where it has that, and else what its MathML says.
    pub(super) fn push_math(&mut self, node: NodeId, line: &mut Line) {
        let (formula, unknown) = formula_of(self.dom, node);
        if formula.source.is_empty() {
            return self.dropped(Code::ElementDropped, "math", node);
        }
        for name in unknown {
            self.dropped(Code::ElementDropped, &name, node);
        }
        line.push(Inline::Formula(Box::new(formula)), &self.text.formats);
    }
}
