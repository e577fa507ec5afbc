//! Attributes that any element can have.

use super::super::dom::{NodeData, NodeId};
use super::Reader;
use crate::document::{AttributeSet, Attributes, Direction};
use crate::findings::Code;

/// What elements say by attributes of their own; read where the element is.
const READ_ELSEWHERE: [&str; 21] = [
    "href",
    "src",
    "alt",
    "width",
    "height",
    "colspan",
    "rowspan",
    "scope",
    "start",
    "type",
    "value",
    "checked",
    "disabled",
    "cite",
    "datetime",
    "name",
    "role",
    "data-kind",
    "headers",
    "open",
    "align",
];

impl Reader<'_> {
    /// Id, classes, language, direction, title and `data-` values.
    pub(super) fn attributes(&mut self, node: NodeId) -> Attributes {
        let NodeData::Element { attributes, .. } = self.dom.data(node) else {
            return Attributes::NONE;
        };
        let mut set = AttributeSet::default();
        for attribute in attributes {
            let value = attribute.value.trim();
            match &*attribute.name.local {
                "id" if !value.is_empty() => set.id = Some(value.into()),
                "class" => set.classes.extend(value.split_ascii_whitespace().map(Into::into)),
                "lang" if !value.is_empty() => set.language = Some(value.into()),
                "dir" if value == "ltr" => set.direction = Some(Direction::LeftToRight),
                "dir" if value == "rtl" => set.direction = Some(Direction::RightToLeft),
                "title" if !value.is_empty() => {
                    set.pairs.push(("title".into(), attribute.value.as_ref().into()));
                }
                "id" | "lang" | "dir" | "title" => {}
                // What it states was read, or is a finding of its own.
                "style" => {}
                name if READ_ELSEWHERE.contains(&name) || name.starts_with("aria-") => {}
                name if name.starts_with("data-") => {
                    set.pairs.push((name.into(), value.into()));
                }
                name => self.dropped(Code::AttributeDropped, name, node),
            }
        }
        set.into()
    }

    /// The same without a title, which links and pictures keep apart.
    pub(super) fn attributes_and_title(&mut self, node: NodeId) -> (Attributes, Option<String>) {
        let mut attributes = self.attributes(node);
        let title = attributes.take_pair("title").map(String::from);
        (attributes, title)
    }
}
