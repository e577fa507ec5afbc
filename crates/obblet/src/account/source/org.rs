//! What is surely markup where nothing of an Org source was read.

use super::super::align::Aligned;
use super::{Bytes, lines, reach_between, regions_with_gaps};
use memchr::{memchr, memmem};
use std::ops::Range;

/// The endings of files that are pictures.
const PICTURES: [&str; 7] = ["png", "svg", "jpg", "jpeg", "gif", "webp", "pdf"];

/// Where there may be words: everywhere but in the targets of links that show other words.
pub(in crate::account) fn slices(text: &str) -> Vec<Range<usize>> {
    let mut slices = Vec::new();
    let mut from = 0;
    let mut ends = memmem::find_iter(text.as_bytes(), "]]").peekable();
    let mut brackets = memmem::find_iter(text.as_bytes(), "][").peekable();
    while let Some(bracket) = brackets.next() {
        while ends.next_if(|end| *end <= bracket).is_some() {}
        // A link that never ends is none.
        let behind = brackets.peek().copied().unwrap_or(text.len());
        if ends.peek().is_none_or(|end| *end > behind) {
            continue;
        }
        let line = text.get(from..bracket).unwrap_or_default();
        let line = line.rfind('\n').map_or(from, |end| from + end + 1);
        let Some(open) = text.get(line..bracket).and_then(|line| line.rfind("[[")) else {
            continue;
        };
        slices.push(from..line + open);
        from = bracket;
    }
    slices.push(from..text.len());
    slices
}

/// Takes note of the markup around words that were not reached.
pub(in crate::account) fn reach_markup(text: &str, aligned: &mut Aligned<'_>) {
    let works = ("#+begin_src bibtex", "#+end_src");
    reach_between(text, &(0..text.len()), works, aligned);
    for region in regions_with_gaps(text, aligned) {
        let bytes = Bytes::of(text, &region);
        for signs in [
            ("[[", "]"),
            ("{{{", "}}}"),
            ("[fn:", "]"),
            ("<<", ">>"),
            ("@@", ":"),
            ("[cite", "]"),
            ("[X", "]"),
            ("[x", "]"),
            ("\\begin{", "}"),
            ("\\end{", "}"),
            ("\\label{", "}"),
            ("[@", "]"),
            ("src_", "{"),
            ("call_", ")"),
        ] {
            if bytes.may_have(signs.0) {
                reach_between(text, &region, signs, aligned);
            }
        }
        for (at, line) in lines(text, &region) {
            reach_line(text, at, line, aligned);
        }
    }
}

fn reach_line(text: &str, at: usize, line: &str, aligned: &mut Aligned<'_>) {
    let inner = line.trim_start();
    let start = at + line.len() - inner.len();
    let whole = start..at + line.len();
    let is_setting = inner.starts_with("#+") || inner.starts_with("# ");
    let is_field = inner.starts_with(':') && inner.get(1..).is_some_and(|rest| rest.contains(':'));
    let is_planning =
        ["SCHEDULED:", "DEADLINE:", "CLOSED:", "CLOCK:"].iter().any(|word| inner.starts_with(word));
    if is_setting || is_field || is_planning || inner.starts_with("%%(") {
        return aligned.reach(whole);
    }
    let digits = inner.bytes().take_while(u8::is_ascii_alphanumeric).count();
    let is_mark = matches!(inner.as_bytes().get(digits), Some(b'.' | b')')) && digits < 4;
    if is_mark {
        aligned.reach(start..start + digits);
    }
    reach_between(text, &(at..at + line.len()), ("<", ">"), aligned);
    reach_entities(at, line, aligned);
    reach_pictures(at, line, aligned);
    if inner.starts_with('*') {
        reach_heading(start, inner, aligned);
    }
}

/// `\alpha`
fn reach_entities(at: usize, line: &str, aligned: &mut Aligned<'_>) {
    for (sign, _) in line.match_indices('\\') {
        let name = line.as_bytes().iter().skip(sign + 1);
        let length = name.take_while(|byte| byte.is_ascii_alphanumeric()).count();
        aligned.reach(at + sign..at + sign + 1 + length);
    }
}

/// Addresses of pictures, which show no words.
fn reach_pictures(at: usize, line: &str, aligned: &mut Aligned<'_>) {
    // Most lines have no colon.
    if memchr(b':', line.as_bytes()).is_none() {
        return;
    }
    let signs = |c: char| c.is_whitespace() || matches!(c, '[' | ']' | '<' | '>' | '|');
    let mut from = at;
    for part in line.split_inclusive(signs) {
        let start = from;
        from += part.len();
        let token = part.trim_end_matches(signs);
        let ending = token.contains(':').then(|| token.rsplit('.').next()).flatten();
        let is_picture = |ending: &str| PICTURES.iter().any(|it| ending.eq_ignore_ascii_case(it));
        if ending.is_some_and(is_picture) {
            aligned.reach(start..start + token.len());
        }
    }
}

/// The keyword of a task, its priority, its tags.
fn reach_heading(start: usize, inner: &str, aligned: &mut Aligned<'_>) {
    let words = inner.trim_start_matches('*').trim_start();
    let from = start + inner.len() - words.len();
    let first = words.split_whitespace().next().unwrap_or_default();
    if !first.is_empty() && first.chars().all(|c| c.is_uppercase() || c == '-') {
        aligned.reach(from..from + first.len());
    }
    let line = inner.trim_end();
    if words.trim_end() == "Footnotes" {
        aligned.reach(from..start + line.len());
    }
    if line.ends_with(':')
        && let Some(tags) = line.rfind([' ', '\t']).map(|space| space + 1)
        && line.get(tags..).is_some_and(|tags| tags.starts_with(':'))
    {
        aligned.reach(start + tags..start + line.len());
    }
}
