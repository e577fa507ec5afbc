//! Footnotes and endnotes: marks in the text, the notes themselves at its end, links both ways
//! (DPUB-ARIA 1.1: `doc-noteref`, `doc-endnotes`, `doc-backlink`).

use super::Writer;
use crate::document::{Block, BlockKind, Inline, NoteId, NoteKind};
use crate::findings::Code;
use crate::formats::html::ENDNOTE;

impl Writer<'_> {
    pub(super) fn note_mark(&mut self, note: NoteId) {
        if self.document.note(note).is_none() {
            let subject = note.index().to_string();
            self.findings.add_about(Code::NoteMissing, &subject, Some(self.place));
            return;
        }
        let number = match self.note_numbers.get(&note) {
            Some(number) => *number,
            None => {
                self.notes.push((note, Vec::new()));
                self.note_numbers.insert(note, self.notes.len());
                self.notes.len()
            }
        };
        let id = self.ids.made(&format!("note-mark-{number}"));
        self.out.push_str("<sup>");
        // A mark inside a link cannot be a link itself.
        if self.inside_link {
            self.out.push_str("<span");
            self.attribute("id", &id);
            self.out.push_str(&format!(">{number}</span></sup>"));
        } else {
            self.out.push_str("<a");
            self.attribute("id", &id);
            let target = format!("#note-{number}");
            self.attribute("href", &target);
            self.out.push_str(&format!(" role=\"doc-noteref\">{number}</a></sup>"));
        }
        if let Some((_, marks)) = self.notes.get_mut(number - 1) {
            marks.push(id);
        }
    }

    /// Writes all notes that have a mark, and those to the title, which shows none. Marks inside notes add
    /// notes at the end.
    pub(super) fn notes(&mut self) {
        self.take_notes_to_title();
        let all = self.document.notes.len();
        if self.notes.is_empty() {
            return self.unused_notes(all);
        }
        self.out.push_str("<section role=\"doc-endnotes\"");
        self.attribute("aria-label", self.words.notes);
        self.out.push_str(">\n<ol>\n");
        let mut index = 0;
        while let Some((note, _)) = self.notes.get(index) {
            let note = *note;
            index += 1;
            self.out.push_str(&format!("<li id=\"note-{index}\""));
            let note = self.document.note(note);
            if note.is_some_and(|note| note.kind == NoteKind::Endnote) {
                self.attribute("data-kind", ENDNOTE);
            }
            self.out.push('>');
            if let Some(note) = note {
                self.note_blocks(&note.content, index);
            }
            self.out.push_str("</li>\n");
        }
        self.out.push_str("</ol>\n</section>\n");
        self.unused_notes(all - self.notes.len());
    }

    fn unused_notes(&mut self, count: usize) {
        for _ in 0..count {
            self.findings.count(Code::NodeNotCarried, "a note without a mark", None);
        }
    }

    fn take_notes_to_title(&mut self) {
        let metadata = &self.document.metadata;
        for inline in metadata.title.iter().chain(&metadata.subtitle) {
            let Inline::NoteMark(note) = inline else { continue };
            if self.document.note(*note).is_some() && !self.note_numbers.contains_key(note) {
                self.findings.count(Code::NodeChanged, "a note to the title", None);
                self.notes.push((*note, Vec::new()));
                self.note_numbers.insert(*note, self.notes.len());
            }
        }
    }

    /// The links back go to the end of the last paragraph, or behind the last block.
    fn note_blocks(&mut self, blocks: &[Block], number: usize) {
        match blocks {
            [Block { kind: BlockKind::Paragraph(content), .. }] => {
                self.inlines(content);
                self.back_links(number);
            }
            [before @ .., Block { kind: BlockKind::Paragraph(content), .. }] => {
                self.out.push('\n');
                self.blocks(before);
                self.out.push_str("<p>");
                self.inlines(content);
                self.back_links(number);
                self.out.push_str("</p>\n");
            }
            _ => {
                self.out.push('\n');
                self.blocks(blocks);
                if self.notes.get(number - 1).is_some_and(|(_, marks)| !marks.is_empty()) {
                    self.out.push_str("<p>");
                    self.back_links(number);
                    self.out.push_str("</p>\n");
                }
            }
        }
    }

    fn back_links(&mut self, number: usize) {
        let marks = self.notes.get(number - 1).map(|(_, marks)| marks.clone()).unwrap_or_default();
        for mark in marks {
            self.out.push_str(" <a");
            self.attribute("href", &format!("#{mark}"));
            self.out.push_str(" role=\"doc-backlink\"");
            self.attribute("aria-label", self.words.back_to_text);
            self.out.push_str(">↩</a>");
        }
    }
}
