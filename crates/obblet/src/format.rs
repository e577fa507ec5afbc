//! The formats by name: extensions, media types, detection from content.

use serde::{Serialize, Serializer};
use std::fmt;
use std::str::FromStr;
use thiserror::Error;

/// How many bytes are looked at to tell a page that was saved with its pictures.
const LOOKED_AT: usize = 4096;

/// A document format.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[non_exhaustive]
pub enum Format {
    /// Markdown.
    Markdown,
    /// HTML.
    Html,
    /// Word's file format (Office Open XML).
    Word,
    /// LaTeX.
    Latex,
    /// Org.
    Org,
    /// Plain text.
    Text,
    /// A format of somebody else's, for which a program brings a reader or a writer.
    Other(&'static FormatFacts),
}

/// What is known about a format by its name. A program that brings a reader or a writer makes one:
///
/// ```
/// use obblet::{Format, FormatFacts};
/// static TIDE_TABLE: FormatFacts = FormatFacts {
///     name: "tides",
///     title: "Tide table",
///     extensions: &["tides"],
///     media_type: "text/x-tides",
/// };
/// assert_eq!(Format::Other(&TIDE_TABLE).extension(), "tides");
/// ```
#[derive(Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct FormatFacts {
    /// The name used on the command line and in settings, in small letters.
    pub name: &'static str,
    /// The name people read.
    pub title: &'static str,
    /// The extensions of its files without the dot, in small letters. The first one is used for files that
    /// are written.
    pub extensions: &'static [&'static str],
    /// The media type.
    pub media_type: &'static str,
}

impl FormatFacts {
    pub(crate) fn has_name(&self, name: &str) -> bool {
        self.name.eq_ignore_ascii_case(name) || self.has_extension(name)
    }

    pub(crate) fn has_extension(&self, extension: &str) -> bool {
        self.extensions.iter().any(|own| own.eq_ignore_ascii_case(extension))
    }
}

impl Format {
    /// All formats of Obblet's own.
    pub const ALL: [Self; 6] =
        [Self::Markdown, Self::Html, Self::Word, Self::Latex, Self::Org, Self::Text];

    /// What is known about it.
    #[must_use]
    pub fn facts(self) -> &'static FormatFacts {
        match self {
            Self::Markdown => &FormatFacts {
                name: "markdown",
                title: "Markdown",
                extensions: &["md", "markdown", "mkd"],
                media_type: "text/markdown",
            },
            Self::Html => &FormatFacts {
                name: "html",
                title: "HTML",
                extensions: &["html", "htm", "xhtml", "mht", "mhtml"],
                media_type: "text/html",
            },
            Self::Word => &FormatFacts {
                name: "word",
                title: "Word",
                extensions: &["docx", "docm", "dotx"],
                media_type: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
            },
            Self::Latex => &FormatFacts {
                name: "latex",
                title: "LaTeX",
                extensions: &["tex", "latex"],
                media_type: "application/x-tex",
            },
            Self::Org => &FormatFacts {
                name: "org",
                title: "Org",
                extensions: &["org"],
                media_type: "text/x-org",
            },
            Self::Text => &FormatFacts {
                name: "text",
                title: "plain text",
                extensions: &["txt", "text"],
                media_type: "text/plain",
            },
            Self::Other(facts) => facts,
        }
    }

    /// The name used on the command line and in settings.
    #[must_use]
    pub fn name(self) -> &'static str {
        self.facts().name
    }

    /// The name people read.
    #[must_use]
    pub fn title(self) -> &'static str {
        self.facts().title
    }

    /// The extension of files that are written, without the dot.
    #[must_use]
    pub fn extension(self) -> &'static str {
        self.facts().extensions.first().copied().unwrap_or_default()
    }

    /// The media type.
    #[must_use]
    pub fn media_type(self) -> &'static str {
        self.facts().media_type
    }

    /// Whether its writer carries what a document looks like.
    pub(crate) fn carries_looks(self) -> bool {
        matches!(self, Self::Html | Self::Word)
    }

    /// The format with this name or extension, in any case.
    ///
    /// ```
    /// use obblet::Format;
    /// assert_eq!(Format::of_name("Markdown"), Some(Format::Markdown));
    /// assert_eq!(Format::of_name("docx"), Some(Format::Word));
    /// assert_eq!(Format::of_name("pages"), None);
    /// ```
    #[must_use]
    pub fn of_name(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|format| format.facts().has_name(name))
    }

    /// The format that a file name's extension stands for.
    #[must_use]
    pub fn of_file_name(name: &str) -> Option<Self> {
        let (_, extension) = name.rsplit_once('.')?;
        Self::ALL.into_iter().find(|format| format.facts().has_extension(extension))
    }

    /// The format that bytes look like. Anything that shows no other format's marks is Markdown
    /// when it has some of Markdown's, and else plain text.
    ///
    /// ```
    /// use obblet::Format;
    /// assert_eq!(Format::detect(b"<!DOCTYPE html><title>Tides</title>"), Format::Html);
    /// assert_eq!(Format::detect(b"#+TITLE: Log\n* TODO Grease the wheel\n"), Format::Org);
    /// assert_eq!(Format::detect(b"<p>High water at noon.</p>"), Format::Html);
    /// assert_eq!(Format::detect(b"PK\x03\x04"), Format::Word);
    /// ```
    #[must_use]
    pub fn detect(bytes: &[u8]) -> Self {
        if bytes.starts_with(b"PK\x03\x04") {
            return Self::Word;
        }
        let start = String::from_utf8_lossy(bytes.get(..bytes.len().min(8192)).unwrap_or_default());
        let start = start.trim_start_matches('\u{FEFF}').trim_start();
        if starts_html(start) || is_saved_page(bytes) {
            return Self::Html;
        }
        let lines = || start.lines().map(str::trim_start);
        if lines().any(|line| line.starts_with("\\documentclass") || line.starts_with("\\begin{")) {
            return Self::Latex;
        }
        if lines().any(|line| line.to_ascii_lowercase().starts_with("#+title:"))
            || lines().any(|line| line.starts_with("* TODO ") || line.starts_with("* DONE "))
            || lines().any(|line| line.to_ascii_lowercase().starts_with("#+begin_"))
        {
            return Self::Org;
        }
        let is_markdown = |line: &str| {
            ["# ", "## ", "- ", "* ", "```", "> ", "---"].iter().any(|mark| line.starts_with(mark))
                || line.contains("](")
                || line.contains("**")
        };
        let is_tag = |first: char| first.is_ascii_alphabetic() || first == '!';
        match start.strip_prefix('<') {
            _ if lines().any(is_markdown) => Self::Markdown,
            Some(rest) if rest.starts_with(is_tag) => Self::Html,
            _ => Self::Text,
        }
    }
}

/// Whether bytes are a saved page: they begin with the header fields of a message that holds related
/// parts.
pub(crate) fn is_saved_page(source: &[u8]) -> bool {
    let start = source.get(..LOOKED_AT).unwrap_or(source).to_ascii_lowercase();
    let has = |wanted: &[u8]| memchr::memmem::find(&start, wanted).is_some();
    let first_line = start.split(|byte| *byte == b'\n').next().unwrap_or_default();
    let is_field = first_line.iter().position(|byte| *byte == b':').is_some_and(|colon| {
        first_line.iter().take(colon).all(|b| b.is_ascii_alphanumeric() || *b == b'-')
    });
    is_field && has(b"mime-version:") && has(b"multipart/related")
}

fn starts_html(start: &str) -> bool {
    let lower: String = start.chars().take(200).collect::<String>().to_ascii_lowercase();
    ["<!doctype html", "<html", "<head", "<body"].iter().any(|mark| lower.starts_with(mark))
        || lower.starts_with("<?xml") && lower.contains("<html")
}

impl fmt::Display for Format {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(self.title())
    }
}

impl FromStr for Format {
    type Err = UnknownFormat;

    fn from_str(name: &str) -> Result<Self, UnknownFormat> {
        Self::of_name(name).ok_or_else(|| UnknownFormat { name: name.into() })
    }
}

/// No format of Obblet's own has this name.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("there is no such format; there are {}", names())]
pub struct UnknownFormat {
    /// The name that was asked for.
    pub name: String,
}

fn names() -> String {
    Format::ALL.map(Format::name).join(", ")
}

impl Serialize for Format {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn formats_are_known_by_their_names() {
        for format in Format::ALL {
            assert_eq!(format.name().parse(), Ok(format));
            assert_eq!(Format::of_file_name(&format!("a.{}", format.extension())), Some(format));
        }
    }

    #[test]
    fn content_tells_the_format() {
        let cases: [(&[u8], Format); 7] = [
            (b"\xEF\xBB\xBF  <HTML>", Format::Html),
            (b"<?xml version='1.0'?><html xmlns='x'>", Format::Html),
            (b"% draft\n\\documentclass{article}", Format::Latex),
            (b"Hours\n\n- noon\n", Format::Markdown),
            (b"see [the guide](guide.md)", Format::Markdown),
            (b"Chapter One\n\nIt was ebb.", Format::Text),
            (b"", Format::Text),
        ];
        for (bytes, expected) in cases {
            assert_eq!(Format::detect(bytes), expected, "{:?}", String::from_utf8_lossy(bytes));
        }
    }
}
