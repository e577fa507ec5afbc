//! Changing the case of letters, and leaving names and acronyms alone.

use super::Case;
use std::collections::HashMap;

/// Words that keep their own spelling, whatever becomes of the others.
#[derive(Debug, Default)]
pub(super) struct ProtectedWords {
    /// Each under its small letters.
    by_letters: HashMap<String, String>,
    /// The most words that one of them has.
    longest: usize,
}

impl ProtectedWords {
    pub(super) fn of(words: &[String]) -> Self {
        let by_letters = words.iter().map(|word| (word.to_lowercase(), word.clone())).collect();
        let longest = words.iter().map(|word| word.split_whitespace().count()).max().unwrap_or(0);
        Self { by_letters, longest }
    }
}

/// Small words of English titles.
const SMALL_WORDS: [&str; 23] = [
    "a", "an", "and", "as", "at", "but", "by", "for", "from", "if", "in", "into", "nor", "of",
    "on", "or", "over", "per", "the", "to", "up", "via", "with",
];

/// A piece of text: a word, or what stands between words.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
struct Token {
    from: usize,
    to: usize,
    is_word: bool,
}

/// The characters of a text, each with what becomes of it: none or several, as `ß` becomes `SS`.
pub(super) fn changed(
    text: &[char],
    case: Case,
    language: &str,
    protected: &ProtectedWords,
) -> Vec<String> {
    let tokens = tokens(text);
    let words: Vec<Token> = tokens.iter().copied().filter(|token| token.is_word).collect();
    let mut out: Vec<String> = text.iter().map(ToString::to_string).collect();
    let mut at = 0;
    while let Some(&word) = words.get(at) {
        if let Some((spelled, count)) = protected_at(text, &words, at, protected) {
            respell(&mut out, &words, at, count, &spelled);
            at += count;
            continue;
        }
        let place = Place {
            begins_sentence: begins_sentence(text, word.from),
            is_first: at == 0,
            is_last: at + 1 == words.len(),
        };
        change_word(text, word, case, place, language, &mut out);
        at += 1;
    }
    out
}

/// Where a word stands.
struct Place {
    begins_sentence: bool,
    is_first: bool,
    is_last: bool,
}

fn change_word(
    text: &[char],
    word: Token,
    case: Case,
    place: Place,
    language: &str,
    out: &mut [String],
) {
    let letters = text.get(word.from..word.to).unwrap_or_default();
    let small: String = letters.iter().collect::<String>().to_lowercase();
    let is_english = language == "en" || language.starts_with("en-");
    // “I” stands for somebody, and is no letter.
    let is_i = is_english && (small == "i" || small.starts_with("i’") || small.starts_with("i'"));
    let is_small_word = is_english && SMALL_WORDS.contains(&small.as_str());
    let is_capitalised = letters.first().is_some_and(|letter| letter.is_uppercase());
    let begins_with_capital = match case {
        Case::Capitals => true,
        Case::Lower => is_i || (place.begins_sentence && is_capitalised),
        Case::Title => place.is_first || place.is_last || place.begins_sentence || !is_small_word,
    };
    for (at, letter) in letters.iter().enumerate() {
        let is_capital = case == Case::Capitals || (at == 0 && begins_with_capital);
        let is_end = at > 0 && at + 1 == letters.len();
        if let Some(out) = out.get_mut(word.from + at) {
            *out = letter_as(*letter, is_capital, is_end, language);
        }
    }
}

fn letter_as(letter: char, is_capital: bool, ends_word: bool, language: &str) -> String {
    let is_turkic = ["tr", "az"].iter().any(|tag| language.split('-').next() == Some(tag));
    match (letter, is_capital) {
        ('i', true) if is_turkic => "İ".into(),
        ('I', false) if is_turkic => "ı".into(),
        ('Σ', false) if ends_word => "ς".into(),
        (letter, true) => letter.to_uppercase().collect(),
        (letter, false) => letter.to_lowercase().collect(),
    }
}

/// The protected words that begin here, as they are spelled, and how many they are.
fn protected_at(
    text: &[char],
    words: &[Token],
    at: usize,
    protected: &ProtectedWords,
) -> Option<(String, usize)> {
    let first = words.get(at)?;
    (1..=protected.longest).rev().find_map(|count| {
        let last = words.get(at + count - 1)?;
        let here: String = text.get(first.from..last.to)?.iter().collect();
        let spelled = protected.by_letters.get(&here.to_lowercase())?;
        Some((spelled.clone(), count))
    })
}

/// Gives protected words their own spelling.
fn respell(out: &mut [String], words: &[Token], at: usize, count: usize, spelled: &str) {
    let (Some(first), Some(last)) = (words.get(at), words.get(at + count - 1)) else { return };
    let letters: Vec<char> = spelled.chars().collect();
    if letters.len() != last.to - first.from {
        return;
    }
    for (out, letter) in out.iter_mut().skip(first.from).zip(letters) {
        *out = letter.to_string();
    }
}

fn tokens(text: &[char]) -> Vec<Token> {
    let mut tokens: Vec<Token> = Vec::new();
    for (at, &c) in text.iter().enumerate() {
        // An apostrophe or a period between letters belongs to the word.
        let is_inside = matches!(c, '\'' | '’')
            && at > 0
            && text.get(at - 1).is_some_and(|c| c.is_alphabetic())
            && text.get(at + 1).is_some_and(|c| c.is_alphabetic());
        let is_word = c.is_alphanumeric() || is_inside;
        match tokens.last_mut() {
            Some(last) if last.is_word == is_word => last.to = at + 1,
            _ => tokens.push(Token { from: at, to: at + 1, is_word }),
        }
    }
    tokens
}

/// Whether a sentence begins here: nothing stands before, or the end of another.
fn begins_sentence(text: &[char], at: usize) -> bool {
    let before = text.get(..at).unwrap_or_default();
    let is_between = |c: &&char| {
        (c.is_whitespace() && **c != BOUNDARY)
            || matches!(c, '"' | '\'' | '“' | '‘' | '«' | '(' | '[' | '”' | '’' | ')')
    };
    let end = before.iter().rev().find(|c| !is_between(c));
    let ends_sentence = |c: &char| matches!(c, '.' | '!' | '?' | '…' | &BOUNDARY);
    // No sentence begins right behind a period, as in 3.5 or e.g.
    end.is_none_or(ends_sentence) && before.last() != Some(&'.')
}

/// Stands between the texts of two blocks.
pub(super) const BOUNDARY: char = '\u{2029}';

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn cases() {
        use Case::{Capitals, Lower, Title};
        let words = ["MTMT", "Ada Quill", "tidelog", "NASA"].map(String::from);
        let protected = ProtectedWords::of(&words);
        let cases = [
            (Capitals, "en", "Open today", "OPEN TODAY"),
            (Capitals, "de", "Straße", "STRASSE"),
            (Capitals, "en", "Use tidelog now", "USE tidelog NOW"),
            (Capitals, "tr", "iki", "İKİ"),
            (
                Lower,
                "en",
                "OPEN TODAY. ASK ADA QUILL! “WHO?” I’LL",
                "Open today. Ask Ada Quill! “Who?” I’ll",
            ),
            (Lower, "en", "THE MTMT AND nasa", "The MTMT and NASA"),
            (Lower, "en", "open NOW", "open now"),
            (Lower, "el", "ΟΔΟΣ", "Οδος"),
            (Title, "en", "the mill of the upper weir", "The Mill of the Upper Weir"),
            (Title, "en", "a log to hold on to", "A Log to Hold on To"),
            (Title, "en", "don't ask the mtmt", "Don't Ask the MTMT"),
            (Title, "de", "der weg", "Der Weg"),
            (Title, "en", "", ""),
        ];
        for (case, language, text, expected) in cases {
            let text: Vec<char> = text.chars().collect();
            assert_eq!(changed(&text, case, language, &protected).concat(), expected);
        }
    }
}
