//! Words in a row or alone, wherever they stand: as often in a document as in its sources, or in
//! an output as in its document.

use super::letters::{next_letter, word_end};
use super::pieces::{self, Pieces};
use crate::document::{Document, Place};
use crate::format::Format;
use crate::hashing::QuickMap;
use memchr::memmem;

/// The least words and bytes of a phrase that says something.
const WORDS: usize = 3;
const BYTES: usize = 16;
/// Bytes that are gone through for all phrases together.
const LONGEST_SEARCH: usize = 1 << 28;

/// The words of two texts, of which one should have all that the other one has; one space between two.
pub(super) struct Phrases {
    wanted: Vec<u8>,
    there: Vec<u8>,
    /// Comments and names of commands are no words.
    is_latex: bool,
    budget: usize,
}

impl Phrases {
    /// What a document has of its sources.
    pub(super) fn of_reading(format: Format, sources: &[&str], document: &Document) -> Self {
        let mut phrases = Self::new(format);
        for line in sources.iter().flat_map(|text| text.lines()) {
            let line = phrases.without_comment(line.as_bytes());
            add_words(&mut phrases.wanted, line, phrases.is_latex);
        }
        phrases.there = words_of(document);
        phrases
    }

    /// What an output has of its document.
    pub(super) fn of_writing<'t>(
        format: Format,
        document: &Document,
        output: impl Iterator<Item = &'t [u8]>,
    ) -> Self {
        let mut phrases = Self::new(format);
        phrases.wanted = words_of(document);
        output.for_each(|text| {
            add_words(&mut phrases.there, text, phrases.is_latex);
        });
        phrases
    }

    fn new(format: Format) -> Self {
        Self {
            wanted: vec![b' '],
            there: vec![b' '],
            is_latex: format == Format::Latex,
            budget: LONGEST_SEARCH,
        }
    }

    /// Whether these words are there in this order as often as they are wanted.
    pub(super) fn are_kept(&mut self, text: &[u8]) -> bool {
        let mut phrase = vec![b' '];
        let words = add_words(&mut phrase, text, self.is_latex);
        let looked_at = self.wanted.len() + self.there.len();
        if words < WORDS || phrase.len() < BYTES || self.budget < looked_at {
            return false;
        }
        self.budget -= looked_at;
        let times = |text: &[u8]| memmem::find_iter(text, &phrase).count();
        let kept = times(&self.there);
        kept > 0 && kept >= times(&self.wanted)
    }

    /// Of these texts the words that are there as often as they are wanted.
    pub(super) fn kept_words<'t>(&self, texts: impl Iterator<Item = &'t [u8]>) -> KeptWords {
        let mut asked = Vec::new();
        texts.for_each(|text| {
            add_words(&mut asked, text, self.is_latex);
        });
        let mut counts: QuickMap<Box<[u8]>, Counts> = QuickMap::default();
        for word in separate(&asked) {
            counts.entry(word.into()).or_default();
        }
        for word in separate(&self.there) {
            counts.get_mut(word).iter_mut().for_each(|counts| counts.there += 1);
        }
        for word in separate(&self.wanted) {
            counts.get_mut(word).iter_mut().for_each(|counts| counts.wanted += 1);
        }
        counts.retain(|_, counts| counts.there > 0 && counts.there >= counts.wanted);
        KeptWords(counts)
    }

    /// A line up to the `%` that begins a comment.
    fn without_comment<'l>(&self, line: &'l [u8]) -> &'l [u8] {
        let is_escaped =
            |sign: usize| sign.checked_sub(1).and_then(|at| line.get(at)) == Some(&b'\\');
        let comment = memchr::memchr_iter(b'%', line).find(|sign| !is_escaped(*sign));
        comment.filter(|_| self.is_latex).and_then(|sign| line.get(..sign)).unwrap_or(line)
    }
}

/// Adds the words of a text, and says how many there are.
fn add_words(words: &mut Vec<u8>, text: &[u8], is_latex: bool) -> usize {
    let mut count = 0;
    let mut at = next_letter(text, 0);
    while at < text.len() {
        let end = word_end(text, at).max(at + 1);
        let is_command = is_latex && at.checked_sub(1).and_then(|at| text.get(at)) == Some(&b'\\');
        if !is_command {
            words.extend_from_slice(text.get(at..end).unwrap_or_default());
            words.push(b' ');
            count += 1;
        }
        at = next_letter(text, end);
    }
    count
}

/// The words of a document and its formulas.
fn words_of(document: &Document) -> Vec<u8> {
    let mut words = Words(vec![b' ']);
    pieces::give_blocks(&document.blocks, &mut words);
    pieces::give_beside(document, &mut words);
    words.0
}

struct Words(Vec<u8>);

#[derive(Default)]
struct Counts {
    wanted: u64,
    there: u64,
}

/// Words that are there as often as they are wanted.
#[derive(Default)]
pub(super) struct KeptWords(QuickMap<Box<[u8]>, Counts>);

impl KeptWords {
    pub(super) fn have(&self, word: &[u8]) -> bool {
        self.0.contains_key(word)
    }
}

fn separate(words: &[u8]) -> impl Iterator<Item = &[u8]> {
    words.split(|byte| *byte == b' ').filter(|word| !word.is_empty())
}

impl Pieces for Words {
    fn block(&mut self, _: Place) {}

    fn text(&mut self, text: &str) {
        add_words(&mut self.0, text.as_bytes(), false);
    }

    fn aside(&mut self, _: &str) {}

    fn raw(&mut self, _: &str, _: &str) {}

    fn formula(&mut self, source: &str) {
        add_words(&mut self.0, source.as_bytes(), true);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn phrases() -> Phrases {
        let source =
            "The weir is high. % the pond\nThe \\emph{sluice} is shut, the sluice is shut.";
        let mut phrases = Phrases::of_reading(Format::Latex, &[source], &Document::default());
        for text in ["the sluice is shut; The weir is", " high."] {
            add_words(&mut phrases.there, text.as_bytes(), false);
        }
        phrases
    }

    #[test]
    fn a_phrase_is_kept_that_the_document_has_as_often() {
        let mut phrases = phrases();
        assert!(phrases.are_kept(b"The weir {is} high"), "read in two pieces");
        assert!(!phrases.are_kept(b"sluice is shut"), "twice in the source");
        assert!(!phrases.are_kept(b"weir is"), "says too little");
    }

    #[test]
    fn a_word_is_kept_that_the_document_has_as_often() {
        let texts = [b"the weir and the sluice \\high pond".as_slice()];
        let kept = phrases().kept_words(texts.into_iter());
        assert!(kept.have(b"the") && kept.have(b"weir"));
        assert!(!kept.have(b"sluice"), "one is missing");
        assert!(!kept.have(b"and") && !kept.have(b"pond"), "in neither");
    }
}
