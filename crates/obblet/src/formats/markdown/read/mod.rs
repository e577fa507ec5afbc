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
mod tasks;
mod text;
mod tree;
#[cfg(test)]
mod work_tests;

use super::{MarkdownReadOptions, Switch, Switches};
use crate::document::{Block, Document, Metadata, Note};
use crate::findings::Findings;
use crate::formats::text_source;
use assemble::assemble;
use blocks::{BlockStructure, block_structure};

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
    let structure = Structure::of(&source, options, &mut findings);
    let mut blocks = Vec::new();
    let notes = structure.each_block(&mut findings, &mut |block| blocks.push(block));
    findings.sort();
    (Document { metadata: structure.metadata, blocks, notes, ..Document::default() }, findings)
}

/// A text whose blocks are found but whose inlines are not read yet. Its blocks can be gone through
/// as often as wanted, without all of them ever standing in memory.
pub(crate) struct Structure<'s> {
    /// The text, its line endings normalised.
    source: &'s str,
    switches: Switches,
    pub(crate) metadata: Metadata,
    blocks: BlockStructure,
}

impl<'s> Structure<'s> {
    /// Reads front matter and runs the block pass over a text with normalised line endings.
    pub(crate) fn of(
        source: &'s str,
        options: &MarkdownReadOptions,
        findings: &mut Findings,
    ) -> Self {
        let switches = options.switches;
        let mut metadata = Metadata::default();
        let mut from = 0;
        if switches.has(Switch::FrontMatter) {
            from = front_matter::read_front_matter(source, &mut metadata, findings);
        }
        let blocks = block_structure(source, from, switches, findings);
        Self { source, switches, metadata, blocks }
    }

    /// Gives every block of the document, in order, and returns its notes. Each call reads the
    /// inlines anew and finds the same.
    pub(crate) fn each_block(
        &self,
        findings: &mut Findings,
        give: &mut dyn FnMut(Block),
    ) -> Vec<Note> {
        let language = self.metadata.language.as_deref();
        assemble(self.source, &self.blocks, language, self.switches, findings, give)
    }
}
