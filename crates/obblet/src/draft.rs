//! A document written as HTML that has no page around it yet.

use crate::account;
use crate::account::Output;
use crate::dates::{When, is_impossible};
use crate::destination::{self, Sheets};
use crate::document::{Block, CompactString, Document, Media, Metadata};
use crate::findings::{Account, Code, Findings};
use crate::format::Format;
use crate::formats::WriteError;
use crate::formats::html::{Body, HtmlWriteOptions, PicturePlacement, Survey, write_blocks};
use crate::house::{self, Extent};
use crate::options::{WriteOptions, Written};
use crate::page::{self, Title};
use crate::prepare::prepared;
use std::collections::HashSet;

/// A document written as HTML that has no page around it yet.
///
/// Whoever writes many pages that show each other's titles writes the drafts first and lays them
/// out when all titles are known. For one page alone there is [`write`](crate::convert::write()).
///
/// ```
/// use obblet::document::{Document, build::*};
/// use obblet::{Draft, WriteOptions};
/// # fn main() -> Result<(), obblet::ConvertError> {
/// let mut options = WriteOptions::house("page")?;
/// let tides = Document::of(vec![heading(1, "Tides"), paragraph("Twice a day.")]);
/// let draft = Draft::of(&tides, &options)?;
/// assert_eq!(draft.title(), Some("Tides"));
///
/// options.surroundings.home = Some("index.html".into());
/// options.surroundings.home_title = "The mill".into();
/// let written = draft.lay_out(&options)?;
/// assert!(written.text().contains("<a href=\"index.html\">The mill</a>"));
/// # Ok(())
/// # }
/// ```
#[derive(Debug, Clone)]
pub struct Draft {
    metadata: Metadata,
    body: Body,
    title: Title,
    media: Vec<Media>,
    findings: Findings,
    account: Account,
}

/// Tells of a date that is shown and told to no program. A day that does not exist is told when it is read.
fn report_unclear_date(metadata: &Metadata, language: &str, findings: &mut Findings) {
    let is_unclear = |date: &&str| When::of_text(date, language).is_none() && !is_impossible(date);
    if let Some(date) = metadata.date.as_deref().filter(is_unclear) {
        findings.add_about(Code::DateUnclear, date, None);
    }
}

impl Draft {
    /// Writes the body of a document as HTML.
    ///
    /// # Errors
    /// [`WriteError`] when the document is deeper than any reader makes it.
    pub fn of(document: &Document, options: &WriteOptions) -> Result<Self, WriteError> {
        let mut findings = Findings::new();
        let folder = options.folder_beside();
        let document = &*prepared(document, options, folder.as_deref(), &mut findings);
        let media = match folder {
            Some(_) => document.media.iter().cloned().collect(),
            None => Vec::new(),
        };
        let mut draft = Self::of_prepared(document, options, folder)?;
        findings.extend(std::mem::take(&mut draft.findings));
        Ok(Self { media, findings, ..draft })
    }

    /// The same for a document whose media are settled.
    pub(crate) fn of_prepared(
        document: &Document,
        options: &WriteOptions,
        folder: Option<String>,
    ) -> Result<Self, WriteError> {
        let survey = Survey::of(document)?;
        let of_text = |html: &str, findings: &mut Findings| {
            account::of_output(document, &Output::Text(Format::Html, html), findings)
        };
        let blocks = |give: &mut dyn FnMut(&Block)| document.blocks.iter().for_each(give);
        Ok(Self::of_blocks(document, survey, blocks, options, folder, of_text))
    }

    /// From blocks that are given one after the other; `document` holds everything else. `account`
    /// gets the HTML before the house changes it.
    pub(crate) fn of_blocks(
        document: &Document,
        mut survey: Survey,
        each_block: impl FnOnce(&mut dyn FnMut(&Block)),
        options: &WriteOptions,
        folder: Option<String>,
        account: impl FnOnce(&str, &mut Findings) -> Account,
    ) -> Self {
        let house = &options.house;
        let title = Title::of(&document.metadata, survey.first_heading.take(), house);
        let pictures = match house.pictures.placement {
            house::PicturePlacement::Dropped => PicturePlacement::Dropped,
            _ => folder.map_or(PicturePlacement::Embedded, PicturePlacement::Beside),
        };
        let html_options = HtmlWriteOptions {
            top_heading_level: title.top_heading_level(house),
            pictures,
            valid_page: house.page.extent == Extent::Page,
            audiences: house.page.audiences.iter().map(Into::into).collect(),
            raw_html: house.raw_html(),
            heading_numbers: house.page.heading_numbers,
            looks: house.looks_form(),
            comments: house.review.comments,
            leaves_undescribed: options.leaves_undescribed,
            note_places: destination::changes_bodies(house),
            ..HtmlWriteOptions::default()
        };
        let (body, mut findings) = write_blocks(document, survey, each_block, &html_options);
        let account = account(&body.html, &mut findings);
        let language = document.metadata.language.as_deref().unwrap_or(&house.page.language);
        let body = destination::body(body, house, language, &mut findings);
        if house.page.extent == Extent::Page {
            report_unclear_date(&document.metadata, language, &mut findings);
        }
        let has_head = house.page.extent == Extent::Page && house.safety.trust_sources;
        if !has_head && !document.metadata.lines_of(&page::HEAD_FIELDS).is_empty() {
            findings.count(Code::SettingNotKept, "html_head", None);
        }
        let metadata = Metadata { front_matter: None, ..document.metadata.clone() };
        Self { metadata, body, title, media: Vec::new(), findings, account }
    }

    /// The title, when the document has one or begins with a heading.
    #[must_use]
    pub fn title(&self) -> Option<&str> {
        self.title.text.as_deref()
    }

    /// What is said about the document as a whole.
    #[must_use]
    pub fn metadata(&self) -> &Metadata {
        &self.metadata
    }

    /// The HTML of the body.
    #[must_use]
    pub fn html(&self) -> &str {
        &self.body.html
    }

    /// Puts other HTML into the place of the body's, for addresses that were not known before. Its
    /// headings and ids must be the same.
    pub fn replace_html(&mut self, html: String) {
        self.body.html = html;
    }

    /// How many words of the document the body holds.
    #[must_use]
    pub fn account(&self) -> Account {
        self.account
    }

    /// Every id that a link can point to.
    #[must_use]
    pub fn ids(&self) -> &HashSet<CompactString> {
        &self.body.ids
    }

    /// Takes away the files that the caller puts into [`WriteOptions::picture_folder`].
    pub fn take_media(&mut self) -> Vec<Media> {
        std::mem::take(&mut self.media)
    }

    /// Takes away what was found so far.
    pub fn take_findings(&mut self) -> Findings {
        std::mem::take(&mut self.findings)
    }

    /// Lays the page out, or gives the body alone where the house wants no more. The options are
    /// those that the draft was made with, but for the surroundings.
    ///
    /// # Errors
    /// [`WriteError`] when the layout fails or the house names a file that was not given.
    pub fn lay_out(self, options: &WriteOptions) -> Result<Written, WriteError> {
        let Self { metadata, mut body, title, media, mut findings, account } = self;
        let house = &options.house;
        let sheets = Sheets::of(house, &body.look_rules, options.style_sheet_address.as_deref())?;
        let html = match house.page.extent {
            Extent::Body => std::mem::take(&mut body.html),
            Extent::Page => {
                let style = &sheets.in_page;
                if !metadata.subtitle.is_empty()
                    && page::subtitle_shown(&metadata, &body, &title, house).is_none()
                {
                    findings.add_about(Code::NodeNotCarried, "the subtitle", None);
                }
                page::page(&metadata, &body, &title, house, style, &options.surroundings)?
            }
        };
        let html = destination::target(html, house, &sheets, &mut findings);
        Ok(Written {
            bytes: html.into_bytes(),
            media,
            style_sheet: sheets.beside,
            findings,
            title: title.text,
            ids: body.ids,
            account,
        })
    }
}
