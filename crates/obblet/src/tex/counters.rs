//! Counters: their values, and how they are shown.

use super::front::Front;
use super::meaning::{Conditional, Meaning, NumberForm, Primitive};
use super::token::{Category, Located, Name, Token};
use crate::document::NumeralStyle;
use crate::source::CompactString;
use compact_str::ToCompactString;

/// How many tokens a counter may be shown by without the way of all macros.
const PLAIN_TOKENS: usize = 100;

impl Front<'_> {
    /// The value of a counter.
    pub(crate) fn counter(&self, name: &str) -> i64 {
        self.registers.counter(name).map_or(0, |id| self.registers.get(id))
    }

    pub(crate) fn has_counter(&self, name: &str) -> bool {
        self.registers.counter(name).is_some()
    }

    pub(crate) fn set_counter(&mut self, name: &str, value: i64) {
        let id = self.registers.counter_or_new(name);
        self.registers.set(id, value);
    }

    /// Makes a counter, which another one sets back to zero.
    pub(crate) fn new_counter(&mut self, name: &str, within: Option<&str>) {
        let own = self.registers.counter_or_new(name);
        self.registers.set(own, 0);
        if let Some(within) = within {
            self.count_within(name, within, true);
        }
        self.give(&format!("c@{name}"), Meaning::Register(own));
        let shown = format!("the{name}");
        if !self.is_defined_here(&shown) {
            self.define_text(&shown, &format!(r"\arabic{{{name}}}"));
        }
    }

    /// A counter is set back to zero by another one from now on, or no longer.
    pub(crate) fn count_within(&mut self, name: &str, within: &str, is_within: bool) {
        let own = self.registers.counter_or_new(name);
        let above = self.registers.counter_or_new(within);
        self.registers.count_within(own, above, is_within);
    }

    /// One more; counters below it start anew.
    pub(crate) fn step_counter(&mut self, name: &str) {
        let id = self.registers.counter_or_new(name);
        let value = self.registers.get(id);
        self.registers.set(id, value.saturating_add(1));
        if !self.registers.reset_below(id) {
            self.exhausted();
        }
    }

    /// How a counter is shown, by its own `\the…` command.
    pub(crate) fn shown_counter(&mut self, name: &str) -> CompactString {
        let id = self.registers.counter_or_new(name);
        let command = self.registers.shown_by(id).unwrap_or_else(|| {
            let command = self.names.of(&format!("the{name}"));
            self.registers.show_by(id, command);
            command
        });
        let (mut shown, mut left) = (CompactString::default(), PLAIN_TOKENS);
        match self.push_plainly_shown(command, &mut left, &mut shown) {
            Some(()) => shown,
            None => self.expanded_counter(command),
        }
    }

    /// What a command shows that is made of nothing but text, counters, and others like it: most of
    /// those that show counters are. `None` for any other, and where it takes more tokens than are
    /// left.
    fn push_plainly_shown(
        &self,
        command: Name,
        left: &mut usize,
        shown: &mut CompactString,
    ) -> Option<()> {
        let Meaning::Macro(called) = self.meaning(command) else { return None };
        if called.parameters.takes_any() {
            return None;
        }
        let mut body = called.body.iter().copied();
        let mut open_conditions = 0_usize;
        while let Some(token) = body.next() {
            *left = left.checked_sub(1)?;
            match token {
                Token::Character(sign, Category::Letter | Category::Other) => shown.push(sign),
                Token::Character(..) | Token::Argument(_) => return None,
                Token::Command(command) => match self.meaning(command) {
                    Meaning::Primitive(Primitive::CountIn(form)) => {
                        let value = self.counter(&name_in_braces(&mut body)?);
                        shown.push_str(&spelled(value, *form));
                    }
                    // As figures show their chapter, if there is one.
                    Meaning::Primitive(Primitive::If(Conditional::Number)) => {
                        match self.is_counter_above(&mut body)? {
                            true => open_conditions += 1,
                            false => self.skip_to_end_of_plain_if(&mut body)?,
                        }
                    }
                    Meaning::Primitive(Primitive::FinishIf) => {
                        open_conditions = open_conditions.checked_sub(1)?;
                    }
                    Meaning::Macro(_) => self.push_plainly_shown(command, left, shown)?,
                    _ => return None,
                },
            }
        }
        (open_conditions == 0).then_some(())
    }

    /// Whether `\value{name}>5 ` is true. `None` for any other comparison.
    fn is_counter_above(&self, tokens: &mut impl Iterator<Item = Token>) -> Option<bool> {
        let Some(Token::Command(command)) = tokens.next() else { return None };
        let Meaning::Primitive(Primitive::Value) = self.meaning(command) else { return None };
        let value = self.counter(&name_in_braces(tokens)?);
        let Some(Token::Character('>', _)) = tokens.next() else { return None };
        let mut number = 0_i64;
        loop {
            match tokens.next()? {
                Token::Character(_, Category::Space) => return Some(value > number),
                Token::Character(digit, _) => {
                    let digit = i64::from(digit.to_digit(10)?);
                    number = number.saturating_mul(10).saturating_add(digit);
                }
                _ => return None,
            }
        }
    }

    /// Goes past the end of a condition that has one branch and nothing of its kind in it.
    fn skip_to_end_of_plain_if(&self, tokens: &mut impl Iterator<Item = Token>) -> Option<()> {
        loop {
            let Token::Command(command) = tokens.next()? else { continue };
            match self.meaning(command) {
                Meaning::Primitive(Primitive::FinishIf) => return Some(()),
                Meaning::Primitive(Primitive::If(_) | Primitive::Else | Primitive::Or) => {
                    return None;
                }
                _ => {}
            }
        }
    }

    /// What a command shows when it is expanded.
    fn expanded_counter(&mut self, command: Name) -> CompactString {
        let mut tokens = self.new_list();
        tokens.push(Located { token: Token::Command(command), spot: self.spot() });
        let tokens = self.expanded(tokens);
        // Braces and commands that only set it are no part of a number.
        let mut shown = CompactString::default();
        for located in &tokens {
            match located.token {
                Token::Character(_, Category::Begin | Category::End) => {}
                Token::Character(character, _) => shown.push(character),
                Token::Command(name) => match self.names.text(name) {
                    "S" => shown.push('§'),
                    "textendash" => shown.push('–'),
                    "\u{1}~" => shown.push('\u{a0}'),
                    _ => {}
                },
                Token::Argument(_) => {}
            }
        }
        self.give_back(tokens);
        shown.trim().into()
    }
}

/// The name of a counter that stands in braces.
fn name_in_braces(tokens: &mut impl Iterator<Item = Token>) -> Option<CompactString> {
    let Some(Token::Character(_, Category::Begin)) = tokens.next() else { return None };
    let mut name = CompactString::default();
    loop {
        match tokens.next()? {
            Token::Character(sign, Category::Letter | Category::Other) => name.push(sign),
            Token::Character(_, Category::End) => return Some(name),
            _ => return None,
        }
    }
}

/// A counter's value in one of its forms.
pub(super) fn spelled(value: i64, form: NumberForm) -> CompactString {
    const SIGNS: [&str; 10] = ["", "*", "†", "‡", "§", "¶", "‖", "**", "††", "‡‡"];
    let value = i32::try_from(value).unwrap_or(i32::MAX);
    match form {
        NumberForm::Arabic => value.to_compact_string(),
        NumberForm::LowerRoman => NumeralStyle::LowerRoman.spell(value).into(),
        NumberForm::UpperRoman => NumeralStyle::UpperRoman.spell(value).into(),
        NumberForm::LowerLetter => NumeralStyle::LowerLetter.spell(value).into(),
        NumberForm::UpperLetter => NumeralStyle::UpperLetter.spell(value).into(),
        NumberForm::Sign => {
            let sign = usize::try_from(value).ok().and_then(|value| SIGNS.get(value));
            sign.map_or_else(|| value.to_compact_string(), |sign| CompactString::from(*sign))
        }
    }
}
