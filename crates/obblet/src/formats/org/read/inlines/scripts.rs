//! Lowered and raised text (Org syntax, “Subscripts and Superscripts”).

use super::plain::LineBuilder;
use super::{Reader, Spot, formatted};
use crate::document::{Formatting, Inline};
use crate::formats::org::read::options::Scripts;

impl Reader<'_> {
    /// `a_b`, `a_{b c}`, `a^2`, `a^*`
    pub(super) fn script(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, depth } = spot;
        let scripts = self.settings.options.scripts;
        let before = leaf.text.get(range.start..at)?.chars().next_back()?;
        let rest = leaf.text.get(at + 1..range.end)?;
        if before.is_whitespace() || scripts == Scripts::Never {
            return None;
        }
        let format = match leaf.text.as_bytes().get(at)? {
            b'_' => Formatting::Subscript,
            _ => Formatting::Superscript,
        };
        if rest.starts_with('{') {
            let close = leaf.partner(at + 1).filter(|close| *close < range.end)?;
            let content = self.objects(leaf, at + 2..close, depth + 1);
            self.push(line, formatted(format, content));
            return Some(close + 1);
        }
        if scripts == Scripts::InBraces {
            return None;
        }
        if rest.starts_with('(') {
            let close = leaf.partner(at + 1).filter(|close| *close < range.end)?;
            let content = self.objects(leaf, at + 1..close + 1, depth + 1);
            self.push(line, formatted(format, content));
            return Some(close + 1);
        }
        let length = if rest.starts_with('*') { 1 } else { bare(rest)? };
        let words = rest.get(..length)?;
        let content = match words.contains('\\') {
            true => self.objects(leaf, at + 1..at + 1 + length, depth + 1),
            false => vec![Inline::Text(words.into())],
        };
        self.push(line, formatted(format, content));
        Some(at + 1 + length)
    }
}

/// A sign, letters, digits and some points, of which a letter or digit is the last.
fn bare(text: &str) -> Option<usize> {
    let sign = usize::from(text.starts_with(['+', '-']));
    let body = text.get(sign..)?;
    let mut length = 0;
    for (at, c) in body.char_indices() {
        match c {
            c if c.is_alphanumeric() => length = at + c.len_utf8(),
            '.' | ',' | '\\' => {}
            _ => break,
        }
    }
    (length > 0).then_some(sign + length)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn bare_scripts_end_with_a_letter_or_digit() {
        let cases =
            [("2 x", Some(1)), ("-1.5, x", Some(4)), ("a.", Some(1)), (".", None), ("é)", Some(2))];
        for (text, expected) in cases {
            assert_eq!(bare(text), expected, "{text}");
        }
    }
}
