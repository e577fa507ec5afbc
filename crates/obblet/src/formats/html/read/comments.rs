//! Review comments: those of this program's own pages, and those of word processors.

use super::super::comments::{
    ANSWERS, COMMENT, COMMENTS, EDGE, EDGES, REPLIES, RESOLVED, SIGNATURE,
};
use super::super::dom::NodeId;
use super::Reader;
use crate::document::{Comment, CommentEdge, CommentId, CommentMark, Inline};
use std::collections::HashSet;

impl Reader<'_> {
    /// Numbers the comments of the page, so that their marks can be told.
    pub(super) fn find_comments(&mut self) {
        let dom = self.dom;
        // What stands inside a section that was gone through is not gone through again.
        let mut inside: HashSet<NodeId> = HashSet::new();
        for node in dom.below(0) {
            if dom.attribute(node, "data-kind") == Some(COMMENTS) && !inside.contains(&node) {
                inside.extend(dom.below(node));
                let is_comment = |item: &NodeId| {
                    let id = dom.attribute(*item, "id").unwrap_or_default();
                    dom.name(*item) == Some("li") && id.starts_with("comment-")
                };
                for item in dom.below(node).filter(is_comment) {
                    self.add_comment(item, dom.attribute(item, "id"));
                }
            } else if self.role_by_style(node).as_deref() == Some("comment") {
                let anchor = dom.below(node).find_map(|below| dom.attribute(below, "name"));
                self.add_comment(node, anchor.or_else(|| dom.attribute(node, "id")));
            }
        }
    }

    fn add_comment(&mut self, node: NodeId, id: Option<&str>) {
        let number = CommentId::new(self.comment_nodes.len());
        self.comment_nodes.push(node);
        if let Some(id) = id {
            self.comments.insert(id.to_string(), number);
        }
    }

    pub(super) fn comments(&mut self) -> Vec<Comment> {
        let nodes = self.comment_nodes.clone();
        nodes.into_iter().map(|node| self.comment(node)).collect()
    }

    /// A comment, with what its signature says; its replies are comments of their own.
    fn comment(&mut self, node: NodeId) -> Comment {
        let dom = self.dom;
        let mut comment = Comment {
            resolved: dom.attribute(node, "data-state") == Some(RESOLVED),
            reply_to: self.reply_to(node),
            ..Comment::default()
        };
        for child in dom.children(node) {
            match dom.attribute(child, "data-kind") {
                Some(SIGNATURE) => {
                    let named = |name: &str| dom.below(child).find(|n| dom.name(*n) == Some(name));
                    comment.author = named("strong").map(|author| dom.text_of(author).into());
                    let date = named("time");
                    let stated = date.and_then(|time| dom.attribute(time, "datetime"));
                    let shown = date.map(|time| dom.text_of(time));
                    comment.date = stated.map(Into::into).or(shown.map(Into::into));
                    self.left_out.insert(child);
                }
                Some(REPLIES) => {
                    self.left_out.insert(child);
                }
                _ => {}
            }
        }
        comment.content = self.flow(node);
        comment
    }

    /// The comment that a reply answers: the one it names, or the one whose thread it stands in.
    fn reply_to(&self, node: NodeId) -> Option<u32> {
        let dom = self.dom;
        let thread =
            dom.parent(node).filter(|list| dom.attribute(*list, "data-kind") == Some(REPLIES))?;
        let first = dom.attribute(dom.parent(thread)?, "id");
        let named = dom.attribute(node, ANSWERS).map(|number| format!("comment-{number}"));
        let found = self.comments.get(named.as_deref().or(first)?)?;
        u32::try_from(found.index()).ok()
    }

    /// The comment that an element marks, when it is nothing but that mark.
    pub(super) fn comment_of(&self, node: NodeId) -> Option<Inline> {
        let mark = |id: &str, edge: CommentEdge| {
            let comment = *self.comments.get(id)?;
            Some(Inline::CommentMark(CommentMark { comment, edge }))
        };
        if let Some(number) = self.dom.attribute(node, COMMENT) {
            let stated = self.dom.attribute(node, EDGE)?;
            let (edge, _) = EDGES.into_iter().find(|(_, name)| *name == stated)?;
            return mark(&format!("comment-{number}"), edge);
        }
        mark(self.dom.attribute(node, "href")?.strip_prefix('#')?, CommentEdge::Point)
    }
}
