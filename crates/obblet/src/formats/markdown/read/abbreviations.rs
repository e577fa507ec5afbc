//! Abbreviations: wherever one is a word of its own, it gets what it stands for.

use super::definitions::Definitions;
use crate::document::{Attributes, Formatted, Formatting, Inline};

/// Marks the abbreviations in finished inlines. Recursion is bounded by the depth the reader nests
/// inlines to.
pub(super) fn mark_abbreviations(inlines: &mut Vec<Inline>, definitions: &Definitions) {
    let mut marked = Vec::with_capacity(inlines.len());
    for mut inline in inlines.drain(..) {
        match &mut inline {
            Inline::Text(text) => {
                push_marked(text, definitions, &mut marked);
                continue;
            }
            Inline::Formatted(formatted) => mark_abbreviations(&mut formatted.content, definitions),
            Inline::Link(link) => mark_abbreviations(&mut link.content, definitions),
            _ => {}
        }
        marked.push(inline);
    }
    *inlines = marked;
}

/// Adds a text with its abbreviations marked.
fn push_marked(text: &str, definitions: &Definitions, inlines: &mut Vec<Inline>) {
    let mut plain = 0;
    let mut at = 0;
    for word in text.split(|c: char| !c.is_alphanumeric()) {
        // Between words stand only separators, so the first find is the word itself.
        let start = text.get(at..).and_then(|tail| tail.find(word)).map_or(at, |found| at + found);
        at = start + word.len();
        let Some(long) = definitions.expansion(word).filter(|_| !word.is_empty()) else { continue };
        push_plain(text.get(plain..start), inlines);
        let mut attributes = Attributes::NONE;
        attributes.edit().pairs.push(("title".into(), long.into()));
        let (format, content) = (Formatting::Abbreviation, vec![word.into()]);
        inlines.push(Inline::Formatted(Box::new(Formatted { format, attributes, content })));
        plain = at;
    }
    push_plain(text.get(plain..), inlines);
}

fn push_plain(text: Option<&str>, inlines: &mut Vec<Inline>) {
    if let Some(text) = text.filter(|text| !text.is_empty()) {
        inlines.push(text.into());
    }
}
