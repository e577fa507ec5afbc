//! HTML as a parsed tree in one canonical spelling, so that two texts compare equal when a browser
//! would show the same.

use html5ever::tendril::TendrilSink;
use html5ever::{ParseOpts, QualName, local_name, ns, parse_fragment};
use markup5ever_rcdom::{Handle, NodeData, RcDom};

/// The canonical spelling: a line a node, attributes sorted, white space collapsed.
pub(crate) fn canonical(html: &str) -> String {
    let context = QualName::new(None, ns!(html), local_name!("body"));
    let dom = parse_fragment(RcDom::default(), ParseOpts::default(), context, Vec::new(), false)
        .one(html);
    let mut out = String::new();
    for child in dom.document.children.borrow().iter() {
        for node in child.children.borrow().iter() {
            spell(node, 0, false, &mut out);
        }
    }
    out
}

fn spell(node: &Handle, depth: usize, verbatim: bool, out: &mut String) {
    match &node.data {
        NodeData::Text { contents } => {
            let text = contents.borrow();
            let shown = if verbatim { text.to_string() } else { collapsed(&text) };
            if !shown.trim().is_empty() || verbatim {
                out.push_str(&format!("{depth} text {:?}\n", shown.trim_matches(' ')));
            }
        }
        NodeData::Element { name, attrs, .. } => {
            let mut attributes: Vec<String> =
                attrs.borrow().iter().map(|a| attribute(&a.name.local, &a.value)).collect();
            attributes.sort();
            out.push_str(&format!("{depth} <{} {}>\n", name.local, attributes.join(" ")));
            let verbatim = verbatim || &*name.local == "pre";
            for child in node.children.borrow().iter() {
                spell(child, depth + 1, verbatim, out);
            }
        }
        NodeData::Comment { contents } => out.push_str(&format!("{depth} <!--{contents}-->\n")),
        _ => {}
    }
}

/// Alignment by attribute and by style count as the same.
fn attribute(name: &str, value: &str) -> String {
    match (name, value.strip_prefix("text-align: ")) {
        ("style", Some("start")) => "align=left".into(),
        ("style", Some("center")) => "align=center".into(),
        ("style", Some("end")) => "align=right".into(),
        _ => format!("{name}={value}"),
    }
}

fn collapsed(text: &str) -> String {
    let mut shown = String::new();
    for c in text.chars() {
        if matches!(c, ' ' | '\t' | '\n') {
            if !shown.ends_with(' ') {
                shown.push(' ');
            }
        } else {
            shown.push(c);
        }
    }
    shown
}
