//! The package: parts, relationships, content types (ECMA-376 part 2).

use super::xml::Xml;
use std::borrow::Cow;
use std::collections::HashMap;
use std::io::{Cursor, Read};
use thiserror::Error;
use zip::ZipArchive;
use zip::result::ZipError;

/// The most bytes a part may unpack to.
const PART_LIMIT: u64 = 256 << 20;

/// Why a file is no Word package.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PackageError {
    /// There are no bytes.
    #[error("the file is empty")]
    Empty,
    /// An OLE file: the format before 2007, or a package locked with a password.
    #[error(
        "it is a binary file: either the format from before 2007 or locked with a password; \
         save it as .docx without a password"
    )]
    Binary,
    /// Not a ZIP archive at all.
    #[error("it is not a ZIP archive, as every .docx file is")]
    NotZip,
    /// A ZIP archive that is broken.
    #[error("its ZIP archive is broken or cut off ({0})")]
    BrokenZip(String),
    /// A ZIP archive of something else.
    #[error("its ZIP archive holds no Word document{}", holds(.0))]
    OtherPackage(&'static str),
    /// The main part is missing or cannot be unpacked.
    #[error("its main document part {0} cannot be read: {1}")]
    NoMainPart(String, PartError),
}

fn holds(what: &str) -> String {
    if what.is_empty() { String::new() } else { format!(", but {what}") }
}

/// Why a part cannot be read.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PartError {
    /// The package has no such part.
    #[error("there is no such part")]
    Missing,
    /// It would unpack to too much.
    #[error("it unpacks to more than {} MiB", PART_LIMIT >> 20)]
    TooLarge,
    /// Its bytes are damaged.
    #[error("it is damaged ({0})")]
    Damaged(String),
}

/// A relationship of a part.
#[derive(Debug, Clone)]
pub(super) struct Relationship {
    /// The last segment of its type, which is the same in both conformance classes.
    pub(super) kind: String,
    /// The part's name inside the package, or an address outside.
    pub(super) target: String,
    pub(super) external: bool,
}

/// The relationships of one part, by id.
#[derive(Debug, Clone, Default)]
pub(super) struct Relationships(HashMap<String, Relationship>);

impl Relationships {
    pub(super) fn get(&self, id: &str) -> Option<&Relationship> {
        self.0.get(id)
    }

    /// The first internal target of a kind, by name, so that the choice is always the same.
    pub(super) fn part_of_kind(&self, kind: &str) -> Option<&str> {
        let fits =
            |relationship: &&Relationship| relationship.kind == kind && !relationship.external;
        self.0.values().filter(fits).map(|relationship| relationship.target.as_str()).min()
    }

    /// All internal targets of a kind, sorted.
    pub(super) fn parts_of_kind(&self, kind: &str) -> Vec<&str> {
        let fits =
            |relationship: &&Relationship| relationship.kind == kind && !relationship.external;
        let mut parts: Vec<&str> =
            self.0.values().filter(fits).map(|relationship| relationship.target.as_str()).collect();
        parts.sort_unstable();
        parts
    }
}

/// An open package.
pub(super) struct Package<'b> {
    archive: ZipArchive<Cursor<&'b [u8]>>,
    /// The name in the archive of each part name in lower case: part names differ by more than
    /// case (ECMA-376 part 2, 6.2.2).
    names: HashMap<String, String>,
}

impl<'b> Package<'b> {
    pub(super) fn open(bytes: &'b [u8]) -> Result<Self, PackageError> {
        if bytes.is_empty() {
            return Err(PackageError::Empty);
        }
        if bytes.starts_with(b"\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1") {
            return Err(PackageError::Binary);
        }
        if !bytes.starts_with(b"PK") {
            return Err(PackageError::NotZip);
        }
        let archive = ZipArchive::new(Cursor::new(bytes))
            .map_err(|error: ZipError| PackageError::BrokenZip(error.to_string()))?;
        let names = archive
            .file_names()
            .flatten()
            .map(|name| (name.replace('\\', "/").to_ascii_lowercase(), name.to_string()))
            .collect();
        Ok(Self { archive, names })
    }

    pub(super) fn has(&self, part: &str) -> bool {
        self.names.contains_key(&part.to_ascii_lowercase())
    }

    /// The bytes of a part.
    pub(super) fn bytes(&mut self, part: &str) -> Result<Vec<u8>, PartError> {
        let name = self.names.get(&part.to_ascii_lowercase()).ok_or(PartError::Missing)?;
        let file = self.archive.by_name(name).map_err(|e| PartError::Damaged(e.to_string()))?;
        let mut bytes = Vec::new();
        let mut limited = file.take(PART_LIMIT + 1);
        limited.read_to_end(&mut bytes).map_err(|error| PartError::Damaged(error.to_string()))?;
        if bytes.len() as u64 > PART_LIMIT { Err(PartError::TooLarge) } else { Ok(bytes) }
    }

    /// The text of an XML part, whatever its encoding.
    pub(super) fn text(&mut self, part: &str) -> Result<String, PartError> {
        let bytes = self.bytes(part)?;
        if let Some((encoding, _)) = encoding_rs::Encoding::for_bom(&bytes) {
            return Ok(encoding.decode(&bytes).0.into_owned());
        }
        match String::from_utf8_lossy(&bytes) {
            Cow::Borrowed(_) => Ok(String::from_utf8(bytes).unwrap_or_default()),
            Cow::Owned(text) => Ok(text),
        }
    }

    /// The relationships of a part; the package itself is the part with the empty name.
    pub(super) fn relationships(&mut self, part: &str) -> Relationships {
        let (folder, file) = part.rsplit_once('/').unwrap_or(("", part));
        let slash = if folder.is_empty() { "" } else { "/" };
        let text = self.text(&format!("{folder}{slash}_rels/{file}.rels")).unwrap_or_default();
        let mut found = HashMap::new();
        let mut xml = Xml::new(&text);
        let level = xml.level();
        while let Some(root) = xml.child(level) {
            if root.local() != "Relationships" {
                continue;
            }
            let inside = xml.level();
            while let Some(element) = xml.child(inside) {
                let (Some(id), Some(target)) = (element.value("Id"), element.value("Target"))
                else {
                    continue;
                };
                let external = element.value("TargetMode").as_deref() == Some("External");
                let kind = element.value("Type").unwrap_or_default();
                let kind = kind.rsplit('/').next().unwrap_or_default().to_string();
                let target = if external { target } else { resolved(folder, &target) };
                found.insert(id, Relationship { kind, target, external });
            }
        }
        Relationships(found)
    }

    /// The name of the main document part.
    pub(super) fn main_part(&mut self) -> Result<String, PackageError> {
        let relationships = self.relationships("");
        let main = relationships.part_of_kind("officeDocument").map(String::from);
        match main {
            Some(part) if !part.starts_with("word/") && self.has("xl/workbook.xml") => {
                Err(PackageError::OtherPackage("a spreadsheet"))
            }
            Some(part) if !part.starts_with("word/") && self.has("ppt/presentation.xml") => {
                Err(PackageError::OtherPackage("slides"))
            }
            Some(part) => Ok(part),
            // A package that lost its relationships, but not its content.
            None if self.has("word/document.xml") => Ok("word/document.xml".into()),
            None if self.has("content.xml") => {
                Err(PackageError::OtherPackage("an OpenDocument file"))
            }
            None if self.has("META-INF/container.xml") => {
                Err(PackageError::OtherPackage("an e-book"))
            }
            None => Err(PackageError::OtherPackage("")),
        }
    }
}

/// A target relative to a folder, as a name inside the package.
fn resolved(folder: &str, target: &str) -> String {
    let absolute = target.starts_with('/');
    let mut segments: Vec<&str> =
        if absolute { Vec::new() } else { folder.split('/').filter(|s| !s.is_empty()).collect() };
    for segment in target.split('/') {
        match segment {
            "" | "." => {}
            ".." => {
                segments.pop();
            }
            _ => segments.push(segment),
        }
    }
    segments.join("/")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn targets_stay_inside_the_package() {
        let cases = [
            ("word", "media/wheel.png", "word/media/wheel.png"),
            ("word", "/docProps/core.xml", "docProps/core.xml"),
            ("word", "../customXml/item1.xml", "customXml/item1.xml"),
            ("word", "../../../etc/passwd", "etc/passwd"),
            ("", "./word/document.xml", "word/document.xml"),
        ];
        for (folder, target, expected) in cases {
            assert_eq!(resolved(folder, target), expected);
        }
    }

    #[test]
    fn what_is_no_package_is_named_for_what_it_is() {
        let cases: [(&[u8], &str); 4] = [
            (b"", "the file is empty"),
            (b"\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1rest", "it is a binary file"),
            (b"Dear editor", "it is not a ZIP archive"),
            (b"PK\x03\x04cut off", "its ZIP archive is broken or cut off"),
        ];
        for (bytes, expected) in cases {
            let error = Package::open(bytes).err().map(|error| error.to_string());
            assert!(error.as_deref().is_some_and(|e| e.starts_with(expected)), "{error:?}");
        }
    }
}
