//! Citations, and the list of works.

use super::{Need, Writer};
use crate::document::{Citation, CitationForm, Cite};

impl Writer<'_> {
    pub(super) fn citation(&mut self, citation: &Citation) {
        let command = match citation.form {
            CitationForm::Bracketed => "citep",
            CitationForm::InText => "citet",
            CitationForm::AuthorOnly => "citeauthor",
            CitationForm::YearOnly => "citeyear",
            CitationForm::Silent => "nocite",
        };
        self.need(Need::Natbib);
        let keys: Vec<String> = citation.works.iter().map(|cite| key(&cite.key)).collect();
        let part = |writer: &mut Self, inlines: &[crate::document::Inline]| {
            writer.as_argument(|writer| writer.inlines(inlines)).trim().to_string()
        };
        let first = citation.works.first().map(|cite| cite.before.clone()).unwrap_or_default();
        let last = citation.works.last().map(|cite| cite.behind.clone()).unwrap_or_default();
        let (before, behind) = (part(self, &first), part(self, &last));
        let has_inner = |cite: &Cite, is_first: bool, is_last: bool| {
            (!is_first && !cite.before.is_empty()) || (!is_last && !cite.behind.is_empty())
        };
        let count = citation.works.len();
        let is_inner = |(at, cite): (usize, &Cite)| has_inner(cite, at == 0, at + 1 == count);
        if citation.works.iter().enumerate().any(is_inner) {
            self.lost("words between the works of a citation");
        }
        let options = match (before.is_empty(), behind.is_empty()) {
            (true, true) => String::new(),
            (true, false) => format!("[{behind}]"),
            (false, _) => format!("[{before}][{behind}]"),
        };
        self.out.push_str(&format!("\\{command}{options}{{{}}}", keys.join(",")));
    }

    /// The works as they are shown, each with the label its citations show.
    pub(super) fn bibliography(&mut self) {
        let works: Vec<_> = self.works.works().collect();
        if works.is_empty() {
            return self.lost("a list of works that nobody knows");
        }
        self.need(Need::Natbib);
        self.paragraph_break();
        self.out.push_str("\\begin{thebibliography}{99}\n");
        for work in works {
            let (author, year) = self.works.author_and_year(&work.key);
            let is_numbered = year.is_empty() || !self.works.have_years();
            let label = match is_numbered {
                true => String::new(),
                false => {
                    let author = self.as_argument(|writer| writer.text(&author));
                    format!("[{{{author}({year})}}]")
                }
            };
            let entry = self.works.bare_entry(work);
            let words = self.as_argument(|writer| writer.inlines(&entry));
            self.out.push_str(&format!("\\bibitem{label}{{{}}} {words}\n", key(&work.key)));
        }
        self.out.push_str("\\end{thebibliography}\n");
    }
}

/// A key as it may stand in `\cite`.
fn key(key: &str) -> String {
    key.chars()
        .map(|c| match c {
            ',' | '{' | '}' | '\\' | '%' | '#' | '~' => '-',
            c if c.is_whitespace() => '-',
            c => c,
        })
        .collect()
}
