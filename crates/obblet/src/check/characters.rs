//! Signs that nobody meant: control characters, misread bytes, dashes of two kinds, words said twice.

use super::Subject;
use crate::document::{BlockKind, Inline, Node, Place, plain_text};
use crate::findings::Code;
use crate::format::Format;
use std::collections::BTreeMap;

/// What UTF-8 looks like that was read as something else: the two or three characters that a
/// quotation mark, a dash or an accented letter becomes.
const MISREAD: &[(&str, &str)] = &[
    ("â€™", "’"),
    ("â€œ", "“"),
    ("â€\u{9d}", "”"),
    ("â€“", "–"),
    ("â€”", "—"),
    ("â€¦", "…"),
    ("Ã©", "é"),
    ("Ã¨", "è"),
    ("Ã¼", "ü"),
    ("Ã¶", "ö"),
    ("Ã¤", "ä"),
    ("ÃŸ", "ß"),
    ("Ã±", "ñ"),
    ("Ã§", "ç"),
    ("Â£", "£"),
    ("Â°", "°"),
    ("Â ", "a space"),
];

/// What all of these begin with.
const MISREAD_FIRST: [char; 3] = ['â', 'Ã', 'Â'];

/// How a text parts its thoughts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Dash {
    Hyphen,
    SpacedShort,
    SpacedLong,
    TightLong,
}

impl Dash {
    fn shown(self) -> &'static str {
        match self {
            Self::Hyphen => "“ - ”",
            Self::SpacedShort => "“ – ”",
            Self::SpacedLong => "“ — ”",
            Self::TightLong => "“—” without spaces",
        }
    }
}

impl Subject<'_> {
    pub(super) fn characters(&mut self) {
        let mut found: Vec<(Code, String, Place)> = Vec::new();
        let mut dashes: BTreeMap<Dash, Vec<Place>> = BTreeMap::new();
        self.each_inline(|place, inline| {
            let Inline::Text(text) = inline else { return };
            if let Some(c) = text.chars().find(|c| is_stray(*c)) {
                found.push((Code::CharactersControl, format!("U+{:04X}", c as u32), place));
            }
            let misread = || MISREAD.iter().find(|(seen, _)| text.contains(seen));
            if text.contains(MISREAD_FIRST)
                && let Some((seen, meant)) = misread()
            {
                found.push((Code::TextMisread, format!("“{seen}” for {meant}"), place));
            }
            each_dash(text, |dash| dashes.entry(dash).or_default().push(place));
        });
        // Words that stand twice are looked for in whole paragraphs.
        for node in self.nodes() {
            let Node::Block(block) = node else { continue };
            let BlockKind::Paragraph(content) = &block.kind else { continue };
            if let Some(word) = repeated_word(&plain_text(content)) {
                found.push((Code::WordRepeated, word, block.place));
            }
        }
        for (code, subject, place) in found {
            self.findings.add_about(code, &subject, Some(place));
        }
        self.mixed_dashes(&dashes);
    }

    /// The kinds of dashes that are rarer than the usual one of this text.
    fn mixed_dashes(&mut self, dashes: &BTreeMap<Dash, Vec<Place>>) {
        // In these a hyphen is what a dash is made of, or a mark of its own.
        if matches!(self.format, Format::Latex) {
            return;
        }
        let Some((usual, _)) = dashes.iter().max_by_key(|(_, places)| places.len()) else { return };
        for (dash, places) in dashes.iter().filter(|(dash, _)| *dash != usual) {
            let subject = format!("{} beside {}", dash.shown(), usual.shown());
            self.findings.add_about(Code::DashesMixed, &subject, places.first().copied());
        }
    }
}

/// Characters that no text holds on purpose.
fn is_stray(c: char) -> bool {
    (c.is_control() && c != '\t')
        || matches!(c, '\u{FFFD}' | '\u{FFF9}'..='\u{FFFC}' | '\u{E000}'..='\u{F8FF}')
}

fn each_dash(text: &str, mut each: impl FnMut(Dash)) {
    let characters: Vec<char> = text.chars().collect();
    let dashes = characters.iter().enumerate().filter(|(_, c)| matches!(c, '-' | '–' | '—'));
    for (at, c) in dashes {
        let before = characters.get(..at).unwrap_or_default();
        let behind = characters.get(at + 1..).unwrap_or_default();
        let are = |is: fn(char) -> bool| {
            before.last().is_some_and(|c| is(*c)) && behind.first().is_some_and(|c| is(*c))
        };
        let is_spaced = are(char::is_whitespace);
        let is_between_words = || {
            let word_before = before.iter().rev().find(|c| !c.is_whitespace());
            let word_behind = behind.iter().find(|c| !c.is_whitespace());
            word_before.is_some_and(|c| c.is_alphabetic() || matches!(c, '”' | '’' | ')' | ','))
                && word_behind.is_some_and(|c| c.is_alphabetic())
        };
        match c {
            '-' if is_spaced && is_between_words() => each(Dash::Hyphen),
            '–' if is_spaced && is_between_words() => each(Dash::SpacedShort),
            '—' if is_spaced => each(Dash::SpacedLong),
            '—' if are(char::is_alphabetic) => each(Dash::TightLong),
            _ => {}
        }
    }
}

/// A word that stands twice in a row; a few may.
fn repeated_word(text: &str) -> Option<String> {
    const MAY: [&str; 10] = ["had", "that", "bye", "ha", "tut", "sie", "die", "der", "das", "no"];
    let words: Vec<&str> = text.split_whitespace().collect();
    words.windows(2).find_map(|pair| {
        let [one, two] = pair else { return None };
        let is_word = one.chars().count() > 1 && one.chars().all(char::is_lowercase);
        let bare = two.trim_end_matches(|c: char| !c.is_alphabetic());
        (is_word && *one == bare && !MAY.contains(one)).then(|| (*one).to_string())
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_words_said_twice_are_found() {
        for (text, expected) in [
            ("down to the the mill", Some("the")),
            ("at the end, end of all", None),
            ("the bell rang, and and then", Some("and")),
            ("12 12 and He had had it", None),
            ("very very.", Some("very")),
        ] {
            assert_eq!(repeated_word(text).as_deref(), expected, "{text}");
        }
    }
}
