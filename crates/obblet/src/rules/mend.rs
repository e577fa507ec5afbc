//! What rules leave is made whole: no part without its whole, no empty block, no break that shows
//! nothing.

use super::spaces::tidy;
use crate::formats::html::dom::{Dom, NodeData, NodeId};
use crate::formats::html::elements::{is_block, places_of};

/// Takes an element out, leaves what it holds, and keeps that apart from the text around it.
pub(crate) fn unwrap_apart(dom: &mut Dom, node: NodeId) {
    let name = dom.name(node).unwrap_or_default();
    if !is_block(name) {
        dom.unwrap(node);
        return;
    }
    let is_cell = matches!(name, "td" | "th");
    let is_text = |at: Option<NodeId>, dom: &Dom| at.is_some_and(|at| stands_in_line(dom, at));
    let first = first_shown(dom, node);
    let before = || shown(dom, back_from(dom, dom.previous(node)));
    if is_text(first, dom) && is_text(before(), dom) {
        let parting = parting(dom, node, is_cell);
        dom.insert_before(node, parting);
    }
    let last = last_shown(dom, node);
    let behind = || shown(dom, std::iter::successors(dom.next(node), |at| dom.next(*at)));
    if is_text(last, dom) && is_text(behind(), dom) {
        let parting = parting(dom, node, is_cell);
        dom.insert_behind(node, parting);
    }
    dom.unwrap(node);
}

fn parting(dom: &mut Dom, model: NodeId, is_cell: bool) -> NodeId {
    if is_cell { dom.new_text(" ", model) } else { dom.new_element("br", model) }
}

fn back_from(dom: &Dom, node: Option<NodeId>) -> impl Iterator<Item = NodeId> {
    std::iter::successors(node, |at| dom.previous(*at))
}

/// The first child that shows anything.
pub(super) fn first_shown(dom: &Dom, node: NodeId) -> Option<NodeId> {
    shown(dom, dom.children(node))
}

/// The last child that shows anything.
pub(super) fn last_shown(dom: &Dom, node: NodeId) -> Option<NodeId> {
    shown(dom, back_from(dom, dom.last_child(node)))
}

/// The first of some nodes that shows anything.
fn shown(dom: &Dom, mut nodes: impl Iterator<Item = NodeId>) -> Option<NodeId> {
    nodes.find(|node| match dom.data(*node) {
        NodeData::Text(text) => !is_blank(text),
        NodeData::Element { .. } => true,
        NodeData::Remark(_) | NodeData::Document => false,
    })
}

/// White space that lines collapse; a no-break space shows.
fn is_blank(text: &str) -> bool {
    text.bytes().all(|byte| byte.is_ascii_whitespace())
}

/// Text, or an element in a line that is no break.
fn stands_in_line(dom: &Dom, node: NodeId) -> bool {
    dom.name(node).is_none_or(|name| name != "br" && name != "hr" && !is_block(name))
}

/// Makes what stands below a node whole after it was changed.
pub(crate) fn mend(dom: &mut Dom, top: NodeId) {
    for node in dom.below(top).collect::<Vec<_>>() {
        mend_whole(dom, node);
    }
    for node in dom.below(top).collect::<Vec<_>>() {
        mend_part(dom, node);
    }
    let mut inner_first: Vec<NodeId> = dom.below(top).collect();
    inner_first.reverse();
    for node in inner_first {
        if dom.name(node).is_some_and(is_block) {
            drop_last_breaks(dom, node);
        }
        if is_emptied(dom, node) {
            dom.remove(node);
        }
    }
    drop_last_breaks(dom, top);
    tidy(dom, top);
}

/// A whole without its parts is none; what is no part of it becomes one.
fn mend_whole(dom: &mut Dom, node: NodeId) {
    let has = |dom: &Dom, wanted: &[&str]| {
        dom.below(node).any(|part| dom.name(part).is_some_and(|name| wanted.contains(&name)))
    };
    match dom.name(node) {
        Some("ul" | "ol") => {
            let is_item = |child: NodeId| dom.name(child) == Some("li");
            if dom.children(node).any(is_item) {
                wrap_strays(dom, node);
            } else {
                unwrap_apart(dom, node);
            }
        }
        Some("table") if !has(dom, &["tr"]) => unwrap_apart(dom, node),
        Some("tr") if !has(dom, &["td", "th"]) => unwrap_apart(dom, node),
        Some("dl") if !has(dom, &["dt"]) || !has(dom, &["dd"]) => unwrap_apart(dom, node),
        _ => {}
    }
}

/// What stands in a list beside its items becomes an item.
fn wrap_strays(dom: &mut Dom, list: NodeId) {
    let mut item = None;
    for child in dom.children(list).collect::<Vec<_>>() {
        let shows = shown(dom, std::iter::once(child)).is_some();
        let is_last = dom.next(child).is_none_or(|next| dom.name(next) == Some("li"));
        if dom.name(child) == Some("li") {
            item = None;
        } else if shows || (item.is_some() && !is_last) {
            let into = *item.get_or_insert_with(|| {
                let into = dom.new_element("li", child);
                dom.insert_before(child, into);
                into
            });
            dom.append(into, child);
        }
    }
}

/// A part outside its whole is none.
fn mend_part(dom: &mut Dom, node: NodeId) {
    let places = places_of(dom.name(node).unwrap_or_default());
    let around = dom.parent(node).and_then(|parent| dom.name(parent)).unwrap_or_default();
    if !places.is_empty() && !places.contains(&around) {
        unwrap_rows(dom, node);
    }
}

/// Takes a part out with the parts it holds: cells first, so that rows can be kept apart.
fn unwrap_rows(dom: &mut Dom, node: NodeId) {
    let parts: &[&str] = match dom.name(node) {
        Some("thead" | "tbody" | "tfoot") => &["tr"],
        Some("tr") => &["td", "th"],
        _ => &[],
    };
    for child in dom.children(node).collect::<Vec<_>>() {
        if dom.name(child).is_some_and(|name| parts.contains(&name)) {
            unwrap_rows(dom, child);
        }
    }
    unwrap_apart(dom, node);
}

/// A line break at the end of a block shows nothing.
fn drop_last_breaks(dom: &mut Dom, node: NodeId) {
    while let Some(last) = last_shown(dom, node)
        && dom.name(last) == Some("br")
    {
        dom.remove(last);
    }
}

/// Whether it is a block that holds nothing to see and no place that links lead to.
fn is_emptied(dom: &Dom, node: NodeId) -> bool {
    const MAY_BE_EMPTY: [&str; 7] = ["td", "th", "dt", "dd", "hr", "col", "colgroup"];
    let Some(name) = dom.name(node) else { return false };
    if !is_block(name) || MAY_BE_EMPTY.contains(&name) {
        return false;
    }
    let shows = |child: NodeId| match dom.data(child) {
        NodeData::Text(text) => !is_blank(text),
        NodeData::Element { .. } => {
            dom.attribute(child, "id").is_some()
                || dom
                    .name(child)
                    .is_some_and(|name| is_block(name) || name == "img" || name == "input")
                || dom.first_child(child).is_some()
        }
        NodeData::Remark(_) | NodeData::Document => false,
    };
    // Inner blocks that hold nothing have gone before.
    !dom.children(node).any(shows)
}
