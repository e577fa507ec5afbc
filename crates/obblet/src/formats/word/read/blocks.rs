//! The block level: paragraphs, tables and what may stand around them.

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::lists::Gatherer;
use super::paragraphs::Paragraph;
use crate::document::{Block, BlockKind, CellAlign, ContentsKind, ContentsList};

impl Reader<'_> {
    /// Reads all blocks inside the element that was given last.
    pub(super) fn blocks(&mut self, xml: &mut Xml<'_>) -> Vec<Block> {
        let mut gatherer = Gatherer::default();
        self.gather(xml, &mut gatherer);
        gatherer.finish()
    }

    fn gather(&mut self, xml: &mut Xml<'_>, gatherer: &mut Gatherer) {
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
        if element.ns != Ns::Word {
            return match element.ns {
                Ns::Math => self.lost("an equation between paragraphs"),
                _ => self.unknown(element.shown()),
            };
        }
        match element.local() {
            "p" => self.take_paragraph(xml, gatherer),
            "tbl" => {
                let place = self.place();
                let table = self.table(xml);
                gatherer.push(Block::new(table).at(place));
            }
            "sdt" => self.content_control(xml, gatherer),
            "sdtContent" | "customXml" | "smartTag" => self.gather(xml, gatherer),
            "ins" | "del" | "moveTo" | "moveFrom" => {
                self.lost("a tracked change of whole paragraphs");
                self.gather(xml, gatherer);
            }
            "altChunk" => self.lost("an embedded document"),
            "bookmarkStart" => self.waiting_anchors.extend(element.value("name")),
            "sectPr" | "bookmarkEnd" | "proofErr" | "permStart" | "permEnd"
            | "commentRangeStart" | "commentRangeEnd" | "customXmlPr" | "moveFromRangeStart"
            | "moveFromRangeEnd" | "moveToRangeStart" | "moveToRangeEnd" | "tcPr" => {}
            _ => self.unknown(element.shown()),
        }
    }

    fn take_paragraph(&mut self, xml: &mut Xml<'_>, gatherer: &mut Gatherer) {
        let paragraph = self.paragraph(xml);
        // Only table cells keep the alignment of their paragraphs so far.
        if matches!(paragraph.align, Some(CellAlign::Centre | CellAlign::End)) {
            self.looks.count("alignment");
        }
        self.put_paragraph(paragraph, gatherer);
    }

    /// Puts a paragraph, and what stood in it but follows it, in the row.
    pub(super) fn put_paragraph(&mut self, paragraph: Paragraph, gatherer: &mut Gatherer) {
        let behind = std::mem::take(&mut self.behind_paragraph);
        if paragraph.content.is_empty() && behind.is_empty() {
            self.looks.count("empty paragraphs");
        }
        let style = paragraph.style.as_deref().and_then(|id| self.styles.name(id));
        let style = style.map(String::from);
        gatherer.push_paragraph(paragraph, style);
        for block in behind {
            gatherer.push(block);
        }
    }

    /// A content control: a contents list made by Word becomes ours, any other its content.
    fn content_control(&mut self, xml: &mut Xml<'_>, gatherer: &mut Gatherer) {
        let level = xml.level();
        let mut is_contents = false;
        while let Some(part) = xml.child(level) {
            match part.local() {
                "sdtPr" => {
                    let inside = xml.level();
                    while let Some(property) = xml.descendant(inside) {
                        is_contents |= property.is("docPartGallery")
                            && property.val().as_deref() == Some("Table of Contents");
                    }
                }
                "sdtContent" if is_contents => {
                    let contents = ContentsList { kind: ContentsKind::Headings, depth: 0 };
                    let block = Block::new(BlockKind::Contents(Box::new(contents)));
                    gatherer.push(block.at(self.place()));
                    // Its entries are read for their paragraph count only.
                    let mut unused = Gatherer::default();
                    self.gather(xml, &mut unused);
                }
                "sdtContent" => self.gather(xml, gatherer),
                _ => {}
            }
        }
    }
}
