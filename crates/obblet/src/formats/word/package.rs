//! The package: parts, relationships, content types (ECMA-376 part 2).

use super::xml::Xml;
use crate::formats::error::{DENSEST, PART_LIMIT, PackageError, PartError};
use crate::work;
use std::collections::HashMap;
use std::io::{Cursor, Read};
use std::string::FromUtf8Error;
use zip::ZipArchive;
use zip::result::ZipError;

/// From this size on a part is refused that unpacks to more than [`DENSEST`] times its bytes.
const DENSE_FROM: u64 = 16 << 20;

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
    /// Bytes unpacked so far.
    unpacked: u64,
    most: u64,
}

impl<'b> Package<'b> {
    pub(super) fn open(bytes: &'b [u8]) -> Result<Self, PackageError> {
        if bytes.is_empty() {
            return Err(PackageError::Empty);
        }
        if bytes.starts_with(b"\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1") {
            return Err(kind_of_binary(bytes));
        }
        if bytes.starts_with(b"{\\rtf") {
            return Err(PackageError::RichText);
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
        Ok(Self { archive, names, unpacked: 0, most: work::limit(|limits| limits.unpacked_bytes) })
    }

    pub(super) fn has(&self, part: &str) -> bool {
        self.names.contains_key(&part.to_ascii_lowercase())
    }

    /// The bytes of a part.
    pub(super) fn bytes(&mut self, part: &str) -> Result<Vec<u8>, PartError> {
        let name = self.names.get(&part.to_ascii_lowercase()).ok_or(PartError::Missing)?;
        let file = self.archive.by_name(name).map_err(|e| PartError::Damaged(e.to_string()))?;
        let dense = file.compressed_size().saturating_mul(DENSEST).max(DENSE_FROM);
        let left = self.most.saturating_sub(self.unpacked);
        let limit = PART_LIMIT.min(dense).min(left);
        // Sizes in the archive may be wrong: they only save growing step by step.
        let mut bytes = Vec::with_capacity(file.size().min(limit).min(DENSE_FROM) as usize);
        let read = file.take(limit + 1).read_to_end(&mut bytes);
        self.unpacked += bytes.len() as u64;
        read.map_err(|error| PartError::Damaged(error.to_string()))?;
        match () {
            () if bytes.len() as u64 <= limit => Ok(bytes),
            () if limit == left => Err(PartError::PackageTooLarge(self.most)),
            () if limit == dense => Err(PartError::TooDense),
            () => Err(PartError::TooLarge),
        }
    }

    /// The text of an XML part, whatever its encoding.
    pub(super) fn text(&mut self, part: &str) -> Result<String, PartError> {
        let bytes = self.bytes(part)?;
        if let Some((encoding, _)) = encoding_rs::Encoding::for_bom(&bytes) {
            return Ok(encoding.decode(&bytes).0.into_owned());
        }
        let lossy = |error: FromUtf8Error| String::from_utf8_lossy(error.as_bytes()).into_owned();
        Ok(String::from_utf8(bytes).unwrap_or_else(lossy))
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
                let (Some(id), Some(target)) = (element.string("Id"), element.string("Target"))
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
        if let Some(part) = relationships.part_of_kind("officeDocument")
            && (self.has(part) || !self.has("word/document.xml"))
        {
            return match self.other_document() {
                Some(what) if !part.starts_with("word/") => Err(PackageError::OtherPackage(what)),
                _ => Ok(part.to_string()),
            };
        }
        // A package that lost its relationships, but not its content.
        match self.part_of_type(".main+xml") {
            Some(part) => Ok(part),
            None if self.has("word/document.xml") => Ok("word/document.xml".into()),
            None => Err(PackageError::OtherPackage(self.other_document().unwrap_or_default())),
        }
    }

    /// The part whose content type is of WordprocessingML and ends so (ECMA-376 part 2, 7.2.3).
    fn part_of_type(&mut self, end: &str) -> Option<String> {
        let text = self.text("[Content_Types].xml").ok()?;
        let mut xml = Xml::new(&text);
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            let content_type = element.value("ContentType").unwrap_or_default();
            let is_word =
                content_type.contains("wordprocessingml") || content_type.contains("ms-word");
            if is_word && content_type.ends_with(end) {
                let part = element.value("PartName").map(|name| resolved("", &name));
                return part.filter(|part| self.has(part));
            }
        }
        None
    }

    /// What a package is that is no Word document.
    fn other_document(&self) -> Option<&'static str> {
        const MARKS: [(&str, &str); 5] = [
            ("xl/workbook.xml", "a spreadsheet"),
            ("xl/workbook.bin", "a spreadsheet"),
            ("ppt/presentation.xml", "slides"),
            ("content.xml", "an OpenDocument file"),
            ("META-INF/container.xml", "an e-book"),
        ];
        MARKS.iter().find(|(part, _)| self.has(part)).map(|(_, what)| *what)
    }
}

/// What an OLE file is, by the names of its streams, which are in UTF-16.
fn kind_of_binary(bytes: &[u8]) -> PackageError {
    let has = |name: &str| {
        let name: Vec<u8> = name.encode_utf16().flat_map(u16::to_le_bytes).collect();
        memchr::memmem::find(bytes, &name).is_some()
    };
    match () {
        () if has("EncryptedPackage") => PackageError::Locked,
        () if has("WordDocument") => PackageError::Binary,
        () => PackageError::OtherBinary,
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
        let cases: [(&[u8], &str); 7] = [
            (b"", "the file is empty"),
            (b"\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1rest", "it is a binary file of another program"),
            (
                b"\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1W\0o\0r\0d\0D\0o\0c\0u\0m\0e\0n\0t\0",
                "it is a binary file of the format",
            ),
            (
                b"\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1E\0n\0c\0r\0y\0p\0t\0e\0d\0P\0a\0c\0k\0a\0g\0e\0",
                "it is locked with a password",
            ),
            (b"{\\rtf1 Dear editor}", "it is Rich Text Format"),
            (b"Dear editor", "it is not a ZIP archive"),
            (b"PK\x03\x04cut off", "its ZIP archive is broken or cut off"),
        ];
        for (bytes, expected) in cases {
            let error = Package::open(bytes).err().map(|error| error.to_string());
            assert!(error.as_deref().is_some_and(|e| e.starts_with(expected)), "{error:?}");
        }
    }
}
