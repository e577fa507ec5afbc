//! The list of contents: a field that Word can make anew, with its entries filled in (17.16.5.68).

use super::Writer;
use super::markup::push_text;
use super::runs::RunLook;
use crate::document::{ContentsKind, ContentsList, StyleKind};

/// Levels that Word's own lists of contents have styles for here.
const STYLED_LEVELS: u8 = 3;

impl Writer<'_> {
    pub(super) fn contents(&mut self, contents: &ContentsList, out: &mut String) {
        if contents.kind != ContentsKind::Headings {
            return self.lost("a list of figures or tables");
        }
        let depth = if contents.depth == 0 { 9 } else { contents.depth.min(9) };
        let shift = u8::from(self.shifts_headings);
        let levels = depth.saturating_sub(shift).max(1);
        let entries: Vec<_> = self
            .bookmarks
            .headings
            .iter()
            .filter(|heading| heading.level > shift && heading.level <= depth)
            .cloned()
            .collect();
        out.push_str(
            "<w:sdt><w:sdtPr><w:docPartObj><w:docPartGallery w:val=\"Table of Contents\"/>\
             <w:docPartUnique/></w:docPartObj></w:sdtPr><w:sdtContent>",
        );
        let look = RunLook::default();
        let instruction = format!("TOC \\o \"1-{levels}\" \\h \\z \\u");
        if entries.is_empty() {
            out.push_str("<w:p>");
            self.push_field(&instruction, "", &look, out);
            out.push_str("</w:p>");
        }
        for (at, entry) in entries.iter().enumerate() {
            let level = entry.level - shift;
            let name = format!("toc {}", level.min(STYLED_LEVELS));
            let style = self.styles.id(StyleKind::Block, &name);
            out.push_str(&format!("<w:p><w:pPr><w:pStyle w:val=\"{style}\"/></w:pPr>"));
            if at == 0 {
                self.open_field(&instruction, &look, out);
            }
            out.push_str("<w:hyperlink w:anchor=\"");
            push_text(out, &entry.bookmark);
            out.push_str("\" w:history=\"1\">");
            self.push_run(&entry.words, &look, out);
            self.push_object_run("<w:tab/>", &look, out);
            // What page that is, Word finds out: the number is marked as not yet known.
            let begin = "<w:fldChar w:fldCharType=\"begin\" w:dirty=\"true\"/>";
            self.push_object_run(begin, &look, out);
            let mut text = String::from("<w:instrText xml:space=\"preserve\"> PAGEREF ");
            push_text(&mut text, &entry.bookmark);
            text.push_str(" \\h </w:instrText>");
            self.push_object_run(&text, &look, out);
            self.push_object_run("<w:fldChar w:fldCharType=\"separate\"/>", &look, out);
            self.push_object_run("<w:fldChar w:fldCharType=\"end\"/>", &look, out);
            out.push_str("</w:hyperlink>");
            if at + 1 == entries.len() {
                self.push_object_run("<w:fldChar w:fldCharType=\"end\"/>", &look, out);
            }
            out.push_str("</w:p>");
        }
        out.push_str("</w:sdtContent></w:sdt>");
    }
}
