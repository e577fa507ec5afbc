//! A piece of text or HTML that a rule puts before or behind what it matches.

use crate::findings::Findings;
use crate::formats::html::dom::{Dom, NodeData, NodeId, Writing};
use crate::formats::html::sanitised;

/// What stands for the number of an item.
const NUMBER: &str = "{number}";

/// A piece, parsed.
pub(super) struct Piece {
    dom: Dom,
}

impl Piece {
    /// `None` when it holds what may not go out.
    pub(super) fn of(html: &str) -> Option<Self> {
        let dom = Dom::of_body(html);
        let mut findings = Findings::new();
        sanitised(&dom.body_html(&Writing::default()), &mut findings);
        findings.is_empty().then_some(Self { dom })
    }

    /// Whether the number of an item stands in it.
    pub(super) fn shows_number(&self) -> bool {
        self.dom.text_of(self.dom.root()).contains(NUMBER)
    }

    /// Whether the piece is a line break and nothing else.
    pub(super) fn is_break(&self) -> bool {
        let mut nodes = self.dom.below(self.dom.root());
        let first = nodes.next().and_then(|node| self.dom.name(node));
        first == Some("br") && nodes.next().is_none()
    }

    /// Makes the piece's nodes in another tree. They stand nowhere yet.
    pub(super) fn plant(&self, into: &mut Dom, model: NodeId, number: usize) -> Vec<NodeId> {
        let mut planted = Vec::new();
        // Each node of the piece with the node it goes into.
        let mut steps: Vec<(NodeId, Option<NodeId>)> =
            self.dom.children(self.dom.root()).map(|child| (child, None)).collect();
        steps.reverse();
        while let Some((node, parent)) = steps.pop() {
            let copy = match self.dom.data(node) {
                NodeData::Text(text) => {
                    into.new_text(&text.replace(NUMBER, &number.to_string()), model)
                }
                NodeData::Element { name, attributes } => {
                    let copy = into.new_element(&name.local, model);
                    for attribute in attributes {
                        into.set_attribute(copy, &attribute.name.local, &attribute.value);
                    }
                    copy
                }
                NodeData::Remark(_) | NodeData::Document => continue,
            };
            match parent {
                Some(parent) => into.append(parent, copy),
                None => planted.push(copy),
            }
            let children: Vec<NodeId> = self.dom.children(node).collect();
            steps.extend(children.into_iter().rev().map(|child| (child, Some(copy))));
        }
        planted
    }
}
