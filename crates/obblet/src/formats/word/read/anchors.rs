//! Bookmarks: those that something refers to, or that a person named, stay.

use super::Reader;
use crate::document::{
    Block, BlockKind, CompactString, Document, Figure, Ids, Inline, Node, Visit, id_of_words,
    plain_text, walk, walk_blocks_mut, walk_inlines_mut,
};
use std::collections::HashSet;

impl Reader<'_> {
    /// Drops bookmarks that Word made for itself and nobody uses; gives headings and figures that
    /// begin with a bookmark its name as id.
    pub(super) fn settle_anchors(&mut self) {
        if !self.has_anchors {
            return;
        }
        let wanted = link_targets(&self.document);
        // Word's own bookmarks begin with an underscore.
        let is_kept = |inline: &Inline| match inline {
            Inline::Anchor(anchor) => !anchor.id.starts_with('_') || wanted.contains(&anchor.id),
            _ => true,
        };
        let mut ids = Ids::default();
        let mut lists = vec![&mut self.document.blocks];
        lists.extend(self.document.notes.iter_mut().map(|note| &mut note.content));
        for blocks in lists {
            walk_inlines_mut(blocks, |_, inlines| inlines.retain(is_kept));
            walk_blocks_mut(blocks, |blocks| {
                for block in blocks {
                    if let BlockKind::Figure(figure) = &mut block.kind {
                        let id = figure_id(figure);
                        if id.is_some() && block.attributes.id().is_none() {
                            block.attributes.edit().id = id;
                        }
                        continue;
                    }
                    let BlockKind::Heading(heading) = &mut block.kind else { continue };
                    // An id that is made of the words anyway need not be stated.
                    let made = ids.made(&id_of_words(&plain_text(&heading.content)));
                    let Some(Inline::Anchor(anchor)) = heading.content.first() else { continue };
                    if anchor.id != made {
                        block.attributes.edit().id = Some(anchor.id.clone());
                    }
                    heading.content.remove(0);
                }
            });
        }
    }
}

/// The bookmark before the picture that a figure is.
fn figure_id(figure: &mut Figure) -> Option<CompactString> {
    let [Block { kind: BlockKind::Paragraph(content), .. }] = figure.content.as_mut_slice() else {
        return None;
    };
    let [Inline::Anchor(anchor), Inline::Picture(_)] = content.as_slice() else { return None };
    let id = anchor.id.clone();
    content.remove(0);
    Some(id)
}

/// The ids that links inside the document lead to.
fn link_targets(document: &Document) -> HashSet<CompactString> {
    let notes = document.notes.iter().flat_map(|note| walk(&note.content));
    walk(&document.blocks)
        .chain(notes)
        .filter_map(|visit| match visit {
            Visit::Enter(Node::Inline(Inline::Link(link))) => {
                link.address.strip_prefix('#').map(CompactString::from)
            }
            _ => None,
        })
        .collect()
}
