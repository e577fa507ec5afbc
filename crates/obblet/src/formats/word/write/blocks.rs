//! Blocks: paragraphs, headings, code and verse, and what blocks take over from what they stand in.

use super::Writer;
use super::containers::is_plain_quotation;
use super::lists::list_indent;
use super::looks::{BlockProperties, block_properties};
use super::runs::RunLook;
use crate::document::{
    Attributes, Block, BlockKind, CellAlign, CodeBlock, CompactString, Direction, GroupRole,
    Heading, Inline, LineBreak, Looks, Revision, RevisionKind, StyleKind, TextAlign, plain_text,
};
use crate::findings::Code;
use crate::formats::word::vocabulary::{Container, THEMATIC_BREAK, TITLE, VERSE, code_style};
use crate::work;

/// What blocks stand in.
#[derive(Debug, Clone, Default)]
pub(super) struct Around {
    /// The style of paragraphs that name none.
    pub(super) style: Option<CompactString>,
    /// The alignment of the cell.
    pub(super) align: Option<CellAlign>,
    pub(super) direction: Option<Direction>,
    pub(super) language: Option<CompactString>,
    pub(super) change: Option<Revision>,
    /// The looks of what is around, as far as text takes them over.
    pub(super) looks: Option<Box<Looks>>,
    /// The body itself: sections begin and end nowhere else.
    pub(super) is_top: bool,
    /// Bookmarks of what is around that have no paragraph of their own.
    pub(super) ids: Vec<CompactString>,
    /// The first paragraph stands right behind a table, which has no space of its own below it.
    pub(super) is_behind_table: bool,
}

/// The space below a table, in points.
const SPACE_BELOW_TABLE: f32 = 9.0;

impl Around {
    /// What stands inside something with these attributes.
    pub(super) fn inside(&self, attributes: &Attributes) -> Self {
        let mut inner = self.clone();
        if let Some(set) = attributes.get() {
            inner.direction = set.direction.or(inner.direction);
            inner.language = set.language.clone().or(inner.language);
            let change = set.revision.as_ref().filter(|c| c.kind != RevisionKind::Formatting);
            inner.change = change.cloned().or(inner.change);
            inner.ids.extend(set.id.clone());
            if let Some(looks) = &set.looks {
                let around = inner.looks.get_or_insert_default();
                around.take_inner(&looks.inherited());
            }
        }
        inner
    }
}

/// A paragraph that is about to be written.
pub(super) struct Paragraph<'p> {
    pub(super) properties: BlockProperties,
    pub(super) content: &'p [Inline],
    pub(super) look: RunLook,
    /// Places that links lead to, at its beginning.
    pub(super) ids: Vec<CompactString>,
    /// Runs before the content: a note's own number, a check box.
    pub(super) before: String,
}

impl<'d> Writer<'d> {
    /// Blocks in a row. What Word would let grow together is kept apart.
    pub(super) fn blocks(&mut self, blocks: &'d [Block], around: &Around, out: &mut String) {
        let mut last: Option<&Block> = None;
        let mut around = around.clone();
        for block in blocks {
            work::count_output(out.len());
            if work::is_over() {
                return;
            }
            self.place = block.place;
            let start = out.len();
            let grows = last.is_some_and(|last| grow_together(last, block, &around));
            let audiences = audiences(&block.attributes);
            if let Some(names) = &audiences {
                let title = format!("For: {names}");
                self.open_container(Container::For(names), Some(&title), out);
            } else if grows {
                self.open_container(Container::Apart, None, out);
            }
            let is_contained = audiences.is_some() || grows;
            self.block(block, &around, out);
            if is_contained {
                self.close_container(out);
            }
            // The first paragraph has the bookmarks of all that is around it.
            if out.len() > start {
                around.ids.clear();
            }
            around.is_behind_table = matches!(block.kind, BlockKind::Table(_));
            last = Some(block);
        }
    }

    fn block(&mut self, block: &'d Block, around: &Around, out: &mut String) {
        match &block.kind {
            // What a table is titled stands among its properties.
            BlockKind::Table(_) => {
                let mut attributes = block.attributes.clone();
                attributes.take_pair("title");
                self.report_attributes(&attributes);
            }
            _ => {
                self.report_attributes(&block.attributes);
                self.report_looks_of_boxes(block);
            }
        }
        match &block.kind {
            BlockKind::Paragraph(content) => {
                let style = around.style.clone();
                let mut paragraph = self.paragraph_of(&block.attributes, style, around);
                paragraph.content = content;
                self.push_paragraph(paragraph, out);
            }
            BlockKind::Heading(heading) => self.heading(block, heading, around, out),
            BlockKind::List(list) => {
                let inner = around.inside(&block.attributes);
                self.list(list, &inner, None, list_indent(block), out);
            }
            BlockKind::DescriptionList(items) => {
                self.description_list(items, &around.inside(&block.attributes), out);
            }
            BlockKind::Quotation(content) => self.quotation(block, content, around, out),
            BlockKind::Code(code) => self.code(block, code, around, out),
            BlockKind::Verse(lines) => self.verse(block, lines, around, out),
            BlockKind::Table(table) => self.table(block, table, around, out),
            BlockKind::Figure(figure) => self.figure(block, figure, around, out),
            BlockKind::Formula(formula) => {
                let mut paragraph =
                    self.paragraph_of(&block.attributes, around.style.clone(), around);
                paragraph.before = self.display_equation(formula);
                self.push_paragraph(paragraph, out);
            }
            BlockKind::Admonition(admonition) => self.admonition(block, admonition, around, out),
            BlockKind::Group(group) => self.group(block, group, around, out),
            BlockKind::ThematicBreak => {
                let style = Some(self.styles.id(StyleKind::Block, THEMATIC_BREAK));
                let paragraph = self.paragraph_of(&block.attributes, style, around);
                self.push_paragraph(paragraph, out);
            }
            BlockKind::Break(kind) => self.page_break(*kind, around, out),
            BlockKind::Contents(contents) => self.contents(contents, out),
            BlockKind::Bibliography => self.works(around, out),
            BlockKind::Foreign(foreign) => {
                self.findings.count(Code::ForeignMarkupLost, &foreign.format, Some(self.place));
            }
            BlockKind::SourceRemark(_) => self.lost("a remark in the source"),
        }
    }

    /// Looks that only cells, and groups in columns, can have.
    fn report_looks_of_boxes(&mut self, block: &Block) {
        let Some(looks) = block.attributes.looks() else { return };
        if looks.writing.is_some() {
            self.lost("a direction of lines outside of a table");
        }
        let is_in_columns = matches!(&block.kind, BlockKind::Group(group)
            if matches!(group.role, GroupRole::Columns(_)));
        if looks.columns.is_some() && !is_in_columns {
            self.lost("columns inside of a block");
        }
    }

    /// What attributes say that no paragraph of Word can say.
    pub(super) fn report_attributes(&mut self, attributes: &Attributes) {
        let Some(set) = attributes.get() else { return };
        if !set.classes.is_empty() {
            self.lost("a class");
        }
        if !set.pairs.is_empty() {
            self.lost("a named value");
        }
        let Some(looks) = &set.looks else { return };
        let left_out = [
            (looks.width.is_some(), "a width as a look"),
            (looks.height.is_some(), "a height as a look"),
            (looks.box_align.is_some(), "where a narrow box stands"),
            (looks.cell_spacing.is_some(), "the space between cells"),
        ];
        for (_, what) in left_out.into_iter().filter(|(is_stated, _)| *is_stated) {
            self.lost(what);
        }
    }

    /// A paragraph without content, with what attributes say of it.
    pub(super) fn paragraph_of(
        &mut self,
        attributes: &Attributes,
        style: Option<CompactString>,
        around: &Around,
    ) -> Paragraph<'d> {
        let inner = around.inside(attributes);
        let named = attributes.style().map(|name| self.styles.id(StyleKind::Block, name));
        let mut properties = match attributes.looks() {
            Some(own) => block_properties(own, inner.direction),
            None => BlockProperties::of_direction(inner.direction),
        };
        if around.is_behind_table && style_needs_space(style.as_deref()) {
            properties.add_space_before(SPACE_BELOW_TABLE);
        }
        properties.style = named.or(style);
        properties.align = properties.align.or(around.align.map(|align| match align {
            CellAlign::Start => TextAlign::Start,
            CellAlign::Centre => TextAlign::Centre,
            CellAlign::End => TextAlign::End,
        }));
        let look = text_look(attributes, &inner);
        Paragraph { properties, content: &[], look, ids: inner.ids, before: String::new() }
    }

    /// Writes a paragraph.
    /// The list of cited works, a paragraph each.
    fn works(&mut self, around: &Around, out: &mut String) {
        if self.document.bibliography.is_empty() {
            return self.lost("the place of the bibliography");
        }
        self.changed("the list of cited works");
        let works: Vec<_> = self.works.works().collect();
        for work in works {
            let entry = self.works.entry(work);
            let mut paragraph: Paragraph<'_> =
                self.paragraph_of(&Attributes::NONE, around.style.clone(), around);
            paragraph.content = &entry;
            self.push_paragraph(paragraph, out);
        }
    }

    pub(super) fn push_paragraph(&mut self, mut paragraph: Paragraph<'_>, out: &mut String) {
        out.push_str("<w:p>");
        let mut mark = paragraph.look.of_mark().to_string();
        if let Some(change) = &paragraph.look.change {
            let name = if is_deletion(Some(change)) { "w:del" } else { "w:ins" };
            let mut values = String::new();
            self.push_change_values(change, &mut values);
            mark = format!("<{name}{values}/>{mark}");
        }
        paragraph.properties.mark = mark;
        let properties = paragraph.properties.xml();
        if !properties.is_empty() {
            out.push_str(&format!("<w:pPr>{properties}</w:pPr>"));
        }
        for id in &paragraph.ids {
            self.push_bookmark(id, out);
        }
        out.push_str(&paragraph.before);
        self.inlines(paragraph.content, &paragraph.look, out);
        out.push_str("</w:p>");
    }

    /// A paragraph of a style by its name, with this content.
    pub(super) fn styled(
        &mut self,
        name: &str,
        content: &'d [Inline],
        around: &Around,
        out: &mut String,
    ) {
        let style = Some(self.styles.id(StyleKind::Block, name));
        let mut paragraph = self.paragraph_of(&Attributes::NONE, style, around);
        paragraph.content = content;
        self.push_paragraph(paragraph, out);
    }

    /// The title, where the first heading is it: all other headings then go one level up, as the reader
    /// takes them down again.
    pub(super) fn settle_title(&mut self, blocks: &[Block]) {
        let level = |block: &Block| match &block.kind {
            BlockKind::Heading(heading) => Some(heading.level),
            _ => None,
        };
        let title = plain_text(&self.document.metadata.title);
        let first = blocks.iter().find_map(|block| match &block.kind {
            BlockKind::Heading(heading) if heading.level == 1 => Some(plain_text(&heading.content)),
            _ => None,
        });
        let highest = blocks.iter().filter_map(level).filter(|level| *level == 1).count();
        let is_first = blocks.iter().find_map(level) == Some(1);
        let is_named = blocks.iter().any(is_title);
        self.shifts_headings = is_named
            || (highest == 1 && is_first && (title.is_empty() || first.as_ref() == Some(&title)));
    }

    fn heading(
        &mut self,
        block: &'d Block,
        heading: &'d Heading,
        around: &Around,
        out: &mut String,
    ) {
        if heading.content.is_empty() {
            return self.lost("a heading without words");
        }
        let name = match heading.level.clamp(1, 9) {
            1 if self.shifts_headings => TITLE.to_string(),
            level if self.shifts_headings => format!("heading {}", level - 1),
            level => format!("heading {level}"),
        };
        let style = Some(self.styles.id(StyleKind::Block, &name));
        let mut paragraph = self.paragraph_of(&block.attributes, style, around);
        // A style of another name says that it is a heading, and so does the paragraph.
        let named = block.attributes.style().is_some_and(|own| !own.eq_ignore_ascii_case(&name));
        if named {
            let level = heading.level.saturating_sub(u8::from(self.shifts_headings));
            paragraph.properties.outline = Some(level.saturating_sub(1).min(8));
        }
        paragraph.ids.extend(self.bookmarks.of_heading(block));
        paragraph.content = &heading.content;
        let mut before = String::new();
        paragraph.properties.numbering = self.heading_numbering(heading);
        if let Some(number) = &heading.number
            && paragraph.properties.numbering.is_none()
        {
            self.changed("a heading’s number");
            self.push_run(&format!("{number} "), &paragraph.look, &mut before);
        }
        if let Some(task) = &heading.task {
            self.changed("a heading’s task");
            self.push_run(&format!("{} ", task.keyword), &paragraph.look, &mut before);
        }
        if !heading.tags.is_empty() {
            self.lost("a heading’s tags");
        }
        paragraph.before = before;
        self.push_paragraph(paragraph, out);
    }

    fn code(&mut self, block: &Block, code: &'d CodeBlock, around: &Around, out: &mut String) {
        if code.text.is_empty() {
            return self.lost("code without a line");
        }
        let name = code_style(&self.options.styles.code, code.language.as_deref());
        if code.details.is_some() {
            self.lost("what is said about code beside its language");
        }
        let style = Some(self.styles.id(StyleKind::Block, &name));
        let mut paragraph = self.paragraph_of(&block.attributes, style, around);
        let look = paragraph.look.clone();
        let text = code.text.strip_suffix('\n').unwrap_or(&code.text);
        let mut before = String::new();
        if !code.content.is_empty() {
            self.inlines(&code.content, &look, &mut before);
            paragraph.before = before;
            return self.push_paragraph(paragraph, out);
        }
        for (at, line) in text.split('\n').enumerate() {
            if at > 0 {
                self.push_object_run("<w:br/>", &look, &mut before);
            }
            self.push_run(line, &look, &mut before);
        }
        paragraph.before = before;
        self.push_paragraph(paragraph, out);
    }

    fn verse(
        &mut self,
        block: &Block,
        lines: &'d [Vec<Inline>],
        around: &Around,
        out: &mut String,
    ) {
        let style = Some(self.styles.id(StyleKind::Block, VERSE));
        let mut paragraph = self.paragraph_of(&block.attributes, style, around);
        let look = paragraph.look.clone();
        let mut before = String::new();
        for (at, line) in lines.iter().enumerate() {
            if at > 0 {
                self.inlines(&[Inline::Break(LineBreak::Hard)], &look, &mut before);
            }
            self.inlines(line, &look, &mut before);
        }
        paragraph.before = before;
        self.push_paragraph(paragraph, out);
    }
}

/// Whether paragraphs of a style that is no document's own have no space above them.
fn style_needs_space(id: Option<&str>) -> bool {
    matches!(id, None | Some("ListParagraph" | "Quote" | "Description" | "BoxText"))
}

/// What all text of a paragraph has.
fn text_look(attributes: &Attributes, inner: &Around) -> RunLook {
    let right_to_left = inner.direction == Some(Direction::RightToLeft);
    let is_plain = inner.looks.is_none() && inner.change.is_none() && inner.language.is_none();
    if is_plain && !right_to_left {
        return RunLook::default();
    }
    RunLook::default().with(|look| {
        if let Some(around) = &inner.looks {
            let mut looks = Looks { align: None, ..(**around).clone() };
            // These the paragraph states for all its text, and text does not take them over by itself.
            if let Some(own) = attributes.looks() {
                looks.weight = own.weight.or(looks.weight);
                looks.italic = own.italic.or(looks.italic);
                looks.underline = own.underline;
                looks.strike = own.strike;
                looks.small_capitals = own.small_capitals;
            }
            look.looks = Some(Box::new(looks));
        }
        look.language.clone_from(&inner.language);
        look.right_to_left = right_to_left;
        look.is_deleted = is_deletion(inner.change.as_ref());
        look.change.clone_from(&inner.change);
    })
}

/// The names of the audiences that something is for, if it is not for everybody.
pub(super) fn audiences(attributes: &Attributes) -> Option<String> {
    let names = attributes.get().map(|set| &set.audiences).filter(|names| !names.is_empty())?;
    Some(names.iter().map(CompactString::as_str).collect::<Vec<_>>().join(","))
}

pub(super) fn is_deletion(change: Option<&Revision>) -> bool {
    change.is_some_and(|change| change.kind == RevisionKind::Deletion)
}

fn is_title(block: &Block) -> bool {
    matches!(block.kind, BlockKind::Heading(_))
        && block.attributes.style().is_some_and(|style| style.eq_ignore_ascii_case(TITLE))
}

/// Whether Word, or who reads the file, would take two neighbours for one block.
fn grow_together(before: &Block, behind: &Block, around: &Around) -> bool {
    use BlockKind::{Code, DescriptionList, List, Quotation, Table};
    match (&before.kind, &behind.kind) {
        (Quotation(_), Quotation(content)) => is_plain_quotation(content, around),
        (List(_), List(_)) | (Table(_), Table(_)) | (DescriptionList(_), DescriptionList(_)) => {
            true
        }
        (Code(one), Code(other)) => one.language == other.language,
        _ => false,
    }
}
