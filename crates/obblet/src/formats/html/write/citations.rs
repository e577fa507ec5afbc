//! Citations and the list of cited works, linked both ways (DPUB-ARIA 1.1: `doc-biblioref`,
//! `doc-bibliography`, `doc-backlink`).

use super::Writer;
use crate::document::{Citation, CitationForm, Cite, CompactString, Inline, plain_text};
use crate::findings::Code;
use crate::formats::html::address::push_address;
use crate::formats::html::citations::{FORMS, WORK};

impl Writer<'_> {
    pub(super) fn citation(&mut self, citation: &Citation) {
        let form = FORMS.iter().find(|(form, _)| *form == citation.form);
        self.out.push_str("<span");
        self.attribute("data-citation", form.map_or("bracketed", |(_, name)| name));
        self.out.push('>');
        if citation.form == CitationForm::Silent {
            citation.works.iter().for_each(|cite| self.unseen_cite(cite));
            return self.close("span");
        }
        let (open, close) = self.works.brackets(citation);
        self.text(open);
        for (index, cite) in citation.works.iter().enumerate() {
            if index > 0 {
                self.out.push_str("; ");
            }
            self.cite(cite, citation.form);
        }
        self.text(close);
        self.out.push_str("</span>");
    }

    fn cite(&mut self, cite: &Cite, form: CitationForm) {
        let shown = self.works.cite_text(&cite.key, form);
        // A page stands within the brackets around the year.
        let is_open = form == CitationForm::InText && !cite.behind.is_empty();
        let (shown, end) = match shown.strip_suffix(')').filter(|_| is_open) {
            Some(open) => (open.to_string(), ")"),
            None => (shown, ""),
        };
        let (before, behind) = (plain_text(&cite.before), plain_text(&cite.behind));
        if !cite.before.is_empty() {
            self.inlines(&cite.before);
            if !before.ends_with(char::is_whitespace) {
                self.out.push(' ');
            }
        }
        let is_known = self.works.work(&cite.key).is_some();
        if !is_known {
            self.findings.count(Code::CitationMissing, &cite.key, Some(self.place));
        }
        let is_link = !self.inside_link && is_known;
        self.out.push_str(if is_link { "<a" } else { "<span" });
        if is_link {
            let id = self.ids.made(&format!("cite-{}", id_part(&cite.key)));
            self.attribute("id", &id);
            self.cite_ids.entry(cite.key.clone()).or_default().push(id);
            self.out.push_str(" href=\"#");
            push_address(&mut self.out, &format!("{WORK}{}", id_part(&cite.key)));
            self.out.push_str("\" role=\"doc-biblioref\"");
        }
        for (name, text) in [("data-before", before.trim()), ("data-behind", behind.trim())] {
            if !text.is_empty() {
                self.attribute(name, text);
            }
        }
        if !is_link || id_part(&cite.key) != cite.key {
            self.attribute("data-key", &cite.key);
        }
        self.out.push('>');
        self.text(&shown);
        self.out.push_str(if is_link { "</a>" } else { "</span>" });
        if !cite.behind.is_empty() {
            self.out.push_str(", ");
            self.inlines(&cite.behind);
        }
        self.out.push_str(end);
    }

    /// A work that is only to be in the list.
    fn unseen_cite(&mut self, cite: &Cite) {
        self.out.push_str("<span");
        self.attribute("data-key", &cite.key);
        self.out.push_str("></span>");
    }

    /// The list of all works, each with links back to where it is cited.
    pub(super) fn bibliography(&mut self) {
        let works: Vec<_> = self.works.works().collect();
        if works.is_empty() {
            return;
        }
        self.out.push_str("<section role=\"doc-bibliography\"");
        self.attribute("aria-label", self.words.bibliography);
        self.out.push_str(">\n<ul>\n");
        for work in works {
            self.out.push_str("<li");
            let id = format!("{WORK}{}", id_part(&work.key));
            if let Some(id) = self.ids.stated(&id) {
                self.attribute("id", &id);
            }
            let label = self.works.cite_text(&work.key, CitationForm::Bracketed);
            self.attribute("data-label", &label);
            self.out.push('>');
            let entry: Vec<Inline> = self.works.entry(work);
            self.inlines(&entry);
            let cited: Vec<CompactString> =
                self.cite_ids.get(&work.key).cloned().unwrap_or_default();
            for id in cited {
                self.out.push_str(" <a");
                self.attribute("href", &format!("#{id}"));
                self.out.push_str(" role=\"doc-backlink\"");
                self.attribute("aria-label", self.words.back_to_text);
                self.out.push_str(">↩</a>");
            }
            self.out.push_str("</li>\n");
        }
        self.out.push_str("</ul>\n</section>\n");
    }
}

/// A key as a part of an id: no white space.
fn id_part(key: &str) -> String {
    key.chars().map(|c| if c.is_whitespace() { '-' } else { c }).collect()
}
