//! Going through a tree without recursion, for reading and for changing it.

use super::{
    Block, BlockKind, Cell, Cite, DescriptionItem, GroupRole, Inline, ListItem, Place, Row,
    RowGroup, RowGroupKind,
};
use crate::work;
use smallvec::SmallVec;
use std::slice::Iter;

/// What a walk comes by.
#[derive(Debug, Clone, Copy)]
pub enum Node<'a> {
    /// A block.
    Block(&'a Block),
    /// An item of a bulleted or numbered list.
    Item(&'a ListItem),
    /// A table row, with the kind of its group.
    Row(RowGroupKind, &'a Row),
    /// A table cell.
    Cell(&'a Cell),
    /// An inline.
    Inline(&'a Inline),
}

impl<'d> Node<'d> {
    /// The id that it states, by which links can lead to it.
    #[must_use]
    pub fn id(&self) -> Option<&'d str> {
        match self {
            Self::Block(block) => block.attributes.id(),
            Self::Item(item) => item.attributes.id(),
            Self::Row(_, row) => row.attributes.id(),
            Self::Cell(cell) => cell.attributes.id(),
            Self::Inline(Inline::Anchor(anchor)) => Some(anchor.id.as_str()),
            Self::Inline(Inline::Formatted(formatted)) => formatted.attributes.id(),
            Self::Inline(Inline::Link(link)) => link.attributes.id(),
            Self::Inline(Inline::Picture(picture)) => picture.attributes.id(),
            Self::Inline(Inline::Code(code)) => code.attributes.id(),
            Self::Inline(_) => None,
        }
    }
}

/// One step of a walk.
#[derive(Debug, Clone, Copy)]
pub enum Visit<'a> {
    /// The node begins; its parts come next.
    Enter(Node<'a>),
    /// The node's parts are over. Every `Enter` has its `Leave`.
    Leave(Node<'a>),
}

/// Goes through blocks and all that is in them, in reading order. Notes are not part of it:
/// walk [`Document::notes`](super::Document::notes) for them.
///
/// ```
/// use obblet::document::{Node, Visit, build::*, walk};
/// let blocks = vec![bullets(vec![vec![paragraph("weir")], vec![paragraph("sluice")]])];
/// let items = walk(&blocks).filter(|visit| matches!(visit, Visit::Enter(Node::Item(_))));
/// assert_eq!(items.count(), 2);
/// ```
pub fn walk(blocks: &[Block]) -> Walk<'_> {
    let mut walk = Walk { owners: 0, open: SmallVec::new(), leaf: None };
    walk.push_blocks(blocks);
    walk
}

/// Goes through inlines and all that is in them, in reading order.
pub(crate) fn walk_inlines(inlines: &[Inline]) -> Walk<'_> {
    let mut walk = Walk { owners: 0, open: SmallVec::new(), leaf: None };
    walk.push_inlines(inlines);
    walk
}

/// The iterator behind [`walk`]. Its memory is the tree's depth, never the call stack.
#[derive(Debug, Clone)]
pub struct Walk<'a> {
    /// How many of the open lists end a node.
    owners: usize,
    /// The lists that are gone through, the innermost last.
    open: SmallVec<[OpenList<'a>; 6]>,
    /// A node without parts, which was entered and is left next.
    leaf: Option<Node<'a>>,
}

/// A list that is gone through.
#[derive(Debug, Clone)]
struct OpenList<'a> {
    rest: Siblings<'a>,
    /// The node that is left when the list is over.
    owner: Option<Node<'a>>,
}

/// Nodes of one kind, side by side; or lists of them, which are no nodes themselves. Such lists are
/// opened one after the other, so that a list of a thousand terms is no deeper than a list of one.
#[derive(Debug, Clone)]
enum Siblings<'a> {
    Blocks(Iter<'a, Block>),
    Items(Iter<'a, ListItem>),
    Rows(RowGroupKind, Iter<'a, Row>),
    Cells(Iter<'a, Cell>),
    Inlines(Iter<'a, Inline>),
    Descriptions(Iter<'a, DescriptionItem>),
    Lines(Iter<'a, Vec<Inline>>),
    Parts(Iter<'a, Vec<Block>>),
    RowGroups(Iter<'a, RowGroup>),
    Cites(Iter<'a, Cite>),
}

/// What comes next in a list.
enum Step<'a> {
    /// A node of the tree.
    Node(Node<'a>),
    /// Lists to go through first; the second one after the first.
    Lists(Siblings<'a>, Option<Siblings<'a>>),
}

impl<'a> Siblings<'a> {
    fn next(&mut self) -> Option<Step<'a>> {
        let node = match self {
            Self::Blocks(rest) => Node::Block(rest.next()?),
            Self::Items(rest) => Node::Item(rest.next()?),
            Self::Rows(kind, rest) => Node::Row(*kind, rest.next()?),
            Self::Cells(rest) => Node::Cell(rest.next()?),
            Self::Inlines(rest) => Node::Inline(rest.next()?),
            lists => return lists.next_lists(),
        };
        Some(Step::Node(node))
    }

    fn next_lists(&mut self) -> Option<Step<'a>> {
        let (first, second) = match self {
            Self::Descriptions(rest) => {
                let item = rest.next()?;
                (Self::Lines(item.terms.iter()), Some(Self::Parts(item.descriptions.iter())))
            }
            Self::Lines(rest) => (Self::Inlines(rest.next()?.iter()), None),
            Self::Parts(rest) => (Self::Blocks(rest.next()?.iter()), None),
            Self::RowGroups(rest) => {
                let group = rest.next()?;
                (Self::Rows(group.kind, group.rows.iter()), None)
            }
            Self::Cites(rest) => {
                let cite = rest.next()?;
                let behind = Self::Inlines(cite.behind.iter());
                (Self::Inlines(cite.before.iter()), Some(behind))
            }
            Self::Blocks(_)
            | Self::Items(_)
            | Self::Rows(..)
            | Self::Cells(_)
            | Self::Inlines(_) => return None,
        };
        Some(Step::Lists(first, second))
    }
}

impl<'a> Iterator for Walk<'a> {
    type Item = Visit<'a>;

    fn next(&mut self) -> Option<Visit<'a>> {
        if let Some(node) = self.leaf.take() {
            return Some(Visit::Leave(node));
        }
        loop {
            match self.open.last_mut()?.rest.next() {
                Some(Step::Node(node)) => {
                    self.enter(node);
                    return Some(Visit::Enter(node));
                }
                Some(Step::Lists(first, second)) => self.push_lists(first, second),
                None => {
                    if let Some(node) = self.close()? {
                        return Some(Visit::Leave(node));
                    }
                }
            }
        }
    }
}

impl<'a> Walk<'a> {
    /// The next node that begins; what ends before it is passed over.
    pub(crate) fn next_node(&mut self) -> Option<Node<'a>> {
        self.leaf = None;
        loop {
            match self.open.last_mut()?.rest.next() {
                Some(Step::Node(node)) => {
                    self.enter(node);
                    return Some(node);
                }
                Some(Step::Lists(first, second)) => self.push_lists(first, second),
                None => {
                    self.close()?;
                }
            }
        }
    }

    /// Closes the innermost list, and gives the node that ends with it.
    fn close(&mut self) -> Option<Option<Node<'a>>> {
        let owner = self.open.pop()?.owner;
        self.owners -= usize::from(owner.is_some());
        Some(owner)
    }

    /// In how many nodes, one in the other, the node stands that was given last, itself counted.
    pub(crate) fn depth(&self) -> usize {
        self.owners + usize::from(self.leaf.is_some())
    }

    fn push_lists(&mut self, first: Siblings<'a>, second: Option<Siblings<'a>>) {
        second.into_iter().for_each(|second| self.push(second));
        self.push(first);
    }

    fn push(&mut self, rest: Siblings<'a>) {
        self.open.push(OpenList { rest, owner: None });
    }

    fn push_blocks(&mut self, blocks: &'a [Block]) {
        work::count(blocks.len());
        if !blocks.is_empty() && !work::is_over() {
            self.push(Siblings::Blocks(blocks.iter()));
        }
    }

    fn push_inlines(&mut self, inlines: &'a [Inline]) {
        work::count(inlines.len());
        if !inlines.is_empty() && !work::is_over() {
            self.push(Siblings::Inlines(inlines.iter()));
        }
    }

    /// Opens the lists of a node; the one that is over last leaves it.
    fn enter(&mut self, node: Node<'a>) {
        // Most nodes are texts.
        if let Node::Inline(Inline::Text(_) | Inline::Break(_)) = node {
            self.leaf = Some(node);
            return;
        }
        let outer = self.open.len();
        self.push_parts(node);
        match self.open.get_mut(outer) {
            Some(list) => {
                list.owner = Some(node);
                self.owners += 1;
            }
            None => self.leaf = Some(node),
        }
    }

    /// Pushes the parts of a node, the first one last.
    fn push_parts(&mut self, node: Node<'a>) {
        match node {
            Node::Block(block) => self.push_block_parts(&block.kind),
            Node::Item(item) => self.push_blocks(&item.content),
            Node::Row(_, row) => self.push(Siblings::Cells(row.cells.iter())),
            Node::Cell(cell) => self.push_blocks(&cell.content),
            Node::Inline(inline) => self.push_inline_parts(inline),
        }
    }

    fn push_block_parts(&mut self, kind: &'a BlockKind) {
        match kind {
            BlockKind::Paragraph(content) => self.push_inlines(content),
            BlockKind::Heading(heading) => self.push_inlines(&heading.content),
            BlockKind::List(list) => {
                self.push(Siblings::Items(list.items.iter()));
            }
            BlockKind::DescriptionList(items) => {
                self.push(Siblings::Descriptions(items.iter()));
            }
            BlockKind::Quotation(content) => self.push_blocks(content),
            BlockKind::Verse(lines) => self.push(Siblings::Lines(lines.iter())),
            BlockKind::Table(table) => {
                self.push(Siblings::RowGroups(table.groups.iter()));
                if let Some(caption) = &table.caption {
                    self.push_blocks(&caption.content);
                }
            }
            BlockKind::Figure(figure) => {
                if let Some(caption) = &figure.caption {
                    self.push_blocks(&caption.content);
                }
                self.push_blocks(&figure.content);
            }
            BlockKind::Admonition(admonition) => {
                self.push_blocks(&admonition.content);
                if let Some(title) = &admonition.title {
                    self.push_inlines(title);
                }
            }
            BlockKind::Group(group) => {
                self.push_blocks(&group.content);
                if let GroupRole::Disclosure(summary) = &group.role {
                    self.push_inlines(summary);
                }
            }
            BlockKind::Code(code) => self.push_inlines(&code.content),
            BlockKind::Formula(_)
            | BlockKind::ThematicBreak
            | BlockKind::Break(_)
            | BlockKind::Contents(_)
            | BlockKind::Bibliography
            | BlockKind::Foreign(_)
            | BlockKind::SourceRemark(_) => {}
        }
    }

    fn push_inline_parts(&mut self, inline: &'a Inline) {
        match inline {
            Inline::Formatted(formatted) => self.push_inlines(&formatted.content),
            Inline::Link(link) => self.push_inlines(&link.content),
            Inline::Picture(picture) => self.push_inlines(&picture.alternative),
            Inline::Reference(reference) => self.push_inlines(&reference.stored),
            Inline::Citation(citation) => {
                self.push(Siblings::Cites(citation.works.iter()));
            }
            Inline::Ruby(ruby) => {
                self.push_inlines(&ruby.reading);
                self.push_inlines(&ruby.base);
            }
            Inline::Text(_)
            | Inline::Break(_)
            | Inline::Code(_)
            | Inline::NoteMark(_)
            | Inline::CommentMark(_)
            | Inline::Anchor(_)
            | Inline::Formula(_)
            | Inline::CheckBox(_)
            | Inline::Timestamp(_)
            | Inline::Foreign(_) => {}
        }
    }
}

/// Calls `change` with every list of blocks, the outermost first. What `change` puts in is
/// visited too.
pub fn walk_blocks_mut(blocks: &mut Vec<Block>, mut change: impl FnMut(&mut Vec<Block>)) {
    let mut pending = vec![blocks];
    let mut inlines = Vec::new();
    while let Some(list) = pending.pop() {
        change(list);
        for block in list {
            parts_mut(block, &mut pending, &mut inlines);
        }
        inlines.clear();
    }
}

/// Calls `change` with every list of inlines, outer lists before the lists inside them, and with
/// the place of the block it stands in.
pub fn walk_inlines_mut(blocks: &mut Vec<Block>, change: impl FnMut(Place, &mut Vec<Inline>)) {
    walk_all_mut(blocks, |_| {}, change);
}

/// The same, and calls `each` with every block before the lists in it.
pub(crate) fn walk_all_mut(
    blocks: &mut Vec<Block>,
    mut each: impl FnMut(&mut Block),
    mut change: impl FnMut(Place, &mut Vec<Inline>),
) {
    let mut pending_blocks = vec![blocks];
    let mut pending_inlines = Vec::new();
    while let Some(list) = pending_blocks.pop() {
        for block in list {
            each(block);
            let place = block.place;
            parts_mut(block, &mut pending_blocks, &mut pending_inlines);
            while let Some(list) = pending_inlines.pop() {
                let list: &mut Vec<Inline> = list;
                change(place, list);
                list.iter_mut().for_each(|inline| inline_parts_mut(inline, &mut pending_inlines));
            }
        }
    }
}

/// Calls `change` with every list of inlines that stands in no other one: paragraphs, headings,
/// terms, lines of verse.
pub(crate) fn walk_lines_mut(
    blocks: &mut Vec<Block>,
    mut change: impl FnMut(Place, &mut Vec<Inline>),
) {
    let mut pending_blocks = vec![blocks];
    let mut lines = Vec::new();
    while let Some(list) = pending_blocks.pop() {
        for block in list {
            let place = block.place;
            parts_mut(block, &mut pending_blocks, &mut lines);
            lines.drain(..).for_each(|line: &mut Vec<Inline>| change(place, line));
        }
    }
}

/// Calls `change` with every block, in the order in which one reads them. It must not put blocks in.
pub(crate) fn blocks_in_order_mut(blocks: &mut [Block], change: impl FnMut(&mut Block)) {
    in_order_mut(blocks, change, |_| {});
}

/// Calls `change` with every list of inlines that stands in no other one, in the order in which one
/// reads them; of a description list the terms come first.
pub(crate) fn lines_in_order_mut(blocks: &mut [Block], change: impl FnMut(&mut Vec<Inline>)) {
    in_order_mut(blocks, |_| {}, change);
}

fn in_order_mut(
    blocks: &mut [Block],
    mut each_block: impl FnMut(&mut Block),
    mut each_line: impl FnMut(&mut Vec<Inline>),
) {
    let mut open = vec![blocks.iter_mut()];
    let (mut inner, mut lines) = (Vec::new(), Vec::new());
    while let Some(list) = open.last_mut() {
        let Some(block) = list.next() else {
            open.pop();
            continue;
        };
        each_block(block);
        parts_mut(block, &mut inner, &mut lines);
        lines.drain(..).for_each(&mut each_line);
        open.extend(inner.drain(..).rev().map(|blocks: &mut Vec<Block>| blocks.iter_mut()));
    }
}

/// Gathers the lists of blocks and of inlines that stand directly in a block.
fn parts_mut<'a>(
    block: &'a mut Block,
    blocks: &mut Vec<&'a mut Vec<Block>>,
    inlines: &mut Vec<&'a mut Vec<Inline>>,
) {
    match &mut block.kind {
        BlockKind::Paragraph(content) => inlines.push(content),
        BlockKind::Heading(heading) => inlines.push(&mut heading.content),
        BlockKind::List(list) => {
            blocks.extend(list.items.iter_mut().map(|item| &mut item.content));
        }
        BlockKind::DescriptionList(items) => {
            for item in items {
                inlines.extend(&mut item.terms);
                blocks.extend(&mut item.descriptions);
            }
        }
        BlockKind::Quotation(content) => blocks.push(content),
        BlockKind::Verse(lines) => inlines.extend(lines),
        BlockKind::Table(table) => {
            blocks.extend(table.caption.as_mut().map(|caption| &mut caption.content));
            let rows = table.groups.iter_mut().flat_map(|group| &mut group.rows);
            blocks.extend(rows.flat_map(|row| &mut row.cells).map(|cell| &mut cell.content));
        }
        BlockKind::Figure(figure) => {
            blocks.push(&mut figure.content);
            blocks.extend(figure.caption.as_mut().map(|caption| &mut caption.content));
        }
        BlockKind::Admonition(admonition) => {
            inlines.extend(&mut admonition.title);
            blocks.push(&mut admonition.content);
        }
        BlockKind::Group(group) => {
            if let GroupRole::Disclosure(summary) = &mut group.role {
                inlines.push(summary);
            }
            blocks.push(&mut group.content);
        }
        BlockKind::Code(code) if !code.content.is_empty() => inlines.push(&mut code.content),
        BlockKind::Code(_)
        | BlockKind::Formula(_)
        | BlockKind::ThematicBreak
        | BlockKind::Break(_)
        | BlockKind::Contents(_)
        | BlockKind::Bibliography
        | BlockKind::Foreign(_)
        | BlockKind::SourceRemark(_) => {}
    }
}

fn inline_parts_mut<'a>(inline: &'a mut Inline, lists: &mut Vec<&'a mut Vec<Inline>>) {
    match inline {
        Inline::Formatted(formatted) => lists.push(&mut formatted.content),
        Inline::Link(link) => lists.push(&mut link.content),
        Inline::Picture(picture) => lists.push(&mut picture.alternative),
        Inline::Reference(reference) => lists.push(&mut reference.stored),
        Inline::Citation(citation) => {
            for cite in &mut citation.works {
                lists.push(&mut cite.before);
                lists.push(&mut cite.behind);
            }
        }
        Inline::Ruby(ruby) => {
            lists.push(&mut ruby.base);
            lists.push(&mut ruby.reading);
        }
        Inline::Text(_)
        | Inline::Break(_)
        | Inline::Code(_)
        | Inline::NoteMark(_)
        | Inline::CommentMark(_)
        | Inline::Anchor(_)
        | Inline::Formula(_)
        | Inline::CheckBox(_)
        | Inline::Timestamp(_)
        | Inline::Foreign(_) => {}
    }
}
