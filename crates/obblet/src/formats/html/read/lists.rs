//! Lists, and terms with their descriptions.

use super::super::ITEM_LABEL;
use super::super::NUMBER_PATTERN;
use super::super::dom::{NodeData, NodeId};
use super::Reader;
use super::blocks::Stack;
use super::line::Line;
use crate::document::{
    Block, BlockKind, CheckState, CompactString, DescriptionItem, Inline, List, ListItem, ListKind,
    ListSpacing, Numbering, NumeralStyle, plain_text,
};
use crate::findings::Code;

impl Reader<'_> {
    pub(super) fn numbering(&self, node: NodeId) -> Numbering {
        let start = self.dom.attribute(node, "start").and_then(|start| start.trim().parse().ok());
        let style = match self.dom.attribute(node, "type") {
            Some("a") => NumeralStyle::LowerLetter,
            Some("A") => NumeralStyle::UpperLetter,
            Some("i") => NumeralStyle::LowerRoman,
            Some("I") => NumeralStyle::UpperRoman,
            _ => NumeralStyle::Decimal,
        };
        let pattern = self.dom.attribute(node, NUMBER_PATTERN).map(Into::into);
        Numbering { start: start.unwrap_or(1), style, pattern, ..Numbering::default() }
    }

    pub(super) fn list(&mut self, node: NodeId, kind: ListKind) -> BlockKind {
        let dom = self.dom;
        let mut items: Vec<ListItem> = Vec::new();
        let mut loose = false;
        for child in dom.children(node) {
            match (dom.name(child), dom.data(child)) {
                (Some("li"), _) => {
                    loose |= self.is_loose(child);
                    let outer = self.enter(child);
                    if self.is_shown(child) {
                        items.push(self.item(child));
                    }
                    self.leave(outer);
                }
                // What stands beside items belongs to the one before.
                (Some(name), _) => {
                    loose |= name == "p";
                    let mut stack = Stack::default();
                    self.push_block(child, &mut stack);
                    let content = self.finish_blocks(stack);
                    match items.last_mut() {
                        Some(last) => last.content.extend(content),
                        None => items.push(ListItem { content, ..ListItem::default() }),
                    }
                    self.dropped(Code::HtmlRepaired, "content beside list items", child);
                }
                (None, NodeData::Text(text)) if !text.trim().is_empty() => {
                    let mut line = Line::default();
                    line.text(text, &self.text.formats);
                    let content = vec![Block::new(BlockKind::Paragraph(line.finish()))];
                    items.push(ListItem { content, ..ListItem::default() });
                    self.dropped(Code::HtmlRepaired, "text beside list items", child);
                }
                _ => {}
            }
        }
        let spacing = if loose { ListSpacing::Loose } else { ListSpacing::Tight };
        BlockKind::List(Box::new(List { kind, spacing, items }))
    }

    /// Whether an item holds paragraphs. Some editors put one into every item and say it is none.
    pub(super) fn is_loose(&self, item: NodeId) -> bool {
        let mut paragraphs =
            self.dom.children(item).filter(|inner| self.dom.name(*inner) == Some("p"));
        paragraphs.any(|inner| self.dom.attribute(inner, "role") != Some("presentation"))
    }

    pub(super) fn item(&mut self, node: NodeId) -> ListItem {
        let mut content = self.flow(node);
        let mut check = take_box(&mut content);
        if check == Some(CheckState::Open) && self.is_partial(node) {
            check = Some(CheckState::Partial);
        }
        let label = match content.first_mut().map(|block| &mut block.kind) {
            Some(BlockKind::Paragraph(inlines)) => take_label(inlines),
            _ => None,
        };
        let number = self.dom.attribute(node, "value").and_then(|value| value.trim().parse().ok());
        let attributes = self.attributes(node);
        ListItem { content, check, number, label, attributes, place: self.place(node) }
    }

    pub(super) fn descriptions(&mut self, node: NodeId) -> Vec<DescriptionItem> {
        let dom = self.dom;
        let mut items: Vec<DescriptionItem> = Vec::new();
        // A `div` may hold a group of terms and descriptions.
        let mut parts: Vec<NodeId> = Vec::new();
        for child in dom.children(node) {
            match dom.name(child) {
                Some("div") => parts.extend(dom.children(child)),
                _ => parts.push(child),
            }
        }
        for part in parts {
            let Some(name @ ("dt" | "dd")) = dom.name(part) else {
                self.push_beside_terms(part, &mut items);
                continue;
            };
            let outer = self.enter(part);
            if self.is_shown(part) {
                self.push_term_or_description(part, name, &mut items);
            }
            self.leave(outer);
        }
        items
    }

    fn push_term_or_description(
        &mut self,
        part: NodeId,
        name: &str,
        items: &mut Vec<DescriptionItem>,
    ) {
        if name == "dt" {
            let mut term = self.flow_as_line(part);
            term.splice(0..0, self.anchor_of(part));
            match items.last_mut().filter(|item| item.descriptions.is_empty()) {
                Some(item) => item.terms.push(term),
                None => items.push(DescriptionItem { terms: vec![term], ..Default::default() }),
            }
            return;
        }
        let description = self.identified_flow(part);
        match items.last_mut() {
            Some(item) => item.descriptions.push(description),
            None => items
                .push(DescriptionItem { descriptions: vec![description], ..Default::default() }),
        }
    }

    /// What stands in a description list beside its parts describes the term before.
    fn push_beside_terms(&mut self, part: NodeId, items: &mut Vec<DescriptionItem>) {
        let mut stack = Stack::default();
        self.push_child(part, &mut stack);
        let content = self.finish_blocks(stack);
        if content.is_empty() {
            return;
        }
        self.dropped(Code::HtmlRepaired, "content beside terms", part);
        if items.is_empty() {
            items.push(DescriptionItem::default());
        }
        if let Some(item) = items.last_mut() {
            match item.descriptions.last_mut() {
                Some(description) => description.extend(content),
                None => item.descriptions.push(content),
            }
        }
    }
}

/// Takes the number off a line that shows one as text.
pub(super) fn take_label(inlines: &mut Vec<Inline>) -> Option<CompactString> {
    let Some(Inline::Formatted(first)) = inlines.first() else { return None };
    first.attributes.pair(ITEM_LABEL)?;
    let label = plain_text(&first.content);
    inlines.remove(0);
    if let Some(Inline::Text(text)) = inlines.first_mut() {
        *text = text.trim_start().into();
    }
    Some(label.into())
}

/// Takes a check box off the start of an item's first paragraph.
fn take_box(content: &mut [Block]) -> Option<CheckState> {
    let BlockKind::Paragraph(inlines) = &mut content.first_mut()?.kind else { return None };
    let Some(Inline::CheckBox(ticked)) = inlines.first() else { return None };
    let check = if *ticked { CheckState::Done } else { CheckState::Open };
    inlines.remove(0);
    match inlines.first_mut() {
        Some(Inline::Text(text)) => *text = text.trim_start().into(),
        Some(Inline::Break(_)) => {
            inlines.remove(0);
        }
        _ => {}
    }
    if matches!(inlines.first(), Some(Inline::Text(text)) if text.is_empty()) {
        inlines.remove(0);
    }
    Some(check)
}
