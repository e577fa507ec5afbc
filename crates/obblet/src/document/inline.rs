//! Inlines: what stands inside a line of text.

use super::{Attributes, CommentId, CompactString, Foreign, MediaId, NoteId};
use crate::dates;
use crate::math::Formula;
use serde::{Deserialize, Serialize};

/// Every kind of inline a document can hold.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum Inline {
    /// Characters as they are to be read. A tab is a tab; a newline never stands here.
    Text(CompactString),
    /// A line break.
    Break(LineBreak),
    /// Content with a format or with attributes.
    Formatted(Box<Formatted>),
    /// Code inside a line.
    Code(Box<InlineCode>),
    /// A link.
    Link(Box<Link>),
    /// A picture.
    Picture(Box<Picture>),
    /// The mark of a footnote or endnote.
    NoteMark(NoteId),
    /// An end of the range that a review comment is about.
    CommentMark(CommentMark),
    /// A place that links can point to.
    Anchor(Box<Anchor>),
    /// A reference to a heading, figure, table, equation or page of this document.
    Reference(Box<Reference>),
    /// A citation of one or more works.
    Citation(Box<Citation>),
    /// A formula inside a line.
    Formula(Box<Formula>),
    /// A check box that is content, for example in a form.
    CheckBox(bool),
    /// A date or a span of dates.
    Timestamp(Box<Timestamp>),
    /// Base text with its reading above or beside it.
    Ruby(Box<Ruby>),
    /// Markup of one named format, kept as it was written.
    Foreign(Box<Foreign>),
}

/// The two line breaks of running text.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum LineBreak {
    /// The source broke the line here; readers see a space.
    Soft,
    /// Readers see a new line.
    Hard,
}

/// Inlines that share a format or attributes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Formatted {
    /// What is special about them.
    pub format: Formatting,
    /// Their attributes.
    #[serde(default)]
    pub attributes: Attributes,
    /// The inlines.
    pub content: Vec<Inline>,
}

/// What is special about formatted text.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Formatting {
    /// Nothing: the inlines only share attributes.
    Plain,
    /// Stress; usually shown in italics.
    Emphasis,
    /// Weight; usually shown in bold.
    Strong,
    /// A line below.
    Underline,
    /// No longer right, as in a struck price.
    Struck,
    /// Taken out by the author, and shown so.
    Deleted,
    /// Put in by the author, and shown so.
    Inserted,
    /// Raised.
    Superscript,
    /// Lowered.
    Subscript,
    /// Small capitals.
    SmallCapitals,
    /// Marked with a pen.
    Highlight,
    /// Small print.
    SmallPrint,
    /// What a person types.
    KeyboardInput,
    /// What a program prints.
    ProgramOutput,
    /// A variable.
    Variable,
    /// A quotation inside a line; quotation marks are added when shown.
    Quoted,
    /// The title of a work.
    WorkTitle,
    /// A term where it is defined.
    DefinedTerm,
    /// An abbreviation; its expansion is the pair `title` of the attributes.
    Abbreviation,
}

/// Code inside a line.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct InlineCode {
    /// The characters.
    pub text: CompactString,
    /// Attributes; a language is the first class.
    #[serde(default)]
    pub attributes: Attributes,
}

/// A link.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Link {
    /// Where to: an absolute or relative address; `#id` inside the document. Not percent-encoded
    /// beyond what the source wrote.
    pub address: CompactString,
    /// Advice shown on hovering.
    pub title: Option<CompactString>,
    /// What is clicked.
    pub content: Vec<Inline>,
    /// Attributes.
    #[serde(default)]
    pub attributes: Attributes,
}

/// A picture.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Picture {
    /// Where its bytes are.
    pub source: PictureSource,
    /// What it shows, in words. Empty with `decorative` unset means the source gave none.
    pub alternative: Vec<Inline>,
    /// True when the source says that the picture is only decoration.
    #[serde(default)]
    pub decorative: bool,
    /// Advice shown on hovering.
    pub title: Option<CompactString>,
    /// Width in CSS pixels, when stated.
    pub width: Option<f32>,
    /// Height in CSS pixels, when stated.
    pub height: Option<f32>,
    /// Attributes.
    #[serde(default)]
    pub attributes: Attributes,
}

/// Where a picture's bytes are.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum PictureSource {
    /// At an address, which may be relative to the source.
    Address(CompactString),
    /// In the document's own media.
    Media(MediaId),
}

/// An end of a comment's range.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct CommentMark {
    /// The comment.
    pub comment: CommentId,
    /// Which end this is.
    pub edge: CommentEdge,
}

/// Which end of a comment's range a mark is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum CommentEdge {
    /// The commented text starts here.
    Start,
    /// The commented text ends here.
    End,
    /// The comment is about this point.
    Point,
}

/// A place that links can point to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Anchor {
    /// The name links use.
    pub id: CompactString,
}

/// A reference to another place of this document.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Reference {
    /// The id or label referred to.
    pub target: CompactString,
    /// What readers are to see.
    pub shows: ReferenceShows,
    /// The text as last computed by the source's program; may be empty.
    pub stored: Vec<Inline>,
}

/// What a reference shows of its target.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum ReferenceShows {
    /// The number only: `3`.
    Number,
    /// The number in the way equations are numbered: `(3)`.
    EquationNumber,
    /// The kind and the number: `Figure 3`.
    LabelAndNumber,
    /// The words of the target.
    Text,
    /// The page.
    Page,
    /// `above` or `below`.
    Relative,
}

/// A citation.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Citation {
    /// How it stands in the sentence.
    pub form: CitationForm,
    /// The works, each by key.
    pub works: Vec<Cite>,
}

/// One work inside a citation.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Cite {
    /// The work's key.
    pub key: CompactString,
    /// What stands before it, for example `see`.
    pub before: Vec<Inline>,
    /// What stands behind it, for example a page.
    pub behind: Vec<Inline>,
}

/// How a citation stands in its sentence.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum CitationForm {
    /// In brackets: `(Marrow 1893)`.
    Bracketed,
    /// As part of the sentence: `Marrow (1893)`.
    InText,
    /// The author alone.
    AuthorOnly,
    /// The year alone.
    YearOnly,
    /// Listed without being shown.
    Silent,
}

/// A work that citations refer to.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct CitedWork {
    /// The key.
    pub key: CompactString,
    /// The kind of work, for example `article`.
    pub kind: CompactString,
    /// The fields, in source order.
    pub fields: Vec<(CompactString, String)>,
    /// How the source itself shows the work, where it does that with links or formats.
    #[serde(default)]
    pub content: Vec<Inline>,
}

impl CitedWork {
    /// The same work as the source shows it, where that is more than text.
    #[must_use]
    pub(crate) fn shown_as(mut self, mut content: Vec<Inline>) -> Self {
        let is_text = |inline: &Inline| matches!(inline, Inline::Text(_) | Inline::Break(_));
        if content.iter().all(is_text) {
            return self;
        }
        while content.pop_if(|last| matches!(last, Inline::Break(_))).is_some() {}
        let breaks = content.iter().take_while(|it| matches!(it, Inline::Break(_))).count();
        content.drain(..breaks);
        if let Some(Inline::Text(first)) = content.first_mut() {
            *first = first.trim_start().into();
        }
        if let Some(Inline::Text(last)) = content.last_mut() {
            *last = last.trim_end().into();
        }
        content.retain(|inline| !matches!(inline, Inline::Text(text) if text.is_empty()));
        self.content = content;
        self
    }
}

/// A date or a span of dates.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Timestamp {
    /// Whether it belongs into an agenda.
    pub active: bool,
    /// The date, or the first of a span.
    pub start: Moment,
    /// The last of a span.
    pub end: Option<Moment>,
    /// How it repeats, as the source spells it.
    pub repeater: Option<CompactString>,
    /// How long before a warning is wanted, as the source spells it.
    pub warning: Option<CompactString>,
}

/// A day, perhaps with a time of day, in no particular time zone.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
pub struct Moment {
    /// Year of the Gregorian calendar.
    pub year: i16,
    /// Month, 1 to 12.
    pub month: u8,
    /// Day, 1 to 31.
    pub day: u8,
    /// Hour and minute.
    pub time: Option<(u8, u8)>,
}

/// Base text with its reading.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Ruby {
    /// The text that is read.
    pub base: Vec<Inline>,
    /// How it is read.
    pub reading: Vec<Inline>,
}

impl From<&str> for Inline {
    fn from(text: &str) -> Self {
        Self::Text(text.into())
    }
}

impl From<String> for Inline {
    fn from(text: String) -> Self {
        Self::Text(text.into())
    }
}

impl Timestamp {
    /// The date, or the span of dates, as people write them.
    ///
    /// ```
    /// use obblet::document::Timestamp;
    /// assert_eq!(Timestamp::day(1893, 4, 1).spelled(), "1893-04-01");
    /// ```
    #[must_use]
    pub fn spelled(&self) -> String {
        let end = self.end.map(|end| format!("–{}", end.spelled()));
        self.start.spelled() + &end.unwrap_or_default()
    }
}

impl Moment {
    /// The day that a text of the form `1893-04-01` names.
    pub(crate) fn of_day(text: &str) -> Option<Self> {
        let (year, month, day) = dates::day_of(text)?;
        Some(Self { year, month, day, time: None })
    }

    /// `1893-04-01`, with ` 10:30` behind it where the time is known.
    pub(crate) fn spelled(self) -> String {
        let Self { year, month, day, time } = self;
        let clock = time.map(|(hour, minute)| format!(" {hour:02}:{minute:02}"));
        format!("{year:04}-{month:02}-{day:02}{}", clock.unwrap_or_default())
    }
}
