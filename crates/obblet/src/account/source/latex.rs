//! What is surely markup where nothing of a LaTeX source was read: comments, the preamble, names of
//! commands and environments, options, and arguments that name things.

use super::super::align::Aligned;
use super::{lines, reach_between, regions_with_gaps};
use memchr::memmem;
use std::ops::Range;

/// Commands whose arguments are no text, beginning with any of these words.
const NAMING: [&str; 47] = [
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
    "rule",
    "hyper",
    "href",
    "url",
    "gls",
    "pagestyle",
    "thispagestyle",
    "sbox",
    "savebox",
    "message",
    "special",
    "typeout",
    "discretionary",
];

/// Commands of TeX that numbers and lengths stand behind, without braces.
const MEASURED: [&str; 45] = [
    "accent",
    "advance",
    "box",
    "char",
    "closein",
    "closeout",
    "copy",
    "count",
    "dimen",
    "dp",
    "hangafter",
    "hangindent",
    "hbox",
    "hfuzz",
    "hrule",
    "hsize",
    "hskip",
    "ht",
    "insert",
    "kern",
    "looseness",
    "lower",
    "magstep",
    "moveleft",
    "moveright",
    "multiply",
    "openout",
    "parindent",
    "parskip",
    "penalty",
    "raise",
    "setbox",
    "skip",
    "toks",
    "tolerance",
    "unhbox",
    "unvbox",
    "vbox",
    "vglue",
    "vrule",
    "vsize",
    "vskip",
    "vtop",
    "wd",
    "write",
];

/// Those of them with text that stands elsewhere or nowhere.
const KEPT_APART: [&str; 3] = ["setbox", "toks", "write"];

/// Commands of which so many groups are no text, before the one that is: measures, angles, colours.
const MEASURED_FIRST: [(&str, usize); 13] = [
    ("scalebox", 1),
    ("resizebox", 2),
    ("rotatebox", 1),
    ("raisebox", 1),
    ("parbox", 1),
    ("makebox", 0),
    ("framebox", 0),
    ("colorbox", 1),
    ("textcolor", 1),
    ("fontsize", 2),
    ("multicolumn", 2),
    ("multirow", 2),
    // A condition chooses one of two; the other one is for another case.
    ("ifthenelse", 3),
];

/// The words and units of lengths.
const OF_LENGTHS: [&str; 22] = [
    "at", "bp", "by", "cm", "depth", "em", "ex", "fil", "fill", "filll", "height", "in", "minus",
    "mm", "pc", "plus", "pt", "scaled", "sp", "spread", "to", "width",
];

/// Those whose arguments may be long: what a macro means.
const DEFINING: [&str; 8] = [
    "def",
    "gdef",
    "edef",
    "xdef",
    "newcommand",
    "renewcommand",
    "providecommand",
    "newenvironment",
];

/// Bytes of the longest arguments that are passed over.
const LONGEST: usize = 1 << 10;
const LONGEST_DEFINITION: usize = 1 << 16;
/// Bytes of looking for each byte of the text.
const SEARCHED: usize = 4;

/// Takes note of the markup around words that were not reached.
pub(in crate::account) fn reach_markup(text: &str, aligned: &mut Aligned<'_>) {
    if let Some(body) = text.find("\\begin{document}") {
        aligned.reach(0..body);
    }
    reach_false_branches(text, aligned);
    // What is looked at for definitions together, so that time stays linear.
    let mut budget = text.len() * SEARCHED;
    for region in regions_with_gaps(text, aligned) {
        for (at, line) in lines(text, &region) {
            reach_comment(at, line, aligned);
        }
        reach_commands(text, &region, &mut budget, aligned);
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

/// `\iffalse … \fi`: what an author took out.
fn reach_false_branches(text: &str, aligned: &mut Aligned<'_>) {
    let bytes = text.as_bytes();
    let mut at = 0;
    while let Some(found) = bytes.get(at..).and_then(|rest| memmem::find(rest, b"\\iffalse")) {
        let start = at + found;
        let Some(end) = end_of_condition(bytes, start + 8) else { return };
        aligned.reach(start..end);
        at = end;
    }
}

/// Behind the `\fi` that ends a condition; conditions in it have their own.
fn end_of_condition(bytes: &[u8], from: usize) -> Option<usize> {
    let mut depth = 1_usize;
    for sign in memchr::memchr_iter(b'\\', bytes.get(from..)?).map(|sign| from + sign) {
        let name = bytes.get(sign + 1..)?;
        let length = name.iter().take_while(|byte| byte.is_ascii_alphabetic()).count();
        match name.get(..length)? {
            b"fi" => depth -= 1,
            name if name.starts_with(b"if") && name != b"ifthenelse" => depth += 1,
            _ => {}
        }
        if depth == 0 {
            return Some(sign + 1 + length);
        }
    }
    None
}

fn reach_commands(
    text: &str,
    region: &Range<usize>,
    budget: &mut usize,
    aligned: &mut Aligned<'_>,
) {
    let bytes = text.as_bytes();
    let mut at = region.start;
    while let Some(found) = text.get(at..region.end).and_then(|rest| rest.find('\\')) {
        let start = at + found;
        let rest = bytes.get(start + 1..region.end).unwrap_or_default();
        let is_name = |byte: &&u8| byte.is_ascii_alphabetic() || **byte == b'@' || **byte == b'*';
        let length = rest.iter().take_while(is_name).count();
        let mut end = start + 1 + length.max(1);
        let name = text.get(start + 1..start + 1 + length).unwrap_or_default();
        let first = name.as_bytes().first();
        let is_it = |known: &str| known.as_bytes().first() == first && known == name;
        let begins = |known: &str| known.as_bytes().first() == first && name.starts_with(known);
        if name == "font" {
            let behind = end_of_file_name(bytes, behind_name(bytes, end), region.end);
            end = end_of_length(bytes, behind, region.end);
        } else if MEASURED.iter().any(|known| is_it(known)) {
            end = end_of_length(bytes, behind_name(bytes, end), region.end);
            if KEPT_APART.contains(&name) {
                let behind = end_of_length(bytes, behind_name(bytes, end), region.end);
                end = end_of_arguments(bytes, behind, region.end.min(end + LONGEST)).0;
            }
        } else if let Some((_, groups)) = MEASURED_FIRST.iter().find(|(known, _)| is_it(known)) {
            end = end_of_groups(bytes, end, region.end, *groups);
        } else if NAMING.iter().any(|known| begins(known)) {
            let from = behind_name(bytes, end);
            let limit = match DEFINING.contains(&name) {
                true => bytes.len().min(end + LONGEST_DEFINITION.min(*budget)),
                false => region.end.min(end + LONGEST),
            };
            let (behind, looked_at) = end_of_arguments(bytes, from, limit);
            end = behind;
            *budget = budget.saturating_sub(looked_at);
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

/// Behind the name of a file without braces.
fn end_of_file_name(bytes: &[u8], from: usize, limit: usize) -> usize {
    let rest = bytes.get(from..limit).unwrap_or_default();
    let is_part = |byte: &&u8| byte.is_ascii_alphanumeric() || b"=-_./:".contains(byte);
    from + rest.iter().take_while(is_part).count()
}

/// Behind a number, or a length with its units and words, as TeX itself takes them.
fn end_of_length(bytes: &[u8], from: usize, limit: usize) -> usize {
    let mut at = from;
    while let Some(byte) = bytes.get(at).filter(|_| at < limit) {
        let rest = bytes.get(at..limit).unwrap_or_default();
        let word = rest.iter().take_while(|byte| byte.is_ascii_lowercase()).count();
        at += match byte {
            b' ' | b'=' | b'-' | b'+' | b'.' | b'0'..=b'9' => 1,
            b'a'..=b'z'
                if OF_LENGTHS.iter().any(|known| rest.get(..word) == Some(known.as_bytes())) =>
            {
                word
            }
            _ => break,
        };
    }
    at
}

/// Behind the options that follow, and so many groups.
fn end_of_groups(bytes: &[u8], from: usize, limit: usize, groups: usize) -> usize {
    let mut end = from;
    let mut left = groups;
    loop {
        let rest = bytes.get(end..limit).unwrap_or_default();
        let space = rest.iter().take_while(|byte| byte.is_ascii_whitespace()).count();
        match rest.get(space) {
            Some(b'[' | b'(') => {}
            Some(b'{') if left > 0 => left -= 1,
            _ => return end,
        }
        let mut depth = 0_usize;
        let closes = |byte: &u8| {
            match byte {
                b'{' | b'[' | b'(' => depth += 1,
                b'}' | b']' | b')' => depth = depth.saturating_sub(1),
                _ => {}
            }
            depth == 0
        };
        match rest.iter().skip(space).position(closes) {
            Some(length) => end += space + length + 1,
            None => return end,
        }
    }
}

/// Behind the groups in braces and brackets that follow, and how many bytes were looked at for that.
fn end_of_arguments(bytes: &[u8], from: usize, limit: usize) -> (usize, usize) {
    let mut end = from;
    let mut looked_at = 0;
    let mut depth = 0_usize;
    for (at, byte) in bytes.iter().enumerate().take(limit).skip(from) {
        looked_at += 1;
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
    (end, looked_at)
}
