//! White space that rules leave between what they have moved.

use crate::formats::html::dom::{Dom, NodeData, NodeId};
use crate::formats::html::elements::{holds_lines, is_block};
use std::collections::HashSet;

/// Leaves one space or line ending where several stand below a node, and none at the ends of a line.
/// Preformatted text stays as it is.
pub(super) fn tidy(dom: &mut Dom, top: NodeId) {
    join_texts(dom, top);
    let mut kept: HashSet<NodeId> = HashSet::new();
    for node in dom.below(top).collect::<Vec<_>>() {
        let is_inside = dom.parent(node).is_some_and(|parent| kept.contains(&parent));
        if is_inside || matches!(dom.name(node), Some("pre" | "textarea" | "style" | "script")) {
            kept.insert(node);
            continue;
        }
        if let NodeData::Text(text) = dom.data(node) {
            let tidied = tidied(dom, node, text);
            if tidied.is_empty() {
                dom.remove(node);
            } else if tidied != **text {
                dom.set_text(node, &tidied);
            }
        }
    }
}

/// Texts that rules have made neighbours become one.
fn join_texts(dom: &mut Dom, top: NodeId) {
    let mut joined: Option<(NodeId, String)> = None;
    for node in dom.below(top).collect::<Vec<_>>() {
        let NodeData::Text(text) = dom.data(node) else { continue };
        let text = text.to_string();
        match &mut joined {
            Some((first, all)) if dom.previous(node) == Some(*first) => {
                all.push_str(&text);
                dom.remove(node);
            }
            _ => {
                if let Some((first, all)) = joined.replace((node, text)) {
                    dom.set_text(first, &all);
                }
            }
        }
    }
    if let Some((first, all)) = joined {
        dom.set_text(first, &all);
    }
}

/// What stands beside a text.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Beside {
    /// The end of what holds only lines.
    End,
    /// A block, a line break, or the end of what holds blocks.
    Break,
    /// More of the line.
    Line,
}

fn beside(dom: &Dom, node: NodeId, neighbour: Option<NodeId>) -> Beside {
    let name = |node: NodeId| dom.name(node);
    match neighbour {
        Some(at) if name(at).is_some_and(|name| name == "br" || is_block(name)) => Beside::Break,
        Some(_) => Beside::Line,
        None => match dom.parent(node).and_then(name) {
            Some(around) if is_block(around) && holds_lines(around) => Beside::End,
            Some(around) if is_block(around) || around == "body" || around == "html" => {
                Beside::Break
            }
            _ => Beside::Line,
        },
    }
}

fn tidied(dom: &Dom, node: NodeId, text: &str) -> String {
    // A fragment begins with what it shows.
    let is_begin = dom.previous(node).is_none() && dom.parent(node) == Some(dom.root());
    let is_fragment = dom.name(dom.root()) == Some("html") && is_begin;
    let before = if is_fragment { Beside::End } else { beside(dom, node, dom.previous(node)) };
    let is_break = |node: NodeId| dom.name(node) == Some("br");
    let behind = match dom.next(node) {
        Some(next) if is_break(next) => Beside::End,
        next => beside(dom, node, next),
    };
    let mut out = String::with_capacity(text.len());
    let mut spaces = "";
    let mut rest = text;
    while !rest.is_empty() {
        let end = rest.find(|c: char| !c.is_ascii_whitespace()).unwrap_or(rest.len());
        (spaces, rest) = rest.split_at(end);
        if rest.is_empty() {
            break;
        }
        let beside = if out.is_empty() { before } else { Beside::Line };
        push_spaces(&mut out, spaces, beside);
        let end = rest.find(|c: char| c.is_ascii_whitespace()).unwrap_or(rest.len());
        let (word, after) = rest.split_at(end);
        out.push_str(word);
        (spaces, rest) = ("", after);
    }
    if out.is_empty() && before == Beside::End {
        return out;
    }
    // Nothing but white space shows as little as what is beside it lets it.
    let is_first = before == Beside::Break && out.is_empty();
    push_spaces(&mut out, spaces, if is_first && behind == Beside::Line { before } else { behind });
    out
}

fn push_spaces(out: &mut String, spaces: &str, beside: Beside) {
    match (beside, spaces.len()) {
        (_, 0) | (Beside::End, _) => {}
        (Beside::Line, 1) => out.push_str(spaces),
        (Beside::Line, _) => out.push(' '),
        (Beside::Break, _) if spaces.contains('\n') => out.push('\n'),
        (Beside::Break, _) => {}
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::formats::html::dom::Writing;

    #[test]
    fn one_space_is_enough() {
        let cases = [
            ("<p>\n a  <b>b</b>\n\n c </p>", "<p>a <b>b</b> c</p>"),
            ("<p>a\nb</p>", "<p>a\nb</p>"),
            ("<p>a <br> b</p>", "<p>a<br>b</p>"),
            ("<p>a<br>\nb</p>", "<p>a<br>\nb</p>"),
            ("\n\n<p>a</p>\n\n\n<p>b</p>", "<p>a</p>\n<p>b</p>"),
            ("<pre>a  b\n\n</pre>", "<pre>a  b\n\n</pre>"),
            ("<p>a\u{a0} b</p>", "<p>a\u{a0} b</p>"),
            ("<div>a\n\n\n</div>", "<div>a\n</div>"),
        ];
        for (html, expected) in cases {
            let mut dom = Dom::of_body(html);
            let root = dom.root();
            tidy(&mut dom, root);
            assert_eq!(dom.body_html(&Writing::default()), expected, "{html}");
        }
    }
}
