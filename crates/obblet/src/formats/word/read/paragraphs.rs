//! Paragraphs and their properties.

use super::super::xml::{Ns, Xml};
use super::Reader;
use super::line::Line;
use super::numbering::Numbered;
use super::runs::RunProperties;
use super::styles::Role;
use crate::document::{Anchor, CellAlign, Direction, Inline, Place};
use crate::findings::Code;

/// A paragraph before lists are gathered.
#[derive(Debug)]
pub(super) struct Paragraph {
    pub(super) role: Role,
    /// The style's id, when it states one.
    pub(super) style: Option<String>,
    pub(super) numbered: Option<Numbered>,
    pub(super) align: Option<CellAlign>,
    pub(super) direction: Option<Direction>,
    pub(super) content: Vec<Inline>,
    pub(super) place: Place,
}

/// What `w:pPr` says.
#[derive(Debug, Default)]
struct ParagraphProperties {
    style: Option<String>,
    list: Option<i64>,
    list_level: Option<usize>,
    outline_level: Option<u8>,
    align: Option<CellAlign>,
    right_to_left: bool,
}

impl Reader<'_> {
    /// Reads a paragraph.
    pub(super) fn paragraph(&mut self, xml: &mut Xml<'_>) -> Paragraph {
        if self.part.is_main {
            self.paragraphs += 1;
        }
        let place = if self.part.is_main { self.place() } else { Place::default() };
        let mut properties = ParagraphProperties::default();
        let mut line = Line::default();
        for id in std::mem::take(&mut self.waiting_anchors) {
            line.push(Inline::Anchor(Box::new(Anchor { id: id.into() })), Default::default());
        }
        let mut base = self.styles.paragraph_run(None);
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            if element.is("pPr") {
                properties = self.paragraph_properties(xml);
                base = self.styles.paragraph_run(properties.style.as_deref());
            } else {
                self.inline(&element, xml, &mut line, &base);
            }
        }
        self.leave_paragraph_fields();
        let content = line.finish();
        let role = match properties.outline_level {
            Some(level @ 0..=8) => Role::Heading(level + 1),
            _ => self.styles.role(properties.style.as_deref()),
        };
        // Word shows no number beside a paragraph without content.
        let numbered = if content.is_empty() { None } else { self.numbered(&properties, place) };
        let direction = properties.right_to_left.then_some(Direction::RightToLeft);
        let ParagraphProperties { style, align, .. } = properties;
        Paragraph { role, style, numbered, align, direction, content, place }
    }

    fn paragraph_properties(&mut self, xml: &mut Xml<'_>) -> ParagraphProperties {
        let mut found = ParagraphProperties::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "pStyle" => found.style = element.val(),
                "numPr" => {
                    let inside = xml.level();
                    while let Some(property) = xml.child(inside) {
                        match property.local() {
                            "numId" => found.list = property.number("val"),
                            "ilvl" => {
                                let level = property.number("val");
                                found.list_level = level.and_then(|n| usize::try_from(n).ok());
                            }
                            "ins" | "numberingChange" => self.lost("a tracked change of numbering"),
                            _ => self.unknown(property.shown()),
                        }
                    }
                }
                "outlineLvl" => {
                    found.outline_level = element.number("val").and_then(|n| u8::try_from(n).ok());
                }
                "jc" => {
                    found.align = alignment(element.val().as_deref());
                    if found.align.is_none() {
                        self.looks.count("alignment");
                    }
                }
                "bidi" => found.right_to_left = element.is_on(),
                "sectPr" => self.looks.count("page set-up"),
                "pPrChange" => self.lost("a tracked change of looks"),
                "rPr" => self.paragraph_mark(xml),
                _ if element.ns != Ns::Word => self.unknown(element.shown()),
                name if self.looks.count_property(name) => {}
                _ => self.unknown(element.shown()),
            }
        }
        found
    }

    /// The properties of the paragraph's end mark: only tracked changes of it say anything.
    fn paragraph_mark(&mut self, xml: &mut Xml<'_>) {
        let mut tracked = false;
        RunProperties::read(xml, &mut |element| {
            tracked |= matches!(element.local(), "ins" | "del" | "moveFrom" | "moveTo");
        });
        if tracked {
            self.lost("a tracked change of a paragraph's end");
        }
    }

    fn numbered(&mut self, properties: &ParagraphProperties, place: Place) -> Option<Numbered> {
        let by_style = self.styles.numbering(properties.style.as_deref());
        let list = properties.list.or(by_style.map(|(list, _)| list))?;
        // List 0 takes numbering away (17.9.18).
        if list == 0 {
            return None;
        }
        let level = properties.list_level.or(by_style.and_then(|(_, level)| level));
        let numbered = self.numberings.count(list, level.unwrap_or_default());
        if numbered.is_none() {
            self.findings.count(Code::NumberingMissing, &list.to_string(), Some(place));
        }
        numbered
    }
}

/// ECMA-376 part 1, 17.18.44.
fn alignment(value: Option<&str>) -> Option<CellAlign> {
    match value? {
        "center" => Some(CellAlign::Centre),
        "end" | "right" => Some(CellAlign::End),
        "start" | "left" => Some(CellAlign::Start),
        _ => None,
    }
}
