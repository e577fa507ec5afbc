//! The parts beside the main one: styles, numbering, notes, properties; and those that are only
//! reported.

use super::super::xml::Xml;
use super::{PartState, Reader};
use crate::document::{Block, Note, NoteId, NoteKind};
use crate::findings::Code;
use std::mem;

use super::numbering::Numberings;
use super::styles::Styles;

impl Reader<'_> {
    /// Reads everything the main part refers to by relationship, before the main part itself.
    pub(super) fn read_side_parts(&mut self) {
        if let Some(text) = self.part_text("styles") {
            self.styles = Styles::read(&text);
        }
        if let Some(text) = self.part_text("numbering") {
            self.numberings = Numberings::read(&text);
        }
        self.read_properties();
        self.read_notes("footnotes", NoteKind::Footnote);
        self.read_notes("endnotes", NoteKind::Endnote);
        self.report_unread_parts();
    }

    /// The text of the main part's related part of a kind; says so when it cannot be read.
    fn part_text(&mut self, kind: &str) -> Option<String> {
        let part = self.part.relationships.part_of_kind(kind)?.to_string();
        self.named_part_text(&part)
    }

    pub(super) fn named_part_text(&mut self, part: &str) -> Option<String> {
        match self.package.text(part) {
            Ok(text) => Some(text),
            Err(error) => {
                let subject = format!("{part} ({error})");
                self.findings.add_about(Code::PartMissing, &subject, None);
                None
            }
        }
    }

    fn read_notes(&mut self, kind_name: &str, kind: NoteKind) {
        let Some(part) = self.part.relationships.part_of_kind(kind_name).map(String::from) else {
            return;
        };
        let Some(text) = self.named_part_text(&part) else { return };
        let relationships = self.package.relationships(&part);
        let main = mem::replace(&mut self.part, PartState { relationships, is_main: false });
        let mut xml = Xml::new(&text);
        let top = xml.level();
        while xml.child(top).is_some() {
            let level = xml.level();
            while let Some(element) = xml.child(level) {
                let is_note = element.is("footnote") || element.is("endnote");
                // Separators are drawn between text and notes.
                let is_separator = element.value("type").is_some_and(|kind| kind != "normal");
                if let Some(number) = element.number("id").filter(|_| is_note && !is_separator) {
                    let mut blocks = self.blocks(&mut xml);
                    trim_start(&mut blocks);
                    self.note_texts.insert((kind, number), blocks);
                }
            }
        }
        if let Some(why) = xml.broken.take() {
            self.findings.add_about(Code::XmlBroken, &format!("{part}: {why}"), None);
        }
        self.part = main;
    }

    /// The note that a mark points to; the first mark brings its text into the document.
    pub(super) fn note(&mut self, kind: NoteKind, number: i64) -> Option<NoteId> {
        let key = (kind, number);
        if let Some(id) = self.note_ids.get(&key) {
            return Some(*id);
        }
        let content = self.note_texts.remove(&key)?;
        let id = self.document.add_note(Note { kind, label: None, content });
        self.note_ids.insert(key, id);
        Some(id)
    }

    /// Parts that hold text which is not read yet.
    fn report_unread_parts(&mut self) {
        for (kind, words) in
            [("header", "page header"), ("footer", "page footer"), ("comments", "review comments")]
        {
            let parts: Vec<String> =
                self.part.relationships.parts_of_kind(kind).into_iter().map(String::from).collect();
            for part in parts {
                let Some(text) = self.named_part_text(&part) else { continue };
                let mut xml = Xml::new(&text);
                let level = xml.level();
                let words_inside = xml.text(level);
                let shown: String = words_inside.trim().chars().take(60).collect();
                if !shown.is_empty() {
                    let subject = format!("{words} “{shown}”");
                    self.findings.add_about(Code::PartNotRead, &subject, None);
                }
            }
        }
    }
}

/// A note's text begins with its own number and a space; the number is drawn anew.
fn trim_start(blocks: &mut [Block]) {
    use crate::document::{BlockKind, Inline};
    if let Some(Block { kind: BlockKind::Paragraph(content), .. }) = blocks.first_mut()
        && let Some(Inline::Text(text)) = content.first_mut()
    {
        *text = text.trim_start().into();
    }
}
