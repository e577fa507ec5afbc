//! Files that are no text, whatever their name says: told by their first bytes, so that none of them is
//! read as if its bytes were words.

use super::ReadError;
use super::word;
use memchr::memmem;

/// Bytes that are looked at.
const HEAD: usize = 1 << 13;
/// One control character among so many bytes makes a file no text, where there are more than some strays.
const CONTROL_SHARE: usize = 32;
const STRAYS: usize = 3;

/// Kinds of files that begin alike, and what to do about each.
const SIGNATURES: [(&[u8], &str, &str); 12] = [
    (b"%PDF-", "a PDF file", "convert the file that it was made from"),
    (b"%!PS", "a PostScript file", "convert the file that it was made from"),
    (b"\x89PNG\r\n", "a PNG picture", "put it into a document as a picture"),
    (b"\xFF\xD8\xFF", "a JPEG picture", "put it into a document as a picture"),
    (b"GIF8", "a GIF picture", "put it into a document as a picture"),
    (b"RIFF", "a picture or sound", "put it into a document"),
    (b"\x1F\x8B", "a compressed file", "unpack it first"),
    (b"BZh", "a compressed file", "unpack it first"),
    (b"\xFD7zXZ", "a compressed file", "unpack it first"),
    (b"7z\xBC\xAF", "an archive", "unpack it first"),
    (b"Rar!", "an archive", "unpack it first"),
    (b"\x7FELF", "a program", "check the name of the file"),
];

/// Elements that a document begins with that another program keeps as a single XML file.
const FLAT_XML: [(&[u8], &str); 3] = [
    (b"<w:wordDocument", "a Word document as a single XML file"),
    (b"<pkg:package", "a Word document as a single XML file"),
    (b"<office:document", "an OpenDocument file as a single XML file"),
];

/// Why this source is no text that a reader of texts can read, if it is none.
pub(crate) fn refuse_what_is_no_text(source: &[u8]) -> Result<(), ReadError> {
    if let Some(error) = word::what_is_no_text(source) {
        return Err(error);
    }
    let head = source.get(..source.len().min(HEAD)).unwrap_or_default();
    let signature = SIGNATURES.iter().find(|(signature, ..)| head.starts_with(signature));
    if let Some((_, is, advice)) = signature
        && has_controls(head)
    {
        return Err(ReadError::NoText { is, advice });
    }
    let starts_xml = head.trim_ascii_start().starts_with(b"<");
    let flat = FLAT_XML.iter().find(|(root, _)| memmem::find(head, root).is_some());
    match flat {
        Some((_, is)) if starts_xml => Err(ReadError::NoText { is, advice: "save it as .docx" }),
        _ if !has_mark(head) && is_binary(head) => {
            Err(ReadError::NoText { is: "a binary file", advice: "check the name of the file" })
        }
        _ => Ok(()),
    }
}

/// Whether there is a byte that no text needs; a text may begin with the words of a signature.
fn has_controls(head: &[u8]) -> bool {
    head.starts_with(b"%") || head.iter().any(|byte| is_control(*byte) || *byte >= 0x80)
}

/// A byte order mark says that the text has wider characters.
fn has_mark(head: &[u8]) -> bool {
    head.starts_with(b"\xFF\xFE") || head.starts_with(b"\xFE\xFF")
}

fn is_binary(head: &[u8]) -> bool {
    let controls = head.iter().filter(|byte| is_control(**byte)).count();
    controls > STRAYS && controls * CONTROL_SHARE > head.len()
}

/// Control characters but for those that texts have: backspace, tab, line ends, form feed, the old end of
/// a file, escape.
fn is_control(byte: u8) -> bool {
    byte < 0x20 && !matches!(byte, 0x08..=0x0D | 0x1A | 0x1B) || byte == 0x7F
}

#[cfg(test)]
#[allow(clippy::expect_used, reason = "a test fails by panicking")]
mod tests {
    use super::*;

    #[test]
    fn what_is_no_text_is_named_for_what_it_is() {
        let cases: [(&[u8], &str); 11] = [
            (b"{\\rtf1\\ansi Tides}", "Rich Text Format"),
            (
                b"\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1W\0o\0r\0d\0D\0o\0c\0u\0m\0e\0n\0t\0",
                "from before 2007",
            ),
            (b"PK\x03\x04cut off", "broken or cut off"),
            (b"%PDF-1.7\n%\xE2\xE3", "this is a PDF file; convert the file"),
            (b"%!PS-Adobe-3.0\n", "this is a PostScript file"),
            (b"\x89PNG\r\n\x1A\n\0\0\0\rIHDR", "this is a PNG picture"),
            (b"\x7FELF\x02\x01\x01\0", "this is a program"),
            (b"tide\x01\0\0\0\x02\0\0\0\x03", "this is a binary file"),
            (
                b"<?xml version=\"1.0\"?>\n<w:wordDocument xmlns:w=\"x\">",
                "this is a Word document as a",
            ),
            (b"<pkg:package xmlns:pkg=\"x\">", "this is a Word document as a"),
            (b"<?xml version=\"1.0\"?><office:document>", "this is an OpenDocument file"),
        ];
        for (source, expected) in cases {
            let error = refuse_what_is_no_text(source).expect_err(expected).to_string();
            assert!(error.contains(expected), "{error}");
        }
    }

    #[test]
    fn texts_are_texts() {
        let cases: [&[u8]; 10] = [
            b"",
            b"ebb\x02flood\0",
            b"High water at noon.\n",
            b"GIF89 is a format of pictures.\n",
            b"RIFF RAFF\n",
            b"See `<w:wordDocument>` in the file.\n",
            b"\xFF\xFEt\0i\0d\0e\0",
            b"N\x08NA\x08AM\x08ME\x08E\n\x0C\x1B[1mbold\x1B[0m",
            b"Die M\xFChle\n",
            "Прилив".as_bytes(),
        ];
        for source in cases {
            assert!(refuse_what_is_no_text(source).is_ok(), "{}", source.escape_ascii());
        }
    }
}
