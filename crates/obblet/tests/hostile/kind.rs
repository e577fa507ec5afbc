//! Kinds of hostile sources, from the table in `kinds.txt`.

use crate::package::{TRANSITIONAL, package, relationship, relationships};
use obblet::Format;
use std::fmt::Write as _;

/// One line of the table.
pub(crate) struct Kind {
    pub(crate) format: Format,
    pub(crate) name: &'static str,
    /// The part of a Word file that the source is; empty for a file that is a source itself.
    part: &'static str,
    pattern: Vec<Piece>,
    pub(crate) beside: String,
}

enum Piece {
    Once(String),
    Repeated(String),
}

/// Opens and closes what is repeated.
const REPEATED: [char; 2] = ['⟦', '⟧'];

/// All kinds, those that are called “ordinary” before the others of their format.
pub(crate) fn kinds() -> Vec<Kind> {
    let lines = include_str!("kinds.txt").lines();
    lines.filter(|line| !line.starts_with("# ") && !line.is_empty()).map(Kind::of).collect()
}

impl Kind {
    fn of(line: &'static str) -> Self {
        let (what, rest) = line.split_once(" | ").expect("a format");
        let (name, rest) = rest.split_once(" | ").expect("a name");
        // Tables have bars in their sources; what stands beside is never a table.
        let (source, beside) = match rest.rsplit_once(" | ") {
            Some((source, beside)) if !beside.contains(REPEATED) => (source, beside),
            _ => (rest, ""),
        };
        let (format, part) = match what {
            "markdown" => (Format::Markdown, ""),
            "html" => (Format::Html, ""),
            "org" => (Format::Org, ""),
            "latex" => (Format::Latex, ""),
            "text" => (Format::Text, ""),
            "word" => (Format::Word, "document"),
            part => (Format::Word, part),
        };
        let mut pattern = Vec::new();
        for piece in source.split_inclusive(REPEATED) {
            let text = unescaped(piece.trim_end_matches(REPEATED));
            pattern.push(match piece.ends_with('⟧') {
                true => Piece::Repeated(text),
                false => Piece::Once(text),
            });
        }
        Self { format, name, part, pattern, beside: unescaped(beside) }
    }

    pub(crate) fn is_ordinary(&self) -> bool {
        self.name == "ordinary"
    }

    /// The source, with about so many bytes of text or of XML.
    pub(crate) fn source(&self, size: usize) -> Vec<u8> {
        let text = self.text(size);
        if self.part.is_empty() { text.into_bytes() } else { word_file(self.part, &text) }
    }

    fn text(&self, size: usize) -> String {
        let number = |count: usize| count.to_string();
        let length = |piece: &Piece| match piece {
            Piece::Once(_) => 0,
            // Numbers have four digits, more or less.
            Piece::Repeated(text) => text.replace(['¤', '⊕'], "1234").len(),
        };
        let count = size / self.pattern.iter().map(length).sum::<usize>().max(1);
        let mut text = String::with_capacity(size + size / 4);
        for piece in &self.pattern {
            match piece {
                Piece::Once(once) => text.push_str(once),
                Piece::Repeated(repeated) if repeated.contains(['¤', '⊕']) => {
                    for at in 0..count {
                        let this = repeated.replace('¤', &number(at));
                        text.push_str(&this.replace('⊕', &number(at + 1)));
                    }
                }
                Piece::Repeated(repeated) => text.push_str(&repeated.repeat(count)),
            }
        }
        text
    }
}

/// Puts line ends and characters by their numbers into a text.
fn unescaped(text: &str) -> String {
    let mut out = String::new();
    let mut rest = text;
    while let Some((before, behind)) = rest.split_once('\\') {
        out.push_str(before);
        let sign = behind.chars().next().expect("a sign behind a backslash");
        rest = &behind[1..];
        match sign {
            'n' => out.push('\n'),
            't' => out.push('\t'),
            '\\' => out.push('\\'),
            'u' => {
                let (digits, behind) =
                    rest.strip_prefix('{').and_then(|rest| rest.split_once('}')).expect("digits");
                let code = u32::from_str_radix(digits, 16).expect("hexadecimal digits");
                out.push(char::from_u32(code).expect("a character"));
                rest = behind;
            }
            other => panic!("\\{other} is not known in {text}"),
        }
    }
    out.push_str(rest);
    out
}

const NAMESPACES: &str = "xmlns:m=\"http://schemas.openxmlformats.org/officeDocument/2006/math\" \
    xmlns:wp=\"http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing\" \
    xmlns:mc=\"http://schemas.openxmlformats.org/markup-compatibility/2006\" \
    xmlns:v=\"urn:schemas-microsoft-com:vml\"";

/// A Word file with this in one of its parts.
fn word_file(part: &str, inner: &str) -> Vec<u8> {
    let body = match part {
        "document" => inner,
        _ => {
            "<w:p><w:pPr><w:pStyle w:val=\"s1\"/><w:numPr><w:ilvl w:val=\"0\"/><w:numId w:val=\"1\"/>\
             </w:numPr></w:pPr><w:r><w:t>x</w:t></w:r><w:r><w:footnoteReference w:id=\"1\"/></w:r>\
             <w:r><w:commentReference w:id=\"1\"/></w:r></w:p>"
        }
    };
    let xml = |root: &str, inner: &str| {
        let mut xml = String::new();
        let _ = write!(xml, "<w:{root} xmlns:w=\"{TRANSITIONAL}\" {NAMESPACES}>{inner}</w:{root}>");
        xml.into_bytes()
    };
    let main = relationship("r1", "officeDocument", "word/document.xml");
    let document = xml("document", &format!("<w:body>{body}</w:body>"));
    let mut parts = vec![("_rels/.rels", relationships(&main)), ("word/document.xml", document)];
    let name = format!("word/{part}.xml");
    if part != "document" {
        let to = relationship("r2", part, &format!("{part}.xml"));
        parts.push(("word/_rels/document.xml.rels", relationships(&to)));
        parts.push((&name, xml(part, inner)));
    }
    package(&parts)
}
