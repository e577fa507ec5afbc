//! Links, and references, which are fields.

use super::Writer;
use super::markup::push_text;
use super::runs::RunLook;
use crate::document::{Link, Reference, ReferenceShows, StyleKind};

impl<'d> Writer<'d> {
    /// A link (17.16.22). What stands inside is text: Word has no link in a link.
    pub(super) fn link(&mut self, link: &Link, look: &RunLook, out: &mut String) {
        if self.embedded(link, look, out) {
            return;
        }
        if link.address.is_empty() || link.content.is_empty() {
            self.lost("a link without an address or without words");
            return self.inlines(&link.content, look, out);
        }
        self.report_attributes(&link.attributes);
        if let Some(id) = link.attributes.id() {
            self.push_bookmark(id, out);
        }
        let style = self.styles.id(StyleKind::Inline, "Hyperlink");
        let inner = look.with(|look| look.style = Some(style));
        let (address, anchor) = match link.address.split_once('#') {
            Some((address, anchor)) => (address, Some(anchor)),
            None => (link.address.as_str(), None),
        };
        out.push_str("<w:hyperlink");
        if !address.is_empty() {
            let id = self.relations.outside("hyperlink", &link.address);
            out.push_str(&format!(" r:id=\"{id}\""));
        } else if let Some(anchor) = anchor {
            let name = self.bookmarks.name_of(anchor);
            out.push_str(" w:anchor=\"");
            push_text(out, &name);
            out.push('"');
        }
        if let Some(title) = &link.title {
            out.push_str(" w:tooltip=\"");
            push_text(out, title);
            out.push('"');
        }
        out.push_str(" w:history=\"1\">");
        self.inlines(&link.content, &inner, out);
        out.push_str("</w:hyperlink>");
    }

    pub(super) fn reference(&mut self, reference: &Reference, look: &RunLook, out: &mut String) {
        if reference.stored.is_empty() {
            self.lost(&format!("the number that “{}” stands for", reference.target));
        }
        let name = self.bookmarks.name_of(&reference.target);
        let instruction = match reference.shows {
            ReferenceShows::Page => format!("PAGEREF {name} \\h"),
            ReferenceShows::Number | ReferenceShows::EquationNumber => {
                format!("REF {name} \\r \\h")
            }
            ReferenceShows::Relative => format!("REF {name} \\p \\h"),
            ReferenceShows::Text | ReferenceShows::LabelAndNumber => format!("REF {name} \\h"),
        };
        self.open_field(&instruction, look, out);
        self.inlines(&reference.stored, look, out);
        self.push_object_run("<w:fldChar w:fldCharType=\"end\"/>", look, out);
    }
}
