//! What the writer and the reader of HTML agree on about citations, and reading them.

use super::dom::{Dom, NodeId};
use crate::document::{Citation, CitationForm, Cite, CitedWork, CompactString, Inline};

/// How the ids of works begin.
pub(super) const WORK: &str = "work-";

/// The forms of citations by the values of their attribute.
pub(super) const FORMS: [(CitationForm, &str); 5] = [
    (CitationForm::Bracketed, "bracketed"),
    (CitationForm::InText, "in-text"),
    (CitationForm::AuthorOnly, "author"),
    (CitationForm::YearOnly, "year"),
    (CitationForm::Silent, "silent"),
];

/// The citation of a `span` that says it is one.
pub(super) fn citation_of(dom: &Dom, span: NodeId) -> Option<Citation> {
    let stated = dom.attribute(span, "data-citation")?;
    let (form, _) = FORMS.into_iter().find(|(_, name)| *name == stated)?;
    let mut works = Vec::new();
    for node in dom.below(span) {
        // A work that is not listed has no place to link to.
        let is_cite = dom.attribute(node, "role") == Some("doc-biblioref")
            || dom.attribute(node, "data-key").is_some();
        if !is_cite {
            continue;
        }
        let href = dom.attribute(node, "href").unwrap_or_default();
        let decoded = percent_encoding::percent_decode_str(href).decode_utf8_lossy();
        let of_href = decoded.strip_prefix('#').and_then(|id| id.strip_prefix(WORK));
        let Some(key) = dom.attribute(node, "data-key").or(of_href) else { continue };
        let part = |name: &str| -> Vec<Inline> {
            dom.attribute(node, name).map(|text| vec![text.into()]).unwrap_or_default()
        };
        works.push(Cite {
            key: key.into(),
            before: part("data-before"),
            behind: part("data-behind"),
        });
    }
    (!works.is_empty()).then_some(Citation { form, works })
}

/// The works of a list of them, as text, with their elements.
pub(super) fn works_of(dom: &Dom, section: NodeId) -> Vec<(NodeId, CitedWork)> {
    let mut works = Vec::new();
    for node in dom.below(section).filter(|node| dom.name(*node) == Some("li")) {
        let Some(key) = dom.attribute(node, "id").and_then(|id| id.strip_prefix(WORK)) else {
            continue;
        };
        let label = dom.attribute(node, "data-label").unwrap_or_default();
        let mut text = String::new();
        for child in dom.children(node) {
            if dom.attribute(child, "role") != Some("doc-backlink") {
                match dom.data(child) {
                    super::dom::NodeData::Text(words) => text.push_str(words),
                    _ => text.push_str(&dom.text_of(child)),
                }
            }
        }
        let text = text.split_whitespace().collect::<Vec<_>>().join(" ");
        let bare = text.strip_prefix(&format!("[{label}] ")).unwrap_or(&text).to_string();
        let fields: Vec<(CompactString, String)> =
            vec![("text".into(), bare), ("label".into(), label.to_string())];
        let kind = "bibitem".into();
        works.push((node, CitedWork { key: key.into(), kind, fields, content: Vec::new() }));
    }
    works
}
