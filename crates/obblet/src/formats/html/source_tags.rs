//! The tags of a source, one after the other, where they stand.

use super::open_tags::{TEXT_ONLY, behind_tag, behind_text};
use std::ops::Range;

/// A tag in the source.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Tag {
    /// The element's name in small letters.
    pub(crate) name: String,
    pub(crate) is_end: bool,
    /// The bytes of the tag.
    pub(crate) span: Range<usize>,
}

/// All tags of some HTML. What stands in remarks, scripts and style sheets is none.
///
/// A tag without an end is the last one.
pub(crate) fn tags(html: &str) -> impl Iterator<Item = Tag> + '_ {
    let mut rest = html;
    std::iter::from_fn(move || {
        loop {
            let at = memchr::memchr(b'<', rest.as_bytes())?;
            rest = rest.get(at..)?;
            let start = html.len() - rest.len();
            if let Some(remark) = rest.strip_prefix("<!--") {
                rest = remark.split_once("-->").map_or("", |(_, behind)| behind);
                continue;
            }
            if rest.starts_with("<!") || rest.starts_with("<?") {
                rest = rest.split_once('>').map_or("", |(_, behind)| behind);
                continue;
            }
            let inside = rest.get(1..)?;
            let (is_end, inside) = match inside.strip_prefix('/') {
                Some(inside) => (true, inside),
                None => (false, inside),
            };
            if !inside.starts_with(|c: char| c.is_ascii_alphabetic()) {
                rest = inside;
                continue;
            }
            let stops = |c: char| c.is_ascii_whitespace() || matches!(c, '/' | '>');
            let length = inside.find(stops).unwrap_or(inside.len());
            let name = inside.get(..length)?.to_ascii_lowercase();
            let behind = behind_tag(inside.get(length..)?).unwrap_or_default();
            let span = start..html.len() - behind.len();
            rest = match !is_end && TEXT_ONLY.contains(&name.as_str()) {
                true => behind_text(behind, &name).unwrap_or_default(),
                false => behind,
            };
            return Some(Tag { name, is_end, span });
        }
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tags_are_found_where_they_stand() {
        let html = "<p>a <B\ntitle='>'>b</B><!-- <i> --><style>p > <b> {}</style><br/>1 < 2 <p";
        let found: Vec<(String, bool, &str)> = tags(html)
            .map(|tag| (tag.name, tag.is_end, html.get(tag.span).unwrap_or_default()))
            .collect();
        let shown: Vec<(&str, bool, &str)> =
            found.iter().map(|(name, is_end, text)| (name.as_str(), *is_end, *text)).collect();
        assert_eq!(
            shown,
            [
                ("p", false, "<p>"),
                ("b", false, "<B\ntitle='>'>"),
                ("b", true, "</B>"),
                ("style", false, "<style>"),
                ("br", false, "<br/>"),
                ("p", false, "<p"),
            ]
        );
    }
}
