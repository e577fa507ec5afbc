//! Headings: by their words (chapter, part), by a line drawn below them, by their capitals.

use super::inlines::inlines;
use super::lines::{Chunk, Line};
use super::{Reader, small};
use crate::document::{Block, BlockKind, Heading, Inline};

/// The longest line that is taken for a heading, in characters.
const LONGEST: usize = 70;

/// Words that begin the heading of a part, and of a chapter.
const PARTS: [&str; 7] = ["part", "book", "teil", "buch", "partie", "parte", "deel"];
const CHAPTERS: [&str; 7] =
    ["chapter", "kapitel", "chapitre", "capítulo", "capitulo", "capitolo", "hoofdstuk"];
/// Headings that stand by themselves.
const ALONE: [&str; 28] = [
    "prologue",
    "epilogue",
    "introduction",
    "preface",
    "foreword",
    "afterword",
    "appendix",
    "acknowledgements",
    "acknowledgments",
    "dedication",
    "glossary",
    "bibliography",
    "notes",
    "interlude",
    "prolog",
    "epilog",
    "vorwort",
    "nachwort",
    "einleitung",
    "anhang",
    "danksagung",
    "prólogo",
    "epílogo",
    "prefacio",
    "préface",
    "épilogue",
    "prologo",
    "epilogo",
];
const NUMBERS: [&str; 20] = [
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
    "thirteen",
    "fourteen",
    "fifteen",
    "sixteen",
    "seventeen",
    "eighteen",
    "nineteen",
    "twenty",
];

/// What a line is the heading of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Rank {
    Part,
    Chapter,
    /// In capitals, inside of a chapter.
    Section,
}

/// Which levels the headings of this text have.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Ladder {
    has_parts: bool,
    has_chapters: bool,
}

impl Ladder {
    pub(super) fn of(chunks: &[Chunk<'_>]) -> Self {
        let mut ladder = Self::default();
        for chunk in chunks {
            match chunk.lines.first().and_then(|line| by_words(line.text)) {
                Some(Rank::Part) => ladder.has_parts = true,
                Some(Rank::Chapter) => ladder.has_chapters = true,
                _ => {}
            }
        }
        ladder
    }

    fn level(self, rank: Rank) -> u8 {
        match rank {
            Rank::Part => 1,
            Rank::Chapter => 1 + u8::from(self.has_parts),
            Rank::Section => 1 + u8::from(self.has_parts) + u8::from(self.has_chapters),
        }
    }
}

impl Reader {
    /// A heading; gives how many chunks it takes.
    pub(super) fn heading(&mut self, rest: &[Chunk<'_>], blocks: &mut Vec<Block>) -> Option<usize> {
        let chunk = rest.first().filter(|_| self.depth == 0)?;
        let first = chunk.lines.first()?;
        if let [words, line] = chunk.lines.as_slice()
            && let Some(level) = underline(words, line)
        {
            self.took("headings with a line below", chunk.place());
            blocks.push(heading(chunk, level, inlines(words.text)));
            return Some(1);
        }
        if first.text.chars().count() > LONGEST || chunk.lines.len() > 2 {
            return None;
        }
        let rank = by_words(first.text).or_else(|| {
            chunk.only().filter(|line| is_in_capitals(line.text)).map(|_| Rank::Section)
        })?;
        let (title, taken) = match (chunk.lines.get(1), rest) {
            (Some(second), _) => (Some(second), 1),
            (None, [_, next, _, ..]) if rank != Rank::Section && is_bare(first.text) => {
                (next.lines.first().filter(|_| next.lines.len() == 1 && is_title(next)), 2)
            }
            _ => (None, 1),
        };
        // A chapter's title stands on a line of its own.
        if chunk.lines.len() == 2 && title.is_some_and(|title| !is_title_line(title)) {
            return None;
        }
        let mut content = vec![Inline::Text(first.text.into())];
        if let Some(title) = title {
            let name = first.text.trim_end_matches([':', '.']);
            content = vec![Inline::Text(format!("{name}: ").into())];
            content.extend(inlines(title.text));
        }
        let taken = if title.is_some() { taken } else { 1 };
        self.took(
            match rank {
                Rank::Part => "headings of parts",
                Rank::Chapter => "headings of chapters",
                Rank::Section => "headings in capitals",
            },
            chunk.place(),
        );
        blocks.push(heading(chunk, self.ladder.level(rank), content));
        Some(taken)
    }
}

/// Whether a heading is nothing but a word and a number.
fn is_bare(line: &str) -> bool {
    line.split_whitespace().count() == 2
}

fn is_title(chunk: &Chunk<'_>) -> bool {
    chunk.only().is_some_and(|line| is_title_line(&line)) && chunk.blanks <= 2
}

fn is_title_line(line: &Line<'_>) -> bool {
    line.text.chars().count() <= LONGEST
        && line.text.starts_with(char::is_uppercase)
        && !line.text.ends_with(['.', ',', ';', ':', '”', '"'])
        && by_words(line.text).is_none()
}

fn heading(chunk: &Chunk<'_>, level: u8, content: Vec<Inline>) -> Block {
    let heading = Heading { level, content, ..Heading::default() };
    Block::new(BlockKind::Heading(Box::new(heading))).at(chunk.place())
}

/// The level of a heading that a line is drawn below: `===` is the first, `---` the second.
fn underline(words: &Line<'_>, line: &Line<'_>) -> Option<u8> {
    let mut signs = line.text.chars();
    let sign = signs.next()?;
    let length = line.text.chars().count();
    let is_line = length >= 3 && signs.all(|c| c == sign);
    let fits = length + 3 >= words.text.chars().count() && words.text.chars().count() <= 120;
    let level = match sign {
        '=' => 1,
        '-' => 2,
        '~' => 3,
        _ => return None,
    };
    (is_line && fits && words.text.starts_with(|c: char| c.is_alphanumeric() || c == '“'))
        .then_some(level)
}

fn by_words(line: &str) -> Option<Rank> {
    let words = small(line);
    let mut parts = words.split(' ');
    let first = parts.next()?.trim_end_matches([':', '.']);
    let number = parts.next().map(|word| word.trim_end_matches([':', '.', '-', '–', '—', ',']));
    let is_number = number.is_some_and(|number| {
        NUMBERS.contains(&number)
            || number.split('-').next().is_some_and(|tens| tens == "twenty" || tens == "thirty")
            || (!number.is_empty() && number.bytes().all(|byte| byte.is_ascii_digit()))
            || (!number.is_empty() && number.bytes().all(|byte| b"ivxlc".contains(&byte)))
    });
    // A sentence may begin with these words.
    let is_title = words.chars().count() <= LONGEST && !line.trim_end().ends_with(['.', ',', ';']);
    if PARTS.contains(&first) && is_number && is_title {
        return Some(Rank::Part);
    }
    if CHAPTERS.contains(&first) && is_number && is_title {
        return Some(Rank::Chapter);
    }
    (ALONE.contains(&first) && number.is_none()).then_some(Rank::Chapter)
}

/// A line of words in capitals, as typewriters made headings.
fn is_in_capitals(line: &str) -> bool {
    let letters: Vec<char> = line.chars().filter(|c| c.is_alphabetic()).collect();
    letters.len() >= 4
        && line.chars().count() <= LONGEST
        && !letters.iter().any(|c| c.is_lowercase())
        && !line.ends_with([',', ';'])
        && line.starts_with(|c: char| c.is_alphanumeric())
        && letters.len() * 2 > line.chars().count()
}
