//! Footnotes, endnotes and review comments.

use super::{Block, CompactString};
use serde::{Deserialize, Serialize};

/// The number of a note in its document.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
pub struct NoteId(u32);

/// The number of a comment in its document.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
pub struct CommentId(u32);

impl NoteId {
    /// The note at this index of [`Document::notes`](super::Document::notes).
    #[must_use]
    pub fn new(index: usize) -> Self {
        Self(u32::try_from(index).unwrap_or(u32::MAX))
    }

    /// Its index in [`Document::notes`](super::Document::notes).
    #[must_use]
    pub fn index(self) -> usize {
        self.0 as usize
    }
}

impl CommentId {
    /// The comment at this index of [`Document::comments`](super::Document::comments).
    #[must_use]
    pub fn new(index: usize) -> Self {
        Self(u32::try_from(index).unwrap_or(u32::MAX))
    }

    /// Its index in [`Document::comments`](super::Document::comments).
    #[must_use]
    pub fn index(self) -> usize {
        self.0 as usize
    }
}

/// A footnote or endnote.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Note {
    /// At the foot of the page or at the end.
    pub kind: NoteKind,
    /// The source's own name for it, where it has one.
    pub label: Option<CompactString>,
    /// The text.
    pub content: Vec<Block>,
}

/// Where paper shows a note.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum NoteKind {
    /// At the foot of the page.
    #[default]
    Footnote,
    /// At the end of the document.
    Endnote,
}

/// A review comment.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Comment {
    /// Who wrote it.
    pub author: Option<CompactString>,
    /// When, as the source wrote it.
    pub date: Option<CompactString>,
    /// The text.
    pub content: Vec<Block>,
    /// The comment this one replies to.
    pub reply_to: Option<u32>,
    /// Whether it has been dealt with.
    pub resolved: bool,
}
