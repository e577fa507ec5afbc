//! Links: their addresses, where those stand, and their short forms.

use super::{LinkForm, MarkdownWriteOptions};
use crate::document::{CompactString, Document, Inline, Link, Node, Visit, walk};
use crate::formats::markdown::Switch;
use crate::formats::markdown::read::grammar;
use std::collections::HashMap;

/// The address of links, at the end of the document.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct LinkDefinition {
    pub(super) label: String,
    pub(super) address: CompactString,
    pub(super) title: Option<CompactString>,
}

impl LinkDefinition {
    pub(super) fn spelled(&self) -> String {
        format!("[{}]: {}", self.label, target(&self.address, self.title.as_deref(), true))
    }
}

/// All definitions, and which of them an address and a title have.
#[derive(Debug, Default)]
pub(super) struct LinkDefinitions {
    pub(super) all: Vec<LinkDefinition>,
    by_target: HashMap<(CompactString, Option<CompactString>), usize>,
}

impl LinkDefinitions {
    pub(super) fn label(&self, link: &Link) -> Option<&str> {
        if self.all.is_empty() {
            return None;
        }
        let index = self.by_target.get(&(link.address.clone(), link.title.clone()))?;
        self.all.get(*index).map(|definition| definition.label.as_str())
    }

    fn add(&mut self, link: &Link) {
        let number = self.all.len();
        let target = (link.address.clone(), link.title.clone());
        if self.by_target.contains_key(&target) {
            return;
        }
        self.by_target.insert(target, number);
        self.all.push(LinkDefinition {
            label: (number + 1).to_string(),
            address: link.address.clone(),
            title: link.title.clone(),
        });
    }
}

/// The definitions that links refer to, when that is how they are written; numbered in the order
/// of their first use.
pub(super) fn link_definitions(
    document: &Document,
    options: &MarkdownWriteOptions,
) -> LinkDefinitions {
    let mut definitions = LinkDefinitions::default();
    if options.links == LinkForm::Inline {
        return definitions;
    }
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    for blocks in std::iter::once(document.blocks.as_slice()).chain(notes) {
        for visit in walk(blocks) {
            let Visit::Enter(Node::Inline(Inline::Link(link))) = visit else { continue };
            if short_form(link, options).is_none() {
                definitions.add(link);
            }
        }
    }
    definitions
}

/// A link whose text is its address.
pub(super) fn short_form(link: &Link, options: &MarkdownWriteOptions) -> Option<ShortLink> {
    let [Inline::Text(text)] = link.content.as_slice() else { return None };
    if link.title.is_some() || !link.attributes.is_empty() {
        return None;
    }
    if options.switches.has(Switch::BareAddresses) && grammar::is_bare_address(text, &link.address)
    {
        return Some(ShortLink::Bare);
    }
    grammar::is_angle_address(text, &link.address).then_some(ShortLink::Angle)
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum ShortLink {
    Bare,
    Angle,
}

/// An address and its title. A definition needs something even for no address.
pub(super) fn target(address: &str, title: Option<&str>, in_definition: bool) -> String {
    let mut out = String::with_capacity(address.len());
    let bracketed =
        needs_brackets(address) || address.is_empty() && (in_definition || title.is_some());
    for (index, c) in address.char_indices() {
        let tail = address.get(index..).unwrap_or_default();
        let next_is_mark = tail.chars().nth(1).is_none_or(|next| next.is_ascii_punctuation());
        match c {
            '<' | '>' if bracketed => out.extend(['\\', c]),
            '\\' if next_is_mark => out.push_str("\\\\"),
            '&' if grammar::is_reference(tail) => out.push_str("\\&"),
            _ if c.is_ascii_control() => out.push_str(&format!("&#{};", u32::from(c))),
            _ => out.push(c),
        }
    }
    if bracketed {
        out = format!("<{out}>");
    }
    if let Some(title) = title {
        out.push_str(&format!(" \"{}\"", escaped_title(title)));
    }
    out
}

/// Whether an address can only stand between angle brackets.
fn needs_brackets(address: &str) -> bool {
    let mut open = 0_i32;
    for c in address.chars() {
        match c {
            '(' => open += 1,
            ')' => open -= 1,
            ' ' => return true,
            _ => {}
        }
        if !(0..=30).contains(&open) {
            return true;
        }
    }
    open != 0 || address.starts_with('<')
}

fn escaped_title(title: &str) -> String {
    let mut out = String::with_capacity(title.len());
    for (index, c) in title.char_indices() {
        let tail = title.get(index..).unwrap_or_default();
        match c {
            '"' | '\\' => out.extend(['\\', c]),
            '&' if grammar::is_reference(tail) => out.push_str("\\&"),
            _ if c.is_ascii_control() => out.push_str(&format!("&#{};", u32::from(c))),
            _ => out.push(c),
        }
    }
    out
}
