//! Content controls that Obblet wrote around blocks which belong together.

use super::super::vocabulary::{BOX_TITLE, CAPTION, Container};
use super::super::xml::Xml;
use super::gather::Gatherer;
use super::{Reader, captions};
use crate::document::{
    Admonition, AdmonitionKind, Block, BlockKind, CompactString, ContentsList, Figure, Group,
    GroupRole, Inline, plain_text,
};
use crate::locale::Words;

impl Reader<'_> {
    /// Reads what stands in such a control.
    pub(super) fn contained(
        &mut self,
        container: Container<'_>,
        alias: Option<&str>,
        xml: &mut Xml<'_>,
        gatherer: &mut Gatherer,
    ) {
        let place = self.place();
        let mut inner = Gatherer::new(self.options.looks);
        inner.is_quotation = container == Container::Quotation;
        self.gather(xml, &mut inner);
        self.rest_carried_over(&mut inner);
        let mut content = inner.finish();
        let mut id = None;
        let kind = match container {
            Container::Apart => return gatherer.push_apart(content),
            Container::Item(level) => return gatherer.push_to_item(level, content),
            Container::Description => return gatherer.push_to_description(content),
            Container::For(names) => {
                for block in &mut content {
                    block.attributes.edit().audiences = audiences(names);
                }
                return gatherer.push_apart(content);
            }
            Container::Quotation => BlockKind::Quotation(content),
            Container::Figure => figure(content),
            Container::Admonition(name) => {
                let kind = AdmonitionKind::named(name);
                let mut title = take_title(&mut content, alias);
                id = title.as_mut().and_then(take_anchor);
                let title = title.filter(|title| !is_usual(title, &kind));
                BlockKind::Admonition(Box::new(Admonition { kind, title, content }))
            }
            Container::Disclosure => {
                let mut summary = take_title(&mut content, alias).unwrap_or_default();
                id = take_anchor(&mut summary);
                group(GroupRole::Disclosure(summary), content)
            }
            Container::Aside => group(GroupRole::Aside, content),
            Container::Abstract => group(GroupRole::Abstract, content),
            Container::Statement(name) => group(GroupRole::Statement(name.into()), content),
            Container::Drawer(name) => group(GroupRole::Drawer(name.into()), content),
            Container::Centred => group(GroupRole::Centred, content),
            Container::Group => group(GroupRole::Plain, content),
            // Its entries are made anew.
            Container::Listed(kind) => {
                BlockKind::Contents(Box::new(ContentsList { kind, depth: 0 }))
            }
        };
        let mut block = Block::new(kind).at(place);
        if let Some(id) = id.or_else(|| id_of_first(&mut block)) {
            block.attributes.edit().id = Some(id);
        }
        gatherer.push(block);
    }
}

/// Audiences by their names.
pub(super) fn audiences(names: &str) -> Vec<CompactString> {
    names.split(',').map(str::trim).filter(|name| !name.is_empty()).map(Into::into).collect()
}

fn group(role: GroupRole, content: Vec<Block>) -> BlockKind {
    BlockKind::Group(Box::new(Group { role, content }))
}

fn has_style(block: &Block, name: &str) -> bool {
    block.attributes.style().is_some_and(|style| style.eq_ignore_ascii_case(name))
}

/// The title at the beginning of a box: by its style, or by the words that the control is named after.
fn take_title(content: &mut Vec<Block>, alias: Option<&str>) -> Option<Vec<Inline>> {
    let is_named = |block: &Block| match &block.kind {
        BlockKind::Paragraph(title) => {
            alias.is_some_and(|alias| plain_text(title).starts_with(alias))
        }
        _ => false,
    };
    let is_title = |block: &&mut Block| has_style(block, BOX_TITLE) || is_named(block);
    let first = content.first_mut().filter(is_title)?;
    let BlockKind::Paragraph(title) = &mut first.kind else { return None };
    let title = std::mem::take(title);
    content.remove(0);
    Some(title)
}

/// Whether a title only says what kind of admonition it is, in any language.
fn is_usual(title: &[Inline], kind: &AdmonitionKind) -> bool {
    let title = plain_text(title);
    match kind {
        AdmonitionKind::Other(name) => title == name.as_str(),
        kind => Words::all().any(|words| words.admonition(kind) == title),
    }
}

/// A figure, with its caption if it has one.
fn figure(mut content: Vec<Block>) -> BlockKind {
    if matches!(&content[..], [Block { kind: BlockKind::Figure(_), .. }])
        && let Some(Block { kind: kind @ BlockKind::Figure(_), .. }) = content.pop()
    {
        return kind;
    }
    let caption = content.pop_if(|block| has_style(block, CAPTION));
    let caption = caption.map(|block| captions::caption(block, false));
    BlockKind::Figure(Box::new(Figure { content, caption }))
}

/// A place at the beginning of the first paragraph is that of the whole. Boxes have theirs in their titles.
fn id_of_first(block: &mut Block) -> Option<CompactString> {
    let content = match &mut block.kind {
        BlockKind::Quotation(content) => content,
        BlockKind::Figure(figure) => &mut figure.content,
        BlockKind::Group(group) if !matches!(group.role, GroupRole::Disclosure(_)) => {
            &mut group.content
        }
        _ => return None,
    };
    match &mut content.first_mut()?.kind {
        BlockKind::Paragraph(inlines) => take_anchor(inlines),
        _ => None,
    }
}

/// The place at the beginning of a line, where anything follows.
fn take_anchor(inlines: &mut Vec<Inline>) -> Option<CompactString> {
    let Some(Inline::Anchor(anchor)) = inlines.first().filter(|_| inlines.len() > 1) else {
        return None;
    };
    let id = anchor.id.clone();
    inlines.remove(0);
    Some(id)
}
