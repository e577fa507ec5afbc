//! What the file says about itself.

use super::settings::{HEAD_LINES, OtherSetting};
use super::{Reader, sources, timestamps, typed};
use crate::document::{Inline, Person, Place, Value};
use crate::findings::Code;
use crate::formats::latex::read_bibtex;

impl Reader<'_> {
    /// What the file says about itself, for readers.
    pub(super) fn metadata(&mut self) {
        let line = |reader: &mut Self, parts: Vec<String>| -> Vec<Inline> {
            reader.inlines_of_text(&parts.join(" "), Place::default())
        };
        let taken = std::mem::take(&mut self.settings.title);
        let title = line(self, taken);
        let taken = std::mem::take(&mut self.settings.subtitle);
        let subtitle = line(self, taken);
        let is_kept = self.options.keeps_hidden;
        let shown = &self.settings.options;
        let (has_title, has_author) = (shown.title || is_kept, shown.author || is_kept);
        let (has_email, has_date) = (shown.email || is_kept, shown.date || is_kept);
        let authors = std::mem::take(&mut self.settings.authors);
        let mut email = self.settings.email.take().map(Into::into);
        let hides = [
            (!has_title && !title.is_empty(), "title", "the title"),
            (!has_author && !authors.is_empty(), "author", "the author"),
            (!has_email && email.is_some(), "email", "the e-mail address"),
            (!has_date && self.settings.date.is_some(), "date", "the date"),
        ];
        for (_, key, what) in hides.into_iter().filter(|(is_hidden, ..)| *is_hidden) {
            self.findings.count(Code::NotPublished, what, self.settings.place(key));
        }
        let metadata = &mut self.document.metadata;
        if has_title {
            (metadata.title, metadata.subtitle) = (title, subtitle);
        }
        if has_author {
            metadata.authors = authors
                .into_iter()
                .filter(|name| !name.is_empty())
                .map(|name| Person {
                    name: name.into(),
                    email: if has_email { email.take() } else { None },
                    affiliation: None,
                })
                .collect();
        }
        if has_date {
            metadata.date =
                self.settings.date.take().map(|date| timestamps::bare_date(&date).into());
        }
        if !self.settings.description.is_empty() {
            metadata.description = Some(self.settings.description.join(" "));
        }
        metadata.keywords = self.settings.keywords.iter().map(Into::into).collect();
        metadata.language = self.settings.language.take().map(|tag| tag.replace('_', "-").into());
        self.other_settings();
    }

    /// Settings that have no place in the tree are kept for who writes Org again.
    pub(super) fn other_settings(&mut self) {
        for (key, value) in &self.settings.own {
            let value = typed(value);
            if !self.options.keeps_hidden {
                self.findings.count(Code::KeywordKept, key, self.settings.place(key));
            }
            self.document.metadata.extra.push((key.into(), value));
        }
        let others = std::mem::take(&mut self.settings.others);
        if !self.options.keeps_hidden {
            let is_held = |setting: &OtherSetting| HEAD_LINES.contains(&setting.key.as_str());
            for setting in others.iter().filter(|setting| !setting.is_followed && !is_held(setting))
            {
                let place = self.settings.place(&setting.key);
                self.findings.count(Code::SettingNotKept, &setting.key, place);
            }
            self.keep_settings(others.into_iter().filter(is_held));
            return;
        }
        let extra = &mut self.document.metadata.extra;
        // Also without any: what is hidden then shall stay so.
        let options = self.settings.options.others.join(" ");
        extra.push(("options".into(), Value::Text(options)));
        self.keep_settings(others.into_iter());
    }

    /// Settings as fields; of one that stands several times, all lines.
    pub(super) fn keep_settings(&mut self, settings: impl Iterator<Item = OtherSetting>) {
        let extra = &mut self.document.metadata.extra;
        for OtherSetting { key, value, .. } in settings {
            let value = Value::Text(value);
            match extra.iter_mut().find(|(known, _)| *known == key) {
                Some((_, Value::List(values))) => values.push(value),
                Some((_, known)) => {
                    let first = std::mem::replace(known, Value::Null);
                    *known = Value::List(vec![first, value]);
                }
                None => extra.push((key.into(), value)),
            }
        }
    }

    pub(super) fn read_bibliography(&mut self) {
        for (name, source) in std::mem::take(&mut self.settings.bibliography_files) {
            let name = format!("{}{name}", self.sources.folder(source));
            let Some(text) = sources::file(self.resolver, &name) else {
                if !self.document.bibliography.is_empty() {
                    continue;
                }
                let place = self.settings.place("bibliography");
                self.findings.add_about(Code::IncludeMissing, &name, place);
                continue;
            };
            let (works, problems) = read_bibtex(&text);
            for problem in problems {
                let place = self.settings.place("bibliography");
                self.findings.add_about(Code::BibliographyBroken, &problem, place);
            }
            self.document.bibliography.extend(works);
        }
    }
}
