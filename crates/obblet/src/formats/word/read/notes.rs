//! Footnotes and endnotes: their parts, their marks, and how they are numbered (17.11).

use super::super::xml::{Element, Xml};
use super::Reader;
use super::context::Context;
use super::line::{Line, TextStyle};
use super::parts::{PartKind, trim_start};
use crate::document::{Inline, Note, NoteId, NoteKind};
use crate::findings::Code;

impl Reader<'_> {
    pub(super) fn read_notes(&mut self, kind_name: &str, kind: NoteKind) {
        let Some(part) = self.part.relationships.part_of_kind(kind_name).map(String::from) else {
            return;
        };
        self.in_part(&part, PartKind::Notes, |reader, xml| {
            let top = xml.level();
            while let Some(root) = xml.child(top) {
                if !root.is("footnotes") && !root.is("endnotes") {
                    reader.unknown(&root);
                }
                let level = xml.level();
                while let Some(element) = xml.child(level) {
                    if !element.is("footnote") && !element.is("endnote") {
                        reader.unknown(&element);
                        continue;
                    }
                    // Separators are drawn between text and notes, and hold marks for that alone.
                    let is_separator = element.value("type").is_some_and(|kind| kind != "normal");
                    if is_separator {
                        let looks = reader.looks.clone();
                        reader.blocks(xml);
                        reader.looks = looks;
                    } else if let Some(number) = element.number("id") {
                        let mut blocks = reader.blocks(xml);
                        trim_start(&mut blocks);
                        reader.note_texts.insert((kind, number), blocks);
                    }
                }
            }
        });
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

    pub(super) fn note_mark(&mut self, element: &Element<'_>, kind: NoteKind, line: &mut Line) {
        let Some(number) = element.number("id") else { return };
        match self.note(kind, number) {
            Some(note) => {
                line.push(Inline::NoteMark(note), TextStyle::default());
                // A mark of the author's own follows as text, and stands for the number (17.11.14).
                let is_own = element.flag("customMarkFollows") == Some(true);
                self.own_mark = is_own.then_some(note);
            }
            None => {
                let subject = number.to_string();
                self.findings.add_about(Code::NoteMissing, &subject, Some(self.place()));
            }
        }
    }
}

/// How notes are numbered (17.11.11): pages number them 1, 2, 3.
pub(super) fn note_numbers(xml: &mut Xml<'_>, context: &mut Context<'_>) {
    let level = xml.level();
    while let Some(property) = xml.child(level) {
        let value = property.val();
        let is_usual = match property.local() {
            "numFmt" => matches!(value.as_deref(), Some("decimal" | "lowerRoman") | None),
            "numStart" => matches!(value.as_deref(), Some("1") | None),
            "numRestart" => matches!(value.as_deref(), Some("continuous") | None),
            _ => true,
        };
        if !is_usual {
            context.lost.push("how notes are numbered");
        }
    }
}
