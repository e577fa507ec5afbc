//! A document as a row of units: headings, paragraphs, tables, code blocks and the like, each with
//! what it stands in.

use super::align::Side;
use super::tokens::Text;
use crate::document::{
    Admonition, Block, BlockKind, BreakKind, Caption, CheckState, Document, Foreign, GroupRole,
    Heading, List, ListKind, Numbering, Place, Table,
};
use crate::math::Formula;
use std::hash::{DefaultHasher, Hash, Hasher};

/// One unit.
pub(super) struct Unit<'d> {
    pub(super) body: Body<'d>,
    pub(super) place: Place,
    /// The list item that this unit is the first of.
    pub(super) item: Option<Item>,
    /// What it stands in, outermost first; lists count as items.
    pub(super) context: Vec<String>,
    key: u64,
    words: Vec<u64>,
}

/// What a unit is.
pub(super) enum Body<'d> {
    Heading {
        level: u8,
        number: String,
        text: Text,
    },
    Paragraph(Text),
    Code {
        text: &'d str,
        language: &'d str,
    },
    Formula(&'d Formula),
    Table(&'d Table),
    Markup(&'d Foreign),
    /// A thematic break, a page break, the place of a contents list, an empty item or cell.
    Mark(&'static str),
}

/// A list item.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Item {
    pub(super) numbered: bool,
    pub(super) depth: usize,
    /// The number as shown, for example `3`, `c` or `iii`.
    pub(super) number: String,
    pub(super) check: Option<CheckState>,
}

/// A row of units.
pub(super) struct Units<'d>(pub(super) Vec<Unit<'d>>);

impl Side for Units<'_> {
    fn len(&self) -> usize {
        self.0.len()
    }

    fn key(&self, index: usize) -> u64 {
        self.0.get(index).map_or(0, |unit| unit.key)
    }

    fn words(&self, index: usize) -> &[u64] {
        self.0.get(index).map_or(&[], |unit| &unit.words)
    }

    fn is_told_by_place(&self, index: usize) -> bool {
        self.0.get(index).is_some_and(|unit| {
            matches!(unit.body, Body::Code { .. } | Body::Formula(_) | Body::Table(_))
        })
    }

    fn fits(&self, index: usize, other: &Self, other_index: usize) -> bool {
        match (self.0.get(index), other.0.get(other_index)) {
            (Some(one), Some(two)) => one.class() == two.class(),
            _ => false,
        }
    }
}

impl<'d> Units<'d> {
    /// The units of blocks, each with its context.
    pub(super) fn of(blocks: &'d [Block], document: &'d Document) -> Self {
        let mut maker = Maker {
            document,
            units: Vec::new(),
            context: Vec::new(),
            item: None,
            depth: 0,
            place: Place::default(),
        };
        maker.blocks(blocks);
        Self(maker.units)
    }
}

impl Unit<'_> {
    /// Units of different classes are never counterparts.
    fn class(&self) -> u8 {
        match self.body {
            // A heading may have become a paragraph of strong words, and the other way round.
            Body::Heading { .. } | Body::Paragraph(_) => 0,
            Body::Code { .. } => 1,
            Body::Formula(_) => 2,
            Body::Table(_) => 3,
            Body::Markup(_) => 4,
            Body::Mark(_) => 5,
        }
    }

    /// What a person would call it.
    pub(super) fn shown(&self) -> String {
        match &self.body {
            Body::Heading { text, .. } | Body::Paragraph(text) => super::quoted(&text.plain()),
            Body::Code { text, .. } => super::quoted(text.lines().next().unwrap_or_default()),
            Body::Formula(formula) => super::quoted(formula.source.trim()),
            Body::Table(table) => {
                let rows = table.rows().count();
                format!("a table of {rows} rows and {} columns", table.width())
            }
            Body::Markup(foreign) => super::quoted(foreign.markup.trim_end()),
            Body::Mark(name) => (*name).to_string(),
        }
    }
}

struct Maker<'d> {
    document: &'d Document,
    units: Vec<Unit<'d>>,
    context: Vec<String>,
    /// The item whose first unit is still to come.
    item: Option<Item>,
    depth: usize,
    place: Place,
}

/// Recursion is bounded by the depth readers nest blocks to.
impl<'d> Maker<'d> {
    fn blocks(&mut self, blocks: &'d [Block]) {
        blocks.iter().for_each(|block| self.block(block));
    }

    fn block(&mut self, block: &'d Block) {
        if block.place != Place::default() {
            self.place = block.place;
        }
        match &block.kind {
            BlockKind::Paragraph(content) => {
                let text = Text::of(content, self.document);
                if !text.is_empty() {
                    self.push(Body::Paragraph(text));
                }
            }
            BlockKind::Heading(heading) => self.heading(heading),
            BlockKind::List(list) => self.list(list),
            BlockKind::DescriptionList(items) => {
                for item in items {
                    for term in &item.terms {
                        let text = Text::of(term, self.document);
                        self.inside("term", |maker| maker.push(Body::Paragraph(text)));
                    }
                    for blocks in &item.descriptions {
                        self.inside("description", |maker| maker.blocks(blocks));
                    }
                }
            }
            BlockKind::Quotation(content) => {
                self.inside("quotation", |maker| maker.blocks(content));
            }
            BlockKind::Code(code) => self.push(Body::Code {
                text: &code.text,
                language: code.language.as_deref().unwrap_or_default(),
            }),
            BlockKind::Verse(lines) => {
                for line in lines.iter().filter(|line| !line.is_empty()) {
                    let text = Text::of(line, self.document);
                    self.inside("verse", |maker| maker.push(Body::Paragraph(text)));
                }
            }
            BlockKind::Table(table) => {
                if table.width() > 0 {
                    self.push(Body::Table(table));
                }
                self.caption(table.caption.as_ref());
            }
            BlockKind::Figure(figure) => {
                self.inside("figure", |maker| maker.blocks(&figure.content));
                self.caption(figure.caption.as_ref());
            }
            BlockKind::Formula(formula) => self.push(Body::Formula(formula)),
            BlockKind::Admonition(admonition) => self.admonition(admonition),
            BlockKind::Group(group) => {
                let name = match &group.role {
                    GroupRole::Plain => return self.blocks(&group.content),
                    GroupRole::Aside => "aside",
                    GroupRole::Abstract => "abstract",
                    GroupRole::Disclosure(summary) => {
                        let text = Text::of(summary, self.document);
                        self.inside("summary", |maker| maker.push(Body::Paragraph(text)));
                        "disclosure"
                    }
                    GroupRole::Statement(_) => "statement",
                    GroupRole::Drawer(_) => "drawer",
                    GroupRole::Columns(_) => "columns",
                    GroupRole::Centred => "centred",
                    GroupRole::PageHeader => "page header",
                    GroupRole::PageFooter => "page footer",
                };
                self.inside(name, |maker| maker.blocks(&group.content));
            }
            BlockKind::ThematicBreak => self.push(Body::Mark("a thematic break")),
            BlockKind::Break(BreakKind::Page) => self.push(Body::Mark("a page break")),
            BlockKind::Break(BreakKind::Column) => self.push(Body::Mark("a column break")),
            BlockKind::Break(BreakKind::Section) => self.push(Body::Mark("a section break")),
            BlockKind::Contents(_) => self.push(Body::Mark("a contents list")),
            BlockKind::Bibliography => self.push(Body::Mark("the list of cited works")),
            BlockKind::Foreign(foreign) if foreign.markup.starts_with("<!--") => {}
            BlockKind::Foreign(foreign) => self.push(Body::Markup(foreign)),
            BlockKind::SourceRemark(_) => {}
        }
    }

    fn inside(&mut self, name: &str, content: impl FnOnce(&mut Self)) {
        self.context.push(name.to_string());
        content(self);
        self.context.pop();
    }

    fn heading(&mut self, heading: &Heading) {
        let number = heading.number.as_deref().unwrap_or_default().to_string();
        let text = Text::of(&heading.content, self.document);
        self.push(Body::Heading { level: heading.level, number, text });
    }

    fn caption(&mut self, caption: Option<&'d Caption>) {
        if let Some(caption) = caption {
            self.inside("caption", |maker| maker.blocks(&caption.content));
        }
    }

    fn admonition(&mut self, admonition: &'d Admonition) {
        let name = format!("admonition ({})", admonition.kind.name());
        self.inside(&name, |maker| {
            if let Some(title) = &admonition.title {
                let text = Text::of(title, maker.document);
                maker.push(Body::Paragraph(text));
            }
            maker.blocks(&admonition.content);
        });
    }

    fn list(&mut self, list: &'d List) {
        self.depth += 1;
        let mut number = match &list.kind {
            ListKind::Numbered(numbering) => numbering.start,
            ListKind::Bulleted(_) => 0,
        };
        for item in &list.items {
            number = item.number.unwrap_or(number);
            let shown = match &list.kind {
                ListKind::Numbered(Numbering { style, .. }) => style.spell(number),
                ListKind::Bulleted(_) => String::new(),
            };
            let numbered = matches!(list.kind, ListKind::Numbered(_));
            let outer = self.item.replace(Item {
                numbered,
                depth: self.depth,
                number: shown,
                check: item.check,
            });
            // An item that begins with a list is a unit of its own.
            if outer.is_some() {
                let inner = std::mem::replace(&mut self.item, outer);
                self.push(Body::Mark("an item without text of its own"));
                self.item = inner;
            }
            self.inside("item", |maker| maker.blocks(&item.content));
            if self.item.is_some() {
                self.push(Body::Mark("an empty item"));
            }
            number = number.saturating_add(1);
        }
        self.depth -= 1;
    }

    fn push(&mut self, body: Body<'d>) {
        let mut hasher = DefaultHasher::new();
        let mut words = Vec::new();
        match &body {
            Body::Heading { text, .. } | Body::Paragraph(text) => {
                words.extend(text.tokens.iter().map(super::tokens::Token::key));
                (0, &words).hash(&mut hasher);
            }
            Body::Code { text, .. } => {
                words.extend(text.lines().map(hash_of));
                (1, text).hash(&mut hasher);
            }
            Body::Formula(formula) => {
                words.push(hash_of(formula.source.trim()));
                (2, formula.source.trim()).hash(&mut hasher);
            }
            Body::Table(table) => {
                for (_, row) in table.rows() {
                    for cell in &row.cells {
                        let text = super::tables::cell_text(cell, self.document);
                        words.extend(text.tokens.iter().map(super::tokens::Token::key));
                    }
                }
                (3, table.rows().count(), &words).hash(&mut hasher);
            }
            // Whether it ends with an end of line says nothing.
            Body::Markup(foreign) => (4, foreign.markup.trim_end()).hash(&mut hasher),
            Body::Mark(name) => (5, name).hash(&mut hasher),
        }
        words.sort_unstable();
        self.units.push(Unit {
            body,
            place: self.place,
            item: self.item.take(),
            context: self.context.clone(),
            key: hasher.finish(),
            words,
        });
    }
}

fn hash_of(text: &str) -> u64 {
    let mut hasher = DefaultHasher::new();
    text.hash(&mut hasher);
    hasher.finish()
}
