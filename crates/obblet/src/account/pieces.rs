//! The words of a document, piece by piece, in reading order.

use crate::document::{
    Block, BlockKind, Document, GroupRole, Inline, Node, Place, plain_text, walk,
};

/// What a document's words are given to.
pub(super) trait Pieces {
    /// A block begins that stood here in the source.
    fn block(&mut self, place: Place);

    /// Words of the text.
    fn text(&mut self, text: &str);

    /// Words that stand beside the text, or are written in another way: what describes a picture,
    /// formulas, what a reference showed.
    fn aside(&mut self, text: &str);

    /// Words that readers do not see: addresses, names of places.
    fn attribute(&mut self, _text: &str) {}

    /// Markup of another format, with words in it.
    fn raw(&mut self, format: &str, markup: &str);

    /// A formula.
    fn formula(&mut self, source: &str) {
        self.aside(source);
    }
}

/// The words of a document's notes and comments.
pub(super) fn give_beside(document: &Document, pieces: &mut impl Pieces) {
    for note in &document.notes {
        give_blocks(&note.content, pieces);
    }
    for comment in &document.comments {
        give_blocks(&comment.content, pieces);
    }
}

/// The words of blocks.
pub(super) fn give_blocks(blocks: &[Block], pieces: &mut impl Pieces) {
    let mut nodes = walk(blocks);
    // Pictures whose parts are being walked: their words are asides.
    let mut aside_above = usize::MAX;
    while let Some(node) = nodes.next_node() {
        let depth = nodes.depth();
        if depth <= aside_above {
            aside_above = usize::MAX;
        }
        match node {
            Node::Block(block) => give_block(block, pieces),
            Node::Inline(Inline::Text(text)) if aside_above == usize::MAX => pieces.text(text),
            Node::Inline(inline) => {
                let begins_aside = matches!(inline, Inline::Picture(_) | Inline::Reference(_));
                if begins_aside && aside_above == usize::MAX {
                    aside_above = depth;
                }
                give_inline(inline, pieces);
            }
            Node::Item(_) | Node::Row(..) | Node::Cell(_) => {}
        }
    }
}

fn give_block(block: &Block, pieces: &mut impl Pieces) {
    pieces.block(block.place);
    match &block.kind {
        BlockKind::Heading(heading) => {
            heading.number.iter().for_each(|number| pieces.aside(number));
            heading.task.iter().for_each(|task| pieces.aside(&task.keyword));
            heading.tags.iter().for_each(|tag| pieces.aside(tag));
        }
        BlockKind::Code(code) => {
            code.details.iter().for_each(|details| pieces.aside(details));
            pieces.text(&code.text);
        }
        BlockKind::Formula(formula) => pieces.formula(&formula.source),
        BlockKind::Table(table) => {
            let label = table.caption.as_ref().and_then(|caption| caption.label.as_deref());
            label.into_iter().for_each(|label| pieces.aside(label));
        }
        BlockKind::Figure(figure) => {
            let label = figure.caption.as_ref().and_then(|caption| caption.label.as_deref());
            label.into_iter().for_each(|label| pieces.aside(label));
        }
        BlockKind::Group(group) => match &group.role {
            GroupRole::Statement(name) | GroupRole::Drawer(name) => pieces.aside(name),
            _ => {}
        },
        BlockKind::Foreign(foreign) => pieces.raw(&foreign.format, &foreign.markup),
        BlockKind::SourceRemark(remark) => pieces.aside(remark),
        _ => {}
    }
}

fn give_inline(inline: &Inline, pieces: &mut impl Pieces) {
    match inline {
        Inline::Text(text) => pieces.aside(text),
        Inline::Code(code) => pieces.text(&code.text),
        Inline::Formula(formula) => pieces.formula(&formula.source),
        Inline::Foreign(foreign) => pieces.raw(&foreign.format, &foreign.markup),
        Inline::Timestamp(timestamp) => pieces.aside(&timestamp.spelled()),
        Inline::Link(link) => pieces.attribute(&link.address),
        Inline::Reference(reference) => pieces.attribute(&reference.target),
        Inline::Citation(citation) => {
            citation.works.iter().for_each(|cite| pieces.aside(&cite.key));
        }
        _ => {}
    }
}

/// What a document says about itself, as far as readers may see it.
pub(super) fn of_itself(document: &Document) -> Vec<String> {
    let metadata = &document.metadata;
    let lines = [&metadata.title, &metadata.subtitle].map(|line| plain_text(line));
    let people = metadata.authors.iter().flat_map(|person| {
        [Some(&person.name), person.affiliation.as_ref(), person.email.as_ref()]
    });
    let people = people.flatten().map(ToString::to_string);
    let more = [metadata.date.as_ref().map(ToString::to_string), metadata.description.clone()];
    let keywords = metadata.keywords.iter().map(ToString::to_string);
    let extra = metadata.extra.iter().filter_map(|(_, value)| value.to_text());
    lines
        .into_iter()
        .chain(people)
        .chain(more.into_iter().flatten())
        .chain(keywords)
        .chain(extra)
        .collect()
}
