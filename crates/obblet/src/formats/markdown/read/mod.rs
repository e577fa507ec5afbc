//! The Markdown reader: front matter, then blocks, then inlines.

mod abbreviations;
mod assemble;
mod attribute_list;
mod bare_addresses;
mod block_extensions;
mod blocks;
mod containers;
mod cursor;
mod definitions;
mod delimiters;
mod entities;
pub(super) mod front_matter;
pub(super) mod grammar;
mod html_scan;
mod inline_build;
mod inline_extensions;
mod inline_scan;
mod inlines;
mod link_parts;
mod notes;
mod starts;
mod tables;
mod text;
mod tree;
mod work;

use super::{MarkdownReadOptions, Switch};
use crate::document::Document;
use crate::findings::Findings;
use crate::formats::text_source;

/// Reads a Markdown text of at most 4 GiB. There is no text that is not Markdown, so this never
/// fails.
///
/// Line endings of all three kinds are understood; places in findings and blocks count bytes of
/// the text with every line ending as one byte, as [`text_source::normalised`] gives it.
///
/// ```
/// use obblet::formats::markdown::{MarkdownReadOptions, read};
/// let (document, findings) = read("# Tides\n\n- neap\n- spring\n", &MarkdownReadOptions::default());
/// assert_eq!(document.blocks.len(), 2);
/// assert!(findings.is_empty());
/// ```
#[must_use]
pub fn read(text: &str, options: &MarkdownReadOptions) -> (Document, Findings) {
    let source = text_source::normalised(text);
    let mut findings = Findings::new();
    let mut document = Document::default();
    let mut from = 0;
    if options.switches.has(Switch::FrontMatter) {
        from = front_matter::read_front_matter(&source, &mut document.metadata, &mut findings);
    }
    let structure = blocks::block_structure(&source, from, options.switches, &mut findings);
    let language = document.metadata.language.clone();
    let assembled = assemble::assemble(
        &source,
        &structure,
        language.as_deref(),
        options.switches,
        &mut findings,
    );
    document.blocks = assembled.blocks;
    document.notes = assembled.notes;
    findings.sort();
    (document, findings)
}
