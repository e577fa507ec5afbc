//! Notes.

use super::sayable::Sayable;
use super::sayable_inlines::push_text;
use super::spacing::can_be_tight;
use crate::document::Inline;
use crate::document::NoteId;
use crate::document::{
    Block, BlockKind, CompactString, List, ListItem, ListKind, ListSpacing, Note, NoteKind,
    Numbering,
};
use crate::findings::Code;
use crate::formats::markdown::Switch;
use crate::formats::markdown::read::grammar;
use std::collections::HashSet;

impl Sayable<'_> {
    /// The notes, each with a label; where the dialect has none, they become a list at the end.
    pub(super) fn notes(&mut self, blocks: &mut Vec<Block>) -> Vec<Note> {
        let notes = &self.document.notes;
        let mut taken: HashSet<String> = HashSet::new();
        let mut labelled = Vec::with_capacity(notes.len());
        for note in notes {
            if note.kind == NoteKind::Endnote {
                self.findings.count(Code::EndnoteAsFootnote, "", None);
            }
            labelled.push(self.blocks(&note.content));
        }
        if !self.has(Switch::Footnotes) {
            if !notes.is_empty() {
                self.not_carried("the tie between notes and their marks");
                let items = labelled
                    .into_iter()
                    .map(|content| ListItem { content, ..ListItem::default() })
                    .collect::<Vec<_>>();
                let tight = can_be_tight(&items, self.options);
                let spacing = if tight { ListSpacing::Tight } else { ListSpacing::Loose };
                let kind = ListKind::Numbered(Numbering::default());
                blocks.push(Block::new(BlockKind::ThematicBreak));
                blocks.push(Block::new(BlockKind::List(Box::new(List { kind, spacing, items }))));
            }
            return Vec::new();
        }
        let stated: HashSet<String> =
            notes.iter().filter_map(|note| note.label.as_deref().map(str::to_lowercase)).collect();
        let mut number = 0;
        let mut free_number = |taken: &mut HashSet<String>| loop {
            number += 1;
            let label = number.to_string();
            if !stated.contains(&label) && taken.insert(label.clone()) {
                return label.into();
            }
        };
        let mut said = Vec::with_capacity(notes.len());
        for (note, content) in notes.iter().zip(labelled) {
            let stated = note.label.as_ref().filter(|label| grammar::is_note_label(label));
            let label: CompactString = match stated {
                Some(label) if taken.insert(label.as_str().to_lowercase()) => label.clone(),
                _ => free_number(&mut taken),
            };
            said.push(Note { kind: NoteKind::Footnote, label: Some(label), content });
        }
        said
    }

    pub(super) fn push_note_mark(&mut self, note: NoteId, out: &mut Vec<Inline>) {
        if self.document.note(note).is_none() {
            return;
        }
        if self.has(Switch::Footnotes) {
            return out.push(Inline::NoteMark(note));
        }
        let number = note.index() + 1;
        self.push_tag("<sup>".into(), out);
        push_text(out, &if self.options.html { number.to_string() } else { format!("[{number}]") });
        self.push_tag("</sup>".into(), out);
    }
}
