//! Inlines beyond CommonMark: marks of notes, wiki links, formulas, typographic punctuation.

use super::delimiters::can_open_close;
use super::inline_scan::{Scan, plain_link, run_length};
use super::inlines::{BracketKind, InlineReader, Piece};
use super::starts::note_label;
use crate::document::Inline;
use crate::findings::Code;
use crate::formats::markdown::Switch;
use crate::math::Formula;

impl InlineReader<'_> {
    pub(super) fn opens_note(&self, scan: &Scan<'_>) -> bool {
        scan.peek(1) == Some(b'[') && self.switches.has(Switch::Footnotes)
    }

    /// `[` may begin a note's mark, a wiki link, or any other link.
    pub(super) fn bracket(&mut self, scan: &mut Scan<'_>) {
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
    pub(super) fn note_mark(&mut self, scan: &mut Scan<'_>) -> bool {
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
    pub(super) fn wiki_link(&mut self, scan: &mut Scan<'_>) -> bool {
        let start = scan.at + 2;
        let tail = scan.bytes().get(start..).unwrap_or_default();
        let Some(length) = tail.iter().position(|byte| b"[]\n".contains(byte)) else {
            return false;
        };
        // `[[words]](address)` is a link whose text has brackets.
        let is_text = matches!(tail.get(length + 2), Some(b'(' | b'[' | b'{'));
        if length == 0 || is_text || tail.get(length..length + 2) != Some(b"]]") {
            return false;
        }
        let inside = scan.text.get(start..start + length).unwrap_or_default();
        let (page, words) = inside.split_once('|').unwrap_or((inside, inside));
        self.pieces.push(Piece::Leaf(plain_link(page.trim().into(), words.trim())));
        scan.at = start + length + 2;
        true
    }

    /// `$…$` and `$$…$$`. A single dollar opens only before, and closes only behind, something
    /// other than white space, and closes not before a digit or a brace: prices stay prices, and
    /// variables of a shell what they are.
    pub(super) fn dollar(&mut self, scan: &mut Scan<'_>) {
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
    pub(super) fn punctuation(&mut self, scan: &mut Scan<'_>) {
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
}
