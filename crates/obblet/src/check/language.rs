//! The language of a text, by which it is read aloud; and meaning that colour alone carries.

use super::Subject;
use super::validity::values::is_language;
use crate::document::{Attributes, BlockKind, Colour, Formatting, Inline, Node, Place, plain_text};
use crate::findings::Code;
use crate::format::Format;

/// Words of texts that point to something by its colour.
const BY_COLOUR: &[&str] = &[
    "in red",
    "in green",
    "in blue",
    "in yellow",
    "in orange",
    "red ones",
    "green ones",
    "shown red",
    "shown green",
    "marked red",
    "marked green",
    "red text",
    "green text",
    "red cells",
    "green cells",
    "red rows",
    "green rows",
];

impl Subject<'_> {
    pub(super) fn language(&mut self) {
        let stated = self.document.metadata.language.clone();
        match stated.as_deref() {
            None if self.needs_language() => self.findings.add(Code::LanguageMissing, None),
            Some(tag) if !is_language(tag) && self.format != Format::Html => {
                self.findings.add_about(Code::LanguageWrong, tag, None);
            }
            _ => {}
        }
        let mut found = Vec::new();
        let mut place = Place::default();
        for node in self.nodes() {
            let attributes: Option<&Attributes> = match node {
                Node::Block(block) => {
                    place = block.place;
                    Some(&block.attributes)
                }
                Node::Inline(Inline::Formatted(formatted)) => Some(&formatted.attributes),
                _ => None,
            };
            let tag = attributes.and_then(|attributes| attributes.get()?.language.as_deref());
            if let Some(tag) = tag.filter(|tag| !is_language(tag) && self.format != Format::Html) {
                found.push((tag.to_string(), place));
            }
        }
        for (tag, place) in found {
            self.findings.add_about(Code::LanguageWrong, &tag, Some(place));
        }
        self.colours();
    }

    /// A page needs a language; a source gets it from its house, but for a Word file, which has one.
    fn needs_language(&self) -> bool {
        self.format == Format::Html && self.is_page()
    }

    fn is_page(&self) -> bool {
        !self.document.metadata.title.is_empty() || self.document.metadata.front_matter.is_some()
    }

    /// Something is pointed to by its colour where there are words whose colour is all they have.
    fn colours(&mut self) {
        if !self.has_coloured_words() {
            return;
        }
        let mut found = Vec::new();
        for node in self.nodes() {
            let Node::Block(block) = node else { continue };
            let BlockKind::Paragraph(content) = &block.kind else { continue };
            let text = plain_text(content).to_lowercase();
            if let Some(words) = BY_COLOUR.iter().find(|words| text.contains(**words)) {
                found.push((*words, block.place));
            }
        }
        for (words, place) in found {
            self.findings.add_about(Code::ColourAlone, words, Some(place));
        }
    }

    fn has_coloured_words(&self) -> bool {
        self.nodes().any(|node| {
            let Node::Inline(Inline::Formatted(formatted)) = node else { return false };
            let colour: Option<Colour> =
                formatted.attributes.looks().and_then(|looks| looks.colour);
            formatted.format == Formatting::Plain && colour.is_some()
        })
    }
}
