//! What html5ever builds the tree through.

use super::{Dom, Fault, Node, NodeData, NodeId, links};
use html5ever::interface::{ElemName, ElementFlags, NodeOrText, QuirksMode, TreeSink};
use html5ever::tendril::StrTendril;
use html5ever::{Attribute, LocalName, Namespace, QualName, local_name, ns};
use std::borrow::Cow;
use std::cell::{Cell, RefCell};

/// What html5ever builds the tree through.
pub(in super::super) struct Sink {
    /// How deep the last element stands that was put in.
    pub(in super::super) depth: Cell<u32>,
    nodes: RefCell<Vec<Node>>,
    mended: Cell<usize>,
    /// Elements that were left out because they stood too deep, and the line of the first one.
    too_deep: Cell<(u32, u32)>,
    /// What was mended, where somebody wants to know.
    faults: Option<RefCell<Vec<Fault>>>,
    line: Cell<u32>,
}

impl Default for Sink {
    fn default() -> Self {
        Self {
            depth: Cell::new(0),
            nodes: RefCell::new(vec![Node::new(NodeData::Document, 0)]),
            mended: Cell::new(0),
            too_deep: Cell::default(),
            faults: None,
            line: Cell::new(1),
        }
    }
}

/// An element's name, out of the sink's cell.
#[derive(Debug)]
pub(in super::super) struct OwnedName(QualName);

impl ElemName for OwnedName {
    fn ns(&self) -> &Namespace {
        &self.0.ns
    }

    fn local_name(&self) -> &LocalName {
        &self.0.local
    }
}

/// The most mistakes that are remembered of one source.
const MOST_FAULTS: usize = 1000;

impl Sink {
    /// One that remembers what was mended.
    pub(super) fn with_faults() -> Self {
        Self { faults: Some(RefCell::default()), ..Self::default() }
    }

    /// An element is left out because it stands too deep.
    pub(in super::super) fn leave_out(&self) {
        let (count, first) = self.too_deep.get();
        let first = if count == 0 { self.line.get() } else { first };
        self.too_deep.set((count.saturating_add(1), first));
        self.parse_error("an element stands too deep".into());
    }

    /// How many nodes were made.
    pub(in super::super) fn count(&self) -> usize {
        self.nodes.borrow().len()
    }

    fn add(&self, data: NodeData) -> NodeId {
        let mut nodes = self.nodes.borrow_mut();
        nodes.push(Node::new(data, self.line.get()));
        nodes.len() - 1
    }

    fn insert(&self, parent: NodeId, child: NodeId, next: Option<NodeId>) {
        let nodes = &mut *self.nodes.borrow_mut();
        links::insert(nodes, parent, child, next);
        if matches!(nodes[child].data, NodeData::Element { .. }) {
            self.depth.set(nodes[child].depth);
        }
    }

    fn insert_node_or_text(&self, parent: NodeId, child: NodeOrText<NodeId>, next: Option<NodeId>) {
        match child {
            NodeOrText::AppendNode(child) => self.insert(parent, child, next),
            NodeOrText::AppendText(text) => {
                let before = {
                    let nodes = self.nodes.borrow();
                    next.map_or(nodes[parent].last_child, |next| nodes[next].previous).get()
                };
                if let Some(before) = before
                    && let NodeData::Text(last) = &mut self.nodes.borrow_mut()[before].data
                {
                    last.push_tendril(&text);
                    return;
                }
                let text = self.add(NodeData::Text(text));
                self.insert(parent, text, next);
            }
        }
    }
}

impl TreeSink for Sink {
    type Handle = NodeId;
    type Output = Dom;
    type ElemName<'a> = OwnedName;

    fn finish(self) -> Dom {
        Dom {
            nodes: self.nodes.into_inner(),
            mended: self.mended.get(),
            too_deep: self.too_deep.get(),
            faults: self.faults.map(RefCell::into_inner).unwrap_or_default(),
        }
    }

    fn parse_error(&self, message: Cow<'static, str>) {
        self.mended.set(self.mended.get() + 1);
        if let Some(faults) = &self.faults {
            let mut faults = faults.borrow_mut();
            if faults.len() < MOST_FAULTS {
                faults.push(Fault { line: self.line.get(), message });
            }
        }
    }

    fn get_document(&self) -> NodeId {
        0
    }

    fn elem_name<'a>(&'a self, target: &'a NodeId) -> OwnedName {
        match &self.nodes.borrow()[*target].data {
            NodeData::Element { name, .. } => OwnedName(name.clone()),
            _ => OwnedName(QualName::new(None, ns!(), local_name!(""))),
        }
    }

    fn create_element(
        &self,
        name: QualName,
        attributes: Vec<Attribute>,
        _flags: ElementFlags,
    ) -> NodeId {
        self.add(NodeData::Element { name, attributes })
    }

    fn create_comment(&self, text: StrTendril) -> NodeId {
        self.add(NodeData::Remark(text))
    }

    fn create_pi(&self, _target: StrTendril, _data: StrTendril) -> NodeId {
        self.add(NodeData::Remark(StrTendril::new()))
    }

    fn append(&self, parent: &NodeId, child: NodeOrText<NodeId>) {
        self.insert_node_or_text(*parent, child, None);
    }

    fn append_based_on_parent_node(
        &self,
        element: &NodeId,
        previous_element: &NodeId,
        child: NodeOrText<NodeId>,
    ) {
        let parent = self.nodes.borrow()[*element].parent.get();
        match parent {
            Some(parent) => self.insert_node_or_text(parent, child, Some(*element)),
            None => self.append(previous_element, child),
        }
    }

    fn append_doctype_to_document(&self, _: StrTendril, _: StrTendril, _: StrTendril) {}

    /// The contents of a `template` are kept below it; the sanitiser drops them with it.
    fn get_template_contents(&self, target: &NodeId) -> NodeId {
        *target
    }

    fn same_node(&self, one: &NodeId, two: &NodeId) -> bool {
        one == two
    }

    fn set_current_line(&self, line: u64) {
        self.line.set(u32::try_from(line).unwrap_or(u32::MAX));
    }

    fn set_quirks_mode(&self, _mode: QuirksMode) {}

    fn append_before_sibling(&self, sibling: &NodeId, child: NodeOrText<NodeId>) {
        let parent = self.nodes.borrow()[*sibling].parent.get();
        if let Some(parent) = parent {
            self.insert_node_or_text(parent, child, Some(*sibling));
        }
    }

    fn add_attrs_if_missing(&self, target: &NodeId, more: Vec<Attribute>) {
        if let NodeData::Element { attributes, .. } = &mut self.nodes.borrow_mut()[*target].data {
            for attribute in more {
                if !attributes.iter().any(|known| known.name == attribute.name) {
                    attributes.push(attribute);
                }
            }
        }
    }

    fn remove_from_parent(&self, target: &NodeId) {
        links::detach(&mut self.nodes.borrow_mut(), *target);
    }

    fn reparent_children(&self, node: &NodeId, new_parent: &NodeId) {
        loop {
            let child = self.nodes.borrow()[*node].first_child.get();
            let Some(child) = child else { return };
            self.insert(*new_parent, child, None);
        }
    }
}
