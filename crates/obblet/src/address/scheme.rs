//! Schemes of addresses.

/// The scheme of an address, in small letters, when it has one, as a browser sees it: it ignores leading
/// control characters and spaces, and tabs and line endings anywhere (URL Standard, basic URL parser).
pub(crate) fn scheme(address: &str) -> Option<String> {
    let mut seen = address
        .trim_start_matches(|c: char| c <= ' ')
        .chars()
        .filter(|c| !matches!(c, '\t' | '\n' | '\r'));
    let mut scheme = String::new();
    loop {
        match seen.next()? {
            ':' if !scheme.is_empty() => return Some(scheme),
            c if c.is_ascii_alphabetic() => scheme.push(c.to_ascii_lowercase()),
            c @ ('0'..='9' | '+' | '-' | '.') if !scheme.is_empty() => scheme.push(c),
            _ => return None,
        }
    }
}
