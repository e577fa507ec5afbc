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
use super::entities::character_reference;
use super::html_scan::with_harmless_tags;
use super::inline_scan::{
    Scan, angle_address, inline_target, plain_link, run_length, special_bytes,
};
use super::link_parts::label;
use super::notes::NoteLabels;
use super::text::LeafText;
use crate::document::{
    Attributes, Block, CompactString, Foreign, Inline, InlineCode, LineBreak, NoteId,
};
use crate::findings::{Code, Findings};
use crate::formats::markdown::{Switch, Switches};
use crate::typography::Quotes;
use crate::work;
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
pub(super) enum BracketKind {
    Link,
    Picture,
    Note,
}

/// Reads the inlines of text after text; its lists are used again.
pub(super) struct InlineReader<'d> {
    pub(super) switches: Switches,
    pub(super) definitions: &'d Definitions,
    pub(super) notes: &'d NoteLabels,
    /// Which notes have a mark, by their numbers.
    pub(super) marked_notes: Vec<bool>,
    /// Notes that stand where their marks are.
    pub(super) inline_notes: Vec<(NoteId, Block)>,
    /// The number of the next such note.
    next_note: usize,
    /// The bytes at which something other than text may begin.
    special: [bool; 256],
    pub(super) quotes: Quotes,
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
        while scan.at < text.len() && !work::is_over() {
            self.step(&mut scan);
        }
        self.runs.pair(None);
        self.build(leaf)
    }

    fn step(&mut self, scan: &mut Scan<'_>) {
        let stop = self.next_stop(scan);
        work::count(1 + (stop - scan.at) / 16);
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
        // What was found already is still the next one, however many addresses stand before it.
        if scan.special_at <= scan.at {
            let tail = scan.bytes().get(scan.at..).unwrap_or_default();
            let special = tail.iter().position(|byte| self.special[usize::from(*byte)]);
            scan.special_at = special.map_or(scan.text.len(), |found| scan.at + found);
            work::count((scan.special_at - scan.at) / 16);
        }
        let special = scan.special_at;
        // An address that something else has swallowed is none.
        while self.addresses.get(scan.next_address).is_some_and(|a| a.range.start < scan.at) {
            scan.next_address += 1;
        }
        let address = self.addresses.get(scan.next_address).map(|address| address.range.start);
        address.map_or(special, |address| special.min(address))
    }

    pub(super) fn push_text(&mut self, range: Range<usize>) {
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
        let (mut attributes, behind) = self.attributes(scan, end + length);
        scan.at = behind;
        if let Some(format) = attributes.take_pair("raw") {
            let foreign = Foreign { format, markup: content.into() };
            return self.pieces.push(Piece::Leaf(Inline::Foreign(Box::new(foreign))));
        }
        let code = InlineCode { text: content.into(), attributes };
        self.pieces.push(Piece::Leaf(Inline::Code(Box::new(code))));
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

    /// The attributes at a position, if the dialect has them, and the position behind.
    fn attributes(&self, scan: &Scan<'_>, at: usize) -> (Attributes, usize) {
        let found = self.switches.has(Switch::Attributes).then(|| attribute_list(scan.text, at));
        found.flatten().unwrap_or((Attributes::NONE, at))
    }

    pub(super) fn open_bracket(&mut self, scan: &mut Scan<'_>, opens: BracketKind) {
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
