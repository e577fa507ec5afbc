//! Blocks.

use super::super::citations::works_of;
use super::super::dom::{NodeData, NodeId};
use super::super::tasks::{DRAWER, NAME};
use super::super::{PAGE_FOOTER, PAGE_HEADER};
use super::inlines::{format_of, is_inline};
use super::line::Line;
use super::lists::take_label;
use super::word_processor::{is_for_programs, is_foreign_name, list_paragraph};
use super::{DEPTH, Part, Reader};
use crate::document::{
    Admonition, AdmonitionKind, Anchor, Attributes, Block, BlockKind, Caption, CompactString,
    ContentsKind, ContentsList, Figure, Formatting, Group, GroupRole, Heading, Inline, Length,
    LineBreak, List, ListItem, ListKind, ListParagraph, ListSpacing, Node, Visit, id_of_words,
    nested_lists, plain_text, walk,
};
use crate::findings::Code;

/// Blocks as they are gathered, with the line of inlines between two of them.
#[derive(Default)]
pub(super) struct Stack {
    blocks: Vec<Block>,
    /// Items of a list that is not whole yet.
    items: Vec<ListParagraph>,
    /// Items that stand in no list, and whether they hold paragraphs.
    stray: Vec<ListItem>,
    stray_spacing: ListSpacing,
    line: Line,
    /// Where the line began.
    from: Option<NodeId>,
}

impl Stack {
    /// Adds a block that is no item of a list of paragraphs.
    fn push(&mut self, block: Block) {
        self.end_list();
        self.blocks.push(block);
    }

    fn end_list(&mut self) {
        if !self.items.is_empty() {
            self.blocks.extend(nested_lists(std::mem::take(&mut self.items)));
        }
        if let Some(first) = self.stray.first() {
            let place = first.place;
            let items = std::mem::take(&mut self.stray);
            let spacing = std::mem::take(&mut self.stray_spacing);
            let list = List { kind: ListKind::Bulleted(None), spacing, items };
            self.blocks.push(Block::new(BlockKind::List(Box::new(list))).at(place));
        }
    }

    fn push_stray(&mut self, item: ListItem, is_loose: bool) {
        if !self.items.is_empty() {
            self.end_list();
        }
        if is_loose {
            self.stray_spacing = ListSpacing::Loose;
        }
        self.stray.push(item);
    }
}

impl Reader<'_> {
    /// The blocks below a node; inlines between them are paragraphs.
    pub(super) fn flow(&mut self, node: NodeId) -> Vec<Block> {
        let mut stack = Stack::default();
        self.push_flow(node, &mut stack);
        self.finish_blocks(stack)
    }

    pub(super) fn finish_blocks(&mut self, mut stack: Stack) -> Vec<Block> {
        self.end_line(&mut stack);
        stack.end_list();
        stack.blocks
    }

    fn push_flow(&mut self, node: NodeId, stack: &mut Stack) {
        let dom = self.dom;
        for child in dom.children(node) {
            self.push_child(child, stack);
        }
    }

    pub(super) fn push_child(&mut self, child: NodeId, stack: &mut Stack) {
        match self.dom.data(child) {
            _ if self.shown_metadata.contains(&child) => {}
            NodeData::Element { .. } if self.is_block(child) => {
                self.end_line(stack);
                self.push_block(child, stack);
            }
            NodeData::Remark(text) if is_for_programs(text) => {}
            NodeData::Remark(text) if stack.line.is_empty() && !text.trim().is_empty() => {
                let remark = BlockKind::SourceRemark(text.trim().into());
                stack.push(Block::new(remark).at(self.place(child)));
            }
            _ => {
                stack.from.get_or_insert(child);
                self.push_inline(child, &mut stack.line);
            }
        }
    }

    fn end_line(&mut self, stack: &mut Stack) {
        let from = stack.from.take();
        let content = std::mem::take(&mut stack.line).finish();
        if !content.is_empty() {
            stack.end_list();
            if let Some(node) = from {
                self.report_alignment(node);
            }
            let place = from.map(|node| self.place(node)).unwrap_or_default();
            stack.push(Block::new(BlockKind::of_line(content)).at(place));
        }
    }

    /// Whether an element is read as a block: by its name, or because it holds a block.
    fn is_block(&self, node: NodeId) -> bool {
        let Some(name) = self.dom.name(node) else { return false };
        if self.is_block_part(node) || is_block_name(name) {
            return true;
        }
        (is_inline(name) || is_foreign_name(name))
            && self.dom.below(node).any(|below| {
                self.is_block_part(below) || self.dom.name(below).is_some_and(is_block_name)
            })
    }

    pub(super) fn push_block(&mut self, node: NodeId, stack: &mut Stack) {
        if self.depth >= DEPTH {
            self.dropped(Code::NestingTooDeep, "", node);
            let text = self.text_of(node);
            let words: Vec<&str> = text.split_ascii_whitespace().collect();
            let content = vec![Inline::Text(words.join(" ").into())];
            stack.push(Block::new(BlockKind::Paragraph(content)).at(self.place(node)));
            return;
        }
        self.depth += 1;
        let outer = self.enter(node);
        if self.is_shown(node) {
            self.push_block_element(node, stack);
        }
        self.leave(outer);
        self.depth -= 1;
    }

    fn push_block_element(&mut self, node: NodeId, stack: &mut Stack) {
        let name = self.dom.name(node).unwrap_or_default();
        if name == "obblet-part" {
            if let Some(Part::Block(block)) = self.take_part(node) {
                stack.push(block);
            }
            return;
        }
        if let Some(level) = heading_level(name) {
            return self.push_heading(node, level, stack);
        }
        let kind = match name {
            "p" => BlockKind::Paragraph(Vec::new()),
            "li" => {
                let (item, is_loose) = (self.item(node), self.is_loose(node));
                return stack.push_stray(item, is_loose);
            }
            "ul" | "menu" | "dir" => self.list(node, ListKind::Bulleted(None)),
            "ol" => {
                let numbering = self.numbering(node);
                self.list(node, ListKind::Numbered(numbering))
            }
            "dl" => {
                let items = self.descriptions(node);
                // Without a term there is nothing to describe.
                if items.iter().all(|item| item.terms.is_empty()) {
                    let blocks = items.into_iter().flat_map(|item| item.descriptions).flatten();
                    return blocks.for_each(|block| stack.push(block));
                }
                BlockKind::DescriptionList(items)
            }
            "blockquote" => BlockKind::Quotation(self.flow(node)),
            "pre" | "listing" | "xmp" => BlockKind::Code(Box::new(self.code_block(node))),
            "hr" => BlockKind::ThematicBreak,
            "table" => {
                let mut table = self.table(node);
                if table.rows().all(|(_, row)| row.cells.is_empty()) {
                    let caption = table.caption.take().map(|caption| caption.content);
                    let blocks = caption.unwrap_or_default();
                    return blocks.into_iter().for_each(|block| stack.push(block));
                }
                BlockKind::Table(Box::new(table))
            }
            "figure" => BlockKind::Figure(Box::new(self.figure(node))),
            "aside" => self.aside(node),
            "details" => self.disclosure(node),
            "section" | "div" if self.holds_notes(node) => return,
            _ => return self.push_group(node, name, stack),
        };
        let attributes = self.attributes(node);
        let place = self.place(node);
        if name == "p" {
            return self.push_paragraph(node, attributes, stack);
        }
        stack.push(Block { kind, attributes, place });
    }

    /// A paragraph; the parser never puts blocks into one, but parts may stand there.
    fn push_paragraph(&mut self, node: NodeId, attributes: Attributes, stack: &mut Stack) {
        if self.is_planning(node)
            && let Some(BlockKind::Heading(heading)) = stack.blocks.last_mut().map(|b| &mut b.kind)
        {
            heading.task.get_or_insert_default().planning = self.planning(node);
            return;
        }
        let place = self.place(node);
        let stated = self.styles.stated(node);
        let level = self.outline_level(node, &stated);
        let list_place = if level.is_none() { self.list_place(node) } else { None };
        self.in_list_paragraph = list_place.is_some();
        let mut blocks = self.flow(node);
        self.in_list_paragraph = false;
        if let [Block { kind: BlockKind::Paragraph(_), .. }] = blocks.as_slice()
            && let Some(mut block) = blocks.pop()
        {
            (block.attributes, block.place) = (attributes, place);
            return match (level, list_place) {
                (Some(level), _) => stack.push(Self::heading_of(block, level)),
                (None, Some(place)) => stack.items.push(list_paragraph(place, block)),
                (None, None) => stack.push(block),
            };
        }
        match blocks.as_mut_slice() {
            [] if attributes.is_empty() => {}
            [] => {
                let kind = BlockKind::Paragraph(Vec::new());
                stack.push(Block { kind, attributes, place });
            }
            [only] => {
                if only.attributes.is_empty() {
                    only.attributes = attributes;
                }
                only.place = place;
                blocks.into_iter().for_each(|block| stack.push(block));
            }
            _ => blocks.into_iter().for_each(|block| stack.push(block)),
        }
    }

    fn push_heading(&mut self, node: NodeId, level: u8, stack: &mut Stack) {
        self.report_alignment(node);
        self.in_heading = true;
        let mut content = self.inlines(node);
        self.in_heading = false;
        let number = take_label(&mut content);
        let mut attributes = self.attributes(node);
        let made = self.made_ids.made(&id_of_words(&plain_text(&content)));
        let is_made = attributes.id() == Some(made.as_str());
        if is_made && !self.shown_targets.contains(made.as_str()) {
            attributes.edit().id = None;
        }
        let mut heading = Heading { level, content, number, ..Heading::default() };
        self.read_task(node, &mut heading);
        let kind = BlockKind::Heading(Box::new(heading));
        stack.push(Block { kind, attributes, place: self.place(node) });
    }

    /// Elements that only hold others together; a `div` that says nothing is none.
    fn push_group(&mut self, node: NodeId, name: &str, stack: &mut Stack) {
        if matches!(name, "script" | "style" | "template" | "head" | "frameset" | "xml") {
            return self.dropped(Code::ElementDropped, name, node);
        }
        let mut attributes = self.attributes(node);
        let revision = self.revision(node, &mut attributes);
        let mut role = match self.dom.attribute(node, "role") {
            Some("doc-abstract") => GroupRole::Abstract,
            _ if name == "nav"
                && let Some(kind) = self.listed_kind(node) =>
            {
                let contents = ContentsList { kind, depth: 0 };
                let block = Block::new(BlockKind::Contents(Box::new(contents)));
                return stack.push(block.at(self.place(node)));
            }
            Some("doc-bibliography") => {
                self.read_works(node);
                let block = Block::new(BlockKind::Bibliography).at(self.place(node));
                return stack.push(block);
            }
            _ if let Some(role) = self.kind_of_group(node) => role,
            _ => GroupRole::Plain,
        };
        if name == "center" && !self.options.looks {
            self.findings.count(Code::LooksNotRead, "center", Some(self.place(node)));
        }
        let is_verse = self.dom.attribute(node, "data-kind") == Some("verse");
        if role == GroupRole::Plain && attributes.is_empty() && !is_verse {
            let says_nothing = matches!(name, "span" | "font" | "ins" | "del")
                || format_of(name).is_some_and(|format| self.is_undone(node, format));
            if is_inline(name) && !says_nothing {
                self.dropped(Code::ElementUnwrapped, name, node);
            }
            let mut blocks = self.flow(node);
            self.mark_revision(node, revision, &mut blocks);
            blocks.into_iter().for_each(|block| stack.push(block));
            return;
        }
        let mut content = self.flow(node);
        if self.dom.attribute(node, "data-kind") == Some("verse")
            && let Some(lines) = verse_lines(&content)
        {
            let place = self.place(node);
            return stack.push(Block { kind: BlockKind::Verse(lines), attributes, place });
        }
        if let GroupRole::Statement(name) = &mut role
            && let Some(Block { kind: BlockKind::Paragraph(title), .. }) = content.first()
        {
            *name = plain_text(title).into();
            content.remove(0);
        }
        if content.is_empty() && attributes.id().is_none() {
            return;
        }
        if let [only] = content.as_mut_slice()
            && self.is_line_with_looks(node, &attributes, only)
        {
            only.attributes = without_paragraph_space(attributes);
            return stack.push(content.remove(0));
        }
        let kind = BlockKind::Group(Box::new(Group { role, content }));
        stack.push(Block { kind, attributes, place: self.place(node) });
    }

    /// What a list of links of the document's own lists.
    fn listed_kind(&self, node: NodeId) -> Option<ContentsKind> {
        match (self.dom.attribute(node, "role"), self.dom.attribute(node, "data-kind")) {
            (Some("doc-toc"), _) => Some(ContentsKind::Headings),
            (_, Some("figures")) => Some(ContentsKind::Figures),
            (_, Some("tables")) => Some(ContentsKind::Tables),
            _ => None,
        }
    }

    /// What a group says it is, as the writer says it.
    fn kind_of_group(&self, node: NodeId) -> Option<GroupRole> {
        let kind = self.dom.attribute(node, "data-kind")?;
        let columns = || kind.strip_prefix("columns-")?.parse().ok().map(GroupRole::Columns);
        match kind {
            "statement" => Some(GroupRole::Statement(CompactString::default())),
            "centred" => Some(GroupRole::Centred),
            PAGE_HEADER => Some(GroupRole::PageHeader),
            PAGE_FOOTER => Some(GroupRole::PageFooter),
            DRAWER => {
                let name = self.dom.attribute(node, NAME).unwrap_or_default();
                Some(GroupRole::Drawer(name.into()))
            }
            _ => columns(),
        }
    }

    /// Whether a group is one line of text, and there only for its looks.
    fn is_line_with_looks(&self, node: NodeId, attributes: &Attributes, only: &Block) -> bool {
        let has_blocks =
            || self.dom.below(node).any(|below| self.dom.name(below).is_some_and(is_block_name));
        let mut rest = attributes.clone();
        let has_looks = attributes.looks().is_some() && rest.edit().looks.take().is_some();
        has_looks
            && rest.is_empty()
            && matches!(only.kind, BlockKind::Paragraph(_))
            && only.attributes.is_empty()
            && !has_blocks()
    }

    /// The inlines of all paragraphs below a node, parted by breaks.
    pub(super) fn flow_as_line(&mut self, node: NodeId) -> Vec<Inline> {
        let blocks = self.flow(node);
        let mut line: Vec<Inline> = Vec::new();
        for visit in walk(&blocks) {
            let Visit::Enter(Node::Block(block)) = visit else { continue };
            let content = match &block.kind {
                BlockKind::Paragraph(content) => content.clone(),
                BlockKind::Heading(heading) => heading.content.clone(),
                BlockKind::Code(code) => lines_of(&code.text),
                _ => continue,
            };
            if !line.is_empty() && !content.is_empty() {
                line.push(Inline::Break(LineBreak::Hard));
            }
            line.extend(content);
        }
        line
    }

    fn figure(&mut self, node: NodeId) -> Figure {
        let (content, caption) = self.flow_beside(node, "figcaption");
        let caption = caption.map(|node| labelled(self.identified_flow(node)));
        Figure { content, caption }
    }

    /// Works of a list, with their links and formats; the label stands before them.
    fn read_works(&mut self, section: NodeId) {
        for (node, work) in works_of(self.dom, section) {
            let mut content = self.inlines(node);
            let label = self.dom.attribute(node, "data-label").unwrap_or_default();
            if let Some(Inline::Text(first)) = content.first_mut() {
                *first = first.strip_prefix(&format!("[{label}]")).unwrap_or(first).into();
            }
            self.works.push(work.shown_as(content));
        }
    }

    /// The blocks below a part that has no attributes in the tree: its id stands at its beginning.
    pub(super) fn identified_flow(&mut self, node: NodeId) -> Vec<Block> {
        let mut blocks = self.flow(node);
        let Some(anchor) = self.anchor_of(node) else { return blocks };
        match (blocks.first_mut(), anchor) {
            (Some(Block { kind: BlockKind::Paragraph(content), .. }), anchor) => {
                content.insert(0, anchor);
            }
            (Some(block), Inline::Anchor(anchor)) if block.attributes.id().is_none() => {
                block.attributes.edit().id = Some(anchor.id);
            }
            (_, anchor) => blocks.insert(0, Block::new(BlockKind::Paragraph(vec![anchor]))),
        }
        blocks
    }

    /// Something that links may lead to.
    pub(super) fn anchor_of(&self, node: NodeId) -> Option<Inline> {
        let id = self.dom.attribute(node, "id").filter(|id| self.is_wanted_id(id))?;
        Some(Inline::Anchor(Box::new(Anchor { id: id.into() })))
    }

    fn disclosure(&mut self, node: NodeId) -> BlockKind {
        let (content, summary) = self.flow_beside(node, "summary");
        let summary = summary.map(|node| self.flow_as_line(node)).unwrap_or_default();
        let role = GroupRole::Disclosure(summary);
        BlockKind::Group(Box::new(Group { role, content }))
    }

    /// The blocks below a node but for one child of this name, which is given too.
    fn flow_beside(&mut self, node: NodeId, name: &str) -> (Vec<Block>, Option<NodeId>) {
        let dom = self.dom;
        let mut stack = Stack::default();
        let mut beside = None;
        for child in dom.children(node) {
            if beside.is_none() && dom.name(child) == Some(name) {
                beside = Some(child).filter(|child| self.is_shown(*child));
            } else {
                self.push_child(child, &mut stack);
            }
        }
        (self.finish_blocks(stack), beside)
    }

    /// An admonition says its kind, and its title first.
    fn aside(&mut self, node: NodeId) -> BlockKind {
        let kind = self.dom.attribute(node, "data-kind").map(str::to_string);
        let mut content = self.flow(node);
        let Some(kind) = kind else {
            return BlockKind::Group(Box::new(Group { role: GroupRole::Aside, content }));
        };
        let kind = AdmonitionKind::named(&kind);
        let title = take_title(&mut content).filter(|title| !is_name_of(&kind, title));
        BlockKind::Admonition(Box::new(Admonition { kind, title, content }))
    }
}
/// Takes the first paragraph when it is nothing but strong words.
fn take_title(content: &mut Vec<Block>) -> Option<Vec<Inline>> {
    let BlockKind::Paragraph(inlines) = &content.first()?.kind else { return None };
    let [Inline::Formatted(strong)] = inlines.as_slice() else { return None };
    if strong.format != Formatting::Strong {
        return None;
    }
    let title = strong.content.clone();
    content.remove(0);
    Some(title)
}

/// Whether a title is only what the kind is called, in any language there are words for.
fn is_name_of(kind: &AdmonitionKind, title: &[Inline]) -> bool {
    let title = plain_text(title);
    match kind {
        AdmonitionKind::Other(word) => *word == title,
        kind => crate::locale::Words::all().any(|words| words.admonition(kind) == title),
    }
}

fn heading_level(name: &str) -> Option<u8> {
    match name.as_bytes() {
        [b'h', level @ b'1'..=b'6'] => Some(level - b'0'),
        _ => None,
    }
}

fn is_block_name(name: &str) -> bool {
    heading_level(name).is_some()
        || matches!(
            name,
            "p" | "ul"
                | "ol"
                | "menu"
                | "dir"
                | "li"
                | "dl"
                | "dt"
                | "dd"
                | "blockquote"
                | "pre"
                | "listing"
                | "xmp"
                | "hr"
                | "table"
                | "figure"
                | "figcaption"
                | "aside"
                | "details"
                | "summary"
                | "section"
                | "article"
                | "main"
                | "header"
                | "footer"
                | "nav"
                | "div"
                | "center"
                | "address"
                | "form"
                | "fieldset"
                | "hgroup"
                | "search"
                | "body"
                | "caption"
                | "legend"
                | "dialog"
                | "frameset"
        )
}

/// A line that no paragraph holds has no space around it.
fn without_paragraph_space(mut attributes: Attributes) -> Attributes {
    if let Some(looks) = &mut attributes.edit().looks {
        looks.space_before.get_or_insert(Length::Points(0.0));
        looks.space_after.get_or_insert(Length::Points(0.0));
    }
    attributes
}

/// Lines with breaks between them.
fn lines_of(text: &str) -> Vec<Inline> {
    let mut inlines = Vec::new();
    for (at, line) in text.trim_end_matches('\n').split('\n').enumerate() {
        if at > 0 {
            inlines.push(Inline::Break(LineBreak::Hard));
        }
        if !line.is_empty() {
            inlines.push(Inline::Text(line.into()));
        }
    }
    inlines
}

/// A caption, with its label where it shows one as the writer does.
pub(super) fn labelled(mut content: Vec<Block>) -> Caption {
    let mut label = None;
    if let Some(Block { kind: BlockKind::Paragraph(inlines), .. }) = content.first_mut() {
        label = take_label(inlines);
        if label.is_some()
            && let Some(Inline::Text(text)) = inlines.first_mut()
        {
            *text = text.strip_prefix(':').unwrap_or(text).trim_start().into();
        }
    }
    Caption { label, content }
}

/// The lines of stanzas, each a paragraph; `None` where there is anything else.
fn verse_lines(content: &[Block]) -> Option<Vec<Vec<Inline>>> {
    let mut lines = Vec::new();
    for block in content {
        let BlockKind::Paragraph(stanza) = &block.kind else { return None };
        if !lines.is_empty() {
            lines.push(Vec::new());
        }
        let is_break = |inline: &Inline| matches!(inline, Inline::Break(LineBreak::Hard));
        lines.extend(stanza.split(is_break).map(<[Inline]>::to_vec));
    }
    (!lines.is_empty()).then_some(lines)
}
