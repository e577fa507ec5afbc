//! Which element may stand in which (HTML Standard, 3.2.5).

use super::elements::Element;
use super::kinds::{Holds, Kinds};
use super::{Standing, Validator, is_interactive};
use crate::findings::Code;
use crate::formats::html::dom::NodeId;

/// Elements that stand in a few others alone, with these.
#[rustfmt::skip]
const PLACES: &[(&str, &[&str])] = &[
    ("caption", &["table"]), ("col", &["colgroup"]), ("colgroup", &["table"]),
    ("dd", &["dl", "div"]), ("dt", &["dl", "div"]), ("figcaption", &["figure"]),
    ("legend", &["fieldset", "optgroup"]), ("li", &["ol", "ul", "menu"]),
    ("optgroup", &["select"]), ("option", &["select", "optgroup", "datalist", "div"]),
    ("rp", &["ruby"]), ("rt", &["ruby"]), ("source", &["picture", "audio", "video"]),
    ("summary", &["details"]), ("tbody", &["table"]), ("td", &["tr"]), ("tfoot", &["table"]),
    ("th", &["tr"]), ("thead", &["table"]), ("tr", &["table", "thead", "tbody", "tfoot"]),
    ("track", &["audio", "video"]), ("head", &["html"]), ("body", &["html"]), ("title", &["head"]),
    ("base", &["head"]),
];

impl Validator<'_> {
    /// Whether an element may stand where it does.
    pub(super) fn position(
        &mut self,
        node: NodeId,
        element: &Element,
        parent: NodeId,
        around: Standing,
    ) {
        let parent_name = self.dom.name(parent).unwrap_or_default();
        if !self.fits(node, element, parent_name, around) {
            let subject = format!("{} in {parent_name}", element.name);
            return self.report(Code::ElementMisplaced, &subject, node);
        }
        let interactive = is_interactive(self.dom, node, element)
            || self.dom.attribute(node, "tabindex").is_some();
        if let Some(outer) = around.around.rules_out(element, interactive) {
            let subject = format!("{} inside {outer}", element.name);
            self.report(Code::ElementMisplaced, &subject, node);
        }
    }

    fn fits(&self, node: NodeId, element: &Element, parent: &str, around: Standing) -> bool {
        if let Some((_, places)) = PLACES.iter().find(|(name, _)| *name == element.name) {
            return places.contains(&parent) && self.fits_part(node, element.name, parent);
        }
        match around.holds {
            Holds::Anything => true,
            Holds::Nothing | Holds::Text => false,
            Holds::Only(names) => names.contains(&element.name),
            Holds::Phrasing => {
                element.kinds.has(Kinds::PHRASING) || self.is_in_line_anywhere(node, element.name)
            }
            Holds::Flow | Holds::Transparent => {
                element.kinds.has(Kinds::FLOW) || self.is_in_line_anywhere(node, element.name)
            }
        }
    }

    /// Of a `dl` a `div` may hold the parts, and nothing else; a `div` elsewhere holds none.
    fn fits_part(&self, node: NodeId, name: &str, parent: &str) -> bool {
        if parent != "div" {
            return true;
        }
        let outer = self.dom.parent(node).and_then(|div| self.dom.parent(div));
        let outer = outer.and_then(|outer| self.dom.name(outer)).unwrap_or_default();
        match name {
            "option" => matches!(outer, "select" | "optgroup" | "datalist"),
            _ => outer == "dl",
        }
    }

    /// Links and metadata that belong to the body (HTML Standard, 4.2.4 and 4.2.5).
    fn is_in_line_anywhere(&self, node: NodeId, name: &str) -> bool {
        const BODY_RELATIONS: [&str; 9] = [
            "dns-prefetch",
            "modulepreload",
            "pingback",
            "preconnect",
            "prefetch",
            "preload",
            "stylesheet",
            "expect",
            "prerender",
        ];
        let has_property = self.dom.attribute(node, "itemprop").is_some();
        let relation = self.dom.attribute(node, "rel").unwrap_or_default();
        let mut relations = relation.split_ascii_whitespace().peekable();
        let is_for_body = relations.peek().is_some()
            && relations
                .all(|one| BODY_RELATIONS.iter().any(|known| known.eq_ignore_ascii_case(one)));
        matches!(name, "link" | "meta") && has_property || name == "link" && is_for_body
    }

    /// Formulas and drawings stand in lines.
    pub(super) fn foreign(&mut self, node: NodeId, name: &str, parent: NodeId, around: Standing) {
        let holds = around.holds;
        if !matches!(holds, Holds::Phrasing | Holds::Flow | Holds::Transparent | Holds::Anything) {
            let parent_name = self.dom.name(parent).unwrap_or_default();
            self.report(Code::ElementMisplaced, &format!("{name} in {parent_name}"), node);
        }
    }

    /// Elements of one's own stand in lines too.
    pub(super) fn custom(&mut self, node: NodeId, parent: NodeId, around: Standing) {
        let name = self.dom.name(node).unwrap_or_default().to_string();
        self.foreign(node, &name, parent, around);
    }

    /// Whether text may stand where it does.
    pub(super) fn text(&mut self, text: &str, parent: NodeId, around: Standing) {
        let is_blank = text.chars().all(super::values::is_space);
        let takes_text = !matches!(around.holds, Holds::Only(_) | Holds::Nothing);
        if parent != 0 && !is_blank && !takes_text {
            let name = self.dom.name(parent).unwrap_or_default().to_string();
            self.report(Code::TextMisplaced, &name, parent);
        }
    }
}
