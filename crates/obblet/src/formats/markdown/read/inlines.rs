//! The inline pass (CommonMark, appendix "Phase 2: inline structure").
//!
//! A text becomes a flat list of [`Piece`]s: stretches of text, finished inlines, delimiter runs,
//! and the two ends of links. Runs are paired as brackets close and at the end; only then is the
//! tree built, in one go ([`build`](super::inline_build)).

use super::attribute_list::attribute_list;
use super::bare_addresses::{BareAddress, bare_addresses};
use super::blocks::BlockStructure;
use super::definitions::Definitions;
use super::delimiters::{Runs, can_open_close};
use super::entities::{character_reference, unescape};
use super::html_scan::{RawScan, with_harmless_tags};
use super::link_parts::{destination, label, skip_space, title};
use super::notes::NoteLabels;
use super::starts::note_label;
use super::text::LeafText;
use crate::document::{
    Attributes, Block, CompactString, Foreign, Inline, InlineCode, LineBreak, Link, NoteId, Place,
};
use crate::findings::{Code, Findings};
use crate::formats::markdown::{Switch, Switches};
use crate::math::Formula;
use crate::typography::Quotes;
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
    pub(super) kind: TargetKind,
    pub(super) address: CompactString,
    pub(super) title: Option<CompactString>,
    pub(super) attributes: Attributes,
}

/// What brackets make of the text between them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum TargetKind {
    Link,
    Picture,
    /// Text with attributes.
    Span,
    /// A note that stands where its mark is.
    Note(NoteId),
}

/// A `[` or `![` that may begin a link.
#[derive(Debug)]
struct Bracket {
    /// Its piece.
    piece: usize,
    /// Where the text behind it starts.
    text_start: usize,
    opens: BracketKind,
    /// The last delimiter run before it.
    run_before: Option<usize>,
    /// Another bracket was opened behind it.
    holds_bracket: bool,
}

/// What a bracket may begin.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum BracketKind {
    Link,
    Picture,
    Note,
}

/// Reads the inlines of text after text; its lists are used again.
pub(super) struct InlineReader<'d> {
    pub(super) switches: Switches,
    pub(super) definitions: &'d Definitions,
    notes: &'d NoteLabels,
    /// Which notes have a mark, by their numbers.
    pub(super) marked_notes: Vec<bool>,
    /// Notes that stand where their marks are.
    pub(super) inline_notes: Vec<(NoteId, Block)>,
    /// The number of the next such note.
    next_note: usize,
    /// The bytes at which something other than text may begin.
    special: [bool; 256],
    quotes: Quotes,
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
        structure: &'d BlockStructure,
        language: Option<&str>,
        findings: &'d mut Findings,
        source_length: usize,
    ) -> Self {
        let mut runs = Runs::default();
        runs.single_tilde_lowers = switches.has(Switch::Scripts);
        Self {
            switches,
            definitions: &structure.definitions,
            notes: &structure.notes,
            marked_notes: vec![false; structure.notes.all.len()],
            inline_notes: Vec::new(),
            next_note: structure.notes.all.len(),
            special: special_bytes(switches),
            quotes: Quotes::of_language(language),
            findings,
            expansion: source_length.saturating_mul(10).max(100_000),
            pieces: Vec::new(),
            runs,
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
        let with_abbreviations = self.definitions.has_abbreviations();
        if !with_addresses
            && !with_abbreviations
            && !text.bytes().any(|b| self.special[usize::from(b)])
        {
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
            byte @ (b'~' | b'=' | b'+') => self.delimiter_run(scan, byte),
            b'^' if self.opens_note(scan) => self.open_bracket(scan, BracketKind::Note),
            b'^' => self.delimiter_run(scan, b'^'),
            b'$' => self.dollar(scan),
            b'[' => self.bracket(scan),
            b'!' if scan.peek(1) == Some(b'[') => self.open_bracket(scan, BracketKind::Picture),
            b']' => self.close_bracket(scan),
            b'<' => self.angle(scan),
            b'&' => self.ampersand(scan),
            b'"' | b'\'' | b'-' | b'.' if self.switches.has(Switch::SmartPunctuation) => {
                self.punctuation(scan);
            }
            _ => self.push_character(scan),
        }
    }

    /// The next position at which something other than text may begin.
    fn next_stop(&mut self, scan: &mut Scan<'_>) -> usize {
        let tail = scan.bytes().get(scan.at..).unwrap_or_default();
        let special = tail.iter().position(|byte| self.special[usize::from(*byte)]);
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
        let hard = spaces >= 2 || self.switches.has(Switch::HardWraps);
        let kind = if hard { LineBreak::Hard } else { LineBreak::Soft };
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
        let (attributes, behind) = self.attributes(scan, end + length);
        let code = InlineCode { text: content.into(), attributes };
        self.pieces.push(Piece::Leaf(Inline::Code(Box::new(code))));
        scan.at = behind;
    }

    fn delimiter_run(&mut self, scan: &mut Scan<'_>, byte: u8) {
        let length = run_length(scan.bytes(), scan.at, byte);
        let end = scan.at + length;
        let (can_open, can_close) = can_open_close(scan.text, scan.at..end, byte);
        if (can_open || can_close) && self.may_pair(byte, length) {
            let run = self.runs.push(byte, length, can_open, can_close, scan.at);
            self.pieces.push(Piece::Run(run));
        } else {
            self.push_text(scan.at..end);
        }
        scan.at = end;
    }

    /// Which runs mean something in this dialect, by their lengths.
    fn may_pair(&self, byte: u8, length: usize) -> bool {
        match (byte, length) {
            (b'*' | b'_', _) => true,
            (b'~', 2) => self.switches.has(Switch::Strikethrough),
            (b'~', 1) => {
                self.switches.has(Switch::Strikethrough) || self.switches.has(Switch::Scripts)
            }
            (b'=', 2) => self.switches.has(Switch::Highlight),
            (b'+', 2) => self.switches.has(Switch::Insertion),
            (b'^', 1) => self.switches.has(Switch::Scripts),
            _ => false,
        }
    }

    fn opens_note(&self, scan: &Scan<'_>) -> bool {
        scan.peek(1) == Some(b'[') && self.switches.has(Switch::Footnotes)
    }

    /// `[` may begin a note's mark, a wiki link, or any other link.
    fn bracket(&mut self, scan: &mut Scan<'_>) {
        let next = scan.peek(1);
        let is_special = next == Some(b'^')
            && self.switches.has(Switch::Footnotes)
            && self.note_mark(scan)
            || next == Some(b'[') && self.switches.has(Switch::WikiLinks) && self.wiki_link(scan);
        if !is_special {
            self.open_bracket(scan, BracketKind::Link);
        }
    }

    /// `[^label]`
    fn note_mark(&mut self, scan: &mut Scan<'_>) -> bool {
        let start = scan.at + 2;
        let tail = scan.bytes().get(start..).unwrap_or_default();
        let Some(length) = note_label(tail) else { return false };
        let label = scan.text.get(start..start + length).unwrap_or_default();
        let Some(note) = self.notes.get(label) else {
            let place = scan.place(scan.at..start + length + 1);
            self.findings.add_about(Code::NoteLabelMissing, label, Some(place));
            return false;
        };
        if let Some(marked) = self.marked_notes.get_mut(note.index()) {
            *marked = true;
        }
        self.pieces.push(Piece::Leaf(Inline::NoteMark(note)));
        scan.at = start + length + 1;
        true
    }

    /// `[[page]]` or `[[page|words]]`, in one line and without brackets inside.
    fn wiki_link(&mut self, scan: &mut Scan<'_>) -> bool {
        let start = scan.at + 2;
        let tail = scan.bytes().get(start..).unwrap_or_default();
        let Some(length) = tail.iter().position(|byte| b"[]\n".contains(byte)) else {
            return false;
        };
        if length == 0 || tail.get(length..length + 2) != Some(b"]]") {
            return false;
        }
        let inside = scan.text.get(start..start + length).unwrap_or_default();
        let (page, words) = inside.split_once('|').unwrap_or((inside, inside));
        self.pieces.push(Piece::Leaf(plain_link(page.trim().into(), words.trim())));
        scan.at = start + length + 2;
        true
    }

    /// `$…$` and `$$…$$`. A single dollar opens only before, and closes only behind, something
    /// other than white space, and closes not before a digit: prices stay prices.
    fn dollar(&mut self, scan: &mut Scan<'_>) {
        let width = run_length(scan.bytes(), scan.at, b'$');
        let inside = scan.at + width;
        let Some(end) = (width <= 2).then(|| scan.closing_dollars(inside, width)).flatten() else {
            self.push_text(scan.at..inside);
            scan.at = inside;
            return;
        };
        let source = scan.text.get(inside..end).unwrap_or_default();
        let source = if width == 2 { source.trim() } else { source };
        let formula = Formula { source: source.into(), display: width == 2, ..Formula::default() };
        self.pieces.push(Piece::Leaf(Inline::Formula(Box::new(formula))));
        scan.at = end + width;
    }

    /// Straight quotes, hyphens and periods that stand for typographic characters.
    fn punctuation(&mut self, scan: &mut Scan<'_>) {
        let byte = scan.bytes()[scan.at];
        let length = run_length(scan.bytes(), scan.at, byte);
        let (left, right) = can_open_close(scan.text, scan.at..scan.at + 1, b'*');
        let (characters, used) = match (byte, length) {
            (b'-', 2) => ("–", 2),
            (b'-', 3) => ("—", 3),
            (b'.', 3..) => ("…", 3),
            (b'"', _) if left && !right => (self.quotes.outer[0], 1),
            (b'"', _) => (self.quotes.outer[1], 1),
            (b'\'', _) if left && !right => (self.quotes.inner[0], 1),
            // An apostrophe is the same in all languages.
            (b'\'', _) if left && right => ("’", 1),
            (b'\'', _) => (self.quotes.inner[1], 1),
            _ => {
                self.push_text(scan.at..scan.at + length);
                scan.at += length;
                return;
            }
        };
        self.pieces.push(Piece::Characters(characters.into()));
        scan.at += used;
    }

    /// The attributes at a position, if the dialect has them, and the position behind.
    fn attributes(&self, scan: &Scan<'_>, at: usize) -> (Attributes, usize) {
        let found = self.switches.has(Switch::Attributes).then(|| attribute_list(scan.text, at));
        found.flatten().unwrap_or((Attributes::NONE, at))
    }

    fn open_bracket(&mut self, scan: &mut Scan<'_>, opens: BracketKind) {
        let width = if opens == BracketKind::Link { 1 } else { 2 };
        if let Some(before) = self.brackets.last_mut() {
            before.holds_bracket = true;
        }
        self.brackets.push(Bracket {
            piece: self.pieces.len(),
            text_start: scan.at + width,
            opens,
            run_before: self.runs.last(),
            holds_bracket: false,
        });
        self.pieces.push(Piece::Bracket(scan.at..scan.at + width));
        scan.at += width;
    }

    /// CommonMark 6.3: what stands behind `]` decides whether there was a link.
    fn close_bracket(&mut self, scan: &mut Scan<'_>) {
        let Some(bracket) = self.brackets.pop() else { return self.push_character(scan) };
        let active =
            bracket.opens != BracketKind::Link || self.brackets.len() >= self.inactive_below;
        self.inactive_below = self.inactive_below.min(self.brackets.len());
        let target = if active { self.link_target(scan, &bracket) } else { None };
        let Some((target, end)) = target else { return self.push_character(scan) };
        self.runs.pair(bracket.run_before);
        if target.kind == TargetKind::Link {
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
        let target = |kind| LinkTarget {
            kind,
            address: CompactString::default(),
            title: None,
            attributes: Attributes::NONE,
        };
        let kind = match bracket.opens {
            BracketKind::Note => {
                let note = NoteId::new(self.next_note);
                self.next_note += 1;
                return Some((target(TargetKind::Note(note)), behind));
            }
            BracketKind::Picture => TargetKind::Picture,
            BracketKind::Link => TargetKind::Link,
        };
        let found = inline_target(scan, kind, behind)
            .or_else(|| self.reference_target(scan, bracket, kind, behind));
        if let Some((mut target, end)) = found {
            let (attributes, end) = self.attributes(scan, end);
            target.attributes = attributes;
            return Some((target, end));
        }
        let (attributes, end) = self.attributes(scan, behind);
        let is_span = kind == TargetKind::Link && !attributes.is_empty();
        is_span.then(|| (LinkTarget { attributes, ..target(TargetKind::Span) }, end))
    }

    /// A full, collapsed or shortcut reference.
    fn reference_target(
        &mut self,
        scan: &Scan<'_>,
        bracket: &Bracket,
        kind: TargetKind,
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
            kind,
            address: definition.address.clone(),
            title: definition.title.clone(),
            attributes: Attributes::NONE,
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
    /// From where on no single and no double dollar closes a formula, once a search has failed.
    no_dollars_from: [Option<usize>; 2],
}

impl<'t> Scan<'t> {
    fn new(text: &'t str, leaf: LeafText<'t>) -> Self {
        let raw = RawScan::default();
        Self {
            text,
            leaf,
            raw,
            at: 0,
            next_address: 0,
            last_backticks: None,
            no_dollars_from: [None; 2],
        }
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

    /// The byte this far behind the position.
    fn peek(&self, ahead: usize) -> Option<u8> {
        self.bytes().get(self.at + ahead).copied()
    }

    /// The dollars that close a formula. A search that found none is not made again.
    fn closing_dollars(&mut self, from: usize, width: usize) -> Option<usize> {
        let known = self.no_dollars_from.get(width - 1).copied().flatten();
        if known.is_some_and(|known| from >= known) {
            return None;
        }
        let bytes = self.bytes();
        let is_space = |at: usize| bytes.get(at).is_none_or(u8::is_ascii_whitespace);
        if width == 1 && is_space(from) {
            return None;
        }
        let mut at = from;
        while let Some(found) = memchr::memchr2(b'$', b'\\', bytes.get(at..)?) {
            let here = at + found;
            if bytes.get(here) == Some(&b'\\') {
                at = here + 2;
                continue;
            }
            let length = run_length(bytes, here, b'$');
            let is_price = width == 1
                && (is_space(here - 1) || bytes.get(here + 1).is_some_and(u8::is_ascii_digit));
            if length == width && here > from && !is_price {
                return Some(here);
            }
            at = here + length;
        }
        if let Some(known) = self.no_dollars_from.get_mut(width - 1) {
            *known = Some(from);
        }
        None
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

/// The bytes at which something other than text may begin, in a dialect.
fn special_bytes(switches: Switches) -> [bool; 256] {
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
fn inline_target(scan: &Scan<'_>, kind: TargetKind, at: usize) -> Option<(LinkTarget, usize)> {
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
