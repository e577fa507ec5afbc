//! Word packages made in a test.

#![allow(dead_code, reason = "each test uses what it needs")]

use std::io::{Cursor, Write as _};
use zip::ZipWriter;
use zip::write::SimpleFileOptions;

pub(crate) const TRANSITIONAL: &str =
    "http://schemas.openxmlformats.org/wordprocessingml/2006/main";
pub(crate) const STRICT: &str = "http://purl.oclc.org/ooxml/wordprocessingml/main";
pub(crate) const RELATIONS: &str = "http://schemas.openxmlformats.org/package/2006/relationships";
pub(crate) const OFFICE: &str =
    "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

/// A one-pixel PNG.
pub(crate) const PNG: &[u8] = b"\x89PNG\r\n\x1a\nnot really a picture";

/// A package with these parts.
pub(crate) fn package(parts: &[(&str, Vec<u8>)]) -> Vec<u8> {
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    for (name, bytes) in parts {
        zip.start_file(*name, SimpleFileOptions::default()).unwrap();
        zip.write_all(bytes).unwrap();
    }
    zip.finish().unwrap().into_inner()
}

pub(crate) fn relationships(inner: &str) -> Vec<u8> {
    let inner = inner.replace("office:", &format!("{OFFICE}/"));
    format!("<Relationships xmlns=\"{RELATIONS}\">{inner}</Relationships>").into_bytes()
}

pub(crate) fn relationship(id: &str, kind: &str, target: &str) -> String {
    format!("<Relationship Id=\"{id}\" Type=\"office:{kind}\" Target=\"{target}\"/>")
}
