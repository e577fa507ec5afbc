//! Words inside formulas.

use super::read::Reader;
use super::signs::{TEXT_STYLES, meaning};
use crate::math::{Expression, LetterStyle};
use crate::source::CompactString;

impl Reader<'_> {
    /// The words of an argument; what stands between dollars in it is a formula again.
    pub(super) fn words(&mut self, raw: &str, style: LetterStyle) -> Expression {
        let mut parts = Vec::new();
        let mut text = String::new();
        self.push_words(raw, style, &mut text, &mut parts);
        flush(&mut text, style, &mut parts);
        if parts.is_empty() {
            return Expression::Text(CompactString::default(), style);
        }
        Expression::of(parts)
    }

    fn push_words(
        &mut self,
        raw: &str,
        style: LetterStyle,
        text: &mut String,
        parts: &mut Vec<Expression>,
    ) {
        let mut rest = raw;
        while let Some(first) = rest.chars().next() {
            let behind = rest.get(first.len_utf8()..).unwrap_or_default();
            match first {
                '\\' => rest = self.word_command(behind, style, text, parts),
                '$' => {
                    let end = behind.find('$').unwrap_or(behind.len());
                    flush(text, style, parts);
                    parts.push(self.inner(behind.get(..end).unwrap_or_default()));
                    rest = behind.get(end + 1..).unwrap_or_default();
                }
                '{' | '}' => rest = behind,
                '~' => {
                    text.push('\u{a0}');
                    rest = behind;
                }
                '-' | '`' | '\'' => rest = push_ligature(rest, text),
                _ if first.is_whitespace() => {
                    if !text.ends_with(' ') {
                        text.push(' ');
                    }
                    rest = behind;
                }
                _ => {
                    text.push(first);
                    rest = behind;
                }
            }
        }
    }

    /// A command among words; gives what is behind it.
    fn word_command<'t>(
        &mut self,
        behind: &'t str,
        style: LetterStyle,
        text: &mut String,
        parts: &mut Vec<Expression>,
    ) -> &'t str {
        let letters = behind.bytes().take_while(u8::is_ascii_alphabetic).count();
        if letters == 0 {
            let sign = behind.chars().next();
            match sign {
                Some(sign @ ('%' | '&' | '#' | '$' | '_' | '{' | '}' | ' ')) => text.push(sign),
                Some(',') => text.push('\u{2009}'),
                Some('(' | ')') | None => {}
                Some(other) => self.unknown_word(&other.to_string(), style, text, parts),
            }
            return behind.get(sign.map_or(0, char::len_utf8)..).unwrap_or_default();
        }
        let (name, rest) = behind.split_at(letters);
        let inner = meaning(&TEXT_STYLES, name);
        if let (Some(inner), Some(group)) = (inner, rest.strip_prefix('{')) {
            let mut scanner = super::scan::Scanner::new(group);
            let raw = scanner.raw_group();
            flush(text, style, parts);
            let style = if inner == LetterStyle::Usual { style } else { inner };
            let words = self.guarded_words(raw, style);
            parts.push(words);
            return scanner.rest();
        }
        match name {
            "textbackslash" => text.push('\\'),
            "textasciitilde" => text.push('~'),
            "textasciicircum" => text.push('^'),
            "ldots" | "dots" | "textellipsis" => text.push('…'),
            "quad" => text.push('\u{2003}'),
            "qquad" => text.push_str("\u{2003}\u{2003}"),
            "textdegree" => text.push('°'),
            _ => match crate::math::symbol(name) {
                Some((sign, _)) => text.push(sign),
                None => self.unknown_word(name, style, text, parts),
            },
        }
        let rest = rest.strip_prefix("{}").unwrap_or(rest);
        rest.strip_prefix(' ').unwrap_or(rest)
    }

    fn unknown_word(
        &mut self,
        name: &str,
        style: LetterStyle,
        text: &mut String,
        parts: &mut Vec<Expression>,
    ) {
        flush(text, style, parts);
        parts.push(self.unknown(name));
    }
}

/// Dashes and quotation marks, as TeX's fonts join them.
fn push_ligature<'t>(rest: &'t str, text: &mut String) -> &'t str {
    const LIGATURES: [(&str, &str); 6] =
        [("---", "—"), ("--", "–"), ("``", "“"), ("''", "”"), ("`", "‘"), ("'", "’")];
    for (typed, shown) in LIGATURES {
        if let Some(behind) = rest.strip_prefix(typed) {
            text.push_str(shown);
            return behind;
        }
    }
    text.push('-');
    rest.get(1..).unwrap_or_default()
}

fn flush(text: &mut String, style: LetterStyle, parts: &mut Vec<Expression>) {
    if !text.is_empty() {
        parts.push(Expression::Text(std::mem::take(text).into(), style));
    }
}
