//! What stands around an element at any distance, as far as it matters to what may stand in it.

use super::elements::Element;
use super::kinds::Kinds;
use crate::formats::html::dom::{Dom, NodeId};

/// A set of ancestors.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Surroundings(u32);

/// Ancestors that rule out what is in the second list anywhere in them.
#[rustfmt::skip]
const RULES: &[(&str, &[&str])] = &[
    ("form", &["form"]),
    ("header", &["header", "footer", "main"]),
    ("footer", &["header", "footer", "main"]),
    ("address", &["header", "footer", "address"]),
    ("dt", &["header", "footer"]),
    ("th", &["header", "footer"]),
    ("label", &["label"]),
    ("meter", &["meter"]),
    ("progress", &["progress"]),
    ("dfn", &["dfn"]),
    ("noscript", &["noscript"]),
    ("caption", &["table"]),
    ("article", &["main"]),
    ("aside", &["main"]),
    ("nav", &["main"]),
    ("audio", &["audio", "video"]),
    ("video", &["audio", "video"]),
    ("a", &["a"]),
];

/// Ancestors in which no headings and no sections may stand.
const WITHOUT_SECTIONS: &[&str] = &["address", "dt", "th"];

const IN_LINK: u32 = 1 << 30;
const IN_BUTTON: u32 = 1 << 29;
const WITHOUT: u32 = 1 << 28;

impl Surroundings {
    pub(super) const NONE: Self = Self(0);

    /// What stands around the parts of an element.
    pub(super) fn inside(self, dom: &Dom, node: NodeId, element: &Element) -> Self {
        let mut bits = self.0;
        for (index, (name, _)) in RULES.iter().enumerate() {
            if *name == element.name {
                bits |= 1 << index;
            }
        }
        if element.name == "a" && dom.attribute(node, "href").is_some() {
            bits |= IN_LINK;
        }
        if element.name == "button" {
            bits |= IN_BUTTON;
        }
        if WITHOUT_SECTIONS.contains(&element.name) {
            bits |= WITHOUT;
        }
        // A section of its own may have a head and a foot of its own.
        if element.kinds.has(Kinds::SECTIONING) {
            let ends = |name: &str| name == "header" || name == "footer";
            for (index, (name, _)) in RULES.iter().enumerate() {
                if ends(name) {
                    bits &= !(1 << index);
                }
            }
        }
        Self(bits)
    }

    /// The ancestor that rules an element out.
    pub(super) fn rules_out(self, element: &Element, is_interactive: bool) -> Option<&'static str> {
        if is_interactive && self.0 & IN_BUTTON != 0 {
            return Some("button");
        }
        if is_interactive && self.0 & IN_LINK != 0 {
            return Some("a");
        }
        let is_section = element.kinds.has(Kinds::SECTIONING) || element.kinds.has(Kinds::HEADING);
        if is_section && self.0 & WITHOUT != 0 {
            return Some("address, dt or th");
        }
        RULES
            .iter()
            .enumerate()
            .find(|(index, (_, ruled_out))| {
                self.0 & (1 << index) != 0 && ruled_out.contains(&element.name)
            })
            .map(|(_, (name, _))| *name)
    }
}
