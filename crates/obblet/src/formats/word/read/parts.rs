//! The parts beside the main one: theme, styles, numbering, notes, comments, page headers and
//! footers.

use super::super::xml::Xml;
use super::gather::Gatherer;
use super::numbering::Numberings;
use super::styles::Styles;
use super::text_script::primary;
use super::theme::Theme;
use super::{PartState, Reader};
use crate::document::{Block, BlockKind, Group, GroupRole, Inline, NoteKind};
use crate::findings::Code;
use std::mem;
use std::rc::Rc;

/// What a part beside the main one holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum PartKind {
    Notes,
    Comments,
    RunningHead,
}

impl Reader<'_> {
    /// Reads everything the main part refers to by relationship, before the main part itself.
    pub(super) fn read_side_parts(&mut self) {
        if let Some(text) = self.part_text("theme") {
            self.theme = Rc::new(Theme::read(&text));
        }
        if let Some(text) = self.part_text("styles") {
            self.styles = self.definitions(|context| Styles::read(&text, context));
        }
        if let Some(text) = self.part_text("numbering") {
            self.numberings = self.definitions(|context| Numberings::read(&text, context));
        }
        if self.language.is_none() {
            self.language.clone_from(&self.styles.paragraph(None).run.languages.latin);
            self.language =
                self.language.take().or_else(|| self.styles.default_run.languages.latin.clone());
        }
        self.read_properties();
        self.read_sources();
        self.read_comments();
        self.read_notes("footnotes", NoteKind::Footnote);
        self.read_notes("endnotes", NoteKind::Endnote);
    }

    /// The text of the main part's related part of a kind; says so when it cannot be read.
    pub(super) fn part_text(&mut self, kind: &str) -> Option<String> {
        let part = self.part.relationships.part_of_kind(kind)?.to_string();
        self.named_part_text(&part)
    }

    pub(super) fn named_part_text(&mut self, part: &str) -> Option<String> {
        match self.package.text(part) {
            Ok(text) => Some(text),
            Err(error) => {
                let subject = format!("{part} ({error})");
                self.findings.add_about(Code::PartMissing, &subject, None);
                None
            }
        }
    }

    /// Reads another part with relationships of its own, then goes on with the one before.
    pub(super) fn in_part<T>(
        &mut self,
        part: &str,
        kind: PartKind,
        read: impl FnOnce(&mut Self, &mut Xml<'_>) -> T,
    ) -> Option<T> {
        let text = self.named_part_text(part)?;
        let relationships = self.package.relationships(part);
        let is_comments = kind == PartKind::Comments;
        let state = PartState { is_comments, ..PartState::new(relationships) };
        let around = mem::replace(&mut self.part, state);
        let mut xml = Xml::new(&text);
        // Fields that a part leaves open are none of what is read behind it.
        let found = self.apart(|reader| read(reader, &mut xml));
        if let Some(why) = xml.broken.take() {
            self.findings.add_about(Code::XmlBroken, &format!("{part}: {why}"), None);
        }
        self.part = around;
        if kind != PartKind::RunningHead {
            self.beside.push(text);
        }
        Some(found)
    }

    /// Page headers and footers: those of the first page where they are wanted; of all others one
    /// finding says what they said.
    pub(super) fn settle_running_heads(&mut self) {
        let mut kept = Vec::new();
        if self.options.running_heads {
            for is_header in [true, false] {
                let section = self.sections.first();
                let found = section.and_then(|section| section.running(is_header));
                let Some(id) = found.map(|running| running.relationship.to_string()) else {
                    continue;
                };
                if let Some(part) = self.part.relationships.get(&id).map(|r| r.target.clone()) {
                    self.take_running_head(&part, is_header);
                    kept.push(part);
                }
            }
        }
        for (kind, words) in [("header", "page header"), ("footer", "page footer")] {
            let parts: Vec<String> =
                self.part.relationships.parts_of_kind(kind).into_iter().map(String::from).collect();
            for part in parts.into_iter().filter(|part| !kept.contains(part)) {
                self.report_part(&part, words);
            }
        }
    }

    fn take_running_head(&mut self, part: &str, is_header: bool) {
        let blocks = self.in_part(part, PartKind::RunningHead, |reader, xml| {
            let mut gatherer = Gatherer::new(reader.options.looks);
            let top = xml.level();
            while xml.child(top).is_some() {
                reader.gather(xml, &mut gatherer);
            }
            gatherer.finish()
        });
        let content = blocks.unwrap_or_default();
        if content.is_empty() {
            return;
        }
        let role = if is_header { GroupRole::PageHeader } else { GroupRole::PageFooter };
        let block = Block::new(BlockKind::Group(Box::new(Group { role, content })));
        if is_header {
            self.document.blocks.insert(0, block);
        } else {
            self.document.blocks.push(block);
        }
    }

    fn report_part(&mut self, part: &str, words: &str) {
        let Some(text) = self.named_part_text(part) else { return };
        let mut xml = Xml::new(&text);
        let level = xml.level();
        let mut said = String::new();
        while let Some(element) = xml.descendant(level) {
            if element.is("t") {
                let inside = xml.level();
                said.push_str(&xml.text(inside));
            }
        }
        let shown: String = said.trim().chars().take(60).collect();
        if !shown.is_empty() {
            let subject = format!("{words} “{shown}”");
            self.findings.add_about(Code::PartNotRead, &subject, None);
        }
    }

    /// The language that most of the text is in, where that is not the one it was read with.
    pub(super) fn other_language(&self) -> Option<crate::document::CompactString> {
        let most = self.languages.iter().max_by_key(|(_, bytes)| *bytes).map(|(tag, _)| tag)?;
        let own = self.language.as_deref().unwrap_or_default();
        (primary(most) != primary(own)).then(|| most.clone())
    }
}

/// A note's text begins with its own number and a space; the number is drawn anew.
pub(super) fn trim_start(blocks: &mut [Block]) {
    if let Some(Block { kind: BlockKind::Paragraph(content), .. }) = blocks.first_mut()
        && let Some(Inline::Text(text)) = content.first_mut()
    {
        *text = text.trim_start().into();
    }
}
