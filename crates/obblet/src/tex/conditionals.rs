//! `\if…`, `\else`, `\fi`.

use super::expand::same;
use super::front::Front;
use super::meaning::{Conditional, Meaning, Primitive};
use super::token::{Located, Spot, Token};
use crate::findings::Code;

/// A conditional whose end is still to come.
#[derive(Debug, Clone, Copy)]
pub(super) struct OpenIf {
    spot: Spot,
}

impl Front<'_> {
    pub(super) fn conditional(&mut self, conditional: Conditional, spot: Spot) {
        if self.is_too_deep() {
            return self.exhausted();
        }
        self.open_ifs.push(OpenIf { spot });
        if conditional == Conditional::Case {
            let wanted = self.number();
            return self.go_to_case(wanted);
        }
        let is_true = match conditional {
            Conditional::True => true,
            Conditional::False | Conditional::Case => false,
            Conditional::Number => self.compared(Self::number),
            Conditional::Dimension => self.compared(Self::dimension),
            Conditional::Odd => self.number() % 2 != 0,
            Conditional::Same => self.are_same(),
            Conditional::Character => self.are_equal_characters(),
            Conditional::CategoryOf => self.are_of_one_category(),
            Conditional::Defined => match self.next_raw().map(|located| located.token) {
                // What the reader knows is defined as far as anybody can tell.
                Some(Token::Command(name)) => {
                    let text = self.names.text(name).to_string();
                    self.is_defined(&text)
                }
                _ => true,
            },
            Conditional::CommandDefined => {
                let name = self.name_up_to_end();
                self.is_defined(&name)
            }
        };
        if !is_true {
            self.skip_branch();
        }
    }

    fn compared(&mut self, read: impl Fn(&mut Self) -> i64) -> bool {
        let left = read(self);
        self.skip_spaces_expanded();
        let relation = self.next_expanded().map(|located| located.token);
        let right = read(self);
        match relation {
            Some(Token::Character('<', _)) => left < right,
            Some(Token::Character('>', _)) => left > right,
            _ => left == right,
        }
    }

    fn are_same(&mut self) -> bool {
        let (Some(one), Some(two)) = (self.next_raw(), self.next_raw()) else { return false };
        match (one.token, two.token) {
            (Token::Command(one), Token::Command(two)) => {
                if one == two {
                    return true;
                }
                match (self.meaning(one), self.meaning(two)) {
                    (Meaning::Macro(one), Meaning::Macro(two)) => one == two,
                    (Meaning::Primitive(one), Meaning::Primitive(two)) => one == two,
                    (Meaning::Same(one), Meaning::Same(two)) => one == two,
                    (Meaning::Same(one), Meaning::Unknown) => *one == two,
                    (Meaning::Unknown, Meaning::Same(two)) => one == *two,
                    (Meaning::Character(one, _), Meaning::Character(two, _)) => one == two,
                    // Two that nobody defined are the same, unless the reader knows one of them.
                    (Meaning::Unknown, Meaning::Unknown) => {
                        let names = [self.names.text(one), self.names.text(two)];
                        !names.iter().any(|name| self.kept.contains(name))
                    }
                    _ => false,
                }
            }
            (one, two) => same(one, two),
        }
    }

    fn are_equal_characters(&mut self) -> bool {
        let (Some(one), Some(two)) = (self.next_expanded(), self.next_expanded()) else {
            return false;
        };
        match (one.token, two.token) {
            (Token::Character(one, _), Token::Character(two, _)) => one == two,
            (Token::Command(_), Token::Command(_)) => true,
            _ => false,
        }
    }

    fn are_of_one_category(&mut self) -> bool {
        let (Some(one), Some(two)) = (self.next_expanded(), self.next_expanded()) else {
            return false;
        };
        match (one.token, two.token) {
            (Token::Character(_, one), Token::Character(_, two)) => one == two,
            (Token::Command(_), Token::Command(_)) => true,
            _ => false,
        }
    }

    /// Goes to behind the `\else` of this conditional, or past its end.
    fn skip_branch(&mut self) {
        self.skip_to(|primitive| matches!(primitive, Primitive::Else));
    }

    fn go_to_case(&mut self, wanted: i64) {
        for _ in 0..wanted.clamp(0, 10_000) {
            let stopped = self.skip_to(|p| matches!(p, Primitive::Or | Primitive::Else));
            match stopped {
                Some(Primitive::Or) => {}
                _ => return,
            }
        }
        if wanted < 0 {
            self.skip_branch();
        }
    }

    /// What was read was the branch that holds: the others go.
    pub(super) fn skip_to_end_of_if(&mut self, spot: Spot) {
        if self.open_ifs.is_empty() {
            return self.findings.add_about(Code::GroupUnopened, r"\else", Some(spot.into()));
        }
        self.skip_to(|_| false);
    }

    pub(super) fn finish_if(&mut self, spot: Spot) {
        if self.open_ifs.pop().is_none() {
            self.findings.add_about(Code::GroupUnopened, r"\fi", Some(spot.into()));
        }
    }

    /// Goes past tokens up to what is wanted, or past the end of the conditional.
    fn skip_to(&mut self, is_wanted: impl Fn(Primitive) -> bool) -> Option<Primitive> {
        let mut depth = 0_usize;
        while let Some(located) = self.next_raw() {
            let Token::Command(name) = located.token else { continue };
            match self.meaning(name) {
                Meaning::Primitive(Primitive::If(_)) => depth += 1,
                Meaning::Primitive(Primitive::FinishIf) => {
                    if depth == 0 {
                        self.open_ifs.pop();
                        return None;
                    }
                    depth -= 1;
                }
                Meaning::Primitive(primitive) if depth == 0 && is_wanted(*primitive) => {
                    return Some(*primitive);
                }
                _ => {}
            }
        }
        if let Some(open) = self.open_ifs.pop() {
            self.findings.add_about(Code::GroupUnclosed, r"\if", Some(open.spot.into()));
        }
        None
    }

    pub(super) fn skip_spaces_expanded(&mut self) {
        while let Some(located) = self.next_expanded() {
            if !Self::is_space(located.token) {
                return self.push_one(located);
            }
        }
    }

    /// The value of a number, `\relax` ends it.
    pub(crate) fn number_of(&mut self, tokens: Vec<Located>) -> i64 {
        let spot = tokens.last().map(|last| last.spot).unwrap_or_default();
        let relax = self.command("relax", spot);
        let mut tokens = tokens;
        tokens.push(relax);
        self.push(tokens);
        let number = self.number();
        while let Some(located) = self.next_raw() {
            if located.token == relax.token {
                break;
            }
        }
        number
    }
}
