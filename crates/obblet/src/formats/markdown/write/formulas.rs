//! Formulas, in a line and by themselves.

use super::blocks::Speller;
use super::leaf::{Spelling, first_of};
use super::sayable::Sayable;
use super::sayable_inlines::{Flow, between_dollars};
use crate::document::{Attributes, Block, BlockKind, CodeBlock, Inline, InlineCode};
use crate::findings::Code;
use crate::formats::markdown::Switch;
use crate::formats::markdown::containers::Carrier;
use crate::math::Formula;

impl Sayable<'_> {
    pub(super) fn push_formula(&mut self, formula: &Formula, out: &mut Vec<Inline>) {
        let mut source = formula.source.clone();
        if self.flow != Flow::Lines {
            source = source.replace('\n', " ");
        }
        if formula.label.is_some() || formula.number.is_some() {
            self.not_carried("the number of a formula inside a line");
        }
        if self.has(Switch::Math) && between_dollars(&source, formula.display) {
            let display = formula.display;
            return out.push(Inline::Formula(Box::new(Formula {
                source,
                display,
                ..Formula::default()
            })));
        }
        self.findings.count(Code::FormulaAsSource, "TeX", Some(self.place));
        let text = source.replace('\n', " ").into();
        self.push_code(&InlineCode { text, attributes: Attributes::NONE }, out);
    }

    pub(super) fn push_formula_block(
        &mut self,
        formula: &Formula,
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        let mut formula =
            Formula { source: formula.source.trim().into(), display: true, ..formula.clone() };
        if !self.has(Switch::Math) {
            self.findings.count(Code::FormulaAsSource, "TeX", Some(block.place));
            let text = format!("{}\n", formula.source);
            let code = CodeBlock { language: Some("math".into()), ..CodeBlock::of_text(text) };
            return self.push_code_block(&code, attributes, block, out);
        }
        let needs_carrier =
            !attributes.is_empty() || formula.label.is_some() || formula.number.is_some();
        if needs_carrier && !self.has(Switch::Containers) {
            self.not_carried("the number of a formula");
            (formula.label, formula.number) = (None, None);
        }
        if !between_dollars(&formula.source, true) {
            formula.source = self.without_lone_spaces(&formula.source);
        }
        self.push_carried(BlockKind::Formula(Box::new(formula)), attributes, block, out);
    }
}

impl Spelling<'_> {
    pub(super) fn formula(&mut self, formula: &Formula, next: Option<&Inline>) {
        let dollars = if formula.display { "$$" } else { "$" };
        self.push(&format!("{dollars}{}{dollars}", formula.source));
        // A digit behind a dollar makes it a price, a brace a variable.
        let is_other = |c: char| c.is_ascii_digit() || c == '{';
        if !formula.display && next.and_then(first_of).is_some_and(is_other) {
            self.behind_closer = Some(self.out.text.len());
        }
    }
}

impl<'d> Speller<'d> {
    pub(super) fn formula(&mut self, formula: &Formula, attributes: &Attributes) {
        let mut more = Vec::new();
        more.extend(formula.label.iter().map(|label| ("label", label.to_string())));
        more.extend(formula.number.iter().map(|number| ("number", number.to_string())));
        self.carried(Carrier::Formula, attributes, &more, |s| {
            let text = format!("$$\n{}\n$$", formula.source);
            if between_dollars(&formula.source, true) && s.is_formula_text(&text) {
                s.out.lines(&text);
            } else {
                s.fenced(&format!("{}\n", formula.source), "math");
            }
        });
    }
}
