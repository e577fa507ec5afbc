//! Whether HTML is valid: its syntax, which elements stand where, what they must have, which
//! attributes they have and with which values (HTML Standard; WAI-ARIA).
//!
//! Formulas and drawings are looked at only for where they stand; of scripts and style sheets nothing
//! is read.

mod aria;
mod attributes;
mod content;
mod elements;
mod inputs;
mod kinds;
mod parts;
mod references;
mod surroundings;
mod syntax;
mod tables;
mod tags;
pub(super) mod values;

use super::NearLink;
use crate::document::{CompactString, Place};
use crate::findings::{Code, Findings};
use crate::formats::html::dom::{Dom, NodeData, NodeId};
use elements::{Element, element_named};
use html5ever::ns;
use kinds::Holds;
use std::collections::HashSet;
use surroundings::Surroundings;
use tags::TagPlaces;

/// What else a check wants to know of a page.
#[derive(Debug, Default)]
pub(super) struct PageFacts {
    /// What links can lead to.
    pub(super) ids: HashSet<CompactString>,
    /// What leads to files nearby.
    pub(super) near: Vec<NearLink>,
}

/// Says all that is wrong with some HTML, by its text and its tree with faults. `is_page` says whether it
/// has to be a whole page.
pub(super) fn validate(text: &str, dom: &Dom, is_page: bool, findings: &mut Findings) -> PageFacts {
    let places = TagPlaces::of(text, dom);
    let mut validator = Validator { dom, is_page, places, findings };
    validator.syntax(text);
    validator.elements();
    validator.references();
    validator.facts()
}

struct Validator<'v> {
    dom: &'v Dom,
    is_page: bool,
    places: TagPlaces,
    findings: &'v mut Findings,
}

/// How an element stands: what is around it, and what it may hold.
#[derive(Debug, Clone, Copy)]
struct Standing {
    around: Surroundings,
    holds: Holds,
}

impl Validator<'_> {
    fn report(&mut self, code: Code, subject: &str, node: NodeId) {
        let place = self.place(node);
        self.findings.add_about(code, subject, Some(place));
    }

    fn place(&self, node: NodeId) -> Place {
        self.places.of_node(node)
    }

    /// Goes through all elements, each once, those around it first.
    fn elements(&mut self) {
        let top = Standing { around: Surroundings::NONE, holds: Holds::Anything };
        let mut open: Vec<(NodeId, Standing)> = vec![(0, top)];
        while let Some((parent, standing)) = open.pop() {
            let dom = self.dom;
            // What may not be looked into.
            if standing.holds == Holds::Anything && parent != 0 {
                continue;
            }
            let behind = open.len();
            for node in dom.children(parent) {
                match dom.data(node) {
                    NodeData::Element { name, .. } if name.ns == ns!(html) => {
                        let inner = self.element(node, parent, standing);
                        open.push((node, inner));
                    }
                    NodeData::Element { name, .. } => {
                        self.foreign(node, &name.local, parent, standing);
                    }
                    NodeData::Text(text) => self.text(text, parent, standing),
                    NodeData::Document | NodeData::Remark(_) => {}
                }
            }
            open[behind..].reverse();
        }
    }

    /// Looks at one element and says how it stands.
    fn element(&mut self, node: NodeId, parent: NodeId, around: Standing) -> Standing {
        let dom = self.dom;
        let name = dom.name(node).unwrap_or_default();
        let Some(element) = element_named(name) else {
            self.unknown(node, name, parent, around);
            return Standing { holds: Holds::Transparent.within(around.holds), ..around };
        };
        self.attributes(node, element);
        if parent != 0 {
            self.position(node, element, parent, around);
        }
        self.parts(node, element);
        let holds = element.holds.within(around.holds);
        Standing { around: around.around.inside(dom, node, element), holds }
    }

    fn unknown(&mut self, node: NodeId, name: &str, parent: NodeId, around: Standing) {
        match elements::stands_for(name) {
            Some(now) => {
                let subject = format!("{name}; {now} stands for it now");
                self.report(Code::ElementObsolete, &subject, node);
            }
            // Elements of one's own have a hyphen in their names (HTML Standard, 4.13.2).
            None if name.contains('-') => self.custom(node, parent, around),
            None => self.report(Code::ElementNotHtml, name, node),
        }
    }
}

impl Holds {
    /// What an element holds that stands in one that holds this.
    fn within(self, around: Self) -> Self {
        match (self, around) {
            (Self::Transparent, Self::Phrasing) => Self::Phrasing,
            (Self::Transparent, _) => Self::Flow,
            (own, _) => own,
        }
    }
}

/// The kinds that an element has because of its attributes.
fn is_interactive(dom: &Dom, node: NodeId, element: &Element) -> bool {
    let has = |attribute: &str| dom.attribute(node, attribute).is_some();
    match element.name {
        "a" => has("href"),
        "audio" | "video" => has("controls"),
        "img" | "object" => has("usemap"),
        "input" => {
            !dom.attribute(node, "type").is_some_and(|kind| kind.eq_ignore_ascii_case("hidden"))
        }
        _ => element.kinds.has(kinds::Kinds::INTERACTIVE),
    }
}
