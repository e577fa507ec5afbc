//! From a row of paragraphs to blocks: items become nested lists, code lines a code block,
//! quotations and captions what they are, sections in columns groups.

use super::super::number_formats::NumberFormat;
use super::super::vocabulary::code_language;
use super::captions;
use super::descriptions;
use super::numbering::{LEVELS, Numbered};
use super::paragraphs::{Paragraph, without_indents};
use super::sections::Section;
use super::styles::Role;
use crate::document::{
    Attributes, Block, BlockKind, BreakKind, CodeBlock, CompactString, Group, GroupRole, Heading,
    Inline, Length, List, ListItem, ListKind, ListSpacing, Looks, NumberDelimiter, Numbering,
    NumeralStyle, Place,
};

/// A list that may still get items.
struct OpenList {
    level: usize,
    sequence: i64,
    format: NumberFormat,
    delimiter: NumberDelimiter,
    last_number: i32,
    list: List,
    place: Place,
    looks: Option<Box<Looks>>,
    /// How far its text stands from that of the text around all lists, in points.
    indent: f32,
}

/// Puts paragraphs together.
#[derive(Default)]
pub(super) struct Gatherer {
    keeps_looks: bool,
    /// All that is gathered stands in a quotation, which the style of quotations needs not say again.
    pub(super) is_quotation: bool,
    blocks: Vec<Block>,
    /// Open lists, the outermost first.
    lists: Vec<OpenList>,
    /// Where the section begins that is being read.
    section_start: usize,
    /// The style of the paragraph before, where it wants no space to others of its style.
    last_style: Option<CompactString>,
}

impl Gatherer {
    pub(super) fn new(keeps_looks: bool) -> Self {
        Self { keeps_looks, ..Self::default() }
    }

    /// Adds a block that is no paragraph.
    pub(super) fn push(&mut self, block: Block) {
        self.close_lists(0);
        self.last_style = None;
        captions::push_object(&mut self.blocks, block, self.keeps_looks);
    }

    /// Adds a paragraph; one without content only where it is kept as space.
    pub(super) fn push_paragraph(&mut self, mut paragraph: Paragraph, keeps_empty: bool) {
        self.join_contextual(&mut paragraph);
        let is_heading = matches!(paragraph.role, Role::Heading(_) | Role::Title);
        let is_item = !is_heading && paragraph.role != Role::ContentsEntry;
        match paragraph.numbered.take() {
            Some(numbered) if is_item && numbered.format() != NumberFormat::None => {
                self.push_item(paragraph, &numbered);
            }
            numbered => {
                paragraph.numbered = numbered;
                self.push_other(paragraph, keeps_empty);
            }
        }
    }

    fn push_other(&mut self, paragraph: Paragraph, keeps_empty: bool) {
        // An empty line of code is a line.
        let is_line = paragraph.role == Role::Code && self.is_behind_code();
        let says_much =
            is_line || matches!(paragraph.role, Role::ThematicBreak | Role::Description);
        if paragraph.content.is_empty() && !keeps_empty && !says_much {
            return;
        }
        if let Role::ListContinuation(level) = paragraph.role
            && !self.lists.is_empty()
        {
            let level = level.map_or(LEVELS, usize::from);
            return self.push_to_item(level, vec![text_block(paragraph)]);
        }
        self.close_lists(0);
        self.push_text(paragraph);
    }

    /// Neighbours of one style that wants it so have no space between them (17.3.1.9).
    fn join_contextual(&mut self, paragraph: &mut Paragraph) {
        let style = paragraph.style.id.clone().filter(|_| paragraph.is_contextual);
        let is_same = style.is_some() && self.last_style == style;
        self.last_style = style;
        if !is_same || !self.keeps_looks {
            return;
        }
        let nothing = Some(Length::Points(0.0));
        if let Some(before) = self.last_attributes() {
            before.edit().looks.get_or_insert_default().space_after = nothing;
        }
        paragraph.attributes.edit().looks.get_or_insert_default().space_before = nothing;
    }

    fn last_attributes(&mut self) -> Option<&mut Attributes> {
        match self.lists.last_mut() {
            Some(open) => open.list.items.last_mut().map(|item| &mut item.attributes),
            None => self.blocks.last_mut().map(|block| &mut block.attributes),
        }
    }

    fn last_item(&mut self) -> Option<&mut ListItem> {
        self.lists.last_mut()?.list.items.last_mut()
    }

    fn is_behind_code(&self) -> bool {
        self.lists.is_empty()
            && matches!(self.blocks.last(), Some(Block { kind: BlockKind::Code(_), .. }))
    }

    /// Adds blocks to the last item of a list level, or of the deepest one that is open.
    pub(super) fn push_to_item(&mut self, level: usize, blocks: Vec<Block>) {
        while self.lists.len() > 1 && self.lists.last().is_some_and(|open| open.level > level) {
            self.close_lists(self.lists.len() - 1);
        }
        match self.last_item() {
            Some(item) => item.content.extend(blocks),
            None => self.push_apart(blocks),
        }
    }

    /// Adds blocks that grow together with nothing before them.
    pub(super) fn push_apart(&mut self, blocks: Vec<Block>) {
        self.close_lists(0);
        self.last_style = None;
        self.blocks.extend(blocks);
    }

    fn push_text(&mut self, paragraph: Paragraph) {
        let place = paragraph.place;
        match paragraph.role {
            Role::Quotation if self.is_quotation => self.blocks.push(text_block(paragraph)),
            Role::Term | Role::Description | Role::DescriptionMore => {
                descriptions::push(&mut self.blocks, paragraph);
            }
            Role::ThematicBreak => {
                let mut block = Block::new(BlockKind::ThematicBreak).at(place);
                block.attributes = paragraph.attributes;
                self.blocks.push(block);
            }
            Role::Verse => {
                let is_break = |inline: &Inline| matches!(inline, Inline::Break(_));
                let lines = paragraph.content.split(is_break).map(<[Inline]>::to_vec).collect();
                let mut block = Block::new(BlockKind::Verse(lines)).at(place);
                block.attributes = paragraph.attributes;
                self.blocks.push(block);
            }
            Role::Title => self.blocks.push(heading(paragraph, 1)),
            Role::Heading(level) => self.blocks.push(heading(paragraph, level)),
            Role::Code => self.push_code(paragraph),
            Role::Quotation => {
                let block = text_block(paragraph);
                match self.blocks.last_mut() {
                    Some(Block { kind: BlockKind::Quotation(content), .. }) => content.push(block),
                    _ => self.blocks.push(Block::new(BlockKind::Quotation(vec![block])).at(place)),
                }
            }
            // The list is made anew where its field begins.
            Role::ContentsEntry => {}
            Role::Caption => captions::push_caption(&mut self.blocks, paragraph, self.keeps_looks),
            Role::Text | Role::ListContinuation(_) => self.blocks.push(text_block(paragraph)),
        }
    }

    /// Adds blocks to the last description.
    pub(super) fn push_to_description(&mut self, content: Vec<Block>) {
        self.close_lists(0);
        if let Some(rest) = descriptions::extend(&mut self.blocks, content) {
            self.blocks.extend(rest);
        }
    }

    fn push_code(&mut self, paragraph: Paragraph) {
        let mut code = CodeBlock::of_inlines(paragraph.content);
        if code.text.is_empty() {
            code.text.push('\n');
        }
        let language = paragraph.style.name.as_deref().and_then(code_language);
        let language = language.map(CompactString::from);
        if let Some(Block { kind: BlockKind::Code(before), .. }) = self.blocks.last_mut()
            && before.language == language
        {
            return before.append(code);
        }
        code.language = language;
        let mut block = Block::new(BlockKind::Code(Box::new(code))).at(paragraph.place);
        block.attributes = paragraph.attributes;
        self.blocks.push(block);
    }

    fn push_item(&mut self, mut paragraph: Paragraph, numbered: &Numbered) {
        let place = paragraph.place;
        // Lists deeper than this item are over; so is a list of the same level that is another.
        while let Some(open) = self.lists.last() {
            let goes_on = open.level == numbered.level && continues(open, numbered);
            if open.level < numbered.level || goes_on {
                break;
            }
            self.close_lists(self.lists.len() - 1);
        }
        if self.lists.last().is_none_or(|open| open.level < numbered.level) {
            let outer = self.lists.last().map_or(0.0, |open| open.indent);
            let open = open_list(numbered, &paragraph, outer);
            self.lists.push(open);
        }
        let Some(open) = self.lists.last_mut() else { return };
        let expected = open.last_number.saturating_add(1);
        let is_first = open.list.items.is_empty();
        let jumps = !is_first && open.format != NumberFormat::Bullet && numbered.number != expected;
        open.last_number = numbered.number;
        let attributes = item_attributes(&mut paragraph);
        if is_first && paragraph.is_loose {
            open.list.spacing = ListSpacing::Loose;
        }
        open.list.items.push(ListItem {
            check: paragraph.check,
            content: if is_mark_of_nothing(&paragraph.content) {
                Vec::new()
            } else {
                vec![text_block(paragraph)]
            },
            number: jumps.then_some(numbered.number),
            label: label(numbered),
            attributes,
            place,
        });
    }

    /// Closes open lists until only so many are left; each goes into the item around it.
    fn close_lists(&mut self, left: usize) {
        while self.lists.len() > left {
            let Some(open) = self.lists.pop() else { return };
            let mut block = Block::new(BlockKind::List(Box::new(open.list))).at(open.place);
            if let Some(looks) = open.looks {
                block.attributes.edit().looks = Some(looks);
            }
            match self.last_item() {
                Some(item) => item.content.push(block),
                None => self.blocks.push(block),
            }
        }
    }

    /// The section before is over: what stands in columns becomes a group of its own.
    pub(super) fn end_section(&mut self, section: &Section) {
        self.close_lists(0);
        let start = self.section_start.min(self.blocks.len());
        if section.columns > 1 && self.blocks.len() > start {
            let content = self.blocks.split_off(start);
            let place = content.first().map(|block| block.place).unwrap_or_default();
            let group = Group { role: GroupRole::Columns(section.columns), content };
            let mut block = Block::new(BlockKind::Group(Box::new(group))).at(place);
            if self.keeps_looks {
                let columns = Some(section.columns);
                let looks = Looks { columns, ..Looks::default() };
                block.attributes.edit().looks = Some(Box::new(looks));
            }
            self.blocks.push(block);
        }
        if start > 0 && !section.is_continuous && self.blocks.len() > start {
            let place = self.blocks.get(start).map(|block| block.place).unwrap_or_default();
            let kind = BlockKind::Break(BreakKind::Section);
            self.blocks.insert(start, Block::new(kind).at(place));
        }
        self.section_start = self.blocks.len();
    }

    pub(super) fn finish(mut self) -> Vec<Block> {
        self.close_lists(0);
        self.blocks
    }
}

/// Whether an item goes on with an open list: the same counters, counting on.
fn continues(open: &OpenList, numbered: &Numbered) -> bool {
    let is_bullet = numbered.format() == NumberFormat::Bullet;
    open.sequence == numbered.sequence
        && open.format == numbered.format()
        && open.delimiter == numbered.delimiter
        && (is_bullet || numbered.number > open.last_number)
}

fn open_list(numbered: &Numbered, first: &Paragraph, outer: f32) -> OpenList {
    let format = numbered.format();
    let definition = &numbered.definition;
    let style = match format {
        NumberFormat::Numeral(style) => Some(style),
        NumberFormat::Spelled(_) => Some(NumeralStyle::Decimal),
        NumberFormat::Bullet | NumberFormat::None => None,
    };
    let kind = match style {
        Some(style) => ListKind::Numbered(Numbering {
            start: numbered.number,
            style,
            delimiter: numbered.delimiter,
            sequence: Some(numbered.sequence.to_string().into()),
            pattern: numbered.pattern.clone(),
        }),
        None => ListKind::Bulleted(definition.bullet),
    };
    let own = first.attributes.looks().and_then(|looks| looks.indent_start);
    let of_style = first.style.paragraph.looks.as_ref().and_then(|looks| looks.indent_start);
    let mut indent = outer;
    let mut looks = None;
    if let Some(Length::Points(points)) = own.or(of_style) {
        indent = points;
        let marker = definition.bullet.filter(|bullet| !matches!(bullet, '•' | '●' | '·'));
        looks = Some(Box::new(Looks {
            indent_start: Some(Length::Points(points - outer)),
            marker: marker.map(|bullet| bullet.to_string().into()),
            ..Looks::default()
        }));
    }
    OpenList {
        level: numbered.level,
        sequence: numbered.sequence,
        format,
        delimiter: numbered.delimiter,
        last_number: numbered.number,
        list: List { kind, spacing: ListSpacing::Tight, items: Vec::new() },
        place: first.place,
        looks,
        indent,
    }
}

/// The label of an item where it is more than a number with its mark.
fn label(numbered: &Numbered) -> Option<CompactString> {
    let is_more = numbered.pattern.is_some()
        || numbered.delimiter == NumberDelimiter::Parentheses
        || matches!(numbered.format(), NumberFormat::Spelled(_));
    let is_number = numbered.format() != NumberFormat::Bullet;
    let label = numbered.label.trim();
    (is_more && is_number && !label.is_empty()).then(|| label.into())
}

/// What an item's only paragraph says of its looks stands with the item; the list has its indent.
fn item_attributes(paragraph: &mut Paragraph) -> Attributes {
    let Some(set) = paragraph.attributes.get() else { return Attributes::NONE };
    let mut attributes = Attributes::NONE;
    if set.looks.is_some() || paragraph.style.paragraph.looks.is_some() {
        let mut looks = set.looks.as_deref().map(without_indents).unwrap_or_default();
        let of_style = paragraph.style.paragraph.looks.as_deref();
        let nothing = Some(Length::Points(0.0));
        if set.style.is_some() && of_style.is_some_and(|style| style.indent_start.is_some()) {
            looks.indent_start = nothing;
        }
        if set.style.is_some() && of_style.is_some_and(|style| style.indent_first.is_some()) {
            looks.indent_first = nothing;
        }
        attributes.edit().style.clone_from(&set.style);
        if !looks.is_empty() {
            attributes.edit().looks = Some(Box::new(looks));
        }
    }
    let edited = paragraph.attributes.edit();
    edited.looks = None;
    edited.style = None;
    attributes
}

/// Whether there is nothing but the bookmark of an item without text of its own.
fn is_mark_of_nothing(content: &[Inline]) -> bool {
    matches!(content, [Inline::Anchor(anchor)] if anchor.id.starts_with("_Item"))
}

fn heading(paragraph: Paragraph, level: u8) -> Block {
    let number = paragraph.numbered.filter(|numbered| numbered.format() != NumberFormat::Bullet);
    let number: Option<CompactString> = number.map(|numbered| numbered.label.trim().into());
    let number = number.filter(|label| !label.is_empty());
    let heading = Heading { level, content: paragraph.content, number, ..Heading::default() };
    let mut block = Block::new(BlockKind::Heading(Box::new(heading))).at(paragraph.place);
    block.attributes = paragraph.attributes;
    block
}

/// A paragraph as a block; its style's name stays with it.
pub(super) fn text_block(paragraph: Paragraph) -> Block {
    let mut block = Block::new(BlockKind::of_line(paragraph.content)).at(paragraph.place);
    block.attributes = paragraph.attributes;
    block
}
