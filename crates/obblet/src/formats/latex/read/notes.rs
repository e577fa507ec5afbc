//! Footnotes, endnotes, notes in the margin, remarks of editors; glossaries.

use super::Reader;
use super::commands::Action;
use crate::document::{
    Block, BlockKind, Comment, CommentEdge, CommentId, CommentMark, Formatting, Group, GroupRole,
    Inline, Note, NoteKind, plain_text,
};
use crate::tex::{Name, Spot};

impl Reader<'_> {
    pub(super) fn note_command(&mut self, action: Action, spot: Spot) {
        match action {
            Action::Footnote => self.note(NoteKind::Footnote),
            Action::Endnote => self.note(NoteKind::Endnote),
            Action::FootnoteMark => {
                self.front.option();
                // The text may come later; its mark stands here.
                let note = Note { kind: NoteKind::Footnote, label: None, content: Vec::new() };
                let id = self.document.add_note(note);
                self.sheet.push(Inline::NoteMark(id));
            }
            Action::FootnoteText => {
                self.front.option();
                let content = self.block_argument();
                let open = self.document.notes.iter_mut().find(|note| note.content.is_empty());
                match open {
                    Some(note) => note.content = content,
                    None => {
                        let note = Note { kind: NoteKind::Footnote, label: None, content };
                        let id = self.document.add_note(note);
                        self.sheet.push(Inline::NoteMark(id));
                    }
                }
            }
            Action::Todo => self.remark(),
            _ => self.margin_note(spot),
        }
    }

    fn note(&mut self, kind: NoteKind) {
        self.front.option();
        self.step("footnote", "");
        // Notes get their numbers in the order of their marks.
        let id = self.document.add_note(Note { kind, label: None, content: Vec::new() });
        let content = self.block_argument();
        if let Some(note) = self.document.notes.get_mut(id.index()) {
            note.content = content;
        }
        self.sheet.mark_place();
        self.sheet.push(Inline::NoteMark(id));
    }

    /// A note in the margin stands beside the paragraph.
    fn margin_note(&mut self, spot: Spot) {
        self.front.option();
        let content = self.block_argument();
        if content.is_empty() {
            return;
        }
        let kind = BlockKind::Group(Box::new(Group { role: GroupRole::Aside, content }));
        // It must not cut the paragraph: it comes before it.
        self.sheet.blocks.push(Block::new(kind).at(spot.into()));
    }

    /// `\todo{…}` is what an editor says about this place.
    fn remark(&mut self) {
        self.front.option();
        let content = self.block_argument();
        let comment = CommentId::new(self.document.comments.len());
        self.document.comments.push(Comment { content, ..Comment::default() });
        let mark = CommentMark { comment, edge: CommentEdge::Point };
        self.sheet.push(Inline::CommentMark(mark));
    }

    /// Terms of a glossary are shown as their words.
    pub(super) fn gloss_command(&mut self, action: Action, name: Name) {
        match action {
            Action::NewGloss => {
                let key = self.front.argument_text();
                let fields = self.front.argument_text();
                let fields = super::keys::options(&fields);
                let words = super::keys::value(&fields, "name").unwrap_or(&key).to_string();
                let long =
                    super::keys::value(&fields, "description").unwrap_or_default().to_string();
                self.glosses
                    .insert(key, super::Gloss { words, long, is_acronym: false, is_used: false });
            }
            Action::NewAcronym => {
                self.front.option();
                let key = self.front.argument_text();
                let words = self.front.option_text().unwrap_or_default();
                let mut words = words;
                if self.front.names.text(name) == "newacronym" {
                    words = self.front.argument_text();
                }
                if words.is_empty() {
                    words = key.clone();
                }
                let long = self.front.argument_text();
                self.glosses
                    .insert(key, super::Gloss { words, long, is_acronym: true, is_used: false });
            }
            _ => self.gloss(name),
        }
    }

    fn gloss(&mut self, name: Name) {
        let command = self.front.names.text(name).to_string();
        self.front.star();
        self.front.option();
        let key = self.front.argument_text();
        let Some(gloss) = self.glosses.get_mut(&key) else {
            return self.sheet.text.push_str(&key);
        };
        let is_first = !std::mem::replace(&mut gloss.is_used, true);
        let mut words = match (gloss.is_acronym, is_first, command.as_str()) {
            (true, _, "acrlong" | "acl") => gloss.long.clone(),
            (true, _, "acrfull" | "acf") => format!("{} ({})", gloss.long, gloss.words),
            (true, true, "gls" | "Gls" | "ac" | "glspl") => {
                format!("{} ({})", gloss.long, gloss.words)
            }
            _ => gloss.words.clone(),
        };
        if command.ends_with("pl") {
            words.push('s');
        }
        if command.starts_with('G') {
            let mut letters = words.chars();
            let first = letters.next().map(|c| c.to_uppercase().to_string()).unwrap_or_default();
            words = format!("{first}{}", letters.as_str());
        }
        let words = plain_text(&[Inline::Text(words.into())]);
        let content = vec![Inline::Text(words.into())];
        match is_first && !self.glosses.get(&key).is_some_and(|gloss| gloss.is_acronym) {
            true => self.push_formatted(Formatting::DefinedTerm, content),
            false => self.sheet.extend(content),
        }
    }
}
