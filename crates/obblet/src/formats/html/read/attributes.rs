//! Attributes that any element can have.

use super::super::dom::{NodeData, NodeId};
use super::Reader;
use crate::document::{AttributeSet, Attributes, Direction};
use crate::findings::Code;

/// What elements say by attributes of their own; read where the element is.
const READ_ELSEWHERE: [&str; 22] = [
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
    "valign",
];

/// How the classes begin that programs give to their own styles and sections.
const MADE_PREFIXES: [&str; 3] = ["Mso", "mso", "WordSection"];

/// Classes that programs put on words they have checked or pasted.
const MADE_CLASSES: [&str; 6] = [
    "SpellE",
    "GramE",
    "Apple-converted-space",
    "Apple-tab-span",
    "Apple-style-span",
    "apple-converted-space",
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
                "id" if self.is_wanted_id(value) => set.id = Some(value.into()),
                "class" => {
                    let classes =
                        value.split_ascii_whitespace().filter(|c| self.is_wanted_class(c));
                    set.classes.extend(classes.map(Into::into));
                }
                "lang" if !value.is_empty() && !self.is_language_around(node, value) => {
                    set.language = Some(value.into());
                }
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

    /// Whether an id is for readers and links: not one that a program made for itself and that
    /// nothing on the page points to.
    pub(super) fn is_wanted_id(&self, id: &str) -> bool {
        let is_made =
            id.starts_with('_') || id.contains("-internal-guid-") || id.starts_with("OLE_LINK");
        !id.is_empty() && (!is_made || self.referenced.contains(id))
    }

    /// Whether a class may mean something: not one that only names looks of this page's own style
    /// sheets, or a program's mark of what it found.
    fn is_wanted_class(&self, class: &str) -> bool {
        let is_made = MADE_PREFIXES.iter().any(|prefix| class.starts_with(prefix))
            || MADE_CLASSES.contains(&class);
        !is_made && !self.styles.defines_class(class)
    }

    /// Whether the text around has this language anyway.
    fn is_language_around(&self, node: NodeId, tag: &str) -> bool {
        let mut around =
            std::iter::successors(self.dom.parent(node), |node| self.dom.parent(*node));
        let stated = around.find_map(|node| self.dom.attribute(node, "lang"));
        stated.is_some_and(|stated| stated.eq_ignore_ascii_case(tag))
    }

    /// The same without a title, which links and pictures keep apart.
    pub(super) fn attributes_and_title(&mut self, node: NodeId) -> (Attributes, Option<String>) {
        let mut attributes = self.attributes(node);
        let title = attributes.take_pair("title").map(String::from);
        (attributes, title)
    }
}
