//! Marks of notes.

use super::Writer;
use crate::document::NoteId;

impl Writer<'_> {
    pub(super) fn note_mark(&mut self, note: NoteId) {
        let label = self.survey.note_labels.get(note.index()).cloned().unwrap_or_default();
        self.out.push_str(&format!("[fn:{label}]"));
    }
}
