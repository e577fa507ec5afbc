//! The Word reader: from the package's parts to a document.

mod anchors;
mod blocks;
mod fields;
mod inlines;
mod line;
mod lists;
mod looks;
mod numbering;
mod objects;
mod paragraphs;
mod parts;
mod properties;
mod runs;
mod styles;
mod tables;

use super::package::{Package, PackageError, PartError, Relationships};
use super::xml::Xml;
use crate::document::{
    Block, Document, MediaId, NESTING_LIMIT, NoteId, NoteKind, Place, SourceMap,
};
use crate::findings::{Code, Findings};
use crate::formats::Reading;
use fields::Field;
use looks::LooksCount;
use numbering::Numberings;
use std::collections::HashMap;
use styles::Styles;

/// Reads a package whose main part is known to be there.
pub(super) fn read_package(mut package: Package<'_>) -> Result<Reading, PackageError> {
    let main = package.main_part()?;
    let text = package
        .text(&main)
        .map_err(|error: PartError| PackageError::NoMainPart(main.clone(), error))?;
    let relationships = package.relationships(&main);
    let mut reader = Reader {
        package,
        part: PartState { relationships, is_main: true },
        styles: Styles::default(),
        numberings: Numberings::default(),
        document: Document::default(),
        findings: Findings::new(),
        paragraphs: 0,
        depth: 0,
        note_texts: HashMap::new(),
        note_ids: HashMap::new(),
        pictures: HashMap::new(),
        looks: LooksCount::default(),
        fields: Vec::new(),
        waiting_anchors: Vec::new(),
        behind_paragraph: Vec::new(),
    };
    reader.read_side_parts();
    reader.read_main_part(&text);
    Ok(reader.finish())
}

/// What belongs to the part that is being read.
struct PartState {
    relationships: Relationships,
    /// Only the main part counts paragraphs.
    is_main: bool,
}

/// The state of reading one package.
struct Reader<'b> {
    package: Package<'b>,
    part: PartState,
    styles: Styles,
    numberings: Numberings,
    document: Document,
    findings: Findings,
    /// Paragraphs of the main part seen so far.
    paragraphs: u32,
    /// Tables, text boxes and containers around what is being read.
    depth: usize,
    /// Notes by kind and number, until a mark asks for them.
    note_texts: HashMap<(NoteKind, i64), Vec<Block>>,
    note_ids: HashMap<(NoteKind, i64), NoteId>,
    /// Pictures by part name; `None` for those that cannot be read.
    pictures: HashMap<String, Option<MediaId>>,
    looks: LooksCount,
    /// Open complex fields, the outermost first; they may span paragraphs.
    fields: Vec<Field>,
    /// Bookmarks that stand between blocks: the next paragraph takes them.
    waiting_anchors: Vec<String>,
    /// Blocks that stand in a paragraph but follow it in the document: text boxes, page breaks.
    behind_paragraph: Vec<Block>,
}

impl Reader<'_> {
    fn read_main_part(&mut self, text: &str) {
        let mut xml = Xml::new(text);
        let top = xml.level();
        while let Some(root) = xml.child(top) {
            if !root.is("document") {
                self.unknown(root.shown());
                continue;
            }
            let level = xml.level();
            while let Some(element) = xml.child(level) {
                match element.local() {
                    "body" => self.document.blocks = self.blocks(&mut xml),
                    "background" => self.looks.count("page background"),
                    _ => self.unknown(element.shown()),
                }
            }
        }
        if let Some(why) = xml.broken.take() {
            self.findings.add_about(Code::XmlBroken, &why, Some(self.place()));
        }
    }

    /// The place of the paragraph that is being read.
    fn place(&self) -> Place {
        let index = self.paragraphs.saturating_sub(1) as usize;
        Place::new(index, index + 1)
    }

    fn unknown(&mut self, name: &str) {
        self.findings.count(Code::ElementUnknown, name, Some(self.place()));
    }

    fn lost(&mut self, what: &str) {
        self.findings.count(Code::ObjectNotCarried, what, Some(self.place()));
    }

    /// Whether one more container would be too many; says so.
    fn too_deep(&mut self) -> bool {
        // A table takes three levels of the tree, and its cells may hold lists.
        let deep = self.depth >= NESTING_LIMIT / 4;
        if deep {
            self.findings.add(Code::NestingTooDeep, Some(self.place()));
        }
        deep
    }

    fn finish(mut self) -> Reading {
        self.settle_anchors();
        self.settle_title();
        if let Some(subject) = self.looks.summary() {
            self.findings.add_about(Code::LooksNotRead, &subject, None);
        }
        if self.document.blocks.is_empty() {
            self.findings.add(Code::SourceEmpty, None);
        }
        self.findings.sort();
        Reading { document: self.document, findings: self.findings, map: SourceMap::Paragraphs }
    }
}
