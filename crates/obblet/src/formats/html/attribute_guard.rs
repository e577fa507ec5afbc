//! A bound on how many attributes a tag has. The tokenizer looks through those it has at each new one, so
//! without a bound its time grows with the square of their number.

use memchr::memchr_iter;
use std::borrow::Cow;
use std::ops::Range;

/// Attributes that a tag keeps. No element knows a tenth of them.
const MOST: usize = 500;

/// A tag of fewer bytes has no more than that.
const SHORT: usize = 2 * MOST;

/// The text without the attributes that a tag has too many of.
pub(super) fn bounded(html: &str) -> Cow<'_, str> {
    let mut kept = String::new();
    let mut from = 0;
    let mut behind = 0;
    for start in memchr_iter(b'<', html.as_bytes()) {
        if start < behind {
            continue;
        }
        let Some(tag) = html.get(start + 1..).filter(|tag| begins_tag(tag)) else { continue };
        let (length, surplus) = surplus(tag.as_bytes());
        behind = start + 1 + length;
        if let Some(surplus) = surplus {
            kept.push_str(html.get(from..start + 1 + surplus.start).unwrap_or_default());
            from = start + 1 + surplus.end;
        }
    }
    if from == 0 {
        return Cow::Borrowed(html);
    }
    kept.push_str(html.get(from..).unwrap_or_default());
    Cow::Owned(kept)
}

/// Whether a start tag begins here that is long enough to matter.
fn begins_tag(tag: &str) -> bool {
    tag.as_bytes().first().is_some_and(u8::is_ascii_alphabetic) && tag.len() > SHORT
}

/// The length of a tag, and where those of its attributes stand that are too many (HTML Standard, 13.2.5.32
/// to 13.2.5.40).
fn surplus(tag: &[u8]) -> (usize, Option<Range<usize>>) {
    let ends_name = |byte: &u8| byte.is_ascii_whitespace() || matches!(byte, b'/' | b'>');
    let mut at = tag.iter().position(ends_name).unwrap_or(tag.len());
    let mut count = 0;
    let mut cut = None;
    loop {
        let rest = tag.get(at..).unwrap_or_default();
        at += rest.iter().take_while(|byte| byte.is_ascii_whitespace() || **byte == b'/').count();
        match tag.get(at) {
            None => return (at, cut.map(|cut| cut..at)),
            Some(b'>') => return (at + 1, cut.map(|cut| cut..at)),
            Some(_) if count == MOST => cut = cut.or(Some(at)),
            Some(_) => count += 1,
        }
        at = behind_attribute(tag, at);
    }
}

fn behind_attribute(tag: &[u8], start: usize) -> usize {
    let until = |from: usize, ends: &dyn Fn(&u8) -> bool| {
        let rest = tag.get(from..).unwrap_or_default();
        from + rest.iter().position(ends).unwrap_or(rest.len())
    };
    // An equals sign may begin a name.
    let name =
        until(start + 1, &|byte| byte.is_ascii_whitespace() || matches!(byte, b'/' | b'>' | b'='));
    let sign = until(name, &|byte| !byte.is_ascii_whitespace());
    if tag.get(sign) != Some(&b'=') {
        return name;
    }
    let value = until(sign + 1, &|byte| !byte.is_ascii_whitespace());
    match tag.get(value) {
        Some(quote @ (b'"' | b'\'')) => {
            (until(value + 1, &|byte| byte == quote) + 1).min(tag.len())
        }
        _ => until(value, &|byte| byte.is_ascii_whitespace() || *byte == b'>'),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_tag_keeps_as_many_attributes_as_anyone_has() {
        let attributes = |sign: &str, count: usize| {
            (0..count).map(|number| format!(" a{number}{sign}")).collect::<String>()
        };
        for sign in ["", "=x", "=\"x > y\"", " = 'x'", "/"] {
            let many =
                format!("<p>1 < 2 <b{}>c</b><i{}>d", attributes(sign, 2000), attributes(sign, 600));
            let few = format!(
                "<p>1 < 2 <b{} >c</b><i{} >d",
                attributes(sign, MOST),
                attributes(sign, MOST)
            );
            assert_eq!(bounded(&many).replace("/ >", " >"), few.replace("/ >", " >"), "{sign}");
            assert!(matches!(bounded(&few), Cow::Borrowed(_)), "{sign}");
        }
        let unclosed = format!("<b{}", attributes("=x", 2000));
        assert_eq!(bounded(&unclosed), format!("<b{} ", attributes("=x", MOST)));
        let picture = format!("<img src=\"data:{}\" alt=x>", "a ".repeat(4000));
        assert!(matches!(bounded(&picture), Cow::Borrowed(_)));
    }
}
