//! What is surely markup where nothing of a LaTeX source was read: comments, the preamble, names of
//! commands and environments, options, and arguments that name things.

use super::super::align::Aligned;
use super::{lines, reach_between, regions_with_gaps};
use std::ops::Range;

/// Commands whose arguments are no text, beginning with any of these words.
const NAMING: [&str; 42] = [
    "ref",
    "eqref",
    "pageref",
    "autoref",
    "cref",
    "Cref",
    "label",
    "cite",
    "Cite",
    "nocite",
    "parencite",
    "textcite",
    "footcite",
    "input",
    "include",
    "bibliography",
    "usepackage",
    "RequirePackage",
    "documentclass",
    "set",
    "new",
    "renew",
    "provide",
    "def",
    "let",
    "edef",
    "gdef",
    "hspace",
    "vspace",
    "index",
    "begin",
    "end",
    "add",
    "color",
    "fontsize",
    "rule",
    "hyper",
    "href",
    "url",
    "gls",
    "pagestyle",
    "thispagestyle",
];

/// Bytes of the longest arguments that are passed over.
const LONGEST: usize = 1 << 10;

/// Takes note of the markup around words that were not reached.
pub(in crate::account) fn reach_markup(text: &str, aligned: &mut Aligned<'_>) {
    if let Some(body) = text.find("\\begin{document}") {
        aligned.reach(0..body);
    }
    for region in regions_with_gaps(text, aligned) {
        for (at, line) in lines(text, &region) {
            reach_comment(at, line, aligned);
        }
        reach_commands(text, &region, aligned);
        reach_between(text, &region, ("[", "]"), aligned);
    }
}

fn reach_comment(at: usize, line: &str, aligned: &mut Aligned<'_>) {
    let bytes = line.as_bytes();
    let is_comment =
        |sign: &usize| sign.checked_sub(1).and_then(|at| bytes.get(at)) != Some(&b'\\');
    if let Some(sign) = memchr::memchr_iter(b'%', bytes).find(is_comment) {
        aligned.reach(at + sign..at + line.len());
    }
}

fn reach_commands(text: &str, region: &Range<usize>, aligned: &mut Aligned<'_>) {
    let bytes = text.as_bytes();
    let mut at = region.start;
    while let Some(found) = text.get(at..region.end).and_then(|rest| rest.find('\\')) {
        let start = at + found;
        let rest = bytes.get(start + 1..region.end).unwrap_or_default();
        let is_name = |byte: &&u8| byte.is_ascii_alphabetic() || **byte == b'@' || **byte == b'*';
        let length = rest.iter().take_while(is_name).count();
        let mut end = start + 1 + length.max(1);
        let name = text.get(start + 1..start + 1 + length).unwrap_or_default();
        if NAMING.iter().any(|known| name.starts_with(known)) {
            end = end_of_arguments(bytes, behind_name(bytes, end), region.end.min(end + LONGEST));
        }
        aligned.reach(start..end.min(text.len()));
        at = floor(text, end.max(start + 1));
    }
}

fn floor(text: &str, mut at: usize) -> usize {
    while at < text.len() && !text.is_char_boundary(at) {
        at += 1;
    }
    at
}

/// Behind the name of what is defined: `\def\name`.
fn behind_name(bytes: &[u8], from: usize) -> usize {
    let rest = bytes.get(from..).unwrap_or_default();
    match rest.first() {
        Some(b'\\') => {
            let is_name = |byte: &&u8| byte.is_ascii_alphabetic() || **byte == b'@';
            from + 1 + rest.iter().skip(1).take_while(is_name).count()
        }
        _ => from,
    }
}

/// Behind the groups in braces and brackets that follow.
fn end_of_arguments(bytes: &[u8], from: usize, limit: usize) -> usize {
    let mut end = from;
    let mut depth = 0_usize;
    for (at, byte) in bytes.iter().enumerate().take(limit).skip(from) {
        match byte {
            b'{' | b'[' => depth += 1,
            b'}' | b']' => {
                depth = depth.saturating_sub(1);
                if depth == 0 {
                    end = at + 1;
                }
            }
            b'\\' | b'#' | b'=' if depth == 0 => {}
            byte if depth == 0 && byte.is_ascii_alphanumeric() => break,
            b'\n' if depth == 0 => break,
            _ => {}
        }
    }
    end
}
