//! What a program adds to Obblet: readers, writers and repair passes of its own.

use crate::document::Document;
use crate::findings::Findings;
use crate::format::Format;
use crate::formats::{ReadError, ReadOptions, WriteError};
use crate::options::WriteOptions;
use crate::repair::{Repair, Repairs};
use crate::resolver::Resolver;
use std::fmt::Debug;
use std::sync::Arc;

/// Makes documents of a format's sources.
///
/// A text has to be UTF-8, so that the places of blocks and findings, which count its bytes, become lines and
/// columns. The account of words does not know how the format marks its text, and counts none of the source.
pub trait Reader: Debug + Send + Sync {
    /// Reads a source. What is not carried is a finding; a code can be one of the reader's own.
    ///
    /// # Errors
    /// [`ReadError::Other`] when the bytes are nothing of this format.
    fn read(
        &self,
        source: &[u8],
        options: &ReadOptions,
        resolver: &dyn Resolver,
    ) -> Result<(Document, Findings), ReadError>;
}

/// Writes documents in a format.
pub trait Writer: Debug + Send + Sync {
    /// Writes a document: the bytes of the target, and what it could not carry.
    ///
    /// # Errors
    /// [`WriteError::Other`] when there can be no target at all.
    fn write(
        &self,
        document: &Document,
        options: &WriteOptions,
    ) -> Result<(Vec<u8>, Findings), WriteError>;
}

/// What a program adds to Obblet: for one conversion through [`Converter`](crate::Converter), for a check
/// through [`CheckOptions`](crate::check::CheckOptions), and for whole folders.
///
/// ```
/// use obblet::document::{Document, build::*};
/// use obblet::findings::Findings;
/// use obblet::{
///     Additions, Converter, Format, FormatFacts, ReadError, ReadOptions, Reader, Resolver,
/// };
///
/// static TIDE_TABLE: FormatFacts = FormatFacts {
///     name: "tides",
///     title: "Tide table",
///     extensions: &["tides"],
///     media_type: "text/x-tides",
/// };
///
/// #[derive(Debug)]
/// struct Tides;
///
/// impl Reader for Tides {
///     fn read(
///         &self,
///         source: &[u8],
///         _: &ReadOptions,
///         _: &dyn Resolver,
///     ) -> Result<(Document, Findings), ReadError> {
///         let text = std::str::from_utf8(source).map_err(|error| ReadError::Other(error.into()))?;
///         let blocks = text.lines().map(paragraph).collect();
///         Ok((Document::of(blocks), Findings::new()))
///     }
/// }
///
/// let additions = Additions::new().with_reader(Format::Other(&TIDE_TABLE), Tides);
/// let from = additions.format_of_file_name("may.tides").unwrap();
/// let converter = Converter::to(Format::Markdown).from(from).additions(additions);
/// let written = converter.convert(b"Noon\nMidnight\n")?;
/// assert_eq!(written.text(), "Noon\n\nMidnight\n");
/// # Ok::<(), obblet::ConvertError>(())
/// ```
#[derive(Debug, Clone, Default)]
pub struct Additions {
    readers: Vec<(Format, Arc<dyn Reader>)>,
    writers: Vec<(Format, Arc<dyn Writer>)>,
    first_passes: Vec<Arc<dyn Repair>>,
    last_passes: Vec<Arc<dyn Repair>>,
}

impl Additions {
    /// Nothing.
    #[must_use]
    pub fn new() -> Self {
        Self::default()
    }

    /// The same with a reader; also one that takes the place of Obblet's own.
    #[must_use]
    pub fn with_reader(mut self, format: Format, reader: impl Reader + 'static) -> Self {
        self.readers.push((format, Arc::new(reader)));
        self
    }

    /// The same with a writer; also one that takes the place of Obblet's own, but for HTML in whole folders: there
    /// pages show each other, and are laid out by Obblet.
    #[must_use]
    pub fn with_writer(mut self, format: Format, writer: impl Writer + 'static) -> Self {
        self.writers.push((format, Arc::new(writer)));
        self
    }

    /// The same with one more repair pass before those of the house.
    #[must_use]
    pub fn with_first_pass(mut self, pass: impl Repair + 'static) -> Self {
        self.first_passes.push(Arc::new(pass));
        self
    }

    /// The same with one more repair pass behind those of the house.
    #[must_use]
    pub fn with_last_pass(mut self, pass: impl Repair + 'static) -> Self {
        self.last_passes.push(Arc::new(pass));
        self
    }

    /// The format that a file name's extension stands for: one that was added, or else one of Obblet's own.
    #[must_use]
    pub fn format_of_file_name(&self, name: &str) -> Option<Format> {
        let extension = name.rsplit_once('.').map(|(_, extension)| extension)?;
        let added = self.formats().find(|format| format.facts().has_extension(extension));
        added.or_else(|| Format::of_file_name(name))
    }

    /// The format with this name or extension: one that was added, or else one of Obblet's own.
    #[must_use]
    pub fn format_of_name(&self, name: &str) -> Option<Format> {
        let added = self.formats().find(|format| format.facts().has_name(name));
        added.or_else(|| Format::of_name(name))
    }

    /// Whether nothing is added.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        let Self { readers, writers, first_passes, last_passes } = self;
        readers.is_empty()
            && writers.is_empty()
            && first_passes.is_empty()
            && last_passes.is_empty()
    }

    /// The formats for which readers or writers were added.
    fn formats(&self) -> impl Iterator<Item = Format> {
        let readers = self.readers.iter().map(|(format, _)| *format);
        readers.chain(self.writers.iter().map(|(format, _)| *format))
    }

    /// The reader that was added last for a format.
    pub(crate) fn reader(&self, wanted: Format) -> Option<&dyn Reader> {
        let found = self.readers.iter().rfind(|(format, _)| *format == wanted);
        found.map(|(_, reader)| &**reader)
    }

    /// The writer that was added last for a format.
    pub(crate) fn writer(&self, wanted: Format) -> Option<&dyn Writer> {
        let found = self.writers.iter().rfind(|(format, _)| *format == wanted);
        found.map(|(_, writer)| &**writer)
    }

    /// The passes of a house between those that were added.
    pub(crate) fn around(&self, passes: Repairs) -> Repairs {
        let mut all = Repairs::none();
        self.first_passes.iter().for_each(|pass| all.push(Arc::clone(pass)));
        all.append(passes);
        self.last_passes.iter().for_each(|pass| all.push(Arc::clone(pass)));
        all
    }
}
