//! What the block pass builds: blocks with their lines, inlines not yet read.

use super::starts::{Fence, HtmlEnd, MarkerKind};
use crate::document::CellAlign;
use std::ops::Range;

/// The number of a node.
pub(super) type NodeId = usize;

/// One line, or what is left of it, of a leaf block.
#[derive(Debug, Clone, Copy)]
pub(super) struct Line {
    /// Offset in the source.
    pub(super) start: u32,
    /// Offset of the line ending in the source.
    pub(super) end: u32,
    /// Spaces that stand before the text for a half consumed tab.
    pub(super) pad: u8,
}

impl Line {
    pub(super) fn text<'s>(&self, source: &'s str) -> &'s str {
        source.get(self.start as usize..self.end as usize).unwrap_or_default()
    }
}

#[derive(Debug, Clone)]
pub(super) enum NodeKind {
    Document,
    Quotation,
    List(MarkerKind),
    /// Columns from the container's edge to the content.
    Item {
        content_column: usize,
    },
    Paragraph,
    Heading(u8),
    IndentedCode,
    FencedCode {
        fence: Fence,
        indent: usize,
        closed: bool,
    },
    Html(HtmlEnd),
    ThematicBreak,
    Table(Vec<Option<CellAlign>>),
    /// The text of a note, by the number of its label.
    Note(usize),
    /// Blocks between fences of colons; what stands behind the opening one, in the source.
    Container {
        info: Range<usize>,
        closed: bool,
    },
    DescriptionList,
    /// The lines are a term each.
    Term,
    /// Columns from the container's edge to the content.
    Description {
        content_column: usize,
    },
    /// A paragraph that held nothing but definitions.
    Nothing,
}

#[derive(Debug)]
pub(super) struct Node {
    pub(super) kind: NodeKind,
    pub(super) children: Vec<NodeId>,
    /// The lines of a leaf, as a range of [`Tree::lines`].
    pub(super) lines: Range<usize>,
    /// Offset of the first byte in the source.
    pub(super) start: usize,
    /// Offset behind the last byte in the source.
    pub(super) end: usize,
    /// Number of the first line.
    pub(super) first_line: usize,
    /// Number of the last line.
    pub(super) last_line: usize,
    /// Whether a blank line parts items of this list, or blocks inside one.
    pub(super) loose: bool,
}

/// All nodes; number 0 is the document.
#[derive(Debug, Default)]
pub(super) struct Tree {
    pub(super) nodes: Vec<Node>,
    pub(super) lines: Vec<Line>,
}

impl NodeKind {
    /// Whether lines are gathered for it.
    pub(super) fn takes_lines(&self) -> bool {
        matches!(
            self,
            Self::Paragraph
                | Self::IndentedCode
                | Self::FencedCode { .. }
                | Self::Html(_)
                | Self::Table(_)
        )
    }

    /// Whether its lines are taken as they are, without looking for the start of a block.
    pub(super) fn is_verbatim(&self) -> bool {
        matches!(self, Self::IndentedCode | Self::FencedCode { .. } | Self::Html(_))
    }

    pub(super) fn may_hold(&self, child: &Self) -> bool {
        let is_item = matches!(child, Self::Item { .. });
        let is_description = matches!(child, Self::Term | Self::Description { .. });
        match self {
            Self::List(_) => is_item,
            Self::DescriptionList => is_description,
            Self::Document
            | Self::Quotation
            | Self::Item { .. }
            | Self::Note(_)
            | Self::Container { .. }
            | Self::Description { .. } => !is_item && !is_description,
            _ => false,
        }
    }
}
