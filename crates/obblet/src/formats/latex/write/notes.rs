//! Footnotes and endnotes, numbered as LaTeX will number them.

use super::{Need, Writer};
use crate::document::{Block, BlockKind, NoteId, NoteKind};
use crate::findings::Code;

impl Writer<'_> {
    pub(super) fn note_mark(&mut self, id: NoteId) {
        let Some(note) = self.document.note(id) else {
            return self.findings.add_about(
                Code::NoteMissing,
                &id.index().to_string(),
                Some(self.place),
            );
        };
        let command = match note.kind {
            NoteKind::Footnote => "footnote",
            NoteKind::Endnote => {
                self.need(Need::Endnotes);
                "endnote"
            }
        };
        if let Some(number) = self.note_numbers.get(&id) {
            let mark = format!("\\{command}mark[{number}]");
            self.lost("a second mark of a note");
            return self.out.push_str(&mark);
        }
        let count = match note.kind {
            NoteKind::Footnote => &mut self.footnotes,
            NoteKind::Endnote => &mut self.endnotes,
        };
        *count += 1;
        self.note_numbers.insert(id, *count);
        let words = self.as_argument(|writer| writer.note_content(&note.content));
        self.push_command(command, words.trim());
    }

    /// In a cell, an empty line would end more than a paragraph.
    pub(super) fn note_content(&mut self, content: &[Block]) {
        match content {
            [Block { kind: BlockKind::Paragraph(only), .. }] => self.inlines(only),
            blocks => self.blocks(blocks),
        }
    }

    pub(super) fn end_notes(&mut self) {
        if self.endnotes > 0 {
            self.paragraph_break();
            self.out.push_str("\\theendnotes\n");
        }
    }
}
