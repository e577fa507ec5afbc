//! Looks on their way to an output that has none: what means a format becomes one, the rest is told.

use crate::document::{
    Attributes, Block, BlockKind, Document, Formatted, Formatting, Inline, Length, Looks, Node,
    Place, UnderlineLine, Visit, walk, walk_inlines_mut,
};
use crate::findings::{Code, Findings};
use std::borrow::Cow;

/// The weight from which on text is bold (CSS Fonts 4, 2.5).
const BOLD: u16 = 600;

/// The document with formats in the place of the looks of words that say the same: slanted,
/// bold, underlined, struck, raised, lowered, small capitals.
pub(crate) fn as_formats(document: &Document) -> Cow<'_, Document> {
    let says_a_format = |looks: &Looks| !formats_of(looks).is_empty();
    if !walk_formatted(document).any(|it| it.attributes.looks().is_some_and(says_a_format)) {
        return Cow::Borrowed(document);
    }
    let mut document = document.clone();
    for content in all_blocks_mut(&mut document) {
        walk_inlines_mut(content, |_, line| line.iter_mut().for_each(give_formats));
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

/// Wraps the content in a format for each of its looks that says one; those looks go.
fn give_formats(inline: &mut Inline) {
    let Inline::Formatted(formatted) = inline else { return };
    let Some(looks) = formatted.attributes.looks() else { return };
    let formats = formats_of(looks);
    if formats.is_empty() {
        return;
    }
    let mut left = looks.clone();
    (left.italic, left.weight, left.underline, left.strike) = (None, None, None, None);
    (left.small_capitals, left.raise) = (None, None);
    formatted.attributes.edit().looks = (!left.is_empty()).then(|| Box::new(left));
    for format in formats.into_iter().filter(|format| *format != formatted.format) {
        let content = std::mem::take(&mut formatted.content);
        let attributes = Attributes::NONE;
        formatted.content =
            vec![Inline::Formatted(Box::new(Formatted { format, attributes, content }))];
    }
}

fn formats_of(looks: &Looks) -> Vec<Formatting> {
    let amount = |length: Length| match length {
        Length::Points(amount) | Length::Ems(amount) | Length::Share(amount) => amount,
    };
    let raise = looks.raise.map_or(0.0, amount);
    let is_underlined = looks.underline.is_some_and(|line| line != UnderlineLine::None);
    let said = [
        (looks.small_capitals == Some(true), Formatting::SmallCapitals),
        (raise > 0.0, Formatting::Superscript),
        (raise < 0.0, Formatting::Subscript),
        (looks.strike == Some(true), Formatting::Struck),
        (is_underlined, Formatting::Underline),
        (looks.italic == Some(true), Formatting::Emphasis),
        (looks.weight.is_some_and(|weight| weight >= BOLD), Formatting::Strong),
    ];
    said.into_iter().filter(|(is_said, _)| *is_said).map(|(_, format)| format).collect()
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
