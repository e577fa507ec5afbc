//! Words of LaTeX in a row or alone, wherever they stand: as often in a document as in its sources.

use super::letters::{next_letter, word_end};
use super::pieces::Pieces;
use crate::document::Place;
use crate::hashing::QuickMap;
use memchr::memmem;

/// The least words and bytes of a phrase that says something.
const WORDS: usize = 3;
const BYTES: usize = 16;
/// Bytes that are gone through for all phrases together.
const LONGEST_SEARCH: usize = 1 << 28;

/// All words of sources and of the document that was read from them, with one space between two.
pub(super) struct Phrases {
    sources: Vec<u8>,
    document: Vec<u8>,
    budget: usize,
}

impl Phrases {
    pub(super) fn of_sources(texts: &[&str]) -> Self {
        let mut sources = vec![b' '];
        for line in texts.iter().flat_map(|text| text.lines()) {
            add_words(&mut sources, without_comment(line.as_bytes()));
        }
        Self { sources, document: vec![b' '], budget: LONGEST_SEARCH }
    }

    /// Whether the document has these words in this order as often as the sources have them.
    pub(super) fn are_kept(&mut self, text: &[u8]) -> bool {
        let mut phrase = vec![b' '];
        let words = add_words(&mut phrase, text);
        let looked_at = self.sources.len() + self.document.len();
        if words < WORDS || phrase.len() < BYTES || self.budget < looked_at {
            return false;
        }
        self.budget -= looked_at;
        let times = |text: &[u8]| memmem::find_iter(text, &phrase).count();
        let kept = times(&self.document);
        kept > 0 && kept >= times(&self.sources)
    }

    /// Of these texts the words that the document has as often as the sources have them.
    pub(super) fn kept_words<'t>(&self, texts: impl Iterator<Item = &'t [u8]>) -> KeptWords {
        let mut wanted = Vec::new();
        texts.for_each(|text| {
            add_words(&mut wanted, text);
        });
        let mut counts: QuickMap<Box<[u8]>, Counts> = QuickMap::default();
        for word in separate(&wanted) {
            counts.entry(word.into()).or_default();
        }
        for word in separate(&self.document) {
            counts.get_mut(word).iter_mut().for_each(|counts| counts.document += 1);
        }
        for word in separate(&self.sources) {
            counts.get_mut(word).iter_mut().for_each(|counts| counts.sources += 1);
        }
        counts.retain(|_, counts| counts.document > 0 && counts.document >= counts.sources);
        KeptWords(counts)
    }
}

#[derive(Default)]
struct Counts {
    document: u64,
    sources: u64,
}

/// Words that a document has as often as its sources.
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

/// A line up to the `%` that begins a comment.
fn without_comment(line: &[u8]) -> &[u8] {
    let is_escaped = |sign: usize| sign.checked_sub(1).and_then(|at| line.get(at)) == Some(&b'\\');
    let comment = memchr::memchr_iter(b'%', line).find(|sign| !is_escaped(*sign));
    comment.and_then(|sign| line.get(..sign)).unwrap_or(line)
}

/// Adds the words of a text, without the names of commands, and says how many there are.
fn add_words(words: &mut Vec<u8>, text: &[u8]) -> usize {
    let mut count = 0;
    let mut at = next_letter(text, 0);
    while at < text.len() {
        let end = word_end(text, at).max(at + 1);
        let is_command = at.checked_sub(1).and_then(|at| text.get(at)) == Some(&b'\\');
        if !is_command {
            words.extend_from_slice(text.get(at..end).unwrap_or_default());
            words.push(b' ');
            count += 1;
        }
        at = next_letter(text, end);
    }
    count
}

impl Pieces for Phrases {
    fn block(&mut self, _: Place) {}

    fn text(&mut self, text: &str) {
        add_words(&mut self.document, text.as_bytes());
    }

    fn aside(&mut self, _: &str) {}

    fn raw(&mut self, _: &str, _: &str) {}

    fn formula(&mut self, source: &str) {
        self.text(source);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn phrases() -> Phrases {
        let source =
            "The weir is high. % the pond\nThe \\emph{sluice} is shut, the sluice is shut.";
        let mut phrases = Phrases::of_sources(&[source]);
        phrases.text("the sluice is shut; The weir is");
        phrases.text(" high.");
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
