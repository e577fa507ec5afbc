//! The names of places: every heading gets the one that a page would give it, and all can be changed.

use crate::document::{
    Block, BlockKind, CompactString, Document, Ids, Inline, Node, Visit, blocks_in_order_mut,
    id_of_words, plain_text, walk, walk_blocks_mut, walk_inlines_mut,
};
use std::collections::HashMap;

/// Gives every heading the id that it would have on a page of its own, so that links to it hold
/// wherever it goes.
pub(super) fn name_headings(document: &mut Document) {
    let mut ids = Ids::default();
    for visit in
        walk(&document.blocks).chain(document.notes.iter().flat_map(|note| walk(&note.content)))
    {
        if let Visit::Enter(node) = visit
            && let Some(id) = node.id()
        {
            ids.reserve(id);
        }
    }
    let notes = document.notes.iter_mut().map(|note| &mut note.content);
    for blocks in std::iter::once(&mut document.blocks).chain(notes) {
        blocks_in_order_mut(blocks, |block| {
            let BlockKind::Heading(heading) = &block.kind else { return };
            if block.attributes.id().is_none() {
                let id = ids.made(&id_of_words(&plain_text(&heading.content)));
                block.attributes.edit().id = Some(id);
            }
        });
    }
}

/// Every place of some blocks that a link or reference can name: ids, and labels of formulas.
pub(super) fn places(blocks: &[Block]) -> Vec<CompactString> {
    let mut places = Vec::new();
    for visit in walk(blocks) {
        let Visit::Enter(node) = visit else { continue };
        places.extend(node.id().map(CompactString::from));
        if let Node::Block(Block { kind: BlockKind::Formula(formula), .. })
        | Node::Inline(Inline::Formula(formula)) = &node
        {
            places.extend(formula.labels());
        }
    }
    places
}

/// Gives places other names, and what names them in the same document too.
pub(super) fn rename(blocks: &mut Vec<Block>, names: &HashMap<CompactString, CompactString>) {
    if names.is_empty() {
        return;
    }
    let change = |id: &mut CompactString| {
        if let Some(new) = names.get(id) {
            *id = new.clone();
        }
    };
    let change_of = |attributes: &mut crate::document::Attributes| {
        if attributes.id().is_some() {
            attributes.edit().id.iter_mut().for_each(change);
        }
    };
    walk_blocks_mut(blocks, |blocks| {
        for block in blocks {
            change_of(&mut block.attributes);
            match &mut block.kind {
                BlockKind::List(list) => {
                    list.items.iter_mut().for_each(|item| change_of(&mut item.attributes));
                }
                BlockKind::Table(table) => {
                    for row in table.groups.iter_mut().flat_map(|group| &mut group.rows) {
                        change_of(&mut row.attributes);
                        row.cells.iter_mut().for_each(|cell| change_of(&mut cell.attributes));
                    }
                }
                BlockKind::Formula(formula) => formula.rename_labels(names),
                _ => {}
            }
        }
    });
    walk_inlines_mut(blocks, |_, inlines| {
        for inline in inlines {
            match inline {
                Inline::Anchor(anchor) => change(&mut anchor.id),
                Inline::Formatted(formatted) => change_of(&mut formatted.attributes),
                Inline::Picture(picture) => change_of(&mut picture.attributes),
                Inline::Code(code) => change_of(&mut code.attributes),
                Inline::Formula(formula) => formula.rename_labels(names),
                Inline::Reference(reference) => change(&mut reference.target),
                Inline::Link(link) => {
                    change_of(&mut link.attributes);
                    let new = link.address.strip_prefix('#').and_then(|id| names.get(id));
                    if let Some(new) = new {
                        link.address = format!("#{new}").into();
                    }
                }
                _ => {}
            }
        }
    });
}
