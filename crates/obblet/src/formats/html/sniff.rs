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
