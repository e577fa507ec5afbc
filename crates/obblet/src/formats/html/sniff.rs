//! What can be told of HTML from its first bytes.

/// How many bytes are looked at.
const LOOKED_AT: usize = 2048;

/// Whether bytes begin a whole page. What stands on a clipboard is a fragment, also where a program
/// has put a page around it.
///
/// ```
/// use obblet::formats::html::is_page;
/// assert!(is_page(b"<!DOCTYPE html><title>Tides</title>"));
/// assert!(!is_page(b"<p>High water</p>"));
/// assert!(!is_page(b"<html><body><!--StartFragment--><p>Ebb</p><!--EndFragment--></body></html>"));
/// ```
#[must_use]
pub fn is_page(source: &[u8]) -> bool {
    let start = source.get(..LOOKED_AT).unwrap_or(source);
    let has = |wanted: &[u8]| {
        start.windows(wanted.len()).any(|window| window.eq_ignore_ascii_case(wanted))
    };
    let is_page = has(b"<!doctype") || has(b"<html") || has(b"<head") || has(b"<body");
    is_page && !has(b"<!--StartFragment")
}

/// Whether a page is one that this program made, and shows its title or its authors by itself: a
/// title has no id, as headings of documents have.
pub(crate) fn shows_own_metadata(source: &[u8]) -> bool {
    use memchr::memmem::find;
    let start = source.get(..LOOKED_AT).unwrap_or(source);
    let is_own = find(start, b"<meta name=\"generator\" content=\"Obblet ").is_some();
    let main = find(source, b"<main id=").and_then(|at| source.get(at..)).unwrap_or_default();
    let text = memchr::memchr(b'\n', main).and_then(|at| main.get(at + 1..)).unwrap_or_default();
    is_own && (text.starts_with(b"<h1>") || find(text, b"<p class=\"byline\">").is_some())
}

/// The encoding that a `meta` element states near the start (HTML Standard, 13.2.3.2).
pub(crate) fn stated_encoding(source: &[u8]) -> Option<&'static encoding_rs::Encoding> {
    let start = source.get(..LOOKED_AT).unwrap_or(source).to_ascii_lowercase();
    let at = memchr::memmem::find(&start, b"charset=")? + b"charset=".len();
    let value = start.get(at..)?;
    let value = value.strip_prefix(b"\"").or(value.strip_prefix(b"'")).unwrap_or(value);
    let end =
        value.iter().position(|byte| !(byte.is_ascii_alphanumeric() || b"-_:".contains(byte)));
    encoding_rs::Encoding::for_label(value.get(..end?)?)
}
