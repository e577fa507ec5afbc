//! The HTML writer.

mod attributes;
mod blocks;
mod citations;
mod comments;
mod contents;
mod formulas;
mod heading_numbers;
mod inlines;
mod links;
mod lists;
mod looks;
mod named_styles;
mod notes;
mod raw;
mod revisions;
mod survey;
mod tables;
mod tabs;
mod tasks;

pub(crate) use attributes::is_language_tag;
pub(crate) use inlines::element_of;
pub use looks::LooksForm;
pub(crate) use survey::Survey;

use super::escape;
use crate::bibliography::Shown;
use crate::document::{
    Block, CommentId, CompactString, ContentsKind, Document, Ids, NoteId, Place,
};
use crate::findings::{Code, Findings};
use crate::formats::WriteError;
use crate::locale::Words;
use contents::{ContentsPlace, ListedCaption};
use heading_numbers::HeadingNumbers;
use looks::LookClasses;
use raw::RawStretch;
use std::collections::{HashMap, HashSet};

/// What the HTML writer can be told.
#[derive(Debug, Clone)]
pub struct HtmlWriteOptions {
    /// Give every heading an id. Default: yes.
    pub heading_ids: bool,
    /// Say of every header cell whether it heads a column or a row. Default: yes.
    pub header_scopes: bool,
    /// The level of the document's highest headings, 1 to 6; deeper ones follow. `None` keeps
    /// levels as they are. Default: `None`.
    pub top_heading_level: Option<u8>,
    /// Hold to what a validator wants of a whole page, also where that changes what the source
    /// says: no heading level left out, no link to a host that cannot be. Default: no.
    pub valid_page: bool,
    /// The audiences written for. What is meant for other audiences only is left out; what is
    /// meant for everybody is always written. Default: `web`.
    pub audiences: Vec<CompactString>,
    /// Where the pictures go that the document carries inside itself. Default: embedded.
    pub pictures: PicturePlacement,
    /// What becomes of raw HTML in the document. Default: sanitised.
    pub raw_html: RawHtml,
    /// Number the headings, as in 2.1; one that stands alone above all others gets none. Default:
    /// no.
    pub heading_numbers: bool,
    /// What becomes of fonts, colours, borders and the like. Default: dropped.
    pub looks: LooksForm,
    /// Show review comments: marks in the text, the comments behind it. Default: no.
    pub comments: bool,
    /// Write pictures that nothing describes without an alternative text, not with an empty one.
    /// Default: no.
    pub leaves_undescribed: bool,
    /// Note the places of blocks, for [`Body::places`]. Default: no.
    pub note_places: bool,
}

impl Default for HtmlWriteOptions {
    fn default() -> Self {
        Self {
            heading_ids: true,
            header_scopes: true,
            top_heading_level: None,
            valid_page: false,
            audiences: vec!["web".into()],
            pictures: PicturePlacement::Embedded,
            raw_html: RawHtml::Sanitised,
            heading_numbers: false,
            looks: LooksForm::Dropped,
            comments: false,
            leaves_undescribed: false,
            note_places: false,
        }
    }
}

/// Where the pictures go that a document carries inside itself.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum PicturePlacement {
    /// Into the page, as `data:` addresses.
    Embedded,
    /// Into this folder beside the page; the caller writes them there.
    Beside(String),
    /// Nowhere, nor any other picture; what stands for them in words stays.
    Dropped,
}

/// What becomes of raw HTML in a document.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum RawHtml {
    /// It is parsed, freed of all that may run code, and written anew.
    Sanitised,
    /// It goes out as it is. Only for sources that may do anything on the destination.
    Trusted,
}

/// The inside of a page.
#[derive(Debug, Clone)]
pub struct Body {
    /// The HTML.
    pub html: String,
    /// The headings, in order, for a contents list.
    pub headings: Vec<HeadingEntry>,
    /// What was added to the levels of the headings, so that they stand below the page's title.
    pub headings_lowered: i16,
    /// Whether the document has a contents list of its own.
    pub has_contents: bool,
    /// Every id in the HTML.
    pub ids: HashSet<CompactString>,
    /// The style sheet of the classes that looks have become; empty where there are none.
    pub look_rules: String,
    /// The lines of the HTML, counted from 1, on which blocks of the source begin, in order; empty
    /// unless asked for.
    pub places: Vec<(u32, Place)>,
}

impl Body {
    /// The place in the source of the block that a line of the HTML belongs to.
    #[must_use]
    pub fn place_of(&self, line: u32) -> Option<Place> {
        let behind = self.places.partition_point(|(first, _)| *first <= line);
        self.places.get(behind.checked_sub(1)?).map(|(_, place)| *place)
    }
}

/// A heading of a written body.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct HeadingEntry {
    /// The level it was written with, 1 to 6.
    pub level: u8,
    /// Its id, when headings have ids.
    pub id: Option<CompactString>,
    /// Its words, without any format.
    pub text: String,
}

/// Text as it may stand in HTML, between elements and in quoted values: with character references
/// for `&`, `<`, `>` and `"`.
#[must_use]
pub fn escaped_text(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    escape::push_text(&mut out, text);
    if out.contains('"') { out.replace('"', "&quot;") } else { out }
}

/// Writes the inside of a page.
///
/// # Errors
/// [`WriteError::TooDeep`] when the document nests deeper than any reader makes it.
pub fn write_body(
    document: &Document,
    options: &HtmlWriteOptions,
) -> Result<(Body, Findings), WriteError> {
    let survey = Survey::of(document)?;
    let blocks = |give: &mut dyn FnMut(&Block)| document.blocks.iter().for_each(give);
    Ok(write_blocks(document, survey, blocks, options))
}

/// Writes the inside of a page from blocks that are given one after the other; `document` holds
/// everything else. The survey is of the same blocks, none of them deeper than a reader makes it.
pub(crate) fn write_blocks(
    document: &Document,
    survey: Survey,
    each_block: impl FnOnce(&mut dyn FnMut(&Block)),
    options: &HtmlWriteOptions,
) -> (Body, Findings) {
    let mut writer = Writer::new(document, survey, options);
    each_block(&mut |block| {
        writer.block(block);
        writer.end_of_piece();
    });
    writer.finish()
}

/// The state of writing one document.
pub(super) struct Writer<'d> {
    document: &'d Document,
    options: &'d HtmlWriteOptions,
    out: String,
    findings: Findings,
    ids: Ids,
    headings: Vec<HeadingEntry>,
    /// Where lists of headings, figures and tables belong into the output, in order.
    contents: Vec<ContentsPlace>,
    has_contents: bool,
    /// Of what the document has lists, and how much of that has been written.
    listed: HashMap<ContentsKind, usize>,
    captions: Vec<ListedCaption>,
    /// The headings around what is being written: wanted and written levels, outermost first.
    heading_levels: Vec<(u8, u8)>,
    /// What is added to heading levels.
    level_shift: i16,
    words: &'static Words,
    /// The notes in the order of their first marks.
    notes: Vec<notes::ShownNote>,
    /// Where each note is among them.
    note_numbers: HashMap<NoteId, usize>,
    /// Whether endnotes stand in a list of their own, as there are footnotes, too.
    endnotes_apart: bool,
    raw: RawStretch,
    /// Links do not stand inside links.
    inside_link: bool,
    /// Code does not stand inside code, and its lines end as they are.
    inside_code: bool,
    /// The place of the block that is being written, for findings about its inlines.
    place: Place,
    /// Where in the output blocks begin, when that is wanted.
    block_starts: Vec<(usize, Place)>,
    heading_numbers: HeadingNumbers,
    looks: LookClasses,
    /// The comments in the order of their marks.
    comments: Vec<CommentId>,
    marked_comments: HashSet<CommentId>,
    works: Shown<'d>,
    /// The ids of the citations of each work.
    cite_ids: HashMap<CompactString, Vec<CompactString>>,
}

impl<'d> Writer<'d> {
    fn new(document: &'d Document, survey: Survey, options: &'d HtmlWriteOptions) -> Self {
        let level_shift = match (options.top_heading_level, survey.highest_level) {
            (Some(top), Some(highest)) => i16::from(top) - i16::from(highest),
            _ => 0,
        };
        let mut writer = Self {
            document,
            options,
            out: String::with_capacity(survey.expected_length),
            findings: Findings::new(),
            ids: survey.ids,
            headings: Vec::new(),
            contents: Vec::new(),
            has_contents: survey.lists.contains(&ContentsKind::Headings),
            listed: survey.lists.into_iter().map(|kind| (kind, 0)).collect(),
            captions: Vec::new(),
            heading_levels: Vec::new(),
            level_shift,
            words: Words::of_language(document.metadata.language.as_deref()),
            notes: Vec::new(),
            note_numbers: HashMap::new(),
            endnotes_apart: notes::has_both_kinds(document),
            raw: RawStretch::default(),
            inside_link: false,
            inside_code: false,
            place: Place::default(),
            block_starts: Vec::new(),
            heading_numbers: HeadingNumbers::new(survey.top_headings),
            looks: LookClasses::of(document),
            comments: Vec::new(),
            marked_comments: HashSet::new(),
            works: Shown::of(&document.bibliography),
            cite_ids: HashMap::new(),
        };
        if let Some(tag) = document.metadata.language.as_deref().filter(|tag| !is_language_tag(tag))
        {
            let subject = format!("lang={tag}");
            writer.findings.add_about(Code::AttributeDropped, &subject, None);
        }
        writer
    }

    fn text(&mut self, text: &str) {
        escape::push_text(&mut self.out, text);
    }

    /// ` name="value"`
    fn attribute(&mut self, name: &str, value: &str) {
        self.begin_attribute(name);
        escape::push_value(&mut self.out, value);
        self.out.push('"');
    }

    /// ` name="`
    fn begin_attribute(&mut self, name: &str) {
        self.out.push(' ');
        self.out.push_str(name);
        self.out.push_str("=\"");
    }
}
