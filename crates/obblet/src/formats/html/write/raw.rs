//! Raw HTML on its way out: from the block that holds it to the block that closes its last element,
//! the output is parsed and freed of what may run code. The rest was written here and needs none of
//! that, so a long document never stands in memory as parsed HTML.

use super::{Body, Writer};
use crate::document::Place;
use crate::findings::{Code, Findings};
use crate::formats::html::open_tags::OpenTags;
use crate::formats::html::sanitise::sanitise;
use crate::formats::html::{RawPiece, bounded};
use std::ops::Range;

/// Where raw HTML stands in the output that is not sanitised yet.
#[derive(Debug, Default)]
pub(super) struct RawStretch {
    /// Up to here the output is as it stays, but for the contents list.
    from: usize,
    /// The elements that raw HTML has opened; `None` where it holds none.
    tags: Option<OpenTags>,
    /// The block that holds all its raw HTML, when that is one.
    place: Option<Place>,
    /// How many mistakes the parser has mended so far.
    mended: usize,
    /// Where its pieces stand in the output, and in which line of text.
    pieces: Vec<(Range<usize>, Option<u32>)>,
}

impl RawStretch {
    /// Takes note of markup that goes out as it is for now.
    pub(super) fn push(&mut self, markup: &str, place: Place, at: usize, is_block: bool) {
        self.pieces.push((at..at + markup.len(), (!is_block).then_some(place.start)));
        self.place = match self.tags {
            None => Some(place),
            Some(_) => self.place.filter(|first| *first == place),
        };
        self.tags.get_or_insert_default().read(markup);
    }

    /// Says how many mistakes of raw HTML were mended.
    fn report(&self, findings: &mut Findings) {
        let subject = match self.mended {
            0 => return,
            1 => "1 mistake".into(),
            many => format!("{many} mistakes"),
        };
        findings.add_about(Code::HtmlRepaired, &subject, None);
    }
}

impl Writer<'_> {
    /// At the end of a block that stands in no other one: sanitises, when all elements of raw HTML
    /// are closed.
    pub(super) fn end_of_piece(&mut self) {
        let is_closed = self.raw.tags.as_ref().is_none_or(OpenTags::all_closed);
        // The contents list is put into a finished stretch at the very end.
        let holds_contents = self.contents.iter().any(|list| list.at >= self.raw.from);
        if self.raw.tags.is_none() || (is_closed && !holds_contents) {
            self.end_stretch();
        }
    }

    fn end_stretch(&mut self) {
        let pieces = std::mem::take(&mut self.raw.pieces);
        if self.raw.tags.as_ref().is_some_and(|tags| !tags.all_closed()) {
            self.bound_raw(&pieces);
        }
        if self.raw.tags.take().is_some()
            && let Some(html) = self.out.get(self.raw.from..)
        {
            self.ids.release_unsettled();
            let clean = sanitise(html, &mut self.ids, &mut self.findings, self.raw.place);
            self.raw.mended += clean.mended;
            self.out.truncate(self.raw.from);
            self.out.push_str(&clean.html);
            self.forget_places_behind(self.raw.from);
        }
        self.raw.from = self.out.len();
        self.ids.settle();
    }

    /// Keeps elements that no tag closes from swallowing what stands behind them.
    fn bound_raw(&mut self, pieces: &[(Range<usize>, Option<u32>)]) {
        let raw: Vec<RawPiece<'_>> = pieces
            .iter()
            .map(|(at, line)| RawPiece {
                markup: self.out.get(at.clone()).unwrap_or_default(),
                line: *line,
            })
            .collect();
        let changed = bounded(&raw);
        if changed.iter().all(Option::is_none) {
            return;
        }
        let mut html = String::with_capacity(self.out.len());
        let mut from = 0;
        for ((at, _), markup) in pieces.iter().zip(changed) {
            html.push_str(self.out.get(from..at.start).unwrap_or_default());
            html.push_str(markup.as_deref().or(self.out.get(at.clone())).unwrap_or_default());
            self.raw.mended += usize::from(markup.is_some());
            from = at.end;
        }
        html.push_str(self.out.get(from..).unwrap_or_default());
        self.out = html;
    }

    /// Of a stretch that is written anew only the first block keeps its place.
    fn forget_places_behind(&mut self, start: usize) {
        let first = self.block_starts.partition_point(|(at, _)| *at < start);
        self.block_starts.truncate(first + 1);
    }

    /// The lines on which blocks begin.
    fn places_of_lines(&self) -> Vec<(u32, Place)> {
        let (mut line, mut counted) = (1, 0);
        let mut places = Vec::with_capacity(self.block_starts.len());
        for (at, place) in &self.block_starts {
            let passed = self.out.get(counted..*at).unwrap_or_default();
            line += memchr::memchr_iter(b'\n', passed.as_bytes()).count();
            counted = counted.max(*at);
            places.push((u32::try_from(line).unwrap_or(u32::MAX), *place));
        }
        places
    }

    /// Ends the document: notes, contents list, the last stretch of raw HTML.
    pub(super) fn finish(mut self) -> (Body, Findings) {
        self.notes();
        self.comments_at_end();
        self.end_of_piece();
        // Inside a stretch the list is sanitised with it; before one it would move its start.
        self.fill_contents_from(self.raw.from);
        self.end_stretch();
        self.fill_contents_from(0);
        self.raw.report(&mut self.findings);
        let places = self.places_of_lines();
        let body = Body {
            headings_lowered: self.level_shift,
            places,
            look_rules: self.looks.into_rules(),
            has_contents: self.has_contents,
            html: self.out,
            headings: self.headings,
            ids: self.ids.into_taken(),
        };
        (body, self.findings)
    }
}
