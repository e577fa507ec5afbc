//! Character references, backslash escapes, and the two together.

use html5ever::data::NAMED_ENTITIES;

/// The longest name of a character reference, with its semicolon.
const LONGEST_NAME: usize = 33;

/// CommonMark 2.5: a character reference at the start of `text`, which begins with `&`. Gives its
/// length and its one or two characters.
pub(super) fn character_reference(text: &str) -> Option<(usize, [Option<char>; 2])> {
    let bytes = text.as_bytes();
    let window = bytes.get(..bytes.len().min(LONGEST_NAME + 1))?;
    let semicolon = memchr::memchr(b';', window)?;
    let body = text.get(1..semicolon)?;
    let length = semicolon + 1;
    let Some(number) = body.strip_prefix('#') else {
        let &(first, second) = NAMED_ENTITIES.get(text.get(1..length)?)?;
        let second = (second != 0).then(|| char::from_u32(second)).flatten();
        return (first != 0).then(|| (length, [char::from_u32(first), second]));
    };
    let value = match number.strip_prefix(['x', 'X']) {
        Some(hex) => digits(hex, 16, 6)?,
        None => digits(number, 10, 7)?,
    };
    let character = char::from_u32(value).filter(|c| *c != '\0').unwrap_or('\u{FFFD}');
    Some((length, [Some(character), None]))
}

fn digits(text: &str, radix: u32, most: usize) -> Option<u32> {
    let fits = (1..=most).contains(&text.len()) && text.chars().all(|c| c.is_digit(radix));
    fits.then(|| u32::from_str_radix(text, radix).ok()).flatten()
}

/// Resolves character references and backslash escapes, as in addresses, titles and info strings.
pub(super) fn unescape(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut left = text;
    while let Some(at) = memchr::memchr2(b'\\', b'&', left.as_bytes()) {
        out.push_str(left.get(..at).unwrap_or_default());
        left = left.get(at..).unwrap_or_default();
        if let Some((length, characters)) = character_reference(left) {
            out.extend(characters.into_iter().flatten());
            left = left.get(length..).unwrap_or_default();
            continue;
        }
        let escaped = left.as_bytes().get(1).filter(|byte| byte.is_ascii_punctuation());
        match escaped {
            Some(&byte) if left.starts_with('\\') => {
                out.push(byte as char);
                left = left.get(2..).unwrap_or_default();
            }
            _ => {
                out.push_str(left.get(..1).unwrap_or_default());
                left = left.get(1..).unwrap_or_default();
            }
        }
    }
    out.push_str(left);
    out
}

/// Resolves character references only, as in quoted values of attributes.
pub(super) fn resolve_references(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut left = text;
    while let Some(at) = memchr::memchr(b'&', left.as_bytes()) {
        out.push_str(left.get(..at).unwrap_or_default());
        left = left.get(at..).unwrap_or_default();
        let (length, characters) = character_reference(left).unwrap_or((1, [Some('&'), None]));
        out.extend(characters.into_iter().flatten());
        left = left.get(length..).unwrap_or_default();
    }
    out.push_str(left);
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn references_and_escapes() {
        let cases = [
            ("a &amp; b", "a & b"),
            ("&copy &copy;", "&copy ©"),
            ("&#0; &#35; &#x22;", "\u{FFFD} # \""),
            ("&#87654321; &#abcdef0;", "&#87654321; &#abcdef0;"),
            ("&ngE;", "≧̸"),
            ("\\* \\a \\", "* \\a \\"),
            ("\\&amp;", "&amp;"),
            ("&", "&"),
        ];
        for (text, expected) in cases {
            assert_eq!(unescape(text), expected, "{text:?}");
        }
    }
}
