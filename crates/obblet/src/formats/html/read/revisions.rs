//! Tracked changes: `ins` and `del` with a date.

use super::super::dom::NodeId;
use super::Reader;
use super::inlines::format_of;
use crate::dates::When;
use crate::document::{
    Attributes, Block, Formatted, Formatting, Inline, Revision, RevisionKind, walk_lines_mut,
};

impl Reader<'_> {
    /// `ins` and `del` with a date are a tracked change, without one a format.
    pub(super) fn revision(&self, node: NodeId, attributes: &mut Attributes) -> Option<Revision> {
        let kind = match self.dom.name(node)? {
            "ins" => RevisionKind::Insertion,
            "del" => RevisionKind::Deletion,
            _ => return None,
        };
        let date = self.dom.attribute(node, "datetime").filter(|date| When::of(date).is_some())?;
        let author = attributes.take_pair("title");
        Some(Revision { kind, author, date: Some(date.into()) })
    }

    /// Blocks inside `ins` or `del` are a tracked change each where that has a date; else their
    /// words have the format.
    pub(super) fn mark_revision(
        &mut self,
        node: NodeId,
        revision: Option<Revision>,
        blocks: &mut Vec<Block>,
    ) {
        let Some(format) = self.dom.name(node).and_then(format_of) else { return };
        if !matches!(format, Formatting::Inserted | Formatting::Deleted) {
            return;
        }
        if let Some(revision) = revision {
            for block in blocks {
                block.attributes.edit().revision = Some(revision.clone());
            }
            return;
        }
        walk_lines_mut(blocks, |_, line| {
            let content = std::mem::take(line);
            if !content.is_empty() {
                let attributes = Attributes::NONE;
                line.push(Inline::Formatted(Box::new(Formatted { format, attributes, content })));
            }
        });
    }
}
