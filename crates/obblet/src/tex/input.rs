//! Texts that tokens are read from.

use super::category::Categories;
use super::token::{Category, Located, Name, Names, Spot, Token, active_name};
use crate::source::CompactString;
use std::sync::Arc;

/// A text that is being read.
#[derive(Debug)]
pub(super) struct TextLevel {
    pub(super) text: Arc<str>,
    pub(super) at: usize,
    pub(super) source: u32,
    state: LineState,
    /// Whether `@` was made a letter for this text alone, as in packages.
    pub(super) is_package: bool,
}

/// Where in a line reading stands: white space means other things at its start.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum LineState {
    Start,
    Middle,
    Skipping,
}

impl TextLevel {
    pub(super) fn new(text: Arc<str>, source: u32, is_package: bool) -> Self {
        Self { text, at: 0, source, state: LineState::Start, is_package }
    }

    pub(super) fn rest(&self) -> &str {
        self.text.get(self.at..).unwrap_or_default()
    }

    pub(super) fn spot(&self) -> Spot {
        Spot { at: u32::try_from(self.at).unwrap_or(u32::MAX), source: self.source }
    }

    /// The characters from here on that stand for themselves, single spaces among them.
    pub(super) fn take_plain(&mut self, categories: &Categories, out: &mut CompactString) -> bool {
        let rest = self.rest();
        // White space at the start is for the tokens to tell.
        let begins_plainly = match rest.as_bytes().first() {
            None | Some(b' ') => false,
            Some(first) => self.state == LineState::Middle || *first > b' ',
        };
        if !begins_plainly {
            return false;
        }
        let plain = rest.get(..categories.plain_length(rest.as_bytes())).unwrap_or_default();
        // A space that something special follows is looked at again by itself.
        let plain = plain.strip_suffix(' ').unwrap_or(plain);
        if plain.is_empty() {
            return false;
        }
        out.push_str(plain);
        self.at += plain.len();
        self.state = LineState::Middle;
        true
    }

    /// A group right here that holds only letters, digits and signs that are nothing else.
    pub(super) fn take_plain_group(&mut self, categories: &Categories) -> Option<CompactString> {
        let inside = self.rest().strip_prefix('{')?;
        if categories.get('{') != Category::Begin || categories.get('}') != Category::End {
            return None;
        }
        let is_plain = |c: char| matches!(categories.get(c), Category::Letter | Category::Other);
        let length = inside.find(|c| !is_plain(c))?;
        inside.get(length..)?.strip_prefix('}')?;
        let taken = inside.get(..length)?.into();
        self.at += length + 2;
        self.state = LineState::Middle;
        Some(taken)
    }

    /// The next token; `None` at the end.
    pub(super) fn next(&mut self, categories: &Categories, names: &mut Names) -> Option<Located> {
        loop {
            let spot = self.spot();
            let character = self.take()?;
            let token = match categories.get(character) {
                Category::Escape => self.command(categories, names),
                Category::EndLine => {
                    let before = std::mem::replace(&mut self.state, LineState::Start);
                    match before {
                        LineState::Start => Token::Command(Name::PARAGRAPH),
                        LineState::Middle => Token::Character('\n', Category::Space),
                        LineState::Skipping => continue,
                    }
                }
                Category::Space => match self.state {
                    LineState::Middle => {
                        self.state = LineState::Skipping;
                        Token::Character(' ', Category::Space)
                    }
                    _ => continue,
                },
                Category::Comment => {
                    self.skip_line();
                    continue;
                }
                Category::Ignored | Category::Invalid => continue,
                Category::Active => {
                    self.state = LineState::Middle;
                    Token::Command(names.of(&active_name(character)))
                }
                category => {
                    self.state = LineState::Middle;
                    Token::Character(character, category)
                }
            };
            return Some(Located { token, spot });
        }
    }

    /// The next character; `^^` and what is behind it stand for another one.
    fn take(&mut self) -> Option<char> {
        let byte = self.text.as_bytes().get(self.at)?;
        if byte.is_ascii() && *byte != b'^' {
            self.at += 1;
            return Some(char::from(*byte));
        }
        let rest = self.rest();
        let first = rest.chars().next()?;
        if first == '^'
            && let Some((character, length)) = coded(rest)
        {
            self.at += length;
            return Some(character);
        }
        self.at += first.len_utf8();
        Some(first)
    }

    fn command(&mut self, categories: &Categories, names: &mut Names) -> Token {
        let rest = self.text.get(self.at..).unwrap_or_default();
        let length = categories.letters_length(rest);
        if length > 0 {
            let name = names.of(rest.get(..length).unwrap_or_default());
            self.at += length;
            self.state = LineState::Skipping;
            return Token::Command(name);
        }
        let Some(sign) = rest.chars().next() else { return Token::Command(names.of("")) };
        let (text, is_space) = match sign {
            ' ' | '\t' | '\n' => (" ", true),
            _ => (rest.get(..sign.len_utf8()).unwrap_or_default(), false),
        };
        let name = names.of(text);
        self.at += sign.len_utf8();
        self.state = match (sign, is_space) {
            ('\n', _) => LineState::Start,
            (_, true) => LineState::Skipping,
            (_, false) => LineState::Middle,
        };
        Token::Command(name)
    }

    fn skip_line(&mut self) {
        let rest = self.rest().as_bytes();
        let end = memchr::memchr(b'\n', rest).map_or(rest.len(), |end| end + 1);
        self.at += end;
        self.state = LineState::Start;
    }

    /// The text up to `end`, as it stands there, and past it.
    pub(super) fn take_until(&mut self, end: &str) -> Option<String> {
        let rest = self.rest();
        let length = memchr::memmem::find(rest.as_bytes(), end.as_bytes())?;
        let taken = rest.get(..length)?.to_string();
        self.at += length + end.len();
        self.state = LineState::Middle;
        Some(taken)
    }

    /// What is left of the line, and past its end.
    pub(super) fn take_line(&mut self) -> String {
        let rest = self.rest();
        let length = memchr::memchr(b'\n', rest.as_bytes()).unwrap_or(rest.len());
        let line = rest.get(..length).unwrap_or_default().to_string();
        self.at = (self.at + length + 1).min(self.text.len());
        self.state = LineState::Start;
        line
    }

    /// The next character, where that is neither white space nor says nothing; a backslash for
    /// what begins a command.
    pub(super) fn next_sign(&self, categories: &Categories) -> Option<char> {
        let sign = self.peek_character().filter(|sign| *sign != '^')?;
        match categories.get(sign) {
            Category::Escape | Category::Active => Some('\\'),
            Category::EndLine
            | Category::Space
            | Category::Comment
            | Category::Ignored
            | Category::Invalid => None,
            _ => Some(sign),
        }
    }

    /// The next character, which stays where it is.
    pub(super) fn peek_character(&self) -> Option<char> {
        self.rest().chars().next()
    }

    /// Goes past a character that was looked at.
    pub(super) fn skip_character(&mut self) {
        self.take();
        self.state = LineState::Middle;
    }

    /// Reading goes on behind the last byte.
    pub(super) fn end(&mut self) {
        self.at = self.text.len();
    }

    /// Where the next unescaped `end` is that stands before any of the characters that only tokens
    /// tell: `None` where it takes tokens to find it.
    pub(super) fn find_formula_end(&self, end: &str) -> Option<usize> {
        let bytes = self.rest().as_bytes();
        let mut at = 0;
        loop {
            at += memchr::memchr3(b'\\', b'$', b'%', bytes.get(at..)?)?;
            if bytes.get(at..)?.starts_with(end.as_bytes()) {
                return Some(at);
            }
            match bytes.get(at)? {
                b'\\' => at += 2,
                _ => return None,
            }
        }
    }

    pub(super) fn skip_bytes(&mut self, length: usize) {
        self.at += length;
        self.state = LineState::Middle;
    }
}

/// `^^M`, `^^5e`: a character by its code, and how long that is.
fn coded(rest: &str) -> Option<(char, usize)> {
    let code = rest.strip_prefix("^^")?;
    let hex = code
        .get(..2)
        .filter(|digits| digits.bytes().all(|b| b.is_ascii_digit() || (b'a'..=b'f').contains(&b)));
    if let Some(byte) = hex.and_then(|digits| u8::from_str_radix(digits, 16).ok()) {
        return Some((char::from(byte), 4));
    }
    let character = code.chars().next().filter(char::is_ascii)?;
    let byte = u8::try_from(character).ok()?;
    Some((char::from(if byte < 64 { byte + 64 } else { byte - 64 }), 3))
}
