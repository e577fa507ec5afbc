//! From the block structure to the document: each leaf's inlines are read, each node becomes a
//! block.

use super::definitions::Definitions;
use super::entities::unescape;
use super::inlines::InlineReader;
use super::starts::MarkerKind;
use super::tables::cells;
use super::text::{LeafText, Scratch};
use super::tree::{Line, Node, NodeId, NodeKind, Tree};
use crate::document::{
    Block, BlockKind, Cell, CellAlign, CheckState, CodeBlock, Column, HeaderScope, Heading, Inline,
    List, ListItem, ListKind, ListSpacing, Numbering, Place, Row, RowGroup, RowGroupKind, Table,
};
use crate::findings::{Code, Findings};
use crate::formats::markdown::{Switch, Switches};
use std::borrow::Cow;

/// The blocks of a text whose structure is known.
pub(super) fn assemble(
    source: &str,
    tree: &Tree,
    definitions: &Definitions,
    switches: Switches,
    findings: &mut Findings,
) -> Vec<Block> {
    let inlines = InlineReader::new(switches, definitions, findings, source.len());
    let filler_cells = source.len().max(10_000);
    let mut assembler =
        Assembler { source, tree, inlines, scratch: Scratch::default(), filler_cells };
    tree.nodes.first().map_or_else(Vec::new, |root| assembler.blocks(&root.children))
}

struct Assembler<'s, 'd> {
    source: &'s str,
    tree: &'s Tree,
    inlines: InlineReader<'d>,
    scratch: Scratch,
    /// How many empty cells may still be added to short rows.
    filler_cells: usize,
}

impl<'s> Assembler<'s, '_> {
    /// Recursion is bounded: the block pass nests containers to the document's limit.
    fn blocks(&mut self, children: &[NodeId]) -> Vec<Block> {
        let mut blocks = Vec::with_capacity(children.len());
        for &child in children {
            if let Some(node) = self.tree.nodes.get(child)
                && let Some(kind) = self.block(node)
            {
                blocks.push(Block::new(kind).at(Place::new(node.start, node.end)));
            }
        }
        blocks
    }

    fn block(&mut self, node: &Node) -> Option<BlockKind> {
        Some(match &node.kind {
            NodeKind::Paragraph => BlockKind::Paragraph(self.inlines(self.lines(node))),
            NodeKind::Heading(level) => {
                let content = self.inlines(self.lines(node));
                BlockKind::Heading(Box::new(Heading {
                    level: *level,
                    content,
                    ..Heading::default()
                }))
            }
            NodeKind::Quotation => BlockKind::Quotation(self.blocks(&node.children)),
            NodeKind::List(marker) => BlockKind::List(Box::new(self.list(node, *marker))),
            NodeKind::IndentedCode => {
                let text = self.verbatim(self.lines(node));
                BlockKind::Code(Box::new(CodeBlock { text, ..CodeBlock::default() }))
            }
            NodeKind::FencedCode { .. } => BlockKind::Code(Box::new(self.fenced_code(node))),
            NodeKind::Html(_) => {
                let mut markup = self.verbatim(self.lines(node));
                markup.truncate(markup.trim_end_matches('\n').len());
                BlockKind::Foreign(Box::new(self.inlines.raw_html(markup)))
            }
            NodeKind::ThematicBreak => BlockKind::ThematicBreak,
            NodeKind::Table(columns) => BlockKind::Table(Box::new(self.table(node, columns))),
            NodeKind::Document | NodeKind::Item { .. } | NodeKind::Nothing => return None,
        })
    }

    fn lines(&self, node: &Node) -> &'s [Line] {
        self.tree.lines.get(node.lines.clone()).unwrap_or_default()
    }

    fn inlines(&mut self, lines: &[Line]) -> Vec<Inline> {
        self.inlines.read(LeafText::join(self.source, lines, &mut self.scratch))
    }

    /// Lines as they stand, each with a line ending.
    fn verbatim(&self, lines: &[Line]) -> String {
        let mut text = String::new();
        for line in lines {
            text.extend(std::iter::repeat_n(' ', line.pad.into()));
            text.push_str(line.text(self.source));
            text.push('\n');
        }
        text
    }

    fn fenced_code(&self, node: &Node) -> CodeBlock {
        let Some((info, lines)) = self.lines(node).split_first() else {
            return CodeBlock::default();
        };
        let info = unescape(info.text(self.source).trim());
        let (language, details) = match info.split_once(|c: char| c.is_whitespace()) {
            Some((language, details)) => (language, Some(details.trim().into())),
            None => (info.as_str(), None),
        };
        let language = (!language.is_empty()).then(|| language.into());
        CodeBlock { text: self.verbatim(lines), language, details }
    }

    fn list(&mut self, node: &Node, marker: MarkerKind) -> List {
        let kind = match marker {
            MarkerKind::Bullet(mark) => ListKind::Bulleted(Some(mark as char)),
            MarkerKind::Number(start, delimiter) => {
                ListKind::Numbered(Numbering { start, delimiter, ..Numbering::default() })
            }
        };
        let spacing = if node.loose { ListSpacing::Loose } else { ListSpacing::Tight };
        let items = node.children.iter().filter_map(|child| self.tree.nodes.get(*child));
        let items = items.map(|item| self.item(item)).collect();
        List { kind, spacing, items }
    }

    fn item(&mut self, node: &Node) -> ListItem {
        let place = Place::new(node.start, node.end);
        if self.inlines.switches.has(Switch::Tasks)
            && let Some((&first, others)) = node.children.split_first()
            && let Some(paragraph) = self.tree.nodes.get(first)
            && matches!(paragraph.kind, NodeKind::Paragraph)
            && let Some((check, lines)) = self.task(paragraph)
        {
            let kind = BlockKind::Paragraph(self.inlines(&lines));
            let first = Block::new(kind).at(Place::new(paragraph.start, paragraph.end));
            let mut content = vec![first];
            content.extend(self.blocks(others));
            return ListItem { content, check: Some(check), place, ..ListItem::default() };
        }
        ListItem { content: self.blocks(&node.children), place, ..ListItem::default() }
    }

    /// GFM 5.3: `[ ]` or `[x]` and white space, at the start of an item's first paragraph. Gives
    /// the state and the lines without it.
    fn task(&self, paragraph: &Node) -> Option<(CheckState, Vec<Line>)> {
        let mut lines = self.lines(paragraph).to_vec();
        let first = lines.first_mut()?;
        let text = first.text(self.source);
        let check = match text.as_bytes() {
            [b'[', b' ' | b'\t', b']', b' ' | b'\t', ..] => CheckState::Open,
            [b'[', b'x' | b'X', b']', b' ' | b'\t', ..] => CheckState::Done,
            _ => return None,
        };
        let behind = text.get(3..)?;
        let content = behind.trim_start_matches([' ', '\t']);
        if content.is_empty() {
            return None;
        }
        first.start += 3 + (behind.len() - content.len()) as u32;
        Some((check, lines))
    }

    fn table(&mut self, node: &Node, aligns: &[Option<CellAlign>]) -> Table {
        let columns = aligns.iter().map(|align| Column { align: *align, width: None }).collect();
        let mut groups = Vec::new();
        if let Some((head, body)) = self.lines(node).split_first() {
            let head = self.row(*head, aligns.len(), Some(HeaderScope::Column));
            groups.push(RowGroup { kind: RowGroupKind::Head, rows: vec![head] });
            let rows: Vec<Row> =
                body.iter().map(|line| self.row(*line, aligns.len(), None)).collect();
            if !rows.is_empty() {
                groups.push(RowGroup { kind: RowGroupKind::Body, rows });
            }
        }
        Table { caption: None, columns, groups }
    }

    fn row(&mut self, line: Line, width: usize, header: Option<HeaderScope>) -> Row {
        let text = line.text(self.source);
        let mut ranges = cells(text);
        let mut row = Row::default();
        for range in ranges.by_ref().take(width) {
            let start = line.start + range.start as u32;
            let part = Line { start, end: line.start + range.end as u32, pad: 0 };
            row.cells.push(self.cell(part, header));
        }
        if let Some(surplus) = ranges.next() {
            let place = Place::new(line.start as usize + surplus.start, line.end as usize);
            let cut = text.get(surplus.start..).unwrap_or_default().trim_end();
            self.inlines.findings.add_about(Code::TableCellsSurplus, cut, Some(place));
        }
        let missing = width - row.cells.len();
        if missing <= self.filler_cells {
            self.filler_cells -= missing;
            row.cells.resize_with(width, || Cell { header, ..Cell::default() });
        } else {
            let place = Place::new(line.start as usize, line.end as usize);
            self.inlines.findings.add(Code::TableTooWide, Some(place));
        }
        row
    }

    fn cell(&mut self, line: Line, header: Option<HeaderScope>) -> Cell {
        let text = line.text(self.source);
        // A pipe behind a backslash is a pipe, even inside code.
        let text = match memchr::memmem::find(text.as_bytes(), b"\\|") {
            Some(_) => Cow::Owned(text.replace("\\|", "|")),
            None => Cow::Borrowed(text),
        };
        let inlines = self.inlines.read(LeafText::cell(&text, &[line]));
        let place = Place::new(line.start as usize, line.end as usize);
        let content = match inlines.is_empty() {
            true => Vec::new(),
            false => vec![Block::new(BlockKind::Paragraph(inlines)).at(place)],
        };
        Cell { content, header, ..Cell::default() }
    }
}
