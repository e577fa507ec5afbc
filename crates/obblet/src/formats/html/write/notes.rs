//! Footnotes and endnotes: marks in the text, the notes themselves at its end, links both ways
//! (DPUB-ARIA 1.1: `doc-noteref`, `doc-endnotes`, `doc-backlink`).

use super::Writer;
use crate::document::{
    Block, BlockKind, CompactString, Document, Inline, NoteId, NoteKind, NumeralStyle,
};
use crate::findings::Code;
use crate::formats::html::ENDNOTE;

/// A note as the page shows it.
pub(super) struct ShownNote {
    note: NoteId,
    /// Whether it is an endnote in a list of its own.
    is_apart: bool,
    /// Its place in its list, from 1.
    number: usize,
    /// The ids of its marks.
    marks: Vec<CompactString>,
}

impl ShownNote {
    fn name(&self) -> &'static str {
        if self.is_apart { "endnote" } else { "note" }
    }

    fn id(&self) -> String {
        format!("{}-{}", self.name(), self.number)
    }

    /// What its mark shows: endnotes count in Roman numerals beside footnotes.
    fn mark(&self) -> String {
        match i32::try_from(self.number).ok().filter(|_| self.is_apart) {
            Some(number) => NumeralStyle::LowerRoman.spell(number),
            None => self.number.to_string(),
        }
    }
}

/// Whether a document has notes of both kinds.
pub(super) fn has_both_kinds(document: &Document) -> bool {
    let has = |kind| document.notes.iter().any(|note| note.kind == kind);
    has(NoteKind::Endnote) && has(NoteKind::Footnote)
}

impl Writer<'_> {
    /// The index of a note among those shown, which it joins here if it is new.
    fn shown_note(&mut self, note: NoteId) -> usize {
        if let Some(index) = self.note_numbers.get(&note) {
            return *index;
        }
        let kind = self.document.note(note).map(|note| note.kind);
        let is_apart = self.endnotes_apart && kind == Some(NoteKind::Endnote);
        let last = self.notes.iter().rev().find(|shown| shown.is_apart == is_apart);
        let number = last.map_or(0, |shown| shown.number) + 1;
        self.notes.push(ShownNote { note, is_apart, number, marks: Vec::new() });
        self.note_numbers.insert(note, self.notes.len() - 1);
        self.notes.len() - 1
    }

    pub(super) fn note_mark(&mut self, note: NoteId) {
        if self.document.note(note).is_none() {
            let subject = note.index().to_string();
            self.findings.add_about(Code::NoteMissing, &subject, Some(self.place));
            return;
        }
        let index = self.shown_note(note);
        let Some(shown) = self.notes.get(index) else { return };
        let (target, mark) = (format!("#{}", shown.id()), shown.mark());
        let id = self.ids.made(&format!("{}-mark-{}", shown.name(), shown.number));
        self.out.push_str("<sup>");
        // A mark inside a link cannot be a link itself.
        if self.inside_link {
            self.out.push_str("<span");
            self.attribute("id", &id);
            self.out.push_str(&format!(">{mark}</span></sup>"));
        } else {
            self.out.push_str("<a");
            self.attribute("id", &id);
            self.attribute("href", &target);
            self.out.push_str(&format!(" role=\"doc-noteref\">{mark}</a></sup>"));
        }
        if let Some(shown) = self.notes.get_mut(index) {
            shown.marks.push(id);
        }
    }

    /// Writes all notes that have a mark, and those to the title, which shows none. Marks inside notes add
    /// notes at the end.
    pub(super) fn notes(&mut self) {
        self.take_notes_to_title();
        let page = std::mem::take(&mut self.out);
        let (mut notes, mut apart) = (String::new(), String::new());
        let mut index = 0;
        while let Some(shown) = self.notes.get(index) {
            let is_apart = shown.is_apart;
            self.note(index);
            let item = std::mem::take(&mut self.out);
            if is_apart { &mut apart } else { &mut notes }.push_str(&item);
            index += 1;
        }
        self.out = page;
        self.list_of_notes(self.words.notes, "<ol>", &notes);
        self.list_of_notes(self.words.endnotes, "<ol type=\"i\">", &apart);
        self.unused_notes(self.document.notes.len() - self.notes.len());
    }

    fn list_of_notes(&mut self, name: &str, list: &str, items: &str) {
        if items.is_empty() {
            return;
        }
        self.out.push_str("<section role=\"doc-endnotes\"");
        self.attribute("aria-label", name);
        self.out.push_str(&format!(">\n{list}\n{items}</ol>\n</section>\n"));
    }

    fn note(&mut self, index: usize) {
        let Some(shown) = self.notes.get(index) else { return };
        let note = self.document.note(shown.note);
        self.out.push_str(&format!("<li id=\"{}\"", shown.id()));
        if note.is_some_and(|note| note.kind == NoteKind::Endnote) {
            self.attribute("data-kind", ENDNOTE);
        }
        self.out.push('>');
        if let Some(note) = note {
            self.note_blocks(&note.content, index);
        }
        self.out.push_str("</li>\n");
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
                self.shown_note(*note);
            }
        }
    }

    /// The links back go to the end of the last paragraph, or behind the last block.
    fn note_blocks(&mut self, blocks: &[Block], index: usize) {
        match blocks {
            [Block { kind: BlockKind::Paragraph(content), .. }] => {
                self.inlines(content);
                self.back_links(index);
            }
            [before @ .., Block { kind: BlockKind::Paragraph(content), .. }] => {
                self.out.push('\n');
                self.blocks(before);
                self.out.push_str("<p>");
                self.inlines(content);
                self.back_links(index);
                self.out.push_str("</p>\n");
            }
            _ => {
                self.out.push('\n');
                self.blocks(blocks);
                if self.notes.get(index).is_some_and(|shown| !shown.marks.is_empty()) {
                    self.out.push_str("<p>");
                    self.back_links(index);
                    self.out.push_str("</p>\n");
                }
            }
        }
    }

    fn back_links(&mut self, index: usize) {
        let marks = self.notes.get(index).map(|shown| shown.marks.clone()).unwrap_or_default();
        for mark in marks {
            self.out.push_str(" <a");
            self.attribute("href", &format!("#{mark}"));
            self.out.push_str(" role=\"doc-backlink\"");
            self.attribute("aria-label", self.words.back_to_text);
            self.out.push_str(">↩</a>");
        }
    }
}
