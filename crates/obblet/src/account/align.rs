//! Which parts of a text the pieces of a document stand in: both are gone through side by side.
//!
//! A piece is looked for where the last one ended; what is passed over stays unreached. Most pieces
//! stand in the source as they are, so that comparing them takes a fraction of an instruction a byte;
//! where marks, references or line ends part them, words are compared one by one.

use super::letters::{common, is_letter, mark_length, next_letter, word_end};
use super::strays::for_each_word;
use memchr::memmem;
use smallvec::SmallVec;
use std::ops::Range;

/// Bytes that a word is looked for in before it counts as not there: in plain text, and where tags
/// stand between words.
const NEAR: usize = 400;
const NEAR_IN_TAGS: usize = 3000;
/// How many words are looked for together, and how many bytes may stand between two.
const WORDS: usize = 4;
const BETWEEN: usize = 48;
/// How many letters are looked for far away at least, and how often they are compared.
const SURE: usize = 8;
const OCCURRENCES: usize = 32;
/// So many pieces behind one that was found far away say that it is the right one, and the least bytes of
/// a piece that says it is not.
const FOLLOWERS: u8 = 4;
const FOLLOWING: usize = 4;
/// References that end without a semicolon (HTML Standard, 13.5), as far as they are no letters.
const BARE: [&str; 7] = ["lt", "gt", "amp", "quot", "nbsp", "copy", "reg"];
/// How many commands in a row are passed over.
const COMMANDS: usize = 8;
/// How far away a piece is looked for, and bytes of looking for each byte of the text.
const FAR: usize = 1 << 18;
const SEARCHED: usize = 12;

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
    /// A piece that was found far away, until what follows it is found there, too.
    leap: Option<Leap>,
    /// Where to go on behind a piece that was found before the others.
    way_back: Option<usize>,
    /// Where the last block ended of which everything was found where it was looked for first.
    sure: usize,
    is_sure: bool,
    /// What no piece was found in, since it was asked for; it can only become less.
    gaps: Option<Vec<Range<usize>>>,
}

/// A piece that was found far away: it may be another one like it.
struct Leap {
    /// Where the piece before it ended.
    from: usize,
    /// What it stands in.
    reached: Range<usize>,
    /// Pieces that have been found behind it.
    followers: u8,
}

impl<'t> Aligned<'t> {
    pub(super) fn new(bytes: &'t [u8], slices: Vec<Range<usize>>) -> Self {
        let budget = bytes.len() * SEARCHED + FAR;
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
            leap: None,
            way_back: None,
            sure: 0,
            is_sure: true,
            gaps: None,
        }
    }

    /// A text with tags, of which the slices are what stands outside of them.
    pub(super) fn with_tags(text: &'t str, slices: Vec<Range<usize>>) -> Self {
        let aligned = Self::new(text.as_bytes(), slices);
        Self { near: NEAR_IN_TAGS, has_references: true, ..aligned }
    }

    /// Pieces may stand as far apart as tags and headings of pages make them.
    pub(super) fn apart(self) -> Self {
        Self { near: NEAR_IN_TAGS, ..self }
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

    /// A block begins: it stands behind the last one that was surely found.
    pub(super) fn next_block(&mut self) {
        if self.is_sure {
            self.sure = self.at;
        }
        self.is_sure = true;
        self.floor = self.sure;
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
        let is_in_same = |slice: &Range<usize>| slice.start <= at && at < slice.end;
        self.at = at;
        if self.slices.get(self.slice).is_some_and(is_in_same) {
            return;
        }
        self.slice = self.slices.partition_point(|slice| slice.end <= at);
    }

    /// Whether the first word from here on was found already.
    pub(super) fn is_reached_from(&mut self, at: usize) -> bool {
        let (kept, slice) = (self.at, self.slice);
        self.go_to(at);
        self.go_to_next_letter();
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

    /// Finds a piece; `missing` gets the words of it that are not there.
    pub(super) fn piece(&mut self, text: &str, missing: impl FnMut(&[u8])) {
        if !self.is_next(text.as_bytes()) {
            self.piece_by_words(text.as_bytes(), missing);
        }
    }

    /// Whether a piece stands right here, signs before it aside, and goes behind it then. This is all
    /// that most pieces cost.
    fn is_next(&mut self, piece: &[u8]) -> bool {
        let signs = piece.iter().take_while(|byte| !is_letter(**byte)).count();
        let (Some(letters), None) = (piece.get(signs..), &self.leap) else { return false };
        if letters.is_empty() {
            return true;
        }
        while let Some(slice) = self.slices.get(self.slice) {
            let from = self.at.max(slice.start);
            let Some(here) = self.bytes.get(from..slice.end) else { return false };
            let Some(signs) = here.iter().position(|byte| is_letter(*byte)) else {
                self.slice += 1;
                continue;
            };
            let at = from + signs;
            let is_reference = self.has_references
                && matches!(self.bytes.get(at.wrapping_sub(1)), Some(b'&' | b'#'));
            let is_here =
                !is_reference && here.get(signs..).is_some_and(|h| h.starts_with(letters));
            if is_here {
                self.at = at;
                self.take(letters.len());
            }
            return is_here;
        }
        false
    }

    /// The same word by word, where signs of markup, references or line ends part them, and where they
    /// stand elsewhere.
    fn piece_by_words(&mut self, piece: &[u8], mut missing: impl FnMut(&[u8])) {
        let mut at = next_letter(piece, 0);
        while at < piece.len() {
            let rest = piece.get(at..).unwrap_or_default();
            let back = if self.leap.is_some() { self.back(rest) } else { None };
            let found = back
                .or_else(|| self.beginning(rest))
                .or_else(|| self.behind_commands(rest))
                .or_else(|| self.search(rest));
            self.follow(found.is_some());
            self.is_sure &= found.is_some();
            at += found.unwrap_or_else(|| {
                let end = word_end(rest, 0).max(1);
                missing(rest.get(..end).unwrap_or_default());
                end
            });
            at = next_letter(piece, at);
        }
        if let Some(at) = self.way_back.take() {
            self.go_to(at);
        }
    }

    /// Finds words that may be here and need not; `elsewhere` gets those that are not.
    pub(super) fn hint(&mut self, text: &str, elsewhere: impl FnMut(&[u8])) {
        let piece = text.as_bytes();
        let mut at = next_letter(piece, 0);
        while at < piece.len() {
            let rest = piece.get(at..).unwrap_or_default();
            let Some(found) = self.beginning(rest) else {
                return for_each_word(rest, elsewhere);
            };
            at = next_letter(piece, at + found);
        }
    }

    /// Goes to the next letter that belongs to a slice.
    fn go_to_next_letter(&mut self) {
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
        if rest.get(name) == Some(&b';') {
            return Some(at + name + 1);
        }
        // Some need no semicolon.
        let bare = BARE.iter().find(|bare| rest.starts_with(bare.as_bytes()))?;
        Some(at + bare.len())
    }

    /// As much of a piece as stands right here, in whole words; what ends with a slice may go on in
    /// the next one.
    fn beginning(&mut self, rest: &[u8]) -> Option<usize> {
        if let Some(length) = self.reference(rest) {
            return Some(length);
        }
        self.go_to_next_letter();
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
        let goes_on = |text: &[u8]| length < text.len() && next_letter(text, length) == length;
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

    /// Passes over names of commands of TeX, and compares what stands behind them.
    fn behind_commands(&mut self, rest: &[u8]) -> Option<usize> {
        let start = (self.at, self.slice);
        for _ in 0..COMMANDS {
            let before = self.at.checked_sub(1).and_then(|at| self.bytes.get(at));
            if before != Some(&b'\\') {
                break;
            }
            self.at = word_end(self.bytes, self.at);
            if let Some(length) = self.beginning(rest) {
                return Some(length);
            }
        }
        (self.at, self.slice) = start;
        None
    }

    /// Looks for a piece elsewhere: close ahead, its first words and then one; where its block begins;
    /// far ahead; anywhere before.
    fn search(&mut self, rest: &[u8]) -> Option<usize> {
        let words = first_words(rest);
        let word = words.get(..1)?;
        let ahead = self.near(self.at, &words);
        // It is the same place where nothing was found since the block began.
        let behind = Some(self.near(self.floor, &words)).filter(|behind| *behind != ahead);
        let around = |words: &[&[u8]]| {
            let found = self.found(words, ahead.clone());
            found.or_else(|| self.found(words, behind.clone()?))
        };
        // Words together say more than one alone, wherever they are.
        let alone = if words.len() > 1 { Some(word) } else { None };
        let near = around(&words).or_else(|| around(alone?));
        if let Some(found) = near {
            // A short word says nothing of the order.
            self.moved += u64::from(found < self.at && length(&words) >= FOLLOWING);
            return self.continue_at(found, rest);
        }
        if let Some(far) = self.found_far(&words, ahead.end) {
            return self.leap(far, rest);
        }
        let before = self.found_before(&words)?;
        self.moved += 1;
        self.way_back = self.way_back.or(Some(self.at));
        self.continue_at(before, rest)
    }

    /// Where words are looked for that may be long themselves.
    fn near(&self, from: usize, words: &[&[u8]]) -> Range<usize> {
        from..(from + self.near + length(words)).min(self.bytes.len())
    }

    fn continue_at(&mut self, at: usize, rest: &[u8]) -> Option<usize> {
        self.go_to(at);
        self.beginning(rest)
    }

    fn leap(&mut self, at: usize, rest: &[u8]) -> Option<usize> {
        let from = self.leap.as_ref().map_or(self.at, |leap| leap.from);
        let length = self.continue_at(at, rest)?;
        self.leap = Some(Leap { from, reached: at..self.at, followers: 0 });
        Some(length)
    }

    /// Goes back to where a leap began, if the next piece stands there.
    fn back(&mut self, rest: &[u8]) -> Option<usize> {
        let from = self.leap.as_ref().filter(|leap| leap.followers < FOLLOWERS)?.from;
        let words = first_words(rest);
        let found =
            self.found(&words, self.near(from, &words)).filter(|_| length(&words) >= FOLLOWING)?;
        let leap = self.leap.take()?;
        self.forget(leap.reached);
        self.continue_at(found, rest)
    }

    /// Takes note of whether a piece was found behind a leap.
    fn follow(&mut self, was_found: bool) {
        if let Some(leap) = &mut self.leap
            && was_found
        {
            leap.followers = leap.followers.saturating_add(1);
        }
    }

    fn forget(&mut self, range: Range<usize>) {
        self.gaps = None;
        for at in range {
            if let Some(word) = self.reached.get_mut(at / 64) {
                *word &= !(1 << (at % 64));
            }
        }
    }

    /// Anywhere before, for what stands in another order than it was written.
    fn found_before(&mut self, words: &[&[u8]]) -> Option<usize> {
        if length(words) < SURE {
            return None;
        }
        let length = self.at.min(self.budget).min(FAR);
        self.budget -= length;
        self.found(words, self.at - length..self.at)
    }

    fn found_far(&mut self, words: &[&[u8]], from: usize) -> Option<usize> {
        if length(words) < SURE || self.budget == 0 {
            return None;
        }
        let end = (from + self.budget.min(FAR)).min(self.bytes.len()).max(from);
        let found = self.found(words, from..end);
        self.budget = self.budget.saturating_sub(found.unwrap_or(end).saturating_sub(from));
        found
    }

    /// The first place in a range where these words follow each other, whatever stands between them:
    /// the longest is looked for, and the others around it.
    fn found(&self, words: &[&[u8]], range: Range<usize>) -> Option<usize> {
        let (index, longest) = words.iter().enumerate().rev().max_by_key(|(_, word)| word.len())?;
        let start = range.start;
        let text = self.bytes.get(range)?;
        let around = (words.get(..index)?, words.get(index + 1..)?);
        match *longest {
            // A searcher costs more than a letter is worth.
            [letter] => self.first_of(memchr::memchr_iter(*letter, text), start, 1, around),
            _ => self.first_of(memmem::find_iter(text, longest), start, longest.len(), around),
        }
    }

    /// The first of some places behind `start` where a word of this length stands among the words around it.
    fn first_of(
        &self,
        places: impl Iterator<Item = usize>,
        start: usize,
        length: usize,
        (before, behind): (&[&[u8]], &[&[u8]]),
    ) -> Option<usize> {
        places
            .take(OCCURRENCES)
            .map(|at| at + start)
            .filter(|at| self.is_word(*at, length))
            .filter(|at| self.goes_on(at + length, behind))
            .filter_map(|at| self.begins(at, before))
            .find(|at| self.is_in_slice(*at) && !self.is_reached(*at))
    }

    fn is_word(&self, at: usize, length: usize) -> bool {
        let before = at.checked_sub(1).and_then(|at| self.bytes.get(at));
        let behind = self.bytes.get(at + length);
        before.is_none_or(|byte| !byte.is_ascii_alphanumeric())
            && behind.is_none_or(|byte| !byte.is_ascii_alphanumeric())
    }

    /// Whether words come next.
    fn goes_on(&self, from: usize, words: &[&[u8]]) -> bool {
        let mut at = from;
        words.iter().all(|word| {
            at = next_letter(
                self.bytes.get(..self.bytes.len().min(at + BETWEEN)).unwrap_or_default(),
                at,
            );
            let is_it = self.bytes.get(at..).is_some_and(|rest| rest.starts_with(word));
            at += word.len();
            is_it
        })
    }

    /// Where words begin that end before here.
    fn begins(&self, from: usize, words: &[&[u8]]) -> Option<usize> {
        let mut at = from;
        for word in words.iter().rev() {
            let before = self.bytes.get(at.saturating_sub(BETWEEN)..at)?;
            let room = before.iter().rev().take_while(|byte| !is_letter(**byte)).count();
            at = at.checked_sub(room + word.len())?;
            if !self.bytes.get(at..)?.starts_with(word) {
                return None;
            }
        }
        Some(at)
    }

    fn is_in_slice(&self, at: usize) -> bool {
        let slice = self.slices.partition_point(|slice| slice.end <= at);
        self.slices.get(slice).is_some_and(|slice| slice.start <= at)
    }

    pub(super) fn bytes_of(&self, range: &Range<usize>) -> &'t [u8] {
        self.bytes.get(range.clone()).unwrap_or_default()
    }

    /// Stretches with words that no piece was found in.
    pub(super) fn gaps(&mut self) -> Vec<Range<usize>> {
        let known = self.gaps.take();
        let looked_at = known.as_deref().unwrap_or(&self.slices);
        let gaps: Vec<_> = looked_at.iter().flat_map(|range| self.gaps_in(range.clone())).collect();
        self.gaps = Some(gaps.clone());
        gaps
    }

    fn gaps_in(&self, range: Range<usize>) -> impl Iterator<Item = Range<usize>> {
        let mut at = range.start;
        std::iter::from_fn(move || {
            let start = self.next_unreached(at, range.end)?;
            let mut end = start;
            while end < range.end && !self.is_reached(end) {
                end += 1;
            }
            at = end;
            Some(start..end)
        })
    }

    /// The next letter that was not reached; 64 bytes are looked at in a step.
    fn next_unreached(&self, from: usize, end: usize) -> Option<usize> {
        let text = self.bytes.get(..end)?;
        // Behind a sign of several bytes.
        let mut behind = from;
        let mut first = from;
        while first < end {
            let reached = self.reached.get(first / 64).copied()?;
            let mut free = !reached & (u64::MAX << (first % 64));
            while free != 0 {
                let at = first / 64 * 64 + free.trailing_zeros() as usize;
                free &= free - 1;
                let byte = text.get(at)?;
                if at < behind || !is_letter(*byte) {
                    continue;
                }
                match mark_length(text, at) {
                    0 => return Some(at),
                    length => behind = at + length,
                }
            }
            first = (first / 64 + 1) * 64;
        }
        None
    }
}

/// Finds a piece in the text of several that holds most of it; `missing` gets the words that this one
/// does not hold.
pub(super) fn piece_in_any(texts: &mut [Aligned<'_>], text: &str, mut missing: impl FnMut(&[u8])) {
    if let [only] = texts {
        return only.piece(text, missing);
    }
    let missing_in = |aligned: &mut Aligned<'_>| {
        let mut words: Vec<Box<[u8]>> = Vec::new();
        aligned.piece(text, |word| words.push(word.into()));
        words
    };
    let least = texts.iter_mut().map(missing_in).min_by_key(Vec::len);
    least.unwrap_or_default().iter().for_each(|word| missing(word));
}

/// The first words of a piece.
fn first_words(rest: &[u8]) -> SmallVec<[&[u8]; WORDS]> {
    let mut words = SmallVec::new();
    let mut at = next_letter(rest, 0);
    while words.len() < WORDS && at < rest.len() {
        let end = word_end(rest, at);
        words.extend(rest.get(at..end));
        at = next_letter(rest, end.max(at + 1));
    }
    words
}

fn length(words: &[&[u8]]) -> usize {
    words.iter().map(|word| word.len()).sum()
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
        // German letters with two dots; before a quotation mark it is one itself.
        b'"' if mark_length(rest, 0) == 0 => 2,
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
        Some(b'}') if after.get(..signs).is_some_and(|signs| signs.contains(&b'{')) => {
            signs + name + 1
        }
        _ => signs + name,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What no piece reaches, and how many words of pieces are not in the text, or not in order.
    fn aligned(text: &str, pieces: &[&str]) -> (Vec<String>, u64) {
        let mut aligned = Aligned::whole(text);
        let mut missing = 0;
        pieces.iter().for_each(|piece| aligned.piece(piece, |_| missing += 1));
        missing += aligned.moved();
        let gaps = aligned.gaps().into_iter();
        (gaps.map(|gap| text[gap].trim().to_string()).collect(), missing)
    }

    #[test]
    fn what_no_piece_reaches_is_found() {
        let nothing: (Vec<String>, u64) = (Vec::new(), 0);
        assert_eq!(aligned("High water at *noon*.", &["High water at ", "noon", "."]), nothing);
        assert_eq!(aligned("High\n  water", &["High water"]), nothing);
        assert_eq!(aligned("a \"high\" tide", &["a “high” tide"]), nothing);
        assert_eq!(aligned("die M\"uhle", &["die Mühle"]), nothing);
        let (gaps, missing) = aligned("one two three four", &["one", "four"]);
        assert_eq!((gaps, missing), (vec!["two three".to_string()], 0));
        let (gaps, missing) = aligned("one two", &["one two", " two"]);
        assert_eq!((gaps.len(), missing), (0, 1), "doubled");
        let (gaps, missing) = aligned("weir sluice pond", &["sluice", "weir", "pond"]);
        assert_eq!((gaps.len(), missing), (0, 1), "swapped");
    }
}
