//! The parts of links and link definitions: label, destination, title (CommonMark 4.7 and 6.3).

use crate::work;
use std::ops::Range;

/// How deep parentheses may nest in a destination without angle brackets.
const PARENTHESES_LIMIT: usize = 32;

/// The longest label, in bytes; the standard counts 999 characters.
const LABEL_LIMIT: usize = 999 * 4;

/// The position of the first byte at or after `at` that is not white space (line endings count as
/// white space; a paragraph has no blank lines).
pub(super) fn skip_space(text: &[u8], mut at: usize) -> usize {
    while matches!(text.get(at), Some(b' ' | b'\t' | b'\n')) {
        at += 1;
    }
    at
}

/// A label at `at`, where there must be `[`. Gives what is inside and the position behind.
pub(super) fn label(text: &str, at: usize) -> Option<(Range<usize>, usize)> {
    let bytes = text.as_bytes();
    let start = at + 1;
    let mut here = start;
    let mut blank = true;
    if bytes.get(at) != Some(&b'[') {
        return None;
    }
    while here - start <= LABEL_LIMIT {
        work::count(1);
        match bytes.get(here)? {
            b']' if blank => return None,
            b']' => {
                let inside = start..here;
                let characters = text.get(inside.clone())?.chars().count();
                return (characters <= 999).then_some((inside, here + 1));
            }
            b'[' => return None,
            b'\\' => {
                blank = false;
                here += 1 + usize::from(bytes.get(here + 1).is_some_and(u8::is_ascii_punctuation));
            }
            byte => {
                blank &= byte.is_ascii_whitespace();
                here += 1;
            }
        }
    }
    None
}

/// A destination at `at`. Gives its text without angle brackets and the position behind.
pub(super) fn destination(text: &[u8], at: usize) -> Option<(Range<usize>, usize)> {
    if text.get(at) == Some(&b'<') { bracketed(text, at) } else { bare(text, at) }
}

fn bracketed(text: &[u8], at: usize) -> Option<(Range<usize>, usize)> {
    let mut here = at + 1;
    loop {
        work::count(1);
        match text.get(here)? {
            b'>' => return Some((at + 1..here, here + 1)),
            b'<' | b'\n' => return None,
            b'\\' => here += 1 + escaped(text, here),
            _ => here += 1,
        }
    }
}

fn bare(text: &[u8], at: usize) -> Option<(Range<usize>, usize)> {
    let mut here = at;
    let mut open = 0;
    while let Some(&byte) = text.get(here) {
        work::count(1);
        match byte {
            b'\\' => here += escaped(text, here),
            b'(' if open == PARENTHESES_LIMIT => return None,
            b'(' => open += 1,
            b')' if open == 0 => break,
            b')' => open -= 1,
            _ if byte.is_ascii_control() || byte == b' ' => break,
            _ => {}
        }
        here += 1;
    }
    (open == 0).then_some((at..here, here))
}

/// 1 when the backslash at `at` escapes the byte behind it, else 0.
fn escaped(text: &[u8], at: usize) -> usize {
    usize::from(text.get(at + 1).is_some_and(u8::is_ascii_punctuation))
}

/// A title at `at`. Gives its text without quotes and the position behind.
pub(super) fn title(text: &[u8], at: usize) -> Option<(Range<usize>, usize)> {
    let close = match text.get(at)? {
        &quote @ (b'"' | b'\'') => quote,
        b'(' => b')',
        _ => return None,
    };
    let mut here = at + 1;
    loop {
        work::count(1);
        match *text.get(here)? {
            b'\\' => here += 1 + escaped(text, here),
            byte if byte == close => return Some((at + 1..here, here + 1)),
            b'(' if close == b')' => return None,
            _ => here += 1,
        }
    }
}

/// The form under which labels are equal: case folded, inner white space as one space.
pub(super) fn normalised(label: &str) -> String {
    let mut folded = String::with_capacity(label.len());
    for word in label.split([' ', '\t', '\n']).filter(|word| !word.is_empty()) {
        if !folded.is_empty() {
            folded.push(' ');
        }
        if word.is_ascii() {
            folded.extend(word.bytes().map(|byte| byte.to_ascii_lowercase() as char));
        } else {
            // Upper case of lower case comes out the same for all letters that case folding
            // makes equal, `ẞ` and `SS` among them.
            folded.push_str(&word.to_lowercase().to_uppercase().to_lowercase());
        }
    }
    folded
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn labels_are_equal_without_case_and_extra_space() {
        assert_eq!(normalised(" Foo \n\t BAR "), "foo bar");
        assert_eq!(normalised("ẞ"), normalised("SS"));
        assert_eq!(normalised("ΑΓΩ"), normalised("αγω"));
    }

    #[test]
    fn destinations_balance_parentheses_to_a_limit() {
        let deep = |n: usize| "(".repeat(n) + &")".repeat(n);
        assert!(destination(deep(32).as_bytes(), 0).is_some());
        assert!(destination(deep(33).as_bytes(), 0).is_none());
        assert_eq!(destination(b"a(b)c d", 0), Some((0..5, 5)));
        assert_eq!(destination(b"<a b>", 0), Some((1..4, 5)));
        assert_eq!(destination(b"<a\nb>", 0), None);
    }
}
