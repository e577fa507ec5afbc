//! The Word reader: from the package's parts to a document.

mod anchors;
mod blocks;
mod box_looks;
mod captions;
mod charts;
mod comments;
mod containers;
mod context;
mod controls;
mod descriptions;
mod diagrams;
mod drawing;
mod fields;
mod formulas;
mod gather;
mod inlines;
mod known_properties;
mod line;
mod links;
mod looks;
mod looks_count;
mod media;
mod metadata;
mod notes;
mod numbering;
mod paragraph_properties;
mod paragraphs;
mod parts;
mod revisions;
mod run;
mod run_properties;
mod sections;
mod styles;
mod symbols;
mod table_grid;
mod table_styles;
mod tables;
mod text_base;
mod text_script;
mod theme;
mod values;
mod vml;

use super::package::{Package, Relationships};
use super::xml::{Element, Xml};
use super::{Changes, WordReadOptions};
use crate::account;
use crate::document::{
    Block, CommentId, CompactString, Document, Inline, MediaId, NESTING_LIMIT, NoteId, NoteKind,
    Place, SourceMap,
};
use crate::findings::{Code, Findings};
use crate::formats::Reading;
use crate::formats::error::{PackageError, PartError};
use context::Context;
use fields::Field;
use gather::Gatherer;
use known_properties::{KnownProperties, Noted};
use line::Dress;
use looks::UsedStyles;
use looks_count::LooksCount;
use numbering::Numberings;
use paragraph_properties::ParagraphProperties;
use run_properties::RunProperties;
use sections::Section;
use std::collections::{HashMap, HashSet};
use std::rc::Rc;
use styles::Styles;
use table_styles::ResolvedTableStyle;
use text_base::TextBase;
use theme::Theme;

/// Reads a package.
pub(super) fn read_package(
    source: &[u8],
    options: &WordReadOptions,
) -> Result<Reading, PackageError> {
    let (reader, main) = read_in_language(source, options, None)?;
    // What language a document is in shows only once all of its text is known.
    match reader.other_language() {
        Some(language) => {
            drop((reader, main));
            let (reader, main) = read_in_language(source, options, Some(language))?;
            Ok(reader.finish(&main))
        }
        None => Ok(reader.finish(&main)),
    }
}

/// Reads a package of which most text is in this language, if that is known; gives the main part too.
fn read_in_language<'b>(
    source: &'b [u8],
    options: &'b WordReadOptions,
    language: Option<CompactString>,
) -> Result<(Reader<'b>, String), PackageError> {
    let mut package = Package::open(source)?;
    let main = package.main_part()?;
    let text = package
        .text(&main)
        .map_err(|error: PartError| PackageError::NoMainPart(main.clone(), error))?;
    let relationships = package.relationships(&main);
    let mut reader = Reader {
        options,
        package,
        part: PartState { is_main: true, ..PartState::new(relationships) },
        theme: Rc::default(),
        styles: Styles::default(),
        numberings: Numberings::default(),
        table_styles: HashMap::new(),
        document: Document::default(),
        findings: Findings::new(),
        language,
        languages: Vec::new(),
        paragraphs: 0,
        depth: 0,
        run_depth: 0,
        note_texts: HashMap::new(),
        note_ids: HashMap::new(),
        comment_ids: HashMap::new(),
        open_comments: HashSet::new(),
        ranged_comments: HashSet::new(),
        waiting_comments: Vec::new(),
        last_paragraph_id: None,
        pictures: HashMap::new(),
        charts: 0,
        looks: LooksCount::default(),
        used_styles: UsedStyles::default(),
        last_base: None,
        last_dress: None,
        fields: Vec::new(),
        holds_contents: false,
        sequence: None,
        waiting_anchors: Vec::new(),
        has_anchors: false,
        before_paragraph: Vec::new(),
        behind_paragraph: Vec::new(),
        carried_over: Vec::new(),
        own_mark: None,
        sections: Vec::new(),
        settled_changes: 0,
        beside: Vec::new(),
    };
    reader.read_side_parts();
    reader.read_main_part(&text);
    Ok((reader, text))
}

/// What belongs to the part that is being read.
struct PartState {
    relationships: Relationships,
    /// Only the main part counts paragraphs.
    is_main: bool,
    is_comments: bool,
    run_properties: KnownProperties<RunProperties>,
    paragraph_properties: KnownProperties<ParagraphProperties>,
}

impl PartState {
    fn new(relationships: Relationships) -> Self {
        Self {
            relationships,
            is_main: false,
            is_comments: false,
            run_properties: KnownProperties::new("<w:rPr>", "</w:rPr>"),
            paragraph_properties: KnownProperties::new("<w:pPr>", "</w:pPr>"),
        }
    }
}

/// The state of reading one package.
struct Reader<'b> {
    options: &'b WordReadOptions,
    package: Package<'b>,
    part: PartState,
    theme: Rc<Theme>,
    styles: Styles,
    numberings: Numberings,
    /// Table styles that tables have used.
    table_styles: HashMap<Option<CompactString>, ResolvedTableStyle>,
    document: Document,
    findings: Findings,
    /// The language that text is in that says nothing else.
    language: Option<CompactString>,
    /// Bytes of text by language.
    languages: Vec<(CompactString, usize)>,
    /// Paragraphs of the main part seen so far.
    paragraphs: u32,
    /// Tables, text boxes and containers around what is being read.
    depth: usize,
    /// Runs around what is being read.
    run_depth: usize,
    /// Notes by kind and number, until a mark asks for them.
    note_texts: HashMap<(NoteKind, i64), Vec<Block>>,
    note_ids: HashMap<(NoteKind, i64), NoteId>,
    comment_ids: HashMap<i64, CommentId>,
    /// Comments whose range is open, and those that have one.
    open_comments: HashSet<CommentId>,
    ranged_comments: HashSet<CommentId>,
    /// Ranges that begin between blocks: the next paragraph takes them.
    waiting_comments: Vec<CommentId>,
    /// The paragraph of a comment that was read last, by its id.
    last_paragraph_id: Option<String>,
    /// Pictures by part name; `None` for those that cannot be read.
    pictures: HashMap<String, Option<MediaId>>,
    /// Charts drawn so far.
    charts: usize,
    looks: LooksCount,
    used_styles: UsedStyles,
    last_base: Option<Rc<TextBase>>,
    last_dress: Option<Rc<Dress>>,
    /// Open complex fields, the outermost first; they may span paragraphs.
    fields: Vec<Field>,
    /// Whether the paragraph holds a part of a list of contents.
    holds_contents: bool,
    /// The sequence that a number of the paragraph belongs to.
    sequence: Option<CompactString>,
    /// Bookmarks that stand between blocks: the next paragraph takes them.
    waiting_anchors: Vec<String>,
    /// Some bookmark has been read.
    has_anchors: bool,
    /// Blocks that stand in a paragraph but come before or follow it: text boxes, page breaks.
    before_paragraph: Vec<Block>,
    behind_paragraph: Vec<Block>,
    /// The content of a paragraph that goes on with the next one.
    carried_over: Vec<Inline>,
    /// The note whose mark is the text that comes next.
    own_mark: Option<NoteId>,
    /// Sections of the main part that have ended.
    sections: Vec<Section>,
    /// Tracked changes that were accepted or rejected.
    settled_changes: usize,
    /// Notes and comments as their parts have them, for the account.
    beside: Vec<String>,
}

impl Reader<'_> {
    fn read_main_part(&mut self, text: &str) {
        let mut xml = Xml::new(text);
        let top = xml.level();
        while let Some(root) = xml.child(top) {
            if !root.is("document") {
                self.unknown(&root);
                continue;
            }
            let level = xml.level();
            while let Some(element) = xml.child(level) {
                match element.local() {
                    "body" => self.body(&mut xml),
                    "background" => self.looks.count("page background"),
                    _ => self.unknown(&element),
                }
            }
        }
        if let Some(why) = xml.broken.take() {
            self.findings.add_about(Code::XmlBroken, &why, Some(self.place()));
        }
        if self.is_inside_instruction() {
            self.findings.add(Code::FieldUnclosed, Some(self.place()));
        }
    }

    fn body(&mut self, xml: &mut Xml<'_>) {
        let mut gatherer = Gatherer::new(self.options.looks);
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            self.block_element(&element, xml, &mut gatherer);
        }
        self.rest_carried_over(&mut gatherer);
        self.document.blocks = gatherer.finish();
    }

    /// Reads definitions: what they state of looks counts where something uses them.
    fn definitions<T>(&mut self, read: impl FnOnce(&mut Context<'_>) -> T) -> T {
        let counted = std::mem::take(&mut self.looks);
        let found = self.properties(read);
        self.looks = counted;
        found
    }

    /// Reads properties, and reports what of them nobody knows.
    fn properties<T>(&mut self, read: impl FnOnce(&mut Context<'_>) -> T) -> T {
        let noted = self.noted(read);
        self.report(&noted);
        noted.properties
    }

    /// Reads properties, and remembers them by their source.
    fn remembered<T>(
        &mut self,
        xml: &mut Xml<'_>,
        known: impl FnOnce(&mut PartState) -> &mut KnownProperties<T>,
        read: impl FnOnce(&mut Xml<'_>, &mut Context<'_>) -> T,
    ) -> Rc<Noted<T>> {
        let ahead = xml.source_ahead();
        let noted = Rc::new(self.noted(|context| read(xml, context)));
        if let Some(ahead) = ahead {
            known(&mut self.part).remember(ahead, xml, &noted);
        }
        noted
    }

    fn noted<T>(&self, read: impl FnOnce(&mut Context<'_>) -> T) -> Noted<T> {
        let mut looks = LooksCount::default();
        let mut context = Context::new(&self.theme, self.options.looks, &mut looks);
        let properties = read(&mut context);
        let Context { unknown, lost, .. } = context;
        Noted { properties, looks, unknown, lost }
    }

    fn report<T>(&mut self, noted: &Noted<T>) {
        self.looks.add(&noted.looks);
        for name in &noted.unknown {
            self.findings.count(Code::ElementUnknown, name, Some(self.place()));
        }
        for what in &noted.lost {
            self.lost(what);
        }
    }

    /// The place of the paragraph that is being read.
    fn place(&self) -> Place {
        let index = self.paragraphs.saturating_sub(1) as usize;
        Place::new(index, index + 1)
    }

    fn unknown(&mut self, element: &Element<'_>) {
        self.findings.count(Code::ElementUnknown, element.shown(), Some(self.place()));
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

    fn finish(mut self, main: &str) -> Reading {
        self.settle_running_heads();
        self.settle_anchors();
        self.settle_title();
        self.settle_styles();
        if self.settled_changes > 0 {
            let code = match self.options.changes {
                Changes::Rejected => Code::ChangesRejected,
                _ => Code::ChangesAccepted,
            };
            self.findings.add_about(code, &self.settled_changes.to_string(), None);
        }
        if let Some(subject) = self.looks.summary() {
            self.findings.add_about(Code::LooksNotRead, &subject, None);
        }
        if self.document.blocks.is_empty() {
            self.findings.add(Code::SourceEmpty, None);
        }
        let beside = self.beside.iter().map(String::as_str);
        let parts: Vec<&str> = std::iter::once(main).chain(beside).collect();
        let account = account::of_parts(&parts, &self.document, &mut self.findings);
        self.findings.sort();
        let (document, findings) = (self.document, self.findings);
        Reading { document, findings, map: SourceMap::Paragraphs, account }
    }
}
