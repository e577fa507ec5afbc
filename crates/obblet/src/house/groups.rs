//! The groups of settings.

use super::repairs::RepairSettings;
use super::setting::Named;
use crate::format::Format;
use crate::formats::html::{Spelling, Syntax};
use crate::formats::markdown::{
    BulletMark, Dialect, EmphasisMark, FenceMark, HeadingForm, LinkForm, Switches, TableForm,
};
use crate::formats::text::{LinkNotes, ParagraphForm};
use crate::formats::word::Changes;
use crate::formats::word::{Paper, StyleNames};
use crate::repair::PunctuationForm;
use crate::rules::Rule;
use serde::Serialize;
use std::collections::BTreeMap;
use std::sync::Arc;

/// The settings for one destination.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct House {
    /// The page as a whole.
    pub page: PageSettings,
    /// How characters are spelled.
    pub characters: CharacterSettings,
    /// Fonts, colours, borders and the like.
    pub looks: LookSettings,
    /// Pictures.
    pub pictures: PictureSettings,
    /// Tracked changes and review comments.
    pub review: ReviewSettings,
    /// How far sources are trusted.
    pub safety: SafetySettings,
    /// What the destination takes.
    pub limits: LimitSettings,
    /// Words that are treated apart.
    pub words: WordSettings,
    /// How Markdown is read and written.
    pub markdown: MarkdownSettings,
    /// How plain text is written.
    pub text: TextSettings,
    /// How Word files are written.
    pub word: WordFileSettings,
    /// How LaTeX is written.
    pub latex: LatexSettings,
    /// How Org is written.
    pub org: OrgSettings,
    /// Which repair passes run.
    pub repairs: RepairSettings,
    /// Changes to the written HTML, in the order in which they run.
    pub rules: Vec<Rule>,
    /// The texts of the files that the settings name, by these names; see
    /// [`files_named`](House::files_named).
    pub files: BTreeMap<String, Arc<str>>,
    /// The bytes of the file that [`WordFileSettings::pattern`] names.
    #[serde(skip)]
    pub pattern: Option<Arc<[u8]>>,
}

/// Settings of the page as a whole.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct PageSettings {
    /// The format written where nobody says one.
    pub format: Format,
    /// A whole page or only its body.
    pub extent: Extent,
    /// HTML or its XML syntax.
    pub syntax: Syntax,
    /// A title for all pages; empty for each document's own.
    pub title: String,
    /// The language of documents that state none, as a BCP 47 tag.
    pub language: String,
    /// A template for the page, as a file's name; empty for Obblet's own.
    pub layout: String,
    /// A piece of HTML above every page's text, as a file's name; empty for none.
    pub header: String,
    /// A piece of HTML below every page's text, as a file's name; empty for none.
    pub footer: String,
    /// Whether a page shows its title, where no heading of the document does, its authors and its date.
    pub show_title: bool,
    /// Whether the header and footer of a document's first page stand around its text.
    pub running_heads: bool,
    /// The deepest heading level in the contents list; 0 for no list.
    pub contents: u8,
    /// Whether headings get numbers.
    pub heading_numbers: bool,
    /// The level that a document's highest headings get; 0 leaves it to the page.
    pub top_heading: u8,
    /// Obblet's own style sheet.
    pub theme: Theme,
    /// Style sheets behind the theme, as files' names.
    pub style_sheets: Vec<String>,
    /// Where styles stand.
    pub style_placement: StylePlacement,
    /// Whether a style sheet in the page holds only rules that the page uses.
    pub used_styles_only: bool,
    /// Whether the parts of a book have classes.
    pub book_classes: bool,
    /// The audiences written for; what is meant for others only is left out.
    pub audiences: Vec<String>,
}

/// A whole page or only its body.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Extent {
    /// From the document type on.
    Page,
    /// Only what stands inside the page's main part.
    Body,
}

/// Obblet's own style sheets.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Theme {
    /// For reading on a screen, light or dark, and in print.
    Screen,
    /// For books: first lines indented, no space between paragraphs.
    Book,
    /// None.
    None,
}

/// Where styles stand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum StylePlacement {
    /// In the page's head.
    Embedded,
    /// In a file beside the page.
    Linked,
    /// In `style` attributes, for mail and systems that take no style sheet.
    Inline,
    /// Nowhere.
    None,
}

/// Settings of characters.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct CharacterSettings {
    /// How characters outside ASCII are spelled in HTML.
    pub spelling: Spelling,
    /// Whether no character outside ASCII goes out in HTML.
    pub ascii_only: bool,
    /// How quotation marks, apostrophes, dashes and ellipses are spelled.
    pub punctuation: PunctuationForm,
}

/// Settings of looks.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct LookSettings {
    /// What becomes of the looks of a source.
    pub keep: KeepLooks,
}

/// What becomes of the looks of a source.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum KeepLooks {
    /// They are left to the destination.
    None,
    /// Classes and a small style sheet; in a body, which has none, as inline.
    Classes,
    /// `style` attributes.
    Inline,
}

/// Settings of what reviewers left in a document.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct ReviewSettings {
    /// What becomes of tracked changes.
    pub changes: Changes,
    /// Whether comments are shown, behind the text.
    pub comments: bool,
}

/// Settings of pictures.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct PictureSettings {
    /// Where the pictures go that a document carries inside itself.
    pub placement: PicturePlacement,
    /// The format they are converted to.
    pub format: PictureFormat,
    /// The greatest width in pixels; 0 for any.
    pub widest: u16,
    /// The quality of JPEG, 1 to 100.
    pub quality: u8,
}

/// Where the pictures go that a document carries inside itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum PicturePlacement {
    /// Into a folder beside the page, wherever there is one.
    Beside,
    /// Into the page.
    Embedded,
    /// Nowhere, nor any other picture; what stands for them in words stays.
    Dropped,
}

/// The format pictures are converted to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum PictureFormat {
    /// Their own.
    Kept,
    /// PNG, without loss.
    Png,
    /// JPEG, smaller, with loss; what is clear becomes white.
    Jpeg,
}

/// How far sources are trusted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct SafetySettings {
    /// Lets raw HTML out as it is. Only for sources that may do anything on the destination.
    pub trust_sources: bool,
}

/// What the destination takes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct LimitSettings {
    /// The most characters; 0 for any number.
    pub characters: u32,
    /// What is counted.
    pub counted: Counted,
    /// What one character is.
    pub unit: CountUnit,
    /// The elements it takes; empty for all.
    pub elements: Vec<String>,
    /// The attributes it takes; empty for all.
    pub attributes: Vec<String>,
    /// The schemes addresses may have; empty for all harmless ones.
    pub schemes: Vec<String>,
}

/// What a destination counts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Counted {
    /// All that is written, tags included.
    Everything,
    /// Only the text that readers see.
    Text,
}

/// What a destination counts as one character.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum CountUnit {
    /// A character of Unicode.
    Character,
    /// A unit of UTF-16, as forms in browsers count.
    Utf16,
    /// A byte of UTF-8.
    Byte,
}

/// Words that are treated apart.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct WordSettings {
    /// Names and acronyms that keep their spelling where rules change the case of letters.
    pub protected: Vec<String>,
}

/// Settings of how Markdown is read and written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct MarkdownSettings {
    /// What Markdown may say.
    pub dialect: MarkdownDialect,
    /// Every line ending is a line break.
    pub hard_wraps: bool,
    /// Straight quotes, hyphens and periods become typographic.
    pub smart_punctuation: bool,
    /// The longest line of written text, in characters; 0 keeps the line breaks of the source.
    pub wrap: u16,
    /// The mark of bulleted lists.
    pub bullet: BulletMark,
    /// The mark of emphasis.
    pub emphasis: EmphasisMark,
    /// How headings of the two highest levels are marked.
    pub headings: HeadingForm,
    /// The fence around code.
    pub fence: FenceMark,
    /// Where the addresses of links stand.
    pub links: LinkForm,
    /// How tables are drawn.
    pub tables: TableForm,
    /// Whether HTML may say what the dialect has no words for.
    pub html: bool,
}

/// Settings of how plain text is read and written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct TextSettings {
    /// The longest line, in columns; 0 for a line a paragraph.
    pub wrap: u16,
    /// What becomes of the addresses of links.
    pub links: LinkNotes,
    /// How the paragraphs of plain text that is read are told apart.
    pub paragraphs: ParagraphForm,
}

/// Settings of how Word files are written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct WordFileSettings {
    /// The size of the pages.
    pub paper: Paper,
    /// The Word file whose styles, page set-up, headers and footers are taken over, as a file's name.
    pub pattern: String,
    /// The names of the styles that paragraphs get by what they are.
    #[serde(flatten)]
    pub styles: StyleNames,
}

/// Settings of how LaTeX is written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct LatexSettings {
    /// The class of documents.
    pub class: String,
    /// Its options.
    pub class_options: String,
    /// What stands around the body, as a file's name; empty for Obblet's own.
    pub layout: String,
}

/// Settings of how Org is written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct OrgSettings {
    /// The longest line, in characters; 0 keeps the source's line breaks.
    pub wrap: u32,
}

/// What Markdown may say.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum MarkdownDialect {
    /// CommonMark alone.
    Standard,
    /// What code forges show.
    Forge,
    /// Everything.
    Full,
}

impl MarkdownDialect {
    pub(super) fn switches(self) -> Switches {
        match self {
            Self::Standard => Dialect::Standard,
            Self::Forge => Dialect::Forge,
            Self::Full => Dialect::Full,
        }
        .switches()
    }
}

impl Default for House {
    /// The house `page`.
    fn default() -> Self {
        Self {
            page: PageSettings::default(),
            characters: CharacterSettings {
                spelling: Spelling::Literal,
                ascii_only: false,
                punctuation: PunctuationForm::Kept,
            },
            looks: LookSettings { keep: KeepLooks::None },
            pictures: PictureSettings {
                placement: PicturePlacement::Beside,
                format: PictureFormat::Kept,
                widest: 0,
                quality: 85,
            },
            review: ReviewSettings { changes: Changes::Shown, comments: false },
            safety: SafetySettings { trust_sources: false },
            limits: LimitSettings {
                characters: 0,
                counted: Counted::Everything,
                unit: CountUnit::Character,
                elements: Vec::new(),
                attributes: Vec::new(),
                schemes: Vec::new(),
            },
            words: WordSettings { protected: Vec::new() },
            markdown: MarkdownSettings::default(),
            text: TextSettings {
                wrap: 72,
                links: LinkNotes::Notes,
                paragraphs: ParagraphForm::Guessed,
            },
            word: WordFileSettings {
                paper: Paper::ByLanguage,
                pattern: String::new(),
                styles: StyleNames::default(),
            },
            latex: LatexSettings {
                class: "article".into(),
                class_options: String::new(),
                layout: String::new(),
            },
            org: OrgSettings { wrap: 0 },
            pattern: None,
            repairs: RepairSettings::default(),
            rules: Vec::new(),
            files: BTreeMap::new(),
        }
    }
}

impl Default for PageSettings {
    fn default() -> Self {
        Self {
            format: Format::Html,
            extent: Extent::Page,
            syntax: Syntax::Html,
            title: String::new(),
            language: "en".into(),
            layout: String::new(),
            header: String::new(),
            footer: String::new(),
            show_title: true,
            running_heads: false,
            contents: 3,
            heading_numbers: false,
            top_heading: 0,
            theme: Theme::Screen,
            style_sheets: Vec::new(),
            style_placement: StylePlacement::Embedded,
            used_styles_only: false,
            book_classes: false,
            audiences: vec!["web".into()],
        }
    }
}

impl Default for MarkdownSettings {
    fn default() -> Self {
        Self {
            dialect: MarkdownDialect::Full,
            hard_wraps: false,
            smart_punctuation: false,
            wrap: 0,
            bullet: BulletMark::Kept,
            emphasis: EmphasisMark::Asterisk,
            headings: HeadingForm::NumberSigns,
            fence: FenceMark::Backticks,
            links: LinkForm::Inline,
            tables: TableForm::Padded,
            html: true,
        }
    }
}

impl Named for Extent {
    const NAMES: &'static [(&'static str, Self)] = &[("page", Self::Page), ("body", Self::Body)];
}

impl Named for Theme {
    const NAMES: &'static [(&'static str, Self)] =
        &[("screen", Self::Screen), ("book", Self::Book), ("none", Self::None)];
}

impl Named for StylePlacement {
    const NAMES: &'static [(&'static str, Self)] = &[
        ("embedded", Self::Embedded),
        ("linked", Self::Linked),
        ("inline", Self::Inline),
        ("none", Self::None),
    ];
}

impl Named for KeepLooks {
    const NAMES: &'static [(&'static str, Self)] =
        &[("none", Self::None), ("classes", Self::Classes), ("inline", Self::Inline)];
}

impl Named for PicturePlacement {
    const NAMES: &'static [(&'static str, Self)] =
        &[("beside", Self::Beside), ("embedded", Self::Embedded), ("dropped", Self::Dropped)];
}

impl Named for Changes {
    const NAMES: &'static [(&'static str, Self)] =
        &[("shown", Self::Shown), ("accepted", Self::Accepted), ("rejected", Self::Rejected)];
}

impl Named for PictureFormat {
    const NAMES: &'static [(&'static str, Self)] =
        &[("kept", Self::Kept), ("png", Self::Png), ("jpeg", Self::Jpeg)];
}

impl Named for Counted {
    const NAMES: &'static [(&'static str, Self)] =
        &[("everything", Self::Everything), ("text", Self::Text)];
}

impl Named for CountUnit {
    const NAMES: &'static [(&'static str, Self)] =
        &[("character", Self::Character), ("utf-16", Self::Utf16), ("byte", Self::Byte)];
}

impl Named for MarkdownDialect {
    const NAMES: &'static [(&'static str, Self)] =
        &[("standard", Self::Standard), ("forge", Self::Forge), ("full", Self::Full)];
}

impl Named for Format {
    const NAMES: &'static [(&'static str, Self)] =
        &[("html", Self::Html), ("markdown", Self::Markdown), ("text", Self::Text)];
}

impl Named for Paper {
    const NAMES: &'static [(&'static str, Self)] =
        &[("by-language", Self::ByLanguage), ("a4", Self::A4), ("letter", Self::Letter)];
}

impl Named for LinkNotes {
    const NAMES: &'static [(&'static str, Self)] =
        &[("notes", Self::Notes), ("inline", Self::Inline), ("dropped", Self::Dropped)];
}

impl Named for ParagraphForm {
    const NAMES: &'static [(&'static str, Self)] = &[
        ("guessed", Self::Guessed),
        ("blank-line", Self::BlankLine),
        ("indent", Self::Indent),
        ("line", Self::Line),
    ];
}

impl Named for Syntax {
    const NAMES: &'static [(&'static str, Self)] = &[("html", Self::Html), ("xhtml", Self::Xhtml)];
}

impl Named for Spelling {
    const NAMES: &'static [(&'static str, Self)] =
        &[("literal", Self::Literal), ("named", Self::Named), ("numeric", Self::Numeric)];
}

impl Named for PunctuationForm {
    const NAMES: &'static [(&'static str, Self)] =
        &[("kept", Self::Kept), ("typographic", Self::Typographic), ("plain", Self::Plain)];
}

impl Named for BulletMark {
    const NAMES: &'static [(&'static str, Self)] =
        &[("kept", Self::Kept), ("-", Self::Hyphen), ("*", Self::Asterisk), ("+", Self::Plus)];
}

impl Named for EmphasisMark {
    const NAMES: &'static [(&'static str, Self)] =
        &[("*", Self::Asterisk), ("_", Self::Underscore)];
}

impl Named for HeadingForm {
    const NAMES: &'static [(&'static str, Self)] =
        &[("signs", Self::NumberSigns), ("underlined", Self::Underlined)];
}

impl Named for FenceMark {
    const NAMES: &'static [(&'static str, Self)] =
        &[("backticks", Self::Backticks), ("tildes", Self::Tildes)];
}

impl Named for LinkForm {
    const NAMES: &'static [(&'static str, Self)] =
        &[("inline", Self::Inline), ("reference", Self::Reference)];
}

impl Named for TableForm {
    const NAMES: &'static [(&'static str, Self)] =
        &[("padded", Self::Padded), ("compact", Self::Compact)];
}
