//! The words of HTML: everything outside tags, comments, scripts and style sheets.

use super::super::letters::next_byte;
use memchr::{memchr, memchr2_iter, memmem};
use std::borrow::Cow;
use std::ops::Range;

/// Elements in which there is no text for readers, or text that is counted in another way.
const WITHOUT_TEXT: [&str; 5] = ["math", "script", "style", "template", "title"];

/// Character references that raw HTML has most often.
const SIGNS: [&str; 9] =
    ["&nbsp;", "&#160;", "&amp;", "&lt;", "&gt;", "&quot;", "&copy;", "&mdash;", "&ndash;"];

/// Digits of the longest mark of a note, and bytes of its link with all tags.
const LONGEST_MARK: usize = 6;
const LONGEST_LINK: usize = 400;

/// How many formulas there are.
pub(in crate::account) fn formulas(text: &str) -> u64 {
    let starts = memmem::find_iter(text.as_bytes(), "<math");
    let ends_name = |at: &usize| matches!(text.as_bytes().get(at + 5), Some(b'>' | b' ' | b'\n'));
    starts.filter(ends_name).count() as u64
}

/// Where the words of a source are: of a page that this program made in its main part alone, since
/// everything around it is made anew.
pub(in crate::account) fn source_slices(text: &str) -> Vec<Range<usize>> {
    let slices = slices(text);
    let head = text.find("<body").and_then(|body| text.get(..body)).unwrap_or_default();
    if !head.contains("name=\"generator\" content=\"Obblet ") {
        return slices;
    }
    let start = text.find("<main").unwrap_or(0);
    let end = text.rfind("</main>").unwrap_or(text.len());
    slices.into_iter().filter(|slice| slice.start >= start && slice.end <= end).collect()
}

/// A text without the character references that are signs, such as `&nbsp;`.
pub(in crate::account) fn without_signs(text: &str) -> Cow<'_, str> {
    match SIGNS.iter().any(|sign| text.contains(sign)) {
        true => SIGNS.iter().fold(text.to_string(), |text, sign| text.replace(sign, " ")).into(),
        false => text.into(),
    }
}

/// Where the words are.
pub(in crate::account) fn slices(text: &str) -> Vec<Range<usize>> {
    let bytes = text.as_bytes();
    let mut slices = Vec::new();
    let mut at = 0;
    while at < bytes.len() {
        let rest = bytes.get(at..).unwrap_or_default();
        // Tags often stand side by side.
        let text_length = match rest {
            [b'<', ..] => 0,
            [b'\n', b'<', ..] => 1,
            _ => next_byte(bytes, at, b'<') - at,
        };
        if rest.iter().take(text_length).any(|byte| !byte.is_ascii_whitespace()) {
            slices.push(at..at + text_length);
        }
        at += text_length;
        at = behind_tag(text, at).max(at + 1);
    }
    slices
}

/// The offset behind what begins with this `<`.
fn behind_tag(text: &str, at: usize) -> usize {
    let bytes = text.as_bytes();
    let rest = bytes.get(at..).unwrap_or_default();
    match rest {
        [b'<', b'/', ..] => behind_sign(bytes, at),
        [b'<', first, ..] if first.is_ascii_alphabetic() => behind_opening_tag(text, at),
        [b'<', b'!', b'-', b'-', ..] => behind(bytes, at, b"-->"),
        // Marks that a word processor puts before list paragraphs.
        _ if rest.starts_with(b"<![if !supportLists") => behind(bytes, at, b"<![endif]>"),
        [b'<', b'!' | b'?', ..] => behind_sign(bytes, at),
        _ => at + 1,
    }
}

fn behind_sign(bytes: &[u8], at: usize) -> usize {
    let rest = bytes.get(at..).unwrap_or_default();
    rest.iter().position(|byte| *byte == b'>').map_or(bytes.len(), |end| at + end + 1)
}

fn behind(bytes: &[u8], at: usize, end: &[u8]) -> usize {
    let rest = bytes.get(at..).unwrap_or_default();
    memmem::find(rest, end).map_or(bytes.len(), |found| at + found + end.len())
}

fn behind_opening_tag(text: &str, at: usize) -> usize {
    let bytes = text.as_bytes();
    let end = end_of_tag(bytes, at);
    let beginning = bytes.get(at + 1..at + 3).unwrap_or_default();
    // Few tags begin as these do.
    if !matches!(beginning, [b'a' | b'm' | b'M' | b's' | b'S' | b't' | b'T', _])
        || matches!(beginning, [b't', b'a' | b'b' | b'd' | b'h' | b'r'])
    {
        return end;
    }
    let name = tag_name(text, at + 1);
    let hides = match name.as_bytes().first() {
        Some(b'm' | b'M' | b's' | b'S' | b't' | b'T') => {
            WITHOUT_TEXT.iter().any(|known| name.eq_ignore_ascii_case(known))
                || is_list_mark(name, text.get(at..end).unwrap_or_default())
        }
        Some(b'a') if name == "a" => {
            let tag = text.get(at..end).unwrap_or_default();
            is_note_mark(tag) || is_typed_mark(tag, text, end)
        }
        _ => false,
    };
    if hides { end_of_element(bytes, end, name) } else { end }
}

/// The marks of notes, and the ways back to them, are counted anew.
fn is_note_mark(tag: &str) -> bool {
    const NOTES: [&str; 7] = [
        "doc-noteref",
        "doc-backlink",
        "mso-footnote-id",
        "mso-endnote-id",
        "msocomanchor",
        "#_ftnref",
        "#_ednref",
    ];
    // Few links have what all of these have: `doc-`, `mso-` or `#_`.
    let bytes = tag.as_bytes();
    let mut signs = memchr2_iter(b'-', b'_', bytes);
    let may_be = signs.any(|at| {
        let before = bytes.get(..at).unwrap_or_default();
        before.ends_with(b"doc") || before.ends_with(b"mso") || before.ends_with(b"#")
    });
    may_be && NOTES.iter().any(|word| tag.contains(word))
}

/// So are the marks of list paragraphs.
fn is_list_mark(name: &str, tag: &str) -> bool {
    name == "span" && tag.contains("mso-list:Ignore")
}

/// Links with a name of their own and a number as their words are marks, too.
fn is_typed_mark(tag: &str, text: &str, end: usize) -> bool {
    if !tag.contains("name=") || !tag.contains("href=\"#") {
        return false;
    }
    let shown = text.get(end..).and_then(|rest| rest.split("</a>").next()).unwrap_or_default();
    let mut is_in_tag = false;
    let words = shown.chars().filter(|c| {
        is_in_tag = (is_in_tag || *c == '<') && *c != '>';
        !is_in_tag && c.is_alphanumeric()
    });
    words.take(LONGEST_MARK).all(|c| c.is_ascii_digit()) && shown.len() < LONGEST_LINK
}

fn tag_name(text: &str, from: usize) -> &str {
    let rest = text.as_bytes().get(from..).unwrap_or_default();
    let length = rest.iter().take_while(|byte| byte.is_ascii_alphanumeric()).count();
    text.get(from..from + length).unwrap_or_default()
}

/// A quoted value may hold `>`.
pub(in crate::account) fn end_of_tag(bytes: &[u8], at: usize) -> usize {
    let name = bytes.get(at + 1..).unwrap_or_default();
    let mut from = at + 1 + name.iter().take_while(|byte| byte.is_ascii_alphanumeric()).count();
    loop {
        let rest = bytes.get(from..).unwrap_or_default();
        let is_sign = |byte: &u8| matches!(byte, b'>' | b'"' | b'\'');
        let Some(sign) = rest.iter().position(is_sign).map(|sign| from + sign) else {
            return bytes.len();
        };
        from = sign + 1;
        match bytes.get(sign) {
            Some(b'>') | None => return from,
            Some(quote) => {
                let mut before = bytes.get(at..sign).unwrap_or_default().iter().rev();
                if before.find(|byte| !byte.is_ascii_whitespace()) == Some(&b'=') {
                    let value = bytes.get(from..).unwrap_or_default();
                    let Some(length) = memchr(*quote, value) else { return bytes.len() };
                    from += length + 1;
                }
            }
        }
    }
}

fn end_of_element(bytes: &[u8], from: usize, name: &str) -> usize {
    let mut at = from;
    while let Some(found) = bytes.get(at..).and_then(|rest| memmem::find(rest, b"</")) {
        let end = at + found + 2;
        let same = bytes.get(end..end + name.len());
        if same.is_some_and(|same| same.eq_ignore_ascii_case(name.as_bytes())) {
            return end_of_tag(bytes, end);
        }
        at = end;
    }
    bytes.len()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn text_is_what_stands_outside_of_tags() {
        let page = "<title>T</title><p class='a>b'>one <b>two</b><!-- no --><script>no</script>\
                    three &lt; 4 < 5<style>no</style>";
        let found: Vec<&str> = slices(page).into_iter().map(|slice| &page[slice]).collect();
        assert_eq!(found, ["one ", "two", "three &lt; 4 ", " 5"]);
    }
}
