//! What blocks and lines are gathered on.

use crate::document::{
    Attributes, Block, BlockKind, CompactString, Formatted, Formatting, Inline, LineBreak, Place,
    lines_in_order_mut,
};

/// Blocks, and the line that is being filled.
#[derive(Debug, Default)]
pub(super) struct Sheet {
    pub(super) blocks: Vec<Block>,
    /// Characters that are in no inline yet.
    pub(super) text: CompactString,
    /// The inlines of the line, and of each style that is open in it.
    line: Vec<Inline>,
    spans: Vec<Span>,
    /// How many spans were open where each group began.
    groups: Vec<usize>,
    /// Where the token stands that is read.
    pub(super) at: Place,
    /// Where the paragraph begins.
    place: Option<Place>,
    /// Whether it is a cell of a table, which `&` ends.
    pub(super) is_cell: bool,
    /// Whether it is a list, whose items stop it.
    pub(super) is_list: bool,
}

/// A style that lasts until its group ends.
#[derive(Debug, Clone)]
struct Span {
    style: SpanStyle,
    content: Vec<Inline>,
}

/// What is special about the text of a span.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum SpanStyle {
    Format(Formatting),
    Attributes(Attributes),
    Code,
}

impl Sheet {
    /// Where text goes now.
    fn target(&mut self) -> &mut Vec<Inline> {
        match self.spans.last_mut() {
            Some(span) => &mut span.content,
            None => &mut self.line,
        }
    }

    /// Characters become an inline.
    fn flush(&mut self) {
        if self.text.is_empty() {
            return;
        }
        let text = std::mem::take(&mut self.text);
        let is_code = self.spans.last().is_some_and(|span| span.style == SpanStyle::Code);
        self.put(match is_code {
            true => crate::document::build::code(text),
            false => Inline::Text(text),
        });
    }

    fn put(&mut self, inline: Inline) {
        self.mark_place();
        let target = self.target();
        if target.capacity() == 0 {
            // Most lines of tables and lists are one text.
            target.reserve_exact(1);
        }
        target.push(inline);
    }

    pub(super) fn push(&mut self, inline: Inline) {
        self.flush();
        self.put(inline);
    }

    pub(super) fn extend(&mut self, inlines: Vec<Inline>) {
        self.flush();
        self.target().extend(inlines);
    }

    /// Whether nothing stands in the line yet.
    pub(super) fn is_line_empty(&self) -> bool {
        self.text.is_empty()
            && self.line.is_empty()
            && self.spans.iter().all(|span| span.content.is_empty())
    }

    fn last_inline(&self) -> Option<&Inline> {
        self.spans.iter().rev().find_map(|span| span.content.last()).or(self.line.last())
    }

    /// White space between words: one is enough, and none begins a line.
    pub(super) fn space(&mut self, is_line_end: bool) {
        let is_first = match self.text.chars().next_back() {
            Some(last) => last == ' ',
            None => match self.last_inline() {
                None | Some(Inline::Break(_)) => true,
                Some(Inline::Text(text)) => text.ends_with(' '),
                Some(_) => false,
            },
        };
        if is_first {
            return;
        }
        if is_line_end {
            return self.push(Inline::Break(LineBreak::Soft));
        }
        self.text.push(' ');
    }

    /// A line break that readers see.
    pub(super) fn hard_break(&mut self) {
        self.trim();
        if !self.is_line_empty() {
            self.push(Inline::Break(LineBreak::Hard));
        }
    }

    /// Takes the last line away again, up to the break before it.
    pub(super) fn drop_line(&mut self) {
        self.flush();
        let target = self.target();
        let is_break = |inline: &Inline| matches!(inline, Inline::Break(LineBreak::Hard));
        let kept = target.iter().rposition(is_break).map_or(0, |at| at + 1);
        target.truncate(kept);
    }

    pub(super) fn open_group(&mut self) {
        self.groups.push(self.spans.len());
    }

    /// `false` where no group is open.
    pub(super) fn close_group(&mut self) -> bool {
        let Some(open) = self.groups.pop() else { return false };
        self.close_spans(open);
        true
    }

    /// A style from here to the end of the group.
    pub(super) fn open_span(&mut self, style: SpanStyle) {
        self.flush();
        self.spans.push(Span { style, content: Vec::new() });
    }

    /// Styles that this group has opened end here.
    pub(super) fn close_own_spans(&mut self) {
        let open = self.groups.last().copied().unwrap_or(0);
        self.close_spans(open);
    }

    fn close_spans(&mut self, until: usize) {
        self.flush();
        while self.spans.len() > until {
            let Some(span) = self.spans.pop() else { return };
            let styled = span.into_inlines();
            self.target().extend(styled);
        }
    }

    /// Takes white space from the end of the line.
    fn trim(&mut self) {
        let length = self.text.trim_end_matches([' ', '\n']).len();
        self.text.truncate(length);
        if !self.text.is_empty() {
            return;
        }
        let target = self.target();
        while let Some(last) = target.last_mut() {
            match last {
                Inline::Break(_) => {
                    target.pop();
                }
                Inline::Text(text) if text.ends_with(' ') => {
                    let length = text.trim_end_matches(' ').len();
                    if length == 0 {
                        target.pop();
                    } else {
                        text.truncate(length);
                        return;
                    }
                }
                _ => return,
            }
        }
    }

    /// Ends the paragraph. Styles that are open go on in the next one.
    pub(super) fn end_paragraph(&mut self) {
        let content = self.take_line();
        if content.is_empty() {
            return;
        }
        let place = self.place.take().unwrap_or_default();
        if self.blocks.capacity() == 0 {
            self.blocks.reserve_exact(1);
        }
        self.blocks.push(Block::new(BlockKind::of_line(content)).at(place));
    }

    /// The inlines of the line. Styles that are open stay open.
    pub(super) fn take_line(&mut self) -> Vec<Inline> {
        let styles: Vec<SpanStyle> = self.spans.iter().map(|span| span.style.clone()).collect();
        self.trim();
        self.close_spans(0);
        let mut content = std::mem::take(&mut self.line);
        for style in styles {
            self.spans.push(Span { style, content: Vec::new() });
        }
        trim_end(&mut content);
        content
    }

    /// Ends the paragraph and adds a block.
    pub(super) fn push_block(&mut self, block: Block) {
        self.end_paragraph();
        self.blocks.push(block);
    }

    /// A paragraph that begins now begins where the token stands that is read.
    pub(super) fn mark_place(&mut self) {
        self.place.get_or_insert(self.at);
    }

    pub(super) fn has_place(&self) -> bool {
        self.place.is_some()
    }

    pub(super) fn into_blocks(mut self) -> Vec<Block> {
        self.end_paragraph();
        self.blocks
    }

    /// The blocks that cannot stand in a line: what each is, and where.
    pub(super) fn blocks_beyond_lines(&self) -> impl Iterator<Item = (&'static str, Place)> {
        let beyond = |block: &Block| match block.kind {
            BlockKind::Paragraph(_)
            | BlockKind::Formula(_)
            | BlockKind::Foreign(_)
            | BlockKind::Code(_) => None,
            BlockKind::List(_) | BlockKind::DescriptionList(_) => Some("a list"),
            BlockKind::Quotation(_) => Some("a quotation"),
            BlockKind::Table(_) => Some("a table"),
            BlockKind::Figure(_) => Some("a figure"),
            BlockKind::Heading(_) => Some("a heading"),
            BlockKind::Verse(_) => Some("verse"),
            _ => Some("a block"),
        };
        self.blocks.iter().filter_map(move |block| Some((beyond(block)?, block.place)))
    }

    /// All as one line: paragraphs are parted by line breaks. Of other blocks the words stay.
    pub(super) fn into_inlines(mut self) -> Vec<Inline> {
        if self.blocks.is_empty() {
            self.close_spans(0);
            self.flush();
            return self.line;
        }
        self.end_paragraph();
        let mut inlines: Vec<Inline> = Vec::new();
        for mut block in self.blocks {
            match block.kind {
                BlockKind::Paragraph(content) => push_line(&mut inlines, content),
                BlockKind::Formula(formula) => {
                    push_line(&mut inlines, vec![Inline::Formula(formula)]);
                }
                BlockKind::Foreign(foreign) => {
                    push_line(&mut inlines, vec![Inline::Foreign(foreign)]);
                }
                BlockKind::Code(code) => {
                    let text = code.text.trim_end().replace('\n', " ");
                    push_line(&mut inlines, vec![crate::document::build::code(text)]);
                }
                _ => lines_in_order_mut(std::slice::from_mut(&mut block), |line| {
                    push_line(&mut inlines, std::mem::take(line));
                }),
            }
        }
        inlines
    }
}

impl Span {
    fn into_inlines(self) -> Vec<Inline> {
        if self.content.is_empty() {
            return Vec::new();
        }
        let (format, attributes) = match self.style {
            SpanStyle::Code => return self.content,
            SpanStyle::Format(format) => (format, Attributes::NONE),
            SpanStyle::Attributes(attributes) => (Formatting::Plain, attributes),
        };
        vec![Inline::Formatted(Box::new(Formatted { format, attributes, content: self.content }))]
    }
}

/// Adds a line behind others.
fn push_line(inlines: &mut Vec<Inline>, line: Vec<Inline>) {
    if !inlines.is_empty() && !line.is_empty() {
        inlines.push(Inline::Break(LineBreak::Hard));
    }
    inlines.extend(line);
}

/// Takes white space from the end of a line.
fn trim_end(content: &mut Vec<Inline>) {
    while let Some(last) = content.last_mut() {
        match last {
            Inline::Break(_) => {
                content.pop();
            }
            Inline::Text(text) => {
                let length = text.trim_end_matches([' ', '\n']).len();
                if length > 0 {
                    text.truncate(length);
                    return;
                }
                content.pop();
            }
            _ => return,
        }
    }
}
