//! The front itself: levels of input, groups, arguments.

use super::category::Categories;
use super::conditionals::OpenIf;
use super::input::TextLevel;
use super::levels::{Level, Levels};
use super::meaning::{Meaning, PRIMITIVES};
use super::registers::{RegisterId, Registers};
use super::token::{Category, Located, Name, Names, Spot, Token};
use super::{
    AGAIN_AT_LEAST, AT_ONCE_AT_LEAST, AT_ONCE_PER_BYTE, BYTES_PER_AGAIN, DEEPEST, GIVEN_BACK,
    INCLUDE_DEPTH, MADE_AT_LEAST, MADE_PER_BYTE, MADE_TOKENS, PRELUDE,
};
use crate::findings::{Code, Findings};
use crate::source::CompactString;
use crate::work;
use std::collections::HashMap;
use std::sync::Arc;

/// Who fetches the text of a file by the name a document gives it.
pub(crate) type Files<'r> = &'r dyn Fn(&str) -> Option<Arc<str>>;

/// A file that was read in.
#[derive(Debug, Clone)]
pub(crate) struct Included {
    pub(crate) name: CompactString,
    pub(crate) text: Arc<str>,
}

/// What became of a file that is to be read in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Inclusion {
    /// What it holds comes next.
    Read,
    /// There is none of this name.
    Missing,
    /// It may not be read, as a finding says.
    Refused,
}

/// What a group takes back when it ends.
pub(super) enum Saved {
    Mark,
    Meaning(Name, Meaning),
    Categories(Box<Categories>),
    Register(RegisterId, i64),
}

/// How many lists of tokens are kept for use again, and how many tokens each may have room for.
const SPARE_LISTS: usize = 16;
const SPARE_ROOM: usize = 4_096;

/// From characters to tokens that no macro stands for.
pub(crate) struct Front<'r> {
    pub(crate) names: Names,
    pub(super) meanings: Vec<Meaning>,
    pub(super) saved: Vec<Saved>,
    pub(super) groups: usize,
    pub(super) categories: Categories,
    pub(super) levels: Levels,
    pub(super) open_ifs: Vec<OpenIf>,
    pub(super) registers: Registers,
    pub(super) is_global: bool,
    /// The next definition may have paragraphs in its arguments.
    pub(super) is_long: bool,
    /// Tokens that were read for arguments which have no end, and were given back.
    given_back: usize,
    /// Names that keep their meaning whatever a document says: those that give it its structure.
    pub(super) kept: &'static [&'static str],
    /// Whether a command means something to who reads the tokens.
    pub(crate) is_known_beyond: fn(&str) -> bool,
    /// Signs that begin and end code in a line by definitions of the document's own.
    pub(crate) code_signs: Vec<CompactString>,
    files: Files<'r>,
    /// Lists of tokens that are used up.
    spare: Vec<Vec<Located>>,
    /// The document itself, and all files that were read in.
    pub(crate) sources: Vec<Included>,
    source_numbers: HashMap<CompactString, u32>,
    pub(crate) findings: Findings,
    pub(super) expansions: usize,
    pub(super) made: usize,
    /// How many tokens macros may make.
    pub(super) may_make: usize,
    /// How many of them at once.
    pub(super) at_once: usize,
    /// How many macros may be expanded.
    pub(super) may_expand: usize,
    /// How many files, and how many bytes of them, may still be read in.
    files_left: usize,
    bytes_left: usize,
    /// How often files may still be read in again, in bytes that are read.
    again_left: usize,
    /// How deep what the front does itself has led to more of it.
    pub(super) depth: usize,
    pub(super) is_exhausted: bool,
}

impl<'r> Front<'r> {
    /// A front that starts to read a document.
    pub(crate) fn new(text: Arc<str>, files: Files<'r>, kept: &'static [&'static str]) -> Self {
        let mut front = Self {
            names: Names::default(),
            meanings: Vec::new(),
            saved: Vec::new(),
            groups: 0,
            categories: Categories::of_document(),
            levels: Levels::of(TextLevel::new(PRELUDE.into(), 0, false)),
            open_ifs: Vec::new(),
            registers: Registers::default(),
            is_global: false,
            is_long: false,
            given_back: 0,
            kept: &[],
            is_known_beyond: |_| false,
            code_signs: Vec::new(),
            files,
            spare: Vec::new(),
            sources: Vec::new(),
            source_numbers: HashMap::new(),
            findings: Findings::new(),
            expansions: 0,
            made: 0,
            may_make: MADE_AT_LEAST,
            at_once: AT_ONCE_AT_LEAST,
            may_expand: work::limit(|limits| limits.expansions),
            files_left: work::limit(|limits| limits.included_files),
            bytes_left: work::limit(|limits| limits.included_bytes),
            again_left: AGAIN_AT_LEAST * BYTES_PER_AGAIN,
            depth: 0,
            is_exhausted: false,
        };
        for (name, primitive) in PRIMITIVES {
            front.give(name, Meaning::Primitive(*primitive));
        }
        while front.next().is_some() {}
        front.expansions = 0;
        front.made = 0;
        front.allow_for(text.len());
        front.kept = kept;
        front.sources.push(Included { name: CompactString::default(), text: text.clone() });
        front.levels = Levels::of(TextLevel::new(text, 0, false));
        front
    }

    /// Lets a command mean something from now on.
    pub(super) fn give(&mut self, name: &str, meaning: Meaning) {
        let name = self.names.of(name);
        self.set_meaning(name, meaning, true);
    }

    pub(super) fn meaning(&self, name: Name) -> &Meaning {
        const UNKNOWN: &Meaning = &Meaning::Unknown;
        self.meanings.get(name.index()).unwrap_or(UNKNOWN)
    }

    /// Gives a command a meaning, for this group alone or for good.
    pub(super) fn set_meaning(&mut self, name: Name, meaning: Meaning, is_global: bool) {
        let index = name.index();
        if self.meanings.len() <= index {
            self.meanings.resize(index + 1, Meaning::Unknown);
        }
        let Some(place) = self.meanings.get_mut(index) else { return };
        let before = std::mem::replace(place, meaning);
        if !is_global && self.groups > 0 {
            self.saved.push(Saved::Meaning(name, before));
        }
    }

    pub(crate) fn open_group(&mut self) {
        self.groups += 1;
        self.saved.push(Saved::Mark);
    }

    pub(crate) fn close_group(&mut self) {
        if self.groups == 0 {
            return;
        }
        self.groups -= 1;
        while let Some(saved) = self.saved.pop() {
            match saved {
                Saved::Mark => return,
                Saved::Meaning(name, meaning) => {
                    if let Some(place) = self.meanings.get_mut(name.index()) {
                        *place = meaning;
                    }
                }
                Saved::Categories(categories) => self.categories = *categories,
                Saved::Register(register, value) => {
                    self.registers.set(register, value);
                }
            }
        }
    }

    pub(crate) fn set_category(&mut self, character: char, category: Category) {
        if self.groups > 0 {
            self.saved.push(Saved::Categories(Box::new(self.categories.clone())));
        }
        self.categories.set(character, category);
    }

    /// Where reading stands in the text that is read.
    pub(crate) fn spot(&self) -> Spot {
        self.levels.texts().next().map(TextLevel::spot).unwrap_or_default()
    }

    /// The next token as it stands there.
    pub(crate) fn next_raw(&mut self) -> Option<Located> {
        work::count(1);
        if work::is_over() {
            self.end_document();
        }
        loop {
            let level = self.levels.last_mut()?;
            let token = match level {
                Level::Text(text) => text.next(&self.categories, &mut self.names),
                Level::Tokens(tokens, next) => {
                    let token = tokens.get(*next).copied();
                    *next += 1;
                    token
                }
                Level::One(token) => {
                    let token = *token;
                    self.levels.pop();
                    return Some(token);
                }
            };
            if token.is_some() {
                return token;
            }
            if self.levels.is_lowest() {
                return None;
            }
            self.pop_level();
        }
    }

    fn pop_level(&mut self) {
        match self.levels.pop() {
            Some(Level::Text(text)) if text.is_package => {
                self.categories.set('@', Category::Other);
            }
            Some(Level::Tokens(tokens, _)) => self.give_back(tokens),
            _ => {}
        }
    }

    /// An empty list of tokens, perhaps with room that another one had.
    pub(super) fn new_list(&mut self) -> Vec<Located> {
        self.spare.pop().unwrap_or_default()
    }

    /// Keeps the room of a list that is used up for the next one.
    pub(super) fn give_back(&mut self, mut tokens: Vec<Located>) {
        if self.spare.len() < SPARE_LISTS && (1..=SPARE_ROOM).contains(&tokens.capacity()) {
            tokens.clear();
            self.spare.push(tokens);
        }
    }

    /// Lets macros make more, for so many bytes that are read.
    fn allow_for(&mut self, bytes: usize) {
        self.may_make += MADE_PER_BYTE * bytes;
        self.at_once += AT_ONCE_PER_BYTE * bytes;
        self.again_left += bytes;
    }

    /// Whether so many tokens may be made at once; if not, no macro is expanded from now on.
    pub(super) fn has_room_for(&mut self, tokens: usize) -> bool {
        let made = self.made.saturating_add(tokens);
        let may = tokens <= self.at_once && made <= self.may_make.min(MADE_TOKENS);
        if !may {
            self.exhausted();
        }
        may
    }

    /// Puts tokens before everything that comes next.
    pub(crate) fn push(&mut self, tokens: Vec<Located>) {
        if tokens.is_empty() {
            return self.give_back(tokens);
        }
        let weight = self.names.weight(&tokens);
        if !self.has_room_for(weight) {
            return;
        }
        self.made += weight;
        // Loops would pile up lists that are used up.
        self.settle();
        self.levels.push(Level::Tokens(tokens, 0));
    }

    /// Puts tokens back that were read for an argument which has no end. When many were put back already
    /// they stay with the caller, so that no source is read again and again.
    pub(super) fn push_back(&mut self, tokens: Vec<Located>) -> Result<(), Vec<Located>> {
        self.given_back += tokens.len();
        if self.given_back > GIVEN_BACK {
            return Err(tokens);
        }
        self.push(tokens);
        Ok(())
    }

    pub(crate) fn push_one(&mut self, token: Located) {
        // One that was only looked at goes back where it came from.
        if let Some(Level::Tokens(list, next)) = self.levels.last_mut()
            && *next > 0
            && list.get(*next - 1) == Some(&token)
        {
            *next -= 1;
            return;
        }
        self.levels.push(Level::One(token));
    }

    /// Lists of tokens that are used up go, so that what is left of the text can be looked at.
    pub(super) fn settle(&mut self) {
        while let Some(Level::Tokens(list, next)) = self.levels.last()
            && *next >= list.len()
            && !self.levels.is_lowest()
        {
            self.pop_level();
        }
    }

    /// Whether a character comes next; in a text it is looked at as it stands there.
    pub(crate) fn is_next(&mut self, wanted: char) -> bool {
        self.settle();
        if let Some(Level::Text(text)) = self.levels.last()
            && let Some(next) = text.peek_character()
        {
            return next == wanted;
        }
        matches!(
            self.peek_raw().map(|next| next.token),
            Some(Token::Character(found, _)) if found == wanted
        )
    }

    /// From now on no macro is expanded.
    pub(super) fn exhausted(&mut self) {
        if !self.is_exhausted {
            self.is_exhausted = true;
            let spot = self.spot();
            self.findings.add(Code::MacroLimit, Some(spot.into()));
        }
    }

    /// The next token as it stands there, which stays.
    pub(crate) fn peek_raw(&mut self) -> Option<Located> {
        let token = self.next_raw()?;
        self.push_one(token);
        Some(token)
    }

    /// Characters that stand for themselves, as long as there are any.
    pub(crate) fn take_plain(&mut self, out: &mut CompactString) -> bool {
        self.settle();
        match self.levels.last_mut() {
            Some(Level::Text(text)) => text.take_plain(&self.categories, out),
            _ => false,
        }
    }

    pub(crate) fn is_space(token: Token) -> bool {
        matches!(token, Token::Character(_, Category::Space))
    }

    /// The character that comes next, where that is neither white space nor says nothing; a
    /// backslash for any command.
    pub(crate) fn next_sign(&mut self) -> Option<char> {
        self.settle();
        let located = match self.levels.last()? {
            Level::Text(text) => return text.next_sign(&self.categories),
            Level::Tokens(tokens, next) => tokens.get(*next)?,
            Level::One(token) => token,
        };
        match located.token {
            Token::Character(_, Category::Space) | Token::Argument(_) => None,
            Token::Character(sign, _) => Some(sign),
            Token::Command(_) => Some('\\'),
        }
    }

    pub(crate) fn skip_spaces(&mut self) {
        if self.next_sign().is_some() {
            return;
        }
        while let Some(located) = self.next_raw() {
            if !Self::is_space(located.token) {
                return self.push_one(located);
            }
        }
    }

    /// Whether the next token that is no space is this character, which is taken then.
    pub(crate) fn eat(&mut self, character: char) -> bool {
        if self.next_sign().is_some_and(|sign| sign != character) {
            return false;
        }
        self.skip_spaces();
        let Some(located) = self.next_raw() else { return false };
        let is_it = matches!(located.token, Token::Character(found, _) if found == character);
        if !is_it {
            self.push_one(located);
        }
        is_it
    }

    /// Reads a file in: what it holds comes next. Tells why it may not.
    pub(crate) fn include(&mut self, name: &str, spot: Spot, is_package: bool) -> Inclusion {
        let is_read = |text: &TextLevel| {
            self.sources.get(text.source as usize).is_some_and(|source| source.name == name)
        };
        let is_too_deep = self.levels.texts().count() > INCLUDE_DEPTH;
        if is_too_deep || self.levels.texts().any(is_read) {
            self.findings.add_about(Code::IncludeCircular, name, Some(spot.into()));
            return Inclusion::Refused;
        }
        let Some(text) = (self.files)(name) else { return Inclusion::Missing };
        let next = u32::try_from(self.sources.len()).unwrap_or(u32::MAX);
        let source = *self.source_numbers.entry(name.into()).or_insert(next);
        let is_again = source != next;
        let too_often = is_again && self.again_left < BYTES_PER_AGAIN;
        if text.len() > self.bytes_left || self.files_left == 0 || too_often {
            self.exhausted();
            return Inclusion::Refused;
        }
        self.bytes_left -= text.len();
        self.files_left -= 1;
        if is_again {
            self.again_left -= BYTES_PER_AGAIN;
        } else {
            self.allow_for(text.len());
            self.sources.push(Included { name: name.into(), text: text.clone() });
        }
        if is_package {
            self.categories.set('@', Category::Letter);
        }
        self.levels.push(Level::Text(TextLevel::new(text, source, is_package)));
        Inclusion::Read
    }

    /// The text of a file that is not TeX.
    pub(crate) fn file(&self, name: &str) -> Option<Arc<str>> {
        (self.files)(name)
    }

    /// Nothing more is read of the file that is read now.
    pub(crate) fn end_input(&mut self) {
        if let Some(text) = self.levels.text_mut() {
            text.end();
        }
    }

    /// Nothing more is read at all.
    pub(crate) fn end_document(&mut self) {
        while self.levels.pop().is_some() {}
        self.end_input();
    }

    /// Whether a document has defined an environment of this name.
    pub(crate) fn defines_environment(&self, name: &str) -> bool {
        let known = self.names.known(name).map(|name| self.meaning(name));
        matches!(known, Some(Meaning::Macro(_)))
    }

    /// Calls a command by its name.
    pub(crate) fn call(&mut self, name: &str, spot: Spot) {
        let name = self.names.of(name);
        self.push_one(Located { token: Token::Command(name), spot });
    }

    pub(super) fn is_too_deep(&self) -> bool {
        self.open_ifs.len() > DEEPEST
    }
}
