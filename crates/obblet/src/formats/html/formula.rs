//! Formulas in HTML: MathML, or where no tree is known MathML that shows the TeX source; either keeps
//! the source as its annotation (MathML Core,
//! 3.5; the media type is the one programs agree on).

use super::dom::{Dom, NodeId};
use super::escape::push_text;
use crate::math::{Expression, push_mathml};

const TEX: &str = "application/x-tex";

/// Writes a formula: what its tree shows, or else its source.
pub(super) fn push_formula(
    out: &mut String,
    tex: &str,
    is_display: bool,
    tree: Option<&Expression>,
) {
    out.push_str(if is_display { "<math display=\"block\">" } else { "<math>" });
    out.push_str("<semantics>");
    match tree {
        Some(tree) => {
            out.push_str("<mrow>");
            push_mathml(out, tree, &push_text);
            out.push_str("</mrow>");
        }
        None => {
            out.push_str("<mtext>");
            push_text(out, tex);
            out.push_str("</mtext>");
        }
    }
    out.push_str("<annotation encoding=\"");
    out.push_str(TEX);
    out.push_str("\">");
    push_text(out, tex);
    out.push_str("</annotation></semantics></math>");
}

/// The TeX source of a `math` element, when it has one, and whether it stands on its own line.
pub(crate) fn tex_of(dom: &Dom, math: NodeId) -> Option<(String, bool)> {
    let is_tex = |node: &NodeId| {
        dom.name(*node) == Some("annotation") && dom.attribute(*node, "encoding") == Some(TEX)
    };
    let annotation = dom.below(math).find(is_tex)?;
    let is_display = dom.attribute(math, "display") == Some("block");
    Some((dom.text_of(annotation).trim().to_string(), is_display))
}
