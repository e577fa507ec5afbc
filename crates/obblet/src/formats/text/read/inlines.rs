//! Emphasis by underscores and asterisks, and bare addresses.

use super::prose::push_text;
use crate::document::build::{formatted, link};
use crate::document::{Formatting, Inline};
use crate::work;

/// How deep marks may nest.
const DEPTH: usize = 4;

/// How many marks are looked at for the one that closes.
const TRIED: usize = 20;

/// The longest address that is found, in characters.
const LONGEST: usize = 1000;

/// The inlines of a text, in which line endings are soft breaks.
pub(super) fn inlines(text: &str) -> Vec<Inline> {
    parsed(text, 0)
}

fn parsed(text: &str, depth: usize) -> Vec<Inline> {
    let mut content = Vec::new();
    let mut from = 0;
    let mut at = 0;
    while let Some(found) = text.get(at..).and_then(|rest| rest.find(['_', '*', ':', '@'])) {
        let here = at + found;
        work::count(1 + found / 16);
        let piece = match text.as_bytes().get(here) {
            Some(b':' | b'@') => address(text, here, from),
            _ if depth < DEPTH => marked(text, here, depth),
            _ => None,
        };
        match piece {
            Some((start, end, inline)) if start >= from => {
                push_text(&mut content, text.get(from..start).unwrap_or_default());
                content.push(inline);
                (from, at) = (end, end);
            }
            _ => at = here + 1,
        }
    }
    push_text(&mut content, text.get(from..).unwrap_or_default());
    content
}

/// `_word_`, `*word*`, `**word**`: closed in the same paragraph, with no space inside the marks and
/// no letter outside of them.
fn marked(text: &str, start: usize, depth: usize) -> Option<(usize, usize, Inline)> {
    let rest = text.get(start..)?;
    let mark = rest.chars().next()?;
    let marks = rest.chars().take_while(|c| *c == mark).count();
    let is_word = |c: char| c.is_alphanumeric() || c == mark;
    let before = text.get(..start)?.chars().next_back();
    if marks > 2 || before.is_some_and(is_word) {
        return None;
    }
    let closing = &rest[..marks];
    let inside = rest.get(marks..)?;
    if inside.starts_with(char::is_whitespace) {
        return None;
    }
    let mut from = 0;
    for _ in 0..TRIED {
        let found = inside.get(from..)?.find(closing)?;
        work::count(1 + found / 16);
        let end = from + found;
        let words = inside.get(..end)?;
        let behind = inside.get(end + marks..)?.chars().next();
        let is_closed = !words.is_empty()
            && !words.ends_with(char::is_whitespace)
            && !behind.is_some_and(is_word);
        if is_closed {
            let format = match (mark, marks) {
                ('_', 1) => Formatting::Emphasis,
                _ => Formatting::Strong,
            };
            let inline = formatted(format, parsed(words, depth + 1));
            return Some((start, start + marks + end + marks, inline));
        }
        from = end + marks;
    }
    None
}

/// An address around a sign that every address has; `least` is what is read already.
fn address(text: &str, sign: usize, least: usize) -> Option<(usize, usize, Inline)> {
    let stops = |c: char| c.is_whitespace() || matches!(c, '<' | '>' | '"' | '“' | '”');
    let before = text.get(least..sign)?;
    let behind = text.get(sign..)?;
    let is_within = |c: char| c.is_ascii_alphanumeric() || matches!(c, '.' | '_' | '+' | '-');
    let is_sign = match behind.starts_with('@') {
        true => before.ends_with(is_within) && behind.get(1..)?.starts_with(is_within),
        false => behind.starts_with("://"),
    };
    if !is_sign {
        return None;
    }
    let start = before
        .char_indices()
        .rev()
        .take(64)
        .find(|(_, c)| stops(*c) || *c == '(')
        .map_or(least, |(at, c)| least + at + c.len_utf8());
    let rest = text.get(start..)?;
    // An address that is longer is none.
    let end = rest.char_indices().take(LONGEST).find(|(_, c)| stops(*c));
    let whole = match end {
        Some((end, _)) => rest.get(..end)?,
        None if rest.len() <= LONGEST => rest,
        None => return None,
    };
    let shown = whole.trim_end_matches(['.', ',', ';', ':', '!', '?', ')', '\'', '*', '_']);
    if shown.len() <= sign - start {
        return None;
    }
    let is_web = ["https://", "http://"].iter().any(|scheme| {
        shown.strip_prefix(scheme).is_some_and(|rest| rest.contains('.') || rest.len() > 3)
    });
    let is_mail = shown.split_once('@').is_some_and(|(name, host)| {
        let is_name = !name.is_empty()
            && name.bytes().all(|b| b.is_ascii_alphanumeric() || b"._+-".contains(&b));
        is_name
            && host.contains('.')
            && host.bytes().all(|b| b.is_ascii_alphanumeric() || b".-".contains(&b))
    });
    let target = match (is_web, is_mail) {
        (true, _) => shown.to_string(),
        (_, true) => format!("mailto:{shown}"),
        _ => return None,
    };
    Some((start, start + shown.len(), link(target, shown)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::plain_text;

    #[test]
    fn marks_and_addresses_are_told_from_words() {
        let cases = [
            ("an _old_ mill", 3),
            ("snake_case_name and 2*3*4", 1),
            ("*strong* and **strong**", 3),
            ("a * b * c and _ d _", 1),
            ("_never closed", 1),
            ("see https://marrowby.example/a, and", 3),
            ("(mail@marrowby.example)", 3),
            ("10:30 and/or a@b", 1),
        ];
        for (text, count) in cases {
            let found = inlines(text);
            assert_eq!(found.len(), count, "{text} {found:?}");
            assert!(!plain_text(&found).is_empty());
        }
    }
}
