//! What stands inside a paragraph: runs, and what may stand around them.

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::line::{Frame, Line, TextStyle};
use super::revisions::revision;
use super::text_base::TextBase;
use crate::document::{Anchor, Direction, Inline};
use crate::findings::Code;

/// How deep links, changes and fields may stand in each other.
const INLINE_DEPTH: usize = 40;

/// Namespaces, by their usual prefixes, whose content this reader knows.
const UNDERSTOOD: [&str; 12] =
    ["wps", "wpg", "wpc", "w14", "w15", "w16cid", "w16se", "wp14", "a14", "v2", "c14", "c16r2"];

/// Ends of ranges and marks of programs, which say nothing by themselves wherever they stand.
pub(super) fn is_mere_mark(local: &str) -> bool {
    matches!(
        local,
        "bookmarkEnd"
            | "proofErr"
            | "permStart"
            | "permEnd"
            | "moveFromRangeStart"
            | "moveFromRangeEnd"
            | "moveToRangeStart"
            | "moveToRangeEnd"
            | "customXmlInsRangeStart"
            | "customXmlInsRangeEnd"
            | "customXmlDelRangeStart"
            | "customXmlDelRangeEnd"
            | "customXmlMoveFromRangeStart"
            | "customXmlMoveFromRangeEnd"
            | "customXmlMoveToRangeStart"
            | "customXmlMoveToRangeEnd"
    )
}

impl Reader<'_> {
    /// Reads one child of a paragraph, or of a container in it.
    pub(super) fn inline(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
        base: &TextBase,
    ) {
        if element.ns != Ns::Word {
            return self.foreign_content(element, xml, line, base);
        }
        match element.local() {
            "r" => self.run(xml, line, base),
            "hyperlink" => match self.hyperlink(element) {
                Some(frame) => self.framed(frame, xml, line, base),
                None => self.inlines(xml, line, base),
            },
            "ins" | "del" | "moveTo" | "moveFrom" => self.change(element, xml, line, base),
            "fldSimple" => {
                let instruction = element.string("instr").unwrap_or_default();
                let is_open = self.open_simple_field(&instruction, line);
                self.inlines(xml, line, base);
                if is_open {
                    line.close();
                }
            }
            "sdt" => self.inline_control(xml, line, base),
            "smartTag" | "customXml" | "sdtContent" => self.inlines(xml, line, base),
            "dir" | "bdo" => {
                if element.local() == "bdo" {
                    self.lost("an order of letters against their own direction");
                }
                let direction = match element.val().as_deref() {
                    Some("rtl") => Direction::RightToLeft,
                    _ => Direction::LeftToRight,
                };
                self.framed(Frame::Direction(direction), xml, line, base);
            }
            "bookmarkStart" => {
                if let Some(name) = element.value("name") {
                    self.has_anchors = true;
                    let anchor = Anchor { id: name.into() };
                    line.push(Inline::Anchor(Box::new(anchor)), TextStyle::default());
                }
            }
            "commentRangeStart" => self.comment_start(element, line),
            "commentRangeEnd" => self.comment_end(element, line),
            // What a formula's or a control's own properties say is read with them; a field's
            // private data is its program's own.
            "pPr" | "sdtPr" | "sdtEndPr" | "smartTagPr" | "customXmlPr" | "fldData" => {}
            mark if is_mere_mark(mark) => {}
            "subDoc" => self.lost("a subdocument"),
            _ => self.unknown(element),
        }
    }

    /// Reads all children of the element that was given last.
    pub(super) fn inlines(&mut self, xml: &mut Xml<'_>, line: &mut Line, base: &TextBase) {
        let level = xml.level();
        if self.depth >= INLINE_DEPTH {
            self.findings.add(Code::NestingTooDeep, Some(self.place()));
            while let Some(element) = xml.descendant(level) {
                if element.is("r") {
                    self.run(xml, line, base);
                }
            }
            return;
        }
        self.depth += 1;
        while let Some(element) = xml.child(level) {
            self.inline(&element, xml, line, base);
        }
        self.depth -= 1;
    }

    /// Reads all children of an element into a frame of its own.
    pub(super) fn framed(
        &mut self,
        frame: Frame,
        xml: &mut Xml<'_>,
        line: &mut Line,
        base: &TextBase,
    ) {
        let depth = line.depth();
        line.open(frame);
        self.inlines(xml, line, base);
        while line.depth() > depth {
            line.close();
        }
    }

    /// A tracked change, shown or settled as the house says.
    fn change(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
        base: &TextBase,
    ) {
        let Some(revision) = revision(element) else { return };
        match self.is_kept(revision.kind) {
            None => self.framed(Frame::Change(revision), xml, line, base),
            Some(true) => self.inlines(xml, line, base),
            Some(false) => {}
        }
    }

    /// What is not WordprocessingML.
    pub(super) fn foreign_content(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
        base: &TextBase,
    ) {
        match (element.ns, element.local()) {
            (Ns::Compatibility, "AlternateContent") => {
                self.alternative(xml, &mut |reader, element, xml| match element.local() {
                    "drawing" => reader.drawing(xml, line),
                    "pict" | "object" => reader.older_object(element, xml, line),
                    _ => reader.inline(element, xml, line, base),
                });
            }
            (Ns::Math, "oMath" | "oMathPara") => self.equation(element, xml, line),
            // Emoji and the like are stated as characters too.
            (Ns::WordExtension, "symEx") => self.symbol_of_newer_programs(element, line),
            _ => self.unknown(element),
        }
    }

    /// ECMA-376 part 3, 7.6: the first choice whose namespaces are understood, else the fallback.
    pub(super) fn alternative(
        &mut self,
        xml: &mut Xml<'_>,
        each: &mut dyn FnMut(&mut Self, &Element<'_>, &mut Xml<'_>),
    ) {
        let level = xml.level();
        if self.depth >= INLINE_DEPTH {
            self.findings.add(Code::NestingTooDeep, Some(self.place()));
            while let Some(element) = xml.descendant(level) {
                if element.is("r") || element.is("p") {
                    each(self, &element, xml);
                }
            }
            return;
        }
        self.depth += 1;
        let mut chosen = false;
        while let Some(branch) = xml.child(level) {
            let fits = match branch.local() {
                "Choice" => branch.value("Requires").is_none_or(|prefixes| {
                    prefixes.split_whitespace().all(|prefix| UNDERSTOOD.contains(&prefix))
                }),
                "Fallback" => true,
                _ => {
                    self.unknown(&branch);
                    false
                }
            };
            if chosen || !fits {
                continue;
            }
            chosen = true;
            let inside = xml.level();
            while let Some(element) = xml.child(inside) {
                each(self, &element, xml);
            }
        }
        self.depth -= 1;
    }

    fn symbol_of_newer_programs(&mut self, element: &Element<'_>, line: &mut Line) {
        let code = element.value("char").and_then(|code| u32::from_str_radix(&code, 16).ok());
        match code.and_then(char::from_u32).filter(|c| !c.is_control()) {
            Some(character) => {
                line.push_text(character.encode_utf8(&mut [0; 4]), &TextStyle::default());
            }
            None => self.lost("a character by its place in a font"),
        }
    }
}
