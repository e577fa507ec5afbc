//! What a container (`::: name words {attributes}` to `:::`) becomes.

use super::assemble::{Assembler, admonition_kind};
use super::attribute_list::trailing_attributes;
use super::text::LeafText;
use super::tree::Node;
use crate::document::{
    Admonition, Attributes, Block, BlockKind, Caption, ContentsKind, ContentsList, Figure, Group,
    GroupRole, Inline, ListKind,
};
use crate::formats::markdown::containers::{
    CAPTION, CONTENTS_KINDS, Carrier, ContainerKind, DELIMITERS, NUMERALS, RoleName,
    container_kind, value_of,
};
use std::ops::Range;

impl Assembler<'_, '_> {
    /// Blocks between fences of colons: an admonition or a known kind by the first word, else a
    /// group whose classes are the words.
    pub(super) fn container(
        &mut self,
        node: &Node,
        info: Range<usize>,
        attributes: &mut Attributes,
    ) -> BlockKind {
        let text = self.source.get(info).unwrap_or_default();
        let text = trimmed(trimmed(text).trim_end_matches(':'));
        let (words, found) = trailing_attributes(text).unwrap_or((text, Attributes::NONE));
        *attributes = found;
        let (name, title) = words.split_once([' ', '\t']).unwrap_or((words, ""));
        let mut content = self.blocks(&node.children);
        if let Some(kind) = admonition_kind(name, attributes) {
            let title = self.inlines.read(LeafText::plain(title));
            let title = (!title.is_empty()).then_some(title);
            return BlockKind::Admonition(Box::new(Admonition { kind, title, content }));
        }
        let known = container_kind(name)
            .and_then(|kind| self.known_container(kind, trimmed(title), &mut content, attributes));
        if let Some(kind) = known {
            return kind;
        }
        if !words.is_empty() {
            let classes = words.split_whitespace().map(Into::into);
            attributes.edit().classes.splice(0..0, classes);
        }
        BlockKind::Group(Box::new(Group { role: GroupRole::Plain, content }))
    }

    /// A container of a known kind; `None`, with nothing changed, when what it holds does not fit.
    fn known_container(
        &mut self,
        kind: ContainerKind,
        words: &str,
        content: &mut Vec<Block>,
        attributes: &mut Attributes,
    ) -> Option<BlockKind> {
        Some(match kind {
            ContainerKind::Carrier(carrier) => carried(carrier, content, attributes)?,
            ContainerKind::Figure => {
                let caption = take_caption(content);
                BlockKind::Figure(Box::new(Figure { content: std::mem::take(content), caption }))
            }
            ContainerKind::Verse => BlockKind::Verse(verse_lines(content)?),
            ContainerKind::Role(name) => {
                let role = self.role(name, words)?;
                BlockKind::Group(Box::new(Group { role, content: std::mem::take(content) }))
            }
            ContainerKind::Break(kind) if content.is_empty() => BlockKind::Break(kind),
            ContainerKind::Contents if content.is_empty() => contents_list(words),
            ContainerKind::Bibliography if content.is_empty() => BlockKind::Bibliography,
            ContainerKind::Break(_) | ContainerKind::Contents | ContainerKind::Bibliography => {
                return None;
            }
        })
    }

    fn role(&mut self, name: RoleName, words: &str) -> Option<GroupRole> {
        Some(match name {
            RoleName::Aside => GroupRole::Aside,
            RoleName::Abstract => GroupRole::Abstract,
            RoleName::Disclosure => {
                GroupRole::Disclosure(self.inlines.read(LeafText::plain(words)))
            }
            RoleName::Statement => GroupRole::Statement(words.into()),
            RoleName::Drawer => GroupRole::Drawer(words.into()),
            RoleName::Columns => GroupRole::Columns(words.parse().ok()?),
            RoleName::Centred => GroupRole::Centred,
            RoleName::PageHeader => GroupRole::PageHeader,
            RoleName::PageFooter => GroupRole::PageFooter,
        })
    }
}

/// Without the white space that parts words in a line of markup.
fn trimmed(text: &str) -> &str {
    text.trim_matches([' ', '\t'])
}

/// The one block a carrier holds, with the container's attributes.
fn carried(
    carrier: Carrier,
    content: &mut Vec<Block>,
    attributes: &mut Attributes,
) -> Option<BlockKind> {
    let caption = if carrier == Carrier::Table && content.len() == 2 {
        Some(take_caption(content)?)
    } else {
        None
    };
    let [block] = content.as_slice() else { return None };
    let fits = match &block.kind {
        BlockKind::Paragraph(_) => carrier == Carrier::Paragraph,
        BlockKind::Quotation(_) => carrier == Carrier::Quotation,
        BlockKind::List(_) => carrier == Carrier::List,
        BlockKind::DescriptionList(_) => carrier == Carrier::Descriptions,
        BlockKind::Table(_) => carrier == Carrier::Table,
        BlockKind::Formula(_) => carrier == Carrier::Formula,
        BlockKind::ThematicBreak => carrier == Carrier::Rule,
        _ => false,
    };
    if !fits || !block.attributes.is_empty() {
        return None;
    }
    let mut kind = content.pop()?.kind;
    match &mut kind {
        BlockKind::Table(table) => table.caption = caption,
        BlockKind::List(list) => {
            if let ListKind::Numbered(numbering) = &mut list.kind {
                if let Some(style) = attributes.take_pair("numerals") {
                    numbering.style = value_of(&NUMERALS, &style).unwrap_or(numbering.style);
                }
                if let Some(mark) = attributes.take_pair("delimiter") {
                    numbering.delimiter =
                        value_of(&DELIMITERS, &mark).unwrap_or(numbering.delimiter);
                }
            }
        }
        BlockKind::Formula(formula) => {
            formula.label = attributes.take_pair("label");
            formula.number = attributes.take_pair("number");
        }
        _ => {}
    }
    Some(kind)
}

/// Takes a container `caption` off the end.
fn take_caption(content: &mut Vec<Block>) -> Option<Caption> {
    let last = content.last_mut()?;
    let BlockKind::Group(group) = &mut last.kind else { return None };
    let is_caption = group.role == GroupRole::Plain
        && last.attributes.classes().first().is_some_and(|class| class == CAPTION);
    if !is_caption {
        return None;
    }
    let content_of_caption = std::mem::take(&mut group.content);
    let label = last.attributes.take_pair("label");
    content.pop();
    Some(Caption { label, content: content_of_caption })
}

/// The lines of paragraphs, an empty one between two paragraphs; `None` when there is anything
/// else.
fn verse_lines(content: &mut Vec<Block>) -> Option<Vec<Vec<Inline>>> {
    let is_text = |block: &Block| {
        matches!(block.kind, BlockKind::Paragraph(_) | BlockKind::Formula(_))
            && block.attributes.is_empty()
    };
    if !content.iter().all(is_text) {
        return None;
    }
    let mut lines: Vec<Vec<Inline>> = Vec::new();
    for block in content.drain(..) {
        let inlines = match block.kind {
            BlockKind::Paragraph(inlines) => inlines,
            BlockKind::Formula(formula) => vec![Inline::Formula(formula)],
            _ => continue,
        };
        if !lines.is_empty() {
            lines.push(Vec::new());
        }
        lines.push(Vec::new());
        for inline in inlines {
            match (inline, lines.last_mut()) {
                (Inline::Break(_), _) => lines.push(Vec::new()),
                (inline, Some(line)) => line.push(inline),
                (_, None) => {}
            }
        }
    }
    Some(lines)
}

/// `contents figures`, `contents headings 2`
fn contents_list(words: &str) -> BlockKind {
    let mut words = words.split_whitespace().peekable();
    let kind = words.peek().and_then(|word| value_of(&CONTENTS_KINDS, word));
    if kind.is_some() {
        words.next();
    }
    let depth = words.next().and_then(|depth| depth.parse().ok()).unwrap_or(0);
    BlockKind::Contents(Box::new(ContentsList {
        kind: kind.unwrap_or(ContentsKind::Headings),
        depth,
    }))
}
