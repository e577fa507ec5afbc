//! HTML with pieces of another format in it: each stands there as an empty element
//! `<obblet-part n="…">`, and comes out where that stood.

use super::super::dom::{Dom, NodeId};
use super::super::saved_page::SavedParts;
use super::{HtmlReadOptions, Reader};
use crate::document::{Block, Inline, Place};
use crate::findings::Findings;

/// A piece that is no HTML.
#[derive(Debug)]
pub(crate) enum Part {
    Block(Block),
    Inline(Inline),
}

/// The blocks of a fragment, with its parts in their places. Parts that the markup left no place
/// for come at the end. Where each line of the fragment stands in the source, the caller says.
pub(crate) fn read_parts(
    html: &str,
    lines: Vec<Place>,
    parts: Vec<Part>,
    findings: &mut Findings,
) -> Vec<Block> {
    let dom = Dom::of_body(html);
    let saved = SavedParts::default();
    let mut reader = Reader::new(&dom, lines, &saved, HtmlReadOptions::default());
    reader.parts = parts.into_iter().map(Some).collect();
    let mut blocks = reader.flow(dom.root());
    for part in std::mem::take(&mut reader.parts).into_iter().flatten() {
        if let Part::Block(block) = part {
            blocks.push(block);
        }
    }
    findings.extend(reader.finish());
    blocks
}

/// The inlines of a fragment that stands at a place, with its parts in theirs.
pub(crate) fn read_inline_parts(
    html: &str,
    place: Place,
    parts: Vec<Part>,
    findings: &mut Findings,
) -> Vec<Inline> {
    let dom = Dom::of_body(html);
    let saved = SavedParts::default();
    let mut reader = Reader::new(&dom, vec![place], &saved, HtmlReadOptions::default());
    reader.parts = parts.into_iter().map(Some).collect();
    let inlines = reader.inlines(dom.root());
    findings.extend(reader.finish());
    inlines
}

impl Reader<'_> {
    /// The part that an element stands for.
    pub(super) fn take_part(&mut self, node: NodeId) -> Option<Part> {
        let number: usize = self.dom.attribute(node, "n")?.parse().ok()?;
        self.parts.get_mut(number)?.take()
    }

    /// Whether an element stands for a block of another format.
    pub(super) fn is_block_part(&self, node: NodeId) -> bool {
        let number = self.dom.attribute(node, "n").and_then(|number| number.parse::<usize>().ok());
        let part = number.and_then(|number| self.parts.get(number));
        self.dom.name(node) == Some("obblet-part") && matches!(part, Some(Some(Part::Block(_))))
    }
}
