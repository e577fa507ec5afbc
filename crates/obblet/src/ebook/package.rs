//! The package: what is in it, in which order it is read, and the archive (EPUB 3, 4 and 5).

use super::title_of;
use crate::dates::When;
use crate::document::{Document, Metadata, Value};
use crate::formats::html::escaped_text;
use crate::house::House;
use std::io::{Cursor, Write as _};
use zip::result::ZipError;
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, DateTime, ZipWriter};

/// A file of the package.
#[derive(Debug)]
pub(super) struct Item {
    name: String,
    media_type: String,
    bytes: Vec<u8>,
    /// Words of the manifest's `properties`.
    properties: String,
    /// Whether it is read in its turn.
    in_spine: bool,
}

impl Item {
    pub(super) fn page(name: &str, text: String) -> Self {
        let mut properties = Vec::new();
        if text.contains("<math") {
            properties.push("mathml");
        }
        if text.contains("<svg") {
            properties.push("svg");
        }
        Self {
            name: name.into(),
            media_type: "application/xhtml+xml".into(),
            bytes: text.into_bytes(),
            properties: properties.join(" "),
            in_spine: true,
        }
    }

    pub(super) fn picture(name: &str, media_type: &str, bytes: Vec<u8>) -> Self {
        Self {
            name: name.into(),
            media_type: media_type.into(),
            bytes,
            properties: String::new(),
            in_spine: false,
        }
    }

    pub(super) fn navigation(text: String) -> Self {
        Self { properties: "nav".into(), in_spine: false, ..Self::page("navigation.xhtml", text) }
    }

    pub(super) fn style_sheet(text: String) -> Self {
        Self::picture("style.css", "text/css", text.into_bytes())
    }
}

/// A book that is being put together.
#[derive(Debug)]
pub(super) struct Package {
    metadata: String,
    language: String,
    items: Vec<Item>,
}

impl Package {
    pub(super) fn of(document: &Document, house: &House) -> Self {
        let metadata = &document.metadata;
        let language = metadata.language.as_deref().unwrap_or(&house.page.language).to_string();
        let mut out = String::new();
        let mut field = |name: &str, text: &str| {
            if !text.trim().is_empty() {
                out.push_str(&format!("<dc:{name}>{}</dc:{name}>\n", escaped_text(text.trim())));
            }
        };
        field("title", &title_of(document));
        field("language", &language);
        for person in &metadata.authors {
            field("creator", &person.name);
        }
        metadata.keywords.iter().for_each(|keyword| field("subject", keyword));
        field("description", metadata.description.as_deref().unwrap_or_default());
        field("publisher", &stated(metadata, &["publisher"]).unwrap_or_default());
        field("rights", &stated(metadata, &["rights", "copyright"]).unwrap_or_default());
        let when = metadata.date.as_deref().and_then(|date| When::of_text(date, &language));
        field("date", &when.map(|when| when.day()).unwrap_or_default());
        let modified = [&metadata.modified, &metadata.created]
            .into_iter()
            .flatten()
            .find_map(|time| When::of(time))
            .or(when)
            .map(|when| when.utc())
            // Nobody said when, and no clock is asked.
            .unwrap_or_else(|| "2000-01-01T00:00:00Z".into());
        out.push_str(&format!("<meta property=\"dcterms:modified\">{modified}</meta>\n"));
        if let Some(identifier) = stated(metadata, &["identifier", "isbn", "uuid"]) {
            let identifier = escaped_text(&identifier).to_string();
            out.push_str(&format!("<dc:identifier id=\"book\">{identifier}</dc:identifier>\n"));
        }
        Self { metadata: out, language, items: Vec::new() }
    }

    pub(super) fn add(&mut self, item: Item) {
        self.items.push(item);
    }

    /// The archive: the same items give the same bytes.
    pub(super) fn packed(mut self) -> Result<Vec<u8>, ZipError> {
        let description = self.description();
        let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
        let options = SimpleFileOptions::default().last_modified_time(DateTime::default());
        // Readers know the kind of file by the first bytes of it.
        zip.start_file("mimetype", options.compression_method(CompressionMethod::Stored))?;
        zip.write_all(b"application/epub+zip")?;
        let options = options.compression_method(CompressionMethod::Deflated);
        zip.start_file("META-INF/container.xml", options)?;
        zip.write_all(CONTAINER.as_bytes())?;
        zip.start_file("book/package.opf", options)?;
        zip.write_all(description.as_bytes())?;
        for item in self.items.drain(..) {
            zip.start_file(format!("book/{}", item.name), options)?;
            zip.write_all(&item.bytes)?;
        }
        Ok(zip.finish()?.into_inner())
    }

    /// The package document.
    fn description(&self) -> String {
        let mut out = format!(
            "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n\
             <package xmlns=\"http://www.idpf.org/2007/opf\" version=\"3.0\" \
             unique-identifier=\"book\" xml:lang=\"{}\">\n\
             <metadata xmlns:dc=\"http://purl.org/dc/elements/1.1/\">\n{}",
            escaped_text(&self.language),
            self.metadata
        );
        if !self.metadata.contains("id=\"book\"") {
            let name = self.made_name();
            out.push_str(&format!("<dc:identifier id=\"book\">{name}</dc:identifier>\n"));
        }
        out.push_str("</metadata>\n<manifest>\n");
        for (number, item) in self.items.iter().enumerate() {
            let properties = match item.properties.as_str() {
                "" => String::new(),
                words => format!(" properties=\"{words}\""),
            };
            out.push_str(&format!(
                "<item id=\"item-{number}\" href=\"{}\" media-type=\"{}\"{properties} />\n",
                escaped_text(&crate::address::relative("package.opf", &item.name)),
                escaped_text(&item.media_type)
            ));
        }
        out.push_str("</manifest>\n<spine>\n");
        for (number, item) in self.items.iter().enumerate() {
            if item.in_spine {
                out.push_str(&format!("<itemref idref=\"item-{number}\" />\n"));
            }
        }
        out + "</spine>\n</package>\n"
    }

    /// A name that no other book has: made of all that is in it.
    fn made_name(&self) -> String {
        let mut hasher = blake3::Hasher::new();
        hasher.update(self.metadata.as_bytes());
        for item in &self.items {
            hasher.update(item.name.as_bytes());
            hasher.update(&item.bytes);
        }
        let mut bytes = [0; 16];
        for (byte, hashed) in bytes.iter_mut().zip(hasher.finalize().as_bytes()) {
            *byte = *hashed;
        }
        // RFC 9562, 5.8: a version for what somebody else made.
        bytes[6] = (bytes[6] & 0x0F) | 0x80;
        bytes[8] = (bytes[8] & 0x3F) | 0x80;
        let hex: String = bytes.iter().map(|byte| format!("{byte:02x}")).collect();
        let parts = [hex.get(..8), hex.get(8..12), hex.get(12..16), hex.get(16..20), hex.get(20..)];
        let parts: Vec<&str> = parts.into_iter().flatten().collect();
        format!("urn:uuid:{}", parts.join("-"))
    }
}

const CONTAINER: &str = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n\
    <container version=\"1.0\" xmlns=\"urn:oasis:names:tc:opendocument:xmlns:container\">\n<rootfiles>\n\
    <rootfile full-path=\"book/package.opf\" media-type=\"application/oebps-package+xml\" />\n\
    </rootfiles>\n</container>\n";

fn stated(metadata: &Metadata, names: &[&str]) -> Option<String> {
    let field = metadata.extra.iter().find(|(name, _)| names.contains(&name.as_str()))?;
    Value::to_text(&field.1).filter(|text| !text.trim().is_empty())
}
