//! Blocks.

use super::{HeadingEntry, RawHtml, Writer};
use crate::document::{
    Admonition, AdmonitionKind, Attributes, Block, BlockKind, BreakKind, Caption, CodeBlock,
    Figure, Foreign, Group, GroupRole, Heading, Inline, RevisionKind, id_of_words, plain_text,
};
use crate::findings::{Code, OTHER_AUDIENCES};
use crate::formats::html::tasks::{DRAWER, NAME};
use crate::formats::html::{ITEM_LABEL, PAGE_FOOTER, PAGE_HEADER};
use crate::work;
use std::borrow::Cow;

impl Writer<'_> {
    pub(super) fn blocks(&mut self, blocks: &[Block]) {
        for block in blocks {
            if work::is_over() {
                return;
            }
            self.block(block);
        }
    }

    pub(super) fn block(&mut self, block: &Block) {
        self.place = block.place;
        work::count_output(self.out.len());
        if !block.attributes.is_for(&self.options.audiences) {
            self.findings.count(Code::NotPublished, OTHER_AUDIENCES, Some(self.place));
            return;
        }
        let before = self.out.len();
        if self.options.note_places {
            self.block_starts.push((before, block.place));
        }
        let close = match block.attributes.revision().map(|revision| revision.kind) {
            Some(RevisionKind::Formatting) => {
                let what = "a tracked change of looks";
                self.findings.count(Code::NodeNotCarried, what, Some(self.place));
                ""
            }
            _ => self.open_revision(&block.attributes),
        };
        let start = self.out.len();
        self.block_kind(block);
        if self.out.len() == start {
            self.out.truncate(before);
        } else {
            self.out.push_str(close);
        }
    }

    fn block_kind(&mut self, block: &Block) {
        let attributes = &block.attributes;
        match &block.kind {
            BlockKind::Paragraph(content) => self.paragraph(content, attributes),
            BlockKind::Heading(heading) => self.heading(heading, attributes),
            BlockKind::List(list) => self.list(list, attributes),
            BlockKind::DescriptionList(items) => self.description_list(items, attributes),
            BlockKind::Quotation(content) => {
                self.container("blockquote", attributes, |writer| writer.blocks(content));
            }
            BlockKind::Code(code) => self.code_block(code, attributes),
            BlockKind::Verse(lines) => self.verse(lines, attributes),
            BlockKind::Table(table) => self.table(table, attributes),
            BlockKind::Figure(figure) => self.figure(figure, attributes),
            BlockKind::Formula(formula) => self.display_formula(formula, attributes),
            BlockKind::Admonition(admonition) => self.admonition(admonition, attributes),
            BlockKind::Group(group) => self.group(group, attributes),
            BlockKind::ThematicBreak => {
                self.open("hr", attributes);
                self.out.push('\n');
            }
            BlockKind::Break(kind) => {
                let subject = match kind {
                    BreakKind::Page => "a page break",
                    BreakKind::Column => "a column break",
                    BreakKind::Section => "a section break",
                };
                self.not_carried(subject);
            }
            BlockKind::Contents(contents) => self.contents_list(contents),
            BlockKind::Bibliography => self.bibliography(),
            BlockKind::Foreign(foreign) => {
                self.foreign(foreign, true);
                self.out.push('\n');
            }
            BlockKind::SourceRemark(_) => self.not_carried("a remark that readers do not see"),
        }
    }

    pub(super) fn not_carried(&mut self, subject: &str) {
        self.findings.count(Code::NodeNotCarried, subject, Some(self.place));
    }

    /// `<name attributes>`
    pub(super) fn open(&mut self, name: &str, attributes: &Attributes) {
        self.out.push('<');
        self.out.push_str(name);
        self.attributes(attributes);
        self.out.push('>');
    }

    pub(super) fn close(&mut self, name: &str) {
        self.out.push_str("</");
        self.out.push_str(name);
        self.out.push('>');
    }

    /// An element that holds blocks, each on lines of its own.
    pub(super) fn container(
        &mut self,
        name: &str,
        attributes: &Attributes,
        content: impl FnOnce(&mut Self),
    ) {
        self.open(name, attributes);
        self.out.push('\n');
        content(self);
        self.close(name);
        self.out.push('\n');
    }

    fn paragraph(&mut self, content: &[Inline], attributes: &Attributes) {
        if content.is_empty() && attributes.is_empty() {
            return;
        }
        self.open("p", attributes);
        self.line(content, attributes);
        self.out.push_str("</p>\n");
    }

    fn heading(&mut self, heading: &Heading, attributes: &Attributes) {
        let level = self.heading_level(heading.level);
        let name = ["h1", "h2", "h3", "h4", "h5", "h6"][usize::from(level) - 1];
        self.out.push('<');
        self.out.push_str(name);
        let text = plain_text(&heading.content);
        let mut id = None;
        if self.options.heading_ids && attributes.id().is_none() {
            let made = self.ids.made(&id_of_words(&text));
            self.attribute("id", &made);
            id = Some(made);
        }
        // That the text is a heading is what its style says, but for looks.
        let mut attributes = Cow::Borrowed(attributes);
        if attributes.style().is_some() && !self.keeps_looks() {
            attributes.to_mut().edit().style = None;
        }
        let attributes = &*attributes;
        self.attributes(attributes);
        self.out.push('>');
        if let Some(task) = &heading.task {
            self.task(task);
        }
        let mut number = heading.number.as_deref().map(|number| format!("{number} "));
        if number.is_none() && self.options.heading_numbers {
            let counted = self.heading_numbers.next(level);
            number = (!counted.is_empty()).then(|| counted + " ");
        }
        let number = number.unwrap_or_default();
        match heading.number.as_deref() {
            Some(stated) => self.label(Some(stated)),
            None => self.text(&number),
        }
        self.line(&heading.content, attributes);
        self.tags(&heading.tags);
        self.close(name);
        self.out.push('\n');
        if let Some(task) = &heading.task {
            self.planning(task);
        }
        let id = id.or_else(|| attributes.id().map(Into::into));
        let text = number + &text;
        self.headings.push(HeadingEntry { level, id, text });
    }

    /// The level a heading is written with: shifted, and held between 1 and 6.
    fn heading_level(&mut self, level: u8) -> u8 {
        let wanted = i16::from(level) + self.level_shift;
        if wanted > 6 {
            let subject = level.to_string();
            self.findings.count(Code::HeadingLevelLowered, &subject, Some(self.place));
        }
        let wanted = wanted.clamp(1, 6) as u8;
        if self.options.valid_page { self.level_without_gap(wanted) } else { wanted }
    }

    /// The level below the nearest heading that is higher; headings of one level stay of one.
    fn level_without_gap(&mut self, wanted: u8) -> u8 {
        while self.heading_levels.last().is_some_and(|(level, _)| *level >= wanted) {
            self.heading_levels.pop();
        }
        // The first heading of a page may have any level.
        let written = match self.heading_levels.last() {
            Some((_, above)) => wanted.min(above + 1),
            None if self.headings.is_empty() => wanted,
            None => self.headings.first().map_or(wanted, |first| wanted.min(first.level)),
        };
        if written != wanted {
            let subject = format!("{wanted} became one of level {written}");
            self.findings.add_about(Code::HeadingLevelRaised, &subject, Some(self.place));
        }
        self.heading_levels.push((wanted, written));
        written
    }

    /// A block on a line of its own, and no line where it shows nothing.
    pub(super) fn on_a_new_line(&mut self, block: &Block) {
        let before = self.out.len();
        if !self.out.ends_with('\n') {
            self.out.push('\n');
        }
        let start = self.out.len();
        self.block(block);
        if self.out.len() == start {
            self.out.truncate(before);
        }
    }

    /// A single plain paragraph without its element, anything else as blocks.
    pub(super) fn lone_paragraph_or_blocks(&mut self, blocks: &[Block]) {
        if let [Block { kind: BlockKind::Paragraph(content), attributes, place }] = blocks
            && attributes.is_empty()
        {
            self.place = *place;
            return self.inlines(content);
        }
        let is_remark = |block: &&&Block| matches!(block.kind, BlockKind::SourceRemark(_));
        let blocks = &self.without_centring(blocks);
        let mut shown = blocks.iter().copied().filter(|block| !is_remark(&block));
        match (shown.next(), shown.next()) {
            (Some(Block { kind: BlockKind::Paragraph(content), attributes, place }), None)
                if attributes.is_empty() =>
            {
                blocks.iter().filter(is_remark).for_each(|remark| self.block(remark));
                self.place = *place;
                self.inlines(content);
            }
            (None, None) => blocks.iter().for_each(|block| self.block(block)),
            _ => blocks.iter().for_each(|block| self.on_a_new_line(block)),
        }
    }

    pub(super) fn blocks_on_new_lines(&mut self, blocks: &[Block]) {
        blocks.iter().for_each(|block| self.on_a_new_line(block));
    }

    /// The blocks, those of groups that only centre among them.
    pub(super) fn without_centring<'b>(&mut self, blocks: &'b [Block]) -> Vec<&'b Block> {
        for block in blocks.iter().filter(|block| only_centres(block).is_some()) {
            self.place = block.place;
            self.not_carried("centring");
        }
        flattened(blocks)
    }

    fn code_block(&mut self, code: &CodeBlock, attributes: &Attributes) {
        self.open("pre", attributes);
        self.out.push_str("<code");
        if let Some(language) = &code.language {
            self.attribute("class", &format!("language-{language}"));
        }
        self.out.push('>');
        // The parser drops a line ending right behind `<pre>`; here `<code>` stands between.
        match code.content.is_empty() {
            true => self.text(&code.text),
            false => {
                self.inside_code(&code.content);
                self.out.push('\n');
            }
        }
        self.out.push_str("</code></pre>\n");
    }

    fn verse(&mut self, lines: &[Vec<Inline>], attributes: &Attributes) {
        let stanzas = lines.split(|line| line.is_empty()).filter(|stanza| !stanza.is_empty());
        self.kind_of_group("verse", attributes, |writer| {
            for stanza in stanzas {
                writer.out.push_str("<p>");
                for (index, line) in stanza.iter().enumerate() {
                    if index > 0 {
                        writer.out.push_str("<br>\n");
                    }
                    writer.inlines(line);
                }
                writer.out.push_str("</p>\n");
            }
        });
    }

    fn figure(&mut self, figure: &Figure, attributes: &Attributes) {
        self.container("figure", attributes, |writer| {
            // A picture alone needs no paragraph around it.
            writer.lone_paragraph_or_blocks(&figure.content);
            if !writer.out.ends_with('\n') {
                writer.out.push('\n');
            }
            if let Some(caption) = &figure.caption {
                writer.caption("figcaption", caption);
            }
        });
    }

    pub(super) fn caption(&mut self, element: &str, caption: &Caption) {
        self.out.push('<');
        self.out.push_str(element);
        self.list_caption(element, caption);
        self.out.push('>');
        if let Some(label) = &caption.label {
            self.out.push_str(&format!("<span {ITEM_LABEL}>"));
            self.text(label);
            self.out.push_str(if label.ends_with(')') { "</span> " } else { "</span>: " });
        }
        self.lone_paragraph_or_blocks(&caption.content);
        self.close(element);
        self.out.push('\n');
    }

    fn admonition(&mut self, admonition: &Admonition, attributes: &Attributes) {
        self.out.push_str("<aside");
        self.attribute("data-kind", admonition.kind.name());
        self.attributes(attributes);
        self.out.push_str(">\n");
        self.admonition_content(admonition);
        self.out.push_str("</aside>\n");
    }

    fn admonition_content(&mut self, admonition: &Admonition) {
        self.out.push_str("<p><strong>");
        match (&admonition.title, &admonition.kind) {
            (Some(title), _) => self.inlines(title),
            (None, AdmonitionKind::Other(word)) => self.text(word),
            (None, kind) => self.text(self.words.admonition(kind)),
        }
        self.out.push_str("</strong></p>\n");
        self.blocks(&admonition.content);
    }

    fn group(&mut self, group: &Group, attributes: &Attributes) {
        let content = &group.content;
        match &group.role {
            GroupRole::Plain => self.plain_group(content, attributes),
            GroupRole::Aside => {
                self.container("aside", attributes, |writer| writer.blocks(content));
            }
            GroupRole::Abstract => {
                self.out.push_str("<section role=\"doc-abstract\"");
                self.attribute("aria-label", self.words.summary);
                self.attributes(attributes);
                self.out.push_str(">\n");
                self.blocks(content);
                self.out.push_str("</section>\n");
            }
            GroupRole::Disclosure(summary) => {
                self.container("details", attributes, |writer| {
                    writer.out.push_str("<summary>");
                    writer.inlines(summary);
                    writer.out.push_str("</summary>\n");
                    writer.blocks(content);
                });
            }
            GroupRole::Statement(name) => {
                self.kind_of_group("statement", attributes, |writer| {
                    writer.out.push_str("<p><strong>");
                    writer.text(name);
                    writer.out.push_str("</strong></p>\n");
                    writer.blocks(content);
                });
            }
            GroupRole::PageHeader => {
                self.kind_of_element("header", PAGE_HEADER, attributes, |writer| {
                    writer.blocks(content);
                });
            }
            GroupRole::PageFooter => {
                self.kind_of_element("footer", PAGE_FOOTER, attributes, |writer| {
                    writer.blocks(content);
                });
            }
            GroupRole::Drawer(name) => {
                self.out.push_str("<div");
                self.attribute("data-kind", DRAWER);
                self.attribute(NAME, name);
                self.attributes(attributes);
                self.out.push_str(">\n");
                self.blocks(content);
                self.out.push_str("</div>\n");
            }
            GroupRole::Columns(count) => {
                let is_look = attributes.looks().is_some_and(|looks| looks.columns.is_some());
                if is_look && self.keeps_looks() {
                    return self.plain_group(content, attributes);
                }
                let kind = format!("columns-{count}");
                self.kind_of_group(&kind, attributes, |writer| writer.blocks(content));
            }
            GroupRole::Centred => {
                self.kind_of_group("centred", attributes, |writer| writer.blocks(content));
            }
        }
    }

    /// A group whose kind a theme may show: statements, what is centred, columns.
    fn kind_of_group(
        &mut self,
        kind: &str,
        attributes: &Attributes,
        content: impl FnOnce(&mut Self),
    ) {
        self.kind_of_element("div", kind, attributes, content);
    }

    fn kind_of_element(
        &mut self,
        element: &str,
        kind: &str,
        attributes: &Attributes,
        content: impl FnOnce(&mut Self),
    ) {
        self.out.push('<');
        self.out.push_str(element);
        self.attribute("data-kind", kind);
        self.attributes(attributes);
        self.out.push_str(">\n");
        content(self);
        self.close(element);
        self.out.push('\n');
    }

    /// An element of its own only where attributes need one.
    fn plain_group(&mut self, content: &[Block], attributes: &Attributes) {
        if attributes.is_empty() {
            self.blocks(content);
        } else {
            self.container("div", attributes, |writer| writer.blocks(content));
        }
    }

    pub(super) fn foreign(&mut self, foreign: &Foreign, is_block: bool) {
        if foreign.format != "html" {
            self.findings.count(Code::ForeignMarkupLost, &foreign.format, Some(self.place));
            return;
        }
        if self.options.raw_html == RawHtml::Sanitised {
            self.raw.push(&foreign.markup, self.place, self.out.len(), is_block);
        }
        self.out.push_str(&foreign.markup);
    }
}

/// What a group holds that says nothing but that it is centred.
fn only_centres(block: &Block) -> Option<&[Block]> {
    match &block.kind {
        BlockKind::Group(group)
            if group.role == GroupRole::Centred && block.attributes.is_empty() =>
        {
            Some(&group.content)
        }
        _ => None,
    }
}

/// Blocks with those of groups that only centre in the place of the groups.
pub(super) fn flattened(blocks: &[Block]) -> Vec<&Block> {
    let mut flat = Vec::with_capacity(blocks.len());
    for block in blocks {
        match only_centres(block) {
            Some(content) => flat.extend(flattened(content)),
            None => flat.push(block),
        }
    }
    flat
}
