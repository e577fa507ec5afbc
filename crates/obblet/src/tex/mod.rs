//! The front of TeX: from characters to tokens, and from tokens to tokens that no macro stands for.
//!
//! It knows category codes as documents change them, groups, macros of every kind that LaTeX defines,
//! conditionals, counters and lengths, and files that are read in. What commands do is for the reader
//! behind it: it gets every command that is neither a macro nor something the front does itself.
//!
//! # Limits
//! [`Limits`](crate::limits::Limits) say how many macros a document may expand, and how many files and bytes it may
//! read in. Macros may make [`MADE_TOKENS`] tokens, and files may be [`INCLUDE_DEPTH`] deep. Past any of
//! them macros stay as they are written, with a finding.

mod arguments;
mod category;
mod conditionals;
mod counters;
mod definitions;
mod expand;
mod front;
mod input;
mod levels;
mod meaning;
mod numbers;
mod registers;
mod source;
mod token;

pub(crate) use arguments::trimmed;
pub(crate) use front::{Front, Included, Inclusion};
pub(crate) use token::{Category, Located, Name, Names, Spot, Token};

/// The most tokens that are read a second time.
const GIVEN_BACK: usize = 200_000;

/// How many tokens macros may make: so many for each byte that is read, and for a document that is short;
/// and never more than the last number.
const MADE_PER_BYTE: usize = 10;
const MADE_AT_LEAST: usize = 30_000;
const MADE_TOKENS: usize = 20_000_000;

/// How many of them one macro may make at once.
const AT_ONCE_PER_BYTE: usize = 3;
const AT_ONCE_AT_LEAST: usize = 10_000;

/// The same in a formula that defines macros of its own.
const MADE_IN_FORMULA: usize = 1_000;
const MADE_PER_BYTE_IN_FORMULA: usize = 20;

/// How deep files may include each other.
const INCLUDE_DEPTH: usize = 20;

/// How often files may be read in again: so many times, and once more for so many bytes that are read.
const AGAIN_AT_LEAST: usize = 100;
const BYTES_PER_AGAIN: usize = 32;

/// How deep conditionals and groups of the front may stand in each other.
const DEEPEST: usize = 2_000;

/// How deep numbers and names may be made of commands that read numbers and names.
const DEEPEST_READING: usize = 100;

/// What LaTeX defines as macros of its own.
const PRELUDE: &str = include_str!("prelude.tex");

/// A piece of source with the macros expanded that it defines itself. `None` where they make more than is
/// read.
pub(crate) fn expanded(source: &str) -> Option<String> {
    let mut front = Front::new(source.into(), &|_| None, &[]);
    front.may_make = MADE_IN_FORMULA + MADE_PER_BYTE_IN_FORMULA * source.len();
    let mut tokens = Vec::new();
    while let Some(located) = front.next() {
        match located.token {
            Token::Character(_, Category::Begin) => front.open_group(),
            Token::Character(_, Category::End) => front.close_group(),
            _ => {}
        }
        tokens.push(located);
    }
    (!front.is_exhausted).then(|| front.typed(&tokens))
}

#[cfg(test)]
mod tests;
