//! Abbreviations that can be defined once for the whole document.

use super::MarkdownWriteOptions;
use crate::document::{Block, Document, Formatted, Formatting, Inline, Node, Visit, walk};
use crate::formats::markdown::Switch;
use std::collections::{HashMap, HashSet};

/// Abbreviations with one expansion whose letters stand nowhere else as a word, in the order of
/// their first use.
pub(super) fn abbreviations(
    document: &Document,
    options: &MarkdownWriteOptions,
) -> Vec<(String, String)> {
    if !options.switches.has(Switch::Abbreviations) {
        return Vec::new();
    }
    let mut found = AbbreviationSearch::default();
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    for blocks in std::iter::once(document.blocks.as_slice()).chain(notes) {
        found.search(blocks);
    }
    found.finished()
}

#[derive(Default)]
struct AbbreviationSearch {
    /// By letters: the expansion, or nothing when there are two.
    expansions: HashMap<String, Option<String>>,
    order: Vec<String>,
    /// Words of all other texts.
    plain: HashSet<String>,
}

impl AbbreviationSearch {
    fn search(&mut self, blocks: &[Block]) {
        let mut inside = 0;
        for visit in walk(blocks) {
            match visit {
                Visit::Enter(Node::Inline(Inline::Formatted(formatted)))
                    if formatted.format == Formatting::Abbreviation =>
                {
                    inside += 1;
                    self.add(formatted);
                }
                Visit::Leave(Node::Inline(Inline::Formatted(formatted)))
                    if formatted.format == Formatting::Abbreviation =>
                {
                    inside -= 1;
                }
                Visit::Enter(Node::Inline(Inline::Text(text))) if inside == 0 => {
                    let words = text.split(|c: char| !c.is_alphanumeric());
                    self.plain.extend(words.filter(|word| word.len() < 40).map(str::to_string));
                }
                _ => {}
            }
        }
    }

    fn add(&mut self, formatted: &Formatted) {
        let [Inline::Text(short)] = formatted.content.as_slice() else { return };
        let expansion = formatted.attributes.pair("title").filter(|long| {
            let only_title = formatted.attributes.get().is_some_and(|set| {
                let mut rest = set.clone();
                rest.pairs.clear();
                set.pairs.len() == 1 && rest == Default::default()
            });
            only_title && !long.is_empty() && long.trim() == *long && !long.contains('\n')
        });
        let expansion = expansion
            .filter(|_| short.chars().all(char::is_alphanumeric) && short.len() < 40)
            .map(str::to_string);
        let known = self.expansions.entry(short.to_string()).or_insert_with(|| {
            self.order.push(short.to_string());
            expansion.clone()
        });
        if *known != expansion {
            *known = None;
        }
    }

    fn finished(mut self) -> Vec<(String, String)> {
        let plain = self.plain;
        let order = self.order.into_iter().filter(|short| !plain.contains(short));
        order
            .filter_map(|short| {
                let long = self.expansions.remove(&short)??;
                Some((short, long))
            })
            .collect()
    }
}
