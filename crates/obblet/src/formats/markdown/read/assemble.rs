//! From the block structure to the document: each leaf's inlines are read, each node becomes a
//! block.

use super::attribute_list::trailing_attributes;
use super::blocks::BlockStructure;
use super::entities::unescape;
use super::inlines::InlineReader;
use super::starts::MarkerKind;
use super::tables::cells;
use super::text::{LeafText, Scratch};
use super::tree::{Line, Node, NodeId, NodeKind, Tree};
use crate::document::{
    Admonition, AdmonitionKind, Attributes, Block, BlockKind, Cell, CellAlign, CodeBlock, Column,
    DescriptionItem, FillerCells, Foreign, HeaderScope, Heading, Inline, List, ListItem, ListKind,
    ListSpacing, Note, Numbering, Place, Row, RowGroup, RowGroupKind, Table,
};
use crate::findings::{Code, Findings};
use crate::formats::markdown::{Switch, Switches};
use crate::math::Formula;
use std::borrow::Cow;

/// Gives the blocks of a text whose structure is known, one after the other, and then its notes.
pub(super) fn assemble(
    source: &str,
    structure: &BlockStructure,
    language: Option<&str>,
    switches: Switches,
    findings: &mut Findings,
    give: &mut dyn FnMut(Block),
) -> Vec<Note> {
    let inlines = InlineReader::new(switches, structure, language, findings, source.len());
    let mut assembler = Assembler {
        source,
        tree: &structure.tree,
        inlines,
        scratch: Scratch::default(),
        filler_cells: FillerCells::for_source(source.len()),
        notes: vec![Vec::new(); structure.notes.all.len()],
        last_level: 0,
    };
    if let Some(root) = structure.tree.nodes.first() {
        assembler.each_block(&root.children, give);
    }
    assembler.report_unused_notes(&structure.notes.all);
    assembler.finished_notes(&structure.notes.all)
}

pub(super) struct Assembler<'s, 'd> {
    pub(super) source: &'s str,
    tree: &'s Tree,
    pub(super) inlines: InlineReader<'d>,
    scratch: Scratch,
    filler_cells: FillerCells,
    /// The texts of labelled notes, by their numbers.
    pub(super) notes: Vec<Vec<Block>>,
    /// The level of the heading before, or 0.
    last_level: u8,
}

impl<'s> Assembler<'s, '_> {
    /// Recursion is bounded: the block pass nests containers to the document's limit.
    pub(super) fn blocks(&mut self, children: &[NodeId]) -> Vec<Block> {
        let mut blocks: Vec<Block> = Vec::with_capacity(children.len());
        self.each_block(children, &mut |block| blocks.push(block));
        blocks
    }

    fn each_block(&mut self, children: &[NodeId], give: &mut dyn FnMut(Block)) {
        let mut last: Option<Block> = None;
        for &child in children {
            let Some(node) = self.tree.nodes.get(child) else { continue };
            let Some(block) = self.block(node) else { continue };
            // A description list goes on behind the blank line before its next term.
            match (last.as_mut().map(|last| &mut last.kind), block.kind) {
                (Some(BlockKind::DescriptionList(items)), BlockKind::DescriptionList(more)) => {
                    items.extend(more);
                }
                (_, kind) => {
                    last.replace(Block { kind, ..block }).map(&mut *give);
                }
            }
        }
        last.map(give);
    }

    fn block(&mut self, node: &Node) -> Option<Block> {
        let mut attributes = Attributes::NONE;
        let kind = match &node.kind {
            NodeKind::Paragraph => BlockKind::of_line(self.inlines(self.lines(node))),
            NodeKind::Heading(level) => self.heading(node, *level, &mut attributes),
            NodeKind::Quotation => self.quotation(node),
            NodeKind::List(marker) => BlockKind::List(Box::new(self.list(node, *marker))),
            NodeKind::IndentedCode => {
                let text = self.verbatim(self.lines(node));
                BlockKind::Code(Box::new(CodeBlock::of_text(text)))
            }
            NodeKind::FencedCode { .. } => self.fenced_code(node, &mut attributes),
            NodeKind::Html(_) => {
                let mut markup = self.verbatim(self.lines(node));
                markup.truncate(markup.trim_end_matches('\n').len());
                BlockKind::Foreign(Box::new(self.inlines.raw_html(markup)))
            }
            NodeKind::ThematicBreak => BlockKind::ThematicBreak,
            NodeKind::Table(columns) => BlockKind::Table(Box::new(self.table(node, columns))),
            NodeKind::DescriptionList => BlockKind::DescriptionList(self.descriptions(node)),
            NodeKind::Container { info, .. } => self.container(node, info.clone(), &mut attributes),
            NodeKind::Note(number) => {
                let content = self.blocks(&node.children);
                if let Some(note) = self.notes.get_mut(*number) {
                    *note = content;
                }
                return None;
            }
            NodeKind::Document
            | NodeKind::Item { .. }
            | NodeKind::Term
            | NodeKind::Description { .. }
            | NodeKind::Nothing => return None,
        };
        Some(Block { kind, attributes, place: Place::new(node.start, node.end) })
    }

    fn heading(&mut self, node: &Node, level: u8, attributes: &mut Attributes) -> BlockKind {
        let mut lines = self.lines(node).to_vec();
        if self.inlines.switches.has(Switch::Attributes)
            && let Some(last) = lines.last_mut()
            && let Some((before, found)) = trailing_attributes(last.text(self.source))
        {
            last.end = last.start + before.len() as u32;
            *attributes = found;
        }
        if self.last_level > 0 && level > self.last_level + 1 {
            let jump = format!("level {level} follows level {}", self.last_level);
            let place = Place::new(node.start, node.end);
            self.inlines.findings.add_about(Code::HeadingLevelJump, &jump, Some(place));
        }
        self.last_level = level;
        let content = self.inlines(&lines);
        BlockKind::Heading(Box::new(Heading { level, content, ..Heading::default() }))
    }

    /// A quotation, or an admonition when its first line says which.
    fn quotation(&mut self, node: &Node) -> BlockKind {
        if self.inlines.switches.has(Switch::Alerts)
            && let Some((&first, others)) = node.children.split_first()
            && let Some(paragraph) = self.tree.nodes.get(first)
            && matches!(paragraph.kind, NodeKind::Paragraph)
            && let Some((mark, rest)) = self.lines(paragraph).split_first()
            && let Some(kind) = alert_kind(mark.text(self.source))
        {
            let mut content = Vec::new();
            if !rest.is_empty() {
                let place = Place::new(rest[0].start as usize, paragraph.end);
                content.push(Block::new(BlockKind::of_line(self.inlines(rest))).at(place));
            }
            content.extend(self.blocks(others));
            return BlockKind::Admonition(Box::new(Admonition { kind, title: None, content }));
        }
        BlockKind::Quotation(self.blocks(&node.children))
    }

    /// Terms, each with the descriptions that follow it.
    fn descriptions(&mut self, node: &Node) -> Vec<DescriptionItem> {
        let mut items: Vec<DescriptionItem> = Vec::new();
        for &child in &node.children {
            let Some(part) = self.tree.nodes.get(child) else { continue };
            match part.kind {
                NodeKind::Term => {
                    let lines = self.lines(part);
                    let terms = lines.iter().map(|line| self.inlines(std::slice::from_ref(line)));
                    items
                        .push(DescriptionItem { terms: terms.collect(), descriptions: Vec::new() });
                }
                NodeKind::Description { .. } => {
                    let blocks = self.blocks(&part.children);
                    if let Some(item) = items.last_mut() {
                        item.descriptions.push(blocks);
                    }
                }
                _ => {}
            }
        }
        items
    }

    pub(super) fn lines(&self, node: &Node) -> &'s [Line] {
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

    fn fenced_code(&self, node: &Node, attributes: &mut Attributes) -> BlockKind {
        let Some((info, lines)) = self.lines(node).split_first() else {
            return BlockKind::Code(Box::default());
        };
        let info = info.text(self.source).trim_matches([' ', '\t']);
        let class_first = info.starts_with("{.");
        let with_attributes = self.inlines.switches.has(Switch::Attributes);
        let found = with_attributes.then(|| trailing_attributes(info)).flatten();
        let (info, found) = found.unwrap_or((info, Attributes::NONE));
        *attributes = found;
        if info.is_empty()
            && let Some(format) = attributes.take_pair("raw")
        {
            let markup = self.verbatim(lines);
            return BlockKind::Foreign(Box::new(Foreign { format, markup }));
        }
        let mut info = unescape(info);
        // In `{.python}` alone, the first class is the language.
        if info.is_empty() && class_first && !attributes.classes().is_empty() {
            info = attributes.edit().classes.remove(0).into();
        }
        let (language, details) = match info.split_once([' ', '\t']) {
            Some((language, details)) => {
                (language, Some(details.trim_start_matches([' ', '\t']).into()))
            }
            None => (info.as_str(), None),
        };
        let text = self.verbatim(lines);
        if language == "math" && self.inlines.switches.has(Switch::Math) {
            let source = text.trim().into();
            return BlockKind::Formula(Box::new(Formula {
                source,
                display: true,
                ..Formula::default()
            }));
        }
        let language = (!language.is_empty()).then(|| language.into());
        BlockKind::Code(Box::new(CodeBlock { language, details, ..CodeBlock::of_text(text) }))
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

    fn table(&mut self, node: &Node, aligns: &[Option<CellAlign>]) -> Table {
        let columns =
            aligns.iter().map(|align| Column { align: *align, ..Column::default() }).collect();
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
        let mut table = Table { caption: None, columns, groups };
        // GFM 4.10: empty cells are inserted where a row has fewer than the head.
        if !self.filler_cells.fill(&mut table) {
            let place = Place::new(node.start, node.end);
            self.inlines.findings.add(Code::TableTooWide, Some(place));
        }
        table
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

/// `[!NOTE]` and the like, alone in their line.
pub(super) fn alert_kind(line: &str) -> Option<AdmonitionKind> {
    let name = line.trim().strip_prefix("[!")?.strip_suffix(']')?;
    common_admonition(&name.to_lowercase())
}

/// The kind of admonition a container's name stands for; `admonition` with `kind=word` is any.
pub(super) fn admonition_kind(name: &str, attributes: &mut Attributes) -> Option<AdmonitionKind> {
    if name != "admonition" {
        return common_admonition(name);
    }
    Some(AdmonitionKind::Other(attributes.take_pair("kind")?))
}

fn common_admonition(name: &str) -> Option<AdmonitionKind> {
    let kind = AdmonitionKind::named(name);
    (!matches!(kind, AdmonitionKind::Other(_))).then_some(kind)
}
