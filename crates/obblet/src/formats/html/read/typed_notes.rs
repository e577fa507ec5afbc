//! Notes that nothing marks as such but two links that lead to each other: the mark in the text, and the
//! same mark at the beginning of the note.

use super::super::dom::{Dom, NodeData, NodeId};
use super::Reader;
use crate::document::NoteId;
use std::collections::HashMap;

/// Characters of the longest mark, brackets included.
const LONGEST_MARK: usize = 6;

impl Reader<'_> {
    /// Finds such notes; what only holds them, and a line above them, is left out of the text.
    pub(super) fn find_typed_notes(&mut self, root: NodeId) {
        let dom = self.dom;
        let links: Vec<Ends<'_>> = dom.below(root).filter_map(|node| Ends::of(dom, node)).collect();
        let by_name: HashMap<&str, usize> =
            links.iter().enumerate().map(|(at, link)| (link.name, at)).collect();
        let mut parents = Vec::new();
        for (at, mark) in links.iter().enumerate() {
            let back = by_name.get(mark.target).filter(|back| at < **back);
            let back = back.and_then(|back| links.get(*back)).filter(|it| it.target == mark.name);
            let Some(back) = back.filter(|back| self.is_same_mark(mark.node, back.node)) else {
                continue;
            };
            let Some(note) = self.begun_by(back.node) else { continue };
            // A note of another kind is left out already.
            if self.notes.contains_key(mark.target) || !self.left_out.insert(note) {
                continue;
            }
            self.typed_marks.insert(mark.node, NoteId::new(self.note_nodes.len()));
            self.links_back.insert(back.node);
            self.add_note(note);
            parents
                .extend(dom.parent(note).filter(|_| parents.last() != dom.parent(note).as_ref()));
        }
        parents.into_iter().for_each(|parent| self.leave_out_if_empty(parent));
    }

    fn is_same_mark(&self, one: NodeId, other: NodeId) -> bool {
        let (one, other) = (self.text_of(one), self.text_of(other));
        let mark = one.trim();
        let length = mark.chars().count();
        let is_bracketed = mark.starts_with(['[', '(']) && mark.ends_with([']', ')']);
        let is_roman = mark.chars().all(|c| "ivxlc".contains(c));
        mark == other.trim()
            && (1..=LONGEST_MARK).contains(&length)
            && (!mark.chars().any(char::is_alphabetic) || is_bracketed || is_roman)
    }

    /// The element that begins with this link: a division with an id, or else a paragraph.
    fn begun_by(&self, link: NodeId) -> Option<NodeId> {
        let dom = self.dom;
        let mut found = None;
        let mut node = link;
        while let Some(parent) = dom.parent(node) {
            let mut before = dom.children(parent).take_while(|child| *child != node);
            if !before.all(|child| self.is_blank(child)) {
                break;
            }
            match dom.name(parent) {
                Some("div" | "li") if dom.attribute(parent, "id").is_some() => return Some(parent),
                Some("p") => found = Some(parent),
                Some("h1" | "h2" | "h3" | "h4" | "h5" | "h6" | "td" | "th" | "body") => break,
                _ => {}
            }
            node = parent;
        }
        found
    }

    fn is_blank(&self, node: NodeId) -> bool {
        match self.dom.data(node) {
            NodeData::Text(text) => text.trim().is_empty(),
            NodeData::Remark(_) => true,
            _ => false,
        }
    }

    /// Word processors call their own endnotes so.
    pub(super) fn is_typed_endnote(&self, note: NodeId) -> bool {
        let id = self.dom.attribute(note, "id").unwrap_or_default();
        self.left_out.contains(&note) && (id.starts_with("edn") || id.contains("endnote"))
    }

    /// A parent goes with its notes where it holds nothing else.
    fn leave_out_if_empty(&mut self, parent: NodeId) {
        let dom = self.dom;
        let goes = |child: NodeId| {
            self.is_blank(child)
                || self.left_out.contains(&child)
                || matches!(dom.name(child), Some("hr" | "br"))
        };
        if dom.name(parent) == Some("div") && dom.children(parent).all(goes) {
            self.left_out.insert(parent);
        }
    }
}

/// A link by what it is called and where it leads.
struct Ends<'d> {
    node: NodeId,
    name: &'d str,
    target: &'d str,
}

impl<'d> Ends<'d> {
    /// A link inside the page that has a name itself.
    fn of(dom: &'d Dom, node: NodeId) -> Option<Self> {
        let attribute = |name: &str| dom.attribute(node, name);
        let is_link = dom.name(node) == Some("a");
        let name = attribute("name").or_else(|| attribute("id")).filter(|_| is_link)?;
        Some(Ends { node, name, target: attribute("href")?.strip_prefix('#')? })
    }
}
