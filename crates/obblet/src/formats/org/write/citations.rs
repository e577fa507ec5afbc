//! Citations.

use super::Writer;
use super::escape::Surroundings;
use crate::document::{Citation, CitationForm};

impl Writer<'_> {
    pub(super) fn citation(&mut self, citation: &Citation) {
        let style = match citation.form {
            CitationForm::Bracketed => "",
            CitationForm::InText => "/text",
            CitationForm::AuthorOnly => "/author",
            CitationForm::YearOnly => "/year",
            CitationForm::Silent => "/nocite",
        };
        let around =
            Surroundings { is_last: true, is_cell: self.is_cell, ..Surroundings::default() };
        let mut parts = Vec::new();
        for work in &citation.works {
            let before = self.apart(|writer| writer.inlines(&work.before, around));
            let behind = self.apart(|writer| writer.inlines(&work.behind, around));
            self.needs_apart = false;
            let text = format!("{before} @{} {behind}", work.key);
            parts.push(text.trim().replace('\n', " "));
        }
        self.out.push_str(&format!("[cite{style}:{}]", parts.join(";")));
    }
}
