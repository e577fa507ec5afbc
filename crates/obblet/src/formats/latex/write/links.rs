//! Links, and references to numbers.

use super::{Need, Writer, escape};
use crate::document::{Inline, Link, Reference, ReferenceShows, plain_text};
use crate::findings::Code;

impl Writer<'_> {
    pub(super) fn link(&mut self, link: &Link) {
        if link.title.is_some() {
            self.lost("the advice on a link");
        }
        self.report_attributes(&link.attributes);
        if let Some(target) = link.address.strip_prefix('#') {
            let words = self.as_argument(|writer| writer.inlines(&link.content));
            let target = escape::label(target);
            return self.out.push_str(&format!("\\hyperref[{target}]{{{words}}}"));
        }
        let address = escape::address(&link.address);
        if plain_text(&link.content) == link.address.as_str()
            && matches!(link.content.as_slice(), [Inline::Text(_)])
            && !self.is_argument
            && link.address.is_ascii()
            && !link.address.contains(['{', '}', '\\', '%', '#', '~', '^', ' '])
        {
            return self.out.push_str(&format!("\\url{{{}}}", link.address));
        }
        let words = self.as_argument(|writer| writer.inlines(&link.content));
        self.out.push_str(&format!("\\href{{{address}}}{{{words}}}"));
    }

    pub(super) fn reference(&mut self, reference: &Reference) {
        let target = escape::label(&reference.target);
        let stored = plain_text(&reference.stored);
        let shows_number =
            matches!(reference.shows, ReferenceShows::Number | ReferenceShows::LabelAndNumber);
        if shows_number && !stored.is_empty() && self.headings.lacks_number(&reference.target) {
            let what = "a reference to what has no number";
            self.findings.count(Code::NodeChanged, what, Some(self.place));
            return self.reference_by_words(reference);
        }
        let command = match reference.shows {
            ReferenceShows::Number => "ref",
            ReferenceShows::EquationNumber => {
                self.need(Need::Amsmath);
                "eqref"
            }
            ReferenceShows::Page => "pageref",
            ReferenceShows::Text => "nameref",
            ReferenceShows::LabelAndNumber => {
                let is_short = ["fig.", "eq.", "table", "theorem", "lemma"]
                    .iter()
                    .any(|word| stored.starts_with(word));
                let is_capital = stored.starts_with("Section") || stored.starts_with("Chapter");
                if is_short || is_capital {
                    self.need(Need::Cleveref);
                }
                match (is_short, is_capital) {
                    (true, _) => "cref",
                    (_, true) => "Cref",
                    _ => "autoref",
                }
            }
            ReferenceShows::Relative => {
                self.lost("a reference by place");
                return self.reference_by_words(reference);
            }
        };
        self.out.push_str(&format!("\\{command}{{{target}}}"));
    }

    /// A link that shows what the document has stored.
    pub(super) fn reference_by_words(&mut self, reference: &Reference) {
        let target = escape::label(&reference.target);
        let words = self.as_argument(|writer| writer.inlines(&reference.stored));
        self.out.push_str(&format!("\\hyperref[{target}]{{{words}}}"));
    }
}
