//! Putting nodes into the tree and taking them out, in constant time.

use super::{Link, Node, NodeId};

/// Puts a node below `parent`, before `next` or else last.
pub(super) fn insert(nodes: &mut [Node], parent: NodeId, child: NodeId, next: Option<NodeId>) {
    detach(nodes, child);
    let previous = match next {
        Some(next) => nodes[next].previous.get(),
        None => nodes[parent].last_child.get(),
    };
    nodes[child].parent = parent.into();
    nodes[child].depth = nodes[parent].depth + 1;
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

/// Takes a node with all below it out of the tree.
pub(super) fn detach(nodes: &mut [Node], child: NodeId) {
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
