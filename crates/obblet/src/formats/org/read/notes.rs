//! Footnotes of all three kinds (Org syntax, “Footnotes”).

use super::Reader;
use super::lines::{is_label, note_definition};
use crate::document::{Block, BlockKind, CompactString, Inline, Note, NoteId, NoteKind, Place};
use crate::findings::Code;
use std::collections::hash_map::Entry;
use std::collections::{HashMap, HashSet};
use std::ops::Range;

/// The notes of a document, while it is read.
#[derive(Debug, Default)]
pub(super) struct Notes {
    /// The labels that are defined somewhere.
    defined: HashSet<CompactString>,
    /// Numbers of notes by their labels, in the order of their marks.
    marked: HashMap<CompactString, NoteId>,
    definitions: HashMap<CompactString, (Vec<Block>, Place)>,
}

impl Reader<'_> {
    /// Finds out which labels are defined.
    pub(super) fn survey_notes(&mut self) {
        let in_text = &self.survey.in_text;
        let mark = memchr::memmem::Finder::new(b"[fn:");
        for (line, _) in self.lines.iter().zip(in_text).filter(|(_, is_in_text)| !**is_in_text) {
            if let Some((label, _)) = note_definition(line.text) {
                self.notes.defined.insert(label.into());
            }
            for start in mark.find_iter(line.text.as_bytes()) {
                let rest = line.text.get(start + 4..).unwrap_or_default();
                let label = rest.split(':').next().unwrap_or_default();
                if label.len() < rest.len() && is_label(label) {
                    self.notes.defined.insert(label.into());
                }
            }
        }
    }

    /// A definition, up to the next one or two blank lines. Gives the line behind it.
    pub(super) fn note_definition(&mut self, at: usize, end: usize) -> usize {
        let Some(line) = self.lines.get(at).copied() else { return at + 1 };
        let Some((label, length)) = note_definition(line.text) else { return at + 1 };
        let label = CompactString::new(label);
        let mut behind = at + 1;
        let mut blank = 0;
        while let Some(line) = self.lines.get(behind).filter(|_| behind < end) {
            if line.is_blank() {
                blank += 1;
                if blank == 2 {
                    break;
                }
            } else if note_definition(line.text).is_some() {
                break;
            } else {
                blank = 0;
            }
            behind += 1;
        }
        if let Some(first) = self.lines.get_mut(at) {
            let spaces = line.text.get(length..).unwrap_or_default();
            *first = line.rest(length + spaces.len() - spaces.trim_start().len());
        }
        let place = line.place();
        let read = self.deeper(place, |reader| reader.elements(at..behind));
        let content = read.unwrap_or_else(|| self.as_text(at..behind));
        match self.notes.definitions.entry(label) {
            Entry::Occupied(first) => {
                self.findings.add_about(Code::NoteLabelDuplicate, first.key(), Some(place));
            }
            Entry::Vacant(free) => {
                free.insert((content, place));
            }
        }
        behind
    }

    /// The mark of a note that is defined elsewhere.
    pub(super) fn note_mark(&mut self, label: &str, place: Place) -> Option<Inline> {
        if !self.settings.options.notes && !self.options.keeps_hidden {
            self.hidden("footnotes", place);
            return Some(Inline::Text(CompactString::default()));
        }
        let label = CompactString::new(label);
        if let Some(&note) = self.notes.marked.get(&label) {
            return Some(Inline::NoteMark(note));
        }
        if !self.notes.defined.contains(&label) {
            self.findings.add_about(Code::NoteLabelMissing, &label, Some(place));
            return None;
        }
        // Content comes when all definitions are read.
        let note =
            Note { kind: NoteKind::Footnote, label: Some(label.clone()), content: Vec::new() };
        let id = self.document.add_note(note);
        self.notes.marked.insert(label, id);
        Some(Inline::NoteMark(id))
    }

    /// A note that is defined where its mark stands, perhaps with a label for later marks.
    pub(super) fn note_in_line(
        &mut self,
        label: &str,
        content: Vec<Inline>,
        place: Place,
    ) -> Inline {
        let content = vec![Block::new(BlockKind::Paragraph(content)).at(place)];
        if label.is_empty() {
            let note = Note { kind: NoteKind::Footnote, label: None, content };
            return Inline::NoteMark(self.document.add_note(note));
        }
        let label = CompactString::new(label);
        self.notes.defined.insert(label.clone());
        self.notes.definitions.insert(label.clone(), (content, place));
        self.note_mark(&label, place).unwrap_or(Inline::Text(CompactString::default()))
    }

    /// Gives the notes their content; those that nothing marks are told, and come last.
    pub(super) fn finish_notes(&mut self) {
        let mut definitions = std::mem::take(&mut self.notes.definitions);
        for (label, id) in &self.notes.marked {
            let Some((content, _)) = definitions.remove(label) else { continue };
            if let Some(note) = self.document.notes.get_mut(id.index()) {
                note.content = content;
            }
        }
        let mut unused: Vec<_> = definitions.into_iter().collect();
        unused.sort_by_key(|(_, (_, place))| (place.source, place.start));
        for (label, (content, place)) in unused {
            self.findings.add_about(Code::NoteUnused, &label, Some(place));
            self.document.add_note(Note { kind: NoteKind::Footnote, label: Some(label), content });
        }
    }
}

impl<'s> Reader<'s> {
    /// Reads the notes that are defined in what is not for readers.
    pub(super) fn notes_of(&mut self, range: Range<usize>) {
        let mut at = range.start;
        while at < range.end {
            let line = self.lines.get(at);
            let is_text = self.survey.in_text.get(at).copied().unwrap_or(true);
            at = match line.and_then(|line| note_definition(line.text)).filter(|_| !is_text) {
                Some(_) => self.note_definition(at, range.end),
                None => at + 1,
            };
        }
    }
}
