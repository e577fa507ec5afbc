//! Links: their addresses, where those stand, and their short forms.

use super::attributes::braces;
use super::escape::Care;
use super::leaf::Spelling;
use super::sayable::Sayable;
use super::sayable_inlines::html;
use super::{LinkForm, MarkdownWriteOptions};
use crate::document::Attributes;
use crate::document::Reference;
use crate::document::{CompactString, Document, Inline, Link, Node, Visit, walk};
use crate::embedded;
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

impl Sayable<'_> {
    pub(super) fn push_link(&mut self, link: &Link, out: &mut Vec<Inline>) {
        if self.in_link {
            self.not_carried("a link inside a link");
            return self.push_inlines(&link.content, out);
        }
        let attributes = &link.attributes;
        let in_braces = self.fits_braces(attributes);
        self.in_link = true;
        if attributes.is_empty() || in_braces || !self.options.html {
            if !in_braces {
                self.report_lost_tag(attributes);
            }
            let content = self.nested(&link.content);
            let attributes = if in_braces { attributes.clone() } else { Attributes::NONE };
            let (address, title) = (link.address.clone(), link.title.clone());
            out.push(Inline::Link(Box::new(Link { address, title, content, attributes })));
        } else {
            let mut open = embedded::open_tag("a", attributes);
            open.pop();
            embedded::push_attribute(&mut open, "href", &link.address);
            if let Some(title) = &link.title {
                embedded::push_attribute(&mut open, "title", title);
            }
            open.push('>');
            out.push(html(open));
            self.push_inlines(&link.content, out);
            out.push(html("</a>".into()));
        }
        self.in_link = false;
    }

    pub(super) fn push_reference(&mut self, reference: &Reference, out: &mut Vec<Inline>) {
        if reference.stored.is_empty() {
            self.not_carried(&format!("the number that “{}” stands for", reference.target));
        }
        let link = Link {
            address: format!("#{}", reference.target).into(),
            title: None,
            content: reference.stored.clone(),
            attributes: Attributes::NONE,
        };
        self.push_link(&link, out);
    }

    pub(super) fn push_anchor(&mut self, id: &CompactString, out: &mut Vec<Inline>) {
        let attributes = Attributes::with_id(id.clone());
        if self.fits_braces(&attributes) {
            return out.push(Inline::Anchor(Box::new(crate::document::Anchor { id: id.clone() })));
        }
        if !self.options.html {
            return self.not_carried("a place that links point to");
        }
        out.push(html(embedded::open_tag("span", &attributes)));
        out.push(html("</span>".into()));
    }
}

impl Spelling<'_> {
    pub(super) fn link(&mut self, link: &Link) {
        if let Some(short) = short_form(link, self.options) {
            let text = match link.content.first() {
                Some(Inline::Text(text)) => text.as_str(),
                _ => "",
            };
            // The neighbours of a bare address may belong to it; with more care it gets brackets.
            let is_mail = link.address.starts_with("mailto:");
            if short == ShortLink::Bare && self.care == Care::Least && !is_mail {
                return self.push(text);
            }
            if grammar::is_angle_address(text, &link.address) {
                return self.push(&format!("<{text}>"));
            }
        }
        self.push("[");
        self.in_brackets += 1;
        self.inlines(&link.content, None);
        self.in_brackets -= 1;
        match self.links.label(link) {
            Some(label) => self.push(&format!("][{label}]")),
            None => {
                let target = target(&link.address, link.title.as_deref(), false);
                self.push(&format!("]({target})"));
            }
        }
        self.push(&braces(&link.attributes, &[]));
    }
}
