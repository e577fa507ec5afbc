//! Lists of headings, figures and tables: fields that Word can make anew, with their entries filled in
//! (17.16.5.68).

use super::Writer;
use super::markup::push_text;
use super::runs::RunLook;
use crate::document::{ContentsKind, ContentsList, StyleKind};
use crate::formats::word::vocabulary::Container;

/// Levels that Word's own lists of contents have styles for here.
const STYLED_LEVELS: u8 = 3;

/// Lists of one document.
const MOST_LISTS: usize = 10;

/// One line of a list.
struct Entry {
    style: String,
    words: String,
    bookmark: String,
}

impl Writer<'_> {
    pub(super) fn contents(&mut self, contents: &ContentsList, out: &mut String) {
        // Each has all entries: many of them would make the file grow with their square.
        if self.lists_of_contents >= MOST_LISTS {
            return self.lost("one more contents list");
        }
        self.lists_of_contents += 1;
        match contents.kind {
            ContentsKind::Headings => self.heading_list(contents.depth, out),
            ContentsKind::Figures => self.caption_list(contents.kind, "Figure", out),
            ContentsKind::Tables => self.caption_list(contents.kind, "Table", out),
        }
    }

    fn heading_list(&mut self, depth: u8, out: &mut String) {
        let depth = if depth == 0 { 9 } else { depth.min(9) };
        let shift = u8::from(self.shifts_headings);
        let levels = depth.saturating_sub(shift).max(1);
        let headings = self.bookmarks.headings.clone();
        let listed =
            headings.into_iter().filter(|heading| heading.level > shift && heading.level <= depth);
        let entries: Vec<Entry> = listed
            .map(|heading| {
                let level = heading.level - shift;
                let name = format!("toc {}", level.min(STYLED_LEVELS));
                Entry {
                    style: self.styles.id(StyleKind::Block, &name).to_string(),
                    words: heading.words,
                    bookmark: heading.bookmark.to_string(),
                }
            })
            .collect();
        out.push_str(
            "<w:sdt><w:sdtPr><w:docPartObj><w:docPartGallery w:val=\"Table of Contents\"/>\
             <w:docPartUnique/></w:docPartObj></w:sdtPr><w:sdtContent>",
        );
        self.list_field(&format!("TOC \\o \"1-{levels}\" \\h \\z \\u"), &entries, out);
        out.push_str("</w:sdtContent></w:sdt>");
    }

    /// All captions that are numbered in a sequence.
    fn caption_list(&mut self, kind: ContentsKind, sequence: &str, out: &mut String) {
        let style = self.styles.id(StyleKind::Block, "table of figures").to_string();
        let captions = self.bookmarks.captions.iter().filter(|caption| caption.kind == kind);
        let entries: Vec<Entry> = captions
            .map(|caption| Entry {
                style: style.clone(),
                words: caption.words.clone(),
                bookmark: caption.bookmark.to_string(),
            })
            .collect();
        self.open_container(Container::Listed(kind), None, out);
        self.list_field(&format!("TOC \\h \\z \\c \"{sequence}\""), &entries, out);
        self.close_container(out);
    }

    /// The field around its entries, each a paragraph.
    fn list_field(&mut self, instruction: &str, entries: &[Entry], out: &mut String) {
        let look = RunLook::default();
        if entries.is_empty() {
            out.push_str("<w:p>");
            self.push_field(instruction, "", &look, out);
            out.push_str("</w:p>");
        }
        for (at, entry) in entries.iter().enumerate() {
            out.push_str(&format!("<w:p><w:pPr><w:pStyle w:val=\"{}\"/></w:pPr>", entry.style));
            if at == 0 {
                self.open_field(instruction, &look, out);
            }
            self.list_entry(entry, &look, out);
            if at + 1 == entries.len() {
                self.push_object_run("<w:fldChar w:fldCharType=\"end\"/>", &look, out);
            }
            out.push_str("</w:p>");
        }
    }

    fn list_entry(&mut self, entry: &Entry, look: &RunLook, out: &mut String) {
        out.push_str("<w:hyperlink w:anchor=\"");
        push_text(out, &entry.bookmark);
        out.push_str("\" w:history=\"1\">");
        self.push_run(&entry.words, look, out);
        self.push_object_run("<w:tab/>", look, out);
        // What page that is, Word finds out: the number is marked as not yet known.
        let begin = "<w:fldChar w:fldCharType=\"begin\" w:dirty=\"true\"/>";
        self.push_object_run(begin, look, out);
        let mut text = String::from("<w:instrText xml:space=\"preserve\"> PAGEREF ");
        push_text(&mut text, &entry.bookmark);
        text.push_str(" \\h </w:instrText>");
        self.push_object_run(&text, look, out);
        self.push_object_run("<w:fldChar w:fldCharType=\"separate\"/>", look, out);
        self.push_object_run("<w:fldChar w:fldCharType=\"end\"/>", look, out);
        out.push_str("</w:hyperlink>");
    }
}
