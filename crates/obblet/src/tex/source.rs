//! Pieces of a source as they stand there, whatever the categories of their characters.

use super::front::Front;
use super::levels::Level;
use super::meaning::Meaning;
use super::token::{Name, Token};

/// Commands without which no environment takes its source as it is.
const AS_IT_IS: [&str; 6] = [
    "dospecials",
    "@verbatim",
    "verbatim@start",
    "VerbatimEnvironment",
    "FVB@Verbatim",
    "verbatim@",
];

/// How many macros are looked into for them.
const LOOKED_INTO: usize = 60;

impl Front<'_> {
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
            let is_possible = match located.token {
                Token::Character(sign, _) => end.ends_with(sign),
                // A sign that does something is the sign, too.
                Token::Command(name) => {
                    self.names.text(name).strip_prefix('\u{1}').is_some_and(|sign| end == sign)
                }
                Token::Argument(_) => false,
            };
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
        self.push_back(tokens).err().map(|tokens| self.typed(&tokens))
    }

    /// The source up to the end of some code in a line; `None`, and nothing is taken, where the paragraph
    /// ends before.
    pub(crate) fn verbatim_in_line(&mut self, end: &str) -> Option<String> {
        self.settle();
        if let Some(Level::Text(text)) = self.levels.last_mut() {
            let rest = text.rest();
            let paragraph = memchr::memmem::find(rest.as_bytes(), b"\n\n").unwrap_or(rest.len());
            rest.get(..paragraph)?.find(end)?;
            return text.take_until(end);
        }
        self.verbatim(end)
    }

    /// Whether a macro, or one that it is made of, takes all signs as they are: an environment around it
    /// holds code, or writes what it holds into a file.
    pub(crate) fn takes_source_as_it_is(&self, name: &str) -> bool {
        self.looks_for_signs(self.names.known(name).into_iter().collect())
    }

    /// The same of what a sign is defined as; some say of braces by themselves that they are letters.
    pub(super) fn takes_all_signs(&self, body: &[Token]) -> bool {
        if body.windows(3).any(|three| self.frees_braces(three)) {
            return true;
        }
        let commands = body.iter().filter_map(|token| match token {
            Token::Command(name) => Some(*name),
            _ => None,
        });
        let names: Vec<Name> = commands.collect();
        let is_named = |name: &Name| AS_IT_IS.contains(&self.names.text(*name));
        names.iter().any(is_named) || self.looks_for_signs(names)
    }

    /// `` \catcode`\{ ``
    fn frees_braces(&self, three: &[Token]) -> bool {
        let [Token::Command(command), Token::Character('`', _), Token::Command(sign)] = three
        else {
            return false;
        };
        self.names.text(*command) == "catcode" && self.names.text(*sign) == "{"
    }

    fn looks_for_signs(&self, mut open: Vec<Name>) -> bool {
        let mut seen = 0;
        while let Some(name) = open.pop().filter(|_| seen < LOOKED_INTO) {
            seen += 1;
            let Meaning::Macro(found) = self.meaning(name) else { continue };
            for token in &found.body {
                let Token::Command(inner) = *token else { continue };
                if AS_IT_IS.contains(&self.names.text(inner)) {
                    return true;
                }
                open.push(inner);
            }
        }
        false
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
}
