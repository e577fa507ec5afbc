//! Core properties (ECMA-376 part 2, 11), and the title.

use super::super::xml::Xml;
use super::Reader;
use crate::document::{BlockKind, Metadata, Person, Value};

impl Reader<'_> {
    pub(super) fn read_properties(&mut self) {
        self.document.metadata.language = self.styles.language.as_ref().map(Into::into);
        let package = self.package.relationships("");
        let Some(part) = package.part_of_kind("core-properties") else { return };
        let Some(text) = self.named_part_text(part) else { return };
        let mut xml = Xml::new(&text);
        let top = xml.level();
        while xml.child(top).is_some() {
            let level = xml.level();
            while let Some(element) = xml.child(level) {
                let inside = xml.level();
                let name = element.local().to_string();
                let value = xml.text(inside).trim().to_string();
                if !value.is_empty() {
                    set_property(&mut self.document.metadata, &name, value);
                }
            }
        }
    }

    /// A paragraph of style Title is the document's title, and the highest heading: all others
    /// go one level down. A different title among the properties is kept beside it.
    pub(super) fn settle_title(&mut self) {
        let mut title = None;
        for block in &mut self.document.blocks {
            let is_title = block.attributes.style() == Some("title");
            if let BlockKind::Heading(heading) = &mut block.kind
                && is_title
                && title.is_none()
            {
                title = Some(heading.content.clone());
            }
        }
        let Some(title) = title else { return };
        for block in &mut self.document.blocks {
            let is_title = block.attributes.style() == Some("title");
            if let BlockKind::Heading(heading) = &mut block.kind
                && !is_title
            {
                heading.level = (heading.level + 1).min(9);
            }
        }
        let stated = std::mem::replace(&mut self.document.metadata.title, title);
        if !stated.is_empty() && stated != self.document.metadata.title {
            let text = crate::document::plain_text(&stated);
            self.document.metadata.extra.push(("title".into(), Value::Text(text)));
        }
    }
}

fn set_property(metadata: &mut Metadata, name: &str, value: String) {
    match name {
        "title" => metadata.title = vec![value.into()],
        "creator" => {
            let names = value.split(';').map(str::trim).filter(|name| !name.is_empty());
            let person = |name: &str| Person { name: name.into(), ..Person::default() };
            metadata.authors.extend(names.map(person));
        }
        "description" => metadata.description = Some(value),
        "keywords" => {
            let words = value.split([',', ';']).map(str::trim).filter(|word| !word.is_empty());
            metadata.keywords.extend(words.map(Into::into));
        }
        "language" => metadata.language = Some(value.into()),
        "created" => metadata.created = Some(value.into()),
        "modified" => metadata.modified = Some(value.into()),
        _ => metadata.extra.push((name.into(), Value::Text(value))),
    }
}
