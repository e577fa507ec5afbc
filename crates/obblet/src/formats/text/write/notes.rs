//! Notes and addresses, each behind its number at the end.

use super::wrap::{behind, beside};
use super::{NoteEntry, Writer};
use crate::document::NoteId;
use unicode_width::UnicodeWidthStr as _;

impl Writer<'_> {
    /// Notes and addresses, each behind its number. A note may bring further ones.
    pub(super) fn notes_at_end(&mut self) -> Vec<String> {
        let width = self.options.wrap.map(usize::from);
        let mut lines = Vec::new();
        let mut done = 0;
        while let Some(entry) = self.notes.get(done) {
            done += 1;
            let mark = format!("[{done}] ");
            let more = match entry {
                NoteEntry::Address(address) => vec![address.to_string()],
                NoteEntry::Note(note) => {
                    let document = self.document;
                    let content = document.notes.get(note.index()).map(|note| &note.content[..]);
                    self.blocks(content.unwrap_or_default(), beside(width, mark.width()))
                }
            };
            lines.extend(behind(&mark, if more.is_empty() { vec![String::new()] } else { more }));
        }
        lines
    }

    /// The number of a note; the next one, where it had none.
    pub(super) fn note_number(&mut self, note: NoteId) -> usize {
        let next = self.notes.len() + 1;
        let number = *self.note_numbers.entry(note).or_insert(next);
        if number == next {
            self.notes.push(NoteEntry::Note(note));
        }
        number
    }

    pub(super) fn address_number(&mut self, address: &str) -> usize {
        let next = self.notes.len() + 1;
        let number = *self.address_numbers.entry(address.into()).or_insert(next);
        if number == next {
            self.notes.push(NoteEntry::Address(address.into()));
        }
        number
    }
}
