//! The words of HTML: everything outside tags, comments, scripts and style sheets.

use memchr::{memchr, memmem};
use std::ops::Range;

/// Elements in which there is no text for readers, or text that is counted in another way.
const WITHOUT_TEXT: [&str; 5] = ["math", "script", "style", "template", "title"];

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

/// Where the words are.
pub(in crate::account) fn slices(text: &str) -> Vec<Range<usize>> {
    let bytes = text.as_bytes();
    let mut slices = Vec::new();
    let mut at = 0;
    while at < bytes.len() {
        let rest = bytes.get(at..).unwrap_or_default();
        let stop = memchr(b'<', rest).map_or(bytes.len(), |found| at + found);
        if let Some(slice) = bytes.get(at..stop)
            && slice.iter().any(|byte| !byte.is_ascii_whitespace())
        {
            slices.push(at..stop);
        }
        at = behind_tag(text, stop).max(stop + 1);
    }
    slices
}

/// The offset behind what begins with this `<`.
fn behind_tag(text: &str, at: usize) -> usize {
    let bytes = text.as_bytes();
    let rest = bytes.get(at..).unwrap_or_default();
    let behind =
        |end: &[u8]| memmem::find(rest, end).map_or(bytes.len(), |found| at + found + end.len());
    match rest {
        [b'<', b'!', b'-', b'-', ..] => behind(b"-->"),
        // Marks that a word processor puts before list paragraphs.
        _ if text.get(at..).is_some_and(|rest| rest.starts_with("<![if !supportLists")) => {
            behind(b"<![endif]>")
        }
        [b'<', b'!' | b'?', ..] => behind(b">"),
        [b'<', b'/', ..] => behind(b">"),
        [b'<', first, ..] if first.is_ascii_alphabetic() => {
            let end = end_of_tag(bytes, at);
            let name = tag_name(text, at + 1);
            let is_mark = is_mark(name, text.get(at..end).unwrap_or_default());
            let hidden = WITHOUT_TEXT.iter().find(|known| name.eq_ignore_ascii_case(known));
            let hidden = hidden.copied().or(is_mark.then_some(name));
            hidden.map_or(end, |name| end_of_element(bytes, end, name))
        }
        _ => at + 1,
    }
}

/// The marks of notes and of list paragraphs, and the ways back to notes, are counted anew.
fn is_mark(name: &str, tag: &str) -> bool {
    const NOTES: [&str; 7] = [
        "doc-noteref",
        "doc-backlink",
        "mso-footnote-id",
        "mso-endnote-id",
        "msocomanchor",
        "#_ftnref",
        "#_ednref",
    ];
    match name {
        "a" => NOTES.iter().any(|word| tag.contains(word)),
        "span" => tag.contains("mso-list:Ignore"),
        _ => false,
    }
}

fn tag_name(text: &str, from: usize) -> &str {
    let rest = text.get(from..).unwrap_or_default();
    rest.split(|c: char| !c.is_ascii_alphanumeric()).next().unwrap_or_default()
}

/// A quoted value may hold `>`.
pub(in crate::account) fn end_of_tag(bytes: &[u8], at: usize) -> usize {
    let mut quote = None;
    for (offset, byte) in bytes.get(at..).unwrap_or_default().iter().enumerate() {
        match (quote, byte) {
            (None, b'>') => return at + offset + 1,
            (None, b'"' | b'\'') => {
                let is_value = bytes.get(..at + offset).is_some_and(|before| {
                    before.iter().rev().find(|b| !b.is_ascii_whitespace()) == Some(&b'=')
                });
                quote = is_value.then_some(*byte);
            }
            (Some(open), byte) if *byte == open => quote = None,
            _ => {}
        }
    }
    bytes.len()
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
