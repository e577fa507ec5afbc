//! Attributes that any element can have.

use super::super::comments::{ANSWERS, COMMENT, EDGE};
use super::super::dom::{NodeData, NodeId};
use super::super::write::is_language_tag;
use super::super::{ITEM_LABEL, NUMBER_PATTERN};
use super::Reader;
use super::word_processor::is_foreign_name;
use crate::document::{AttributeSet, Attributes, CompactString, Direction};
use crate::findings::Code;

/// What elements say by attributes of their own; read where the element is.
const READ_ELSEWHERE: &[&str] = &[
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
    "data-citation",
    COMMENT,
    EDGE,
    ANSWERS,
    NUMBER_PATTERN,
    "data-active",
    "data-name",
    "data-planned",
    "data-priority",
    "data-repeats",
    "data-shows",
    "data-state",
    "data-tag",
    "data-task",
    "data-warns",
    "data-before",
    "data-behind",
    "data-key",
    "headers",
    "open",
    "align",
    "valign",
];

/// Attributes that say only what something looks like.
const PRESENTATIONAL: [&str; 19] = [
    "alink",
    "background",
    "bgcolor",
    "border",
    "bordercolor",
    "cellpadding",
    "cellspacing",
    "clear",
    "color",
    "face",
    "frame",
    "hspace",
    "link",
    "noshade",
    "nowrap",
    "rules",
    "size",
    "vlink",
    "vspace",
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
    /// Id, classes, language, direction and title.
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
                "lang" if is_language_tag(value) && !self.is_language_around(node, value) => {
                    set.language = Some(language_tag(value));
                }
                "dir" if self.is_direction_around(node, value) => {}
                "dir" if value == "ltr" => set.direction = Some(Direction::LeftToRight),
                "dir" if value == "rtl" => set.direction = Some(Direction::RightToLeft),
                "title" if !value.is_empty() => {
                    set.pairs.push(("title".into(), attribute.value.as_ref().into()));
                }
                "lang" if !value.is_empty() && !is_language_tag(value) => {
                    self.dropped(Code::AttributeDropped, &format!("lang={value}"), node);
                }
                "id" | "lang" | "dir" | "title" => {}
                // What it states was read, or is a finding of its own.
                "style" => {}
                name if READ_ELSEWHERE.contains(&name) || name.starts_with("aria-") => {}
                "data-audience" => {
                    set.audiences.extend(value.split_ascii_whitespace().map(Into::into));
                }
                ITEM_LABEL => set.pairs.push((ITEM_LABEL.into(), CompactString::default())),
                // What the scripts of another page need.
                name if name.starts_with("data-") => {
                    self.dropped(Code::AttributeDropped, "data-…", node);
                }
                "bgcolor" | "color" | "face" | "size" | "width" if self.options.looks => {}
                name if PRESENTATIONAL.contains(&name) => {
                    self.dropped(Code::LooksNotRead, name, node);
                }
                name if is_foreign_name(name) => {
                    let vocabulary = name.split_inclusive(':').next().unwrap_or_default();
                    self.dropped(Code::LooksNotRead, &format!("{vocabulary}…"), node);
                }
                name => self.dropped(Code::AttributeDropped, name, node),
            }
        }
        set.looks = self.looks_of(node);
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
            || MADE_CLASSES.contains(&class)
            || class.strip_prefix("Section").is_some_and(|n| n.parse::<u8>().is_ok());
        !is_made && !self.styles.defines_class(class)
    }

    /// Whether the text around has this language anyway.
    fn is_language_around(&self, node: NodeId, tag: &str) -> bool {
        let mut around =
            std::iter::successors(self.dom.parent(node), |node| self.dom.parent(*node));
        let is_tag = |tag: &&str| is_language_tag(tag);
        let stated = around.find_map(|node| self.dom.attribute(node, "lang").filter(is_tag));
        stated.is_some_and(|stated| stated.eq_ignore_ascii_case(tag))
    }

    /// Whether the text around runs in this direction anyway.
    fn is_direction_around(&self, node: NodeId, direction: &str) -> bool {
        let mut around =
            std::iter::successors(self.dom.parent(node), |node| self.dom.parent(*node));
        let is_valid = |dir: &&str| matches!(*dir, "ltr" | "rtl");
        let stated = around.find_map(|node| self.dom.attribute(node, "dir").filter(is_valid));
        stated.unwrap_or("ltr").eq_ignore_ascii_case(direction)
    }

    /// The same without a title, which links and pictures keep apart.
    pub(super) fn attributes_and_title(&mut self, node: NodeId) -> (Attributes, Option<String>) {
        let mut attributes = self.attributes(node);
        let title = attributes.take_pair("title").map(String::from);
        (attributes, title)
    }
}

/// A language tag; one in capitals, as word processors write it, in its usual form.
pub(super) fn language_tag(tag: &str) -> CompactString {
    let (primary, rest) = tag.split_at(tag.find('-').unwrap_or(tag.len()));
    match primary.bytes().all(|byte| byte.is_ascii_uppercase()) {
        true => CompactString::from(primary.to_ascii_lowercase()) + rest,
        false => tag.into(),
    }
}
