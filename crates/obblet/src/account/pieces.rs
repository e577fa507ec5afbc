//! The words of a document, piece by piece, in reading order.

use crate::document::{Block, BlockKind, Caption, Document, GroupRole, Inline, Place, plain_text};
use crate::work;

/// What a document's words are given to.
pub(super) trait Pieces {
    /// A block begins that stood here in the source.
    fn block(&mut self, place: Place);

    /// So many inlines come, side by side.
    fn inlines(&mut self, _count: usize) {}

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

/// The words of blocks. Readers and writers bound how deep documents are, so this may recurse; going
/// through a document twice more must cost next to nothing.
pub(super) fn give_blocks(blocks: &[Block], pieces: &mut impl Pieces) {
    for block in blocks {
        if work::is_over() {
            return;
        }
        pieces.block(block.place);
        give_block(&block.kind, pieces);
    }
}

fn give_block(kind: &BlockKind, pieces: &mut impl Pieces) {
    match kind {
        BlockKind::Paragraph(content) => give_inlines(content, pieces),
        BlockKind::Heading(heading) => {
            heading.number.iter().for_each(|number| pieces.aside(number));
            heading.task.iter().for_each(|task| pieces.aside(&task.keyword));
            heading.tags.iter().for_each(|tag| pieces.aside(tag));
            give_inlines(&heading.content, pieces);
        }
        BlockKind::List(list) => {
            list.items.iter().for_each(|item| give_blocks(&item.content, pieces));
        }
        BlockKind::DescriptionList(items) => {
            for item in items {
                item.terms.iter().for_each(|term| give_inlines(term, pieces));
                item.descriptions.iter().for_each(|blocks| give_blocks(blocks, pieces));
            }
        }
        BlockKind::Quotation(content) => give_blocks(content, pieces),
        BlockKind::Verse(lines) => lines.iter().for_each(|line| give_inlines(line, pieces)),
        BlockKind::Code(code) => {
            code.details.iter().for_each(|details| pieces.aside(details));
            match code.content.is_empty() {
                true => pieces.text(&code.text),
                false => give_inlines(&code.content, pieces),
            }
        }
        BlockKind::Table(table) => {
            give_caption(table.caption.as_ref(), pieces);
            let rows = table.groups.iter().flat_map(|group| &group.rows);
            rows.flat_map(|row| &row.cells).for_each(|cell| give_blocks(&cell.content, pieces));
        }
        BlockKind::Figure(figure) => {
            give_blocks(&figure.content, pieces);
            give_caption(figure.caption.as_ref(), pieces);
        }
        BlockKind::Formula(formula) => pieces.formula(&formula.source),
        BlockKind::Admonition(admonition) => {
            admonition.title.iter().for_each(|title| give_inlines(title, pieces));
            give_blocks(&admonition.content, pieces);
        }
        BlockKind::Group(group) => {
            match &group.role {
                GroupRole::Statement(name) | GroupRole::Drawer(name) => pieces.aside(name),
                GroupRole::Disclosure(summary) => give_inlines(summary, pieces),
                _ => {}
            }
            give_blocks(&group.content, pieces);
        }
        BlockKind::Foreign(foreign) => pieces.raw(&foreign.format, &foreign.markup),
        BlockKind::SourceRemark(remark) => pieces.aside(remark),
        BlockKind::ThematicBreak
        | BlockKind::Break(_)
        | BlockKind::Contents(_)
        | BlockKind::Bibliography => {}
    }
}

fn give_caption(caption: Option<&Caption>, pieces: &mut impl Pieces) {
    let Some(caption) = caption else { return };
    caption.label.iter().for_each(|label| pieces.aside(label));
    give_blocks(&caption.content, pieces);
}

fn give_inlines(inlines: &[Inline], pieces: &mut impl Pieces) {
    pieces.inlines(inlines.len());
    for inline in inlines {
        match inline {
            Inline::Text(text) => pieces.text(text),
            Inline::Code(code) => pieces.text(&code.text),
            Inline::Formatted(formatted) => give_inlines(&formatted.content, pieces),
            Inline::Link(link) => {
                pieces.attribute(&link.address);
                give_inlines(&link.content, pieces);
            }
            Inline::Picture(picture) => give_inlines(&picture.alternative, &mut Asides(pieces)),
            Inline::Reference(reference) => {
                pieces.attribute(&reference.target);
                give_inlines(&reference.stored, &mut Asides(pieces));
            }
            Inline::Citation(citation) => {
                for cite in &citation.works {
                    pieces.aside(&cite.key);
                    give_inlines(&cite.before, pieces);
                    give_inlines(&cite.behind, pieces);
                }
            }
            Inline::Ruby(ruby) => {
                give_inlines(&ruby.base, pieces);
                give_inlines(&ruby.reading, pieces);
            }
            Inline::Formula(formula) => pieces.formula(&formula.source),
            Inline::Foreign(foreign) => pieces.raw(&foreign.format, &foreign.markup),
            Inline::Timestamp(timestamp) => pieces.aside(&timestamp.spelled()),
            Inline::Break(_)
            | Inline::NoteMark(_)
            | Inline::CommentMark(_)
            | Inline::Anchor(_)
            | Inline::CheckBox(_) => {}
        }
    }
}

/// Texts as asides.
struct Asides<'p>(&'p mut dyn Pieces);

impl Pieces for Asides<'_> {
    fn block(&mut self, _: Place) {}

    fn text(&mut self, text: &str) {
        self.0.aside(text);
    }

    fn aside(&mut self, text: &str) {
        self.0.aside(text);
    }

    fn attribute(&mut self, text: &str) {
        self.0.attribute(text);
    }

    fn raw(&mut self, format: &str, markup: &str) {
        self.0.raw(format, markup);
    }

    fn formula(&mut self, source: &str) {
        self.0.formula(source);
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
