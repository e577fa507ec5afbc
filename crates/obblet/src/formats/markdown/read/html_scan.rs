//! Raw HTML: where a tag, comment, instruction or declaration ends.

use crate::work;

/// The elements that begin an HTML block of the sixth kind (CommonMark 4.6), sorted.
const BLOCK_ELEMENTS: [&str; 62] = [
    "address",
    "article",
    "aside",
    "base",
    "basefont",
    "blockquote",
    "body",
    "caption",
    "center",
    "col",
    "colgroup",
    "dd",
    "details",
    "dialog",
    "dir",
    "div",
    "dl",
    "dt",
    "fieldset",
    "figcaption",
    "figure",
    "footer",
    "form",
    "frame",
    "frameset",
    "h1",
    "h2",
    "h3",
    "h4",
    "h5",
    "h6",
    "head",
    "header",
    "hr",
    "html",
    "iframe",
    "legend",
    "li",
    "link",
    "main",
    "menu",
    "menuitem",
    "nav",
    "noframes",
    "ol",
    "optgroup",
    "option",
    "p",
    "param",
    "search",
    "section",
    "summary",
    "table",
    "tbody",
    "td",
    "tfoot",
    "th",
    "thead",
    "title",
    "tr",
    "track",
    "ul",
];

/// Whether this element name, in any case, begins an HTML block of the sixth kind.
pub(super) fn is_block_element(name: &[u8]) -> bool {
    let lower = name.to_ascii_lowercase();
    BLOCK_ELEMENTS.binary_search_by(|known| known.as_bytes().cmp(&lower)).is_ok()
}

/// A tag name: a letter, then letters, digits and hyphens.
pub(super) fn leading_name(bytes: &[u8]) -> Option<&[u8]> {
    if !bytes.first()?.is_ascii_alphabetic() {
        return None;
    }
    let end = bytes.iter().position(|byte| !byte.is_ascii_alphanumeric() && *byte != b'-');
    bytes.get(..end.unwrap_or(bytes.len()))
}

/// How many block elements markup opens more than it closes; negative when it closes more.
pub(super) fn elements_left_open(markup: &[u8]) -> isize {
    const EMPTY: [&[u8]; 8] =
        [b"hr", b"base", b"basefont", b"col", b"frame", b"link", b"param", b"track"];
    let mut open = 0;
    for at in memchr::memchr_iter(b'<', markup) {
        let behind = markup.get(at + 1..).unwrap_or_default();
        let closing = behind.strip_prefix(b"/");
        let Some(name) = leading_name(closing.unwrap_or(behind)) else { continue };
        let is_empty = EMPTY.iter().any(|empty| name.eq_ignore_ascii_case(empty));
        if is_block_element(name) && !is_empty {
            open += if closing.is_some() { -1 } else { 1 };
        }
    }
    open
}

fn is_space(byte: u8) -> bool {
    matches!(byte, b' ' | b'\t' | b'\n')
}

/// A reader of bytes that only goes forward.
struct Bytes<'a> {
    bytes: &'a [u8],
    at: usize,
}

impl Bytes<'_> {
    fn peek(&self) -> Option<u8> {
        self.bytes.get(self.at).copied()
    }

    fn skip_while(&mut self, mut wanted: impl FnMut(u8) -> bool) -> usize {
        let start = self.at;
        while self.peek().is_some_and(&mut wanted) {
            self.at += 1;
        }
        self.at - start
    }

    fn take(&mut self, wanted: u8) -> Option<()> {
        (self.peek()? == wanted).then(|| self.at += 1)
    }
}

/// CommonMark 6.6: an open or closing tag at the start of `bytes`. Gives its length.
pub(super) fn tag(bytes: &[u8]) -> Option<usize> {
    let closing = bytes.get(1) == Some(&b'/');
    let mut scan = Bytes { bytes, at: if closing { 2 } else { 1 } };
    scan.at += leading_name(bytes.get(scan.at..)?)?.len();
    if closing {
        scan.skip_while(is_space);
    } else {
        while attribute(&mut scan)? {}
        if scan.peek() == Some(b'/') {
            scan.at += 1;
        }
    }
    scan.take(b'>')?;
    Some(scan.at)
}

/// White space and an attribute behind it. `Some(false)` when there is only white space.
fn attribute(scan: &mut Bytes<'_>) -> Option<bool> {
    let spaces = scan.skip_while(is_space);
    let starts_name = |byte: u8| byte.is_ascii_alphabetic() || matches!(byte, b'_' | b':');
    if spaces == 0 || !scan.peek().is_some_and(starts_name) {
        return Some(false);
    }
    scan.skip_while(|byte| byte.is_ascii_alphanumeric() || b"_.:-".contains(&byte));
    let behind_name = scan.at;
    scan.skip_while(is_space);
    if scan.take(b'=').is_none() {
        scan.at = behind_name;
        return Some(true);
    }
    scan.skip_while(is_space);
    match scan.peek()? {
        quote @ (b'"' | b'\'') => {
            scan.at += 1;
            scan.skip_while(|byte| byte != quote);
            scan.take(quote)?;
        }
        _ => {
            let bare = |byte: u8| !is_space(byte) && !b"\"'=<>`".contains(&byte);
            if scan.skip_while(bare) == 0 {
                return None;
            }
        }
    }
    Some(true)
}

/// What ends each kind of raw HTML that is not a tag, so that a search that once found nothing
/// need not be made again: that keeps a text of many openings linear.
#[derive(Debug, Default)]
pub(super) struct RawScan {
    no_comment_end: bool,
    no_instruction_end: bool,
    no_cdata_end: bool,
    no_declaration_end: bool,
}

impl RawScan {
    /// CommonMark 6.6: any raw HTML at the start of `bytes`, which begin with `<`. Gives its
    /// length. Calls must come with ever later positions of one text.
    pub(super) fn raw_html(&mut self, bytes: &[u8]) -> Option<usize> {
        match bytes.get(1)? {
            b'?' => find_once(bytes, 2, b"?>", &mut self.no_instruction_end),
            b'!' if bytes.starts_with(b"<!--") => {
                // `<!-->` and `<!--->` are whole comments.
                let tail = bytes.get(4..).unwrap_or_default();
                if tail.starts_with(b">") {
                    return Some(5);
                }
                if tail.starts_with(b"->") {
                    return Some(6);
                }
                find_once(bytes, 4, b"-->", &mut self.no_comment_end)
            }
            b'!' if bytes.starts_with(b"<![CDATA[") => {
                find_once(bytes, 9, b"]]>", &mut self.no_cdata_end)
            }
            b'!' if bytes.get(2).is_some_and(u8::is_ascii_alphabetic) => {
                find_once(bytes, 3, b">", &mut self.no_declaration_end)
            }
            _ => tag(bytes),
        }
    }
}

fn find_once(bytes: &[u8], from: usize, end: &[u8], known_absent: &mut bool) -> Option<usize> {
    if *known_absent {
        return None;
    }
    let found = memchr::memmem::find(bytes.get(from..)?, end);
    work::count(found.unwrap_or(bytes.len()) / 16 + 1);
    match found {
        Some(found) => Some(from + found + end.len()),
        None => {
            *known_absent = true;
            None
        }
    }
}

/// The tags that GFM 6.11 disallows.
const DISALLOWED: [&str; 9] =
    ["title", "textarea", "style", "xmp", "iframe", "noembed", "noframes", "script", "plaintext"];

/// Raw HTML with `&lt;` for the `<` of every disallowed tag.
pub(super) fn with_harmless_tags(markup: &str) -> String {
    let mut out = String::with_capacity(markup.len());
    let mut parts = markup.split('<');
    out.push_str(parts.next().unwrap_or_default());
    for part in parts {
        let name = leading_name(part.strip_prefix('/').unwrap_or(part).as_bytes());
        out.push_str(if is_disallowed(name) { "&lt;" } else { "<" });
        out.push_str(part);
    }
    out
}

/// The markup that [`with_harmless_tags`] makes this one of.
pub(super) fn without_harmless_tags(markup: &str) -> String {
    let mut out = String::with_capacity(markup.len());
    let mut parts = markup.split("&lt;");
    out.push_str(parts.next().unwrap_or_default());
    for part in parts {
        let name = leading_name(part.strip_prefix('/').unwrap_or(part).as_bytes());
        out.push_str(if is_disallowed(name) { "<" } else { "&lt;" });
        out.push_str(part);
    }
    out
}

fn is_disallowed(name: Option<&[u8]>) -> bool {
    name.is_some_and(|name| DISALLOWED.iter().any(|tag| name.eq_ignore_ascii_case(tag.as_bytes())))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn block_elements_are_sorted() {
        assert!(BLOCK_ELEMENTS.is_sorted());
        assert!(is_block_element(b"DIV"));
        assert!(!is_block_element(b"span"));
    }

    #[test]
    fn tags_end_where_the_standard_says() {
        let cases = [
            ("<a>x", Some(3)),
            ("<a  b='c>' d=e f />x", Some(19)),
            ("</a  >", Some(6)),
            ("</a b>", None),
            ("<a b=>", None),
            ("<a b='c'd>", None),
            ("<33>", None),
            ("<a\n b>", Some(6)),
            ("<a", None),
        ];
        for (text, expected) in cases {
            assert_eq!(tag(text.as_bytes()), expected, "{text:?}");
        }
    }
}
