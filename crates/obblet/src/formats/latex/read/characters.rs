//! Characters: ligatures, quotation marks, dashes, accents, characters by their numbers.

use super::{Reader, accents};
use crate::document::plain_text;
use crate::findings::Code;
use crate::tex::{Name, Spot, Token};

/// The mark of `\=`, which sets a tab stop where lines are set by tabs.
const MACRON: char = '\u{304}';

impl Reader<'_> {
    pub(super) fn accent(&mut self, mark: char) {
        if self.is_tabbing && mark == MACRON {
            return self.sheet.space(false);
        }
        let tokens = self.front.argument();
        let base = plain_text(&self.inlines_of(tokens));
        self.sheet.mark_place();
        let shown = match base.trim().is_empty() {
            // An accent on nothing shows the sign itself.
            true => accents::alone(mark).into(),
            false => accents::joined(&base, mark),
        };
        self.sheet.text.push_str(&shown);
    }

    /// `\accent 127`: the mark has this number in a font of TeX.
    pub(super) fn accent_by_number(&mut self) {
        let number = self.front.number();
        self.front.skip_spaces();
        if let Some(mark) = accents::by_number(number) {
            self.accent(mark);
        }
    }

    /// `\discretionary{before}{behind}{whole}`: a word that is not broken is shown.
    pub(super) fn discretionary(&mut self) {
        self.front.argument();
        self.front.argument();
        let whole = self.front.argument();
        self.front.push(whole);
    }

    /// `\char` and `\symbol{…}`: a character by its number.
    pub(super) fn symbol(&mut self, name: Name, spot: Spot) {
        let is_primitive = self.front.names.text(name) == "char";
        let number = match is_primitive {
            true => self.front.number(),
            false => {
                let tokens = self.front.argument();
                self.front.number_of(tokens)
            }
        };
        let character = u32::try_from(number).ok().and_then(char::from_u32);
        self.sheet.mark_place();
        // Numbers between ASCII and Latin letters are other signs in every font.
        match character.filter(|character| !character.is_control() && *character != '\u{a0}') {
            Some(character) => self.sheet.text.push(character),
            None => {
                let subject = format!("\\char {number}");
                self.findings.count(Code::CommandSkipped, &subject, Some(spot.into()));
            }
        }
    }

    /// A character that joins with its likes, or any other one.
    pub(super) fn letter(&mut self, character: char) {
        self.sheet.mark_place();
        let shown = match character {
            '-' if self.is_next('-') => match self.is_next('-') {
                true => "—",
                false => "–",
            },
            '`' if self.is_next('`') => "“",
            '`' => "‘",
            '\'' if self.is_next('\'') => "”",
            '\'' => "’",
            '<' if self.is_next('<') => "«",
            '>' if self.is_next('>') => "»",
            ',' if self.is_next(',') => "„",
            '!' if self.is_next('`') => "¡",
            '?' if self.is_next('`') => "¿",
            '"' if self.is_german => return self.german_shorthand(),
            other => return self.sheet.text.push(other),
        };
        self.sheet.text.push_str(shown);
    }

    /// Takes the next character if it is this one.
    fn is_next(&mut self, wanted: char) -> bool {
        let is_it = self.front.is_next(wanted);
        if is_it {
            self.front.next_raw();
        }
        is_it
    }

    /// What babel makes of a quotation mark in German texts.
    fn german_shorthand(&mut self) {
        let next = self.front.peek_raw().map(|next| next.token);
        let Some(Token::Character(next, _)) = next else { return self.sheet.text.push('"') };
        let shown = match next {
            'a' => "ä",
            'o' => "ö",
            'u' => "ü",
            'A' => "Ä",
            'O' => "Ö",
            'U' => "Ü",
            's' | 'z' => "ß",
            '`' => "„",
            '\'' => "“",
            '<' => "«",
            '>' => "»",
            '-' => "\u{ad}",
            '=' => "-",
            '~' => "\u{2011}",
            '"' | '|' => "",
            _ => return self.sheet.text.push('"'),
        };
        self.front.next_raw();
        self.sheet.text.push_str(shown);
    }
}
