//! From bytes to text: encodings, byte order marks, line endings.

use crate::findings::{Code, Findings};
use chardetng::{EncodingDetector, Iso2022JpDetection, Utf8Detection};
use encoding_rs::Encoding;
use std::borrow::Cow;

/// The text of a source whose encoding is not known: by byte order mark, then UTF-8, then by
/// detection. Bytes that are no text become U+FFFD, with a finding.
#[must_use]
pub fn decoded<'b>(bytes: &'b [u8], findings: &mut Findings) -> Cow<'b, str> {
    decoded_as_stated(bytes, None, findings)
}

/// The same where the source may state its encoding itself. What is UTF-8 is read as UTF-8 even so:
/// statements are copied along more often than that happens by chance.
pub(crate) fn decoded_as_stated<'b>(
    bytes: &'b [u8],
    stated: Option<&'static Encoding>,
    findings: &mut Findings,
) -> Cow<'b, str> {
    let encoding = match Encoding::for_bom(bytes) {
        Some((encoding, _)) => encoding,
        None => match std::str::from_utf8(bytes) {
            Ok(text) => return Cow::Borrowed(text),
            Err(_) => stated.unwrap_or_else(|| detected(bytes)),
        },
    };
    let (text, _, replaced) = encoding.decode(bytes);
    if replaced {
        findings.add_about(Code::BytesReplaced, encoding.name(), None);
    }
    text
}

fn detected(bytes: &[u8]) -> &'static Encoding {
    let mut detector = EncodingDetector::new(Iso2022JpDetection::Deny);
    detector.feed(bytes, true);
    detector.guess(None, Utf8Detection::Allow)
}

/// The text without a byte order mark, with `\n` for every line ending and U+FFFD for NUL.
#[must_use]
pub fn normalised(text: &str) -> Cow<'_, str> {
    let text = text.strip_prefix('\u{FEFF}').unwrap_or(text);
    if memchr::memchr2(b'\r', b'\0', text.as_bytes()).is_none() {
        return Cow::Borrowed(text);
    }
    Cow::Owned(text.replace("\r\n", "\n").replace('\r', "\n").replace('\0', "\u{FFFD}"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn encodings_are_told_by_mark_form_and_guess() {
        let cases: [(&[u8], &str); 4] = [
            (b"\xEF\xBB\xBFtide", "tide"),
            (b"\xFF\xFEt\0i\0", "ti"),
            ("Mühle".as_bytes(), "Mühle"),
            (
                b"Die M\xFChle an der M\xFCndung, gro\xDF und alt",
                "Die Mühle an der Mündung, groß und alt",
            ),
        ];
        for (bytes, expected) in cases {
            let mut findings = Findings::new();
            assert_eq!(normalised(&decoded(bytes, &mut findings)), expected);
            assert!(findings.is_empty());
        }
    }

    #[test]
    fn line_endings_and_nul_are_made_plain() {
        assert_eq!(normalised("a\r\nb\rc\n\0"), "a\nb\nc\n\u{FFFD}");
    }
}
