//! What reading properties needs to know, and what it has to say.

use super::super::xml::Element;
use super::looks_count::LooksCount;
use super::theme::Theme;

/// Handed to everything that reads properties.
pub(super) struct Context<'r> {
    pub(super) theme: &'r Theme,
    /// Whether fonts, colours and the like are wanted.
    pub(super) keeps_looks: bool,
    pub(super) looks: &'r mut LooksCount,
    /// Names of elements that nobody knows.
    pub(super) unknown: Vec<String>,
    /// What is known and not carried.
    pub(super) lost: Vec<&'static str>,
}

impl<'r> Context<'r> {
    pub(super) fn new(theme: &'r Theme, keeps_looks: bool, looks: &'r mut LooksCount) -> Self {
        Self { theme, keeps_looks, looks, unknown: Vec::new(), lost: Vec::new() }
    }

    pub(super) fn unknown(&mut self, element: &Element<'_>) {
        self.unknown.push(element.shown().to_string());
    }

    /// Counts a property of looks that is not kept.
    pub(super) fn count(&mut self, element: &Element<'_>) {
        if !self.looks.count_property(element.local()) {
            self.unknown(element);
        }
    }
}
