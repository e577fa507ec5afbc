//! Characters: ligatures, quotation marks, dashes.

use super::Reader;
use crate::tex::Token;

impl Reader<'_> {
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
