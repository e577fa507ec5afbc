//! What the writer and the reader of HTML agree on about review comments.

use crate::document::CommentEdge;

/// The attributes of a mark in the text: the comment's number, and the edge of what it is about.
pub(super) const COMMENT: &str = "data-comment";
pub(super) const EDGE: &str = "data-edge";
pub(super) const EDGES: [(CommentEdge, &str); 3] =
    [(CommentEdge::Start, "start"), (CommentEdge::End, "end"), (CommentEdge::Point, "point")];

/// The attribute of a reply to another reply, with the number of that one.
pub(super) const ANSWERS: &str = "data-answers";

/// The kinds of the section of all comments, of the line that signs one, of the list of replies.
pub(super) const COMMENTS: &str = "comments";
pub(super) const SIGNATURE: &str = "signature";
pub(super) const REPLIES: &str = "replies";

/// The state of a comment that has been dealt with.
pub(super) const RESOLVED: &str = "resolved";
