//! Tokens, their categories, and the names of commands.

use crate::hashing::QuickMap;

/// The sixteen categories of characters, without those that make no tokens of their own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) enum Category {
    Escape,
    Begin,
    End,
    Math,
    Align,
    EndLine,
    Parameter,
    Superscript,
    Subscript,
    Ignored,
    Space,
    Letter,
    Other,
    Active,
    Comment,
    Invalid,
}

impl Category {
    const ALL: [Self; 16] = [
        Self::Escape,
        Self::Begin,
        Self::End,
        Self::Math,
        Self::Align,
        Self::EndLine,
        Self::Parameter,
        Self::Superscript,
        Self::Subscript,
        Self::Ignored,
        Self::Space,
        Self::Letter,
        Self::Other,
        Self::Active,
        Self::Comment,
        Self::Invalid,
    ];

    /// The category of this number.
    pub(super) fn numbered(number: i64) -> Option<Self> {
        Self::ALL.get(usize::try_from(number).ok()?).copied()
    }

    pub(super) fn number(self) -> i64 {
        Self::ALL.iter().position(|known| *known == self).unwrap_or(12) as i64
    }
}

/// The name of a command, or an active character.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub(crate) struct Name(u32);

impl Name {
    /// `\par`, which an empty line is.
    pub(crate) const PARAGRAPH: Self = Self(0);
    /// `\endcsname`.
    pub(super) const END_OF_NAME: Self = Self(1);
    /// Marks the end of what is expanded: nobody can type it.
    pub(super) const END_OF_EXPANSION: Self = Self(2);
    /// The texts of these, by their numbers.
    const FIXED: [&str; 3] = ["par", "endcsname", "\u{1}end"];

    /// Its number: names are numbered from zero on, in the order of their first use.
    pub(crate) fn index(self) -> usize {
        self.0 as usize
    }
}

/// What TeX reads.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Token {
    /// A command, or an active character.
    Command(Name),
    /// A character.
    Character(char, Category),
    /// The place of an argument in the body of a macro.
    Argument(u8),
}

/// Which byte of which source.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(crate) struct Spot {
    pub(crate) at: u32,
    pub(crate) source: u32,
}

impl From<Spot> for crate::source::Place {
    fn from(spot: Spot) -> Self {
        Self { start: spot.at, end: spot.at.saturating_add(1), source: spot.source }
    }
}

/// A token and where it comes from: for one that a macro made, where the macro was called.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Located {
    pub(crate) token: Token,
    pub(crate) spot: Spot,
}

/// So many bytes of a name weigh as much as a token.
const BYTES_PER_TOKEN: usize = 8;

/// All names, each with a number.
#[derive(Debug)]
pub(crate) struct Names {
    numbers: QuickMap<Box<str>, Name>,
    texts: Vec<Box<str>>,
}

impl Default for Names {
    fn default() -> Self {
        let mut names = Self { numbers: QuickMap::default(), texts: Vec::new() };
        for text in Name::FIXED {
            names.of(text);
        }
        names
    }
}

impl Names {
    pub(crate) fn of(&mut self, text: &str) -> Name {
        if let Some(name) = self.numbers.get(text) {
            return *name;
        }
        let name = Name(u32::try_from(self.texts.len()).unwrap_or(u32::MAX));
        self.texts.push(text.into());
        self.numbers.insert(text.into(), name);
        name
    }

    /// The number of a name that is there already.
    pub(super) fn known(&self, text: &str) -> Option<Name> {
        self.numbers.get(text).copied()
    }

    /// How many tokens these count as that macros make: names may be long, and stand in the text where
    /// nothing knows them.
    pub(super) fn weight(&self, tokens: &[Located]) -> usize {
        let weight_of = |located: &Located| match located.token {
            Token::Command(name) => 1 + self.text(name).len() / BYTES_PER_TOKEN,
            _ => 1,
        };
        tokens.iter().map(weight_of).sum()
    }

    pub(crate) fn text(&self, name: Name) -> &str {
        self.texts.get(name.index()).map_or("", |text| text)
    }
}

/// What active characters are named: nothing that a command could be.
pub(super) fn active_name(character: char) -> String {
    format!("\u{1}{character}")
}

/// Tokens as somebody would type them.
pub(crate) fn typed(tokens: &[Located], names: &Names) -> String {
    let mut text = String::with_capacity(tokens.len());
    // Whether the text ends with a name that a letter would go on with.
    let mut is_open = false;
    for located in tokens {
        // Relations and marks of columns only look better with room before them.
        let wants_room =
            |c: char| c.is_alphabetic() || matches!(c, '@' | '=' | '<' | '>' | '&' | '+');
        if is_open && matches!(located.token, Token::Character(c, _) if wants_room(c)) {
            text.push(' ');
        }
        is_open = push_typed(located.token, names, &mut text);
    }
    text
}

/// Adds a token; tells whether letters behind it would belong to its name.
fn push_typed(token: Token, names: &Names, text: &mut String) -> bool {
    match token {
        Token::Character(character, _) => text.push(character),
        Token::Argument(number) => text.push_str(&format!("#{number}")),
        Token::Command(name) => {
            let name = names.text(name);
            if let Some(active) = name.strip_prefix('\u{1}') {
                text.push_str(active);
                return false;
            }
            text.push('\\');
            text.push_str(name);
            return name.ends_with(char::is_alphabetic) || (name.ends_with('@') && name.len() > 1);
        }
    }
    false
}
