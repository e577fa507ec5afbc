//! Links, references to places of the page, and anchors.

use super::super::dom::NodeId;
use super::super::{REFERENCES, SHOWS};
use super::Reader;
use super::line::Line;
use crate::document::{Anchor, CompactString, Formatting, Inline, Link, Reference};

impl Reader<'_> {
    pub(super) fn push_link(&mut self, node: NodeId, line: &mut Line) {
        if let Some(note) = self.note_of(node) {
            // The mark of a note stands raised; that says nothing more.
            let mut wanted = self.text.formats.clone();
            wanted.set(Formatting::Superscript, false);
            return line.push(Inline::NoteMark(note), &wanted);
        }
        if let Some(mark) = self.comment_of(node) {
            return line.push_unseen(mark);
        }
        if self.is_link_back(node) {
            return line.drop_space();
        }
        if let Some(reference) = self.reference(node) {
            return line.push(reference, &self.text.formats);
        }
        let (attributes, title) = self.attributes_and_title(node);
        let Some(address) = self.dom.attribute(node, "href").filter(|_| !self.in_link) else {
            let id = self.dom.attribute(node, "name").filter(|name| self.is_wanted_id(name));
            if let Some(id) = attributes.id().or(id) {
                line.push_unseen(Inline::Anchor(Box::new(Anchor { id: id.into() })));
            }
            return self.push_children(node, line);
        };
        // What other pages call this place, beside where it leads to.
        let name = self.dom.attribute(node, "name").filter(|name| !name.is_empty());
        // Word processors name every link to a note.
        if let Some(name) =
            name.filter(|name| attributes.id() != Some(name) && !name.starts_with('_'))
        {
            line.push_unseen(Inline::Anchor(Box::new(Anchor { id: name.into() })));
        }
        let address = address.trim();
        let resolved = self.saved.resolved(address);
        let address: CompactString = resolved.as_deref().unwrap_or(address).into();
        let outer = line.enter(&self.text.formats);
        self.in_link = true;
        self.push_children(node, line);
        self.in_link = false;
        let content = line.leave(outer);
        let title = title.map(Into::into);
        line.add(Inline::Link(Box::new(Link { address, title, content, attributes })));
    }

    /// A reference to another place of the page, as the writer marks it.
    pub(super) fn reference(&self, node: NodeId) -> Option<Inline> {
        let stated = self.dom.attribute(node, SHOWS)?;
        let (shows, _) = REFERENCES.into_iter().find(|(_, name)| *name == stated)?;
        let href = self.dom.attribute(node, "href")?.strip_prefix('#')?;
        let target = percent_encoding::percent_decode_str(href).decode_utf8_lossy();
        let text = self.dom.text_of(node);
        let stored = if text.is_empty() { Vec::new() } else { vec![Inline::Text(text.into())] };
        Some(Inline::Reference(Box::new(Reference {
            target: target.as_ref().into(),
            shows,
            stored,
        })))
    }
}
