//! Which attributes an element has, and with which values (HTML Standard, 3.2.6 and 4).

use super::elements::{Element, had_attribute, value_of};
use super::values::Value;
use super::{Validator, aria};
use crate::findings::Code;
use crate::formats::html::dom::{NodeData, NodeId};

/// Attributes that an element must have, where no other stands for them.
const NEEDED: &[(&str, &[&str])] = &[
    ("img", &["src", "srcset"]),
    ("link", &["href", "imagesrcset"]),
    ("link", &["rel", "itemprop"]),
    ("meta", &["charset", "content"]),
    ("meta", &["charset", "name", "http-equiv", "itemprop", "property"]),
    ("map", &["name"]),
    ("object", &["data", "type"]),
    ("track", &["src"]),
    ("data", &["value"]),
    ("meter", &["value"]),
    ("bdo", &["dir"]),
];

/// What says something only about a link.
const OF_LINKS: [&str; 7] =
    ["download", "hreflang", "ping", "referrerpolicy", "rel", "target", "type"];

/// Elements that assistive programs give no name of their own.
const NAMELESS: [&str; 24] = [
    "abbr", "b", "bdi", "bdo", "br", "caption", "cite", "code", "del", "div", "em", "i", "ins",
    "kbd", "mark", "p", "pre", "q", "s", "small", "span", "strong", "sub", "sup",
];

/// Events that an attribute may handle (HTML Standard, 8.1.8.2).
const EVENTS: &str = "abort auxclick beforeinput beforematch beforetoggle blur cancel canplay canplaythrough change \
    click close command contextlost contextmenu contextrestored copy cuechange cut dblclick drag dragend dragenter \
    dragleave dragover dragstart drop durationchange emptied ended error focus formdata input invalid keydown \
    keypress keyup load loadeddata loadedmetadata loadstart mousedown mouseenter mouseleave mousemove mouseout \
    mouseover mouseup paste pause play playing progress ratechange reset resize scroll scrollend \
    securitypolicyviolation seeked seeking select slotchange stalled submit suspend timeupdate toggle volumechange \
    waiting wheel afterprint beforeprint beforeunload hashchange languagechange message messageerror offline \
    online pagehide pageshow popstate rejectionhandled storage unhandledrejection unload";

fn is_event(name: &str) -> bool {
    EVENTS.split_ascii_whitespace().any(|event| event == name)
}

impl Validator<'_> {
    pub(super) fn attributes(&mut self, node: NodeId, element: &Element) {
        let dom = self.dom;
        let NodeData::Element { attributes, .. } = dom.data(node) else { return };
        for attribute in attributes {
            let (name, value) = (&*attribute.name.local, &*attribute.value);
            if let Some(fault) = self.attribute_fault(node, element, name, value) {
                let (code, subject) = fault;
                self.report(code, &subject, node);
            } else if name == "tabindex" && value.parse::<i64>().is_ok_and(|number| number > 0) {
                self.report(Code::TabindexPositive, &format!("tabindex=\"{value}\""), node);
            }
        }
        for (_, any_of) in NEEDED.iter().filter(|(name, _)| *name == element.name) {
            if !any_of.iter().any(|name| dom.attribute(node, name).is_some()) {
                let subject = format!("{} without {}", element.name, any_of.join(" or "));
                self.report(Code::AttributeMissing, &subject, node);
            }
        }
        self.combinations(node, element);
    }

    fn attribute_fault(
        &self,
        node: NodeId,
        element: &Element,
        name: &str,
        value: &str,
    ) -> Option<(Code, String)> {
        let on = |code: Code| Some((code, format!("{name} on {}", element.name)));
        if name.starts_with("data-") && name.len() > 5 && !name.contains(':') {
            return None;
        }
        // Handlers run code, but are no fault of the markup.
        if name.strip_prefix("on").is_some_and(is_event) {
            return None;
        }
        if name.starts_with("xmlns:") || matches!(name, "xml:lang" | "xml:space") {
            return None;
        }
        let Some(value_kind) = value_of(element, name).or_else(|| aria::state(name)) else {
            // An anchor that leads somewhere too had a name beside its address.
            let is_anchor =
                name == "name" && element.name == "a" && self.dom.attribute(node, "href").is_some();
            return match is_anchor || had_attribute(element.name, name) {
                true => on(Code::AttributeObsolete),
                false => on(Code::AttributeUnknown),
            };
        };
        if !self.belongs(node, element, name) {
            return on(Code::AttributeUnknown);
        }
        let fault = match name {
            "role" => aria::role_fault(element.name, value),
            _ => value_kind.fault(value, name),
        };
        let shown: String = value.chars().take(60).collect();
        fault.map(|fault| {
            (Code::AttributeWrong, format!("{name}=\"{shown}\" on {}: {fault}", element.name))
        })
    }

    /// Whether an attribute that the element may have may be there in this case.
    fn belongs(&self, node: NodeId, element: &Element, name: &str) -> bool {
        let has = |attribute: &str| self.dom.attribute(node, attribute).is_some();
        let parent = self.dom.parent(node).and_then(|parent| self.dom.name(parent));
        match (element.name, name) {
            ("a", name) if OF_LINKS.contains(&name) => has("href"),
            ("li", "value") => parent == Some("ol"),
            ("input", name) => super::inputs::takes(self.dom.attribute(node, "type"), name),
            ("colgroup", "span") => {
                !self.dom.children(node).any(|child| self.dom.name(child) == Some("col"))
            }
            ("source", "src") => parent != Some("picture"),
            ("source", "srcset" | "sizes" | "width" | "height") => parent == Some("picture"),
            ("script", "async" | "defer" | "integrity" | "crossorigin") => {
                has("src") || self.dom.attribute(node, "type") == Some("module")
            }
            ("dialog", "tabindex") => false,
            ("link", "as") => {
                let relation = self.dom.attribute(node, "rel").unwrap_or_default();
                relation
                    .split_ascii_whitespace()
                    .any(|one| matches!(one, "preload" | "modulepreload"))
            }
            ("meta", "media") => self.dom.attribute(node, "name") == Some("theme-color"),
            _ => true,
        }
    }

    /// What attributes ask of each other.
    fn combinations(&mut self, node: NodeId, element: &Element) {
        let dom = self.dom;
        let attribute = |name: &str| dom.attribute(node, name);
        let has = |name: &str| attribute(name).is_some();
        let number = |name: &str| attribute(name).and_then(|value| value.parse::<f64>().ok());
        let mut missing = Vec::new();
        let mut wrong = Vec::new();
        match element.name {
            "img" if !has("alt") && !self.is_described_by_caption(node) => missing.push("alt"),
            "area" if has("href") && !has("alt") => missing.push("alt"),
            "meta" if has("name") && !has("content") => missing.push("content"),
            "meta" if has("http-equiv") && !has("content") => missing.push("content"),
            "optgroup" if !has("label") && !self.has_child(node, "legend") => missing.push("label"),
            "input" => {
                let kind = attribute("type").unwrap_or_default();
                if kind.eq_ignore_ascii_case("image") && !has("alt") {
                    missing.push("alt");
                }
            }
            "progress" => {
                let (value, most) = (number("value"), number("max").unwrap_or(1.0));
                if value.is_some_and(|value| value < 0.0 || value > most) || most <= 0.0 {
                    wrong.push("value on progress: it must lie between 0 and max");
                }
            }
            "meter" => {
                let (least, most) = (number("min").unwrap_or(0.0), number("max").unwrap_or(1.0));
                let outside = |name| number(name).is_some_and(|one: f64| one < least || one > most);
                if ["value", "low", "high", "optimum"].into_iter().any(outside) {
                    wrong.push("value on meter: it must lie between min and max");
                }
            }
            _ => {}
        }
        if element.name == "source" {
            let parent = dom.parent(node).and_then(|parent| dom.name(parent));
            match parent {
                Some("picture") if !has("srcset") => missing.push("srcset"),
                Some("audio" | "video") if !has("src") => missing.push("src"),
                _ => {}
            }
        }
        if has("itemtype") && !has("itemscope") {
            missing.push("itemscope");
        }
        let role = attribute("role").unwrap_or_default();
        if NAMELESS.contains(&element.name)
            && role.is_empty()
            && (has("aria-label") || has("aria-labelledby"))
        {
            wrong.push("aria-label: an element without a role has no name of its own");
        }
        for needed in aria::needed_state(role) {
            if !has(needed)
                && !matches!(
                    element.name,
                    "input" | "h1" | "h2" | "h3" | "h4" | "h5" | "h6" | "meter" | "select"
                )
            {
                missing.push(needed);
            }
        }
        for name in missing {
            let subject = format!("{} without {name}", element.name);
            self.report(Code::AttributeMissing, &subject, node);
        }
        for subject in wrong {
            self.report(Code::AttributeWrong, subject, node);
        }
    }

    /// The caption of a figure says what its picture is.
    fn is_described_by_caption(&self, picture: NodeId) -> bool {
        let dom = self.dom;
        if dom.attribute(picture, "title").is_some_and(|title| !title.is_empty()) {
            return true;
        }
        let figure = std::iter::successors(dom.parent(picture), |node| dom.parent(*node))
            .find(|node| dom.name(*node) == Some("figure"));
        figure.is_some_and(|figure| self.has_child(figure, "figcaption"))
    }

    pub(super) fn has_child(&self, node: NodeId, name: &str) -> bool {
        self.dom.children(node).any(|child| self.dom.name(child) == Some(name))
    }

    /// Every attribute of the page that names ids of others, with its value.
    pub(super) fn id_references(&self) -> Vec<(NodeId, String, String)> {
        let mut found = Vec::new();
        for node in self.dom.below(0) {
            let NodeData::Element { attributes, name } = self.dom.data(node) else { continue };
            let Some(element) = super::element_named(&name.local) else { continue };
            for attribute in attributes {
                let name = &*attribute.name.local;
                let kind = value_of(element, name).or_else(|| aria::state(name));
                if matches!(kind, Some(Value::IdReference | Value::IdReferences)) {
                    found.push((node, name.to_string(), attribute.value.to_string()));
                }
            }
        }
        found
    }
}
