//! Headings, and what stands where one belongs.

use super::{Subject, words_of};
use crate::document::{BlockKind, Heading, Node, Place, plain_text};
use crate::findings::Code;
use crate::format::Format;

/// Words from which on a text without headings is hard to find one's way in.
const MANY_WORDS: usize = 1500;
/// Letters from which on capitals are no abbreviation.
const MANY_CAPITALS: usize = 40;

impl Subject<'_> {
    pub(super) fn structure(&mut self) {
        let headings: Vec<(Heading, Place)> = self
            .nodes()
            .filter_map(|node| match node {
                Node::Block(block) => match &block.kind {
                    BlockKind::Heading(heading) => Some(((**heading).clone(), block.place)),
                    _ => None,
                },
                _ => None,
            })
            .collect();
        self.levels(&headings);
        self.top_headings(&headings);
        for (heading, place) in &headings {
            if plain_text(&heading.content).trim().is_empty() && !holds_object(heading) {
                self.findings.add(Code::HeadingEmpty, Some(*place));
            }
        }
        self.capitals();
        let has_title = !self.document.metadata.title.is_empty();
        if headings.is_empty() {
            let words: usize = self.words();
            if words >= MANY_WORDS {
                self.findings.add_about(Code::HeadingsMissing, &words.to_string(), None);
            }
            let is_text = words > 0 && self.format != Format::Html;
            if is_text && !has_title {
                self.findings.add(Code::TitleMissing, None);
            }
        }
    }

    fn levels(&mut self, headings: &[(Heading, Place)]) {
        let mut before: Option<u8> = None;
        for (heading, place) in headings {
            let last = before.unwrap_or(heading.level);
            if heading.level > last + 1 {
                let jump = format!("level {} follows level {last}", heading.level);
                self.findings.add_about(Code::HeadingLevelJump, &jump, Some(*place));
            }
            before = Some(heading.level);
        }
    }

    /// A page has one top heading. A source that states its title apart may have any number.
    fn top_headings(&mut self, headings: &[(Heading, Place)]) {
        let has_own_title = self.format != Format::Html && !self.document.metadata.title.is_empty();
        if has_own_title || matches!(self.format, Format::Org | Format::Latex | Format::Word) {
            return;
        }
        let has_words = |heading: &Heading| !plain_text(&heading.content).trim().is_empty();
        let tops = headings.iter().filter(|(heading, _)| heading.level == 1 && has_words(heading));
        for (heading, place) in tops.skip(1) {
            let words = words_of(&heading.content);
            self.findings.add_about(Code::TopHeadingRepeated, &words, Some(*place));
        }
    }

    fn words(&self) -> usize {
        let texts = self.nodes().filter_map(|node| match node {
            Node::Block(block) => match &block.kind {
                BlockKind::Paragraph(content) => Some(plain_text(content)),
                _ => None,
            },
            _ => None,
        });
        texts.map(|text| text.split_whitespace().count()).sum()
    }

    /// Words in capitals are read letter by letter by some programs.
    fn capitals(&mut self) {
        let mut found = Vec::new();
        for node in self.nodes() {
            let Node::Block(block) = node else { continue };
            let content = match &block.kind {
                BlockKind::Paragraph(content) => content,
                BlockKind::Heading(heading) => &heading.content,
                _ => continue,
            };
            let text = words_of(content);
            let letters = text.chars().filter(|c| c.is_alphabetic()).count();
            if letters >= MANY_CAPITALS && !text.chars().any(char::is_lowercase) {
                found.push((text.chars().take(40).collect::<String>(), block.place));
            }
        }
        for (text, place) in found {
            self.findings.add_about(Code::CapitalsTyped, &text, Some(place));
        }
    }
}

fn holds_object(heading: &Heading) -> bool {
    use crate::document::Inline;
    heading.content.iter().any(|inline| {
        matches!(inline, Inline::Picture(_) | Inline::Formula(_) | Inline::Foreign(_))
    })
}
