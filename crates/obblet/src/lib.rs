//! Obblet turns documents into clean, standards-valid HTML and back. It takes bytes and gives bytes: it
//! opens no file, reaches no network, prints nothing and knows no time.
//!
//! # The five calls most people need
//!
//! **1. What is this?** [`Format::detect`] looks at the content, [`Format::of_file_name`] at the
//! name.
//!
//! ```
//! use obblet::Format;
//! assert_eq!(Format::detect(b"# Tide times\n\nHigh water at noon.\n"), Format::Markdown);
//! assert_eq!(Format::of_file_name("handbook.docx"), Some(Format::Word));
//! ```
//!
//! **2. From one format to another**, in one call. What could not be carried is in the findings.
//!
//! ```
//! use obblet::{Format, WriteOptions, convert};
//! # fn main() -> Result<(), obblet::ConvertError> {
//! let options = WriteOptions::house("body")?;
//! let written = convert(b"High water at *noon*.\n", Format::Markdown, &options)?;
//! assert_eq!(written.text(), "<p>High water at <em>noon</em>.</p>\n");
//! assert!(written.findings.is_empty());
//! # Ok(())
//! # }
//! ```
//!
//! **3. Read**, to look at a document or to change it. The tree is plain data; [`document::build`]
//! makes parts of it in a line, [`document::walk`] goes through it.
//!
//! ```
//! use obblet::document::{BlockKind, plain_text};
//! use obblet::{Format, ReadOptions, read};
//! # fn main() -> Result<(), obblet::ConvertError> {
//! let reading = read(b"# Sluice\n\nOpen at ebb.\n", Format::Markdown, &ReadOptions::default())?;
//! let BlockKind::Heading(heading) = &reading.document.blocks[0].kind else { panic!() };
//! assert_eq!((heading.level, plain_text(&heading.content)), (1, "Sluice".into()));
//! # Ok(())
//! # }
//! ```
//!
//! **4. Write** a document, read or made, as a house style wants it: [`House`] holds the settings
//! for one destination.
//!
//! ```
//! use obblet::document::{Document, build::*};
//! use obblet::{WriteOptions, write};
//! # fn main() -> Result<(), obblet::ConvertError> {
//! let document = Document::of(vec![heading(1, "Opening hours"), paragraph("Noon to four.")]);
//! let written = write(&document, &WriteOptions::house("page")?)?;
//! assert!(written.text().starts_with("<!DOCTYPE html>"));
//! assert!(written.text().contains("<title>Opening hours</title>"));
//! # Ok(())
//! # }
//! ```
//!
//! **5. Ask what was lost.** Silence means fidelity: what a reader or writer drops or changes is a
//! [`Finding`](findings::Finding) with a stable code and a place in the source.
//!
//! ```
//! use obblet::{Format, ReadOptions, read};
//! # fn main() -> Result<(), obblet::ConvertError> {
//! let text = b"See [the plan][plan].\n\n```\nebb\n";
//! let mut reading = read(text, Format::Markdown, &ReadOptions::default())?;
//! reading.findings.locate(&reading.map);
//! let lines: Vec<String> = reading.findings.iter().map(|finding| finding.line("log.md")).collect();
//! assert_eq!(lines[0], "log.md:1:15: problem: there is no definition of the link label “plan”; \
//!                       the brackets stay text [link-definition-missing]");
//! assert_eq!(lines.len(), 2);
//! # Ok(())
//! # }
//! ```
//!
//! Beside them, [`compare`](compare::compare) says what differs between two documents, and
//! [`check`](check::check) what is wrong in one before it is published;
//! [`write_ebook`](ebook::write_ebook) makes an electronic book.
//!
//! # Where things are
//! [`document`] is the tree. [`formats`] has a folder for each format's readers and writers.
//! [`house`] holds settings, [`page`] makes whole pages of bodies, [`findings`] says what a
//! conversion has to say.

mod account;
pub mod address;
pub mod assembly;
mod attachments;
mod bibliography;
mod chart;
pub mod check;
pub mod compare;
mod convert;
mod destination;
pub mod document;
mod draft;
pub mod ebook;
mod embedded;
pub mod findings;
mod format;
pub mod formats;
mod hashing;
pub mod house;
mod limits;
mod locale;
pub mod math;
pub mod page;
mod picture_file;
pub mod repair;
mod resolver;
pub mod rules;
mod tex;
pub mod typography;
mod work;

pub use account::Account;
pub use convert::{convert, convert_with, read, read_for, read_with, write};
pub use draft::Draft;
pub use format::Format;
pub use formats::{EmbeddedHtml, ReadError, ReadOptions, Reading, WriteError};
pub use house::{House, HouseError};
pub use limits::{Cancel, Exceeded, Limits};
pub use picture_file::{CleanDrawing, clean_drawing};
pub use resolver::{Resolver, take_in_pictures};

use document::{CompactString, Media};
use findings::Findings;
use page::Surroundings;
use std::collections::HashSet;
use thiserror::Error;

/// What [`write()`] can be told.
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
    fn folder_beside(&self) -> Option<String> {
        let is_beside = self.house.pictures.placement == house::PicturePlacement::Beside;
        let is_fitting = !matches!(self.format, Format::Word | Format::Text);
        self.picture_folder.clone().filter(|_| is_beside && is_fitting)
    }
}

/// What [`write()`] and [`convert`] give.
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
}

/// The guide's examples are tests.
#[cfg(doctest)]
#[doc = include_str!("../../../docs/guide/in-a-program.md")]
struct GuideExamples;

/// The README's examples are tests.
#[cfg(doctest)]
#[doc = include_str!("../../../README.md")]
struct ReadmeExamples;
