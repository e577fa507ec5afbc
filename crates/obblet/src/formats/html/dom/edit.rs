//! Changing a parsed tree.

use super::{Dom, Node, NodeData, NodeId, links};
use html5ever::tendril::StrTendril;
use html5ever::{Attribute, LocalName, QualName, ns};

impl Dom {
    /// Makes an HTML element that stands nowhere yet. Its line is that of `model`.
    pub(crate) fn new_element(&mut self, name: &str, model: NodeId) -> NodeId {
        let name = QualName::new(None, ns!(html), LocalName::from(name));
        self.add(NodeData::Element { name, attributes: Vec::new() }, model)
    }

    /// Makes a text that stands nowhere yet.
    pub(crate) fn new_text(&mut self, text: &str, model: NodeId) -> NodeId {
        self.add(NodeData::Text(StrTendril::from(text)), model)
    }

    fn add(&mut self, data: NodeData, model: NodeId) -> NodeId {
        self.nodes.push(Node::new(data, self.line(model)));
        self.nodes.len() - 1
    }

    /// Puts a node into another one, as its last.
    pub(crate) fn append(&mut self, parent: NodeId, child: NodeId) {
        links::insert(&mut self.nodes, parent, child, None);
    }

    /// Puts a node before another one that stands in the tree.
    pub(crate) fn insert_before(&mut self, sibling: NodeId, node: NodeId) {
        if let Some(parent) = self.parent(sibling) {
            links::insert(&mut self.nodes, parent, node, Some(sibling));
        }
    }

    /// Puts a node behind another one that stands in the tree.
    pub(crate) fn insert_behind(&mut self, sibling: NodeId, node: NodeId) {
        let next = self.next(sibling);
        if let Some(parent) = self.parent(sibling) {
            links::insert(&mut self.nodes, parent, node, next);
        }
    }

    /// Takes a node with all below it out of the tree.
    pub(crate) fn remove(&mut self, node: NodeId) {
        links::detach(&mut self.nodes, node);
    }

    /// Takes a node out and leaves its children in its place.
    pub(crate) fn unwrap(&mut self, node: NodeId) {
        while let Some(child) = self.first_child(node) {
            self.insert_before(node, child);
        }
        self.remove(node);
    }

    /// Puts a new element around a node.
    pub(crate) fn wrap(&mut self, node: NodeId, name: &str) -> NodeId {
        let wrapper = self.new_element(name, node);
        self.insert_before(node, wrapper);
        self.append(wrapper, node);
        wrapper
    }

    /// Gives an element another name, and leaves its attributes and children.
    pub(crate) fn rename(&mut self, node: NodeId, wanted: &str) {
        if let Some(NodeData::Element { name, .. }) = self.data_mut(node) {
            *name = QualName::new(None, ns!(html), LocalName::from(wanted));
        }
    }

    /// Gives an attribute its value, whether or not the element has it.
    pub(crate) fn set_attribute(&mut self, node: NodeId, name: &str, value: &str) {
        let Some(NodeData::Element { attributes, .. }) = self.data_mut(node) else { return };
        match attributes.iter_mut().find(|attribute| &*attribute.name.local == name) {
            Some(attribute) => attribute.value = value.into(),
            None => attributes.push(Attribute {
                name: QualName::new(None, ns!(), LocalName::from(name)),
                value: value.into(),
            }),
        }
    }

    /// Takes an attribute away. True when there was one.
    pub(crate) fn remove_attribute(&mut self, node: NodeId, name: &str) -> bool {
        let Some(NodeData::Element { attributes, .. }) = self.data_mut(node) else { return false };
        let before = attributes.len();
        attributes.retain(|attribute| &*attribute.name.local != name);
        attributes.len() < before
    }

    /// Puts another text in the place of a text.
    pub(crate) fn set_text(&mut self, node: NodeId, wanted: &str) {
        if let Some(NodeData::Text(text)) = self.data_mut(node) {
            *text = wanted.into();
        }
    }

    fn data_mut(&mut self, node: NodeId) -> Option<&mut NodeData> {
        self.nodes.get_mut(node).map(|node| &mut node.data)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn changes_of_the_tree() {
        type Change = fn(&mut Dom, NodeId);
        let cases: &[(&str, Change)] = &[
            ("<i>a<b>x</b>y</i>c", |_, _| {}),
            ("<i>axy</i>c", |dom, b| dom.unwrap(b)),
            ("<i>ay</i>c", |dom, b| dom.remove(b)),
            ("<i>a<u><b>x</b></u>y</i>c", |dom, b| {
                dom.wrap(b, "u");
            }),
            ("<i>a<em title=\"t\">x</em>y</i>c", |dom, b| {
                dom.rename(b, "em");
                dom.set_attribute(b, "title", "s");
                dom.set_attribute(b, "title", "t");
            }),
            ("<i>a<b>x</b>zy</i>c", |dom, b| {
                let text = dom.new_text("z", b);
                dom.insert_behind(b, text);
            }),
        ];
        for (expected, change) in cases {
            let mut dom = Dom::of_body("<i>a<b>x</b>y</i>c");
            let b = dom.below(0).find(|node| dom.name(*node) == Some("b")).unwrap();
            change(&mut dom, b);
            assert_eq!(dom.body_html(&super::super::Writing::default()), *expected);
        }
    }
}
