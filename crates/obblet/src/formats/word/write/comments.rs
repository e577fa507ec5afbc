//! Review comments with their replies (ECMA-376 part 1, 17.13.4, and what later versions added).

use super::blocks::Around;
use super::markup::{moment, push_text};
use super::parts::{Parts, Relations, XML};
use super::{NAMESPACES, TYPES, Writer};
use crate::document::{BlockKind, StyleKind};

const LATER: &str = "http://schemas.microsoft.com/office/word/2012/wordml";

impl Writer<'_> {
    /// The parts of comments.
    pub(super) fn comment_parts(&mut self, parts: &mut Parts, main: &mut Relations) {
        let document = self.document;
        if document.comments.is_empty() {
            return;
        }
        let mut out = format!("{XML}<w:comments {NAMESPACES}>");
        for (id, comment) in document.comments.iter().enumerate() {
            out.push_str(&format!("<w:comment w:id=\"{id}\" w:author=\""));
            push_text(&mut out, comment.author.as_deref().unwrap_or("Unknown"));
            out.push('"');
            if let Some(date) = &comment.date {
                out.push_str(" w:date=\"");
                push_text(&mut out, &moment(date));
                out.push('"');
            }
            out.push('>');
            let style = Some(self.styles.id(StyleKind::Block, "annotation text"));
            let around = Around { style: style.clone(), ..Around::default() };
            // The last paragraph has the number by which replies know the comment.
            let (last, rest) = match comment.content.split_last() {
                Some((last, rest)) if matches!(last.kind, BlockKind::Paragraph(_)) => {
                    (Some(last), rest)
                }
                _ => (None, &comment.content[..]),
            };
            self.blocks(rest, &around, &mut out);
            let mut text = String::new();
            let nothing = crate::document::Attributes::NONE;
            let attributes = last.map_or(&nothing, |block| &block.attributes);
            let mut paragraph = self.paragraph_of(attributes, style, &around);
            if let Some(BlockKind::Paragraph(content)) = last.map(|block| &block.kind) {
                paragraph.content = content;
            }
            self.push_paragraph(paragraph, &mut text);
            out.push_str(&text.replacen(
                "<w:p>",
                &format!("<w:p w14:paraId=\"{}\">", number(id)),
                1,
            ));
            out.push_str("</w:comment>");
        }
        out.push_str("</w:comments>");
        main.part("comments", "comments.xml");
        parts.xml("word/comments.xml", &format!("{TYPES}.comments+xml"), out);
        parts.relations("word/comments.xml", &std::mem::take(&mut self.relations));
        self.thread_part(parts, main);
    }

    fn thread_part(&mut self, parts: &mut Parts, main: &mut Relations) {
        let comments = &self.document.comments;
        if comments.iter().all(|comment| comment.reply_to.is_none() && !comment.resolved) {
            return;
        }
        let mut out = format!("{XML}<w15:commentsEx xmlns:w15=\"{LATER}\">");
        for (id, comment) in comments.iter().enumerate() {
            out.push_str(&format!("<w15:commentEx w15:paraId=\"{}\"", number(id)));
            if let Some(parent) = comment.reply_to {
                out.push_str(&format!(" w15:paraIdParent=\"{}\"", number(parent as usize)));
            }
            out.push_str(&format!(" w15:done=\"{}\"/>", u8::from(comment.resolved)));
        }
        out.push_str("</w15:commentsEx>");
        main.part("commentsExtended", "commentsExtended.xml");
        parts.xml("word/commentsExtended.xml", &format!("{TYPES}.commentsExtended+xml"), out);
    }
}

/// Numbers of paragraphs have eight digits of base 16 and lie below half of what these can say.
fn number(id: usize) -> String {
    format!("{:08X}", 0x0C00_0000 + id)
}
