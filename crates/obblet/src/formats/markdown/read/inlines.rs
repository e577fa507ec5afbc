//! The inline pass (CommonMark, appendix "Phase 2: inline structure").
//!
//! A text becomes a flat list of [`Piece`]s: stretches of text, finished inlines, delimiter runs,
//! and the two ends of links. Runs are paired as brackets close and at the end; only then is the
//! tree built, in one go ([`build`](super::inline_build)).

use super::bare_addresses::{BareAddress, bare_addresses};
use super::definitions::Definitions;
use super::delimiters::{Runs, can_open_close};
use super::entities::{character_reference, unescape};
use super::html_scan::{RawScan, with_harmless_tags};
use super::link_parts::{destination, label, skip_space, title};
use super::text::LeafText;
use crate::document::{
    Attributes, CompactString, Foreign, Inline, InlineCode, LineBreak, Link, Place,
};
use crate::findings::{Code, Findings};
use crate::formats::markdown::{Switch, Switches};
use std::collections::HashMap;
use std::ops::Range;

/// One element of the flat list.
#[derive(Debug)]
pub(super) enum Piece {
    /// A stretch of the text.
    Text(Range<usize>),
    /// A `[` or `![` that is text unless it becomes the start of a link.
    Bracket(Range<usize>),
    /// Characters that do not stand in the text as such.
    Characters(CompactString),
    /// A finished inline.
    Leaf(Inline),
    /// A delimiter run, by its number in [`Runs`].
    Run(usize),
    /// The start of a link or picture.
    Open(Box<LinkTarget>),
    /// Its end.
    Close,
}

/// Where a link or picture leads.
#[derive(Debug)]
pub(super) struct LinkTarget {
    pub(super) picture: bool,
    pub(super) address: CompactString,
    pub(super) title: Option<CompactString>,
}

/// A `[` or `![` that may begin a link.
#[derive(Debug)]
struct Bracket {
    /// Its piece.
    piece: usize,
    /// Where the text behind it starts.
    text_start: usize,
    picture: bool,
    /// The last delimiter run before it.
    run_before: Option<usize>,
    /// Another bracket was opened behind it.
    holds_bracket: bool,
}

/// Reads the inlines of text after text; its lists are used again.
pub(super) struct InlineReader<'d> {
    pub(super) switches: Switches,
    definitions: &'d Definitions,
    pub(super) findings: &'d mut Findings,
    /// Bytes that link references may still add.
    expansion: usize,
    pub(super) pieces: Vec<Piece>,
    pub(super) runs: Runs,
    brackets: Vec<Bracket>,
    /// Brackets below this index cannot begin a link: there is a link behind them already.
    inactive_below: usize,
    addresses: Vec<BareAddress>,
}

impl<'d> InlineReader<'d> {
    pub(super) fn new(
        switches: Switches,
        definitions: &'d Definitions,
        findings: &'d mut Findings,
        source_length: usize,
    ) -> Self {
        Self {
            switches,
            definitions,
            findings,
            expansion: source_length.saturating_mul(10).max(100_000),
            pieces: Vec::new(),
            runs: Runs::default(),
            brackets: Vec::new(),
            inactive_below: 0,
            addresses: Vec::new(),
        }
    }

    /// The inlines of a text.
    pub(super) fn read(&mut self, leaf: LeafText<'_>) -> Vec<Inline> {
        let text = leaf.text.trim_end_matches([' ', '\t', '\n']);
        if text.is_empty() {
            return Vec::new();
        }
        let with_addresses = self.switches.has(Switch::BareAddresses);
        if !with_addresses && !text.bytes().any(|byte| SPECIAL[usize::from(byte)]) {
            return vec![Inline::Text(text.into())];
        }
        self.pieces.clear();
        self.runs.clear();
        self.brackets.clear();
        self.inactive_below = 0;
        self.addresses.clear();
        if with_addresses {
            bare_addresses(text, &mut self.addresses);
        }
        let mut scan = Scan::new(text, leaf);
        while scan.at < text.len() {
            self.step(&mut scan);
        }
        self.runs.pair(None);
        self.build(leaf)
    }

    fn step(&mut self, scan: &mut Scan<'_>) {
        let stop = self.next_stop(scan);
        if stop > scan.at {
            self.push_text(scan.at..stop);
            scan.at = stop;
            return;
        }
        if let Some(address) = self.addresses.get(scan.next_address)
            && address.range.start == scan.at
        {
            scan.next_address += 1;
            if self.brackets.is_empty() {
                let address = self.addresses.get(scan.next_address - 1).cloned();
                address.into_iter().for_each(|address| self.push_bare_address(scan, &address));
                return;
            }
        }
        match scan.bytes()[scan.at] {
            b'\n' => self.line_ending(scan),
            b'\\' => self.backslash(scan),
            b'`' => self.backticks(scan),
            byte @ (b'*' | b'_') => self.delimiter_run(scan, byte),
            b'~' if self.switches.has(Switch::Strikethrough) => self.delimiter_run(scan, b'~'),
            b'[' => self.open_bracket(scan, false),
            b'!' if scan.bytes().get(scan.at + 1) == Some(&b'[') => self.open_bracket(scan, true),
            b']' => self.close_bracket(scan),
            b'<' => self.angle(scan),
            b'&' => self.ampersand(scan),
            _ => self.push_character(scan),
        }
    }

    /// The next position at which something other than text may begin.
    fn next_stop(&mut self, scan: &mut Scan<'_>) -> usize {
        let tail = scan.bytes().get(scan.at..).unwrap_or_default();
        let special = tail.iter().position(|byte| SPECIAL[usize::from(*byte)]);
        let special = special.map_or(scan.text.len(), |found| scan.at + found);
        // An address that something else has swallowed is none.
        while self.addresses.get(scan.next_address).is_some_and(|a| a.range.start < scan.at) {
            scan.next_address += 1;
        }
        let address = self.addresses.get(scan.next_address).map(|address| address.range.start);
        address.map_or(special, |address| special.min(address))
    }

    fn push_text(&mut self, range: Range<usize>) {
        if let Some(Piece::Text(last)) = self.pieces.last_mut()
            && last.end == range.start
        {
            last.end = range.end;
        } else {
            self.pieces.push(Piece::Text(range));
        }
    }

    /// The special byte at the position is only itself.
    fn push_character(&mut self, scan: &mut Scan<'_>) {
        self.push_text(scan.at..scan.at + 1);
        scan.at += 1;
    }

    fn push_bare_address(&mut self, scan: &mut Scan<'_>, found: &BareAddress) {
        let shown = scan.text.get(found.range.clone()).unwrap_or_default();
        let address = format!("{}{shown}", found.prefix);
        self.pieces.push(Piece::Leaf(plain_link(address.into(), shown)));
        scan.at = found.range.end;
    }

    /// CommonMark 6.7 and 6.8: two spaces before the line ending make a hard break.
    fn line_ending(&mut self, scan: &mut Scan<'_>) {
        let mut spaces = 0;
        if let Some(Piece::Text(last)) = self.pieces.last_mut() {
            let text = scan.text.as_bytes();
            while last.end > last.start && text.get(last.end - 1) == Some(&b' ') {
                last.end -= 1;
                spaces += 1;
            }
        }
        let kind = if spaces >= 2 { LineBreak::Hard } else { LineBreak::Soft };
        self.pieces.push(Piece::Leaf(Inline::Break(kind)));
        scan.at += 1;
        scan.skip_spaces();
    }

    /// CommonMark 2.4.
    fn backslash(&mut self, scan: &mut Scan<'_>) {
        match scan.bytes().get(scan.at + 1) {
            Some(b'\n') => {
                self.pieces.push(Piece::Leaf(Inline::Break(LineBreak::Hard)));
                scan.at += 2;
                scan.skip_spaces();
            }
            Some(byte) if byte.is_ascii_punctuation() => {
                self.push_text(scan.at + 1..scan.at + 2);
                scan.at += 2;
            }
            _ => self.push_character(scan),
        }
    }

    /// CommonMark 6.1: a run of backticks opens code that a run of the same length closes.
    fn backticks(&mut self, scan: &mut Scan<'_>) {
        let bytes = scan.bytes();
        let length = run_length(bytes, scan.at, b'`');
        let inside = scan.at + length;
        let Some(end) = scan.closing_backticks(inside, length) else {
            self.push_text(scan.at..inside);
            scan.at = inside;
            return;
        };
        let content = scan.text.get(inside..end).unwrap_or_default().replace('\n', " ");
        let padded = content.starts_with(' ')
            && content.ends_with(' ')
            && content.bytes().any(|byte| byte != b' ');
        let content = if padded { &content[1..content.len() - 1] } else { &content };
        let code = InlineCode { text: content.into(), attributes: Attributes::NONE };
        self.pieces.push(Piece::Leaf(Inline::Code(Box::new(code))));
        scan.at = end + length;
    }

    fn delimiter_run(&mut self, scan: &mut Scan<'_>, byte: u8) {
        let length = run_length(scan.bytes(), scan.at, byte);
        let end = scan.at + length;
        let (can_open, can_close) = can_open_close(scan.text, scan.at..end, byte);
        if (can_open || can_close) && !(byte == b'~' && length > 2) {
            let run = self.runs.push(byte, length, can_open, can_close, scan.at);
            self.pieces.push(Piece::Run(run));
        } else {
            self.push_text(scan.at..end);
        }
        scan.at = end;
    }

    fn open_bracket(&mut self, scan: &mut Scan<'_>, picture: bool) {
        let width = if picture { 2 } else { 1 };
        if let Some(before) = self.brackets.last_mut() {
            before.holds_bracket = true;
        }
        self.brackets.push(Bracket {
            piece: self.pieces.len(),
            text_start: scan.at + width,
            picture,
            run_before: self.runs.last(),
            holds_bracket: false,
        });
        self.pieces.push(Piece::Bracket(scan.at..scan.at + width));
        scan.at += width;
    }

    /// CommonMark 6.3: what stands behind `]` decides whether there was a link.
    fn close_bracket(&mut self, scan: &mut Scan<'_>) {
        let Some(bracket) = self.brackets.pop() else { return self.push_character(scan) };
        let active = bracket.picture || self.brackets.len() >= self.inactive_below;
        self.inactive_below = self.inactive_below.min(self.brackets.len());
        let target = if active { self.link_target(scan, &bracket) } else { None };
        let Some((target, end)) = target else { return self.push_character(scan) };
        self.runs.pair(bracket.run_before);
        if !bracket.picture {
            self.inactive_below = self.brackets.len();
        }
        if let Some(piece) = self.pieces.get_mut(bracket.piece) {
            *piece = Piece::Open(Box::new(target));
        }
        self.pieces.push(Piece::Close);
        scan.at = end;
    }

    fn link_target(&mut self, scan: &Scan<'_>, bracket: &Bracket) -> Option<(LinkTarget, usize)> {
        let behind = scan.at + 1;
        inline_target(scan, bracket.picture, behind)
            .or_else(|| self.reference_target(scan, bracket, behind))
    }

    /// A full, collapsed or shortcut reference.
    fn reference_target(
        &mut self,
        scan: &Scan<'_>,
        bracket: &Bracket,
        behind: usize,
    ) -> Option<(LinkTarget, usize)> {
        let full = label(scan.text, behind);
        let (range, end) = match &full {
            Some((range, end)) => (range.clone(), *end),
            None if bracket.holds_bracket => return None,
            None => {
                let collapsed = scan.bytes().get(behind..behind + 2) == Some(b"[]");
                (bracket.text_start..scan.at, behind + if collapsed { 2 } else { 0 })
            }
        };
        // What is no label by its form cannot be one by its definition either.
        let wanted = scan.text.get(range.clone())?;
        if full.is_none() && label(scan.text, bracket.text_start - 1)?.0 != range {
            return None;
        }
        let Some(definition) = self.definitions.get(wanted) else {
            if full.is_some() {
                let place = scan.place(range.start - 1..range.end + 1);
                self.findings.add_about(Code::LinkDefinitionMissing, wanted, Some(place));
            }
            return None;
        };
        let size = definition.address.len() + definition.title.as_ref().map_or(0, |t| t.len());
        let Some(left) = self.expansion.checked_sub(size) else {
            self.findings.add(Code::ExpansionLimit, Some(scan.place(range)));
            return None;
        };
        self.expansion = left;
        let target = LinkTarget {
            picture: bracket.picture,
            address: definition.address.clone(),
            title: definition.title.clone(),
        };
        Some((target, end))
    }

    /// CommonMark 6.5 and 6.6: `<` may begin an address or raw HTML.
    fn angle(&mut self, scan: &mut Scan<'_>) {
        if let Some((range, prefix)) = angle_address(scan.text, scan.at) {
            let shown = scan.text.get(range.clone()).unwrap_or_default();
            let address = format!("{prefix}{shown}");
            self.pieces.push(Piece::Leaf(plain_link(address.into(), shown)));
            scan.at = range.end + 1;
            return;
        }
        let tail = scan.bytes().get(scan.at..).unwrap_or_default();
        let Some(length) = scan.raw.raw_html(tail) else { return self.push_character(scan) };
        let markup = scan.text.get(scan.at..scan.at + length).unwrap_or_default();
        let foreign = self.raw_html(markup.into());
        self.pieces.push(Piece::Leaf(Inline::Foreign(Box::new(foreign))));
        scan.at += length;
    }

    /// Raw HTML as the dialect lets it through.
    pub(super) fn raw_html(&self, markup: String) -> Foreign {
        let harmless = self.switches.has(Switch::HarmlessTags);
        let markup = if harmless { with_harmless_tags(&markup) } else { markup };
        Foreign { format: "html".into(), markup }
    }

    fn ampersand(&mut self, scan: &mut Scan<'_>) {
        let tail = scan.text.get(scan.at..).unwrap_or_default();
        let Some((length, characters)) = character_reference(tail) else {
            return self.push_character(scan);
        };
        self.pieces.push(Piece::Characters(characters.into_iter().flatten().collect()));
        scan.at += length;
    }
}

/// The state of going through one text.
struct Scan<'t> {
    text: &'t str,
    leaf: LeafText<'t>,
    raw: RawScan,
    at: usize,
    /// The next bare address, by its number.
    next_address: usize,
    /// Where the last backtick run of each length starts, once a search has failed. That keeps a
    /// text of many unpaired runs linear.
    last_backticks: Option<HashMap<usize, usize>>,
}

impl<'t> Scan<'t> {
    fn new(text: &'t str, leaf: LeafText<'t>) -> Self {
        let raw = RawScan::default();
        Self { text, leaf, raw, at: 0, next_address: 0, last_backticks: None }
    }

    /// The start of the next run of exactly this many backticks.
    fn closing_backticks(&mut self, from: usize, length: usize) -> Option<usize> {
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

    fn bytes(&self) -> &'t [u8] {
        self.text.as_bytes()
    }

    fn skip_spaces(&mut self) {
        while self.bytes().get(self.at) == Some(&b' ') {
            self.at += 1;
        }
    }

    fn place(&self, range: Range<usize>) -> Place {
        Place::new(self.leaf.in_source(range.start), self.leaf.in_source(range.end))
    }
}

/// The bytes at which something other than text may begin.
const SPECIAL: [bool; 256] = {
    let mut table = [false; 256];
    let special = b"\n\\`*_~[]!<&";
    let mut index = 0;
    while index < special.len() {
        table[special[index] as usize] = true;
        index += 1;
    }
    table
};

/// The backtick runs from a position on: where each starts, and its length.
fn backtick_runs(bytes: &[u8], from: usize) -> impl Iterator<Item = (usize, usize)> + '_ {
    let mut at = from;
    std::iter::from_fn(move || {
        let start = at + memchr::memchr(b'`', bytes.get(at..)?)?;
        let length = run_length(bytes, start, b'`');
        at = start + length;
        Some((start, length))
    })
}

fn run_length(bytes: &[u8], at: usize, wanted: u8) -> usize {
    let tail = bytes.get(at..).unwrap_or_default();
    tail.iter().take_while(|byte| **byte == wanted).count()
}

/// `(address "title")` at a position.
fn inline_target(scan: &Scan<'_>, picture: bool, at: usize) -> Option<(LinkTarget, usize)> {
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
    Some((LinkTarget { picture, address, title }, end + 1))
}

/// CommonMark 6.5: an absolute address or a mail address in angle brackets. Gives the range
/// between them and what goes before it.
fn angle_address(text: &str, at: usize) -> Option<(Range<usize>, &'static str)> {
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
fn is_absolute_address(text: &str) -> bool {
    let Some((scheme, _)) = text.split_once(':') else { return false };
    (2..=32).contains(&scheme.len())
        && scheme.starts_with(|c: char| c.is_ascii_alphabetic())
        && scheme.bytes().all(|b| b.is_ascii_alphanumeric() || b"+.-".contains(&b))
}

const MAIL_MARKS: &[u8] = b".!#$%&'*+/=?^_`{|}~-";

/// The form that HTML's `input type=email` takes.
fn is_mail_address(text: &str) -> bool {
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

fn plain_link(address: CompactString, shown: &str) -> Inline {
    Inline::Link(Box::new(Link {
        address,
        title: None,
        content: vec![shown.into()],
        attributes: Attributes::NONE,
    }))
}
