//! Addresses of a document that goes into another folder than its source.

use super::{NearAddress, turned_in_html};
use crate::document::{
    Block, BlockKind, Document, Foreign, Inline, PictureSource, Place, walk_blocks_mut,
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
        turn_addresses(blocks, |_, address| turn(address));
    }
    document
}

/// Turns the addresses of links and pictures in blocks, those in raw HTML first; `turn` gets each with the
/// place of its block, and gives `None` for one that stays.
pub fn turn_addresses(
    blocks: &mut Vec<Block>,
    mut turn: impl FnMut(Place, &str) -> Option<String>,
) {
    walk_blocks_mut(blocks, |blocks| {
        for block in blocks {
            if let BlockKind::Foreign(foreign) = &mut block.kind {
                turn_markup(foreign, |address| turn(block.place, address));
            }
        }
    });
    walk_inlines_mut(blocks, |place, inlines| {
        for inline in inlines {
            let address = match inline {
                Inline::Link(link) => &mut link.address,
                Inline::Picture(picture) => match &mut picture.source {
                    PictureSource::Address(address) => address,
                    PictureSource::Media(_) => continue,
                },
                Inline::Foreign(foreign) => {
                    turn_markup(foreign, |address| turn(place, address));
                    continue;
                }
                _ => continue,
            };
            if let Some(turned) = turn(place, address) {
                *address = turned.into();
            }
        }
    });
}

fn turn_markup(foreign: &mut Foreign, turn: impl FnMut(&str) -> Option<String>) {
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
