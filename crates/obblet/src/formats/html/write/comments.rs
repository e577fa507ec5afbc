//! Review comments: marks in the text, the comments behind it, links both ways.

use super::Writer;
use crate::dates::When;
use crate::document::{Comment, CommentEdge, CommentId, CommentMark};
use crate::findings::Code;
use crate::formats::html::comments::{
    ANSWERS, COMMENT, COMMENTS, EDGE, EDGES, REPLIES, RESOLVED, SIGNATURE,
};
use std::collections::HashMap;

impl Writer<'_> {
    /// The mark of a comment stands at the end of what it is about; an anchor at its beginning.
    pub(super) fn comment_mark(&mut self, mark: CommentMark) {
        if !self.options.comments {
            if mark.edge != CommentEdge::End {
                self.not_carried("a review comment");
            }
            return;
        }
        let number = mark.comment.index() + 1;
        match mark.edge {
            CommentEdge::Start => {
                let id = self.ids.made(&format!("commented-{number}"));
                self.out.push_str("<span");
                self.attribute("id", &id);
                self.comment_edge(number, mark.edge);
                self.out.push_str("></span>");
            }
            CommentEdge::End | CommentEdge::Point => self.comment_link(mark, number),
        }
    }

    /// Says of which comment the element is a mark, and of which edge.
    fn comment_edge(&mut self, number: usize, edge: CommentEdge) {
        let name = EDGES.iter().find(|(known, _)| *known == edge).map_or("", |(_, name)| name);
        self.attribute(COMMENT, &number.to_string());
        self.attribute(EDGE, name);
    }

    fn comment_link(&mut self, mark: CommentMark, number: usize) {
        let comment = mark.comment;
        if !self.marked_comments.insert(comment) || self.is_reply(comment) {
            return;
        }
        self.comments.push(comment);
        let shown = self.comments.len();
        let id = self.ids.made(&format!("comment-mark-{number}"));
        self.out.push_str("<sup>");
        let is_link = !self.inside_link;
        self.out.push_str(if is_link { "<a" } else { "<span" });
        self.attribute("id", &id);
        if is_link {
            self.attribute("href", &format!("#comment-{number}"));
            self.attribute("role", "doc-noteref");
        }
        self.comment_edge(number, mark.edge);
        self.out.push_str(&format!(">[{shown}]</{}></sup>", if is_link { "a" } else { "span" }));
    }

    /// Replies stand with the comment they are about.
    fn is_reply(&self, comment: CommentId) -> bool {
        let comments = &self.document.comments;
        let reply_to = comments.get(comment.index()).and_then(|found| found.reply_to);
        reply_to.is_some_and(|to| comments.get(to as usize).is_some())
    }

    /// Writes all comments that have a mark, each with the replies to it.
    pub(super) fn comments_at_end(&mut self) {
        if !self.options.comments {
            return;
        }
        let mut replies: HashMap<u32, Vec<CommentId>> = HashMap::new();
        for (at, comment) in self.document.comments.iter().enumerate() {
            if let Some(to) = comment.reply_to {
                replies.entry(to).or_default().push(CommentId::new(at));
            }
        }
        let comments = std::mem::take(&mut self.comments);
        let mut written = 0;
        if !comments.is_empty() {
            self.out.push_str("<section");
            self.attribute("data-kind", COMMENTS);
            self.attribute("aria-label", self.words.comments);
            self.out.push_str(">\n<ol>\n");
            for comment in comments {
                written += self.thread(comment, &mut replies);
            }
            self.out.push_str("</ol>\n</section>\n");
        }
        for _ in written..self.document.comments.len() {
            self.findings.count(Code::NodeNotCarried, "a comment without a mark", None);
        }
    }

    /// A comment and, on one level, all replies to it and to each other. Gives how many they are.
    fn thread(&mut self, comment: CommentId, replies: &mut HashMap<u32, Vec<CommentId>>) -> usize {
        // Each list is taken once, so that replies that go round in a circle end.
        let mut replies_to = |id: CommentId| {
            let own = u32::try_from(id.index()).ok().and_then(|id| replies.remove(&id));
            own.unwrap_or_default().into_iter().rev()
        };
        let mut waiting: Vec<CommentId> = replies_to(comment).collect();
        let mut thread = Vec::new();
        while let Some(reply) = waiting.pop() {
            thread.push(reply);
            waiting.extend(replies_to(reply));
        }
        self.comment(comment, true, None);
        if !thread.is_empty() {
            self.out.push_str("<ul");
            self.attribute("data-kind", REPLIES);
            self.out.push_str(">\n");
            for reply in &thread {
                self.comment(*reply, false, Some(comment));
                self.out.push_str("</li>\n");
            }
            self.out.push_str("</ul>\n");
        }
        self.out.push_str("</li>\n");
        thread.len() + 1
    }

    /// A comment as an item that is left open; a reply stands below the one that began.
    fn comment(&mut self, id: CommentId, has_mark: bool, below: Option<CommentId>) {
        let number = id.index() + 1;
        let document = self.document;
        let Some(comment) = document.comments.get(id.index()) else { return };
        self.out.push_str(&format!("<li id=\"comment-{number}\""));
        let first = below.and_then(|first| u32::try_from(first.index()).ok());
        if let Some(to) = comment.reply_to.filter(|_| below.is_some() && comment.reply_to != first)
        {
            self.attribute(ANSWERS, &(to + 1).to_string());
        }
        if comment.resolved {
            self.attribute("data-state", RESOLVED);
        }
        self.out.push_str(">\n");
        let is_signed = comment.author.is_some() || comment.date.is_some() || comment.resolved;
        if is_signed || has_mark {
            self.comment_head(comment, has_mark.then_some(number));
        }
        self.blocks(&comment.content);
    }

    /// Who wrote a comment and when, whether it has been dealt with, and the way back to its mark.
    fn comment_head(&mut self, comment: &Comment, mark: Option<usize>) {
        self.out.push_str("<p");
        self.attribute("data-kind", SIGNATURE);
        self.out.push('>');
        let start = self.out.len();
        if let Some(author) = &comment.author {
            self.out.push_str("<strong>");
            self.text(author);
            self.out.push_str("</strong>");
        }
        if let Some(date) = &comment.date {
            self.part_from(start, ", ");
            self.out.push_str("<time");
            if let Some(when) = When::of(date) {
                self.attribute("datetime", &when.html());
            }
            self.out.push('>');
            self.text(date.get(..10).unwrap_or(date));
            self.out.push_str("</time>");
        }
        if comment.resolved {
            self.part_from(start, " ");
            self.out.push('✓');
        }
        // A reply has no mark of its own.
        if let Some(number) = mark {
            self.part_from(start, " ");
            let link = format!("<a href=\"#comment-mark-{number}\" role=\"doc-backlink\"");
            self.out.push_str(&link);
            self.attribute("aria-label", self.words.back_to_text);
            self.out.push_str(">↩</a>");
        }
        self.out.push_str("</p>\n");
    }

    /// Parts what comes from what has been written since, if anything has.
    fn part_from(&mut self, start: usize, separator: &str) {
        if self.out.len() > start {
            self.out.push_str(separator);
        }
    }
}
