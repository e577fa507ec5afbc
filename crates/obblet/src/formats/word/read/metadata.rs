//! Properties: core (ECMA-376 part 2, 11), extended and custom (part 1, 22.2 and 22.3); the title;
//! bibliographic sources (22.6).

use super::super::xml::{Ns, Xml};
use super::Reader;
use crate::document::{
    Block, BlockKind, CitedWork, CompactString, Metadata, Person, Value, plain_text,
    walk_blocks_mut,
};

impl Reader<'_> {
    pub(super) fn read_properties(&mut self) {
        self.document.metadata.language.clone_from(&self.language);
        let package = self.package.relationships("");
        if let Some(text) =
            package.part_of_kind("core-properties").and_then(|p| self.named_part_text(p))
        {
            for (name, value) in texts(&text) {
                set_property(&mut self.document.metadata, &name, value);
            }
        }
        if let Some(text) =
            package.part_of_kind("extended-properties").and_then(|p| self.named_part_text(p))
        {
            // Counts of words and the like are those of the program that saved the file.
            let kept = |name: &str| matches!(name, "Company" | "Manager" | "HyperlinkBase");
            for (name, value) in texts(&text).into_iter().filter(|(name, _)| kept(name)) {
                let name = name.to_lowercase().into();
                self.document.metadata.extra.push((name, Value::Text(value)));
            }
        }
        if let Some(text) =
            package.part_of_kind("custom-properties").and_then(|p| self.named_part_text(p))
        {
            let metadata = &mut self.document.metadata;
            for (name, value) in custom_properties(&text) {
                match (name.as_str(), value) {
                    ("date", Value::Text(date)) if metadata.date.is_none() => {
                        metadata.date = Some(date.into());
                    }
                    ("subtitle", Value::Text(text)) if metadata.subtitle.is_empty() => {
                        metadata.subtitle = vec![text.into()];
                    }
                    (_, value) => metadata.extra.push((name, value)),
                }
            }
        }
    }

    /// The works that citations lead to, which stand in a data part (22.6).
    pub(super) fn read_sources(&mut self) {
        let parts: Vec<String> = self
            .part
            .relationships
            .parts_of_kind("customXml")
            .into_iter()
            .map(String::from)
            .collect();
        for part in parts {
            // Such a part may hold anything at all.
            let Ok(text) = self.package.text(&part) else { continue };
            let mut xml = Xml::new(&text);
            let top = xml.level();
            let Some(root) = xml.child(top) else { continue };
            if root.ns == Ns::Bibliography && root.local() == "Sources" {
                let level = xml.level();
                while xml.child(level).is_some() {
                    self.document.bibliography.extend(source(&mut xml));
                }
            }
        }
    }

    /// A paragraph of style Title is the document's title, and the highest heading: all others
    /// go one level down. A different title among the properties is kept beside it.
    pub(super) fn settle_title(&mut self) {
        let mut title = None;
        for block in &mut self.document.blocks {
            let is_title = is_title(block);
            if let BlockKind::Heading(heading) = &mut block.kind
                && is_title
                && title.is_none()
            {
                title = Some(heading.content.clone());
            }
        }
        let Some(title) = title else { return };
        walk_blocks_mut(&mut self.document.blocks, |blocks| {
            for block in blocks {
                let is_title = is_title(block);
                if let BlockKind::Heading(heading) = &mut block.kind
                    && !is_title
                {
                    heading.level = (heading.level + 1).min(9);
                }
            }
        });
        let shown = plain_text(&title);
        let stated = std::mem::replace(&mut self.document.metadata.title, title);
        // Properties hold no formats: the same words are the same title.
        let text = plain_text(&stated);
        if !stated.is_empty() && text != shown {
            self.document.metadata.extra.push(("title".into(), Value::Text(text)));
        }
    }
}

fn is_title(block: &Block) -> bool {
    block.attributes.style().is_some_and(|style| style.eq_ignore_ascii_case("title"))
}

/// The texts of a root's children, by their names.
fn texts(text: &str) -> Vec<(String, String)> {
    let mut found = Vec::new();
    let mut xml = Xml::new(text);
    let top = xml.level();
    while xml.child(top).is_some() {
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            let name = element.local().to_string();
            let inside = xml.level();
            let value = xml.text(inside).trim().to_string();
            if !value.is_empty() {
                found.push((name, value));
            }
        }
    }
    found
}

fn custom_properties(text: &str) -> Vec<(CompactString, Value)> {
    let mut found = Vec::new();
    let mut xml = Xml::new(text);
    let top = xml.level();
    while xml.child(top).is_some() {
        let level = xml.level();
        while let Some(property) = xml.child(level) {
            let Some(name) = property.string("name") else { continue };
            let inside = xml.level();
            let Some(value) = xml.child(inside) else { continue };
            let kind = value.local().to_string();
            let level = xml.level();
            let text = xml.text(level).trim().to_string();
            let value = match kind.as_str() {
                "bool" => Value::Bool(text == "true" || text == "1"),
                "i1" | "i2" | "i4" | "i8" | "int" | "ui1" | "ui2" | "ui4" | "uint" => {
                    text.parse().map_or(Value::Text(text), Value::Integer)
                }
                "r4" | "r8" | "decimal" => text.parse().map_or(Value::Text(text), Value::Number),
                _ => Value::Text(text),
            };
            // Word's own bookkeeping begins so.
            if !name.starts_with('_') {
                found.push((name.into(), value));
            }
        }
    }
    found
}

/// One work: its key, its kind, and its fields; people are joined as bibliographies have them.
fn source(xml: &mut Xml<'_>) -> Option<CitedWork> {
    let mut fields: Vec<(CompactString, String)> = Vec::new();
    let (mut key, mut kind) = (None, CompactString::default());
    let level = xml.level();
    while let Some(element) = xml.child(level) {
        let name = element.local().to_string();
        let inside = xml.level();
        match name.as_str() {
            "Tag" => key = Some(xml.text(inside).trim().into()),
            "SourceType" => kind = xml.text(inside).trim().to_lowercase().into(),
            "Author" => {
                let people = people(xml);
                if !people.is_empty() {
                    fields.push(("author".into(), people));
                }
            }
            // Their numbers in the program's own list.
            "Guid" | "RefOrder" | "LCID" => {}
            _ => {
                let value = xml.text(inside).trim().to_string();
                if !value.is_empty() {
                    fields.push((name.to_lowercase().into(), value));
                }
            }
        }
    }
    key.map(|key| CitedWork { key, kind, fields, content: Vec::new() })
}

/// `Marrow, Ada and Quill, Tom`
fn people(xml: &mut Xml<'_>) -> String {
    let mut all: Vec<String> = Vec::new();
    let level = xml.level();
    while let Some(element) = xml.descendant(level) {
        let name = element.local().to_string();
        if !matches!(name.as_str(), "Last" | "First" | "Middle" | "Corporate") {
            continue;
        }
        let inside = xml.level();
        let text = xml.text(inside).trim().to_string();
        match (name.as_str(), all.last_mut()) {
            ("Last" | "Corporate", _) | (_, None) => all.push(text),
            ("First", Some(person)) => *person = format!("{person}, {text}"),
            (_, Some(person)) => *person = format!("{person} {text}"),
        }
    }
    all.join(" and ")
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
