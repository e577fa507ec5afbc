//! Web and mail addresses without angle brackets (GFM 6.9, extended autolinks).

use crate::work;
use std::ops::Range;

/// An address that stands in a text as such.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct BareAddress {
    pub(super) range: Range<usize>,
    /// What goes before it to make it an absolute address.
    pub(super) prefix: &'static str,
}

/// Finds all bare addresses of a text, in order and without overlap.
pub(super) fn bare_addresses(text: &str, found: &mut Vec<BareAddress>) {
    let bytes = text.as_bytes();
    for finder in [www_addresses, scheme_addresses, mail_addresses] {
        finder(bytes, found);
    }
    found.sort_by_key(|address| address.range.start);
    let mut end = 0;
    found.retain(|address| {
        let free = address.range.start >= end;
        if free {
            end = address.range.end;
        }
        free
    });
}

fn www_addresses(bytes: &[u8], found: &mut Vec<BareAddress>) {
    let mut covered = 0;
    // Texts are short: one sign is found sooner than a word is looked for.
    for dot in memchr::memchr_iter(b'.', bytes) {
        let Some(start) = dot.checked_sub(3) else { continue };
        if bytes.get(start..dot) == Some(b"www")
            && start >= covered
            && may_start(bytes, start)
            && let Some(end) = web_end(bytes, start, start)
        {
            covered = end;
            found.push(BareAddress { range: start..end, prefix: "http://" });
        }
    }
}

fn scheme_addresses(bytes: &[u8], found: &mut Vec<BareAddress>) {
    let mut covered = 0;
    for colon in memchr::memchr_iter(b':', bytes) {
        if bytes.get(colon + 1..colon + 3) != Some(b"//") {
            continue;
        }
        let before = bytes.get(..colon).unwrap_or_default();
        let scheme = ["https", "http", "ftp"].into_iter().find(|scheme| {
            let tail = before.len().checked_sub(scheme.len()).and_then(|at| before.get(at..));
            tail.is_some_and(|tail| tail.eq_ignore_ascii_case(scheme.as_bytes()))
        });
        let Some(start) = scheme.map(|scheme| colon - scheme.len()) else { continue };
        if start >= covered
            && may_start(bytes, start)
            && let Some(end) = web_end(bytes, start, colon + 3)
        {
            covered = end;
            found.push(BareAddress { range: start..end, prefix: "" });
        }
    }
}

fn mail_addresses(bytes: &[u8], found: &mut Vec<BareAddress>) {
    let mut covered = 0;
    for at in memchr::memchr_iter(b'@', bytes) {
        let is_local = |byte: &u8| byte.is_ascii_alphanumeric() || b".+_-".contains(byte);
        let before = bytes.get(covered..at).unwrap_or_default();
        let start =
            before.iter().rposition(|byte| !is_local(byte)).map_or(covered, |p| covered + p + 1);
        let tail = bytes.get(at + 1..).unwrap_or_default();
        let is_domain = |byte: &u8| byte.is_ascii_alphanumeric() || b".-_".contains(byte);
        let mut length = tail.iter().position(|byte| !is_domain(byte)).unwrap_or(tail.len());
        while length > 0 && tail.get(length - 1) == Some(&b'.') {
            length -= 1;
        }
        let domain = tail.get(..length).unwrap_or_default();
        covered = at + 1;
        let whole = domain.contains(&b'.')
            && domain.split(|byte| *byte == b'.').all(|label| !label.is_empty())
            && !domain.last().is_some_and(|byte| b"-_".contains(byte));
        if start < at && whole {
            let end = at + 1 + length;
            let (range, prefix) = with_written_scheme(bytes, start, end);
            covered = range.end;
            found.push(BareAddress { range, prefix });
        }
    }
}

/// A mail address with the `mailto:` or `xmpp:` that stands before it; an `xmpp:` address may go on
/// with a resource.
fn with_written_scheme(bytes: &[u8], start: usize, end: usize) -> (Range<usize>, &'static str) {
    let before = bytes.get(..start).unwrap_or_default();
    let scheme_start = |scheme: &str| {
        let at = start.checked_sub(scheme.len())?;
        (before.get(at..)? == scheme.as_bytes() && may_start(bytes, at)).then_some(at)
    };
    if let Some(start) = scheme_start("mailto:") {
        return (start..end, "");
    }
    let Some(start) = scheme_start("xmpp:") else { return (start..end, "mailto:") };
    let resource = bytes.get(end..).and_then(|tail| tail.strip_prefix(b"/")).unwrap_or_default();
    let is_resource = |byte: &&u8| byte.is_ascii_alphanumeric() || b"@.".contains(byte);
    let length = resource.iter().take_while(is_resource).count();
    (start..if length > 0 { end + 1 + length } else { end }, "")
}

/// An address begins at the start of a line, behind white space, or behind `*`, `_`, `~` or `(`.
fn may_start(bytes: &[u8], at: usize) -> bool {
    let before = at.checked_sub(1).and_then(|at| bytes.get(at));
    before.is_none_or(|byte| byte.is_ascii_whitespace() || b"*_~(".contains(byte))
}

/// The end of a web address whose domain begins at `domain`, or `None` without a valid domain.
fn web_end(bytes: &[u8], start: usize, domain: usize) -> Option<usize> {
    let tail = bytes.get(domain..)?;
    let is_domain =
        |byte: &u8| byte.is_ascii_alphanumeric() || b"-_.".contains(byte) || !byte.is_ascii();
    let length = tail.iter().position(|byte| !is_domain(byte)).unwrap_or(tail.len());
    let name = tail.get(..length)?;
    let mut labels = name.rsplit(|byte| *byte == b'.').filter(|label| !label.is_empty());
    let (last, before) = (labels.next()?, labels.next()?);
    if last.contains(&b'_') || before.contains(&b'_') {
        return None;
    }
    let ends = |byte: &u8| byte.is_ascii_whitespace() || *byte == b'<';
    let end = tail.iter().position(ends).map_or(bytes.len(), |at| domain + at);
    work::count(end - start);
    Some(trimmed_end(bytes, start, end))
}

/// Extended autolink path validation: punctuation, a character reference and parentheses without
/// partner at the end are not part of the address.
fn trimmed_end(bytes: &[u8], start: usize, mut end: usize) -> usize {
    let count = |end: usize, wanted: u8| {
        let range = bytes.get(start..end).unwrap_or_default();
        memchr::memchr_iter(wanted, range).count()
    };
    let mut surplus = count(end, b')').saturating_sub(count(end, b'('));
    while end > start {
        work::count(1);
        match bytes.get(end - 1) {
            Some(byte) if b"?!.,:*_~'\"".contains(byte) => end -= 1,
            Some(b')') if surplus > 0 => {
                surplus -= 1;
                end -= 1;
            }
            Some(b';') => {
                let before = bytes.get(start..end - 1).unwrap_or_default();
                let name = before.iter().rev().take_while(|b| b.is_ascii_alphanumeric()).count();
                let ampersand = before.len().checked_sub(name + 1).and_then(|at| before.get(at));
                if name == 0 || ampersand != Some(&b'&') {
                    return end;
                }
                end -= name + 2;
            }
            _ => return end,
        }
    }
    end
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn addresses_end_where_a_reader_would_end_them() {
        let cases: [(&str, &[&str]); 9] = [
            ("see www.marrowby.example/a.", &["www.marrowby.example/a"]),
            ("(https://a.b/c_(d)) x", &["https://a.b/c_(d)"]),
            ("https://a.b/x&copy; y", &["https://a.b/x"]),
            ("https://a.b/x;y", &["https://a.b/x;y"]),
            ("ring@mill.example, b@c", &["ring@mill.example"]),
            ("xhttps://a.b", &[]),
            ("http://localhost", &[]),
            ("www.a_b.c d", &[]),
            ("a@b.c- d.e@f.g.", &["d.e@f.g"]),
        ];
        for (text, expected) in cases {
            let mut found = Vec::new();
            bare_addresses(text, &mut found);
            let shown: Vec<&str> = found.iter().map(|a| &text[a.range.clone()]).collect();
            assert_eq!(shown, expected, "{text:?}");
        }
    }
}
