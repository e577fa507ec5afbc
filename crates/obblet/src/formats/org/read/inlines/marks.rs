//! The marks of emphasis and what may stand around them (Org syntax, “Text Markup”).

/// The marks in the order of their lists.
pub(super) const MARKS: [u8; 6] = *b"*/_+=~";

/// White space; the sign of zero width counts as some.
pub(in crate::formats::org) fn is_white(c: char) -> bool {
    c.is_whitespace() || c == '\u{200b}'
}

/// Whether emphasis may begin between these two.
pub(super) fn may_open(before: Option<char>, next: Option<char>) -> bool {
    is_opening(before) && next.is_some_and(|next| !is_white(next))
}

/// Whether a mark behind this may open emphasis.
pub(in crate::formats::org) fn is_opening(before: Option<char>) -> bool {
    before.is_none_or(|c| is_white(c) || matches!(c, '-' | '(' | '{' | '\'' | '"'))
}

/// Whether a mark before this may close emphasis.
pub(in crate::formats::org) fn is_closing(next: Option<char>) -> bool {
    next.is_none_or(|c| {
        is_white(c)
            || matches!(
                c,
                '-' | '.' | ',' | ';' | ':' | '!' | '?' | '\'' | '"' | ')' | '}' | '\\' | '['
            )
    })
}

/// Whether a sign can have a meaning, so that one of zero width beside it keeps it from having it.
pub(super) fn is_sign(c: char) -> bool {
    matches!(
        c,
        '*' | '/'
            | '_'
            | '+'
            | '='
            | '~'
            | '['
            | ']'
            | '<'
            | '>'
            | '{'
            | '}'
            | '|'
            | '#'
            | '^'
            | '$'
            | '\\'
            | '@'
            | ':'
            | '-'
            | '\n'
            | '('
            | ')'
            | '.'
            | '%'
    )
}

/// Where emphasis of each mark may end.
pub(super) fn ends(text: &str) -> [Vec<u32>; 6] {
    let mut ends: [Vec<u32>; 6] = Default::default();
    let bytes = text.as_bytes();
    for (at, byte) in bytes.iter().enumerate() {
        // Letters are none, and most of a text.
        if byte.is_ascii_lowercase() || *byte == b' ' {
            continue;
        }
        let Some(index) = MARKS.iter().position(|mark| mark == byte) else { continue };
        let before = text.get(..at).and_then(|text| text.chars().next_back());
        let next = text.get(at + 1..).and_then(|text| text.chars().next());
        if before.is_some_and(|c| !is_white(c))
            && is_closing(next)
            && let (Some(list), Ok(at)) = (ends.get_mut(index), u32::try_from(at))
        {
            list.push(at);
        }
    }
    ends
}
