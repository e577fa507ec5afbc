//! Addresses: what may stand in `href` and `src`, and how it is spelled.

use crate::address::scheme;
use url::Url;

/// Schemes that links may have: those of the web, those that the HTML Standard lets sites
/// handle (“safelisted schemes”), and some that name things. Whatever else a machine opens by its address, a page does not ask for:
/// files, settings, searches, programs.
const SCHEMES: [&str; 38] = [
    "bitcoin",
    "cid",
    "dav",
    "doi",
    "ed2k",
    "feed",
    "ftp",
    "ftps",
    "gemini",
    "geo",
    "git",
    "gopher",
    "http",
    "https",
    "im",
    "info",
    "irc",
    "ircs",
    "magnet",
    "mailto",
    "matrix",
    "mid",
    "news",
    "nntp",
    "openpgp4fpr",
    "rtsp",
    "sftp",
    "sip",
    "sips",
    "sms",
    "smsto",
    "svn",
    "tel",
    "urn",
    "webcal",
    "ws",
    "wss",
    "xmpp",
];

/// Why an address cannot go out.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum BadAddress {
    /// It may run code.
    Unsafe,
    /// It is none.
    Broken,
}

/// What an address is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum AddressUse {
    Link,
    Picture,
}

/// Whether an address may go out.
pub(super) fn check(address: &str, used_for: AddressUse) -> Result<(), BadAddress> {
    let Some(scheme) = scheme(address) else { return Ok(()) };
    match scheme.as_str() {
        "data" if used_for == AddressUse::Picture && is_picture_data(address) => Ok(()),
        "data" => Err(BadAddress::Unsafe),
        "http" | "https" | "ftp" | "ws" | "wss" if Url::parse(address).is_err() => {
            Err(BadAddress::Broken)
        }
        known if SCHEMES.contains(&known) => Ok(()),
        _ => Err(BadAddress::Unsafe),
    }
}

/// The same of a source that is trusted: any scheme but those that run code in the page.
pub(super) fn check_trusted(address: &str, used_for: AddressUse) -> Result<(), BadAddress> {
    let runs = |scheme: &str| {
        matches!(scheme, "javascript" | "vbscript" | "livescript" | "mocha" | "data")
    };
    match check(address, used_for) {
        Err(BadAddress::Unsafe) if !scheme(address).is_some_and(|scheme| runs(&scheme)) => Ok(()),
        checked => checked,
    }
}

/// Whether an address names a host that cannot be: one of whose labels, but for the last, is
/// empty. The URL Standard parses such addresses, and calls them invalid.
pub(super) fn has_impossible_host(address: &str) -> bool {
    let Ok(url) = Url::parse(address) else { return false };
    let Some(host) = url.host_str().filter(|host| !host.is_empty()) else { return false };
    host.trim_end_matches('.').split('.').any(str::is_empty)
}

/// Pictures inside an address; SVG is left out because it may hold scripts.
fn is_picture_data(address: &str) -> bool {
    let lower =
        address.trim_start().get(..32.min(address.len())).unwrap_or_default().to_ascii_lowercase();
    ["png", "jpeg", "gif", "webp", "avif"].iter().any(|kind| {
        lower.strip_prefix("data:image/").is_some_and(|rest| {
            rest.strip_prefix(kind).is_some_and(|rest| rest.starts_with([';', ',']))
        })
    })
}

/// Adds an address, with every character that an address may not hold percent-encoded (URL
/// Standard, code points); what is encoded already stays as it is.
pub(super) fn push_address(out: &mut String, address: &str) {
    const HEX: &[u8; 16] = b"0123456789ABCDEF";
    let bytes = address.as_bytes();
    for (at, &byte) in bytes.iter().enumerate() {
        match byte {
            b'&' => out.push_str("&amp;"),
            b'\'' => out.push_str("&#39;"),
            b'a'..=b'z' | b'A'..=b'Z' | b'0'..=b'9' => out.push(byte as char),
            b'-' | b'_' | b'.' | b'~' | b'!' | b'*' | b'(' | b')' | b';' | b':' | b'@' | b'='
            | b'+' | b'$' | b',' | b'/' | b'?' | b'#' => out.push(byte as char),
            b'%' if is_encoded(bytes, at) => out.push('%'),
            _ => {
                out.push('%');
                out.push(HEX[usize::from(byte >> 4)] as char);
                out.push(HEX[usize::from(byte & 15)] as char);
            }
        }
    }
}

fn is_encoded(bytes: &[u8], at: usize) -> bool {
    bytes.get(at + 1..at + 3).is_some_and(|two| two.iter().all(u8::is_ascii_hexdigit))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_addresses_that_run_nothing_go_out() {
        use AddressUse::{Link, Picture};
        let cases = [
            ("guide.html#setup", Link, Ok(())),
            ("https://mill.example/a?b=c", Link, Ok(())),
            ("mailto:ring@mill.example", Link, Ok(())),
            ("tel:+441632960001", Link, Ok(())),
            ("made-up:thing", Link, Err(BadAddress::Unsafe)),
            ("file:///etc/passwd", Link, Err(BadAddress::Unsafe)),
            ("search-ms:query=x", Link, Err(BadAddress::Unsafe)),
            ("jar:https://mill.example/x!/", Link, Err(BadAddress::Unsafe)),
            ("intent://x#Intent;end", Link, Err(BadAddress::Unsafe)),
            ("view-source:https://mill.example/", Link, Err(BadAddress::Unsafe)),
            ("JaVaScRiPt:alert(1)", Link, Err(BadAddress::Unsafe)),
            (" \u{1}java\nscript\t:alert(1)", Link, Err(BadAddress::Unsafe)),
            ("data:text/html,x", Link, Err(BadAddress::Unsafe)),
            ("data:image/png;base64,AA", Picture, Ok(())),
            ("data:image/svg+xml,<svg>", Picture, Err(BadAddress::Unsafe)),
            ("http://[x", Link, Err(BadAddress::Broken)),
        ];
        for (address, used_for, expected) in cases {
            assert_eq!(check(address, used_for), expected, "{address:?}");
        }
        for (address, expected) in [
            ("made-up:thing", Ok(())),
            ("file:///etc/passwd", Ok(())),
            ("javascript:x", Err(BadAddress::Unsafe)),
            ("data:text/html,x", Err(BadAddress::Unsafe)),
        ] {
            assert_eq!(check_trusted(address, Link), expected, "{address:?}");
        }
    }

    #[test]
    fn hosts_that_cannot_be_are_told_from_others() {
        for (address, expected) in [
            ("https://../", true),
            ("https://a..b/", true),
            ("https://a.b./", false),
            ("https://[::1]/", false),
            ("mailto:a@b..c", false),
            ("guide.md", false),
        ] {
            assert_eq!(has_impossible_host(address), expected, "{address}");
        }
    }

    #[test]
    fn addresses_are_encoded_once() {
        let cases = [("a b", "a%20b"), ("a%20b", "a%20b"), ("50%", "50%25"), ("ä", "%C3%A4")];
        for (address, expected) in cases {
            let mut out = String::new();
            push_address(&mut out, address);
            assert_eq!(out, expected);
        }
    }
}
