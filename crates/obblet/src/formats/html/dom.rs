//! A tree of parsed HTML: html5ever parses, this holds what it found.
//!
//! Nodes are numbers into one list and are linked to parent, siblings and first child, so that
//! every change html5ever asks for takes constant time and dropping the tree never recurses.

use super::depth_guard::parse;
use html5ever::interface::{ElemName, ElementFlags, NodeOrText, QuirksMode, TreeSink};
use html5ever::tendril::StrTendril;
use html5ever::tokenizer::TokenizerOpts;
use html5ever::tree_builder::{TreeBuilder, TreeBuilderOpts};
use html5ever::{Attribute, LocalName, Namespace, QualName, local_name, ns};
use std::borrow::Cow;
use std::cell::{Cell, RefCell};

/// The number of a node; 0 is the document.
pub(super) type NodeId = usize;

#[derive(Debug)]
pub(super) enum NodeData {
    Document,
    Element {
        name: QualName,
        attributes: Vec<Attribute>,
    },
    Text(StrTendril),
    /// A comment, or a processing instruction without its text.
    Remark(StrTendril),
}

#[derive(Debug)]
struct Node {
    data: NodeData,
    parent: Link,
    previous: Link,
    next: Link,
    first_child: Link,
    last_child: Link,
    /// The line of the source, counted from 1.
    line: u32,
    /// How many nodes stand around it.
    depth: u32,
}

/// The number of another node, or none, in half the space: pages have many nodes.
#[derive(Debug, Clone, Copy)]
struct Link(u32);

impl Link {
    const NONE: Self = Self(u32::MAX);

    fn get(self) -> Option<NodeId> {
        (self.0 != u32::MAX).then_some(self.0 as usize)
    }
}

impl From<NodeId> for Link {
    fn from(node: NodeId) -> Self {
        // A page of more than four thousand million nodes is larger than any source may be.
        Self(u32::try_from(node).unwrap_or(u32::MAX))
    }
}

impl From<Option<NodeId>> for Link {
    fn from(node: Option<NodeId>) -> Self {
        node.map_or(Self::NONE, Into::into)
    }
}

/// A parsed fragment.
#[derive(Debug)]
pub(super) struct Dom {
    nodes: Vec<Node>,
    /// How many mistakes the parser mended.
    pub(super) mended: usize,
}

impl Dom {
    /// Parses what stands inside a `body`.
    pub(super) fn of_body(html: &str) -> Self {
        let sink = Sink::default();
        let name = QualName::new(None, ns!(html), local_name!("body"));
        let context = sink.create_element(name, Vec::new(), ElementFlags::default());
        let options = TreeBuilderOpts::default();
        let builder = TreeBuilder::new_for_fragment(sink, context, None, options);
        let initial_state = Some(builder.tokenizer_state_for_context_elem(false));
        parse(html, builder, TokenizerOpts { initial_state, ..TokenizerOpts::default() })
    }

    /// Parses a whole page; what is only a fragment becomes one.
    pub(super) fn of_page(html: &str) -> Self {
        let builder = TreeBuilder::new(Sink::default(), TreeBuilderOpts::default());
        parse(html, builder, TokenizerOpts::default())
    }

    /// The line of the source at which the parser came by the node.
    pub(super) fn line(&self, id: NodeId) -> u32 {
        self.nodes.get(id).map_or(0, |node| node.line)
    }

    /// The children of a node.
    pub(super) fn children(&self, id: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        std::iter::successors(self.first_child(id), |child| self.next(*child))
    }

    /// The local name of an element.
    pub(super) fn name(&self, id: NodeId) -> Option<&str> {
        match self.data(id) {
            NodeData::Element { name, .. } => Some(&name.local),
            _ => None,
        }
    }

    /// The value of an element's attribute.
    pub(super) fn attribute(&self, id: NodeId, wanted: &str) -> Option<&str> {
        let NodeData::Element { attributes, .. } = self.data(id) else { return None };
        let found = attributes.iter().find(|attribute| &*attribute.name.local == wanted);
        found.map(|attribute| &*attribute.value)
    }

    /// All nodes below a node, in document order.
    pub(super) fn below(&self, id: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        let mut next = self.first_child(id);
        std::iter::from_fn(move || {
            let here = next?;
            next = self.first_child(here).or_else(|| {
                let mut at = here;
                loop {
                    if let Some(sibling) = self.next(at) {
                        break Some(sibling);
                    }
                    at = self.parent(at).filter(|parent| *parent != id)?;
                }
            });
            Some(here)
        })
    }

    /// All text below a node.
    pub(super) fn text_of(&self, node: NodeId) -> String {
        let mut text = String::new();
        for below in self.below(node) {
            if let NodeData::Text(part) = self.data(below) {
                text.push_str(part);
            }
        }
        text
    }

    /// The element below the document under which the fragment's nodes stand.
    pub(super) fn root(&self) -> NodeId {
        self.first_child(0).unwrap_or_default()
    }

    pub(super) fn data(&self, id: NodeId) -> &NodeData {
        self.nodes.get(id).map_or(&NodeData::Document, |node| &node.data)
    }

    pub(super) fn first_child(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.first_child.get()
    }

    pub(super) fn parent(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.parent.get()
    }

    pub(super) fn previous(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.previous.get()
    }

    pub(super) fn next(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.next.get()
    }
}

/// What html5ever builds the tree through.
pub(super) struct Sink {
    /// How deep the last element stands that was put in.
    pub(super) depth: Cell<u32>,
    nodes: RefCell<Vec<Node>>,
    mended: Cell<usize>,
    line: Cell<u32>,
}

impl Default for Sink {
    fn default() -> Self {
        Self {
            depth: Cell::new(0),
            nodes: RefCell::new(vec![node(NodeData::Document, 0)]),
            mended: Cell::new(0),
            line: Cell::new(1),
        }
    }
}

fn node(data: NodeData, line: u32) -> Node {
    Node {
        data,
        parent: Link::NONE,
        previous: Link::NONE,
        next: Link::NONE,
        first_child: Link::NONE,
        last_child: Link::NONE,
        line,
        depth: 0,
    }
}

/// An element's name, out of the sink's cell.
#[derive(Debug)]
pub(super) struct OwnedName(QualName);

impl ElemName for OwnedName {
    fn ns(&self) -> &Namespace {
        &self.0.ns
    }

    fn local_name(&self) -> &LocalName {
        &self.0.local
    }
}

impl Sink {
    fn add(&self, data: NodeData) -> NodeId {
        let mut nodes = self.nodes.borrow_mut();
        nodes.push(node(data, self.line.get()));
        nodes.len() - 1
    }

    /// Puts a node below `parent`, before `next` or else last.
    fn insert(&self, parent: NodeId, child: NodeId, next: Option<NodeId>) {
        self.detach(child);
        let nodes = &mut *self.nodes.borrow_mut();
        let previous = match next {
            Some(next) => nodes[next].previous.get(),
            None => nodes[parent].last_child.get(),
        };
        nodes[child].parent = parent.into();
        nodes[child].depth = nodes[parent].depth + 1;
        if matches!(nodes[child].data, NodeData::Element { .. }) {
            self.depth.set(nodes[child].depth);
        }
        nodes[child].previous = previous.into();
        nodes[child].next = next.into();
        match previous {
            Some(previous) => nodes[previous].next = child.into(),
            None => nodes[parent].first_child = child.into(),
        }
        match next {
            Some(next) => nodes[next].previous = child.into(),
            None => nodes[parent].last_child = child.into(),
        }
    }

    fn detach(&self, child: NodeId) {
        let nodes = &mut *self.nodes.borrow_mut();
        let Node { parent, previous, next, .. } = nodes[child];
        (nodes[child].parent, nodes[child].previous, nodes[child].next) =
            (Link::NONE, Link::NONE, Link::NONE);
        let Some(parent) = parent.get() else { return };
        match previous.get() {
            Some(previous) => nodes[previous].next = next,
            None => nodes[parent].first_child = next,
        }
        match next.get() {
            Some(next) => nodes[next].previous = previous,
            None => nodes[parent].last_child = previous,
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
        Dom { nodes: self.nodes.into_inner(), mended: self.mended.get() }
    }

    fn parse_error(&self, _message: Cow<'static, str>) {
        self.mended.set(self.mended.get() + 1);
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
        self.detach(*target);
    }

    fn reparent_children(&self, node: &NodeId, new_parent: &NodeId) {
        loop {
            let child = self.nodes.borrow()[*node].first_child.get();
            let Some(child) = child else { return };
            self.insert(*new_parent, child, None);
        }
    }
}
