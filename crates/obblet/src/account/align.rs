//! Which parts of a text the pieces of a document stand in: both are gone through side by side.
//!
//! A piece is looked for where the last one ended; what is passed over stays unreached. Most pieces
//! stand in the source as they are, so that comparing them takes a fraction of an instruction a byte;
//! where marks, references or line ends part them, words are compared one by one.

use super::letters::{common, is_letter, next_letter, word_end};
use memchr::memmem;
use std::ops::Range;

/// Bytes that a word is looked for in before it counts as not there: in plain text, and where tags
/// stand between words.
const NEAR: usize = 400;
const NEAR_IN_TAGS: usize = 4000;
/// The longest beginning of a piece that is looked for far away, and the shortest.
const KEY: Range<usize> = 10..40;
/// Bytes of searching far away, for each byte of the text.
const SEARCHED: usize = 6;

/// A text with what pieces have been found in it.
pub(super) struct Aligned<'t> {
    bytes: &'t [u8],
    /// Where its words stand, in order.
    slices: Vec<Range<usize>>,
    /// The slice that is being compared.
    slice: usize,
    at: usize,
    /// Where the block begins that is being looked for, as far as that is known.
    floor: usize,
    /// A bit for each byte that a piece was found in.
    reached: Vec<u64>,
    budget: usize,
    /// How far a word is looked for, and whether characters may be spelled as references.
    near: usize,
    has_references: bool,
    /// Words found before the one that comes before them in the document.
    moved: u64,
}

impl<'t> Aligned<'t> {
    pub(super) fn new(bytes: &'t [u8], slices: Vec<Range<usize>>) -> Self {
        let budget = bytes.len() * SEARCHED + (1 << 16);
        let reached = vec![0; bytes.len() / 64 + 1];
        Self {
            bytes,
            slices,
            slice: 0,
            at: 0,
            floor: 0,
            reached,
            budget,
            near: NEAR,
            has_references: false,
            moved: 0,
        }
    }

    /// A text with tags, of which the slices are what stands outside of them.
    pub(super) fn with_tags(text: &'t str, slices: Vec<Range<usize>>) -> Self {
        let aligned = Self::new(text.as_bytes(), slices);
        Self { near: NEAR_IN_TAGS, has_references: true, ..aligned }
    }

    /// A text that has words anywhere.
    pub(super) fn whole(text: &'t str) -> Self {
        let whole = 0..text.len();
        Self::new(text.as_bytes(), vec![whole])
    }

    /// Where the next piece is looked for.
    pub(super) fn at(&self) -> usize {
        self.at
    }

    /// Words that came in another order than in the text.
    pub(super) fn moved(&self) -> u64 {
        self.moved
    }

    /// Goes on at a block that begins here.
    pub(super) fn block_at(&mut self, at: usize) {
        self.floor = at;
        self.go_to(at);
    }

    /// Says where the block begins that comes next, without going there.
    pub(super) fn block_near(&mut self, at: usize) {
        self.floor = at;
    }

    /// Goes on here.
    pub(super) fn go_to(&mut self, at: usize) {
        self.at = at;
        self.slice = self.slices.partition_point(|slice| slice.end <= at);
    }

    /// Whether the first word from here on was found already.
    pub(super) fn is_reached_from(&mut self, at: usize) -> bool {
        let (kept, slice) = (self.at, self.slice);
        self.go_to(at);
        self.to_next_letter();
        let is_reached = self.is_reached(self.at);
        (self.at, self.slice) = (kept, slice);
        is_reached
    }

    pub(super) fn is_reached(&self, at: usize) -> bool {
        self.reached.get(at / 64).is_some_and(|bits| bits >> (at % 64) & 1 == 1)
    }

    /// Says that these bytes have been found.
    pub(super) fn reach(&mut self, range: Range<usize>) {
        let mut at = range.start;
        while at < range.end {
            let stop = (at / 64 + 1) * 64;
            let length = stop.min(range.end) - at;
            let bits = if length == 64 { u64::MAX } else { ((1 << length) - 1) << (at % 64) };
            if let Some(word) = self.reached.get_mut(at / 64) {
                *word |= bits;
            }
            at += length;
        }
    }

    /// Finds a piece, and gives how many of its words are not there.
    pub(super) fn piece(&mut self, text: &str) -> u64 {
        let piece = text.as_bytes();
        let mut missing = 0;
        let mut at = next_letter(piece, 0);
        while at < piece.len() {
            let rest = piece.get(at..).unwrap_or_default();
            let found = self.beginning(rest).or_else(|| self.search(rest)).or_else(|| self.search_behind(rest));
            at += found.unwrap_or_else(|| {
                missing += 1;
                word_end(rest, 0).max(1)
            });
            at = next_letter(piece, at);
        }
        missing
    }

    /// Finds words that may be here and need not.
    pub(super) fn hint(&mut self, text: &str) {
        let piece = text.as_bytes();
        let mut at = next_letter(piece, 0);
        while at < piece.len() {
            let rest = piece.get(at..).unwrap_or_default();
            let Some(found) = self.beginning(rest) else { return };
            at = next_letter(piece, at + found);
        }
    }

    /// Goes to the next letter that belongs to a slice.
    fn to_next_letter(&mut self) {
        while let Some(slice) = self.slices.get(self.slice) {
            let from = self.at.max(slice.start);
            let found = next_letter(self.bytes.get(..slice.end).unwrap_or_default(), from);
            self.at = found;
            if found >= slice.end {
                self.slice += 1;
            } else if let Some(end) = self.end_of_reference(found, slice.end) {
                self.reach(found..end);
                self.at = end;
            } else {
                return;
            }
        }
    }

    /// Behind a character reference whose name begins here.
    fn end_of_reference(&self, at: usize, end: usize) -> Option<usize> {
        let before = at.checked_sub(1).and_then(|before| self.bytes.get(before));
        let is_reference = self.has_references && matches!(before, Some(b'&' | b'#'));
        let rest = is_reference.then(|| self.bytes.get(at..end)).flatten()?;
        let name = rest.iter().take(32).take_while(|byte| byte.is_ascii_alphanumeric()).count();
        (rest.get(name) == Some(&b';')).then_some(at + name + 1)
    }

    /// As much of a piece as stands right here, in whole words; what ends with a slice may go on in
    /// the next one.
    fn beginning(&mut self, rest: &[u8]) -> Option<usize> {
        if let Some(length) = self.reference(rest) {
            return Some(length);
        }
        self.to_next_letter();
        let end = self.slices.get(self.slice)?.end;
        let here = self.bytes.get(self.at..end)?;
        let mut length = common(rest, here);
        if length < rest.len() && length < here.len() {
            match written_out(rest.get(length..)?, here, length) {
                Some(sign) => {
                    let (read, written) = sign;
                    self.take(length + written);
                    return Some(length + read);
                }
                None => length = self.whole_words(rest, here, length)?,
            }
        }
        (length > 0).then(|| self.take(length))
    }

    /// A letter beyond ASCII that the text spells as a reference.
    fn reference(&mut self, rest: &[u8]) -> Option<usize> {
        let first = rest.first().filter(|byte| !byte.is_ascii() && self.has_references)?;
        let end = self.slices.get(self.slice)?.end;
        let here = self.bytes.get(self.at..end)?;
        let signs = here.iter().take_while(|byte| !is_letter(**byte)).count();
        if !here.get(..signs)?.ends_with(b"&") && !here.get(..signs)?.ends_with(b"&#") {
            return None;
        }
        let behind = self.end_of_reference(self.at + signs, end)?;
        self.reach(self.at..behind);
        self.at = behind;
        Some(first.leading_ones().max(1) as usize)
    }

    /// Where texts part inside a word, the word before ends what they have in common.
    fn whole_words(&self, rest: &[u8], here: &[u8], length: usize) -> Option<usize> {
        let goes_on = |text: &[u8]| text.get(length).is_some_and(|byte| is_letter(*byte));
        if !goes_on(rest) && !goes_on(here) {
            return Some(length);
        }
        let before = rest.get(..length)?;
        let kept = before.iter().rposition(|byte| !is_letter(*byte)).map_or(0, |at| at + 1);
        (kept > 0).then_some(kept)
    }

    fn take(&mut self, length: usize) -> usize {
        self.reach(self.at..self.at + length);
        self.at += length;
        length
    }

    /// Looks for a piece further on: its beginning as far as it is likely to be in one, or its word.
    fn search(&mut self, rest: &[u8]) -> Option<usize> {
        let word = word_end(rest, 0);
        let key = rest.len().min(KEY.end);
        let from = self.at;
        let near = (from + self.near).min(self.bytes.len());
        let found = self
            .found(rest.get(..key)?, from..near)
            .or_else(|| self.found_far(rest.get(..key)?, near))
            .or_else(|| self.found(rest.get(..word)?, from..near))
            .or_else(|| self.found_far(rest.get(..word)?, near))?;
        self.go_to(found);
        self.beginning(rest)
    }

    /// Looks for a piece between the beginning of its block and here.
    fn search_behind(&mut self, rest: &[u8]) -> Option<usize> {
        let word = word_end(rest, 0);
        let key = rest.len().min(KEY.end);
        let (from, ahead) = match self.floor < self.at {
            true => (self.floor, false),
            false => (self.at, true),
        };
        let to = if ahead { self.floor + self.near } else { self.at };
        let from = if ahead { self.floor } else { from.max(to.saturating_sub(8 * self.near)) };
        let range = from..to.min(self.bytes.len());
        let found = self
            .found(rest.get(..key)?, range.clone())
            .or_else(|| self.found(rest.get(..word)?, range))
            .or_else(|| self.found_before(rest.get(..key)?))?;
        self.go_to(found);
        let length = self.beginning(rest)?;
        self.moved += u64::from(!ahead);
        Some(length)
    }

    /// Anywhere before, for what stands in another order than it was written.
    fn found_before(&mut self, key: &[u8]) -> Option<usize> {
        let end = self.at.min(self.budget);
        if key.len() < KEY.start {
            return None;
        }
        self.budget -= end;
        self.found(key, self.at - end..self.at)
    }

    fn found_far(&mut self, key: &[u8], from: usize) -> Option<usize> {
        if key.len() < KEY.start || self.budget == 0 {
            return None;
        }
        let end = (from + self.budget).min(self.bytes.len());
        let found = self.found(key, from..end);
        self.budget = self.budget.saturating_sub(found.unwrap_or(end) - from);
        found
    }

    /// The first place in a range where a key begins a word of a slice.
    fn found(&self, key: &[u8], range: Range<usize>) -> Option<usize> {
        let start = range.start;
        let text = self.bytes.get(range)?;
        let begins_word =
            |at: &usize| at.checked_sub(1).and_then(|at| self.bytes.get(at)).is_none_or(|b| !b.is_ascii_alphanumeric());
        let ends_word = |at: &usize| {
            let ends = key.last().is_some_and(|byte| is_letter(*byte));
            !ends || self.bytes.get(at + key.len()).is_none_or(|b| !is_letter(*b)) || key.len() >= KEY.start
        };
        memmem::find_iter(text, key)
            .take(8)
            .map(|at| at + start)
            .filter(begins_word)
            .filter(ends_word)
            .find(|at| self.is_in_slice(*at) && !self.is_reached(*at))
    }

    fn is_in_slice(&self, at: usize) -> bool {
        let slice = self.slices.partition_point(|slice| slice.end <= at);
        self.slices.get(slice).is_some_and(|slice| slice.start <= at)
    }

    /// Stretches with words that no piece was found in.
    pub(super) fn gaps(&self) -> Vec<Range<usize>> {
        let mut gaps: Vec<Range<usize>> = Vec::new();
        for slice in &self.slices {
            let mut at = slice.start;
            while let Some(start) = self.next_unreached(at, slice.end) {
                let mut end = start;
                while end < slice.end && !self.is_reached(end) {
                    end += 1;
                }
                gaps.push(start..end);
                at = end;
            }
        }
        gaps
    }

    /// The next letter that was not reached.
    fn next_unreached(&self, from: usize, end: usize) -> Option<usize> {
        let mut at = from;
        while at < end {
            if at % 64 == 0 && self.reached.get(at / 64) == Some(&u64::MAX) {
                at += 64;
                continue;
            }
            if !self.is_reached(at) {
                let text = self.bytes.get(..end)?;
                let letter = next_letter(text, at);
                if letter >= end {
                    return None;
                }
                if !self.is_reached(letter) {
                    return Some(letter);
                }
                at = letter;
            }
            at += 1;
        }
        None
    }
}

/// The lengths of a character beyond ASCII in a piece, and of what spells it in the text: a character
/// reference, or an accent that TeX puts over a letter.
fn written_out(rest: &[u8], here: &[u8], at: usize) -> Option<(usize, usize)> {
    let first = rest.first().filter(|byte| !byte.is_ascii())?;
    let read = first.leading_ones().max(1) as usize;
    // What spells it begins with a sign, and the sign was passed over where it begins a word.
    let written = match here.get(at)? {
        b'&' => here.iter().skip(at).take(32).position(|byte| *byte == b';')? + 1,
        b'\\' => accent(here.get(at + 1..)?) + 1,
        b'"' => 2,
        _ => return None,
    };
    Some((read, written))
}

/// The length of an accent with its letter: `'e`, `'{e}`, `c{c}`, `ss{}`, `o `.
fn accent(after: &[u8]) -> usize {
    let signs = after.iter().take_while(|byte| !byte.is_ascii_alphanumeric()).count().min(2);
    let rest = after.get(signs..).unwrap_or_default();
    let letters = rest.iter().take(3).take_while(|byte| byte.is_ascii_alphabetic()).count();
    let name = if signs > 0 { letters.min(1) } else { letters };
    match rest.get(name) {
        Some(b'{') => {
            let group = rest.iter().skip(name).take(8).position(|byte| *byte == b'}');
            signs + name + group.map_or(0, |end| end + 1)
        }
        Some(b'}') if after.get(..signs).is_some_and(|signs| signs.contains(&b'{')) => signs + name + 1,
        _ => signs + name,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What no piece reaches, and how many words of pieces are not in the text, or not in order.
    fn aligned(text: &str, pieces: &[&str]) -> (Vec<String>, u64) {
        let mut aligned = Aligned::whole(text);
        let missing: u64 = pieces.iter().map(|piece| aligned.piece(piece)).sum();
        let missing = missing + aligned.moved();
        let gaps = aligned.gaps().into_iter();
        (gaps.map(|gap| text[gap].trim().to_string()).collect(), missing)
    }

    #[test]
    fn what_no_piece_reaches_is_found() {
        let nothing: (Vec<String>, u64) = (Vec::new(), 0);
        assert_eq!(aligned("High water at *noon*.", &["High water at ", "noon", "."]), nothing);
        assert_eq!(aligned("High\n  water", &["High water"]), nothing);
        let (gaps, missing) = aligned("one two three four", &["one", "four"]);
        assert_eq!((gaps, missing), (vec!["two three".to_string()], 0));
        let (gaps, missing) = aligned("one two", &["one two", " two"]);
        assert_eq!((gaps.len(), missing), (0, 1), "doubled");
        let (gaps, missing) = aligned("weir sluice pond", &["sluice", "weir", "pond"]);
        assert_eq!((gaps.len(), missing), (0, 1), "swapped");
    }
}
