//! Letters: who writes, to whom, and what opens and closes them.

use super::Reader;
use crate::document::{Block, BlockKind, Inline, build};
use crate::tex::{Name, Spot};

/// What a letter says around its text.
#[derive(Default)]
pub(super) struct Letter {
    sender: Vec<Block>,
    recipient: Vec<Block>,
    signature: Vec<Block>,
}

impl Reader<'_> {
    /// Whether the class of the document is one for letters.
    pub(super) fn is_letter(&self) -> bool {
        ["letter", "lttr", "brief"].iter().any(|word| self.class.name.contains(word))
    }

    pub(super) fn letter_sender(&mut self) {
        self.letter.sender = self.block_argument();
    }

    /// `\begin{letter}{recipient}`
    pub(super) fn letter_environment(&mut self, name: &str, spot: Spot) {
        self.front.option();
        self.letter.recipient = self.block_argument();
        self.sheet.end_paragraph();
        let content = self.content_of(name, spot);
        // Without an opening the recipient stands above the text.
        self.sheet.blocks.append(&mut self.letter.recipient);
        self.sheet.blocks.extend(content);
    }

    /// What opens and closes a letter, each a paragraph of its own.
    pub(super) fn letter_part(&mut self, name: Name) {
        self.sheet.end_paragraph();
        let name = self.front.names.text(name).to_string();
        let content = self.block_argument();
        match name.as_str() {
            "signature" => self.letter.signature = content,
            "opening" => {
                self.sheet.blocks.extend(self.letter.sender.iter().cloned());
                self.sheet.blocks.append(&mut self.letter.recipient);
                self.sheet.blocks.extend(content);
            }
            "closing" => {
                self.sheet.blocks.extend(content);
                self.sign_letter();
            }
            "cc" | "encl" => self.sheet.blocks.extend(with_word(&name, content)),
            _ => self.sheet.blocks.extend(content),
        }
    }

    fn sign_letter(&mut self) {
        if !self.letter.signature.is_empty() {
            return self.sheet.blocks.extend(self.letter.signature.iter().cloned());
        }
        if let Some(author) = self.document.metadata.authors.first() {
            let name = author.name.to_string();
            self.sheet.blocks.push(build::paragraph(name.as_str()));
        }
    }
}

/// The word that TeX writes before a list of names or papers.
fn with_word(word: &str, mut content: Vec<Block>) -> Vec<Block> {
    let label = Inline::Text(format!("{word}: ").into());
    match content.first_mut().map(|block| &mut block.kind) {
        Some(BlockKind::Paragraph(line)) => line.insert(0, label),
        _ => content.insert(0, build::paragraph(vec![label])),
    }
    content
}
