//! The package: parts, their types and their relationships (ECMA-376 part 2).

use super::markup::value;
use std::collections::HashMap;
use std::io::{Cursor, Write as _};
use zip::result::ZipError;
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, DateTime, ZipWriter};

const OFFICE: &str = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const PACKAGE: &str = "http://schemas.openxmlformats.org/package/2006";
pub(super) const XML: &str = "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n";

/// The relationships of one part, in the order in which they were made.
#[derive(Debug, Default)]
pub(super) struct Relations {
    list: Vec<Relation>,
    numbers: HashMap<Relation, usize>,
}

#[derive(Debug, Clone, PartialEq, Eq, Hash)]
struct Relation {
    kind: String,
    target: String,
    is_external: bool,
}

impl Relations {
    /// The id of a relationship to another part, by the last word of its type.
    pub(super) fn part(&mut self, kind: &str, target: &str) -> String {
        let kind = match kind {
            "core-properties" => format!("{PACKAGE}/relationships/metadata/core-properties"),
            "commentsExtended" => {
                "http://schemas.microsoft.com/office/2011/relationships/commentsExtended".into()
            }
            kind => format!("{OFFICE}/{kind}"),
        };
        self.add(Relation { kind, target: target.into(), is_external: false })
    }

    /// The id of a relationship to something outside of the package.
    pub(super) fn outside(&mut self, kind: &str, address: &str) -> String {
        let kind = format!("{OFFICE}/{kind}");
        self.add(Relation { kind, target: address.into(), is_external: true })
    }

    fn add(&mut self, relation: Relation) -> String {
        let next = self.list.len();
        let at = *self.numbers.entry(relation.clone()).or_insert(next);
        if at == next {
            self.list.push(relation);
        }
        format!("rId{}", at + 1)
    }

    pub(super) fn is_empty(&self) -> bool {
        self.list.is_empty()
    }

    fn xml(&self) -> String {
        let mut out = format!("{XML}<Relationships xmlns=\"{PACKAGE}/relationships\">");
        for (at, relation) in self.list.iter().enumerate() {
            let mode = if relation.is_external { " TargetMode=\"External\"" } else { "" };
            out.push_str(&format!(
                "<Relationship Id=\"rId{}\" Type=\"{}\" Target=\"{}\"{mode}/>",
                at + 1,
                value(&relation.kind),
                value(&relation.target)
            ));
        }
        out + "</Relationships>"
    }
}

/// A package that is being put together.
#[derive(Debug, Default)]
pub(super) struct Parts {
    parts: Vec<(String, Vec<u8>)>,
    /// Types of parts that their extension does not tell.
    types: Vec<(String, String)>,
    /// Types of extensions.
    extensions: Vec<(String, String)>,
}

impl Parts {
    /// Adds a part of XML with a type of its own.
    pub(super) fn xml(&mut self, name: &str, media_type: &str, text: String) {
        self.types.push((name.into(), media_type.into()));
        self.parts.push((name.into(), text.into_bytes()));
    }

    /// The parts of XML that are there so far.
    pub(super) fn texts(&self) -> Vec<&str> {
        self.parts.iter().filter_map(|(_, bytes)| std::str::from_utf8(bytes).ok()).collect()
    }

    /// Adds a file whose extension tells its type.
    pub(super) fn file(&mut self, name: &str, media_type: &str, bytes: &[u8]) {
        let extension = name.rsplit('.').next().unwrap_or_default();
        if !self.extensions.iter().any(|(known, _)| known == extension) {
            self.extensions.push((extension.into(), media_type.into()));
        }
        self.parts.push((name.into(), bytes.to_vec()));
    }

    /// Adds the relationships of a part; of the package for an empty name.
    pub(super) fn relations(&mut self, part: &str, relations: &Relations) {
        if relations.is_empty() {
            return;
        }
        let (folder, file) = part.rsplit_once('/').unwrap_or(("", part));
        let mark = if folder.is_empty() { "" } else { "/" };
        let name = format!("{folder}{mark}_rels/{file}.rels");
        self.parts.push((name, relations.xml().into_bytes()));
    }

    /// The package as bytes: the same parts give the same bytes, whenever and wherever.
    pub(super) fn packed(mut self) -> Result<Vec<u8>, ZipError> {
        let types = self.content_types();
        self.parts.sort_by(|one, other| order(&one.0).cmp(&order(&other.0)));
        let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
        let all = std::iter::once(("[Content_Types].xml".to_string(), types.into_bytes()));
        for (name, bytes) in all.chain(self.parts) {
            let options = SimpleFileOptions::default()
                .compression_method(CompressionMethod::Deflated)
                .last_modified_time(DateTime::default());
            zip.start_file(name, options)?;
            zip.write_all(&bytes)?;
        }
        Ok(zip.finish()?.into_inner())
    }

    fn content_types(&mut self) -> String {
        self.types.sort();
        self.extensions.sort();
        let mut out = format!("{XML}<Types xmlns=\"{PACKAGE}/content-types\">");
        out.push_str(
            "<Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/>\
             <Default Extension=\"xml\" ContentType=\"application/xml\"/>",
        );
        for (extension, kind) in &self.extensions {
            out.push_str(&format!(
                "<Default Extension=\"{}\" ContentType=\"{}\"/>",
                value(extension),
                value(kind)
            ));
        }
        for (name, kind) in &self.types {
            out.push_str(&format!(
                "<Override PartName=\"/{}\" ContentType=\"{}\"/>",
                value(name),
                value(kind)
            ));
        }
        out + "</Types>"
    }
}

/// Relationships of the package first, then the main part, then all others by name.
fn order(name: &str) -> (u8, &str) {
    let first = match name {
        "_rels/.rels" => 0,
        "word/document.xml" => 1,
        "word/_rels/document.xml.rels" => 2,
        _ => 3,
    };
    (first, name)
}
