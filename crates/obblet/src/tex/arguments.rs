//! What commands take: groups, options, and arguments as text.

use super::front::Front;
use super::levels::Level;
use super::meaning::Meaning;
use super::token::{Category, Located, Name, Spot, Token, typed};
use crate::findings::Code;
use crate::source::CompactString;

impl Front<'_> {
    /// A star right behind a command.
    pub(crate) fn star(&mut self) -> bool {
        self.eat('*')
    }

    /// Goes past the brace that opens an argument, if there is one.
    pub(crate) fn open_argument(&mut self) -> Option<Spot> {
        self.skip_spaces();
        let first = self.next_raw()?;
        if matches!(first.token, Token::Character(_, Category::Begin)) {
            return Some(first.spot);
        }
        self.push_one(first);
        None
    }

    /// An argument: a group without its braces, or one token.
    pub(crate) fn argument(&mut self) -> Vec<Located> {
        self.skip_spaces();
        let Some(first) = self.next_raw() else { return Vec::new() };
        match first.token {
            Token::Character(_, Category::Begin) => self.rest_of_group(first.spot),
            // The end of what surrounds a command is no argument of it.
            Token::Character(_, Category::End) => {
                self.push_one(first);
                Vec::new()
            }
            Token::Command(Name::PARAGRAPH) => {
                self.push_one(first);
                Vec::new()
            }
            _ => {
                let mut tokens = self.new_list();
                tokens.push(first);
                tokens
            }
        }
    }

    /// The tokens up to the brace that closes a group; its opening brace is behind us.
    pub(crate) fn rest_of_group(&mut self, opened: Spot) -> Vec<Located> {
        let mut tokens = self.new_list();
        let mut depth = 0_usize;
        while let Some(located) = self.next_raw() {
            match located.token {
                Token::Character(_, Category::Begin) => depth += 1,
                Token::Character(_, Category::End) if depth == 0 => return tokens,
                Token::Character(_, Category::End) => depth -= 1,
                _ => {}
            }
            tokens.push(located);
        }
        self.findings.add_about(Code::GroupUnclosed, "{", Some(opened.into()));
        tokens
    }

    /// An optional argument without its brackets.
    pub(crate) fn option(&mut self) -> Option<Vec<Located>> {
        self.between('[', ']')
    }

    /// What stands between two signs, if the first one is next.
    pub(crate) fn between(&mut self, open: char, close: char) -> Option<Vec<Located>> {
        if self.next_sign().is_some_and(|sign| sign != open) {
            return None;
        }
        // Of white space one token is enough to give back.
        let mut space = None;
        let first = loop {
            let located = self.next_raw()?;
            if !Self::is_space(located.token) {
                break located;
            }
            space = space.or(Some(located));
        };
        if !matches!(first.token, Token::Character(found, _) if found == open) {
            self.push_one(first);
            if let Some(space) = space {
                self.push_one(space);
            }
            return None;
        }
        let mut tokens = self.new_list();
        let (mut depth, mut nested) = (0_usize, 0_usize);
        while let Some(located) = self.next_raw() {
            match located.token {
                Token::Character(_, Category::Begin) => depth += 1,
                Token::Character(_, Category::End) => match depth.checked_sub(1) {
                    Some(less) => depth = less,
                    None => {
                        self.push_one(located);
                        break;
                    }
                },
                // No option is longer than a paragraph.
                Token::Command(Name::PARAGRAPH) if depth == 0 => {
                    self.push_one(located);
                    break;
                }
                Token::Character(sign, _) if depth == 0 && sign == close && nested == 0 => {
                    return Some(tokens);
                }
                Token::Character(sign, _) if depth == 0 && sign == close => nested -= 1,
                Token::Character(sign, _) if depth == 0 && sign == open => nested += 1,
                _ => {}
            }
            tokens.push(located);
        }
        let sign = open.to_string();
        self.findings.add_about(Code::GroupUnclosed, &sign, Some(first.spot.into()));
        // What never ends is text, as long as that does not lead to reading all again and again.
        tokens.insert(0, first);
        match self.push_back(tokens) {
            Ok(()) => None,
            Err(mut tokens) => {
                tokens.remove(0);
                Some(tokens)
            }
        }
    }

    /// Tokens as somebody would type them.
    pub(crate) fn typed(&self, tokens: &[Located]) -> String {
        typed(tokens, &self.names)
    }

    /// An argument as it is written.
    pub(crate) fn argument_text(&mut self) -> String {
        let tokens = self.argument();
        self.text_of(tokens)
    }

    /// The name of a file without braces, up to white space outside of quotation marks or a command.
    pub(crate) fn skip_file_name(&mut self) {
        self.skip_spaces();
        let mut is_quoted = false;
        while let Some(located) = self.next_expanded() {
            match located.token {
                Token::Character('"', _) => is_quoted = !is_quoted,
                Token::Character(_, Category::Space) if !is_quoted => return,
                Token::Character(_, Category::Letter | Category::Other | Category::Space) => {}
                _ => return self.push_one(located),
            }
        }
    }

    /// `\font\name=file at 12pt`: the name says nothing from now on.
    pub(crate) fn name_font(&mut self) {
        self.skip_spaces();
        let Some(located) = self.next_raw() else { return };
        let Token::Command(name) = located.token else { return self.push_one(located) };
        self.eat_equals();
        self.skip_file_name();
        if self.eat_word("at") {
            self.dimension();
        } else if self.eat_word("scaled") {
            self.number();
        }
        let nothing = self.names.of("relax");
        self.set_meaning(name, Meaning::Same(nothing), false);
    }

    /// An optional argument as it is written.
    pub(crate) fn option_text(&mut self) -> Option<String> {
        let tokens = self.option()?;
        Some(self.text_of(tokens))
    }

    /// Tokens that nobody else needs as they would be typed, without white space around them.
    fn text_of(&mut self, tokens: Vec<Located>) -> String {
        let text = trimmed(self.typed(&tokens));
        self.give_back(tokens);
        text
    }

    /// An argument with its macros expanded, as text: names of files, labels, counters.
    pub(crate) fn expanded_argument(&mut self) -> CompactString {
        if let Some(text) = self.plain_argument() {
            return text;
        }
        let tokens = self.argument();
        let tokens = self.expanded(tokens);
        self.text_of(tokens).into()
    }

    /// An argument that is nothing but letters, digits and signs, right from the source.
    fn plain_argument(&mut self) -> Option<CompactString> {
        self.settle();
        match self.levels.last_mut()? {
            Level::Text(text) => text.take_plain_group(&self.categories),
            Level::Tokens(tokens, next) => {
                let (text, length) = plain_group(tokens.get(*next..)?)?;
                *next += length;
                Some(text)
            }
            Level::One(_) => None,
        }
    }
}

/// The text of a group at the start that holds only letters, digits and signs, and its length with
/// the braces.
fn plain_group(tokens: &[Located]) -> Option<(CompactString, usize)> {
    let (first, rest) = tokens.split_first()?;
    if !matches!(first.token, Token::Character(_, Category::Begin)) {
        return None;
    }
    let mut text = CompactString::default();
    for (at, located) in rest.iter().enumerate() {
        match located.token {
            Token::Character(sign, Category::Letter | Category::Other) => text.push(sign),
            Token::Character(_, Category::End) => return Some((text, at + 2)),
            _ => return None,
        }
    }
    None
}

/// A text without white space around it.
pub(crate) fn trimmed(mut text: String) -> String {
    text.truncate(text.trim_end().len());
    let room = text.len() - text.trim_start().len();
    if room > 0 {
        text.drain(..room);
    }
    text
}
