//! Terms and descriptions: paragraphs of their styles, put together.

use super::gather::text_block;
use super::paragraphs::Paragraph;
use super::styles::Role;
use crate::document::{Block, BlockKind, DescriptionItem};

/// Adds a term, a description, or more of one.
pub(super) fn push(blocks: &mut Vec<Block>, paragraph: Paragraph) {
    let place = paragraph.place;
    if !matches!(blocks.last(), Some(Block { kind: BlockKind::DescriptionList(_), .. })) {
        blocks.push(Block::new(BlockKind::DescriptionList(Vec::new())).at(place));
    }
    let Some(Block { kind: BlockKind::DescriptionList(items), .. }) = blocks.last_mut() else {
        return;
    };
    let role = paragraph.role;
    if role == Role::Term {
        match items.last_mut().filter(|item| item.descriptions.is_empty()) {
            Some(item) => item.terms.push(paragraph.content),
            None => items
                .push(DescriptionItem { terms: vec![paragraph.content], descriptions: Vec::new() }),
        }
        return;
    }
    if items.is_empty() {
        items.push(DescriptionItem::default());
    }
    let Some(item) = items.last_mut() else { return };
    let mut description = Vec::new();
    if !paragraph.content.is_empty() {
        description.push(text_block(paragraph));
    }
    match item.descriptions.last_mut().filter(|_| role == Role::DescriptionMore) {
        Some(last) => last.extend(description),
        None => item.descriptions.push(description),
    }
}

/// Adds blocks to the last description; gives them back where there is none.
pub(super) fn extend(blocks: &mut [Block], content: Vec<Block>) -> Option<Vec<Block>> {
    if let Some(Block { kind: BlockKind::DescriptionList(items), .. }) = blocks.last_mut()
        && let Some(last) = items.last_mut().and_then(|item| item.descriptions.last_mut())
    {
        last.extend(content);
        return None;
    }
    Some(content)
}
