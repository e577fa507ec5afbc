//! What a conversion can be told, what it gives, and why it failed.

use crate::document::{CompactString, Document, Media};
use crate::findings::{Account, Findings};
use crate::format::Format;
use crate::formats::{ReadError, WriteError};
use crate::house::{House, HouseError, PicturePlacement};
use crate::limits::Exceeded;
use crate::page::Surroundings;
use std::collections::HashSet;
use thiserror::Error;

/// What [`write()`](crate::write()) can be told.
#[derive(Debug, Clone)]
pub struct WriteOptions {
    /// The format to write.
    pub format: Format,
    /// The settings of the destination.
    pub house: House,
    /// The folder beside the target into which the caller puts [`Written::media`], as an address
    /// relative to the target. `None` embeds pictures, whatever the house says.
    pub picture_folder: Option<String>,
    /// The file into which the caller puts [`Written::style_sheet`], as an address relative to the
    /// target. `None` embeds style sheets that the house wants beside the page.
    pub style_sheet_address: Option<String>,
    /// The folder of the source as an address relative to the target, when the target is in another
    /// one: links and pictures that are relative to the source then lead where they led. `None` leaves
    /// them as they are.
    pub source_folder: Option<String>,
    /// What stands around the page among its neighbours.
    pub surroundings: Surroundings,
    /// Write pictures that nothing describes without an alternative text, for who mends a page and must
    /// not hide what is missing. Default: no; they get an empty one, with a finding.
    pub leaves_undescribed: bool,
}

impl WriteOptions {
    /// A format with the settings of the house `page`.
    #[must_use]
    pub fn format(format: Format) -> Self {
        Self {
            format,
            house: House::default(),
            picture_folder: None,
            style_sheet_address: None,
            source_folder: None,
            surroundings: Surroundings::default(),
            leaves_undescribed: false,
        }
    }

    /// HTML in a built-in house style.
    ///
    /// # Errors
    /// [`HouseError`] when there is no built-in house of this name; it names the nearest one.
    pub fn house(name: &str) -> Result<Self, HouseError> {
        Ok(Self { house: House::built_in(name)?, ..Self::format(Format::Html) })
    }

    /// The folder beside the target, for a format and a house that have pictures beside it: Word
    /// files hold theirs, and plain text has none.
    pub(crate) fn folder_beside(&self) -> Option<String> {
        let is_beside = self.house.pictures.placement == PicturePlacement::Beside;
        let is_fitting = !matches!(self.format, Format::Word | Format::Text);
        self.picture_folder.clone().filter(|_| is_beside && is_fitting)
    }
}

/// What [`write()`](crate::write()) and [`convert`](crate::convert()) give.
#[derive(Debug, Clone)]
pub struct Written {
    /// The target's content.
    pub bytes: Vec<u8>,
    /// Files that the caller puts into [`WriteOptions::picture_folder`].
    pub media: Vec<Media>,
    /// The style sheet that the caller puts at [`WriteOptions::style_sheet_address`].
    pub style_sheet: Option<String>,
    /// What was lost, changed or found wrong.
    pub findings: Findings,
    /// The title, when the document has one or begins with a heading.
    pub title: Option<String>,
    /// Every id in written HTML that a link can point to.
    pub ids: HashSet<CompactString>,
    /// How many words the source held, the document holds and the output holds.
    pub account: Account,
}

impl Written {
    /// A target that is one file, with no place that links can lead to.
    pub(crate) fn of(
        document: &Document,
        bytes: Vec<u8>,
        findings: Findings,
        account: Account,
    ) -> Self {
        Self {
            bytes,
            media: Vec::new(),
            style_sheet: None,
            findings,
            title: document.title_or_first_heading(),
            ids: HashSet::new(),
            account,
        }
    }

    /// The content as text; empty for formats that are no text.
    #[must_use]
    pub fn text(&self) -> &str {
        std::str::from_utf8(&self.bytes).unwrap_or_default()
    }
}

/// Why a conversion failed as a whole.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum ConvertError {
    /// The source could not be read.
    #[error(transparent)]
    Read(#[from] ReadError),
    /// The target could not be written.
    #[error(transparent)]
    Write(#[from] WriteError),
    /// The settings are wrong.
    #[error(transparent)]
    House(#[from] HouseError),
    /// A limit ended the work.
    #[error(transparent)]
    Exceeded(#[from] Exceeded),
}
