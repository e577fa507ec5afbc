//! Delimiter runs and how they pair (CommonMark 6.2 and its appendix, "process emphasis").

use crate::work;
use smallvec::SmallVec;
use std::ops::Range;
use unicode_properties::{GeneralCategoryGroup, UnicodeGeneralCategory};

/// What a pair of delimiters makes of the text between them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Mark {
    Emphasis,
    Strong,
    Struck,
    Highlight,
    Inserted,
    Superscript,
    Subscript,
}

/// One run of equal delimiters.
#[derive(Debug)]
pub(super) struct Run {
    pub(super) byte: u8,
    /// Where it starts in the text.
    pub(super) start: usize,
    length: usize,
    /// Delimiters that are not used yet.
    pub(super) left: usize,
    can_open: bool,
    can_close: bool,
    /// The marks this run closes, innermost first.
    pub(super) closes: SmallVec<[Mark; 2]>,
    /// The marks this run opens, innermost first.
    pub(super) opens: SmallVec<[Mark; 2]>,
    previous: Option<usize>,
    next: Option<usize>,
}

/// The runs of a text; those that may still pair are linked to a list.
#[derive(Debug, Default)]
pub(super) struct Runs {
    runs: Vec<Run>,
    last: Option<usize>,
    /// `~x~` is a subscript; otherwise it is struck.
    pub(super) single_tilde_lowers: bool,
}

/// Where a search for an opener may stop, by what the closer is like.
struct Bottoms([Option<usize>; 17]);

impl Bottoms {
    fn slot(&mut self, closer: &Run) -> &mut Option<usize> {
        let index = match closer.byte {
            b'~' => 12 + usize::from(closer.length == 2),
            b'=' => 14,
            b'+' => 15,
            b'^' => 16,
            byte => {
                let opens = usize::from(closer.can_open);
                let kind = usize::from(byte == b'_');
                kind * 6 + opens * 3 + closer.length % 3
            }
        };
        &mut self.0[index]
    }
}

impl Runs {
    pub(super) fn clear(&mut self) {
        self.runs.clear();
        self.last = None;
    }

    pub(super) fn get(&self, run: usize) -> Option<&Run> {
        self.runs.get(run)
    }

    /// The last run that may still pair.
    pub(super) fn last(&self) -> Option<usize> {
        self.last
    }

    pub(super) fn push(
        &mut self,
        byte: u8,
        length: usize,
        can_open: bool,
        can_close: bool,
        start: usize,
    ) -> usize {
        let index = self.runs.len();
        if let Some(last) = self.last {
            self.runs[last].next = Some(index);
        }
        self.runs.push(Run {
            byte,
            start,
            length,
            left: length,
            can_open,
            can_close,
            closes: SmallVec::new(),
            opens: SmallVec::new(),
            previous: self.last,
            next: None,
        });
        self.last = Some(index);
        index
    }

    /// Pairs all runs behind `bottom`, then takes them off the list.
    pub(super) fn pair(&mut self, bottom: Option<usize>) {
        let mut bottoms = Bottoms([bottom; 17]);
        let mut current = self.first_behind(bottom);
        while let Some(closer) = current {
            work::count(1);
            if !self.runs[closer].can_close {
                current = self.runs[closer].next;
                continue;
            }
            let stop = *bottoms.slot(&self.runs[closer]);
            match self.opener_for(closer, stop) {
                Some(opener) => current = self.join(opener, closer),
                None => {
                    *bottoms.slot(&self.runs[closer]) = self.runs[closer].previous;
                    current = self.runs[closer].next;
                    if !self.runs[closer].can_open {
                        self.unlink(closer);
                    }
                }
            }
        }
        self.last = bottom;
        if let Some(bottom) = bottom {
            self.runs[bottom].next = None;
        }
    }

    fn first_behind(&self, bottom: Option<usize>) -> Option<usize> {
        let mut first = None;
        let mut here = self.last;
        while here != bottom {
            work::count(1);
            first = here;
            here = here.and_then(|run| self.runs[run].previous);
        }
        first
    }

    fn opener_for(&self, closer: usize, stop: Option<usize>) -> Option<usize> {
        let mut here = self.runs[closer].previous;
        while here != stop {
            work::count(1);
            let run = here?;
            if self.may_pair(&self.runs[run], &self.runs[closer]) {
                return here;
            }
            here = self.runs[run].previous;
        }
        None
    }

    fn may_pair(&self, opener: &Run, closer: &Run) -> bool {
        if opener.byte != closer.byte || !opener.can_open {
            return false;
        }
        if !matches!(opener.byte, b'*' | b'_') {
            return opener.length == closer.length;
        }
        // Rules 9 and 10: the sum of lengths is no multiple of 3 when one of the two can do both,
        // unless both lengths are.
        let both = opener.can_close || closer.can_open;
        let thirds = opener.length.is_multiple_of(3) && closer.length.is_multiple_of(3);
        !both || !(opener.length + closer.length).is_multiple_of(3) || thirds
    }

    /// The mark of a run that is used as a whole or not at all.
    fn whole_run_mark(&self, closer: usize) -> Option<Mark> {
        match (self.runs[closer].byte, self.runs[closer].length) {
            (b'~', 1) if self.single_tilde_lowers => Some(Mark::Subscript),
            (b'~', _) => Some(Mark::Struck),
            (b'=', _) => Some(Mark::Highlight),
            (b'+', _) => Some(Mark::Inserted),
            (b'^', _) => Some(Mark::Superscript),
            _ => None,
        }
    }

    /// Makes a mark of two runs. Gives the run to go on with.
    fn join(&mut self, opener: usize, closer: usize) -> Option<usize> {
        let length = self.runs[closer].length;
        let (mark, used) = if let Some(mark) = self.whole_run_mark(closer) {
            (mark, length)
        } else if self.runs[opener].left >= 2 && self.runs[closer].left >= 2 {
            (Mark::Strong, 2)
        } else {
            (Mark::Emphasis, 1)
        };
        // What stands between the two cannot pair any more.
        self.runs[opener].next = Some(closer);
        self.runs[closer].previous = Some(opener);
        self.runs[opener].opens.push(mark);
        self.runs[closer].closes.push(mark);
        self.runs[opener].left -= used;
        self.runs[closer].left -= used;
        if self.runs[opener].left == 0 {
            self.unlink(opener);
        }
        if self.runs[closer].left > 0 {
            return Some(closer);
        }
        let next = self.runs[closer].next;
        self.unlink(closer);
        next
    }

    fn unlink(&mut self, run: usize) {
        let (previous, next) = (self.runs[run].previous, self.runs[run].next);
        if let Some(previous) = previous {
            self.runs[previous].next = next;
        }
        match next {
            Some(next) => self.runs[next].previous = previous,
            None => self.last = previous,
        }
    }
}

/// Whether a run can open and can close (CommonMark 6.2, flanking).
pub(super) fn can_open_close(text: &str, run: Range<usize>, byte: u8) -> (bool, bool) {
    let before = Neighbour::of(text.get(..run.start).and_then(|text| text.chars().next_back()));
    let after = Neighbour::of(text.get(run.end..).and_then(|text| text.chars().next()));
    let left = after != Neighbour::Space
        && (after != Neighbour::Punctuation || before != Neighbour::Other);
    let right = before != Neighbour::Space
        && (before != Neighbour::Punctuation || after != Neighbour::Other);
    if byte == b'_' {
        let opens = left && (!right || before == Neighbour::Punctuation);
        let closes = right && (!left || after == Neighbour::Punctuation);
        (opens, closes)
    } else {
        (left, right)
    }
}

/// What stands beside a run.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Neighbour {
    /// White space, or an end of the text.
    Space,
    Punctuation,
    Other,
}

impl Neighbour {
    fn of(character: Option<char>) -> Self {
        let Some(c) = character else { return Self::Space };
        if c.is_ascii() {
            return match c {
                _ if c.is_ascii_punctuation() => Self::Punctuation,
                ' ' | '\t' | '\n' | '\x0C' | '\r' => Self::Space,
                _ => Self::Other,
            };
        }
        if c.is_whitespace() {
            return Self::Space;
        }
        match c.general_category_group() {
            GeneralCategoryGroup::Punctuation | GeneralCategoryGroup::Symbol => Self::Punctuation,
            _ => Self::Other,
        }
    }
}
