//! What passes share: going through the lines of a document, and through the texts of a line.

use crate::document::{
    Anchor, Block, CompactString, Document, Inline, Place, walk_blocks_mut, walk_lines_mut,
};

/// Calls `change` with the blocks of the document and of each note and comment.
fn each_part(document: &mut Document, mut change: impl FnMut(&mut Vec<Block>)) {
    change(&mut document.blocks);
    document.notes.iter_mut().for_each(|note| change(&mut note.content));
    document.comments.iter_mut().for_each(|comment| change(&mut comment.content));
}

/// Calls `change` with every list of blocks, outer ones first.
pub(super) fn each_flow(document: &mut Document, mut change: impl FnMut(&mut Vec<Block>)) {
    each_part(document, |blocks| walk_blocks_mut(blocks, &mut change));
}

/// Calls `change` with the inlines of every paragraph, heading, term and other line.
pub(super) fn each_line(document: &mut Document, mut change: impl FnMut(Place, &mut Vec<Inline>)) {
    each_part(document, |blocks| walk_lines_mut(blocks, &mut change));
}

/// What a line is made of, in reading order.
pub(super) enum Piece<'a> {
    Text(&'a mut CompactString),
    Break,
    /// Something readers see that is no text.
    Object,
}

/// Calls `change` with every piece of a line. Code is an object: it stands as it is.
pub(super) fn each_piece(inlines: &mut [Inline], change: &mut dyn FnMut(Piece<'_>)) {
    for inline in inlines {
        match inline {
            Inline::Text(text) => change(Piece::Text(text)),
            Inline::Break(_) => change(Piece::Break),
            Inline::Formatted(formatted) => each_piece(&mut formatted.content, change),
            Inline::Link(link) => each_piece(&mut link.content, change),
            Inline::Anchor(_) | Inline::CommentMark(_) => {}
            _ => change(Piece::Object),
        }
    }
}

/// Takes out texts and formats that hold nothing any more.
pub(super) fn drop_empty(inlines: &mut Vec<Inline>) {
    for inline in inlines.iter_mut() {
        match inline {
            Inline::Formatted(formatted) => drop_empty(&mut formatted.content),
            Inline::Link(link) => drop_empty(&mut link.content),
            _ => {}
        }
    }
    inlines.retain_mut(|inline| {
        let Inline::Formatted(formatted) = inline else {
            return !matches!(inline, Inline::Text(text) if text.is_empty());
        };
        if !formatted.content.is_empty() {
            return true;
        }
        // Links may point to what holds nothing.
        let id = formatted.attributes.id().map(CompactString::from);
        if let Some(id) = id {
            *inline = Inline::Anchor(Box::new(Anchor { id }));
            return true;
        }
        false
    });
}

/// Whether a character is white space to the eye.
pub(super) fn is_blank(c: char) -> bool {
    c.is_whitespace() || c == '\u{a0}'
}
