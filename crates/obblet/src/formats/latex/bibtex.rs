//! Files of works in BibTeX's notation.

use crate::document::CitedWork;
use std::collections::HashMap;

/// Reads all works of a file, and says what is wrong with it.
pub(crate) fn read_bibtex(text: &str) -> (Vec<CitedWork>, Vec<String>) {
    let mut reader = Reader {
        text,
        at: 0,
        strings: months(),
        room: room_for(text),
        works: Vec::new(),
        problems: Vec::new(),
    };
    reader.file();
    take_over(&mut reader.works);
    (reader.works, reader.problems)
}

/// A work that names another one has its fields too, where it states none of its own; the other's title
/// is that of the book.
fn take_over(works: &mut [CitedWork]) {
    let of_key: HashMap<_, usize> =
        works.iter().enumerate().map(|(at, work)| (work.key.to_lowercase(), at)).collect();
    for at in 0..works.len() {
        let Some(work) = works.get(at) else { continue };
        let named = work.fields.iter().find(|(name, _)| name == "crossref");
        let Some(other) = named.and_then(|(_, key)| of_key.get(key.to_lowercase().as_str())) else {
            continue;
        };
        let taken: Vec<_> = works.get(*other).map(|other| other.fields.clone()).unwrap_or_default();
        let Some(work) = works.get_mut(at) else { continue };
        for (name, value) in taken {
            let name = if name == "title" { "booktitle".into() } else { name };
            let is_known = work.fields.iter().any(|(known, _)| *known == name);
            if !is_known && name != "crossref" {
                work.fields.push((name, value));
            }
        }
    }
}

/// Names in braces are one word each: their spaces become spaces that do not part.
fn with_names_kept(value: &str) -> String {
    let mut kept = String::with_capacity(value.len());
    let mut depth = 0_usize;
    for (at, character) in value.char_indices() {
        let before = value.get(..at).unwrap_or_default();
        let is_escaped = before.ends_with('\\');
        let begins_name = depth > 0 || before.trim_end().is_empty() || before.ends_with(' ');
        match character {
            '{' if !is_escaped && begins_name => depth += 1,
            '}' if !is_escaped => depth = depth.saturating_sub(1),
            _ => {}
        }
        kept.push(if depth > 0 && character.is_whitespace() { '\u{a0}' } else { character });
    }
    kept
}

struct Reader<'t> {
    text: &'t str,
    at: usize,
    strings: HashMap<String, String>,
    /// How many bytes strings may still put into values: two of them may make a third that is as long as both.
    room: usize,
    works: Vec<CitedWork>,
    problems: Vec<String>,
}

/// Bytes that strings may make of a file.
fn room_for(text: &str) -> usize {
    (1 << 20) + text.len().saturating_mul(16)
}

fn months() -> HashMap<String, String> {
    const MONTHS: [(&str, &str); 12] = [
        ("jan", "January"),
        ("feb", "February"),
        ("mar", "March"),
        ("apr", "April"),
        ("may", "May"),
        ("jun", "June"),
        ("jul", "July"),
        ("aug", "August"),
        ("sep", "September"),
        ("oct", "October"),
        ("nov", "November"),
        ("dec", "December"),
    ];
    MONTHS.iter().map(|(short, long)| ((*short).to_string(), (*long).to_string())).collect()
}

impl Reader<'_> {
    fn rest(&self) -> &str {
        self.text.get(self.at..).unwrap_or_default()
    }

    fn peek(&self) -> Option<char> {
        self.rest().chars().next()
    }

    fn skip_space(&mut self) {
        let rest = self.rest();
        self.at += rest.len() - rest.trim_start().len();
    }

    fn eat(&mut self, wanted: char) -> bool {
        self.skip_space();
        let is_it = self.peek() == Some(wanted);
        if is_it {
            self.at += wanted.len_utf8();
        }
        is_it
    }

    /// Entries begin with `@`; everything between them is a remark.
    fn file(&mut self) {
        while let Some(at) = memchr::memchr(b'@', self.rest().as_bytes()) {
            self.at += at + 1;
            let kind = self.word().to_ascii_lowercase();
            self.skip_space();
            let close = match self.peek() {
                Some('{') => '}',
                Some('(') => ')',
                _ => continue,
            };
            self.at += 1;
            match kind.as_str() {
                "comment" => self.skip_to(close),
                "preamble" => {
                    self.value("");
                    self.eat(close);
                }
                "string" => {
                    let name = self.word().to_ascii_lowercase();
                    self.eat('=');
                    let value = self.value("");
                    self.strings.insert(name, value);
                    self.eat(close);
                }
                _ => self.work(kind, close),
            }
        }
    }

    fn word(&mut self) -> String {
        self.skip_space();
        let ends = |c: char| {
            c.is_whitespace() || matches!(c, '{' | '}' | '(' | ')' | ',' | '=' | '#' | '"')
        };
        let rest = self.rest();
        let length = rest.find(ends).unwrap_or(rest.len());
        let word = rest.get(..length).unwrap_or_default().to_string();
        self.at += length;
        word
    }

    fn skip_to(&mut self, close: char) {
        let rest = self.rest();
        self.at += rest.find(close).map_or(rest.len(), |at| at + 1);
    }

    fn work(&mut self, kind: String, close: char) {
        let key = self.word();
        let mut fields = Vec::new();
        while self.eat(',') {
            let name = self.word().to_ascii_lowercase();
            if name.is_empty() {
                break;
            }
            if !self.eat('=') {
                self.problems.push(format!("{key}: {name}"));
                break;
            }
            let value = self.value(&name);
            fields.push((name.into(), value));
        }
        if !self.eat(close) {
            self.problems.push(key.clone());
        }
        let content = Vec::new();
        self.works.push(CitedWork { key: key.into(), kind: kind.into(), fields, content });
    }

    /// Pieces joined by `#`: in braces, in quotation marks, numbers, names of strings.
    fn value(&mut self, field: &str) -> String {
        let mut value = String::new();
        loop {
            self.skip_space();
            match self.peek() {
                Some('{') => {
                    self.at += 1;
                    let inside = self.balanced('}');
                    value.push_str(&inside);
                }
                Some('"') => {
                    self.at += 1;
                    let inside = self.balanced('"');
                    value.push_str(&inside);
                }
                _ => {
                    let word = self.word();
                    let known = self.strings.get(&word.to_ascii_lowercase());
                    match known.map(|known| (self.room.checked_sub(known.len()), known)) {
                        Some((Some(room), known)) => {
                            self.room = room;
                            value.push_str(known);
                        }
                        Some((None, _)) => {
                            value.push_str(&word);
                            self.problems.push(word);
                        }
                        None => value.push_str(&word),
                    }
                }
            }
            if !self.eat('#') {
                break;
            }
        }
        match field {
            "author" | "editor" => plain(&with_names_kept(&value)),
            _ => plain(&value),
        }
    }

    fn balanced(&mut self, close: char) -> String {
        let mut depth = 0_usize;
        let mut inside = String::new();
        let mut is_escaped = false;
        while let Some(character) = self.peek() {
            self.at += character.len_utf8();
            match character {
                _ if is_escaped => is_escaped = false,
                '\\' => is_escaped = true,
                _ if character == close && depth == 0 => return inside,
                '{' => depth += 1,
                '}' => depth = depth.saturating_sub(1),
                _ => {}
            }
            inside.push(character);
        }
        inside
    }
}

/// A value without TeX: accents as characters, braces gone.
fn plain(value: &str) -> String {
    let value = value.split_whitespace().collect::<Vec<_>>().join(" ");
    if !value.contains(['\\', '{', '}', '$', '~', '-']) {
        return value;
    }
    super::plain_text_of(&value)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn works_have_keys_kinds_and_fields() {
        let (works, problems) = read_bibtex(
            "A remark.\n@string{mill = \"Mill Press\"}\n@Book{marrow1893,\n  author = {Ada Marrow and \
             J{\\\"o}rg Weir},\n  title = {The {Tide} Mill},\n  publisher = mill # { Ltd},\n  year = \
             1893,\n}\n@comment{x}\n@article{broken, title = {x}",
        );
        let fields: Vec<(&str, &str)> =
            works[0].fields.iter().map(|(name, value)| (name.as_str(), value.as_str())).collect();
        assert_eq!(works[0].key, "marrow1893");
        assert_eq!(works[0].kind, "book");
        assert_eq!(
            fields,
            [
                ("author", "Ada Marrow and Jörg Weir"),
                ("title", "The Tide Mill"),
                ("publisher", "Mill Press Ltd"),
                ("year", "1893"),
            ]
        );
        assert_eq!(problems, ["broken"]);
    }
}
