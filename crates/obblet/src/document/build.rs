//! Making a tree in a line, for tests and for programs that write documents of their own.
//!
//! ```
//! use obblet::document::{Document, build::*};
//! let document = Document::of(vec![
//!     heading(1, "Opening hours"),
//!     paragraph(["Open at ".into(), strong("high tide"), " only.".into()]),
//!     bullets(vec![vec![paragraph("April to June")], vec![paragraph("September")]]),
//! ]);
//! assert_eq!(document.blocks.len(), 3);
//! ```

use super::{
    Attributes, Block, BlockKind, Cell, CodeBlock, CompactString, Formatted, Formatting, Heading,
    Inline, InlineCode, LineBreak, Link, List, ListItem, ListKind, ListSpacing, Numbering, Picture,
    PictureSource, Row, RowGroup, RowGroupKind, Table,
};

/// Anything that can stand where inlines are wanted: a text, one inline, several.
pub trait IntoInlines {
    /// The inlines.
    fn into_inlines(self) -> Vec<Inline>;
}

impl IntoInlines for &str {
    fn into_inlines(self) -> Vec<Inline> {
        if self.is_empty() { Vec::new() } else { vec![self.into()] }
    }
}

impl IntoInlines for Inline {
    fn into_inlines(self) -> Vec<Inline> {
        vec![self]
    }
}

impl IntoInlines for Vec<Inline> {
    fn into_inlines(self) -> Vec<Inline> {
        self
    }
}

impl<const N: usize> IntoInlines for [Inline; N] {
    fn into_inlines(self) -> Vec<Inline> {
        self.into()
    }
}

/// A paragraph.
pub fn paragraph(content: impl IntoInlines) -> Block {
    BlockKind::Paragraph(content.into_inlines()).into()
}

/// A heading of this level.
pub fn heading(level: u8, content: impl IntoInlines) -> Block {
    let content = content.into_inlines();
    BlockKind::Heading(Box::new(Heading { level, content, ..Heading::default() })).into()
}

/// A quotation.
#[must_use]
pub fn quotation(content: Vec<Block>) -> Block {
    BlockKind::Quotation(content).into()
}

/// A code block; an empty language is none.
#[must_use]
pub fn code_block(language: &str, text: &str) -> Block {
    let language = (!language.is_empty()).then(|| language.into());
    BlockKind::Code(Box::new(CodeBlock { language, ..CodeBlock::of_text(text) })).into()
}

/// A tight bulleted list.
#[must_use]
pub fn bullets(items: Vec<Vec<Block>>) -> Block {
    list(ListKind::Bulleted(None), items)
}

/// A tight numbered list that starts at this number.
#[must_use]
pub fn numbered(start: i32, items: Vec<Vec<Block>>) -> Block {
    list(ListKind::Numbered(Numbering { start, ..Numbering::default() }), items)
}

/// A tight list of this kind.
#[must_use]
pub fn list(kind: ListKind, items: Vec<Vec<Block>>) -> Block {
    let item = |content| ListItem { content, ..ListItem::default() };
    let items = items.into_iter().map(item).collect();
    BlockKind::List(Box::new(List { kind, spacing: ListSpacing::Tight, items })).into()
}

/// A table of one head row and body rows, a text a cell.
#[must_use]
pub fn table(head: &[&str], body: &[&[&str]]) -> Block {
    let cell = |text: &&str| Cell { content: vec![paragraph(*text)], ..Cell::default() };
    let row = |texts: &[&str]| Row { cells: texts.iter().map(cell).collect(), ..Row::default() };
    let groups = vec![
        RowGroup { kind: RowGroupKind::Head, rows: vec![row(head)] },
        RowGroup { kind: RowGroupKind::Body, rows: body.iter().map(|texts| row(texts)).collect() },
    ];
    BlockKind::Table(Box::new(Table { groups, ..Table::default() })).into()
}

/// Text with a format.
pub fn formatted(format: Formatting, content: impl IntoInlines) -> Inline {
    let content = content.into_inlines();
    Inline::Formatted(Box::new(Formatted { format, attributes: Attributes::NONE, content }))
}

/// Emphasised text.
pub fn emphasis(content: impl IntoInlines) -> Inline {
    formatted(Formatting::Emphasis, content)
}

/// Strong text.
pub fn strong(content: impl IntoInlines) -> Inline {
    formatted(Formatting::Strong, content)
}

/// Code inside a line.
pub fn code(text: impl Into<CompactString>) -> Inline {
    Inline::Code(Box::new(InlineCode { text: text.into(), attributes: Attributes::NONE }))
}

/// A link.
pub fn link(address: impl Into<CompactString>, content: impl IntoInlines) -> Inline {
    Inline::Link(Box::new(Link {
        address: address.into(),
        title: None,
        content: content.into_inlines(),
        attributes: Attributes::NONE,
    }))
}

/// A picture at an address.
pub fn picture(address: impl Into<CompactString>, alternative: impl IntoInlines) -> Inline {
    Inline::Picture(Box::new(Picture {
        source: PictureSource::Address(address.into()),
        alternative: alternative.into_inlines(),
        decorative: false,
        title: None,
        width: None,
        height: None,
        attributes: Attributes::NONE,
    }))
}

/// A soft line break.
#[must_use]
pub fn soft_break() -> Inline {
    Inline::Break(LineBreak::Soft)
}

/// A hard line break.
#[must_use]
pub fn hard_break() -> Inline {
    Inline::Break(LineBreak::Hard)
}
