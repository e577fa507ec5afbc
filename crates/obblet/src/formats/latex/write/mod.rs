//! The document tree as LaTeX, as somebody would write it by hand: sections, lists, tables, figures,
//! labels, and of packages only those that are needed.

mod blocks;
mod citations;
mod code;
mod containers;
mod escape;
mod formulas;
mod headings;
mod inlines;
mod links;
mod lists;
mod notes;
mod numbers;
mod preamble;
mod statements;
mod tables;

use super::LatexWriteOptions;
use crate::bibliography::Shown;
use crate::document::{Attributes, CompactString, Document, EmptyCells, NoteId, Place};
use crate::findings::{Code, Findings};
use crate::formats::WriteError;
use crate::formats::depth::refuse_too_deep;
use escape::Context;
use std::collections::{BTreeSet, HashMap, HashSet};

/// They are shown by LuaTeX where its font has them, and as dots by pdfTeX.
const UNKNOWN_TO_FONTS: &str = "characters that the fonts of TeX do not have";

/// Writes a document.
///
/// # Errors
/// [`WriteError::TooDeep`] for a document deeper than any reader makes it; [`WriteError::Layout`]
/// where the layout cannot be filled in.
pub(crate) fn write(
    document: &Document,
    options: &LatexWriteOptions,
) -> Result<(String, Findings), WriteError> {
    refuse_too_deep(document)?;
    let mut writer = Writer::new(document, options);
    writer.blocks(&document.blocks);
    writer.end_notes();
    let body = std::mem::take(&mut writer.out);
    let text = preamble::document(&mut writer, &body)?;
    Ok((text, writer.findings))
}

struct Writer<'d> {
    document: &'d Document,
    options: &'d LatexWriteOptions,
    out: String,
    findings: Findings,
    /// What the preamble has to load and define.
    needs: BTreeSet<Need>,
    /// Languages besides the document's own.
    languages: BTreeSet<&'static str>,
    /// Languages of code that no package knows.
    code_languages: BTreeSet<String>,
    /// Commands of formulas that nobody knows.
    unknown_commands: BTreeSet<String>,
    works: Shown<'d>,
    place: Place,
    is_german: bool,
    headings: headings::Headings,
    statements: statements::Statements,
    /// How deep lists stand in each other: all of them, and numbered ones.
    list_depth: (usize, usize),
    deepest_list: usize,
    /// The numbers of notes that have been written, for marks that come again; each kind is counted for itself.
    note_numbers: HashMap<NoteId, usize>,
    footnotes: usize,
    endnotes: usize,
    labels: HashSet<CompactString>,
    /// Where code may not stand as it is: notes, captions, cells.
    is_argument: bool,
    is_cell: bool,
    empty_cells: EmptyCells,
    is_figure: bool,
    numbers: numbers::Numbers,
}

/// What a document needs of its preamble.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Need {
    AbbreviationCommand,
    AdmonitionEnvironment,
    Alltt,
    Amsmath,
    Amssymb,
    Amsthm,
    Array,
    AnyCharacter,
    AsideEnvironment,
    Booktabs,
    Captionless,
    Cancel,
    Changes,
    Cleveref,
    Comment,
    Csquotes,
    DeepLists,
    DefinedTermCommand,
    DisclosureEnvironment,
    Endnotes,
    Enumitem,
    Esint,
    Graphicx,
    HighlightCommand,
    Hyperref,
    InlineCodeCommand,
    KeystrokeCommand,
    Listings,
    Longtable,
    Mathrsfs,
    Mathtools,
    Mhchem,
    Multicol,
    Multirow,
    Natbib,
    ProgramOutputCommand,
    ReadingCommand,
    SmallPrintCommand,
    StatementEnvironment,
    Stmaryrd,
    Subcaption,
    Tabularx,
    TextSign,
    TaskBoxCommand,
    ThematicBreakCommand,
    Tikz,
    Ulem,
    VariableCommand,
    WorkTitleCommand,
    Xcolor,
    Xfrac,
}

impl<'d> Writer<'d> {
    fn new(document: &'d Document, options: &'d LatexWriteOptions) -> Self {
        let language = document.metadata.language.as_deref().unwrap_or("en");
        Self {
            document,
            options,
            out: String::new(),
            findings: Findings::new(),
            needs: BTreeSet::new(),
            languages: BTreeSet::new(),
            code_languages: BTreeSet::new(),
            unknown_commands: BTreeSet::new(),
            works: Shown::of(&document.bibliography),
            place: Place::default(),
            is_german: language.starts_with("de"),
            headings: headings::Headings::of(document),
            statements: statements::Statements::of(document),
            list_depth: (0, 0),
            deepest_list: 0,
            note_numbers: HashMap::new(),
            footnotes: 0,
            endnotes: 0,
            labels: HashSet::new(),
            is_argument: false,
            is_cell: false,
            empty_cells: EmptyCells::new(),
            is_figure: false,
            numbers: numbers::Numbers::of(document),
        }
    }

    fn lost(&mut self, what: &str) {
        self.findings.count(Code::NodeNotCarried, what, Some(self.place));
    }

    fn need(&mut self, need: Need) {
        self.needs.insert(need);
    }

    fn text(&mut self, text: &str) {
        self.characters(text, Context::Text);
    }

    fn characters(&mut self, text: &str, context: Context) {
        let needs = escape::push(&mut self.out, text, context, self.is_german);
        if needs.symbols {
            self.need(Need::Amssymb);
            self.need(Need::TextSign);
        }
        if needs.any_character {
            self.findings.count(Code::NodeChanged, UNKNOWN_TO_FONTS, Some(self.place));
            self.need(Need::AnyCharacter);
        }
    }

    /// Starts a new line, unless one has just begun.
    fn line(&mut self) {
        if !self.out.is_empty() && !self.out.ends_with('\n') {
            self.out.push('\n');
        }
    }

    /// An empty line between blocks.
    fn paragraph_break(&mut self) {
        self.line();
        if !self.out.is_empty() && !self.out.ends_with("\n\n") && !self.out.ends_with("{%\n") {
            self.out.push('\n');
        }
    }

    /// What is written meanwhile, apart from everything else.
    fn apart(&mut self, write: impl FnOnce(&mut Self)) -> String {
        let outer = std::mem::take(&mut self.out);
        write(self);
        std::mem::replace(&mut self.out, outer)
    }

    /// The same for an argument: neither code nor floats stand in one.
    fn as_argument(&mut self, write: impl FnOnce(&mut Self)) -> String {
        let was_argument = std::mem::replace(&mut self.is_argument, true);
        let written = self.apart(write);
        self.is_argument = was_argument;
        written
    }

    /// `\label{…}` for an id that nothing has had yet.
    fn label(&mut self, attributes: &Attributes) -> String {
        attributes.id().map(|id| self.label_of(id)).unwrap_or_default()
    }

    fn label_of(&mut self, id: &str) -> String {
        match self.labels.insert(id.into()) {
            true => format!("\\label{{{}}}", escape::label(id)),
            false => String::new(),
        }
    }

    /// Classes, pairs and the like have no place in LaTeX.
    fn report_attributes(&mut self, attributes: &Attributes) {
        let Some(set) = attributes.get() else { return };
        if !set.classes.is_empty() || !set.pairs.is_empty() {
            self.lost("classes and other attributes");
        }
        if set.direction.is_some() {
            self.lost("the writing direction");
        }
        if set.language.is_some() {
            self.lost("the language of a block");
        }
        if set.revision.is_some() {
            self.lost("a tracked change of a block");
        }
    }
}
