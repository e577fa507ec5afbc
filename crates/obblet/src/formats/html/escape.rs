//! Escaping text and attribute values.

/// Adds text, with `&`, `<` and `>` as character references.
pub(super) fn push_text(out: &mut String, text: &str) {
    push_escaped(out, text, |byte| match byte {
        b'&' => Some("&amp;"),
        b'<' => Some("&lt;"),
        b'>' => Some("&gt;"),
        _ => control(byte),
    });
}

/// Adds the value of a double-quoted attribute.
pub(super) fn push_value(out: &mut String, value: &str) {
    push_escaped(out, value, |byte| match byte {
        b'&' => Some("&amp;"),
        b'<' => Some("&lt;"),
        b'"' => Some("&quot;"),
        _ => control(byte),
    });
}

/// The HTML standard (3.2.5, text content) allows no control characters but white space; XML does not allow
/// form feeds either.
fn control(byte: u8) -> Option<&'static str> {
    match byte {
        0x0C => Some(" "),
        0..=8 | 0x0B | 0x0E..=0x1F | 0x7F => Some("\u{FFFD}"),
        _ => None,
    }
}

/// Whether a noncharacter of the first plane begins here: neither HTML nor XML has them.
fn is_noncharacter(bytes: &[u8]) -> bool {
    matches!(bytes, [0xEF, 0xBF, 0xBE | 0xBF, ..] | [0xEF, 0xB7, 0x90..=0xAF, ..])
}

fn push_escaped(out: &mut String, text: &str, escape: impl Fn(u8) -> Option<&'static str>) {
    let (mut written, mut at) = (0, 0);
    let bytes = text.as_bytes();
    let is_special = |byte: &u8| SPECIAL.get(usize::from(*byte)).copied().unwrap_or(true);
    while let Some(next) = bytes.get(at..).and_then(|rest| rest.iter().position(is_special)) {
        at += next;
        if bytes.get(at..).is_some_and(is_noncharacter) {
            out.push_str(text.get(written..at).unwrap_or_default());
            out.push('\u{FFFD}');
            written = at + 3;
            at += 3;
            continue;
        }
        if let Some(reference) = bytes.get(at).and_then(|byte| escape(*byte)) {
            out.push_str(text.get(written..at).unwrap_or_default());
            out.push_str(reference);
            written = at + 1;
        }
        at += 1;
    }
    out.push_str(text.get(written..).unwrap_or_default());
}

/// The bytes that are escaped in text or in values.
const SPECIAL: [bool; 256] = {
    let mut special = [false; 256];
    let mut byte = 0;
    while byte < 256 {
        special[byte] = matches!(byte as u8, b'&' | b'<' | b'>' | b'"')
            || (byte < 0x20 && !matches!(byte as u8, b'\t' | b'\n' | b'\r'))
            || byte == 0x7F
            || byte == 0xEF;
        byte += 1;
    }
    special
};
