//! The block level: paragraphs, tables and what may stand around them.

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::gather::Gatherer;
use super::inlines::is_mere_mark;
use super::line::Line;
use super::paragraphs::Paragraph;
use super::sections::Section;
use super::styles::Role;
use crate::document::{Block, BlockKind, Inline, RevisionKind, TextAlign};

impl Reader<'_> {
    /// Reads all blocks inside the element that was given last.
    pub(super) fn blocks(&mut self, xml: &mut Xml<'_>) -> Vec<Block> {
        let mut gatherer = Gatherer::new(self.options.looks);
        self.gather(xml, &mut gatherer);
        self.rest_carried_over(&mut gatherer);
        gatherer.finish()
    }

    pub(super) fn gather(&mut self, xml: &mut Xml<'_>, gatherer: &mut Gatherer) {
        let level = xml.level();
        if self.too_deep() {
            // Paragraph by paragraph, without the tables and boxes around them.
            while let Some(element) = xml.descendant(level) {
                if element.is("p") {
                    self.take_paragraph(xml, gatherer);
                }
            }
            return;
        }
        self.depth += 1;
        while let Some(element) = xml.child(level) {
            self.block_element(&element, xml, gatherer);
        }
        self.depth -= 1;
    }

    pub(super) fn block_element(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        gatherer: &mut Gatherer,
    ) {
        match (element.ns, element.local()) {
            (Ns::Word, _) => {}
            (Ns::Compatibility, "AlternateContent") => {
                return self.alternative(xml, &mut |reader, element, xml| {
                    reader.block_element(element, xml, gatherer);
                });
            }
            (Ns::Math, "oMathPara" | "oMath") => {
                let mut line = Line::default();
                self.equation(element, xml, &mut line);
                let block = Block::new(BlockKind::of_line(line.finish()));
                return gatherer.push(block.at(self.place()));
            }
            _ => return self.unknown(element),
        }
        match element.local() {
            "p" => {
                if self.part.is_comments {
                    self.last_paragraph_id = element.string("paraId");
                }
                self.take_paragraph(xml, gatherer);
            }
            "tbl" => {
                let place = self.place();
                let (table, attributes) = self.table(xml);
                let mut block = Block::new(BlockKind::Table(Box::new(table))).at(place);
                block.attributes = attributes;
                gatherer.push(block);
            }
            "sdt" => self.block_control(xml, gatherer),
            "sdtContent" | "customXml" | "smartTag" => self.gather(xml, gatherer),
            "ins" | "del" | "moveTo" | "moveFrom" => {
                if let Some(revision) = super::revisions::revision(element) {
                    self.changed_blocks(revision, xml, gatherer);
                }
            }
            "altChunk" => self.embedded_document(element, gatherer),
            "bookmarkStart" => self.waiting_anchors.extend(element.string("name")),
            "commentRangeStart" => self.comment_range(element),
            "sectPr" => {
                let section = self.properties(|context| Section::read(xml, context));
                if self.part.is_main {
                    gatherer.end_section(&section);
                    self.sections.push(section);
                }
            }
            "commentRangeEnd" | "customXmlPr" | "smartTagPr" | "tcPr" => {}
            mark if is_mere_mark(mark) => {}
            // Runs between paragraphs, as no program should write them.
            "r" | "hyperlink" | "fldSimple" => self.stray_inline(element, xml, gatherer),
            _ => self.unknown(element),
        }
    }

    /// Inline content where a block should be.
    fn stray_inline(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, gatherer: &mut Gatherer) {
        let base = self.text_base(self.styles.paragraph(None));
        let mut line = Line::default();
        self.inline(element, xml, &mut line, &base);
        let content = line.finish();
        if !content.is_empty() {
            gatherer.push(Block::new(BlockKind::Paragraph(content)).at(self.place()));
        }
    }

    fn take_paragraph(&mut self, xml: &mut Xml<'_>, gatherer: &mut Gatherer) {
        let paragraph = self.paragraph(xml);
        // Only table cells keep the alignment of their paragraphs where looks are left out.
        if paragraph.align.is_some_and(|align| align != TextAlign::Start) && !self.options.looks {
            self.looks.count("alignment");
        }
        self.put_paragraph(paragraph, gatherer);
    }

    /// Puts a paragraph, and what stood in it but not in its line, in the row.
    pub(super) fn put_paragraph(&mut self, mut paragraph: Paragraph, gatherer: &mut Gatherer) {
        if !self.carried_over.is_empty() {
            let mut content = std::mem::take(&mut self.carried_over);
            content.append(&mut paragraph.content);
            paragraph.content = content;
        }
        for block in std::mem::take(&mut paragraph.before) {
            gatherer.push(block);
        }
        let behind = std::mem::take(&mut paragraph.behind);
        let section = paragraph.section.take();
        if paragraph.joins_next || paragraph.is_drop_cap {
            self.carried_over = std::mem::take(&mut paragraph.content);
        } else {
            let is_empty = paragraph.content.is_empty() && behind.is_empty() && section.is_none();
            // Lines of code and thematic breaks say something without a word.
            let says_nothing = !matches!(
                paragraph.role,
                Role::Code | Role::ThematicBreak | Role::Description | Role::ContentsEntry
            );
            if is_empty && says_nothing && !self.options.looks {
                self.looks.count("empty paragraphs");
            }
            gatherer.push_paragraph(paragraph, self.options.looks && is_empty);
        }
        behind.into_iter().for_each(|block| gatherer.push(block));
        if let Some(section) = section {
            gatherer.end_section(&section);
            self.sections.push(*section);
        }
    }

    /// What was carried over to a paragraph that never came.
    pub(super) fn rest_carried_over(&mut self, gatherer: &mut Gatherer) {
        let content: Vec<Inline> = std::mem::take(&mut self.carried_over);
        if !content.is_empty() {
            gatherer.push(Block::new(BlockKind::Paragraph(content)).at(self.place()));
        }
    }

    /// Whether looks are those before a tracked change of them.
    pub(super) fn restores_looks(&mut self) -> bool {
        // What was before stands to what is now as deleted text to text.
        let is_kept = self.is_kept(RevisionKind::Deletion);
        if is_kept.is_none() {
            self.lost("a tracked change of looks");
        }
        is_kept == Some(true)
    }
}
