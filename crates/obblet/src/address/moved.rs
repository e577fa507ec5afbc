//! Addresses of a document that goes into another folder than its source.

use super::{NearAddress, turned_in_html};
use crate::document::{
    Block, BlockKind, CompactString, Document, Foreign, Inline, PictureSource, walk_blocks_mut,
    walk_inlines_mut,
};

/// An address that is relative to one folder, as seen from another, from which the first has the address
/// `folder`. `None` where it is not relative.
///
/// ```
/// use obblet::address::seen_from_elsewhere;
/// assert_eq!(seen_from_elsewhere("wheel.png", "../drafts").as_deref(), Some("../drafts/wheel.png"));
/// assert_eq!(seen_from_elsewhere("../log.md#ebb", "drafts").as_deref(), Some("log.md#ebb"));
/// assert_eq!(seen_from_elsewhere("#ebb", "drafts"), None);
/// ```
#[must_use]
pub fn seen_from_elsewhere(address: &str, folder: &str) -> Option<String> {
    let near = NearAddress::of(address)?;
    Some(near.with_path(&collapsed(&format!("{folder}/{}", near.path))))
}

/// The document with the addresses of its links and pictures turned, those in raw HTML among them.
#[must_use]
pub fn with_addresses_turned(
    document: &Document,
    turn: impl Fn(&str) -> Option<String>,
) -> Document {
    let mut document = document.clone();
    let notes = document.notes.iter_mut().map(|note| &mut note.content);
    for blocks in std::iter::once(&mut document.blocks).chain(notes) {
        walk_blocks_mut(blocks, |blocks| {
            blocks.iter_mut().for_each(|block| turn_block(block, &turn));
        });
        walk_inlines_mut(blocks, |_, line| {
            line.iter_mut().for_each(|inline| turn_inline(inline, &turn));
        });
    }
    document
}

fn turn_block(block: &mut Block, turn: &impl Fn(&str) -> Option<String>) {
    if let BlockKind::Foreign(foreign) = &mut block.kind {
        turn_markup(foreign, turn);
    }
}

fn turn_inline(inline: &mut Inline, turn: &impl Fn(&str) -> Option<String>) {
    let turn_address = |address: &mut CompactString| {
        if let Some(turned) = turn(address) {
            *address = turned.into();
        }
    };
    match inline {
        Inline::Link(link) => turn_address(&mut link.address),
        Inline::Picture(picture) => {
            if let PictureSource::Address(address) = &mut picture.source {
                turn_address(address);
            }
        }
        Inline::Foreign(foreign) => turn_markup(foreign, turn),
        _ => {}
    }
}

fn turn_markup(foreign: &mut Foreign, turn: &impl Fn(&str) -> Option<String>) {
    if foreign.format == "html"
        && let Some(turned) = turned_in_html(&foreign.markup, turn)
    {
        foreign.markup = turned;
    }
}

/// A path without steps into a folder and out again.
fn collapsed(path: &str) -> String {
    let mut steps: Vec<&str> = Vec::new();
    for step in path.split('/') {
        match (step, steps.last()) {
            (".", _) => {}
            ("..", Some(last)) if *last != ".." => {
                steps.pop();
            }
            _ => steps.push(step),
        }
    }
    // A path that ends in a folder keeps its slash.
    if steps.is_empty() { "./".into() } else { steps.join("/") }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn paths_go_no_further_than_they_must() {
        let cases = [
            ("../drafts/a.png", "../drafts/a.png"),
            ("../drafts/../b/a.png", "../b/a.png"),
            ("../../x/./a/", "../../x/a/"),
            ("sub/../../a.png", "../a.png"),
            ("sub/..", "./"),
        ];
        for (path, wanted) in cases {
            assert_eq!(collapsed(path), wanted);
        }
    }
}
