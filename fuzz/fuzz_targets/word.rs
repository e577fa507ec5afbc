//! Any bytes as the parts of a Word package, read and written as HTML and as Word files, with and without
//! looks: no panic, no hang.
//!
//! The parts stand behind each other, parted by zero bytes: document, styles, numbering, chart, diagram.

#![no_main]

use libfuzzer_sys::fuzz_target;
use obblet::{Format, WriteOptions, convert, read};
use std::io::{Cursor, Write as _};
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

const OFFICE: &str = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

const NAMESPACES: [(&str, &str); 10] = [
    ("w", "http://schemas.openxmlformats.org/wordprocessingml/2006/main"),
    ("r", OFFICE),
    ("a", "http://schemas.openxmlformats.org/drawingml/2006/main"),
    ("wp", "http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing"),
    ("mc", "http://schemas.openxmlformats.org/markup-compatibility/2006"),
    ("m", "http://schemas.openxmlformats.org/officeDocument/2006/math"),
    ("v", "urn:schemas-microsoft-com:vml"),
    ("w14", "http://schemas.microsoft.com/office/word/2010/wordml"),
    ("c", "http://schemas.openxmlformats.org/drawingml/2006/chart"),
    ("dgm", "http://schemas.openxmlformats.org/drawingml/2006/diagram"),
];

const PARTS: [(&str, &str, &str); 5] = [
    ("document.xml", "", ""),
    ("styles.xml", "styles", "rS"),
    ("numbering.xml", "numbering", "rN"),
    ("chart.xml", "chart", "rBar"),
    ("data.xml", "diagramData", "rData"),
];

fn package(bytes: &[u8]) -> Option<Vec<u8>> {
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    let options = SimpleFileOptions::default().compression_method(CompressionMethod::Stored);
    let mut put = |name: &str, data: &[u8]| {
        zip.start_file(name, options).ok()?;
        zip.write_all(data).ok()
    };
    let root = format!("<Relationships><Relationship Id=\"m\" Type=\"{OFFICE}/officeDocument\" Target=\"document.xml\"/></Relationships>");
    put("_rels/.rels", root.as_bytes())?;
    let relations: String = PARTS
        .iter()
        .skip(1)
        .map(|(name, kind, id)| format!("<Relationship Id=\"{id}\" Type=\"{OFFICE}/{kind}\" Target=\"{name}\"/>"))
        .collect();
    put("_rels/document.xml.rels", format!("<Relationships>{relations}</Relationships>").as_bytes())?;
    let declared: String =
        NAMESPACES.iter().map(|(prefix, uri)| format!(" xmlns:{prefix}=\"{uri}\"")).collect();
    for ((name, _, _), part) in PARTS.iter().zip(bytes.split(|byte| *byte == 0)) {
        // The first tag's namespaces are given; its end is where they belong.
        let at = part
            .windows(2)
            .position(|two| two[0] == b'<' && two[1].is_ascii_alphabetic())
            .and_then(|start| Some(start + part[start..].iter().position(|b| b" >/".contains(b))?));
        let at = at.unwrap_or(part.len());
        put(name, &[&part[..at], declared.as_bytes(), &part[at..]].concat())?;
    }
    Some(zip.finish().ok()?.into_inner())
}

fuzz_target!(|bytes: &[u8]| {
    let Some(package) = package(bytes) else { return };
    for house in ["body", "looks"] {
        let options = WriteOptions::house(house).expect("a built-in house");
        let _ = convert(&package, Format::Word, &options);
        // What is read can be written, and what was written is a Word file.
        let options = WriteOptions { format: Format::Word, ..options };
        if let Ok(written) = convert(&package, Format::Word, &options) {
            read(&written.bytes, Format::Word, &Default::default()).expect("a Word file");
        }
    }
});
