//! The document: the tree every format is read into and written from.
//!
//! A [`Document`] owns everything it shows: its blocks, and beside them what blocks point to by
//! number (notes, comments, media) or by name (styles, bibliography entries). Meaning comes
//! first: a heading is a heading because the source said so, never because it is big. How a thing
//! looked stands beside it, in [`Looks`].
//!
//! | file | what it holds |
//! | --- | --- |
//! | `block` | paragraphs, headings, quotations, code, figures and the rest |
//! | `list` | bulleted, numbered and description lists |
//! | `table` | tables |
//! | `inline` | what stands inside a line of text |
//! | `attributes` | ids, classes, language, audiences, tracked changes |
//! | `looks` | fonts, colours, borders, spacing |
//! | `metadata` | title, authors, dates, front matter |
//! | `notes`, `media` | footnotes and comments; pictures |
//! | `walk`, `build` | going through a tree; making one in a line |
//!
//! # What no reader may produce
//! - A tree deeper than [`NESTING_LIMIT`] blocks or [`NESTING_LIMIT`] inlines inside one block. A
//!   reader that meets more flattens it and says so with a finding.
//! - An [`Inline::NoteMark`], [`Inline::CommentMark`] or [`PictureSource::Media`] whose number has
//!   no entry in the document.
//! - A heading level outside 1 to 9, a span of zero, a table whose cells overlap.
//!
//! # Cost
//! An [`Inline`] is 24 bytes and holds texts up to 24 bytes without an allocation. A [`Block`] is
//! 56 bytes. Attributes cost 8 bytes where there are none. Media are shared, so cloning a
//! document does not copy its pictures.

mod attributes;
mod block;
pub mod build;
mod code_block;
mod grid;
mod ids;
mod inline;
mod list;
mod list_paragraphs;
mod looks;
mod media;
mod metadata;
mod notes;
mod table;
mod text;
mod walk;

pub use crate::source::{CompactString, Place, Position, SourceMap};
pub use attributes::{AttributeSet, Attributes, Direction, Revision, RevisionKind};
pub use block::{
    Admonition, AdmonitionKind, Block, BlockKind, BreakKind, Caption, ContentsKind, ContentsList,
    Figure, Foreign, Group, GroupRole, Heading, Planning, PlanningKind, Task,
};
pub use code_block::CodeBlock;
pub(crate) use code_block::as_code;
pub(crate) use grid::{EmptyCells, FillerCells, Grid, Placed};
pub use ids::id_of_words;
pub(crate) use ids::{Ids, clean_id};
pub use inline::{
    Anchor, Citation, CitationForm, Cite, CitedWork, CommentEdge, CommentMark, Formatted,
    Formatting, Inline, InlineCode, LineBreak, Link, Moment, Picture, PictureSource, Reference,
    ReferenceShows, Ruby, Timestamp,
};
pub use list::{
    CheckState, DescriptionItem, List, ListItem, ListKind, ListSpacing, NumberDelimiter, Numbering,
    NumeralStyle,
};
pub(crate) use list_paragraphs::{ListParagraph, Mark, nested_lists};
pub use looks::{
    Border, BorderLine, Borders, Colour, Length, LineHeight, Looks, NamedStyle, StyleKind,
    TabAlign, TabLeader, TabStop, TextAlign, UnderlineLine, WritingMode,
};
pub use media::{Media, MediaId, MediaStore};
pub use metadata::{FrontMatter, FrontMatterNotation, Metadata, Person, Value};
pub use notes::{Comment, CommentId, Note, NoteId, NoteKind};
pub use table::{
    Cell, CellAlign, Column, HeaderScope, Row, RowGroup, RowGroupKind, Table, VerticalAlign,
};
pub use text::{plain_text, push_plain_text};
pub use walk::{Node, Visit, Walk, walk, walk_blocks_mut, walk_inlines_mut};
pub(crate) use walk::{
    blocks_in_order_mut, lines_in_order_mut, walk_all_mut, walk_inlines, walk_lines_mut,
};

use serde::{Deserialize, Serialize};

/// How deep blocks may stand in blocks, and inlines in inlines, in what a reader makes.
///
/// Real documents stay under 20. The limit lets every later step use plain recursion on the
/// smallest thread stacks in common use.
pub const NESTING_LIMIT: usize = 100;

/// A document, whatever format it came from.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Document {
    /// Title, authors, dates and everything else said about the document.
    pub metadata: Metadata,
    /// The content, in reading order.
    pub blocks: Vec<Block>,
    /// Footnotes and endnotes; [`Inline::NoteMark`] points here by [`NoteId`].
    pub notes: Vec<Note>,
    /// Review comments; [`Inline::CommentMark`] points here by [`CommentId`].
    pub comments: Vec<Comment>,
    /// Pictures and other files the document carries inside itself.
    pub media: MediaStore,
    /// Named styles that attributes refer to by name.
    pub styles: Vec<NamedStyle>,
    /// Works that citations refer to by key.
    pub bibliography: Vec<CitedWork>,
}

impl Document {
    /// A document of these blocks, with no metadata.
    #[must_use]
    pub fn of(blocks: Vec<Block>) -> Self {
        Self { blocks, ..Self::default() }
    }

    /// The note a mark points to, or `None` when the number is wrong.
    #[must_use]
    pub fn note(&self, id: NoteId) -> Option<&Note> {
        self.notes.get(id.index())
    }

    /// Adds a note and gives the number that marks use for it.
    pub fn add_note(&mut self, note: Note) -> NoteId {
        self.notes.push(note);
        NoteId::new(self.notes.len() - 1)
    }

    /// The title as plain text, or else the text of the first heading.
    #[must_use]
    pub fn title_or_first_heading(&self) -> Option<String> {
        if !self.metadata.title.is_empty() {
            return Some(plain_text(&self.metadata.title));
        }
        self.blocks.iter().find_map(|block| match &block.kind {
            BlockKind::Heading(heading) => Some(plain_text(&heading.content)),
            _ => None,
        })
    }
}

#[cfg(test)]
mod tests;
