//! Captions: each goes to the figure or table it belongs to.

use super::super::vocabulary::BEHIND_LABEL;
use super::gather::text_block;
use super::paragraphs::Paragraph;
use crate::document::{Attributes, Block, BlockKind, Caption, CompactString, Figure, Inline};

/// Adds a caption. One below a picture makes the two a figure; one below a table goes into it,
/// when it counts tables; any other waits for what follows.
pub(super) fn push_caption(blocks: &mut Vec<Block>, paragraph: Paragraph, keeps_looks: bool) {
    let sequence = paragraph.sequence.clone();
    let counts_tables = sequence.as_deref().is_some_and(|name| name.eq_ignore_ascii_case("table"));
    let style = paragraph.style_key();
    let mut block = text_block(paragraph);
    match blocks.last_mut() {
        Some(last) if is_picture_alone(last) && !counts_tables => {
            if let Some(object) = blocks.pop() {
                blocks.push(figure(object, caption(block, keeps_looks)));
            }
        }
        Some(Block { kind: BlockKind::Table(table), .. })
            if counts_tables && table.caption.is_none() =>
        {
            table.caption = Some(caption(block, keeps_looks));
        }
        Some(Block { kind: BlockKind::Figure(figure), .. }) if figure.caption.is_none() => {
            figure.caption = Some(caption(block, keeps_looks));
        }
        _ => {
            // What follows knows it by its style.
            if block.attributes.style().is_none() {
                block.attributes.edit().style = Some(style.into());
            }
            blocks.push(block);
        }
    }
}

/// Adds a block that may have its caption above it.
pub(super) fn push_object(blocks: &mut Vec<Block>, mut block: Block, keeps_looks: bool) {
    let is_waiting = blocks.last().is_some_and(is_caption);
    match &mut block.kind {
        BlockKind::Table(table) if is_waiting && table.caption.is_none() => {
            table.caption = blocks.pop().map(|words| caption(words, keeps_looks));
        }
        BlockKind::Figure(figure) if is_waiting && figure.caption.is_none() => {
            figure.caption = blocks.pop().map(|words| caption(words, keeps_looks));
        }
        _ => {}
    }
    blocks.push(block);
}

fn is_caption(block: &Block) -> bool {
    matches!(block.kind, BlockKind::Paragraph(_))
        && block.attributes.style().is_some_and(|style| style.eq_ignore_ascii_case("caption"))
}

fn figure(object: Block, caption: Caption) -> Block {
    let place = object.place;
    let figure = Figure { content: vec![object], caption: Some(caption) };
    Block::new(BlockKind::Figure(Box::new(figure))).at(place)
}

/// The caption that a paragraph is.
pub(super) fn caption(mut block: Block, keeps_looks: bool) -> Caption {
    if !keeps_looks {
        block.attributes = Attributes::NONE;
    }
    let label = taken_label(&mut block);
    Caption { label, content: vec![block] }
}

/// The label at the beginning of a caption, where something tells it from the words.
fn taken_label(block: &mut Block) -> Option<CompactString> {
    let BlockKind::Paragraph(content) = &mut block.kind else { return None };
    // Bookmarks may stand before it.
    let first = content.iter().position(|inline| !matches!(inline, Inline::Anchor(_)))?;
    let Some(Inline::Text(text)) = content.get_mut(first) else { return None };
    let (label, words) = text.split_once(BEHIND_LABEL)?;
    let (label, words) = (CompactString::from(label), CompactString::from(words));
    *text = words;
    if text.is_empty() {
        content.remove(first);
    }
    Some(label)
}

fn is_picture_alone(block: &Block) -> bool {
    match &block.kind {
        BlockKind::Paragraph(content) => {
            let mut shown = content.iter().filter(|inline| !matches!(inline, Inline::Anchor(_)));
            matches!(shown.next(), Some(Inline::Picture(_))) && shown.next().is_none()
        }
        _ => false,
    }
}
