//! Review comments (ECMA-376 part 1, 17.13.4), with their replies.

use super::super::xml::{Element, Xml};
use super::Reader;
use super::line::{Line, TextStyle};
use super::parts::PartKind;
use crate::document::{Comment, CommentEdge, CommentId, CommentMark, Inline};
use crate::findings::Code;
use std::collections::HashMap;

/// How far a reply is followed to the comment at its beginning.
const LONGEST_THREAD: usize = 100;

impl Reader<'_> {
    /// Reads all comments. Replies are known by the last paragraphs of the comments they are about.
    pub(super) fn read_comments(&mut self) {
        let Some(part) = self.part.relationships.part_of_kind("comments").map(String::from) else {
            return;
        };
        let mut by_paragraph: HashMap<String, usize> = HashMap::new();
        self.in_part(&part, PartKind::Comments, |reader, xml| {
            let top = xml.level();
            while let Some(root) = xml.child(top) {
                if !root.is("comments") {
                    reader.unknown(&root);
                }
                let level = xml.level();
                while let Some(element) = xml.child(level) {
                    if !element.is("comment") {
                        reader.unknown(&element);
                        continue;
                    }
                    let Some(number) = element.number("id") else { continue };
                    let author = element.value("author").map(Into::into);
                    let date = element.value("date").map(Into::into);
                    let content = reader.blocks(xml);
                    let id = CommentId::new(reader.document.comments.len());
                    reader.comment_ids.insert(number, id);
                    if let Some(paragraph) = reader.last_paragraph_id.take() {
                        by_paragraph.insert(paragraph, id.index());
                    }
                    let comment = Comment { author, date, content, ..Comment::default() };
                    reader.document.comments.push(comment);
                }
            }
        });
        if let Some(text) = self.part_text("commentsExtended") {
            self.read_threads(&text, &by_paragraph);
        }
    }

    /// Which comment replies to which, and which have been dealt with. A reply to a reply is one to the
    /// comment at its beginning; replies that go round in a circle are none.
    fn read_threads(&mut self, text: &str, by_paragraph: &HashMap<String, usize>) {
        let mut parents: HashMap<usize, usize> = HashMap::new();
        let mut xml = Xml::new(text);
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            let index =
                |name: &str| element.value(name).and_then(|id| by_paragraph.get(&*id)).copied();
            let Some(at) = index("paraId") else { continue };
            if let Some(comment) = self.document.comments.get_mut(at) {
                comment.resolved = element.flag("done").unwrap_or_default();
            }
            parents.extend(index("paraIdParent").map(|parent| (at, parent)));
        }
        for (at, comment) in self.document.comments.iter_mut().enumerate() {
            let mut around = std::iter::successors(parents.get(&at), |at| parents.get(at));
            let root = around.by_ref().take(LONGEST_THREAD).last().copied();
            comment.reply_to =
                root.filter(|_| around.next().is_none()).and_then(|root| u32::try_from(root).ok());
        }
    }

    fn comment_id(&mut self, element: &Element<'_>) -> Option<CommentId> {
        let number = element.number("id")?;
        let found = self.comment_ids.get(&number).copied();
        if found.is_none() {
            let subject = number.to_string();
            self.findings.count(Code::CommentMissing, &subject, Some(self.place()));
        }
        found
    }

    /// `w:commentRangeStart` between blocks: the next paragraph takes it.
    pub(super) fn comment_range(&mut self, element: &Element<'_>) {
        let comment = self.comment_id(element);
        self.waiting_comments.extend(comment);
    }

    pub(super) fn waiting_comment_starts(&mut self, line: &mut Line) {
        for comment in std::mem::take(&mut self.waiting_comments) {
            self.put_edge(comment, CommentEdge::Start, line);
        }
    }

    pub(super) fn comment_start(&mut self, element: &Element<'_>, line: &mut Line) {
        if let Some(comment) = self.comment_id(element) {
            self.put_edge(comment, CommentEdge::Start, line);
        }
    }

    pub(super) fn comment_end(&mut self, element: &Element<'_>, line: &mut Line) {
        let Some(comment) = element.number("id").and_then(|id| self.comment_ids.get(&id).copied())
        else {
            return;
        };
        if self.open_comments.remove(&comment) {
            self.put_edge(comment, CommentEdge::End, line);
        }
    }

    /// `w:commentReference`: the comment's mark, which stands for a comment without a range.
    pub(super) fn comment_point(&mut self, element: &Element<'_>, line: &mut Line) {
        let Some(comment) = self.comment_id(element) else { return };
        if !self.ranged_comments.contains(&comment) {
            self.put_edge(comment, CommentEdge::Point, line);
        }
    }

    fn put_edge(&mut self, comment: CommentId, edge: CommentEdge, line: &mut Line) {
        if edge == CommentEdge::Start {
            self.open_comments.insert(comment);
            self.ranged_comments.insert(comment);
        }
        line.push(Inline::CommentMark(CommentMark { comment, edge }), TextStyle::default());
    }
}
