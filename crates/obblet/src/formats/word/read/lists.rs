//! From a row of paragraphs to blocks: items become nested lists, code lines a code block,
//! quotations and captions what they are.

use super::numbering::{NumberFormat, Numbered};
use super::paragraphs::Paragraph;
use super::styles::Role;
use crate::document::{
    Attributes, Block, BlockKind, Caption, CodeBlock, ContentsKind, ContentsList, Figure, Heading,
    Inline, List, ListItem, ListKind, ListSpacing, Numbering, NumeralStyle, Place, plain_text,
};

/// A list that may still get items.
struct OpenList {
    level: usize,
    sequence: i64,
    format: NumberFormat,
    last_number: i32,
    list: List,
    place: Place,
}

/// Puts paragraphs together.
#[derive(Default)]
pub(super) struct Gatherer {
    blocks: Vec<Block>,
    /// Open lists, the outermost first.
    lists: Vec<OpenList>,
}

impl Gatherer {
    /// Adds a block that is no paragraph.
    pub(super) fn push(&mut self, block: Block) {
        self.close_lists(0);
        let block = with_caption_above(&mut self.blocks, block);
        self.blocks.push(block);
    }

    /// Adds a paragraph. `style` is the name of its style.
    pub(super) fn push_paragraph(&mut self, paragraph: Paragraph, style: Option<String>) {
        let is_heading = matches!(paragraph.role, Role::Heading(_) | Role::Title);
        match &paragraph.numbered {
            Some(numbered) if !is_heading && numbered.format != NumberFormat::None => {
                let numbered = numbered.clone();
                self.push_item(paragraph, &numbered);
            }
            _ if paragraph.content.is_empty() => {}
            _ if paragraph.role == Role::ListContinuation && !self.lists.is_empty() => {
                let block = text_block(paragraph, None);
                if let Some(item) = self.last_item() {
                    item.content.push(block);
                }
            }
            _ => self.push_text(paragraph, style),
        }
    }

    fn last_item(&mut self) -> Option<&mut ListItem> {
        self.lists.last_mut()?.list.items.last_mut()
    }

    fn push_text(&mut self, paragraph: Paragraph, style: Option<String>) {
        self.close_lists(0);
        let place = paragraph.place;
        match paragraph.role {
            Role::Title => {
                let mut block = heading(paragraph, 1);
                block.attributes.edit().style = style.map(Into::into);
                self.blocks.push(block);
            }
            Role::Heading(level) => self.blocks.push(heading(paragraph, level)),
            Role::Code => self.push_code(&plain_lines(&paragraph.content), place),
            Role::Quotation => {
                let block = text_block(paragraph, None);
                match self.blocks.last_mut() {
                    Some(Block { kind: BlockKind::Quotation(content), .. }) => content.push(block),
                    _ => self.blocks.push(Block::new(BlockKind::Quotation(vec![block])).at(place)),
                }
            }
            Role::ContentsEntry => {
                let is_there =
                    self.blocks.iter().any(|block| matches!(block.kind, BlockKind::Contents(_)));
                if !is_there {
                    let contents = ContentsList { kind: ContentsKind::Headings, depth: 0 };
                    self.blocks.push(Block::new(BlockKind::Contents(Box::new(contents))).at(place));
                }
            }
            Role::Caption => self.push_caption(paragraph, style),
            Role::Text | Role::ListContinuation => self.blocks.push(text_block(paragraph, style)),
        }
    }

    fn push_code(&mut self, text: &str, place: Place) {
        if let Some(Block { kind: BlockKind::Code(code), .. }) = self.blocks.last_mut() {
            code.text.push_str(text);
            code.text.push('\n');
            return;
        }
        let code = CodeBlock { text: format!("{text}\n"), ..CodeBlock::default() };
        self.blocks.push(Block::new(BlockKind::Code(Box::new(code))).at(place));
    }

    /// A caption below a picture makes the two a figure; one above a table waits for it.
    fn push_caption(&mut self, paragraph: Paragraph, style: Option<String>) {
        let is_below_picture = self.blocks.last().is_some_and(is_picture_alone);
        let mut block = text_block(paragraph, style);
        if !is_below_picture {
            self.blocks.push(block);
            return;
        }
        block.attributes = Attributes::NONE;
        if let Some(picture) = self.blocks.pop() {
            let place = picture.place;
            let caption = Some(Caption { label: None, content: vec![block] });
            let figure = Figure { content: vec![picture], caption };
            self.blocks.push(Block::new(BlockKind::Figure(Box::new(figure))).at(place));
        }
    }

    fn push_item(&mut self, paragraph: Paragraph, numbered: &Numbered) {
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
            self.lists.push(open_list(numbered, place));
        }
        let Some(open) = self.lists.last_mut() else { return };
        let expected = open.last_number.saturating_add(1);
        let is_first = open.list.items.is_empty();
        let jumps = !is_first && open.format != NumberFormat::Bullet && numbered.number != expected;
        open.last_number = numbered.number;
        open.list.items.push(ListItem {
            content: vec![text_block(paragraph, None)],
            number: jumps.then_some(numbered.number),
            place,
            ..ListItem::default()
        });
    }

    /// Closes open lists until only so many are left; each goes into the item around it.
    fn close_lists(&mut self, left: usize) {
        while self.lists.len() > left {
            let Some(open) = self.lists.pop() else { return };
            let block = Block::new(BlockKind::List(Box::new(open.list))).at(open.place);
            match self.last_item() {
                Some(item) => item.content.push(block),
                None => self.blocks.push(block),
            }
        }
    }

    pub(super) fn finish(mut self) -> Vec<Block> {
        self.close_lists(0);
        self.blocks
    }
}

/// Whether an item goes on with an open list: the same counters, counting on.
fn continues(open: &OpenList, numbered: &Numbered) -> bool {
    let is_bullet = numbered.format == NumberFormat::Bullet;
    open.sequence == numbered.sequence
        && open.format == numbered.format
        && (is_bullet || numbered.number > open.last_number)
}

fn open_list(numbered: &Numbered, place: Place) -> OpenList {
    let style = match numbered.format {
        NumberFormat::Numeral(style) => Some(style),
        NumberFormat::TwoDigits => Some(NumeralStyle::Decimal),
        NumberFormat::Bullet | NumberFormat::None => None,
    };
    let kind = match style {
        Some(style) => ListKind::Numbered(Numbering {
            start: numbered.number,
            style,
            delimiter: numbered.delimiter,
            sequence: Some(numbered.sequence.to_string().into()),
            pattern: numbered.pattern.as_ref().map(Into::into),
        }),
        None => ListKind::Bulleted(None),
    };
    OpenList {
        level: numbered.level,
        sequence: numbered.sequence,
        format: numbered.format,
        last_number: numbered.number,
        list: List { kind, spacing: ListSpacing::Tight, items: Vec::new() },
        place,
    }
}

fn heading(paragraph: Paragraph, level: u8) -> Block {
    let number = paragraph.numbered.filter(|numbered| numbered.format != NumberFormat::Bullet);
    let number = number.map(|numbered| numbered.label.trim().into());
    let number = number.filter(|label: &crate::document::CompactString| !label.is_empty());
    let heading = Heading { level, content: paragraph.content, number, ..Heading::default() };
    let mut block = Block::new(BlockKind::Heading(Box::new(heading))).at(paragraph.place);
    if paragraph.direction.is_some() {
        block.attributes.edit().direction = paragraph.direction;
    }
    block
}

/// A paragraph as a block; its style's name stays with it where it says something of its own.
fn text_block(paragraph: Paragraph, style: Option<String>) -> Block {
    let mut block = Block::new(BlockKind::Paragraph(paragraph.content)).at(paragraph.place);
    let style = style.filter(|name| !matches!(name.as_str(), "normal" | "body text"));
    if style.is_some() || paragraph.direction.is_some() {
        let set = block.attributes.edit();
        set.style = style.map(Into::into);
        set.direction = paragraph.direction;
    }
    block
}

/// Text with a line ending for each hard break.
fn plain_lines(content: &[Inline]) -> String {
    let breaks = content.split(|inline| matches!(inline, Inline::Break(_)));
    breaks.map(plain_text).collect::<Vec<String>>().join("\n")
}

fn is_picture_alone(block: &Block) -> bool {
    match &block.kind {
        BlockKind::Paragraph(content) => {
            let mut shown = content.iter().filter(|inline| !matches!(inline, Inline::Anchor(_)));
            matches!(shown.next(), Some(Inline::Picture(_))) && shown.next().is_none()
        }
        _ => false,
    }
}

/// A table takes the caption that stands right above it.
fn with_caption_above(blocks: &mut Vec<Block>, mut block: Block) -> Block {
    let BlockKind::Table(table) = &mut block.kind else { return block };
    let is_caption = |block: &Block| block.attributes.style() == Some("caption");
    if table.caption.is_none()
        && blocks.last().is_some_and(is_caption)
        && let Some(mut caption) = blocks.pop()
    {
        caption.attributes = Attributes::NONE;
        table.caption = Some(Caption { label: None, content: vec![caption] });
    }
    block
}
