//! Theorems and other statements.

use super::Reader;
use crate::document::{Attributes, BlockKind, GroupRole, Inline, plain_text};
use crate::tex::Spot;

/// A kind of statement.
#[derive(Debug, Clone)]
pub(super) struct Kind {
    /// What it is called.
    words: String,
    /// What counts it; none for those without numbers.
    counter: Option<String>,
}

impl Reader<'_> {
    pub(super) fn theorem_style(&mut self) {
        // How statements are set is for the page to say.
        self.front.argument();
    }

    /// `\newtheorem{name}[counter]{Words}[within]`.
    pub(super) fn new_theorem(&mut self) {
        let has_star = self.front.star();
        let name = self.front.expanded_argument();
        let shared = self.front.option_text();
        let words = plain_text(&self.inline_argument());
        let within = self.front.option_text();
        let counter = match (has_star, shared) {
            (true, _) => None,
            (false, Some(shared)) => Some(shared),
            (false, None) => {
                self.front.new_counter(&name, within.as_deref());
                let shown = match &within {
                    Some(within) => format!(r"\the{within}.\arabic{{{name}}}"),
                    None => format!(r"\arabic{{{name}}}"),
                };
                self.front.define_text(&format!("the{name}"), &shown);
                Some(name.to_string())
            }
        };
        self.statements.insert(name.into(), Kind { words: words.trim().into(), counter });
    }

    pub(super) fn statement(&mut self, name: &str, spot: Spot) {
        let Some(kind) = self.statements.get(name).cloned() else { return };
        self.sheet.end_paragraph();
        let note = self.inline_option().map(|note| plain_text(&note));
        let mut title = kind.words.clone();
        if let Some(counter) = &kind.counter {
            let word = kind.words.to_lowercase();
            let number = self.step(counter, &word);
            title = format!("{title} {number}");
        }
        if let Some(note) = note.filter(|note| !note.trim().is_empty()) {
            title = format!("{title} ({})", note.trim());
        }
        self.push_statement(&title, name, spot);
    }

    pub(super) fn proof(&mut self, name: &str, spot: Spot) {
        self.sheet.end_paragraph();
        let title = self.inline_option().map(|title| plain_text(&title));
        let title = title.unwrap_or_else(|| self.caption_words.proof.to_string());
        self.push_statement(title.trim(), name, spot);
    }

    /// A label at its start is the statement's own.
    fn push_statement(&mut self, title: &str, name: &str, spot: Spot) {
        let mut content = self.content_of(name, spot);
        let mut attributes = Attributes::NONE;
        if let Some(first) = content.first_mut()
            && let BlockKind::Paragraph(inlines) = &mut first.kind
            && let Some(Inline::Anchor(anchor)) = inlines.first()
        {
            attributes = Attributes::with_id(anchor.id.clone());
            inlines.remove(0);
            if matches!(inlines.first(), Some(Inline::Break(_))) {
                inlines.remove(0);
            }
            if let Some(Inline::Text(text)) = inlines.first_mut() {
                *text = text.trim_start().into();
            }
            if inlines.is_empty() {
                content.remove(0);
            }
        }
        self.push_group(GroupRole::Statement(title.into()), content, attributes, spot);
    }
}
