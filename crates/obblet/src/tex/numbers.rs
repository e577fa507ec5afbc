//! Numbers and lengths.

use super::DEEPEST_READING;
use super::counters::spelled;
use super::front::{Front, Saved};
use super::levels::Levels;
use super::meaning::{Meaning, Primitive};
use super::registers::RegisterId;
use super::token::{Category, Located, Token};
use crate::document::NumeralStyle;

/// The units of lengths, in scaled points of which a point has 65,536.
const POINT: f64 = 65_536.0;

impl Front<'_> {
    /// Defines a command as a piece of TeX.
    pub(crate) fn define_text(&mut self, name: &str, text: &str) {
        let source = format!(r"\gdef\{name}{{{text}}}");
        let level = super::input::TextLevel::new(source.as_str().into(), 0, true);
        let kept = std::mem::take(&mut self.kept);
        let levels = std::mem::replace(&mut self.levels, Levels::of(level));
        let categories = self.categories.clone();
        self.categories.set('@', Category::Letter);
        while self.next().is_some() {}
        self.levels = levels;
        self.categories = categories;
        self.kept = kept;
    }

    pub(super) fn number_primitive(&mut self, primitive: Primitive, at: Located) {
        let is_global = std::mem::take(&mut self.is_global);
        match primitive {
            Primitive::Number => {
                let number = self.number();
                self.push_text(&number.to_string(), at.spot);
            }
            Primitive::RomanNumber => {
                let number = self.number();
                // A negative number is nothing, which is what it is used for.
                let shown = i32::try_from(number).ok().filter(|number| *number > 0);
                let shown = shown.map(|number| NumeralStyle::LowerRoman.spell(number));
                self.push_text(&shown.unwrap_or_default(), at.spot);
            }
            Primitive::The => self.shown(at),
            Primitive::CountIn(form) => {
                let name = self.expanded_argument();
                let shown = spelled(self.counter(&name), form);
                self.push_text(&shown, at.spot);
            }
            Primitive::Value => {
                let name = self.expanded_argument();
                let shown = self.counter(&name).to_string();
                self.push_text(&shown, at.spot);
            }
            Primitive::NewCounter => {
                let name = self.expanded_argument();
                let within = self.option_text();
                self.new_counter(&name, within.as_deref());
            }
            Primitive::SetCounter => {
                let name = self.expanded_argument();
                let value = self.number_argument();
                self.set_counter(&name, value);
            }
            Primitive::AddToCounter => {
                let name = self.expanded_argument();
                let value = self.number_argument();
                let value = self.counter(&name).saturating_add(value);
                self.set_counter(&name, value);
            }
            Primitive::StepCounter => {
                let name = self.expanded_argument();
                self.step_counter(&name);
            }
            Primitive::NewCount | Primitive::NewDimension => self.new_register(primitive),
            Primitive::SetLength | Primitive::AddToLength => self.set_length(primitive),
            Primitive::Advance => self.advance(is_global),
            Primitive::Scale { divides } => self.scale(divides, is_global),
            Primitive::BoxSize => {
                self.number();
                self.eat_equals();
                self.dimension();
            }
            Primitive::NumberedRegister { is_length } => {
                let register = self.numbered(is_length);
                self.is_global = is_global;
                self.assign(register);
            }
            _ => {}
        }
    }

    fn number_argument(&mut self) -> i64 {
        let tokens = self.argument();
        self.sum_of(tokens)
    }

    /// A number, or a small sum or product of numbers, as packages for arithmetic read them.
    fn sum_of(&mut self, tokens: Vec<Located>) -> i64 {
        let mut value = 0_i64;
        let mut sign = 1;
        let mut term = Vec::new();
        let mut terms = Vec::new();
        for located in tokens {
            match located.token {
                Token::Character(c @ ('+' | '-'), _) if !term.is_empty() => {
                    terms.push((sign, std::mem::take(&mut term)));
                    sign = if c == '-' { -1 } else { 1 };
                }
                _ => term.push(located),
            }
        }
        terms.push((sign, term));
        for (sign, term) in terms {
            value = value.saturating_add(self.number_of(term).saturating_mul(sign));
        }
        value
    }

    fn new_register(&mut self, primitive: Primitive) {
        let tokens = self.argument();
        let Some(Located { token: Token::Command(name), .. }) = tokens.first() else { return };
        let register = self.registers.add(primitive == Primitive::NewDimension);
        self.set_meaning(*name, Meaning::Register(register), true);
    }

    /// `\setlength{\name}{length}`.
    fn set_length(&mut self, primitive: Primitive) {
        let tokens = self.argument();
        let value = self.argument();
        let Some(Located { token: Token::Command(name), spot }) = tokens.first() else { return };
        let register = match self.meaning(*name) {
            Meaning::Register(register) => Some(*register),
            _ => None,
        };
        let mut value = value;
        value.push(self.command("relax", *spot));
        self.push(value);
        let mut value = self.dimension();
        if let Some(register) = register.filter(|_| primitive == Primitive::AddToLength) {
            value = value.saturating_add(self.registers.get(register));
        }
        // The rest of a length that can stretch says nothing here.
        while let Some(located) = self.next_raw() {
            if matches!(located.token, Token::Command(name) if self.names.text(name) == "relax") {
                break;
            }
        }
        if let Some(register) = register {
            self.registers.set(register, value);
        }
    }

    /// `\name=5`, without `\advance`.
    pub(super) fn assign(&mut self, register: RegisterId) {
        let is_global = std::mem::take(&mut self.is_global);
        self.eat_equals();
        let value = self.value_for(register);
        self.store(register, value, is_global);
    }

    fn value_for(&mut self, register: RegisterId) -> i64 {
        if self.registers.is_length(register) { self.glue() } else { self.number() }
    }

    /// A length that may stretch and shrink, in scaled points.
    pub(crate) fn glue(&mut self) -> i64 {
        let length = self.dimension();
        self.skip_stretch();
        length
    }

    /// `plus 1pt minus 2fil` says nothing here.
    fn skip_stretch(&mut self) {
        for word in ["plus", "minus"] {
            if self.eat_word(word) {
                self.dimension();
            }
        }
    }

    fn store(&mut self, register: RegisterId, value: i64, is_global: bool) {
        let before = self.registers.set(register, value);
        if !is_global && self.groups > 0 {
            self.saved.push(Saved::Register(register, before));
        }
    }

    /// `\count5`, `\dimen0`: a register that has no name.
    fn numbered(&mut self, is_length: bool) -> RegisterId {
        let number = self.number();
        self.registers.numbered(is_length, number)
    }

    /// The register that comes next.
    fn next_register(&mut self) -> Option<RegisterId> {
        let located = self.next_raw()?;
        let Token::Command(name) = located.token else {
            self.push_one(located);
            return None;
        };
        match *self.meaning(name) {
            Meaning::Register(register) => Some(register),
            Meaning::Primitive(Primitive::NumberedRegister { is_length }) => {
                Some(self.numbered(is_length))
            }
            _ => None,
        }
    }

    /// `\advance\name by 1`.
    fn advance(&mut self, is_global: bool) {
        let Some(register) = self.next_register() else { return };
        self.eat_word("by");
        let by = self.value_for(register);
        let value = self.registers.get(register).saturating_add(by);
        self.store(register, value, is_global);
    }

    /// `\multiply\name by 2`, `\divide\name by 2`.
    fn scale(&mut self, divides: bool, is_global: bool) {
        let Some(register) = self.next_register() else { return };
        self.eat_word("by");
        let by = self.number();
        let value = self.registers.get(register);
        let value = match divides {
            true => value.checked_div(by).unwrap_or(value),
            false => value.saturating_mul(by).clamp(-(1 << 40), 1 << 40),
        };
        self.store(register, value, is_global);
    }

    /// `\the\name`.
    fn shown(&mut self, at: Located) {
        let Some(located) = self.next_raw() else { return };
        let Token::Command(name) = located.token else { return self.push_one(located) };
        let shown = match self.meaning(name) {
            Meaning::Register(register) => self.register_shown(*register),
            Meaning::Primitive(Primitive::NumberedRegister { is_length }) => {
                let is_length = *is_length;
                let register = self.numbered(is_length);
                self.register_shown(register)
            }
            Meaning::Primitive(Primitive::Value) => {
                let name = self.expanded_argument();
                self.counter(&name).to_string()
            }
            Meaning::Primitive(Primitive::Catcode) => {
                let code = self.number();
                let character = u32::try_from(code).ok().and_then(char::from_u32);
                character.map_or(12, |c| self.categories.get(c).number()).to_string()
            }
            Meaning::CharacterCode(code) => code.to_string(),
            Meaning::Primitive(Primitive::BoxSize) => {
                self.number();
                "0pt".into()
            }
            Meaning::Tokens(tokens) => {
                let tokens = tokens.to_vec();
                return self.push(tokens);
            }
            _ => return,
        };
        self.push_text(&shown, at.spot);
    }

    fn register_shown(&self, register: RegisterId) -> String {
        let value = self.registers.get(register);
        match self.registers.is_length(register) {
            true => format!("{}pt", (value as f64 / POINT * 1000.0).round() / 1000.0),
            false => value.to_string(),
        }
    }

    pub(crate) fn eat_equals(&mut self) {
        self.skip_spaces_expanded();
        if let Some(located) = self.next_expanded()
            && !matches!(located.token, Token::Character('=', _))
        {
            self.push_one(located);
        }
    }

    /// Takes a word, if it is next.
    pub(crate) fn eat_word(&mut self, word: &str) -> bool {
        self.skip_spaces_expanded();
        let mut taken = Vec::new();
        for wanted in word.chars() {
            let Some(located) = self.next_expanded() else {
                self.push(taken);
                return false;
            };
            taken.push(located);
            let is_it = matches!(located.token, Token::Character(found, _) if found == wanted);
            if !is_it {
                self.push(taken);
                return false;
            }
        }
        true
    }

    /// A whole number.
    pub(crate) fn number(&mut self) -> i64 {
        let mut sign = 1;
        loop {
            self.skip_spaces_expanded();
            let Some(located) = self.next_number_token() else { return 0 };
            match located {
                NumberToken::Value(value) => return value * sign,
                NumberToken::Token(located) => match located.token {
                    Token::Character('-', _) => sign = -sign,
                    Token::Character('+', _) => {}
                    Token::Character('`', _) => return sign * self.character_code(),
                    Token::Character('"', _) => return sign * self.digits(16, None),
                    Token::Character('\'', _) => return sign * self.digits(8, None),
                    Token::Character(digit, _) if digit.is_ascii_digit() => {
                        return sign * self.digits(10, Some(digit));
                    }
                    _ => {
                        self.push_one(located);
                        return 0;
                    }
                },
            }
        }
    }

    fn next_number_token(&mut self) -> Option<NumberToken> {
        self.next_expanded().map(|located| self.number_token(located))
    }

    /// A register is its value; boxes have no size here.
    fn number_token(&mut self, located: Located) -> NumberToken {
        match located.token {
            // Registers may be named by the numbers in registers, and so on.
            _ if self.depth >= DEEPEST_READING => NumberToken::Token(located),
            Token::Command(name) => match self.meaning(name) {
                Meaning::Register(register) => NumberToken::Value(self.registers.get(*register)),
                Meaning::CharacterCode(code) => NumberToken::Value(i64::from(*code)),
                Meaning::Primitive(Primitive::BoxSize) => {
                    self.depth += 1;
                    self.number();
                    self.depth -= 1;
                    NumberToken::Value(0)
                }
                Meaning::Primitive(Primitive::NumberedRegister { is_length }) => {
                    let is_length = *is_length;
                    self.depth += 1;
                    let register = self.numbered(is_length);
                    self.depth -= 1;
                    NumberToken::Value(self.registers.get(register))
                }
                _ => NumberToken::Token(located),
            },
            _ => NumberToken::Token(located),
        }
    }

    fn character_code(&mut self) -> i64 {
        let Some(located) = self.next_raw() else { return 0 };
        let character = match located.token {
            Token::Character(character, _) => Some(character),
            Token::Command(name) => {
                let text = self.names.text(name);
                text.strip_prefix('\u{1}').unwrap_or(text).chars().next()
            }
            Token::Argument(_) => None,
        };
        character.map_or(0, |character| i64::from(u32::from(character)))
    }

    fn digits(&mut self, radix: u32, first: Option<char>) -> i64 {
        let mut value = first.and_then(|digit| digit.to_digit(radix)).map_or(0, i64::from);
        while let Some(located) = self.next_expanded() {
            let digit = match located.token {
                Token::Character(digit, _) => digit.to_digit(radix),
                _ => None,
            };
            match digit {
                Some(digit) => {
                    value = value.saturating_mul(i64::from(radix)).saturating_add(i64::from(digit));
                }
                // One space ends a number and belongs to it.
                None if Self::is_space(located.token) => break,
                None => {
                    self.push_one(located);
                    break;
                }
            }
        }
        value.min(1 << 40)
    }

    /// A length in scaled points.
    pub(crate) fn dimension(&mut self) -> i64 {
        let mut sign = 1.0;
        let mut number = String::new();
        loop {
            if number.is_empty() {
                self.skip_spaces_expanded();
            }
            let Some(token) = self.next_number_token() else { return 0 };
            match token {
                NumberToken::Value(value) => {
                    let factor: f64 =
                        if number.is_empty() { 1.0 } else { number.parse().unwrap_or(1.0) };
                    return (sign * factor * value as f64) as i64;
                }
                NumberToken::Token(located) => match located.token {
                    Token::Character('-', _) if number.is_empty() => sign = -sign,
                    Token::Character('+', _) if number.is_empty() => {}
                    Token::Character('.' | ',', _) => number.push('.'),
                    Token::Character(digit, _) if digit.is_ascii_digit() && number.len() < 20 => {
                        number.push(digit);
                    }
                    _ => {
                        self.push_one(located);
                        break;
                    }
                },
            }
        }
        let number: f64 = number.parse().unwrap_or(0.0);
        (sign * number * self.unit()) as i64
    }

    fn unit(&mut self) -> f64 {
        self.skip_spaces_expanded();
        match self.next_number_token() {
            Some(NumberToken::Value(value)) => return value as f64,
            Some(NumberToken::Token(located)) => self.push_one(located),
            None => return 0.0,
        }
        const UNITS: [(&str, f64); 12] = [
            ("true", 1.0),
            ("pt", 1.0),
            ("em", 10.0),
            ("ex", 4.3),
            ("cm", 28.452_76),
            ("mm", 2.845_276),
            ("in", 72.27),
            ("bp", 1.003_75),
            ("pc", 12.0),
            ("px", 1.003_75),
            ("sp", 1.0 / POINT),
            ("fil", 0.0),
        ];
        for (name, points) in UNITS {
            if self.eat_word(name) {
                if name == "true" {
                    return self.unit();
                }
                if let Some(located) = self.next_expanded()
                    && !Self::is_space(located.token)
                {
                    self.push_one(located);
                }
                return points * POINT;
            }
        }
        0.0
    }
}

enum NumberToken {
    Value(i64),
    Token(Located),
}

impl Front<'_> {
    /// A length that is written in a text, in points.
    pub(crate) fn dimension_of(&mut self, text: &str) -> f32 {
        let level = super::input::TextLevel::new(text.into(), 0, false);
        let levels = std::mem::replace(&mut self.levels, Levels::of(level));
        let scaled = self.dimension();
        self.levels = levels;
        (scaled as f64 / POINT) as f32
    }

    /// What a command is defined as, to be given back.
    pub(crate) fn shown_definition(&mut self, name: &str) -> Definition {
        let name = self.names.of(name);
        Definition(self.meaning(name).clone())
    }

    pub(crate) fn restore_definition(&mut self, name: &str, definition: Definition) {
        self.give(name, definition.0);
    }
}

/// What a command was defined as.
pub(crate) struct Definition(Meaning);
