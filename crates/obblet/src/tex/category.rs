//! The categories of characters, which documents may change.

use super::token::Category;
use std::collections::HashMap;

/// The category of every character.
#[derive(Debug, Clone)]
pub(super) struct Categories {
    ascii: [Category; 128],
    others: HashMap<char, Category>,
    /// Bytes of characters that stand for themselves and for nothing else.
    plain: [bool; 256],
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
        let mut categories = Self { ascii, others: HashMap::new(), plain: [true; 256] };
        categories.find_plain();
        categories
    }

    fn find_plain(&mut self) {
        let has_others = !self.others.is_empty();
        for (byte, plain) in self.plain.iter_mut().enumerate() {
            *plain = match self.ascii.get(byte) {
                Some(Category::Letter) => true,
                // These join with their likes into other characters.
                Some(Category::Other) => !matches!(
                    byte as u8,
                    b'-' | b',' | b'`' | b'\'' | b'"' | b'<' | b'>' | b'!' | b'?'
                ),
                Some(_) => false,
                None => !has_others,
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

    /// How many bytes at the start of a text stand for themselves.
    pub(super) fn plain_length(&self, text: &[u8]) -> usize {
        let is_special = |byte: &u8| !self.plain.get(*byte as usize).copied().unwrap_or(false);
        text.iter().position(is_special).unwrap_or(text.len())
    }
}

fn set(ascii: &mut [Category; 128], byte: u8, category: Category) {
    if let Some(entry) = ascii.get_mut(byte as usize) {
        *entry = category;
    }
}
