//! Going through one text, and the scanners that need nothing but the text.

use super::entities::unescape;
use super::html_scan::RawScan;
use super::inlines::{LinkTarget, TargetKind};
use super::link_parts::{destination, skip_space, title};
use super::text::LeafText;
use crate::document::{Attributes, CompactString, Inline, Link, Place};
use crate::formats::markdown::{Switch, Switches};
use crate::work;
use std::collections::HashMap;
use std::ops::Range;

/// The state of going through one text.
pub(super) struct Scan<'t> {
    pub(super) text: &'t str,
    pub(super) leaf: LeafText<'t>,
    pub(super) raw: RawScan,
    pub(super) at: usize,
    /// The next character at which something may begin, as far as it was looked for: addresses may come before.
    pub(super) special_at: usize,
    /// The next bare address, by its number.
    pub(super) next_address: usize,
    /// Where the last backtick run of each length starts, once a search has failed. That keeps a
    /// text of many unpaired runs linear.
    last_backticks: Option<HashMap<usize, usize>>,
    /// Where no single and no double dollar closes a formula, once a search has failed.
    no_dollars_in: [Range<usize>; 2],
}

impl<'t> Scan<'t> {
    pub(super) fn new(text: &'t str, leaf: LeafText<'t>) -> Self {
        let raw = RawScan::default();
        Self {
            text,
            leaf,
            raw,
            at: 0,
            special_at: 0,
            next_address: 0,
            last_backticks: None,
            no_dollars_in: [0..0, 0..0],
        }
    }

    /// The start of the next run of exactly this many backticks.
    pub(super) fn closing_backticks(&mut self, from: usize, length: usize) -> Option<usize> {
        if let Some(last) = &self.last_backticks
            && last.get(&length).is_none_or(|start| *start < from)
        {
            return None;
        }
        let found = backtick_runs(self.bytes(), from).find(|(_, run)| *run == length);
        if found.is_none() && self.last_backticks.is_none() {
            let runs = backtick_runs(self.bytes(), 0);
            self.last_backticks = Some(runs.map(|(start, run)| (run, start)).collect());
        }
        found.map(|(start, _)| start)
    }

    pub(super) fn bytes(&self) -> &'t [u8] {
        self.text.as_bytes()
    }

    /// The byte this far behind the position.
    pub(super) fn peek(&self, ahead: usize) -> Option<u8> {
        self.bytes().get(self.at + ahead).copied()
    }

    /// The dollars that close a formula. A search that found none is not made again.
    pub(super) fn closing_dollars(&mut self, from: usize, width: usize) -> Option<usize> {
        let known = self.no_dollars_in.get(width - 1)?;
        if known.contains(&from) {
            return None;
        }
        let bytes = self.bytes();
        let is_space = |at: usize| bytes.get(at).is_none_or(u8::is_ascii_whitespace);
        if width == 1 && is_space(from) {
            return None;
        }
        let mut at = from;
        let mut none_until = usize::MAX;
        while let Some(found) = memchr::memchr2(b'$', b'\\', bytes.get(at..)?) {
            work::count(1);
            let here = at + found;
            if bytes.get(here) == Some(&b'\\') {
                at = here + 2;
                continue;
            }
            let length = run_length(bytes, here, b'$');
            // A variable of a shell, such as `${name}`: what stands before it is no formula either.
            if width == 1 && length == 1 && bytes.get(here + 1) == Some(&b'{') {
                none_until = here;
                break;
            }
            let is_price = width == 1
                && (is_space(here - 1) || bytes.get(here + 1).is_some_and(u8::is_ascii_digit));
            if length == width && here > from && !is_price {
                return Some(here);
            }
            at = here + length;
        }
        if let Some(known) = self.no_dollars_in.get_mut(width - 1) {
            *known = from..none_until;
        }
        None
    }

    pub(super) fn skip_spaces(&mut self) {
        while self.bytes().get(self.at) == Some(&b' ') {
            self.at += 1;
        }
    }

    pub(super) fn place(&self, range: Range<usize>) -> Place {
        Place::new(self.leaf.in_source(range.start), self.leaf.in_source(range.end))
    }
}

/// The bytes at which something other than text may begin, in a dialect.
pub(super) fn special_bytes(switches: Switches) -> [bool; 256] {
    let mut table = [false; 256];
    let mut mark = |bytes: &[u8]| bytes.iter().for_each(|byte| table[usize::from(*byte)] = true);
    mark(b"\n\\`*_[]!<&");
    for (switch, bytes) in [
        (Switch::Strikethrough, &b"~"[..]),
        (Switch::Scripts, b"^~"),
        (Switch::Footnotes, b"^"),
        (Switch::Highlight, b"="),
        (Switch::Insertion, b"+"),
        (Switch::Math, b"$"),
        (Switch::SmartPunctuation, b"\"'-."),
    ] {
        if switches.has(switch) {
            mark(bytes);
        }
    }
    table
}

/// The backtick runs from a position on: where each starts, and its length.
pub(super) fn backtick_runs(
    bytes: &[u8],
    from: usize,
) -> impl Iterator<Item = (usize, usize)> + '_ {
    let mut at = from;
    std::iter::from_fn(move || {
        work::count(1);
        let start = at + memchr::memchr(b'`', bytes.get(at..)?)?;
        let length = run_length(bytes, start, b'`');
        at = start + length;
        Some((start, length))
    })
}

pub(super) fn run_length(bytes: &[u8], at: usize, wanted: u8) -> usize {
    let tail = bytes.get(at..).unwrap_or_default();
    tail.iter().take_while(|byte| **byte == wanted).count()
}

/// `(address "title")` at a position.
pub(super) fn inline_target(
    scan: &Scan<'_>,
    kind: TargetKind,
    at: usize,
) -> Option<(LinkTarget, usize)> {
    let bytes = scan.bytes();
    if bytes.get(at) != Some(&b'(') {
        return None;
    }
    let start = skip_space(bytes, at + 1);
    let (address, behind) = destination(bytes, start)?;
    let next = skip_space(bytes, behind);
    let titled = if next > behind { title(bytes, next) } else { None };
    let (title, end) = match titled {
        Some((inside, behind)) => {
            (Some(unescape(scan.text.get(inside)?).into()), skip_space(bytes, behind))
        }
        None => (None, next),
    };
    if bytes.get(end) != Some(&b')') {
        return None;
    }
    let address = unescape(scan.text.get(address)?).into();
    Some((LinkTarget { kind, address, title, attributes: Attributes::NONE }, end + 1))
}

/// CommonMark 6.5: an absolute address or a mail address in angle brackets. Gives the range
/// between them and what goes before it.
pub(super) fn angle_address(text: &str, at: usize) -> Option<(Range<usize>, &'static str)> {
    let bytes = text.as_bytes();
    let start = at + 1;
    if !bytes.get(start)?.is_ascii_alphanumeric() && !MAIL_MARKS.contains(bytes.get(start)?) {
        return None;
    }
    let tail = bytes.get(start..)?;
    let length = tail.iter().position(|byte| b"<> \n".contains(byte) || byte.is_ascii_control())?;
    if tail.get(length) != Some(&b'>') {
        return None;
    }
    let range = start..start + length;
    let inside = text.get(range.clone())?;
    if is_absolute_address(inside) {
        Some((range, ""))
    } else if is_mail_address(inside) {
        Some((range, "mailto:"))
    } else {
        None
    }
}

/// A scheme of 2 to 32 characters, a colon, and anything.
pub(super) fn is_absolute_address(text: &str) -> bool {
    let Some((scheme, _)) = text.split_once(':') else { return false };
    (2..=32).contains(&scheme.len())
        && scheme.starts_with(|c: char| c.is_ascii_alphabetic())
        && scheme.bytes().all(|b| b.is_ascii_alphanumeric() || b"+.-".contains(&b))
}

const MAIL_MARKS: &[u8] = b".!#$%&'*+/=?^_`{|}~-";

/// The form that HTML's `input type=email` takes.
pub(super) fn is_mail_address(text: &str) -> bool {
    let Some((local, domain)) = text.split_once('@') else { return false };
    let is_label = |label: &str| {
        (1..=63).contains(&label.len())
            && !label.starts_with('-')
            && !label.ends_with('-')
            && label.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'-')
    };
    !local.is_empty()
        && local.bytes().all(|byte| byte.is_ascii_alphanumeric() || MAIL_MARKS.contains(&byte))
        && domain.split('.').all(is_label)
}

pub(super) fn plain_link(address: CompactString, shown: &str) -> Inline {
    Inline::Link(Box::new(Link {
        address,
        title: None,
        content: vec![shown.into()],
        attributes: Attributes::NONE,
    }))
}
