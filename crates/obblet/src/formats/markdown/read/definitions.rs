//! Link reference definitions (CommonMark 4.7).

use super::entities::unescape;
use super::link_parts::{self, destination, label, skip_space, title};
use crate::document::{CompactString, Place};
use std::collections::HashMap;
use std::collections::hash_map::Entry;

/// What a label stands for.
#[derive(Debug, Clone)]
pub(super) struct Definition {
    pub(super) address: CompactString,
    pub(super) title: Option<CompactString>,
    pub(super) place: Place,
}

/// All definitions of a document: links by normalised label, abbreviations by their letters.
#[derive(Debug, Default)]
pub(super) struct Definitions {
    links: HashMap<String, Definition>,
    abbreviations: HashMap<String, String>,
}

impl Definitions {
    pub(super) fn get(&self, label: &str) -> Option<&Definition> {
        if self.links.is_empty() { None } else { self.links.get(&link_parts::normalised(label)) }
    }

    /// Adds an abbreviation; the last expansion holds.
    pub(super) fn abbreviate(&mut self, short: &str, long: &str) {
        self.abbreviations.insert(short.into(), long.into());
    }

    /// What an abbreviation stands for.
    pub(super) fn expansion(&self, short: &str) -> Option<&str> {
        self.abbreviations.get(short).map(String::as_str)
    }

    pub(super) fn has_abbreviations(&self) -> bool {
        !self.abbreviations.is_empty()
    }

    /// Adds a definition. The first one of a label holds; then its place is given back.
    pub(super) fn add(&mut self, label: &str, definition: Definition) -> Result<(), Place> {
        match self.links.entry(link_parts::normalised(label)) {
            Entry::Occupied(first) => Err(first.get().place),
            Entry::Vacant(free) => {
                free.insert(definition);
                Ok(())
            }
        }
    }
}

/// A definition at `at`, as it stands in a paragraph.
#[derive(Debug)]
pub(super) struct Found<'t> {
    pub(super) label: &'t str,
    pub(super) address: CompactString,
    pub(super) title: Option<CompactString>,
    /// The position behind its last line.
    pub(super) end: usize,
}

/// A definition at the start of a line of a paragraph's text.
pub(super) fn definition(text: &str, at: usize) -> Option<Found<'_>> {
    let bytes = text.as_bytes();
    let (inside, behind) = label(text, at)?;
    if bytes.get(behind) != Some(&b':') {
        return None;
    }
    let address_start = skip_space(bytes, behind + 1);
    let (address, behind_address) = destination(bytes, address_start)?;
    if behind_address == address_start {
        return None;
    }
    let plain_end = line_end(bytes, behind_address);
    // A title stands behind white space, perhaps on the next line; a title that does not end its
    // line is no title, and then the destination must end its own.
    let title_start = skip_space(bytes, behind_address);
    let titled = (title_start > behind_address)
        .then(|| title(bytes, title_start))
        .flatten()
        .and_then(|(inside, behind)| Some((inside, line_end(bytes, behind)?)));
    let (title, end) = match titled {
        Some((inside, end)) => (Some(unescape(text.get(inside)?).into()), end),
        None => (None, plain_end?),
    };
    let address = unescape(text.get(address)?).into();
    Some(Found { label: text.get(inside)?, address, title, end })
}

/// `*[short]: long` at the start of a line. Gives both and the position behind the line.
pub(super) fn abbreviation(text: &str, at: usize) -> Option<(&str, &str, usize)> {
    let line_end = memchr::memchr(b'\n', text.as_bytes().get(at..)?).map_or(text.len(), |n| at + n);
    let line = text.get(at..line_end)?;
    let (short, long) = line.strip_prefix("*[")?.split_once("]:")?;
    let is_word = !short.is_empty() && short.chars().all(char::is_alphanumeric);
    is_word.then(|| (short, long.trim(), (line_end + 1).min(text.len())))
}

/// The position behind the line ending when only spaces and tabs stand between it and `at`.
fn line_end(text: &[u8], mut at: usize) -> Option<usize> {
    loop {
        match text.get(at) {
            None => return Some(at),
            Some(b'\n') => return Some(at + 1),
            Some(b' ' | b'\t') => at += 1,
            Some(_) => return None,
        }
    }
}
