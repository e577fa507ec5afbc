//! The front itself: levels of input, groups, arguments.

use super::category::Categories;
use super::conditionals::OpenIf;
use super::input::TextLevel;
use super::levels::{Level, Levels};
use super::meaning::{Meaning, PRIMITIVES};
use super::registers::{RegisterId, Registers};
use super::token::{Category, Located, Name, Names, Spot, Token, typed};
use super::{DEEPEST, INCLUDE_DEPTH, INCLUDED_BYTES, MADE_TOKENS, PRELUDE};
use crate::document::CompactString;
use crate::findings::{Code, Findings};
use std::sync::Arc;

/// Who fetches the text of a file by the name a document gives it.
pub(crate) type Files<'r> = &'r dyn Fn(&str) -> Option<Arc<str>>;

/// A file that was read in.
#[derive(Debug, Clone)]
pub(crate) struct Included {
    pub(crate) name: CompactString,
    pub(crate) text: Arc<str>,
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
    /// Names that keep their meaning whatever a document says: those that give it its structure.
    pub(super) kept: &'static [&'static str],
    files: Files<'r>,
    /// Lists of tokens that are used up.
    spare: Vec<Vec<Located>>,
    /// The document itself, and all files that were read in.
    pub(crate) sources: Vec<Included>,
    pub(crate) findings: Findings,
    pub(super) expansions: usize,
    pub(super) made: usize,
    included: usize,
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
            kept: &[],
            files,
            spare: Vec::new(),
            sources: Vec::new(),
            findings: Findings::new(),
            expansions: 0,
            made: 0,
            included: 0,
            depth: 0,
            is_exhausted: false,
        };
        for (name, primitive) in PRIMITIVES {
            front.give(name, Meaning::Primitive(*primitive));
        }
        while front.next().is_some() {}
        front.expansions = 0;
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

    pub(super) fn set_category(&mut self, character: char, category: Category) {
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

    /// Puts tokens before everything that comes next.
    pub(crate) fn push(&mut self, tokens: Vec<Located>) {
        if tokens.is_empty() {
            return self.give_back(tokens);
        }
        self.made += tokens.len();
        if self.made > MADE_TOKENS {
            return self.exhausted();
        }
        // Loops would pile up lists that are used up.
        self.settle();
        self.levels.push(Level::Tokens(tokens, 0));
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
    fn settle(&mut self) {
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
        Some(tokens)
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

    /// The text up to `end` as it stands in the source. Inside the arguments of macros, the tokens
    /// as they would be typed.
    pub(crate) fn verbatim(&mut self, end: &str) -> Option<String> {
        self.settle();
        if let Some(Level::Text(text)) = self.levels.last_mut() {
            return text.take_until(end);
        }
        let mut tokens = Vec::new();
        while let Some(located) = self.next_raw() {
            tokens.push(located);
            let is_possible =
                matches!(located.token, Token::Character(sign, _) if end.ends_with(sign));
            if !is_possible {
                continue;
            }
            let start = tokens.len().saturating_sub(end.chars().count());
            if self.typed(tokens.get(start..).unwrap_or_default()).ends_with(end) {
                let mut taken = self.typed(&tokens);
                taken.truncate(taken.len() - end.len());
                return Some(taken);
            }
        }
        None
    }

    /// What is left of the line in the source.
    pub(crate) fn rest_of_line(&mut self) -> String {
        self.settle();
        match self.levels.last_mut() {
            Some(Level::Text(text)) => text.take_line(),
            _ => String::new(),
        }
    }

    /// The next character of the source, whatever its category.
    pub(crate) fn next_character(&mut self) -> Option<char> {
        self.settle();
        match self.levels.last_mut() {
            Some(Level::Text(text)) => {
                let character = text.peek_character()?;
                text.skip_character();
                Some(character)
            }
            _ => match self.next_raw()?.token {
                Token::Character(character, _) => Some(character),
                Token::Command(name) => self.names.text(name).chars().next(),
                Token::Argument(_) => None,
            },
        }
    }

    /// A formula up to its end, where it is plain source with no macro in it.
    pub(crate) fn plain_formula(&mut self, end: &str) -> Option<String> {
        self.settle();
        let Some(Level::Text(text)) = self.levels.last_mut() else { return None };
        let length = text.find_formula_end(end)?;
        let source = text.text.get(text.at..text.at + length)?.to_string();
        if self.has_macros(&source) {
            return None;
        }
        if let Some(Level::Text(text)) = self.levels.last_mut() {
            text.skip_bytes(length + end.len());
        }
        Some(source)
    }

    /// Whether any command in a source is a macro or something the front does.
    pub(crate) fn has_macros(&self, source: &str) -> bool {
        let commands = memchr::memchr_iter(b'\\', source.as_bytes());
        commands.into_iter().any(|at| {
            let name = source.get(at + 1..).unwrap_or_default();
            let length = name.find(|c: char| !c.is_alphabetic()).unwrap_or(name.len());
            let name = name.get(..length).unwrap_or_default();
            let known = self.names.known(name).map(|name| self.meaning(name));
            matches!(known, Some(meaning) if !matches!(meaning, Meaning::Unknown))
        })
    }

    /// Reads a file in: what it holds comes next. Tells why it cannot.
    pub(crate) fn include(&mut self, name: &str, spot: Spot, is_package: bool) -> bool {
        let is_read = |text: &TextLevel| {
            self.sources.get(text.source as usize).is_some_and(|source| source.name == name)
        };
        let is_too_deep = self.levels.texts().count() > INCLUDE_DEPTH;
        if is_too_deep || self.levels.texts().any(is_read) {
            self.findings.add_about(Code::IncludeCircular, name, Some(spot.into()));
            return false;
        }
        let Some(text) = (self.files)(name) else { return false };
        self.included += text.len();
        if self.included > INCLUDED_BYTES {
            self.exhausted();
            return false;
        }
        let known = self.sources.iter().position(|source| source.name == name);
        let source = known.unwrap_or_else(|| {
            self.sources.push(Included { name: name.into(), text: text.clone() });
            self.sources.len() - 1
        });
        let source = u32::try_from(source).unwrap_or(u32::MAX);
        if is_package {
            self.categories.set('@', Category::Letter);
        }
        self.levels.push(Level::Text(TextLevel::new(text, source, is_package)));
        true
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
