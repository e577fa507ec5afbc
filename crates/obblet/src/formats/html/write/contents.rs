//! Lists of headings, of figures and of tables. They are put into their places when all of what they
//! list is known.

use super::Writer;
use crate::document::{Caption, CompactString, ContentsKind, ContentsList};
use crate::findings::Code;
use crate::formats::html::address::push_address;
use crate::formats::html::escape::push_text;
use crate::formats::html::outline::outline;

/// A list of the document's own, and where it belongs into the output.
#[derive(Debug, Clone, Copy)]
pub(super) struct ContentsPlace {
    pub(super) at: usize,
    pub(super) kind: ContentsKind,
    /// How deep a list of headings goes.
    depth: u8,
}

/// A figure or table that a list can lead to.
#[derive(Debug)]
pub(super) struct ListedCaption {
    kind: ContentsKind,
    id: CompactString,
    text: String,
}

impl Writer<'_> {
    pub(super) fn contents_list(&mut self, contents: &ContentsList) {
        // One list of a kind: many of them would make the output grow with their square.
        if self.contents.iter().any(|list| list.kind == contents.kind) {
            return self.not_carried("a second contents list");
        }
        // The depth counts levels of the document, which may be lower on the page.
        let depth = match i16::from(contents.depth) {
            0 => 6,
            depth => u8::try_from((depth + self.level_shift).clamp(1, 6)).unwrap_or(6),
        };
        self.contents.push(ContentsPlace { at: self.out.len(), kind: contents.kind, depth });
    }

    /// Gives a caption the id that a list of the document leads to.
    pub(super) fn list_caption(&mut self, element: &str, caption: &Caption) {
        let (kind, base) = match element {
            "caption" => (ContentsKind::Tables, "table"),
            _ => (ContentsKind::Figures, "figure"),
        };
        let Some(listed) = self.listed.get_mut(&kind) else { return };
        *listed += 1;
        let id = self.ids.made(&format!("{base}-{listed}"));
        self.attribute("id", &id);
        self.captions.push(ListedCaption { kind, id, text: caption.plain_text() });
    }

    /// Puts lists that stand at or behind a place of the output into theirs, the last one first.
    pub(super) fn fill_contents_from(&mut self, from: usize) {
        while let Some(place) = self.contents.pop_if(|place| place.at >= from) {
            let (list, role) = match place.kind {
                ContentsKind::Headings => {
                    (outline(&self.headings, place.depth), "role=\"doc-toc\"")
                }
                ContentsKind::Figures => (self.caption_list(place.kind), "data-kind=\"figures\""),
                ContentsKind::Tables => (self.caption_list(place.kind), "data-kind=\"tables\""),
            };
            if list.is_empty() {
                let what = match place.kind {
                    ContentsKind::Headings => "a contents list of fewer than two headings",
                    ContentsKind::Figures => "a list of figures without a figure",
                    ContentsKind::Tables => "a list of tables without a table",
                };
                self.findings.count(Code::NodeNotCarried, what, None);
                continue;
            }
            let name = self.words.list_name(place.kind);
            let list = format!("<nav {role} aria-label=\"{name}\">\n{list}</nav>\n");
            self.out.insert_str(place.at, &list);
            let behind = self.block_starts.iter_mut().filter(|(start, _)| *start >= place.at);
            behind.for_each(|(start, _)| *start += list.len());
        }
    }

    fn caption_list(&self, kind: ContentsKind) -> String {
        let mut list = String::new();
        for caption in self.captions.iter().filter(|caption| caption.kind == kind) {
            list.push_str("<li><a href=\"");
            push_address(&mut list, &format!("#{}", caption.id));
            list.push_str("\">");
            push_text(&mut list, &caption.text);
            list.push_str("</a></li>\n");
        }
        if list.is_empty() { list } else { format!("<ol>\n{list}</ol>\n") }
    }
}
