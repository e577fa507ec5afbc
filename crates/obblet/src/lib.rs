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
//! let reading = read(text, Format::Markdown, &ReadOptions::default())?;
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
mod additions;
pub mod address;
pub mod assembly;
mod attachments;
mod bibliography;
mod chart;
pub mod check;
pub mod compare;
mod convert;
mod converter;
pub mod dates;
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
pub mod notation;
mod options;
pub mod page;
mod picture_file;
mod prepare;
pub mod repair;
mod resolver;
pub mod rules;
mod source;
mod tex;
pub mod typography;
mod work;

pub use additions::{Additions, Reader, Writer};
pub use convert::{convert, read, write};
pub use converter::{Converter, Step};
pub use draft::Draft;
pub use findings::Account;
pub use format::{Format, FormatFacts, UnknownFormat};
pub use formats::{EmbeddedHtml, ReadError, ReadOptions, Reading, WriteError};
pub use house::{House, HouseError};
pub use limits::{Cancel, Exceeded, Limits};
pub use options::{ConvertError, WriteOptions, Written};
pub use picture_file::{CleanDrawing, clean_drawing};
pub use prepare::take_in_pictures;
pub use resolver::Resolver;

/// The guide's examples are tests.
#[cfg(doctest)]
#[doc = include_str!("../../../docs/guide/in-a-program.md")]
struct GuideExamples;

/// The README's examples are tests.
#[cfg(doctest)]
#[doc = include_str!("../../../README.md")]
struct ReadmeExamples;
