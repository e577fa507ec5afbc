//! What a paragraph's style says of all text in it.

use super::Reader;
use super::run_properties::{RunProperties, Toggle, Toggles};
use super::styles::ParagraphStyle;
use crate::document::Looks;
use std::rc::Rc;

/// What all text of a paragraph has.
#[derive(Debug, Clone, Default)]
pub(super) struct TextBase {
    pub(super) style: Rc<ParagraphStyle>,
    /// Of the styles alone, not of the document's defaults.
    toggles: Toggles,
    pub(super) run: RunProperties,
    /// What it looks like; empty where looks are not kept.
    pub(super) looks: Looks,
}

impl Reader<'_> {
    /// The base of paragraphs of a style; the same again for the next paragraph of that style.
    pub(super) fn text_base(&mut self, style: Rc<ParagraphStyle>) -> Rc<TextBase> {
        if let Some(known) = &self.last_base
            && Rc::ptr_eq(&known.style, &style)
        {
            return known.clone();
        }
        let mut looks = Looks::default();
        if self.options.looks {
            looks = self.looks_of_style(&style);
        }
        let toggles = style.run.toggles;
        let run = style.run.clone().inside(&self.styles.default_run);
        let base = Rc::new(TextBase { style, toggles, run, looks });
        self.last_base = Some(base.clone());
        base
    }
}

impl TextBase {
    /// Whether all text has it.
    pub(super) fn has(&self, toggle: Toggle) -> bool {
        self.run.has(toggle)
    }

    /// Whether a run has it that states these properties and has a style with those (17.7.3).
    pub(super) fn run_has(
        &self,
        toggle: Toggle,
        direct: &RunProperties,
        style: Option<&RunProperties>,
        defaults: &RunProperties,
    ) -> bool {
        if let Some(stated) = direct.toggles.stated(toggle) {
            return stated;
        }
        let of_style = style.is_some_and(|style| style.has(toggle));
        defaults.has(toggle) || self.toggles.has(toggle) != of_style
    }
}
