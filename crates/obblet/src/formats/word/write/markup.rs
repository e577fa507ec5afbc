//! XML as text: the calls that parts are written with.

use crate::dates::When;
use std::borrow::Cow;

/// Adds a text as content of an element or as a value in quotes. Characters that XML 1.0 cannot hold (2.2)
/// are left out; gives whether there were any.
pub(super) fn push_text(out: &mut String, text: &str) -> bool {
    let mut from = 0;
    let mut dropped = false;
    for (at, character) in text.char_indices() {
        let reference = match character {
            '&' => "&amp;",
            '<' => "&lt;",
            '>' => "&gt;",
            '"' => "&quot;",
            '\t' | '\n' | '\r' => continue,
            '\0'..'\u{20}' | '\u{FFFE}' | '\u{FFFF}' => {
                dropped = true;
                ""
            }
            _ => continue,
        };
        out.push_str(text.get(from..at).unwrap_or_default());
        out.push_str(reference);
        from = at + character.len_utf8();
    }
    out.push_str(text.get(from..).unwrap_or_default());
    dropped
}

/// When a change or a comment was made (ECMA-376 part 1, `ST_DateTime`); what is not understood stays.
pub(super) fn moment(date: &str) -> Cow<'_, str> {
    When::of(date).map_or(Cow::Borrowed(date), |when| Cow::Owned(when.xml()))
}

/// A text as a value in quotes.
pub(super) fn value(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    push_text(&mut out, text);
    out
}

/// Adds an empty element with one value: `<w:jc w:val="center"/>`.
pub(super) fn push_val(out: &mut String, name: &str, text: &str) {
    out.push('<');
    out.push_str(name);
    out.push_str(" w:val=\"");
    push_text(out, text);
    out.push_str("\"/>");
}

/// Points as twentieths of a point.
pub(super) fn twips(points: f32) -> i32 {
    (points * 20.0).round() as i32
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn texts_are_what_xml_can_hold() {
        let mut out = String::new();
        assert!(push_text(&mut out, "a<b> & \"c\"\u{1}\td\u{FFFF}"));
        assert_eq!(out, "a&lt;b&gt; &amp; &quot;c&quot;\td");
        assert!(!push_text(&mut out, "weir"));
    }
}
