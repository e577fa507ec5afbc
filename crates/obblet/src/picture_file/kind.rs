//! What kind of picture a file is, by its first bytes, whatever its name says.

/// A kind of picture that documents carry.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum PictureKind {
    Png,
    Jpeg,
    Gif,
    Bmp,
    WebP,
    Avif,
    Tiff,
    Svg,
    Emf,
    Wmf,
}

/// Bytes of an XML file that its root is looked for in.
const PROLOGUE: usize = 4096;

impl PictureKind {
    /// The kind of a file; `None` for all that is no picture.
    pub(crate) fn of(bytes: &[u8]) -> Option<Self> {
        const SIGNATURES: [(usize, &[u8], PictureKind); 11] = [
            (0, b"\x89PNG\r\n\x1a\n", PictureKind::Png),
            (0, b"\xFF\xD8\xFF", PictureKind::Jpeg),
            (0, b"GIF87a", PictureKind::Gif),
            (0, b"GIF89a", PictureKind::Gif),
            (8, b"WEBP", PictureKind::WebP),
            (4, b"ftypavif", PictureKind::Avif),
            (4, b"ftypavis", PictureKind::Avif),
            (0, b"II*\0", PictureKind::Tiff),
            (0, b"MM\0*", PictureKind::Tiff),
            (0, b"\xD7\xCD\xC6\x9A", PictureKind::Wmf),
            (40, b" EMF", PictureKind::Emf),
        ];
        let has = |at: usize, mark: &[u8]| bytes.get(at..at + mark.len()) == Some(mark);
        let known =
            SIGNATURES.iter().find(|(at, mark, _)| has(*at, mark)).map(|(_, _, kind)| *kind);
        match known {
            Some(Self::WebP) if !has(0, b"RIFF") => None,
            Some(kind) => Some(kind),
            None if has(0, b"\x01\x00\x09\x00") || has(0, b"\x02\x00\x09\x00") => Some(Self::Wmf),
            None if is_bitmap(bytes) => Some(Self::Bmp),
            None if has_svg_root(bytes) => Some(Self::Svg),
            None => None,
        }
    }

    /// Whether browsers show it, and it is no drawing.
    pub(crate) fn is_in_pixels(self) -> bool {
        matches!(self, Self::Png | Self::Jpeg | Self::Gif | Self::Bmp | Self::WebP | Self::Avif)
    }

    /// Whether Word and LaTeX files take it in: what browsers show, and drawings that scale.
    pub(crate) fn is_taken_in_by_paper(self) -> bool {
        self == Self::Svg || self.is_in_pixels()
    }

    pub(crate) fn media_type(self) -> &'static str {
        match self {
            Self::Png => "image/png",
            Self::Jpeg => "image/jpeg",
            Self::Gif => "image/gif",
            Self::Bmp => "image/bmp",
            Self::WebP => "image/webp",
            Self::Avif => "image/avif",
            Self::Tiff => "image/tiff",
            Self::Svg => "image/svg+xml",
            Self::Emf => "image/emf",
            Self::Wmf => "image/wmf",
        }
    }

    /// The endings that a name of such a file may have; the first one is given to those with another.
    pub(crate) fn endings(self) -> &'static [&'static str] {
        match self {
            Self::Png => &["png"],
            Self::Jpeg => &["jpg", "jpeg", "jpe", "jfif"],
            Self::Gif => &["gif"],
            Self::Bmp => &["bmp", "dib"],
            Self::WebP => &["webp"],
            Self::Avif => &["avif"],
            Self::Tiff => &["tif", "tiff"],
            Self::Svg => &["svg"],
            Self::Emf => &["emf"],
            Self::Wmf => &["wmf"],
        }
    }
}

/// `BM`, which words begin with, too: what follows are the size and four bytes of nought.
fn is_bitmap(bytes: &[u8]) -> bool {
    bytes.starts_with(b"BM") && bytes.get(6..10) == Some(&[0; 4])
}

/// Whether the first element of a text is `svg`, behind what may stand before it in XML.
fn has_svg_root(bytes: &[u8]) -> bool {
    let start = bytes.get(..bytes.len().min(PROLOGUE)).unwrap_or_default();
    let text = String::from_utf8_lossy(start.strip_prefix(b"\xEF\xBB\xBF").unwrap_or(start));
    let mut rest = text.trim_start();
    loop {
        let end = match rest {
            _ if rest.starts_with("<!--") => rest.find("-->").map(|end| end + 3),
            _ if rest.starts_with("<?") => rest.find("?>").map(|end| end + 2),
            _ if rest.starts_with("<!") => end_of_declaration(rest),
            _ => None,
        };
        match end.and_then(|end| rest.get(end..)) {
            Some(behind) => rest = behind.trim_start(),
            None => break,
        }
    }
    let name = rest.strip_prefix('<').unwrap_or_default();
    let name = name.split(|c: char| c.is_whitespace() || matches!(c, '>' | '/')).next();
    name.is_some_and(|name| name.rsplit(':').next() == Some("svg"))
}

/// Behind a document type declaration, with what it declares in brackets.
fn end_of_declaration(text: &str) -> Option<usize> {
    let bracket = text.find(['[', '>'])?;
    if text.get(bracket..)?.starts_with('>') {
        return Some(bracket + 1);
    }
    let close = bracket + text.get(bracket..)?.find(']')?;
    Some(close + text.get(close..)?.find('>')? + 1)
}

#[cfg(test)]
#[allow(clippy::expect_used, reason = "a test fails by panicking")]
mod tests {
    use super::*;

    #[test]
    fn the_bytes_say_what_a_file_is() {
        let cases: [(&[u8], Option<PictureKind>); 14] = [
            (b"\x89PNG\r\n\x1a\n....", Some(PictureKind::Png)),
            (b"\xFF\xD8\xFF\xE0", Some(PictureKind::Jpeg)),
            (b"GIF89a...", Some(PictureKind::Gif)),
            (b"RIFF....WEBP", Some(PictureKind::WebP)),
            (b"RIFX....WEBP", None),
            (b"BM\x46\0\0\0\0\0\0\0", Some(PictureKind::Bmp)),
            (b"BM is no picture", None),
            (b"<svg/>", Some(PictureKind::Svg)),
            (b"\xEF\xBB\xBF<?xml version='1.0'?>\n<!-- x --><!DOCTYPE svg [<!ENTITY a 'b'>]>\n<s:svg xmlns:s='x'>", Some(PictureKind::Svg)),
            (b"<html><svg></svg>", None),
            (b"<?php echo 1 ?>", None),
            (b"<!-- <svg> --><script>", None),
            (b"#!/bin/sh", None),
            (b"", None),
        ];
        for (bytes, kind) in cases {
            assert_eq!(PictureKind::of(bytes), kind, "{}", String::from_utf8_lossy(bytes));
        }
    }
}
