//! The categories of characters, which documents may change.

use super::token::Category;
use std::collections::HashMap;

/// When a byte does not stand for itself: flags of [`Categories::plain`].
mod unless {
    pub(super) const ALWAYS: u8 = 1;
    pub(super) const DOUBLED: u8 = 2;
    pub(super) const BEFORE_QUOTE: u8 = 4;
    pub(super) const BEFORE_SPACE: u8 = 8;
}

/// The category of every character.
#[derive(Debug, Clone)]
pub(super) struct Categories {
    ascii: [Category; 128],
    others: HashMap<char, Category>,
    /// Which bytes are of characters that stand for themselves, and unless what.
    plain: [u8; 256],
}

impl Categories {
    /// Those of a document.
    pub(super) fn of_document() -> Self {
        let mut ascii = [Category::Other; 128];
        for letter in (b'a'..=b'z').chain(b'A'..=b'Z') {
            set(&mut ascii, letter, Category::Letter);
        }
        for (character, category) in [
            (b'\\', Category::Escape),
            (b'{', Category::Begin),
            (b'}', Category::End),
            (b'$', Category::Math),
            (b'&', Category::Align),
            (b'\n', Category::EndLine),
            (b'#', Category::Parameter),
            (b'^', Category::Superscript),
            (b'_', Category::Subscript),
            (b' ', Category::Space),
            (b'\t', Category::Space),
            (b'~', Category::Active),
            (b'%', Category::Comment),
        ] {
            set(&mut ascii, character, category);
        }
        let mut categories = Self { ascii, others: HashMap::new(), plain: [0; 256] };
        categories.find_plain();
        categories
    }

    fn find_plain(&mut self) {
        let has_others = !self.others.is_empty();
        for (byte, plain) in self.plain.iter_mut().enumerate() {
            *plain = match self.ascii.get(byte) {
                Some(Category::Letter) => 0,
                // These join with their likes into other characters.
                Some(Category::Other) => match byte as u8 {
                    b'`' | b'\'' | b'"' => unless::ALWAYS,
                    b'-' | b',' | b'<' | b'>' => unless::DOUBLED,
                    b'!' | b'?' => unless::BEFORE_QUOTE,
                    _ => 0,
                },
                Some(Category::Space) if byte == usize::from(b' ') => unless::BEFORE_SPACE,
                None if !has_others => 0,
                _ => unless::ALWAYS,
            };
        }
    }

    pub(super) fn get(&self, character: char) -> Category {
        match self.ascii.get(character as usize) {
            Some(category) => *category,
            None => match self.others.get(&character) {
                Some(category) => *category,
                None if character.is_alphabetic() => Category::Letter,
                None => Category::Other,
            },
        }
    }

    pub(super) fn set(&mut self, character: char, category: Category) {
        match u8::try_from(character).ok().filter(u8::is_ascii) {
            Some(byte) => set(&mut self.ascii, byte, category),
            None => {
                self.others.insert(character, category);
            }
        }
        self.find_plain();
    }

    /// How many bytes at the start of a text are letters.
    pub(super) fn letters_length(&self, text: &str) -> usize {
        let is_letter = |byte: u8| self.ascii.get(usize::from(byte)) == Some(&Category::Letter);
        match text.bytes().position(|byte| !is_letter(byte)) {
            Some(length) if text.as_bytes().get(length).is_some_and(u8::is_ascii) => length,
            _ => text.find(|c| self.get(c) != Category::Letter).unwrap_or(text.len()),
        }
    }

    /// How many bytes at the start of a text stand for themselves, single spaces between them.
    pub(super) fn plain_length(&self, text: &[u8]) -> usize {
        // One branch a byte: which one ends a word, no processor can tell beforehand.
        let stops = |byte: u8, next: u8| {
            let flags = self.plain.get(usize::from(byte)).copied().unwrap_or(unless::ALWAYS);
            let met = unless::ALWAYS
                | (u8::from(next == byte) * unless::DOUBLED)
                | (u8::from(next == b'`') * unless::BEFORE_QUOTE)
                | (u8::from(next <= b' ') * unless::BEFORE_SPACE);
            flags & met != 0
        };
        match text.windows(2).position(|pair| matches!(pair, [byte, next] if stops(*byte, *next))) {
            Some(length) => length,
            None => match text.last() {
                Some(last) if stops(*last, b'\n') => text.len() - 1,
                _ => text.len(),
            },
        }
    }
}

fn set(ascii: &mut [Category; 128], byte: u8, category: Category) {
    if let Some(entry) = ascii.get_mut(byte as usize) {
        *entry = category;
    }
}
