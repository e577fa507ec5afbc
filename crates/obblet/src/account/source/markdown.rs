//! What is surely markup where nothing of a Markdown source was read.

use super::super::align::Aligned;
use super::super::strays::Strays;
use super::page::end_of_tag;
use super::{Bytes, lines, reach_between, regions_with_gaps};
use memchr::memmem;
use std::ops::Range;

/// Bytes of the longest address that is looked for; pictures in addresses are cut off.
const LONGEST_ADDRESS: usize = 1 << 12;
/// Parentheses that are open in an address and around it; no reader takes more.
const MOST_PARENTHESES: usize = 34;

/// Where there may be words: everywhere but in the addresses of links and in comments.
pub(in crate::account) fn slices(text: &str) -> Vec<Range<usize>> {
    let mut slices = Vec::new();
    let mut from = 0;
    let mut passed_over = |start: usize, end: Option<usize>| {
        if let Some(end) = end.filter(|_| start >= from) {
            slices.push(from..start);
            from = end;
        }
    };
    let addresses = memmem::find_iter(text.as_bytes(), "](").map(|at| at + 2);
    let comments = memmem::find_iter(text.as_bytes(), "<!--");
    let mut comments = comments.peekable();
    // No comment ends after this.
    let last_end = memmem::rfind(text.as_bytes(), b"-->").unwrap_or(0);
    for start in addresses.chain(std::iter::once(text.len())) {
        while let Some(comment) = comments.next_if(|comment| *comment < start) {
            let end = (comment < last_end).then(|| end_of_comment(text, comment));
            passed_over(comment, end.flatten());
        }
        passed_over(start, end_of_address(text, start));
    }
    slices.push(from..text.len());
    slices
}

fn end_of_comment(text: &str, start: usize) -> Option<usize> {
    let rest = text.as_bytes().get(start..)?;
    memmem::find(rest, b"-->").map(|end| start + end + 3)
}

/// Behind the address and the title in parentheses, if they end on this line or the next one.
fn end_of_address(text: &str, start: usize) -> Option<usize> {
    let mut depth = 1_usize;
    let mut lines = 0;
    for (at, byte) in text.as_bytes().iter().enumerate().skip(start).take(LONGEST_ADDRESS) {
        match byte {
            b'(' => depth += 1,
            b')' => depth -= 1,
            b'\n' => lines += 1,
            _ => {}
        }
        if depth == 0 || lines > 2 || depth > MOST_PARENTHESES {
            return (depth == 0).then_some(at);
        }
    }
    None
}

/// Says of list marks that they are markup.
pub(in crate::account) fn reach_list_marks(text: &str, aligned: &mut Aligned<'_>) {
    for region in regions_with_gaps(text, aligned) {
        for (at, line) in lines(text, &region) {
            reach_list_mark(at, line, aligned);
        }
    }
}

/// Takes note of the markup around words that were not reached. A word that was found in a tag, though it
/// stands in the text, goes to `mistaken`.
pub(in crate::account) fn reach_markup(
    text: &str,
    aligned: &mut Aligned<'_>,
    mistaken: &mut Strays,
) {
    reach_front_matter(text, aligned);
    for region in regions_with_gaps(text, aligned) {
        let bytes = Bytes::of(text, &region);
        for open in ["][", "[^", "[!", "[x", "[X"] {
            if bytes.may_have(open) {
                reach_between(text, &region, (open, "]"), aligned);
            }
        }
        reach_attributes(text, &region, aligned);
        reach_tags(text, &region, aligned, mistaken);
        reach_references(text, &region, aligned);
        let mut is_open = false;
        for (at, line) in lines(text, &region) {
            // The address of a definition may stand on the line behind its label.
            if is_open {
                aligned.reach(at..at + line.len());
            }
            is_open = reach_line(at, line, aligned);
        }
    }
}

/// Fields at the head of the file are said of the document.
fn reach_front_matter(text: &str, aligned: &mut Aligned<'_>) {
    for fence in ["---", "+++"] {
        let Some(rest) = text.strip_prefix(fence) else { continue };
        if rest.starts_with(['\n', ' '])
            && let Some(end) = rest.find(&format!("\n{fence}"))
        {
            aligned.reach(0..fence.len() + end + 1 + fence.len());
        }
    }
}

fn reach_tags(text: &str, region: &Range<usize>, aligned: &mut Aligned<'_>, mistaken: &mut Strays) {
    let mut at = region.start;
    while let Some(found) = text.get(at..region.end).and_then(|rest| rest.find('<')) {
        let start = at + found;
        let next = text.as_bytes().get(start + 1).copied().unwrap_or_default();
        at = start + 1;
        if next.is_ascii_alphabetic() || matches!(next, b'/' | b'?' | b'!') {
            let end = end_of_tag(text.as_bytes(), start).min(region.end);
            mistaken.add_reached(aligned, start..end);
            aligned.reach(start..end);
            at = end.max(at);
        }
    }
}

/// `{#id .class key=value}`
fn reach_attributes(text: &str, region: &Range<usize>, aligned: &mut Aligned<'_>) {
    let mut at = region.start;
    while let Some(found) = text.get(at..region.end).and_then(|rest| rest.find('{')) {
        let start = at + found;
        at = start + 1;
        let Some(inside) = text.get(at..region.end).and_then(|rest| rest.split('}').next()) else {
            continue;
        };
        let is_attributes = inside.starts_with(['#', '.', ':']) || inside.contains('=');
        if is_attributes && !inside.contains(['\\', '\n']) {
            aligned.reach(start..at + inside.len());
        }
    }
}

/// Takes note of the character references of a page.
pub(in crate::account) fn reach_references_of(text: &str, aligned: &mut Aligned<'_>) {
    for region in regions_with_gaps(text, aligned) {
        reach_references(text, &region, aligned);
    }
}

/// `&eacute;`
fn reach_references(text: &str, region: &Range<usize>, aligned: &mut Aligned<'_>) {
    let mut at = region.start;
    while let Some(found) = text.get(at..region.end).and_then(|rest| rest.find('&')) {
        let start = at + found;
        let rest = text.as_bytes().get(start + 1..region.end).unwrap_or_default();
        let is_name = |byte: &u8| byte.is_ascii_alphanumeric() || *byte == b'#';
        let length = rest.iter().take_while(|byte| is_name(byte)).count();
        if rest.get(length) == Some(&b';') {
            aligned.reach(start..start + length + 2);
        }
        at = start + 1;
    }
}

/// Says whether a definition goes on with the next line.
fn reach_line(at: usize, line: &str, aligned: &mut Aligned<'_>) -> bool {
    let inner = line.trim_start_matches([' ', '\t', '>']);
    let start = at + line.len() - inner.len();
    let is_fence = ["```", "~~~", ":::"].iter().any(|mark| inner.starts_with(mark));
    let is_definition = (inner.starts_with('[') || inner.starts_with("*[")) && inner.contains("]:");
    if is_fence || is_definition {
        let label = inner.find("]:").filter(|_| is_definition && inner.starts_with("[^"));
        // A note's text stands behind its label.
        aligned.reach(start..label.map_or(at + line.len(), |label| start + label));
        return is_definition && inner.trim_end().ends_with("]:");
    }
    reach_list_mark(at, line, aligned);
    false
}

/// `1.`, `a)`, `iv.`
fn reach_list_mark(at: usize, line: &str, aligned: &mut Aligned<'_>) {
    let inner = line.trim_start_matches([' ', '\t', '>', '(', '[']);
    let start = at + line.len() - inner.len();
    let length = inner.bytes().take_while(u8::is_ascii_alphanumeric).count();
    let is_mark = matches!(inner.as_bytes().get(length), Some(b'.' | b')' | b']'));
    let is_number = inner.bytes().take(length).all(|byte| byte.is_ascii_digit());
    if is_mark && (is_number || length < 4) {
        aligned.reach(start..start + length);
    }
}
