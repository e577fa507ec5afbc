//! Citations, which Markdown has no word for.

use super::sayable::Sayable;
use super::sayable_inlines::push_text;
use crate::document::{Citation, Inline};

impl Sayable<'_> {
    pub(super) fn push_citation(&mut self, citation: &Citation, out: &mut Vec<Inline>) {
        self.not_carried("the form of a citation");
        push_text(out, "[");
        for (index, cite) in citation.works.iter().enumerate() {
            if index > 0 {
                push_text(out, "; ");
            }
            self.push_inlines(&cite.before, out);
            push_text(out, &cite.key);
            self.push_inlines(&cite.behind, out);
        }
        push_text(out, "]");
    }
}
