//! Notes: their marks, and their texts, which stand elsewhere in the page.

use super::super::ENDNOTE;
use super::super::dom::NodeId;
use super::Reader;
use super::line::Line;
use crate::document::{Block, Inline, Note, NoteId, NoteKind};
use std::collections::HashSet;

impl<'d> Reader<'d> {
    /// Numbers the notes, so that their marks can be told.
    pub(super) fn find_notes(&mut self, root: NodeId) {
        let all: Vec<NodeId> = self.dom.below(root).collect();
        let mut sections = Vec::new();
        for node in all {
            match self.role_by_style(node).as_deref() {
                Some("footnote" | "endnote") => self.add_note(node),
                _ if matches!(
                    self.dom.attribute(node, "role"),
                    Some("doc-endnotes" | "doc-footnotes")
                ) =>
                {
                    sections.push(node);
                }
                _ => {}
            }
        }
        // What stands inside a section that was gone through is not gone through again.
        let mut inside: HashSet<NodeId> = HashSet::new();
        for section in sections {
            if inside.contains(&section) {
                continue;
            }
            inside.extend(self.dom.below(section));
            let items: Vec<NodeId> = self
                .dom
                .below(section)
                .filter(|node| self.dom.name(*node) == Some("li"))
                .filter(|node| self.dom.attribute(*node, "id").is_some())
                .collect();
            items.into_iter().for_each(|item| self.add_note(item));
        }
    }

    /// Adds a note by its id. The links to a word processor's notes begin with an underscore.
    pub(super) fn add_note(&mut self, node: NodeId) {
        let number = NoteId::new(self.note_nodes.len());
        // A note that nothing can point to is still one; the writer says that it has no mark.
        if let Some(id) = self.dom.attribute(node, "id") {
            self.notes.insert(id.to_string(), number);
            self.notes.insert(format!("_{id}"), number);
        }
        self.note_nodes.push(node);
    }

    pub(super) fn notes(&mut self) -> Vec<Note> {
        let nodes = self.note_nodes.clone();
        let read = |node: NodeId| Note {
            kind: match self.role_by_style(node).as_deref() {
                Some("endnote") => NoteKind::Endnote,
                None if self.is_typed_endnote(node) => NoteKind::Endnote,
                _ if self.dom.attribute(node, "data-kind") == Some(ENDNOTE) => NoteKind::Endnote,
                _ => NoteKind::Footnote,
            },
            label: None,
            content: without_empty_end(self.flow(node)),
        };
        nodes.into_iter().map(read).collect()
    }
}

/// A paragraph that held nothing but links back to the text is no paragraph.
pub(super) fn without_empty_end(mut blocks: Vec<Block>) -> Vec<Block> {
    use crate::document::BlockKind;
    let is_empty =
        |block: &Block| matches!(&block.kind, BlockKind::Paragraph(content) if content.is_empty());
    while blocks.last().is_some_and(is_empty) {
        blocks.pop();
    }
    blocks
}

impl Reader<'_> {
    pub(super) fn push_note_mark(&mut self, node: NodeId, line: &mut Line) -> bool {
        let mut children = self.dom.children(node);
        let (Some(only), None) = (children.next(), children.next()) else { return false };
        if let Some(mark) = self.comment_of(only) {
            line.push_unseen(mark);
            return true;
        }
        let Some(note) = self.note_of(only) else { return false };
        line.push(Inline::NoteMark(note), &self.text.formats);
        true
    }

    pub(super) fn note_of(&self, node: NodeId) -> Option<crate::document::NoteId> {
        if let Some(note) = self.typed_marks.get(&node) {
            return Some(*note);
        }
        let id = self.dom.attribute(node, "href")?.strip_prefix('#')?;
        // Links to a word processor's notes begin with an underscore and need no role.
        let is_mark =
            self.dom.attribute(node, "role") == Some("doc-noteref") || id.starts_with('_');
        self.notes.get(id).copied().filter(|_| is_mark)
    }

    /// A link from a note back to its mark.
    pub(super) fn is_link_back(&self, node: NodeId) -> bool {
        let address = self.dom.attribute(node, "href").unwrap_or_default();
        self.dom.attribute(node, "role") == Some("doc-backlink")
            || self.links_back.contains(&node)
            || (address.starts_with("#_ftnref") || address.starts_with("#_ednref"))
    }
}
