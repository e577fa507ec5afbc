//! Conversions with all that they can be told.

use crate::additions::Additions;
use crate::convert::{
    convert_large, is_large_and_plain, joined, located, read_for, read_with, write_with,
};
use crate::document::Document;
use crate::format::Format;
use crate::formats::{ReadOptions, Reading};
use crate::house::House;
use crate::limits::Limits;
use crate::options::{ConvertError, WriteOptions, Written};
use crate::resolver::Resolver;
use std::borrow::Cow;

/// What a conversion is about to do.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Step {
    /// The source is read, repaired, and gets its pictures.
    Reading,
    /// The target is written.
    Writing,
}

/// A conversion, told step by step: from where, to where, in which house, who fetches what documents name, what
/// a program adds, what the work may take, and whom to tell how far it is. Made once, it converts any number of
/// documents.
///
/// ```
/// use obblet::{Converter, Format, House, Limits};
/// let limits = Limits { steps: 1_000_000, ..Limits::default() };
/// let converter = Converter::to(Format::Html)
///     .from(Format::Markdown)
///     .house(House::built_in("body")?)
///     .limits(limits);
/// let written = converter.convert(b"High water at *noon*.\n")?;
/// assert_eq!(written.text(), "<p>High water at <em>noon</em>.</p>\n");
/// # Ok::<(), obblet::ConvertError>(())
/// ```
#[derive(Clone)]
pub struct Converter<'c> {
    options: Cow<'c, WriteOptions>,
    from: Option<Format>,
    resolver: &'c dyn Resolver,
    additions: Additions,
    limits: Option<Limits>,
    progress: Option<&'c dyn Fn(Step)>,
}

/// Writes HTML, in the house `page`.
impl Default for Converter<'_> {
    fn default() -> Self {
        Self::to(Format::Html)
    }
}

impl<'c> Converter<'c> {
    /// Writes a format, in the house `page`.
    #[must_use]
    pub fn to(format: Format) -> Self {
        Self::of(Cow::Owned(WriteOptions::format(format)))
    }

    /// Writes as these options say.
    #[must_use]
    pub fn with_options(options: &'c WriteOptions) -> Self {
        Self::of(Cow::Borrowed(options))
    }

    fn of(options: Cow<'c, WriteOptions>) -> Self {
        Self {
            options,
            from: None,
            resolver: &(),
            additions: Additions::new(),
            limits: None,
            progress: None,
        }
    }

    /// Reads this format. Default: the one that each source looks like ([`Format::detect`]).
    #[must_use]
    pub fn from(self, format: Format) -> Self {
        Self { from: Some(format), ..self }
    }

    /// Writes in this house.
    #[must_use]
    pub fn house(mut self, house: House) -> Self {
        self.options.to_mut().house = house;
        self
    }

    /// Asks this one for the files that documents include, and for the pictures that they only name. Default:
    /// nobody; what a document names stays a name.
    #[must_use]
    pub fn resolver<'r>(self, resolver: &'r dyn Resolver) -> Converter<'r>
    where
        'c: 'r,
    {
        Converter { resolver, ..self }
    }

    /// Reads, repairs and writes with what a program adds.
    #[must_use]
    pub fn additions(self, additions: Additions) -> Self {
        Self { additions, ..self }
    }

    /// Ends each call with [`ConvertError::Exceeded`] where it takes more than this. Default: those limits that
    /// the call itself is made in, if any.
    #[must_use]
    pub fn limits(self, limits: Limits) -> Self {
        Self { limits: Some(limits), ..self }
    }

    /// Tells what is about to be done.
    #[must_use]
    pub fn progress<'p>(self, tell: &'p dyn Fn(Step)) -> Converter<'p>
    where
        'c: 'p,
    {
        Converter { progress: Some(tell), ..self }
    }

    /// Reads a source, repairs it as the house says, and writes it. Findings of all steps come together, with
    /// their lines and columns.
    ///
    /// # Errors
    /// [`ConvertError`] when the bytes are no document of the format at all, when the document is deeper than
    /// any reader makes it, when the house names a file that was not given, or when the limits are exceeded.
    pub fn convert(&self, source: &[u8]) -> Result<Written, ConvertError> {
        self.limited(|| {
            let from = self.format_of(source);
            self.tell(Step::Reading);
            if self.additions.is_empty() && is_large_and_plain(source, from, &self.options) {
                return convert_large(source, &self.options);
            }
            let reading = read_for(source, from, &self.options, self.resolver, &self.additions)?;
            self.tell(Step::Writing);
            let written = write_with(&reading.document, &self.options, &self.additions)?;
            Ok(joined(reading, written))
        })
    }

    /// Reads a source for the target: with what that format can say, repaired as its house says, and with the
    /// pictures taken in that it has to hold. This and [`write`](Self::write()) are [`convert`](Self::convert).
    ///
    /// # Errors
    /// [`ConvertError`] when the bytes are no document of the format at all, or when the limits are exceeded.
    pub fn read(&self, source: &[u8]) -> Result<Reading, ConvertError> {
        self.limited(|| {
            let from = self.format_of(source);
            self.tell(Step::Reading);
            Ok(located(read_for(source, from, &self.options, self.resolver, &self.additions)?))
        })
    }

    /// Reads a source as it is, whatever the target: nothing is repaired or taken in.
    ///
    /// # Errors
    /// Those of [`read`](Self::read).
    pub fn read_as_it_is(
        &self,
        source: &[u8],
        options: &ReadOptions,
    ) -> Result<Reading, ConvertError> {
        self.limited(|| {
            let from = self.format_of(source);
            self.tell(Step::Reading);
            Ok(located(read_with(source, from, options, self.resolver, &self.additions)?))
        })
    }

    /// Writes a document, read or made.
    ///
    /// # Errors
    /// [`ConvertError`] when the document is deeper than any reader makes it, when the house names a file that
    /// was not given, or when the limits are exceeded.
    pub fn write(&self, document: &Document) -> Result<Written, ConvertError> {
        self.limited(|| {
            self.tell(Step::Writing);
            Ok(write_with(document, &self.options, &self.additions)?)
        })
    }

    fn format_of(&self, source: &[u8]) -> Format {
        self.from.unwrap_or_else(|| Format::detect(source))
    }

    fn tell(&self, step: Step) {
        if let Some(tell) = self.progress {
            tell(step);
        }
    }

    fn limited<T>(
        &self,
        work: impl FnOnce() -> Result<T, ConvertError>,
    ) -> Result<T, ConvertError> {
        match &self.limits {
            Some(limits) => limits.run(work)?,
            None => work(),
        }
    }
}
