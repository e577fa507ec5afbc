//! Ids, and attributes that name the ids of others (HTML Standard, 3.2.6.1).

use super::{NearLink, PageFacts, Validator, element_named, kinds::Kinds};
use crate::address::NearAddress;
use crate::document::CompactString;
use crate::findings::Code;
use crate::formats::html::dom::NodeId;
use std::collections::HashMap;

/// Attributes that lead to files.
const LEADING: [(&str, &str); 11] = [
    ("a", "href"),
    ("area", "href"),
    ("audio", "src"),
    ("iframe", "src"),
    ("img", "src"),
    ("link", "href"),
    ("object", "data"),
    ("script", "src"),
    ("source", "src"),
    ("track", "src"),
    ("video", "src"),
];

impl Validator<'_> {
    /// What the page can be linked to, and what it links to.
    pub(super) fn facts(&self) -> PageFacts {
        let dom = self.dom;
        let mut facts = PageFacts::default();
        for node in dom.below(0) {
            let Some(name) = dom.name(node) else { continue };
            facts.ids.extend(dom.attribute(node, "id").map(CompactString::from));
            if matches!(name, "a" | "map") {
                facts.ids.extend(dom.attribute(node, "name").map(CompactString::from));
            }
            for (_, attribute) in LEADING.iter().filter(|(element, _)| *element == name) {
                let address = dom.attribute(node, attribute).unwrap_or_default();
                if NearAddress::of(address).is_some() {
                    facts.near.push(NearLink {
                        address: address.into(),
                        is_picture: name == "img",
                        place: self.place(node),
                    });
                }
            }
        }
        facts
    }

    pub(super) fn references(&mut self) {
        let dom = self.dom;
        let mut ids: HashMap<&str, NodeId> = HashMap::new();
        let mut maps: Vec<&str> = Vec::new();
        let mut repeated = Vec::new();
        for node in dom.below(0) {
            if let Some(id) = dom.attribute(node, "id").filter(|id| !id.is_empty())
                && let Some(first) = ids.get(id)
            {
                repeated.push((node, *first, id.to_string()));
            } else if let Some(id) = dom.attribute(node, "id") {
                ids.insert(id, node);
            }
            if dom.name(node) == Some("map") {
                maps.extend(dom.attribute(node, "name"));
            }
        }
        for (node, first, id) in repeated {
            let places = (self.place(node), self.place(first));
            self.findings.add_pair(Code::IdRepeated, &id, places.0, places.1);
        }
        for (node, attribute, value) in self.id_references() {
            let is_single = matches!(attribute.as_str(), "for" | "form" | "list" | "popovertarget")
                && dom.name(node) != Some("output");
            let wanted: Vec<&str> = if is_single {
                vec![value.as_str()]
            } else {
                value.split_ascii_whitespace().collect()
            };
            for one in wanted {
                let fits = ids.get(one).is_some_and(|target| match attribute.as_str() {
                    "for" if dom.name(node) == Some("label") => dom
                        .name(*target)
                        .and_then(element_named)
                        .is_some_and(|element| element.kinds.has(Kinds::LABELABLE)),
                    "form" => dom.name(*target) == Some("form"),
                    "list" => dom.name(*target) == Some("datalist"),
                    "headers" => dom.name(*target) == Some("th"),
                    _ => true,
                });
                if !fits {
                    let name = dom.name(node).unwrap_or_default();
                    let subject = format!("{attribute}=\"{one}\" on {name}");
                    self.report(Code::IdReferenceBroken, &subject, node);
                }
            }
        }
    }
}
