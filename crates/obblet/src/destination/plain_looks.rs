//! Looks on their way to an output that has none: what means a format becomes one, the rest is told.

use crate::document::{
    Block, BlockKind, Document, Formatted, Inline, Node, Place, Visit, walk, walk_inlines_mut,
};
use crate::findings::{Code, Findings};
use std::borrow::Cow;

/// The document with formats in the place of the looks of words that say the same: slanted,
/// bold, underlined, struck, raised, lowered, small capitals.
pub(crate) fn as_formats(document: &Document) -> Cow<'_, Document> {
    if !walk_formatted(document).any(Formatted::looks_say_formats) {
        return Cow::Borrowed(document);
    }
    let mut document = document.clone();
    for content in all_blocks_mut(&mut document) {
        walk_inlines_mut(content, |_, line| {
            for inline in line {
                if let Inline::Formatted(formatted) = inline {
                    formatted.turn_looks_into_formats();
                }
            }
        });
    }
    Cow::Owned(document)
}

fn all_blocks_mut(document: &mut Document) -> impl Iterator<Item = &mut Vec<Block>> {
    let notes = document.notes.iter_mut().map(|note| &mut note.content);
    std::iter::once(&mut document.blocks).chain(notes)
}

fn walk_formatted(document: &Document) -> impl Iterator<Item = &Formatted> {
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    std::iter::once(document.blocks.as_slice()).chain(notes).flat_map(walk).filter_map(|visit| {
        match visit {
            Visit::Enter(Node::Inline(Inline::Formatted(formatted))) => Some(&**formatted),
            _ => None,
        }
    })
}

/// Tells, for an output without looks, of looks (once) and of each named style.
pub(crate) fn report_left(document: &Document, findings: &mut Findings) {
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    let mut has_told_looks = false;
    let mut place = Place::default();
    for visit in std::iter::once(document.blocks.as_slice()).chain(notes).flat_map(walk) {
        let Visit::Enter(node) = visit else { continue };
        let attributes = match node {
            Node::Block(block) => {
                place = block.place;
                &block.attributes
            }
            Node::Item(item) => &item.attributes,
            Node::Row(_, row) => &row.attributes,
            Node::Cell(cell) => &cell.attributes,
            Node::Inline(Inline::Formatted(formatted)) => &formatted.attributes,
            _ => continue,
        };
        if attributes.looks().is_some_and(|looks| !looks.is_empty()) && !has_told_looks {
            findings.add(Code::LooksDropped, Some(place));
            has_told_looks = true;
        }
        // That a text is a heading is what its style says.
        let is_heading = matches!(node, Node::Block(Block { kind: BlockKind::Heading(_), .. }));
        if let Some(style) = attributes.style().filter(|_| !is_heading) {
            findings.count(Code::StyleDropped, style, Some(place));
        }
    }
}
