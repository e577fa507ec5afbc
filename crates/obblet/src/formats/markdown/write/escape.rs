//! Which characters of a text need a backslash or a character reference.

use crate::formats::markdown::read::grammar::{bare_address_hooks, is_reference};
use crate::formats::markdown::{Switch, Switches};

/// How many characters are escaped.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(super) enum Care {
    /// None: the text usually means itself.
    Least,
    /// Those that could mean something where they stand.
    Usual,
    /// All that can mean anything anywhere.
    Most,
}

/// What stands around a stretch of text.
#[derive(Debug, Clone, Copy)]
pub(super) struct Around {
    /// The character before, if any, in the same line.
    pub(super) before: Option<char>,
    /// The character behind, when the text's end is not the line's.
    pub(super) behind: Option<char>,
    /// Between the brackets of a link, span or picture.
    pub(super) in_brackets: bool,
    /// A pipe parts cells.
    pub(super) in_cell: bool,
}

/// The text with its escapes.
pub(super) fn escaped(text: &str, around: Around, care: Care, switches: Switches) -> String {
    let special = |c: char| c.is_ascii_punctuation() || c.is_ascii_control();
    if care == Care::Least && !text.contains(|c: char| c.is_ascii_control()) {
        return text.to_string();
    }
    if !text.contains(special) {
        return text.to_string();
    }
    let hooks = match care {
        Care::Usual if switches.has(Switch::BareAddresses) => bare_address_hooks(text),
        _ => Vec::new(),
    };
    let mut out = String::with_capacity(text.len() + 16);
    let mut before = around.before;
    for (index, c) in text.char_indices() {
        let tail = text.get(index..).unwrap_or_default();
        let next = tail.chars().nth(1).or(around.behind);
        if c.is_ascii_control() && c != '\t' {
            out.push_str(&format!("&#{};", u32::from(c)));
        } else {
            let escapes = match care {
                Care::Least => false,
                Care::Usual => {
                    hooks.binary_search(&index).is_ok()
                        || means_something(c, before, next, tail, around, switches)
                }
                // In a cell, a pipe gets its own backslash.
                Care::Most => c.is_ascii_punctuation() && !(around.in_cell && c == '|'),
            };
            if escapes {
                out.push('\\');
            }
            out.push(c);
        }
        before = Some(c);
    }
    out
}

/// Whether a character could mean something between these neighbours.
fn means_something(
    c: char,
    before: Option<char>,
    next: Option<char>,
    tail: &str,
    around: Around,
    switches: Switches,
) -> bool {
    let space = |c: Option<char>| c.is_none_or(char::is_whitespace);
    let word = |c: Option<char>| c.is_some_and(char::is_alphanumeric);
    let lone = space(before) && space(next);
    match c {
        '\\' => next.is_none_or(|next| next.is_ascii_punctuation()),
        '`' => true,
        '*' => !lone,
        '_' => !(lone || word(before) && word(next)),
        '[' => true,
        ']' => around.in_brackets,
        '!' => next == Some('['),
        '<' => next.is_none_or(|next| next.is_ascii_alphanumeric() || "/!?.".contains(next)),
        '&' => is_reference(tail),
        '~' => {
            let either = switches.has(Switch::Strikethrough) || switches.has(Switch::Scripts);
            either && !lone
        }
        '^' => switches.has(Switch::Scripts) && !lone || next == Some('['),
        '=' => switches.has(Switch::Highlight) && (before == Some('=') || next == Some('=')),
        '+' => switches.has(Switch::Insertion) && (before == Some('+') || next == Some('+')),
        '$' => switches.has(Switch::Math),
        '{' => switches.has(Switch::Attributes) && matches!(before, Some(')' | ']' | '`')),
        '"' | '\'' => switches.has(Switch::SmartPunctuation),
        '-' | '.' => {
            switches.has(Switch::SmartPunctuation) && (before == Some(c) || next == Some(c))
        }
        _ => false,
    }
}
