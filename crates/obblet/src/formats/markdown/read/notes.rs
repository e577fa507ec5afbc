//! The labels of notes.

use super::assemble::Assembler;
use crate::document::Note;
use crate::document::NoteKind;
use crate::document::{NoteId, Place};
use crate::findings::Code;
use std::collections::HashMap;
use std::collections::hash_map::Entry;

/// All labels that have a text, numbered in source order.
#[derive(Debug, Default)]
pub(super) struct NoteLabels {
    by_label: HashMap<String, usize>,
    /// Each label with the place of its definition.
    pub(super) all: Vec<(String, Place)>,
}

impl NoteLabels {
    /// Adds a label. When it is there already, the place of its first definition is given back.
    pub(super) fn define(&mut self, label: &str, place: Place) -> Result<usize, Place> {
        match self.by_label.entry(label.to_lowercase()) {
            Entry::Occupied(first) => {
                Err(self.all.get(*first.get()).map_or(place, |(_, first)| *first))
            }
            Entry::Vacant(free) => {
                let number = self.all.len();
                free.insert(number);
                self.all.push((label.to_string(), place));
                Ok(number)
            }
        }
    }

    /// The note of a label.
    pub(super) fn get(&self, label: &str) -> Option<NoteId> {
        self.by_label.get(&label.to_lowercase()).map(|number| NoteId::new(*number))
    }
}

impl<'s> Assembler<'s, '_> {
    pub(super) fn report_unused_notes(&mut self, labels: &[(String, Place)]) {
        for ((label, place), marked) in labels.iter().zip(&self.inlines.marked_notes) {
            if !marked {
                self.inlines.findings.add_about(Code::NoteUnused, label, Some(*place));
            }
        }
    }

    /// All notes: those with labels first, by number, then those that stand where their marks are.
    pub(super) fn finished_notes(self, labels: &[(String, Place)]) -> Vec<Note> {
        let labelled = self.notes.into_iter().zip(labels).map(|(content, (label, _))| Note {
            kind: NoteKind::Footnote,
            label: Some(label.as_str().into()),
            content,
        });
        let mut notes: Vec<Note> = labelled.collect();
        let mut inline = self.inlines.inline_notes;
        inline.sort_by_key(|(id, _)| id.index());
        for (id, block) in inline {
            let empty = || Note { kind: NoteKind::Footnote, label: None, content: Vec::new() };
            notes.resize_with(id.index().max(notes.len()), empty);
            notes.push(Note { content: vec![block], ..empty() });
        }
        notes
    }
}
