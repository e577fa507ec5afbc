use super::Repair;
use super::lines::each_flow;
use crate::document::{
    Attributes, Block, BlockKind, Document, Formatting, GroupRole, Inline, walk_inlines_mut,
};
use crate::findings::{Code, Findings};

/// Classes go: nothing in the page says what they look like, and a destination has its own. Groups
/// and spans that were there for a class alone go with it; the language of code stays.
#[derive(Debug, Clone, Copy)]
pub struct UnusedClasses;

impl Repair for UnusedClasses {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_flow(document, |blocks| {
            for block in blocks.iter_mut() {
                let place = block.place;
                let mut count = dropped(&mut block.attributes);
                if let BlockKind::List(list) = &mut block.kind {
                    count +=
                        list.items.iter_mut().map(|i| dropped(&mut i.attributes)).sum::<usize>();
                }
                if let BlockKind::Table(table) = &mut block.kind {
                    for row in table.groups.iter_mut().flat_map(|group| &mut group.rows) {
                        count += dropped(&mut row.attributes);
                        count +=
                            row.cells.iter_mut().map(|c| dropped(&mut c.attributes)).sum::<usize>();
                    }
                }
                for _ in 0..count {
                    findings.count(Code::ClassDropped, "", Some(place));
                }
            }
        });
        each_flow(document, |blocks| {
            while blocks.iter().any(is_bare) {
                *blocks = std::mem::take(blocks).into_iter().flat_map(unwrapped).collect();
            }
        });
        let notes = document.notes.iter_mut().map(|note| &mut note.content);
        for blocks in std::iter::once(&mut document.blocks).chain(notes) {
            walk_inlines_mut(blocks, |place, inlines| {
                loop {
                    for attributes in inlines.iter_mut().filter_map(attributes_of) {
                        for _ in 0..dropped(attributes) {
                            findings.count(Code::ClassDropped, "", Some(place));
                        }
                    }
                    if !inlines.iter().any(is_bare_span) {
                        break;
                    }
                    *inlines = std::mem::take(inlines).into_iter().flat_map(opened).collect();
                }
            });
        }
    }
}

/// A group that says nothing.
fn is_bare(block: &Block) -> bool {
    let BlockKind::Group(group) = &block.kind else { return false };
    group.role == GroupRole::Plain && block.attributes.is_empty()
}

fn unwrapped(block: Block) -> Vec<Block> {
    match block.kind {
        BlockKind::Group(group)
            if group.role == GroupRole::Plain && block.attributes.is_empty() =>
        {
            group.content
        }
        kind => vec![Block { kind, ..block }],
    }
}

/// A span that says nothing.
fn is_bare_span(inline: &Inline) -> bool {
    let Inline::Formatted(formatted) = inline else { return false };
    formatted.format == Formatting::Plain && formatted.attributes.is_empty()
}

fn opened(inline: Inline) -> Vec<Inline> {
    match inline {
        Inline::Formatted(formatted)
            if formatted.format == Formatting::Plain && formatted.attributes.is_empty() =>
        {
            formatted.content
        }
        inline => vec![inline],
    }
}

fn attributes_of(inline: &mut Inline) -> Option<&mut Attributes> {
    match inline {
        Inline::Formatted(formatted) => Some(&mut formatted.attributes),
        Inline::Link(link) => Some(&mut link.attributes),
        Inline::Picture(picture) => Some(&mut picture.attributes),
        _ => None,
    }
}

/// Takes all classes off. Gives how many there were.
fn dropped(attributes: &mut Attributes) -> usize {
    let count = attributes.classes().len();
    if count > 0 {
        attributes.edit().classes.clear();
        if attributes.is_empty() {
            *attributes = Attributes::NONE;
        }
    }
    count
}
