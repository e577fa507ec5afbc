//! The looks of the text below an element: what holds there, and which element of the document will
//! state it.

use super::super::css::{Stated, aligned, state_attribute};
use super::super::dom::NodeId;
use super::Reader;
use crate::document::{Looks, TextAlign};
use std::rc::Rc;

/// The looks that hold at one place of the page.
#[derive(Debug, Clone, Default)]
pub(super) struct LooksAround {
    /// All that text here has from its elements.
    here: Rc<Looks>,
    /// What of that the blocks around it state.
    of_blocks: Rc<Looks>,
    /// What the node that was entered last has to state itself.
    of_node: Option<(NodeId, Rc<Looks>)>,
}

impl LooksAround {
    /// From here on blocks state what holds for them; none has stated anything yet.
    pub(super) fn begin_blocks(&mut self) {
        self.of_blocks = Rc::default();
        self.of_node = None;
    }
}

/// Elements that become nodes of the document, which can state looks.
const CARRIERS: [&str; 28] = [
    "center",
    "address",
    "article",
    "aside",
    "blockquote",
    "caption",
    "div",
    "figcaption",
    "figure",
    "h1",
    "h2",
    "h3",
    "h4",
    "h5",
    "h6",
    "li",
    "main",
    "ol",
    "p",
    "pre",
    "section",
    "table",
    "td",
    "th",
    "tr",
    "ul",
    "details",
    "hr",
];

impl Reader<'_> {
    /// Takes note of the looks that an element brings.
    pub(super) fn enter_looks(&mut self, node: NodeId, stated: &Stated, align: Option<TextAlign>) {
        let name = self.dom.name(node).unwrap_or_default();
        let own = self.own_looks(node, name, stated, align);
        let around = &mut self.text.looks;
        if !own.is_empty() {
            let mut here = (*around.here).clone();
            here.take_inner(&own.inherited());
            around.here = Rc::new(here);
        }
        if !CARRIERS.contains(&name) {
            let mut beyond = around.here.beyond(&around.of_blocks);
            // A line has no box but what stands behind its letters, and how high they stand.
            let outer = self.text.formats.looks.as_deref();
            beyond.background = own.background.or_else(|| outer.and_then(|looks| looks.background));
            beyond.raise = own.raise.or_else(|| outer.and_then(|looks| looks.raise));
            self.text.formats.looks = (!beyond.is_empty()).then(|| Rc::new(beyond));
            return;
        }
        let mut of_node = around.here.beyond(&around.of_blocks);
        of_node.replace_by(&own.of_box());
        if matches!(name, "td" | "th" | "tr" | "table") {
            // The cells say it, and mean it.
            of_node.align = None;
        }
        around.of_node = (!of_node.is_empty()).then(|| (node, Rc::new(of_node)));
        around.of_blocks = around.here.clone();
        self.text.formats.looks = None;
    }

    /// What an element states by its styles and its attributes.
    pub(super) fn own_looks(
        &self,
        node: NodeId,
        name: &str,
        stated: &Stated,
        align: Option<TextAlign>,
    ) -> Looks {
        let mut own = Looks::default();
        for attribute in ["bgcolor", "color", "face", "size", "width"] {
            if let Some(value) = self.dom.attribute(node, attribute) {
                state_attribute(&mut own, name, attribute, value);
            }
        }
        if let Some(looks) = &stated.looks {
            own.replace_by(looks);
        }
        if let Some(align) = align {
            own.replace_by(&aligned(align));
        }
        own
    }

    /// The looks that a node of the document has to state.
    pub(super) fn looks_of(&self, node: NodeId) -> Option<Box<Looks>> {
        let (of, looks) = self.text.looks.of_node.as_ref()?;
        (*of == node).then(|| Box::new((**looks).clone()))
    }
}
