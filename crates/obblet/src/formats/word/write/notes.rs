//! Footnotes and endnotes (ECMA-376 part 1, 17.11).

use super::blocks::Around;
use super::parts::{Parts, Relations, XML};
use super::runs::RunLook;
use super::{NAMESPACES, TYPES, Writer};
use crate::document::{BlockKind, Note, NoteId, NoteKind, StyleKind};
use std::collections::HashMap;

/// Notes in the order of their marks. Numbers 0 and 1 are those of the lines between text and notes.
#[derive(Debug, Default)]
pub(super) struct NotesOut {
    numbers: HashMap<NoteId, usize>,
    footnotes: Vec<NoteId>,
    endnotes: Vec<NoteId>,
    /// Notes around what is being written: Word has no notes to notes, and notes may refer to each other in
    /// a circle.
    depth: usize,
}

const FIRST_NUMBER: usize = 2;

impl<'d> Writer<'d> {
    pub(super) fn note_mark(&mut self, id: NoteId, look: &RunLook, out: &mut String) {
        let document = self.document;
        let Some(note) = document.note(id) else { return };
        match self.notes.depth {
            0 => {}
            1 => return self.note_in_note(note, look, out),
            _ => return self.lost("a note to a note to a note"),
        }
        if let Some(number) = self.notes.numbers.get(&id).copied() {
            // A second mark refers to the first one, where Word keeps the number.
            self.changed("a second mark of one note");
            let shown = (number - FIRST_NUMBER + 1).to_string();
            let raised = look.with(|look| look.superscript = true);
            let name = self.bookmarks.name_of(&format!("_Note{number}"));
            return self.push_field(&format!("NOTEREF {name} \\h"), &shown, &raised, out);
        }
        let (list, kind) = match note.kind {
            NoteKind::Footnote => (&mut self.notes.footnotes, "footnote"),
            NoteKind::Endnote => (&mut self.notes.endnotes, "endnote"),
        };
        let number = list.len() + FIRST_NUMBER;
        list.push(id);
        self.notes.numbers.insert(id, number);
        let style = self.styles.id(StyleKind::Inline, &format!("{kind} reference"));
        let look = look.with(|look| look.style = Some(style));
        let mark = format!("<w:{kind}Reference w:id=\"{number}\"/>");
        self.push_object_run(&mark, &look, out);
    }

    /// A note to a note stands in brackets, where its mark would be.
    fn note_in_note(&mut self, note: &Note, look: &RunLook, out: &mut String) {
        self.changed("a note to a note");
        self.notes.depth += 1;
        self.push_run(" (", look, out);
        for block in &note.content {
            match &block.kind {
                BlockKind::Paragraph(content) => self.inlines(content, look, out),
                _ => self.lost("a block of a note to a note"),
            }
        }
        self.push_run(")", look, out);
        self.notes.depth -= 1;
    }

    /// Says which notes nothing refers to.
    fn report_unused_notes(&mut self) {
        for at in 0..self.document.notes.len() {
            if !self.notes.numbers.contains_key(&NoteId::new(at)) {
                self.lost("a note that nothing refers to");
            }
        }
    }

    /// The parts of the notes. Gives what the settings say about them.
    pub(super) fn note_parts(&mut self, parts: &mut Parts, main: &mut Relations) -> String {
        self.report_unused_notes();
        let mut settings = String::new();
        for (kind, is_footnote) in [("footnote", true), ("endnote", false)] {
            let notes = match is_footnote {
                true => self.notes.footnotes.clone(),
                false => self.notes.endnotes.clone(),
            };
            if notes.is_empty() {
                continue;
            }
            let text = self.note_part(kind, &notes);
            main.part(&format!("{kind}s"), &format!("{kind}s.xml"));
            let name = format!("word/{kind}s.xml");
            parts.xml(&name, &format!("{TYPES}.{kind}s+xml"), text);
            parts.relations(&name, &std::mem::take(&mut self.relations));
            settings.push_str(&format!(
                "<w:{kind}Pr><w:{kind} w:id=\"0\"/><w:{kind} w:id=\"1\"/></w:{kind}Pr>"
            ));
        }
        settings
    }

    fn note_part(&mut self, kind: &str, notes: &[NoteId]) -> String {
        let mut out = format!("{XML}<w:{kind}s {NAMESPACES}>");
        for (id, name) in [(0, "separator"), (1, "continuationSeparator")] {
            out.push_str(&format!(
                "<w:{kind} w:type=\"{name}\" w:id=\"{id}\"><w:p><w:pPr><w:spacing w:after=\"0\" w:line=\"240\" w:lineRule=\"auto\"/></w:pPr><w:r><w:{name}/></w:r></w:p></w:{kind}>"
            ));
        }
        self.notes.depth = 1;
        let document = self.document;
        for (at, id) in notes.iter().enumerate() {
            let Some(note) = document.note(*id) else { continue };
            out.push_str(&format!("<w:{kind} w:id=\"{}\">", at + FIRST_NUMBER));
            let style = self.styles.id(StyleKind::Block, &format!("{kind} text"));
            let around = Around { style: Some(style.clone()), ..Around::default() };
            let mark = self.styles.id(StyleKind::Inline, &format!("{kind} reference"));
            let own = format!(
                "<w:r><w:rPr><w:rStyle w:val=\"{mark}\"/></w:rPr><w:{kind}Ref/></w:r><w:r><w:t xml:space=\"preserve\"> </w:t></w:r>"
            );
            let (first, rest) = match note.content.split_first() {
                Some((block, rest)) if matches!(block.kind, BlockKind::Paragraph(_)) => {
                    (Some(block), rest)
                }
                _ => (None, &note.content[..]),
            };
            let nothing = crate::document::Attributes::NONE;
            let attributes = first.map_or(&nothing, |block| &block.attributes);
            let mut paragraph = self.paragraph_of(attributes, Some(style), &around);
            paragraph.before = own;
            if let Some(BlockKind::Paragraph(content)) = first.map(|block| &block.kind) {
                paragraph.content = content;
            }
            self.push_paragraph(paragraph, &mut out);
            self.blocks(rest, &around, &mut out);
            if !out.ends_with("</w:p>") {
                out.push_str("<w:p/>");
            }
            out.push_str(&format!("</w:{kind}>"));
        }
        self.notes.depth = 0;
        out + &format!("</w:{kind}s>")
    }
}
