//! The formats by name: extensions, media types, detection from content.

use std::fmt;

/// How many bytes are looked at to tell a page that was saved with its pictures.
const LOOKED_AT: usize = 4096;

/// A document format.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, serde::Serialize)]
#[serde(rename_all = "lowercase")]
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
}

/// What is known about a format by its name.
struct Facts {
    format: Format,
    name: &'static str,
    title: &'static str,
    /// The first one is used for files that are written.
    extensions: &'static [&'static str],
    media_type: &'static str,
}

const FACTS: [Facts; 6] = [
    Facts {
        format: Format::Markdown,
        name: "markdown",
        title: "Markdown",
        extensions: &["md", "markdown", "mkd"],
        media_type: "text/markdown",
    },
    Facts {
        format: Format::Html,
        name: "html",
        title: "HTML",
        extensions: &["html", "htm", "xhtml", "mht", "mhtml"],
        media_type: "text/html",
    },
    Facts {
        format: Format::Word,
        name: "word",
        title: "Word",
        extensions: &["docx", "docm", "dotx"],
        media_type: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
    },
    Facts {
        format: Format::Latex,
        name: "latex",
        title: "LaTeX",
        extensions: &["tex", "latex"],
        media_type: "application/x-tex",
    },
    Facts {
        format: Format::Org,
        name: "org",
        title: "Org",
        extensions: &["org"],
        media_type: "text/x-org",
    },
    Facts {
        format: Format::Text,
        name: "text",
        title: "plain text",
        extensions: &["txt", "text"],
        media_type: "text/plain",
    },
];

impl Format {
    /// All formats.
    pub const ALL: [Self; 6] =
        [Self::Markdown, Self::Html, Self::Word, Self::Latex, Self::Org, Self::Text];

    fn facts(self) -> &'static Facts {
        // A test makes sure that the table is in the order of the enum.
        &FACTS[self as usize]
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
        let name = name.to_ascii_lowercase();
        let fits = |facts: &&Facts| facts.name == name || facts.extensions.contains(&name.as_str());
        FACTS.iter().find(fits).map(|facts| facts.format)
    }

    /// The format that a file name's extension stands for.
    #[must_use]
    pub fn of_file_name(name: &str) -> Option<Self> {
        let (_, extension) = name.rsplit_once('.')?;
        let extension = extension.to_ascii_lowercase();
        let fits = |facts: &&Facts| facts.extensions.contains(&extension.as_str());
        FACTS.iter().find(fits).map(|facts| facts.format)
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_table_is_in_the_order_of_the_enum() {
        for (index, format) in Format::ALL.into_iter().enumerate() {
            assert_eq!(format as usize, index);
            assert_eq!(format.facts().format, format);
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
