//! Blocks beyond CommonMark: notes, containers, description lists.

use super::blocks::{Begun, BlockPass, take_marker};
use super::cursor::Cursor;
use super::starts::{self, HtmlEnd};
use super::tree::NodeKind;
use crate::document::Place;
use crate::findings::Code;
use crate::formats::markdown::Switch;

impl<'s> BlockPass<'s, '_> {
    pub(super) fn begin_note(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> Begun {
        if !self.switches.has(Switch::Footnotes) || self.too_deep(matched, cursor) {
            return Begun::Nothing;
        }
        let Some((label, end)) = starts::note_definition(cursor.rest()) else {
            return Begun::Nothing;
        };
        self.close_down_to(matched);
        let start = cursor.next_in_source();
        let label = self.source.get(start + label.start..start + label.end).unwrap_or_default();
        let place = Place::new(start, start + end);
        let number = match self.notes.define(label, place) {
            Ok(number) => number,
            Err(first) => {
                self.findings.add_pair(Code::NoteLabelDuplicate, label, place, first);
                // Its blocks are read, and go nowhere.
                usize::MAX
            }
        };
        cursor.skip_space();
        cursor.skip_bytes(end);
        cursor.skip_space();
        self.add_child(NodeKind::Note(number), start);
        Begun::Container
    }

    pub(super) fn begin_container(&mut self, cursor: &mut Cursor<'s>, matched: usize) -> Begun {
        let rest = cursor.rest();
        let info = starts::container_fence(rest).map_or(&b""[..], |(_, info)| info);
        let wanted = self.switches.has(Switch::Containers) && !info.is_empty();
        if !wanted || self.too_deep(matched, cursor) {
            return Begun::Nothing;
        }
        self.close_down_to(matched);
        let start = cursor.next_in_source();
        let fence = rest.len() - rest.trim_ascii_start().len();
        let colons = rest.iter().skip(fence).take_while(|byte| **byte == b':').count();
        let info = start + fence + colons..start + rest.len();
        self.add_child(NodeKind::Container { info, closed: false }, start);
        Begun::Whole
    }

    /// Whether a closing fence with this indent closes the container at this depth: nothing open
    /// inside it goes on with the line and takes it as its own.
    pub(super) fn ends_here(&self, depth: usize, indent: usize) -> bool {
        for &id in self.open.iter().skip(depth + 1) {
            match self.tree.nodes.get(id).map(|node| &node.kind) {
                Some(NodeKind::List(_) | NodeKind::DescriptionList) => {}
                Some(
                    NodeKind::Item { content_column } | NodeKind::Description { content_column },
                ) if indent >= *content_column => {}
                Some(
                    NodeKind::Container { .. }
                    | NodeKind::FencedCode { .. }
                    | NodeKind::Html(HtmlEnd::Holds(_)),
                ) => return false,
                _ => return true,
            }
        }
        true
    }

    /// `: ` below a term, below a blank line behind it, or below another description.
    pub(super) fn begin_description(
        &mut self,
        cursor: &mut Cursor<'s>,
        matched: usize,
        in_paragraph: bool,
    ) -> Begun {
        let is_mark = starts::is_description_mark(cursor.rest());
        if !self.switches.has(Switch::DescriptionLists)
            || !is_mark
            || self.too_deep(matched, cursor)
        {
            return Begun::Nothing;
        }
        let in_list = matches!(self.kind(matched - 1), NodeKind::DescriptionList);
        if !in_list && !self.make_term(matched, in_paragraph) {
            return Begun::Nothing;
        }
        let start = cursor.next_in_source();
        let content_column = cursor.indent() + take_marker(cursor, 1);
        if in_list {
            self.close_down_to(matched);
        }
        self.add_child(NodeKind::Description { content_column }, start);
        Begun::Container
    }

    /// Makes the paragraph before a description a term, in a description list of its own. The
    /// paragraph may be open, or closed by one blank line.
    pub(super) fn make_term(&mut self, matched: usize, in_paragraph: bool) -> bool {
        let depth = if in_paragraph { matched - 2 } else { matched - 1 };
        // A paragraph that is open deeper than the line reaches goes on lazily instead.
        if !in_paragraph && self.open.len() > matched {
            return false;
        }
        if in_paragraph {
            self.close_down_to(matched);
            self.close_last(self.line.number - 1, self.previous_end);
        }
        let Some(&paragraph) = self.node(depth).children.last() else { return false };
        let node = &mut self.tree.nodes[paragraph];
        let is_near = node.last_line + 2 >= self.line.number;
        if !matches!(node.kind, NodeKind::Paragraph) || !is_near {
            return false;
        }
        node.kind = NodeKind::Term;
        let (start, first_line) = (node.start, node.first_line);
        self.node_mut(depth).children.pop();
        self.add_child(NodeKind::DescriptionList, start);
        self.last_mut().children.push(paragraph);
        self.last_mut().first_line = first_line;
        true
    }
}
