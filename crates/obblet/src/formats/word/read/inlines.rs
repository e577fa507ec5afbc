//! What stands inside a paragraph: runs, and what may stand around them.

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::line::{Frame, Line};
use super::runs::RunProperties;
use crate::document::{Anchor, Inline, Revision, RevisionKind};
use crate::findings::Code;
use crate::math::Formula;

/// How deep links, changes and fields may stand in each other.
const INLINE_DEPTH: usize = 40;

impl Reader<'_> {
    /// Reads one child of a paragraph, or of a container in it.
    pub(super) fn inline(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
        base: &RunProperties,
    ) {
        if element.ns != Ns::Word {
            return self.foreign_content(element, xml, line);
        }
        match element.local() {
            "r" => self.run(xml, line, base),
            "hyperlink" => match self.hyperlink(element) {
                Some(frame) => self.framed(frame, xml, line, base),
                None => self.inlines(xml, line, base),
            },
            "ins" => self.change(RevisionKind::Insertion, element, xml, line, base),
            "del" => self.change(RevisionKind::Deletion, element, xml, line, base),
            "moveTo" => self.change(RevisionKind::MoveTarget, element, xml, line, base),
            "moveFrom" => self.change(RevisionKind::MoveSource, element, xml, line, base),
            "fldSimple" => {
                let instruction = element.value("instr").unwrap_or_default();
                let opened = self.open_field(&instruction, line);
                self.inlines(xml, line, base);
                if opened.is_some() {
                    line.close();
                }
            }
            "smartTag" | "customXml" | "sdt" | "sdtContent" | "dir" | "bdo" => {
                self.inlines(xml, line, base);
            }
            "bookmarkStart" => {
                if let Some(name) = element.value("name") {
                    let anchor = Anchor { id: name.into() };
                    line.push(Inline::Anchor(Box::new(anchor)), Default::default());
                }
            }
            // Ends and marks that say nothing by themselves; comments are a finding of their part.
            "pPr"
            | "sdtPr"
            | "sdtEndPr"
            | "smartTagPr"
            | "customXmlPr"
            | "bookmarkEnd"
            | "proofErr"
            | "permStart"
            | "permEnd"
            | "commentRangeStart"
            | "commentRangeEnd"
            | "moveFromRangeStart"
            | "moveFromRangeEnd"
            | "moveToRangeStart"
            | "moveToRangeEnd"
            | "customXmlInsRangeStart"
            | "customXmlInsRangeEnd"
            | "customXmlDelRangeStart"
            | "customXmlDelRangeEnd" => {}
            "subDoc" => self.lost("a subdocument"),
            _ => self.unknown(element.shown()),
        }
    }

    /// Reads all children of the element that was given last.
    pub(super) fn inlines(&mut self, xml: &mut Xml<'_>, line: &mut Line, base: &RunProperties) {
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

    fn framed(&mut self, frame: Frame, xml: &mut Xml<'_>, line: &mut Line, base: &RunProperties) {
        let depth = line.depth();
        line.open(frame);
        self.inlines(xml, line, base);
        while line.depth() > depth {
            line.close();
        }
    }

    fn change(
        &mut self,
        kind: RevisionKind,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
        base: &RunProperties,
    ) {
        let author = element.value("author").map(Into::into);
        let date = element.value("date").map(Into::into);
        self.framed(Frame::Change(Revision { kind, author, date }), xml, line, base);
    }

    fn hyperlink(&mut self, element: &Element<'_>) -> Option<Frame> {
        let mut address = String::new();
        if let Some(id) = element.value("id") {
            match self.part.relationships.get(&id) {
                Some(relationship) => address.clone_from(&relationship.target),
                None => {
                    self.findings.add_about(Code::RelationMissing, &id, Some(self.place()));
                }
            }
        }
        if let Some(anchor) = element.value("anchor") {
            address = format!("{address}#{anchor}");
        }
        let title = element.value("tooltip").map(Into::into);
        (!address.is_empty()).then(|| Frame::Link { address: address.into(), title })
    }

    /// What is not WordprocessingML.
    pub(super) fn foreign_content(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
    ) {
        match (element.ns, element.local()) {
            (Ns::Compatibility, "AlternateContent") => self.alternative(xml, line),
            (Ns::Math, "oMath" | "oMathPara") => self.equation(xml, line),
            _ => self.unknown(element.shown()),
        }
    }

    /// ECMA-376 part 3: the first choice is what a current program shows.
    fn alternative(&mut self, xml: &mut Xml<'_>, line: &mut Line) {
        let level = xml.level();
        let mut chosen = false;
        while let Some(branch) = xml.child(level) {
            if chosen || !matches!(branch.local(), "Choice" | "Fallback") {
                continue;
            }
            chosen = true;
            let inside = xml.level();
            while let Some(element) = xml.child(inside) {
                match element.local() {
                    "drawing" => self.drawing(xml, line),
                    "pict" | "object" => self.older_object(&element, xml, line),
                    "r" => self.run(xml, line, &RunProperties::default()),
                    _ => self.unknown(element.shown()),
                }
            }
        }
    }

    /// An equation's characters, until the formula reader makes more of it.
    fn equation(&mut self, xml: &mut Xml<'_>, line: &mut Line) {
        let level = xml.level();
        let mut source = String::new();
        while let Some(element) = xml.descendant(level) {
            if element.local() == "t" {
                let inside = xml.level();
                source.push_str(&xml.text(inside));
            }
        }
        self.findings.add_about(Code::EquationFlattened, &source, Some(self.place()));
        let formula = Formula { source, ..Formula::default() };
        line.push(Inline::Formula(Box::new(formula)), Default::default());
    }
}
