//! The labels of notes.

use crate::document::{NoteId, Place};
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
