//! Formulas in HTML: MathML that keeps the TeX source as its annotation (MathML Core, 3.5; the media
//! type is the one programs agree on).

use super::dom::{Dom, NodeData, NodeId};
use crate::math::{Expression, Formula};
use crate::notation::{Element, Node, NumberedFormula, Page, push_mathml, read_mathml};

const TEX: &str = "application/x-tex";

/// How deep elements of a formula are read.
const DEEPEST: usize = 150;

/// Writes a formula: what its tree shows, and its source.
pub(super) fn push_formula(
    out: &mut String,
    tex: &str,
    is_display: bool,
    formula: &NumberedFormula<'_>,
    page: &mut dyn Page,
) {
    out.push_str(if is_display { "<math display=\"block\">" } else { "<math>" });
    out.push_str("<semantics><mrow>");
    push_mathml(out, formula, page);
    out.push_str("</mrow><annotation encoding=\"");
    out.push_str(TEX);
    out.push_str("\">");
    page.push_text(out, tex);
    out.push_str("</annotation></semantics></math>");
}

/// The formula of a `math` element, and the names of elements in it that are not known.
pub(crate) fn formula_of(dom: &Dom, math: NodeId) -> (Formula, Vec<String>) {
    let is_tex = |node: &NodeId| {
        dom.name(*node) == Some("annotation") && dom.attribute(*node, "encoding") == Some(TEX)
    };
    let display = dom.attribute(math, "display") == Some("block");
    let annotation = dom.below(math).find(is_tex);
    let source = annotation.map(|node| dom.text_of(node).trim().to_string());
    // Numbers and labels of lines are in no source.
    let has_numbers = dom.below(math).any(|node| dom.name(node) == Some("mtable"));
    if let (Some(source), false) = (&source, has_numbers) {
        return (Formula { source: source.clone(), display, ..Formula::default() }, Vec::new());
    }
    let element = element_of(dom, math, 0);
    let (tree, unknown) = read_mathml(&element);
    let mut formula = Formula::of_tree(tree, display);
    if let Some(source) = source {
        let states_number = source.contains(r"\tag") || source.contains(r"\begin{equation");
        let is_display = matches!(formula.tree.as_deref(), Some(Expression::Display(_)));
        if states_number {
            formula.number = None;
        }
        if states_number || !is_display {
            formula.tree = None;
        }
        formula.source = source;
    }
    (formula, unknown)
}

fn element_of(dom: &Dom, node: NodeId, depth: usize) -> Element {
    const KEPT: [&str; 18] = [
        "accent",
        "bevelled",
        "close",
        "depth",
        "displaystyle",
        "form",
        "height",
        "id",
        "linethickness",
        "lspace",
        "mathcolor",
        "mathvariant",
        "minsize",
        "movablelimits",
        "notation",
        "open",
        "scriptlevel",
        "separators",
    ];
    let stated =
        |name: &str| dom.attribute(node, name).map(|value| (name.to_string(), value.to_string()));
    let more = ["stretchy", "style", "width"];
    let attributes = KEPT.iter().chain(&more).filter_map(|name| stated(name)).collect();
    let mut children = Vec::new();
    for child in dom.children(node) {
        match dom.data(child) {
            NodeData::Text(text) => children.push(Node::Text(text.to_string())),
            NodeData::Element { .. } if depth < DEEPEST => {
                children.push(Node::Element(element_of(dom, child, depth + 1)));
            }
            NodeData::Element { .. } => children.push(Node::Text(dom.text_of(child))),
            _ => {}
        }
    }
    Element { name: dom.name(node).unwrap_or_default().to_string(), attributes, children }
}
