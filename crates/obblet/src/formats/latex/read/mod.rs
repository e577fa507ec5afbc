//! LaTeX into the document tree.
//!
//! The front ([`crate::tex`]) gives tokens without macros; what commands do is here, by subject. Blocks
//! and lines are gathered on a [`Sheet`]; an argument or an environment is read on a sheet of its own.

mod accents;
mod boxes;
mod characters;
mod citations;
mod commands;
mod environments;
mod floats;
mod formulas;
mod graphics;
mod keys;
mod layout;
mod letters;
mod links;
mod lists;
mod notes;
mod packages;
mod references;
mod sheet;
mod structure;
mod table_columns;
mod tables;
mod text_styles;
mod theorems;
mod units;
mod verbatim;

pub(super) use accents::{command_of, mark_command, marked_of};
pub(super) use environments::admonition_title;
pub(super) use packages::{has_chapters, language_name};

use super::LatexReadOptions;
use crate::document::{Block, BlockKind, CompactString, Document, Inline, NESTING_LIMIT, Place};
use crate::findings::{Code, Findings};
use crate::formats::text_source;
use crate::resolver::Resolver;
use crate::tex::{Category, Front, Included, Located, Name, Spot, Token};
use references::Labels;
use sheet::Sheet;
use std::collections::HashMap;
use std::sync::Arc;

/// Names whose meaning gives a document its structure: definitions of them are not taken.
const KEPT: &[&str] = &[
    "abbreviation",
    "admonition",
    "anychar",
    "aside",
    "author",
    "begin",
    "bibitem",
    "caption",
    "chapter",
    "cite",
    "citep",
    "citet",
    "date",
    "definedterm",
    "description",
    "directlua",
    "disclosure",
    "document",
    "documentclass",
    "emph",
    "end",
    "enddescription",
    "enddocument",
    "endenumerate",
    "endfigure",
    "enditemize",
    "endquotation",
    "endquote",
    "endtable",
    "endtabular",
    "endverbatim",
    "enumerate",
    "figure",
    "footnote",
    "hl",
    "includegraphics",
    "inlinecode",
    "item",
    "itemize",
    "keystroke",
    "label",
    "maketitle",
    "par",
    "paragraph",
    "part",
    "programoutput",
    "quotation",
    "quote",
    "reading",
    "replacementcharacter",
    "ref",
    "section",
    "statement",
    "subparagraph",
    "subsection",
    "subsubsection",
    "table",
    "tableofcontents",
    "tabular",
    "taskdone",
    "taskopen",
    "textbf",
    "textit",
    "textsign",
    "textsmall",
    "texttt",
    "thebibliography",
    "thematicbreak",
    "title",
    "usepackage",
    "variable",
    "verbatim",
    "worktitle",
];

/// Whether a command is one that this reader knows.
pub(super) fn knows_command(name: &str) -> bool {
    commands::is_known(name)
}

/// Reads a document; files that it names come through the resolver.
pub(crate) fn read(
    text: &Arc<str>,
    options: &LatexReadOptions,
    resolver: &dyn Resolver,
) -> (Document, Findings, Vec<Included>) {
    let files = |name: &str| -> Option<Arc<str>> {
        let bytes = resolver.resolve(name)?;
        let decoded = text_source::decoded(&bytes, &mut Findings::new()).into_owned();
        Some(text_source::normalised(&decoded).into())
    };
    let mut front = Front::new(text.clone(), &files, KEPT);
    front.is_known_beyond = commands::is_known;
    let mut reader = Reader::new(front, options, resolver);
    reader.document();
    reader.finish()
}

struct Reader<'r> {
    front: Front<'r>,
    options: &'r LatexReadOptions,
    resolver: &'r dyn Resolver,
    document: Document,
    findings: Findings,
    sheet: Sheet,
    /// How deep sheets stand in each other.
    depth: usize,
    /// Whether an argument is read where it stands: a brace closes it.
    is_in_argument: bool,
    /// The commands that mark the end of what is read on a sheet of its own, by its depth.
    marks: Vec<Name>,
    /// The environment whose end was met last, for who waits for it.
    ended: Option<CompactString>,
    /// Environments that are open, innermost last.
    open: Vec<CompactString>,
    labels: Labels,
    /// The highest level of a heading, as it was read.
    highest_level: u8,
    class: packages::Class,
    /// Text is read where the body of the document begins.
    is_body: bool,
    /// Statements by the name of their environment.
    statements: HashMap<String, theorems::Kind>,
    floats: Vec<floats::Float>,
    lists: Vec<lists::OpenList>,
    graphics_folders: Vec<String>,
    /// The counters of lists that a later one goes on with.
    resumed: HashMap<String, i64>,
    caption_words: packages::Words,
    code_language: Option<CompactString>,
    bibliography_files: Vec<String>,
    /// Whether the text cites anything.
    cites: bool,
    is_german: bool,
    title_notes: Vec<Vec<Block>>,
    title_marks: Vec<Inline>,
    /// What marks the places of work of each author.
    author_marks: Vec<String>,
    /// What commands were found to be, by the numbers of their names.
    handlers: Vec<Option<commands::Handler>>,
    /// Terms of the glossary.
    glosses: HashMap<String, Gloss>,
    colours: HashMap<String, String>,
    /// Signs that begin and end code in a line.
    short_verbs: Vec<CompactString>,
    letter: letters::Letter,
    boxes: boxes::Boxes,
    /// Whether tab stops part the text of lines.
    is_tabbing: bool,
    /// Environments that were never closed, so far.
    unclosed: usize,
    /// Environments that hold code, of the document's own, with how many arguments they take.
    verbatim_environments: HashMap<String, usize>,
    /// Open environments that are macros, innermost last.
    open_macros: Vec<CompactString>,
}

/// A term of the glossary.
#[derive(Debug, Clone)]
struct Gloss {
    words: String,
    long: String,
    is_acronym: bool,
    is_used: bool,
}

/// Why reading stopped.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Stop {
    /// At the mark behind pushed tokens.
    Mark,
    /// At the end of an environment.
    Environment,
    /// Between two cells.
    Cell,
    /// Behind a row of cells.
    Row,
    /// At an item of a list.
    Item,
    /// At the brace that closes an argument.
    Argument,
    /// At the end.
    End,
}

impl<'r> Reader<'r> {
    fn new(front: Front<'r>, options: &'r LatexReadOptions, resolver: &'r dyn Resolver) -> Self {
        Self {
            front,
            options,
            resolver,
            document: Document::default(),
            findings: Findings::new(),
            sheet: Sheet::default(),
            depth: 0,
            is_in_argument: false,
            marks: Vec::new(),
            ended: None,
            open: Vec::new(),
            labels: Labels::default(),
            highest_level: u8::MAX,
            class: packages::Class::default(),
            is_body: false,
            statements: HashMap::new(),
            floats: Vec::new(),
            lists: Vec::new(),
            graphics_folders: Vec::new(),
            resumed: HashMap::new(),
            caption_words: packages::Words::default(),
            code_language: None,
            bibliography_files: Vec::new(),
            cites: false,
            is_german: false,
            title_notes: Vec::new(),
            title_marks: Vec::new(),
            author_marks: Vec::new(),
            handlers: Vec::new(),
            glosses: HashMap::new(),
            colours: HashMap::new(),
            short_verbs: Vec::new(),
            letter: letters::Letter::default(),
            boxes: boxes::Boxes::default(),
            is_tabbing: false,
            unclosed: 0,
            verbatim_environments: HashMap::new(),
            open_macros: Vec::new(),
        }
    }

    /// Reads all there is. What has no `\begin{document}` is a body.
    fn document(&mut self) {
        self.is_body = !self.has_document_environment();
        self.set_counters_of_class();
        loop {
            match self.run(None) {
                Stop::End => break,
                Stop::Environment => self.stray_end(),
                _ => {}
            }
        }
        let blocks = std::mem::take(&mut self.sheet).into_blocks();
        self.document.blocks.extend(blocks);
    }

    fn has_document_environment(&self) -> bool {
        let text = self.front.sources.first().map(|source| source.text.clone());
        text.is_some_and(|text| text.contains(r"\begin{document}"))
    }

    fn finish(mut self) -> (Document, Findings, Vec<Included>) {
        self.make_title();
        self.report_unshown_boxes();
        if !self.title_marks.is_empty() {
            // Without a title they are notes to the text.
            let marks = std::mem::take(&mut self.title_marks);
            self.document.blocks.insert(0, BlockKind::Paragraph(marks).into());
        }
        self.read_bibliography();
        self.settle();
        let mut findings = self.front.findings;
        findings.extend(self.findings);
        (self.document, findings, self.front.sources)
    }

    /// Reads tokens until something ends them.
    fn run(&mut self, mark: Option<Name>) -> Stop {
        loop {
            if self.is_body && self.plain_text() {
                continue;
            }
            let Some(located) = self.front.next() else { return Stop::End };
            self.sheet.at = located.spot.into();
            let stop = match located.token {
                Token::Command(name) if Some(name) == mark => Some(Stop::Mark),
                Token::Command(name) => self.command(name, located.spot),
                Token::Character(character, category) => {
                    self.character(character, category, located.spot)
                }
                Token::Argument(_) => None,
            };
            if let Some(stop) = stop {
                return stop;
            }
        }
    }

    /// Takes characters that stand for themselves; tells whether there were any.
    fn plain_text(&mut self) -> bool {
        if !self.sheet.has_place() {
            self.sheet.at = self.front.spot().into();
        }
        let has_any = self.front.take_plain(&mut self.sheet.text);
        if has_any {
            self.sheet.mark_place();
        }
        has_any
    }

    /// The place of what is read now.
    fn place(&self) -> Place {
        self.front.spot().into()
    }

    fn unopened(&mut self, what: &str, spot: Spot) {
        self.findings.add_about(Code::GroupUnopened, what, Some(spot.into()));
    }

    /// An environment ended that nobody has opened here.
    fn stray_end(&mut self) {
        if let Some(name) = self.ended.take() {
            let spot = self.front.spot();
            self.unopened(&format!("\\end{{{name}}}"), spot);
        }
    }

    /// Something about the layout of paper is left out.
    fn layout(&mut self, what: &str, spot: Spot) {
        self.findings.count(Code::LayoutNotKept, what, Some(spot.into()));
    }

    /// Reads tokens on a sheet of their own.
    fn on_own_sheet(&mut self, tokens: Vec<Located>) -> Sheet {
        if self.depth >= NESTING_LIMIT {
            let spot = tokens.first().map(|first| first.spot).unwrap_or_default();
            self.findings.add(Code::NestingTooDeep, Some(spot.into()));
            let mut sheet = Sheet::default();
            sheet.text.push_str(&self.front.typed(&tokens));
            return sheet;
        }
        let mark = self.mark();
        let spot = tokens.last().map(|last| last.spot).unwrap_or_default();
        let mut tokens = tokens;
        tokens.push(Located { token: Token::Command(mark), spot });
        self.front.push(tokens);
        // What is pushed ends at its mark, whatever is around it.
        let outer = std::mem::take(&mut self.is_in_argument);
        let sheet = self.nested(|reader| {
            loop {
                match reader.run(Some(mark)) {
                    Stop::Mark | Stop::End => return,
                    Stop::Environment => reader.stray_end(),
                    Stop::Cell | Stop::Row | Stop::Item | Stop::Argument => {}
                }
            }
        });
        self.is_in_argument = outer;
        sheet
    }

    /// Reads the next argument on a sheet of its own, where it stands if it is in braces.
    fn argument_sheet(&mut self) -> Sheet {
        if self.depth < NESTING_LIMIT
            && let Some(opened) = self.front.open_argument()
        {
            let outer = std::mem::replace(&mut self.is_in_argument, true);
            let sheet = self.nested(|reader| reader.run_to_brace(opened));
            self.is_in_argument = outer;
            return sheet;
        }
        let tokens = self.front.argument();
        self.on_own_sheet(tokens)
    }

    /// Reads up to the brace that closes an argument.
    fn run_to_brace(&mut self, opened: Spot) {
        loop {
            match self.run(None) {
                Stop::Argument => return,
                Stop::End => {
                    self.findings.add_about(Code::GroupUnclosed, "{", Some(opened.into()));
                    return;
                }
                Stop::Environment => self.stray_end(),
                Stop::Mark | Stop::Cell | Stop::Row | Stop::Item => {}
            }
        }
    }

    /// The command that marks the end at this depth.
    fn mark(&mut self) -> Name {
        while self.marks.len() <= self.depth {
            let mark = self.front.names.of(&format!("\u{1}mark {}", self.marks.len()));
            self.marks.push(mark);
        }
        self.marks.get(self.depth).copied().unwrap_or(Name::PARAGRAPH)
    }

    /// Reads on a new sheet, one level deeper.
    fn nested(&mut self, read: impl FnOnce(&mut Self)) -> Sheet {
        let outer = std::mem::take(&mut self.sheet);
        let was_body = std::mem::replace(&mut self.is_body, true);
        self.depth += 1;
        self.front.open_group();
        read(self);
        self.front.close_group();
        self.depth -= 1;
        self.is_body = was_body;
        std::mem::replace(&mut self.sheet, outer)
    }

    /// What tokens say inside a line.
    fn inlines_of(&mut self, tokens: Vec<Located>) -> Vec<Inline> {
        let sheet = self.on_own_sheet(tokens);
        self.in_line(sheet)
    }

    /// What a sheet says inside a line; what cannot stand there as it is, is told.
    fn in_line(&mut self, sheet: Sheet) -> Vec<Inline> {
        for (what, place) in sheet.blocks_beyond_lines() {
            self.findings.count(Code::BlockInLine, what, Some(place));
        }
        sheet.into_inlines()
    }

    fn blocks_of(&mut self, tokens: Vec<Located>) -> Vec<Block> {
        self.on_own_sheet(tokens).into_blocks()
    }

    /// The next argument, as it stands inside a line.
    fn inline_argument(&mut self) -> Vec<Inline> {
        let sheet = self.argument_sheet();
        self.in_line(sheet)
    }

    fn block_argument(&mut self) -> Vec<Block> {
        self.argument_sheet().into_blocks()
    }

    fn inline_option(&mut self) -> Option<Vec<Inline>> {
        let tokens = self.front.option()?;
        Some(self.inlines_of(tokens))
    }

    /// A character by its category.
    fn character(&mut self, character: char, category: Category, spot: Spot) -> Option<Stop> {
        match category {
            Category::Begin => {
                self.front.open_group();
                self.sheet.open_group();
            }
            Category::End => {
                if self.sheet.close_group() {
                    self.front.close_group();
                } else if self.is_in_argument {
                    return Some(Stop::Argument);
                } else {
                    self.unopened("}", spot);
                }
            }
            Category::Math => self.inline_formula(spot),
            Category::Align => {
                if self.sheet.is_cell {
                    return Some(Stop::Cell);
                }
                self.findings.add_about(Code::GroupUnopened, "&", Some(spot.into()));
            }
            Category::Space => self.sheet.space(character == '\n'),
            Category::Superscript | Category::Subscript => {
                // Outside formulas these are wrong, and are shown as they are.
                self.sheet.text.push(character);
            }
            Category::Parameter => self.sheet.text.push('#'),
            _ if self.is_body => self.letter(character),
            _ => {}
        }
        None
    }
}
