//! Review comments: marks in the text, the comments behind it, links both ways.

use super::{Writer, is_date_time};
use crate::document::{CommentEdge, CommentId, CommentMark};
use std::collections::HashMap;

/// Programs know one level of replies.
const DEEPEST_REPLY: usize = 8;

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
                self.out.push_str("></span>");
            }
            CommentEdge::End | CommentEdge::Point => self.comment_link(mark.comment, number),
        }
    }

    fn comment_link(&mut self, comment: CommentId, number: usize) {
        // Replies stand with the comment they are about.
        let is_reply = self.document.comments.get(comment.index()).is_some_and(|found| {
            found.reply_to.is_some_and(|to| self.document.comments.get(to as usize).is_some())
        });
        if is_reply || !self.marked_comments.insert(comment) {
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
        self.out.push_str(&format!(">[{shown}]</{}></sup>", if is_link { "a" } else { "span" }));
    }

    /// Writes all comments that have a mark, each with the replies to it.
    pub(super) fn comments_at_end(&mut self) {
        if self.comments.is_empty() {
            return;
        }
        let comments = std::mem::take(&mut self.comments);
        self.out.push_str("<section");
        self.attribute("aria-label", self.words.comments);
        self.out.push_str(">\n<ol>\n");
        let mut replies: HashMap<u32, Vec<CommentId>> = HashMap::new();
        for (at, comment) in self.document.comments.iter().enumerate() {
            if let Some(to) = comment.reply_to {
                replies.entry(to).or_default().push(CommentId::new(at));
            }
        }
        for comment in comments {
            self.comment(comment, &mut replies, 0);
        }
        self.out.push_str("</ol>\n</section>\n");
    }

    fn comment(&mut self, id: CommentId, replies: &mut HashMap<u32, Vec<CommentId>>, depth: usize) {
        let number = id.index() + 1;
        let document = self.document;
        let Some(comment) = document.comments.get(id.index()) else { return };
        self.out.push_str(&format!("<li id=\"comment-{number}\">\n<p>"));
        if let Some(author) = &comment.author {
            self.out.push_str("<strong>");
            self.text(author);
            self.out.push_str("</strong>");
        }
        if let Some(date) = &comment.date {
            self.out.push_str(", <time");
            if is_date_time(date) {
                self.attribute("datetime", date);
            }
            self.out.push('>');
            self.text(date.get(..10).unwrap_or(date));
            self.out.push_str("</time>");
        }
        if comment.resolved {
            self.out.push_str(" ✓");
        }
        // A reply has no mark of its own.
        if depth == 0 {
            let link = format!(" <a href=\"#comment-mark-{number}\" role=\"doc-backlink\"");
            self.out.push_str(&link);
            self.attribute("aria-label", self.words.back_to_text);
            self.out.push_str(">↩</a>");
        }
        self.out.push_str("</p>\n");
        self.blocks(&comment.content);
        // Each is taken once, so that replies that go round in a circle end.
        let own = u32::try_from(id.index()).ok().and_then(|id| replies.remove(&id));
        if let Some(own) = own.filter(|_| depth < DEEPEST_REPLY) {
            self.out.push_str("<ul>\n");
            for reply in own {
                self.comment(reply, replies, depth + 1);
            }
            self.out.push_str("</ul>\n");
        }
        self.out.push_str("</li>\n");
    }
}
