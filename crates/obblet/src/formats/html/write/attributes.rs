//! Attributes that any element can carry.

use super::{Writer, escape};
use crate::document::{Attributes, CompactString, clean_id};
use crate::findings::Code;

impl Writer<'_> {
    /// Writes id, classes, language and direction.
    pub(super) fn attributes(&mut self, attributes: &Attributes) {
        // Most nodes have none.
        if attributes.get().is_some() {
            self.attributes_and_style(attributes, None);
        }
    }

    /// The same, with a style of the element's own.
    pub(super) fn attributes_and_style(&mut self, attributes: &Attributes, style: Option<&str>) {
        let named = attributes.style().map(|name| self.style_attributes(name)).unwrap_or_default();
        if attributes.looks().is_some_and(|looks| !looks.tabs.is_empty())
            && self.keeps_looks()
            && !self.has_styles()
        {
            self.not_carried("tab stops");
        }
        let looks = self.look_attributes(attributes.looks());
        let styles = [style, named.style.as_deref(), looks.style.as_deref()];
        self.list_attribute("style", "; ", styles.into_iter().flatten());
        let Some(set) = attributes.get() else { return };
        if let Some(id) = &set.id {
            self.stated_id(id);
        }
        let classes = set.classes.iter().map(|class| class.as_str());
        let classes = classes.chain(named.class.as_deref()).chain(looks.class.as_deref());
        self.list_attribute("class", " ", classes);
        if let Some(language) = &set.language {
            self.language(language);
        }
        if let Some(direction) = set.direction {
            self.attribute("dir", direction.html());
        }
        self.list_attribute("data-audience", " ", set.audiences.iter().map(|it| it.as_str()));
        for (name, value) in &set.pairs {
            // Advice is the one pair that every element may have.
            if name == "title" {
                self.attribute("title", value);
            } else {
                self.findings.count(Code::AttributeDropped, name, Some(self.place));
            }
        }
    }

    /// An attribute whose value is a list; nothing where that is empty.
    fn list_attribute<'v>(
        &mut self,
        name: &str,
        separator: &str,
        values: impl Iterator<Item = &'v str>,
    ) {
        let mut values = values.peekable();
        if values.peek().is_none() {
            return;
        }
        self.begin_attribute(name);
        for (at, value) in values.enumerate() {
            if at > 0 {
                self.out.push_str(separator);
            }
            escape::push_value(&mut self.out, value);
        }
        self.out.push('"');
    }

    /// Writes an id that the source states; a second node with the same one gets another.
    pub(super) fn stated_id(&mut self, id: &str) -> CompactString {
        let unique = self.ids.stated(id).unwrap_or_else(|| {
            self.findings.add_about(Code::IdDuplicate, id, Some(self.place));
            self.ids.made(&clean_id(id).unwrap_or_default())
        });
        self.attribute("id", &unique);
        unique
    }

    fn language(&mut self, tag: &str) {
        if is_language_tag(tag) {
            self.attribute("lang", tag);
        } else {
            let subject = format!("lang={tag}");
            self.findings.count(Code::AttributeDropped, &subject, Some(self.place));
        }
    }
}

/// BCP 47 by its form: subtags of 1 to 8 letters and digits, the first 2, 3 or 5 to 8 letters.
pub(crate) fn is_language_tag(tag: &str) -> bool {
    let mut subtags = tag.split('-');
    let primary = subtags.next().unwrap_or_default();
    let letters = primary.bytes().all(|byte| byte.is_ascii_alphabetic());
    letters
        && (2..=3).contains(&primary.len())
        && subtags.all(|subtag| {
            (1..=8).contains(&subtag.len()) && subtag.bytes().all(|b| b.is_ascii_alphanumeric())
        })
}
