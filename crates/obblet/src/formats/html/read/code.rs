//! Code: `pre`, `code`, and what stands in them besides characters.

use super::super::dom::{NodeData, NodeId};
use super::Reader;
use super::inlines::format_of;
use super::line::Line;
use crate::document::{Anchor, CodeBlock, Inline, InlineCode, as_code};

/// Elements of which nobody sees the text.
pub(super) fn has_no_text(name: &str) -> bool {
    matches!(name, "script" | "style" | "template" | "noscript" | "title" | "head")
}

impl Reader<'_> {
    pub(super) fn code_block(&mut self, node: NodeId) -> CodeBlock {
        let inner = self.dom.children(node).find(|child| self.dom.name(*child) == Some("code"));
        let class = inner.and_then(|code| self.dom.attribute(code, "class")).unwrap_or_default();
        let language = class.split_ascii_whitespace().find_map(|c| c.strip_prefix("language-"));
        let language = language.map(Into::into);
        let code = match self.holds_more_than_text(node) {
            true => CodeBlock::of_inlines(self.code_inlines(node)),
            false => {
                let mut text = self.shown_text(node);
                if !text.is_empty() && !text.ends_with('\n') {
                    text.push('\n');
                }
                CodeBlock::of_text(text)
            }
        };
        CodeBlock { language, ..code }
    }

    /// Code in a line. Links and formats in it stand around pieces of code.
    pub(super) fn push_code(&mut self, node: NodeId, line: &mut Line) {
        let attributes = self.attributes(node);
        if !self.holds_more_than_text(node) {
            let text = self.shown_text(node).replace('\n', " ");
            if !text.is_empty() {
                let text = text.into();
                let code = Inline::Code(Box::new(InlineCode { text, attributes }));
                line.push(code, &self.text.formats);
            }
            return;
        }
        if let Some(id) = attributes.id() {
            line.push_unseen(Inline::Anchor(Box::new(Anchor { id: id.into() })));
        }
        for inline in as_code(self.code_inlines(node)) {
            match inline {
                Inline::Break(_) => line.text(" ", &self.text.formats),
                inline => line.push(inline, &self.text.formats),
            }
        }
    }

    /// Spans in code are colours; what links lead to stays.
    pub(super) fn push_span_of_code(&mut self, node: NodeId, line: &mut Line) {
        if let Some(anchor) = self.anchor_of(node) {
            line.push_unseen(anchor);
        }
        self.push_children(node, line);
    }

    fn code_inlines(&mut self, node: NodeId) -> Vec<Inline> {
        let mut line = Line::default();
        let outer = std::mem::replace(&mut self.in_code, true);
        self.push_children(node, &mut line);
        self.in_code = outer;
        let mut content = line.finish_verbatim();
        // The end of the last line is not a line of its own.
        content.pop_if(|last| matches!(last, Inline::Break(_)));
        content
    }

    fn holds_more_than_text(&self, node: NodeId) -> bool {
        self.dom.below(node).any(|below| {
            let name = self.dom.name(below).unwrap_or_default();
            let is_target = ["id", "name"].into_iter().any(|attribute| {
                self.dom.attribute(below, attribute).is_some_and(|id| self.is_wanted_id(id))
            });
            let is_link = name == "a" && self.dom.attribute(below, "href").is_some();
            below != node && (is_target || is_link || name == "img" || format_of(name).is_some())
        })
    }

    fn shown_text(&mut self, node: NodeId) -> String {
        let dom = self.dom;
        let mut text = String::new();
        let mut left: Vec<NodeId> = vec![node];
        while let Some(next) = left.pop() {
            let name = dom.name(next).unwrap_or_default();
            match dom.data(next) {
                NodeData::Text(part) => text.push_str(part),
                NodeData::Element { .. } if name == "br" => text.push('\n'),
                NodeData::Element { .. } if has_no_text(name) => {}
                NodeData::Element { .. } if next == node || self.is_shown(next) => {
                    let from = left.len();
                    left.extend(dom.children(next));
                    if let Some(children) = left.get_mut(from..) {
                        children.reverse();
                    }
                }
                _ => {}
            }
        }
        text
    }
}
