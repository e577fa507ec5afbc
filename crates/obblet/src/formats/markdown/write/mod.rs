//! The Markdown writer.
//!
//! Two steps: the document is first made [`sayable`], then spelled. Each text is spelled with as
//! few escapes as can be, read back by the reader itself, and spelled with more of them when it
//! came back as something else.

mod abbreviations;
mod attributes;
mod blocks;
mod citations;
mod escape;
mod formulas;
mod front_matter;
mod leaf;
mod lines;
mod links;
mod notes;
mod sayable;
mod sayable_foreign;
mod sayable_inlines;
mod sayable_lists;
mod sayable_tables;
mod spacing;
mod tables;

use super::read::grammar::{Labels, TextReader};
use super::{Dialect, Switch, Switches};
use crate::document::{Document, Metadata};
use crate::findings::{Code, Findings};
use crate::formats::WriteError;
use crate::formats::depth::refuse_too_deep;
use blocks::Speller;
use serde::Serialize;

/// What the Markdown writer can be told.
#[derive(Debug, Clone)]
pub struct MarkdownWriteOptions {
    /// What the dialect can say. Default: all of [`Dialect::Full`].
    pub switches: Switches,
    /// The longest line of running text, in characters; longer ones are broken at spaces. `None`
    /// keeps the line breaks that the source had. Default: `None`.
    pub wrap: Option<u16>,
    /// The mark of bulleted lists. Default: the source's own.
    pub bullet: BulletMark,
    /// The mark of emphasis, and twice that of strong text. Default: asterisks.
    pub emphasis: EmphasisMark,
    /// How headings of the two highest levels are marked. Default: number signs.
    pub headings: HeadingForm,
    /// The fence around code. Default: backticks.
    pub fence: FenceMark,
    /// Where the addresses of links stand. Default: behind their texts.
    pub links: LinkForm,
    /// How tables are drawn. Default: padded.
    pub tables: TableForm,
    /// Whether HTML may say what the dialect has no words for. Default: yes.
    pub html: bool,
    /// The folder of pictures that the document carries inside itself, as an address relative to
    /// the target. `None` puts them into their addresses. Default: `None`.
    pub picture_folder: Option<String>,
}

impl Default for MarkdownWriteOptions {
    fn default() -> Self {
        Self {
            switches: Dialect::Full.switches(),
            wrap: None,
            bullet: BulletMark::Kept,
            emphasis: EmphasisMark::Asterisk,
            headings: HeadingForm::NumberSigns,
            fence: FenceMark::Backticks,
            links: LinkForm::Inline,
            tables: TableForm::Padded,
            html: true,
            picture_folder: None,
        }
    }
}

/// The mark of bulleted lists.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum BulletMark {
    /// What the source had, or else a hyphen.
    Kept,
    /// `-`
    Hyphen,
    /// `*`
    Asterisk,
    /// `+`
    Plus,
}

/// The mark of emphasis.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum EmphasisMark {
    /// `*`
    Asterisk,
    /// `_`, and `*` where an underscore would be part of a word.
    Underscore,
}

/// How headings of levels 1 and 2 are marked.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum HeadingForm {
    /// `#` before the text (ATX).
    NumberSigns,
    /// A line of `=` or `-` below the text (setext).
    Underlined,
}

/// The fence around code.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum FenceMark {
    /// Three backticks or more.
    Backticks,
    /// Three tildes or more.
    Tildes,
}

/// Where the addresses of links stand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum LinkForm {
    /// Behind the text: `[text](address)`.
    Inline,
    /// At the end of the document: `[text][1]`.
    Reference,
}

/// How tables are drawn.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum TableForm {
    /// Every cell as wide as its column.
    Padded,
    /// No space beyond one on either side.
    Compact,
}

/// Writes a document as Markdown.
///
/// What is read back from the text, with the same switches, is the same document, but for what
/// the findings say. Writing that again gives the same bytes.
///
/// ```
/// use obblet::document::{Document, build::*};
/// use obblet::formats::markdown::{MarkdownWriteOptions, write};
/// # fn main() -> Result<(), obblet::WriteError> {
/// let document = Document::of(vec![heading(1, "Tides"), paragraph("2 * 2 = 4, *not* 5")]);
/// let (text, findings) = write(&document, &MarkdownWriteOptions::default())?;
/// assert_eq!(text, "# Tides\n\n2 * 2 = 4, \\*not\\* 5\n");
/// assert!(findings.is_empty());
/// # Ok(())
/// # }
/// ```
///
/// # Errors
/// [`WriteError::TooDeep`] when the document nests deeper than any reader makes it.
pub fn write(
    document: &Document,
    options: &MarkdownWriteOptions,
) -> Result<(String, Findings), WriteError> {
    refuse_too_deep(document)?;
    let (said, abbreviations, mut findings) = sayable::sayable(document, options);
    let front = front_matter::spelled(&said.metadata, options, &mut findings);
    let mut reader_findings = Findings::new();
    let links = links::link_definitions(&said, options);
    let labels = Labels::new(
        said.notes.iter().filter_map(|note| note.label.as_deref()),
        links
            .all
            .iter()
            .map(|link| (link.label.as_str(), link.address.as_str(), link.title.as_deref())),
        abbreviations.iter().map(|(short, long)| (short.as_str(), long.as_str())),
    );
    let language = said.metadata.language.as_deref();
    let reader = TextReader::new(&labels, options.switches, language, &mut reader_findings);
    let mut speller = Speller::new(&said, options, reader, &links);
    speller.document();
    speller.definitions(&abbreviations);
    let (body, more) = speller.finished();
    findings.extend(more);
    Ok((front + &body, findings))
}

/// The document that [`write()`] spells: what this dialect can say, in the words it has. Reading the
/// written text gives just this document, places apart.
#[must_use]
pub fn sayable_form(document: &Document, options: &MarkdownWriteOptions) -> Document {
    let mut said = sayable::sayable(document, options).0;
    if !options.switches.has(Switch::FrontMatter) {
        said.metadata = Metadata::default();
    }
    said
}

/// Says that a text could not be spelled so that it reads back as itself.
fn report_unsayable(findings: &mut Findings, place: crate::document::Place) {
    findings.count(Code::MarkupAmbiguous, "", Some(place));
}
