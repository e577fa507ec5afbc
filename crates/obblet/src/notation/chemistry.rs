//! Chemistry in the notation of `\ce`: its basics.
//!
//! Elements and groups with their numbers, charges, isotopes, states, bonds, arrows with words on
//! them, dots of adducts, and formulas between dollars.

use super::tex;
use crate::math::{Expression, LetterStyle};
use compact_str::ToCompactString;

/// What a chemical formula shows.
pub(super) fn read(source: &str) -> Expression {
    let mut reader = Reader { rest: source.trim(), parts: Vec::new(), follows_space: true };
    while reader.step() {}
    Expression::Row(reader.parts)
}

struct Reader<'s> {
    rest: &'s str,
    parts: Vec<Expression>,
    /// Whether white space stands before what comes next.
    follows_space: bool,
}

/// Longest first.
const ARROWS: [(&str, &str); 6] =
    [("<=>>", "⇌"), ("<<=>", "⇌"), ("<=>", "⇌"), ("<->", "↔"), ("->", "→"), ("<-", "←")];

impl Reader<'_> {
    fn step(&mut self) -> bool {
        let Some(first) = self.rest.chars().next() else { return false };
        if first.is_whitespace() {
            self.take(first.len_utf8());
            self.follows_space = true;
            return true;
        }
        let is_apart = std::mem::take(&mut self.follows_space);
        if let Some((typed, arrow)) = ARROWS.iter().find(|(typed, _)| self.rest.starts_with(typed))
        {
            self.take(typed.len());
            self.arrow(arrow);
            return true;
        }
        match first {
            _ if first.is_ascii_digit() => {
                // Amounts may be fractions; numbers of atoms are whole.
                let is_amount = |c: char| is_apart && matches!(c, '.' | '/');
                let digits = self.take_while(|c| c.is_ascii_digit() || is_amount(c));
                let number = Expression::Number(digits.into());
                match is_apart {
                    true => self.parts.push(number),
                    false => self.join(Some(number), None),
                }
            }
            _ if first.is_alphabetic() => {
                let letters = self.take_while(char::is_alphabetic);
                self.parts.push(Expression::Identifier(letters.into(), LetterStyle::Upright));
            }
            '^' | '_' => self.scripts(is_apart),
            '+' if !is_apart => {
                self.take(1);
                self.join(None, Some(Expression::operator("+")));
            }
            '-' if !is_apart && !self.has_more() => {
                self.take(1);
                self.join(None, Some(Expression::operator("−")));
            }
            '-' => self.sign("−"),
            '=' => self.sign("="),
            '#' => self.sign("≡"),
            '*' | '.' if !is_apart => {
                self.sign("⋅");
                self.follows_space = true;
            }
            '$' => {
                let behind = self.rest.get(1..).unwrap_or_default();
                let end = behind.find('$').unwrap_or(behind.len());
                let inner = behind.get(..end).unwrap_or_default();
                self.parts.push(tex::read(inner).0);
                self.rest = behind.get(end + 1..).unwrap_or_default();
            }
            '\\' => self.command(),
            '{' => {
                let inner = self.braces();
                self.parts.push(Expression::Text(inner.into(), LetterStyle::Usual));
            }
            other => self.sign(other.encode_utf8(&mut [0; 4])),
        }
        true
    }

    fn take(&mut self, length: usize) -> &str {
        let (taken, rest) = self.rest.split_at_checked(length).unwrap_or((self.rest, ""));
        self.rest = rest;
        taken
    }

    fn take_while(&mut self, wanted: impl Fn(char) -> bool) -> String {
        let length = self.rest.find(|c| !wanted(c)).unwrap_or(self.rest.len());
        self.take(length).to_string()
    }

    fn sign(&mut self, sign: &str) {
        let first = self.rest.chars().next().map_or(0, char::len_utf8);
        self.take(first);
        self.parts.push(Expression::operator(sign));
    }

    /// Whether something of the same molecule follows the sign that is next.
    fn has_more(&self) -> bool {
        self.rest.chars().nth(1).is_some_and(|c| c.is_alphanumeric() || matches!(c, '(' | '['))
    }

    /// What stands in braces, or one sign.
    fn braces(&mut self) -> String {
        let Some(inner) = self.rest.strip_prefix('{') else { return self.take_while(|_| false) };
        let end = inner.find('}').unwrap_or(inner.len());
        let taken = inner.get(..end).unwrap_or_default().to_string();
        self.rest = inner.get(end + 1..).unwrap_or_default();
        taken
    }

    /// `^{…}` and `_{…}`: behind what stands before, or before what follows.
    fn scripts(&mut self, is_apart: bool) {
        let (mut sub, mut sup) = (None, None);
        while let Some(mark @ ('^' | '_')) = self.rest.chars().next() {
            self.take(1);
            let raw = match self.rest.starts_with('{') {
                true => self.braces(),
                false => self.take_while(|c| c.is_ascii_digit() || matches!(c, '+' | '-' | '.')),
            };
            let script = script_text(&raw);
            if mark == '^' { sup = Some(script) } else { sub = Some(script) }
        }
        if !is_apart {
            return self.join(sub, sup);
        }
        let letters = self.take_while(char::is_alphabetic);
        let base = Expression::Identifier(letters.into(), LetterStyle::Upright);
        let (sub, sup) = (sub.map(Box::new), sup.map(Box::new));
        self.parts.push(Expression::PreScripts { base: Box::new(base), sub, sup });
    }

    /// Scripts at the part before; further ones join those that are there.
    fn join(&mut self, sub: Option<Expression>, sup: Option<Expression>) {
        let base = self.parts.pop().unwrap_or(Expression::nothing());
        let (base, known_sub, known_sup) = match base {
            Expression::Scripts { base, sub, sup } => (base, sub, sup),
            other => (Box::new(other), None, None),
        };
        let both = |known: Option<Box<Expression>>, new: Option<Expression>| match (known, new) {
            (Some(known), Some(new)) => Some(Box::new(known.beside(new))),
            (known, new) => known.or(new.map(Box::new)),
        };
        let (sub, sup) = (both(known_sub, sub), both(known_sup, sup));
        self.parts.push(Expression::Scripts { base, sub, sup });
    }

    /// An arrow with what stands on it.
    fn arrow(&mut self, arrow: &str) {
        let above = self.on_arrow();
        let below = self.on_arrow();
        let arrow = Expression::Stretched(arrow.into());
        self.parts.push(match (&below, &above) {
            (None, None) => arrow,
            _ => Expression::Stacked { base: Box::new(arrow), below, above },
        });
        self.follows_space = true;
    }

    fn on_arrow(&mut self) -> Option<Box<Expression>> {
        let inner = self.rest.strip_prefix('[')?;
        let end = inner.find(']')?;
        let words = inner.get(..end)?;
        self.rest = inner.get(end + 1..)?;
        Some(Box::new(read(words)))
    }

    fn command(&mut self) {
        let name = self.rest.get(1..).unwrap_or_default();
        let letters = name.bytes().take_while(u8::is_ascii_alphabetic).count().max(1);
        let command = self.take(1 + letters).to_string();
        self.parts.push(tex::read(&command).0);
    }
}

/// Numbers, letters and charges of a script.
fn script_text(raw: &str) -> Expression {
    let parts = raw.chars().map(|c| match c {
        '-' => Expression::operator("−"),
        '+' | '.' => Expression::operator(c.to_compact_string()),
        _ if c.is_ascii_digit() => Expression::Number(c.to_compact_string()),
        _ => Expression::Identifier(c.to_compact_string(), LetterStyle::Upright),
    });
    let mut joined: Vec<Expression> = Vec::new();
    for part in parts {
        match (joined.last_mut(), part) {
            (Some(Expression::Number(digits)), Expression::Number(digit)) => {
                digits.push_str(&digit)
            }
            (_, part) => joined.push(part),
        }
    }
    Expression::of(joined)
}
