//! Text, so that it is read as text. A sign of zero width parts signs that would have a meaning, and is
//! not read as one.

use super::super::read::{entity_at, timestamp_at};
use super::super::read::{is_closing, is_opening, is_white, starts_element, starts_plain_link};

/// The sign that keeps others apart.
pub(super) const APART: char = '\u{200b}';

/// What stands around a text.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct Surroundings {
    /// Whether it is the last in its line, so that nothing behind it can end what it begins.
    pub(super) is_last: bool,
    /// The mark of the emphasis that it stands in.
    pub(super) marks: [bool; 4],
    pub(super) is_cell: bool,
    /// Whether a closing bracket would end a description.
    pub(super) is_link: bool,
}

/// The marks of emphasis whose content is read.
pub(super) const MARKS: [char; 4] = ['*', '/', '_', '+'];

/// All marks of emphasis.
const ALL_MARKS: [char; 6] = ['*', '/', '_', '+', '=', '~'];

/// Where signs stand last in a text that could end what others begin.
struct LastEnds {
    /// Marks that could close an emphasis.
    closings: [usize; 6],
    dollar: usize,
    colon: usize,
    angle: usize,
}

impl LastEnds {
    fn of(text: &str) -> Self {
        let last = |sign: char| text.rfind(sign).unwrap_or(0);
        let mut ends =
            Self { closings: [0; 6], dollar: last('$'), colon: last(':'), angle: last('>') };
        let mut before = ' ';
        let mut characters = text.char_indices().peekable();
        while let Some((at, c)) = characters.next() {
            let next = characters.peek().map(|(_, next)| *next);
            // What would lower text is kept apart from what is behind it, and could end emphasis then.
            let may_be_apart = c == '_' && (next == Some('{') || matches!(before, 'c' | 'l'));
            if let Some(kind) = ALL_MARKS.iter().position(|mark| *mark == c)
                && !is_white(before)
                && (is_closing(next) || may_be_apart)
                && let Some(end) = ends.closings.get_mut(kind)
            {
                *end = at;
            }
            before = c;
        }
        ends
    }

    /// Whether the emphasis that a mark begins here may end somewhere.
    fn may_end(&self, mark: char, at: usize, is_last: bool) -> bool {
        let kind = ALL_MARKS.iter().position(|known| *known == mark);
        let end = kind.and_then(|kind| self.closings.get(kind)).copied().unwrap_or(0);
        // There is something between the marks.
        end > at + 1 || !is_last
    }
}

/// Writes text behind what is written already.
pub(super) fn push(out: &mut String, text: &str, around: Surroundings) {
    const SIGNS: &[char] =
        &['*', '/', '_', '+', '=', '~', '^', '[', ']', '<', '\\', '$', '@', '{', ':', '|'];
    if !text.contains(SIGNS) {
        return out.push_str(text);
    }
    let ends = LastEnds::of(text);
    for (at, c) in text.char_indices() {
        let rest = text.get(at..).unwrap_or_default();
        let next = rest.chars().nth(1);
        let before = out.chars().next_back();
        if closes_emphasis(c, before, next, around) || opens_again(c, at, &ends, before, around) {
            out.push(APART);
        }
        match c {
            '|' if around.is_cell => out.push_str("\\vert{}"),
            ']' if around.is_link
                && (next == Some(']') || next.is_none() || before == Some(']')) =>
            {
                if before == Some(']') {
                    out.push(APART);
                }
                out.push(']');
                if next.is_none() {
                    out.push(APART);
                }
            }
            _ => {
                out.push(c);
                if has_meaning(c, text, at, &ends, before, out, around) {
                    out.push(APART);
                }
            }
        }
    }
}

/// Whether a mark would end the emphasis around it.
fn closes_emphasis(
    c: char,
    before: Option<char>,
    next: Option<char>,
    around: Surroundings,
) -> bool {
    let is_around = MARKS.iter().zip(around.marks).any(|(mark, is_around)| is_around && *mark == c);
    is_around && before.is_some_and(|before| !is_white(before)) && is_closing(next)
}

/// Whether a mark would begin emphasis in emphasis of its own kind.
fn opens_again(
    c: char,
    at: usize,
    ends: &LastEnds,
    before: Option<char>,
    around: Surroundings,
) -> bool {
    let is_around = MARKS.iter().zip(around.marks).any(|(mark, is_around)| is_around && *mark == c);
    is_around && is_opening(before) && ends.may_end(c, at, true)
}

/// Whether a sign begins something that it is not meant to begin.
fn has_meaning(
    c: char,
    text: &str,
    at: usize,
    ends: &LastEnds,
    before: Option<char>,
    out: &str,
    around: Surroundings,
) -> bool {
    let rest = text.get(at..).unwrap_or_default();
    let behind = rest.get(c.len_utf8()..).unwrap_or_default();
    match c {
        '*' | '/' | '_' | '+' | '=' | '~' => {
            let opens = is_opening(before)
                && behind.chars().next().map_or(!around.is_last, |c| !is_white(c));
            // The end of the emphasis around it is the end of all that it could begin.
            let is_around =
                MARKS.iter().zip(around.marks).any(|(m, is_around)| is_around && *m == c);
            opens && ends.may_end(c, at, around.is_last || is_around)
                || c == '_' && (calls(out, behind) || behind.starts_with('{'))
        }
        '^' => behind.starts_with('{'),
        '[' => {
            behind.starts_with('[')
                || behind.starts_with("fn:")
                || behind.starts_with("cite")
                || timestamp_at(rest)
        }
        '<' => {
            behind.starts_with('<')
                || behind.starts_with("%%(")
                || timestamp_at(rest)
                || ends.colon > at && ends.angle > at
        }
        '\\' => match behind.chars().next() {
            Some(c) => {
                c.is_ascii_alphabetic() && is_command(behind)
                    || matches!(c, '(' | '[' | '\\' | '_' | '-')
            }
            None => true,
        },
        '$' => {
            let is_formula = |c: char| !c.is_whitespace() && !matches!(c, '.' | ',' | ';');
            let opens = behind.chars().next().is_none_or(is_formula);
            opens && (ends.dollar > at || !around.is_last)
        }
        '@' => behind.starts_with('@'),
        '{' => behind.starts_with("{{"),
        ':' => !around.is_link && starts_plain_link(out, behind),
        _ => false,
    }
}

/// Names of characters, and what LaTeX could mean.
fn is_command(behind: &str) -> bool {
    entity_at(behind) || behind.starts_with(|c: char| c.is_ascii_alphabetic())
}

/// `src_name{` and `call_name(`
fn calls(out: &str, behind: &str) -> bool {
    let is_word = |word: &str| {
        out.strip_suffix('_').and_then(|out| out.strip_suffix(word)).is_some_and(|outer| {
            !outer.chars().next_back().is_some_and(|c| c.is_alphanumeric() || c == '_')
        })
    };
    let opens =
        |sign: char| behind.split([' ', '\n']).next().is_some_and(|word| word.contains(sign));
    is_word("src") && opens('{') || is_word("call") && opens('(')
}

/// Lines of a paragraph, so that none begins another element.
pub(super) fn lines(text: &str, is_item: bool) -> String {
    let mut out = String::with_capacity(text.len());
    for (at, line) in text.split('\n').enumerate() {
        if at > 0 {
            out.push('\n');
        }
        let is_first_of_item = is_item && at == 0;
        let begins = match is_first_of_item {
            // Nothing but an item's own signs begins in its first line.
            true => begins_item_sign(line),
            false => starts_element(line),
        };
        if begins {
            out.push(APART);
        }
        match is_first_of_item && (line.contains(" :: ") || line.ends_with(" ::")) {
            true => out.push_str(&line.replace(" ::", &format!(" :{APART}:"))),
            false => out.push_str(line),
        }
    }
    out
}

/// What would be the counter or the box of an item.
fn begins_item_sign(line: &str) -> bool {
    line.starts_with("[@") || ["[ ]", "[-]", "[X]", "[x]"].iter().any(|sign| line.starts_with(sign))
}
