//! A tree of parsed HTML: html5ever parses, this holds what it found.
//!
//! Nodes are numbers into one list and are linked to parent, siblings and first child, so that
//! every change html5ever asks for takes constant time and dropping the tree never recurses.

mod characters;
mod edit;
mod links;
mod serialise;
mod sink;

pub(crate) use serialise::Writing;
pub use serialise::{Spelling, Syntax};
pub(super) use sink::Sink;

use super::depth_guard::parse;
use crate::work;
use html5ever::interface::{ElementFlags, TreeSink};
use html5ever::tendril::StrTendril;
use html5ever::tokenizer::TokenizerOpts;
use html5ever::tree_builder::{TreeBuilder, TreeBuilderOpts};
use html5ever::{Attribute, QualName, local_name, ns};
use std::borrow::Cow;

/// The number of a node; 0 is the document.
pub(crate) type NodeId = usize;

#[derive(Debug)]
pub(crate) enum NodeData {
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

impl Node {
    fn new(data: NodeData, line: u32) -> Self {
        Self {
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

/// A mistake that the parser mended.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Fault {
    /// The line of the source, counted from 1.
    pub(crate) line: u32,
    /// What the parser says.
    pub(crate) message: Cow<'static, str>,
}

/// A parsed fragment.
#[derive(Debug)]
pub(crate) struct Dom {
    nodes: Vec<Node>,
    /// How many mistakes the parser mended.
    pub(crate) mended: usize,
    /// The first of them, where they were asked for.
    pub(crate) faults: Vec<Fault>,
    /// How many elements stood too deep and were left out, and the line of the first one.
    pub(crate) too_deep: (u32, u32),
}

impl Dom {
    /// Parses what stands inside a `body`.
    pub(crate) fn of_body(html: &str) -> Self {
        let sink = Sink::default();
        let name = QualName::new(None, ns!(html), local_name!("body"));
        let context = sink.create_element(name, Vec::new(), ElementFlags::default());
        let options = TreeBuilderOpts::default();
        let builder = TreeBuilder::new_for_fragment(sink, context, None, options);
        let initial_state = Some(builder.tokenizer_state_for_context_elem(false));
        parse(html, builder, TokenizerOpts { initial_state, ..TokenizerOpts::default() })
    }

    /// Parses a whole page; what is only a fragment becomes one.
    pub(crate) fn of_page(html: &str) -> Self {
        let builder = TreeBuilder::new(Sink::default(), TreeBuilderOpts::default());
        parse(html, builder, TokenizerOpts::default())
    }

    /// The same, with what the parser had to mend.
    pub(crate) fn of_page_with_faults(html: &str) -> Self {
        let builder = TreeBuilder::new(Sink::with_faults(), TreeBuilderOpts::default());
        parse(html, builder, TokenizerOpts::default())
    }

    /// The line of the source at which the parser came by the node.
    pub(crate) fn line(&self, id: NodeId) -> u32 {
        self.nodes.get(id).map_or(0, |node| node.line)
    }

    /// The body of a page.
    pub(crate) fn body(&self) -> Option<NodeId> {
        self.below(0).find(|node| self.name(*node) == Some("body"))
    }

    /// The children of a node.
    pub(crate) fn children(&self, id: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        std::iter::successors(self.first_child(id), |child| {
            work::count(1);
            self.next(*child).filter(|_| !work::is_over())
        })
    }

    /// The local name of an element.
    pub(crate) fn name(&self, id: NodeId) -> Option<&str> {
        match self.data(id) {
            NodeData::Element { name, .. } => Some(&name.local),
            _ => None,
        }
    }

    /// The value of an element's attribute.
    pub(crate) fn attribute(&self, id: NodeId, wanted: &str) -> Option<&str> {
        let NodeData::Element { attributes, .. } = self.data(id) else { return None };
        let found = attributes.iter().find(|attribute| &*attribute.name.local == wanted);
        found.map(|attribute| &*attribute.value)
    }

    /// All nodes below a node, in document order.
    pub(crate) fn below(&self, id: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        let mut next = self.first_child(id);
        std::iter::from_fn(move || {
            let here = next.filter(|_| !work::is_over())?;
            work::count(1);
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
    pub(crate) fn text_of(&self, node: NodeId) -> String {
        let mut text = String::new();
        for below in self.below(node) {
            if let NodeData::Text(part) = self.data(below) {
                text.push_str(part);
            }
        }
        text
    }

    /// The element below the document under which the fragment's nodes stand.
    pub(crate) fn root(&self) -> NodeId {
        self.first_child(0).unwrap_or_default()
    }

    pub(crate) fn data(&self, id: NodeId) -> &NodeData {
        self.nodes.get(id).map_or(&NodeData::Document, |node| &node.data)
    }

    pub(crate) fn first_child(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.first_child.get()
    }

    pub(crate) fn last_child(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.last_child.get()
    }

    pub(crate) fn parent(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.parent.get()
    }

    pub(crate) fn previous(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.previous.get()
    }

    pub(crate) fn next(&self, id: NodeId) -> Option<NodeId> {
        self.nodes.get(id)?.next.get()
    }
}
