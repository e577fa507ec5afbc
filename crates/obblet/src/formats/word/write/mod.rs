//! The Word writer: from a document to a package.

mod blocks;
mod bookmarks;
mod captions;
mod citations;
mod comments;
mod containers;
mod contents;
mod default_styles;
mod descriptions;
mod embedded;
mod formulas;
mod heading_numbers;
mod inlines;
mod links;
mod list_levels;
mod lists;
mod looks;
mod markup;
mod metadata;
mod notes;
mod numbering;
mod parts;
mod pattern;
mod pictures;
mod runs;
mod style_book;
mod tables;
mod tasks;

use super::{Paper, WordWriteOptions};
use crate::bibliography::Shown;
use crate::document::{Document, EmptyCells, Place};
use crate::findings::{Code, Findings};
use crate::formats::WriteError;
use crate::formats::depth::refuse_too_deep;
use blocks::Around;
use bookmarks::Bookmarks;
use notes::NotesOut;
use numbering::{Lists, OpenList};
use parts::{Parts, Relations, XML};
use pattern::Pattern;
use pictures::Pictures;
use style_book::StyleBook;

/// WordprocessingML's namespace.
const MAIN: &str = "http://schemas.openxmlformats.org/wordprocessingml/2006/main";

/// The namespaces that a part with text may use.
const NAMESPACES: &str = "xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\" \
     xmlns:r=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships\" \
     xmlns:m=\"http://schemas.openxmlformats.org/officeDocument/2006/math\" \
     xmlns:wp=\"http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing\" \
     xmlns:a=\"http://schemas.openxmlformats.org/drawingml/2006/main\" \
     xmlns:pic=\"http://schemas.openxmlformats.org/drawingml/2006/picture\" \
     xmlns:v=\"urn:schemas-microsoft-com:vml\" \
     xmlns:o=\"urn:schemas-microsoft-com:office:office\" \
     xmlns:mc=\"http://schemas.openxmlformats.org/markup-compatibility/2006\" \
     xmlns:w14=\"http://schemas.microsoft.com/office/word/2010/wordml\" mc:Ignorable=\"w14\"";

const TYPES: &str = "application/vnd.openxmlformats-officedocument.wordprocessingml";

/// Writes a document as a package.
pub(super) fn write_package(
    document: &Document,
    options: &WordWriteOptions,
    account: impl FnOnce(&[&str], &mut Findings),
) -> Result<(Vec<u8>, Findings), WriteError> {
    refuse_too_deep(document)?;
    let pattern = options.pattern.as_deref().map(Pattern::read).transpose()?.unwrap_or_default();
    let mut writer = Writer {
        document,
        options,
        works: Shown::of(&document.bibliography),
        findings: Findings::new(),
        styles: StyleBook::new(document, &pattern),
        empty_cells: EmptyCells::new(),
        lists: Lists::behind(pattern.first_numbers()),
        heading_list: None,
        notes: NotesOut::default(),
        relations: Relations::default(),
        pictures: Pictures::default(),
        bookmarks: Bookmarks::of(document),
        changes: 0,
        shifts_headings: false,
        lists_of_contents: 0,
        section_start: SectionStart::Page,
        place: Place::default(),
        pattern,
    };
    let bytes = writer.package(account)?;
    writer.findings.sort();
    Ok((bytes, writer.findings))
}

/// How a section begins.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum SectionStart {
    Page,
    /// On the page of the one before.
    Continuous,
}

/// The state of writing one document.
struct Writer<'d> {
    document: &'d Document,
    options: &'d WordWriteOptions,
    works: Shown<'d>,
    findings: Findings,
    styles: StyleBook<'d>,
    empty_cells: EmptyCells,
    lists: Lists,
    /// The list that counts headings, and the highest level of those that are counted.
    heading_list: Option<(OpenList, u8)>,
    notes: NotesOut,
    /// The relationships of the part that is being written.
    relations: Relations,
    pictures: Pictures,
    bookmarks: Bookmarks,
    /// Tracked changes written so far.
    changes: u32,
    /// The first heading is the title, and all others go one level up.
    shifts_headings: bool,
    /// Lists of headings, figures and tables that have been written.
    lists_of_contents: usize,
    /// How the section began that is being written.
    section_start: SectionStart,
    /// The place of the block that is being written.
    place: Place,
    /// The file that gives its styles and its paper; with nothing in it where there is none.
    pattern: Pattern,
}

impl<'d> Writer<'d> {
    fn lost(&mut self, what: &str) {
        self.findings.count(Code::NodeNotCarried, what, Some(self.place));
    }

    fn changed(&mut self, what: &str) {
        self.findings.count(Code::NodeChanged, what, Some(self.place));
    }

    fn package(
        &mut self,
        account: impl FnOnce(&[&str], &mut Findings),
    ) -> Result<Vec<u8>, WriteError> {
        let mut parts = Parts::default();
        let main = self.main_part();
        let mut relations = std::mem::take(&mut self.relations);
        let notes = self.note_parts(&mut parts, &mut relations);
        self.comment_parts(&mut parts, &mut relations);
        let beside = parts.texts();
        account(&[&[main.as_str()], beside.as_slice()].concat(), &mut self.findings);
        let styles = self.styles_part();
        relations.part("styles", "styles.xml");
        parts.xml("word/styles.xml", &format!("{TYPES}.styles+xml"), styles);
        relations.part("settings", "settings.xml");
        let settings = self.settings_part(&notes);
        parts.xml("word/settings.xml", &format!("{TYPES}.settings+xml"), settings);
        let pattern = std::mem::take(&mut self.pattern);
        pattern.add_to(&mut parts, &mut relations);
        if pattern.styles().is_empty() {
            relations.part("theme", "theme/theme1.xml");
            let theme = "application/vnd.openxmlformats-officedocument.theme+xml";
            parts.xml("word/theme/theme1.xml", theme, default_styles::THEME.into());
            relations.part("fontTable", "fontTable.xml");
            parts.xml("word/fontTable.xml", &format!("{TYPES}.fontTable+xml"), font_table());
        }
        if let Some(numbering) = self.numbering_part(&pattern) {
            relations.part("numbering", "numbering.xml");
            parts.xml("word/numbering.xml", &format!("{TYPES}.numbering+xml"), numbering);
        }
        parts.xml("word/document.xml", &format!("{TYPES}.document.main+xml"), main);
        parts.relations("word/document.xml", &relations);
        self.pictures.add_to(&mut parts);
        let package = self.property_parts(&mut parts);
        parts.relations("", &package);
        parts.packed().map_err(|error| WriteError::Package(error.to_string()))
    }

    fn main_part(&mut self) -> String {
        let mut out = format!("{XML}<w:document {NAMESPACES}><w:body>");
        let document = self.document;
        self.define_heading_numbers();
        self.settle_title(&document.blocks);
        let direction = document.metadata.direction;
        let around = Around { direction, is_top: true, ..Around::default() };
        self.blocks(&document.blocks, &around, &mut out);
        let section = self.section(None);
        out.push_str(&section);
        out + "</w:body></w:document>"
    }

    /// Ends a section, in this many columns, and begins the next one.
    fn end_section(&mut self, columns: Option<u8>, next: SectionStart, out: &mut String) {
        let section = self.section(columns);
        out.push_str(&format!(
            "<w:p><w:pPr><w:spacing w:before=\"0\" w:after=\"0\" w:line=\"20\" w:lineRule=\"exact\"/>{section}</w:pPr></w:p>"
        ));
        self.section_start = next;
    }

    /// The properties of the section that ends: its paper and its columns.
    fn section(&mut self, columns: Option<u8>) -> String {
        let start = self.section_start;
        if let Some(section) = self.pattern.section(columns, start, &mut self.relations) {
            return section;
        }
        let (width, height) = match self.paper() {
            Paper::Letter => (12_240, 15_840),
            Paper::A4 | Paper::ByLanguage => (11_906, 16_838),
        };
        let kind = match self.section_start {
            SectionStart::Continuous => "<w:type w:val=\"continuous\"/>",
            SectionStart::Page => "",
        };
        let columns = columns.map_or(String::new(), |number| format!(" w:num=\"{number}\""));
        let bidi = match self.document.metadata.direction {
            Some(crate::document::Direction::RightToLeft) => "<w:bidi/>",
            _ => "",
        };
        format!(
            "<w:sectPr>{kind}<w:pgSz w:w=\"{width}\" w:h=\"{height}\"/>\
             <w:pgMar w:top=\"1440\" w:right=\"1440\" w:bottom=\"1440\" w:left=\"1440\" w:header=\"708\" w:footer=\"708\" w:gutter=\"0\"/>\
             <w:cols{columns} w:space=\"708\"/>{bidi}</w:sectPr>"
        )
    }

    /// The width between the margins, in twentieths of a point.
    fn text_width(&self) -> usize {
        let of_paper = match self.paper() {
            Paper::Letter => 9360,
            Paper::A4 | Paper::ByLanguage => 9026,
        };
        self.pattern.text_width().unwrap_or(of_paper)
    }

    /// The paper that readers of the document's language have.
    fn paper(&self) -> Paper {
        const LETTER: [&str; 9] = ["US", "CA", "MX", "CO", "CL", "VE", "PH", "GT", "CR"];
        if self.options.paper != Paper::ByLanguage {
            return self.options.paper;
        }
        let language = self.document.metadata.language.as_deref().unwrap_or_default();
        let region = language.split(['-', '_']).find(|part| part.len() == 2 && is_region(part));
        match region {
            Some(region) if LETTER.contains(&region) => Paper::Letter,
            _ => Paper::A4,
        }
    }

    fn settings_part(&self, notes: &str) -> String {
        let even = if self.pattern.has_even_pages { "<w:evenAndOddHeaders/>" } else { "" };
        format!(
            "{XML}<w:settings xmlns:w=\"{MAIN}\">{even}{notes}<w:compat>\
             <w:compatSetting w:name=\"compatibilityMode\" w:uri=\"http://schemas.microsoft.com/office/word\" w:val=\"15\"/>\
             </w:compat></w:settings>"
        )
    }
}

/// The fonts of the default styles, so that Word knows what stands in for them.
fn font_table() -> String {
    let mut out = format!("{XML}<w:fonts xmlns:w=\"{MAIN}\">");
    for (name, family, is_fixed) in default_styles::FONTS {
        let pitch = if is_fixed { "fixed" } else { "variable" };
        out.push_str(&format!(
            "<w:font w:name=\"{name}\"><w:family w:val=\"{family}\"/><w:pitch w:val=\"{pitch}\"/></w:font>"
        ));
    }
    out + "</w:fonts>"
}

fn is_region(part: &str) -> bool {
    part.bytes().all(|byte| byte.is_ascii_uppercase())
}
