//! A pattern: an organisation's own Word file, whose styles, theme, numbering, page set-up, headers and
//! footers a written file takes over.

use super::markup::push_text;
use super::numbering::FirstNumbers;
use super::parts::{Parts, Relations};
use super::{SectionStart, TYPES};
use crate::document::{CompactString, StyleKind};
use crate::formats::error::{PartError, PatternError};
use crate::formats::word::package::{Package, Relationships};
use crate::formats::word::xml::Xml;
use std::collections::{HashMap, HashSet};

/// What is taken over of the pattern.
#[derive(Debug, Default)]
pub(super) struct Pattern {
    /// The styles part up to its end tag.
    styles: String,
    /// Ids of its styles by their kind and name in small letters.
    pub(super) style_ids: HashMap<(StyleKind, CompactString), CompactString>,
    /// The inside of the last section's properties; its relations are those of the written file.
    section: Option<String>,
    /// The numbering part.
    numbering: Option<String>,
    /// Parts as they are: name, type for those of XML, bytes.
    parts: Vec<(String, Option<String>, Vec<u8>)>,
    /// What the main part refers to: last word of the type, and target.
    relations: Vec<(String, String)>,
    /// Left and right pages have headers of their own.
    pub(super) has_even_pages: bool,
}

impl Pattern {
    pub(super) fn read(bytes: &[u8]) -> Result<Self, PatternError> {
        let mut reader = PatternReader {
            package: Package::open(bytes)?,
            pattern: Self::default(),
            copied: HashSet::new(),
        };
        reader.read()?;
        Ok(reader.pattern)
    }

    /// The styles part up to its end tag, behind which others may stand.
    pub(super) fn styles(&self) -> &str {
        &self.styles
    }

    /// Adds the parts that are taken over.
    pub(super) fn add_to(&self, parts: &mut Parts, relations: &mut Relations) {
        for (kind, target) in &self.relations {
            relations.part(kind, target);
        }
        for (name, kind, bytes) in &self.parts {
            match kind {
                Some(kind) => {
                    parts.xml(name, kind, String::from_utf8_lossy(bytes).into_owned());
                }
                None => parts.file(name, media_type(name), bytes),
            }
        }
    }

    /// The properties of a section as the pattern has them.
    pub(super) fn section(
        &self,
        columns: Option<u8>,
        start: SectionStart,
        relations: &mut Relations,
    ) -> Option<String> {
        let section = self.section.as_ref()?;
        let page = section.find("<w:pgSz")?;
        let (running, rest) = section.split_at_checked(page)?;
        let mut out = String::from("<w:sectPr>");
        for piece in running.split_inclusive("/>") {
            let target = attribute(piece, "obblet-part");
            let kind = if piece.contains("<w:headerReference") { "header" } else { "footer" };
            match target {
                Some(target) => {
                    let pages = attribute(piece, "w:type").unwrap_or("default");
                    let id = relations.part(kind, target);
                    out.push_str(&format!("<w:{kind}Reference w:type=\"{pages}\" r:id=\"{id}\"/>"));
                }
                None => out.push_str(piece),
            }
        }
        if start == SectionStart::Continuous {
            out.push_str("<w:type w:val=\"continuous\"/>");
        }
        match columns {
            Some(columns) => {
                let (before, behind) = around_element(rest, "w:cols").unwrap_or((rest, ""));
                out.push_str(&format!(
                    "{before}<w:cols w:num=\"{columns}\" w:space=\"708\"/>{behind}"
                ));
            }
            None => out.push_str(rest),
        }
        out.push_str("</w:sectPr>");
        Some(out)
    }

    /// The width between the margins, in twentieths of a point.
    pub(super) fn text_width(&self) -> Option<usize> {
        let section = self.section.as_ref()?;
        let number = |element: &str, name: &str| {
            let at = section.find(&format!("<{element} "))?;
            attribute(section.get(at..)?.split('>').next()?, name)?.parse::<usize>().ok()
        };
        let width = number("w:pgSz", "w:w")?;
        let margins = number("w:pgMar", "w:left")? + number("w:pgMar", "w:right")?;
        width.checked_sub(margins).filter(|width| *width > 1000)
    }

    /// The numbers that lists of the written file begin with, behind those of the pattern.
    pub(super) fn first_numbers(&self) -> FirstNumbers {
        let text = self.numbering.as_deref().unwrap_or_default();
        let next = |name: &str| {
            let mark = format!(" {name}=\"");
            let all = text.split(mark.as_str()).skip(1);
            let numbers = all.filter_map(|rest| rest.split('"').next()?.parse::<u32>().ok());
            numbers.max().map_or(0, |most| most.saturating_add(1))
        };
        FirstNumbers {
            definition: next("w:abstractNumId") as usize,
            list: next("w:numId").max(1) - 1,
        }
    }

    /// The numbering part with more definitions and lists.
    pub(super) fn numbering_with(&self, definitions: &str, lists: &str) -> Option<String> {
        let text = self.numbering.as_ref()?;
        let end = text.rfind("</w:numbering>")?;
        // Definitions stand before lists (17.9.16).
        let first_list = text.find("<w:num ").unwrap_or(end);
        let (before, rest) = text.split_at_checked(first_list)?;
        let (known, behind) = rest.split_at_checked(end - first_list)?;
        let cleanup = known.find("<w:numIdMacAtCleanup").unwrap_or(known.len());
        let (known, cleanup) = known.split_at_checked(cleanup)?;
        Some(format!("{before}{definitions}{known}{lists}{cleanup}{behind}"))
    }
}

struct PatternReader<'b> {
    package: Package<'b>,
    pattern: Pattern,
    copied: HashSet<String>,
}

impl PatternReader<'_> {
    fn read(&mut self) -> Result<(), PatternError> {
        let main = self.package.main_part()?;
        let relations = self.package.relationships(&main);
        let text = self.text(&main)?;
        self.read_styles(&relations)?;
        for (kind, name) in [("theme", "theme+xml"), ("fontTable", "fontTable+xml")] {
            if let Some(part) = relations.part_of_kind(kind).map(String::from) {
                let media_type = match kind {
                    "theme" => "application/vnd.openxmlformats-officedocument.theme+xml".into(),
                    _ => format!("{TYPES}.{name}"),
                };
                self.take_over(&part, Some(media_type), kind)?;
            }
        }
        if let Some(part) = relations.part_of_kind("numbering").map(String::from) {
            self.copy_related(&part)?;
            self.pattern.numbering = Some(self.text(&part)?);
        }
        if let Some(part) = relations.part_of_kind("settings").map(String::from) {
            self.pattern.has_even_pages = self.text(&part)?.contains("<w:evenAndOddHeaders/>");
        }
        self.read_section(&text, &relations)
    }

    fn text(&mut self, part: &str) -> Result<String, PatternError> {
        let wrong = |error: PartError| PatternError::Part(part.into(), error.to_string());
        self.package.text(part).map_err(wrong)
    }

    fn read_styles(&mut self, relations: &Relationships) -> Result<(), PatternError> {
        let Some(part) = relations.part_of_kind("styles").map(String::from) else {
            return Err(PatternError::Part("styles".into(), "there is none".into()));
        };
        let text = self.text(&part)?;
        let end = text.rfind("</w:styles>").and_then(|end| text.get(..end));
        let Some(styles) =
            end.filter(|text| text.contains(&format!("xmlns:w=\"{}\"", super::MAIN)))
        else {
            let why = "it is not spelled with the prefix w of the Transitional class";
            return Err(PatternError::Part(part, why.into()));
        };
        self.pattern.styles = styles.to_string();
        let mut xml = Xml::new(&text);
        let top = xml.level();
        while xml.child(top).is_some() {
            let level = xml.level();
            while let Some(style) = xml.child(level) {
                let Some(id) = style.short_value("styleId").filter(|_| style.is("style")) else {
                    continue;
                };
                let kind = match style.value("type").as_deref() {
                    Some("character") => StyleKind::Inline,
                    Some("table") => StyleKind::Table,
                    Some("numbering") => StyleKind::List,
                    _ => StyleKind::Block,
                };
                let inside = xml.level();
                while let Some(property) = xml.child(inside) {
                    if property.is("name") {
                        let name = property.val().unwrap_or_default().to_lowercase();
                        self.pattern.style_ids.insert((kind, name.into()), id.clone());
                    }
                }
            }
        }
        Ok(())
    }

    /// The last section, whose header and footer references are named after the parts they lead to.
    fn read_section(&mut self, text: &str, relations: &Relationships) -> Result<(), PatternError> {
        let start = text.rfind("<w:sectPr");
        let section = start.and_then(|start| {
            let inside = text.get(start..)?.split_once('>')?.1;
            inside.split_once("</w:sectPr>").map(|(inside, _)| inside)
        });
        let Some(section) = section else { return Ok(()) };
        let mut kept = String::new();
        for piece in section.split_inclusive("/>") {
            let name = piece.trim_start().trim_start_matches('<');
            let name = name.split([' ', '/']).next().unwrap_or_default();
            match name {
                "w:headerReference" | "w:footerReference" => {
                    let id = attribute(piece, "r:id").unwrap_or_default();
                    let Some(part) = relations.get(id).map(|found| found.target.clone()) else {
                        continue;
                    };
                    let kind = name.trim_start_matches("w:").trim_end_matches("Reference");
                    let target = target_of(&part).to_string();
                    self.take_over(&part, Some(format!("{TYPES}.{kind}+xml")), kind)?;
                    let pages = attribute(piece, "w:type").unwrap_or("default");
                    kept.push_str(&format!("<{name} w:type=\"{pages}\" obblet-part=\""));
                    push_text(&mut kept, &target);
                    kept.push_str("\"/>");
                }
                // How it begins says each section for itself; printers are the organisation's own.
                "w:type" | "w:printerSettings" => {}
                _ => kept.push_str(piece),
            }
        }
        self.pattern.section = Some(kept);
        Ok(())
    }

    /// Takes over a part and what it refers to.
    fn take_over(
        &mut self,
        part: &str,
        media_type: Option<String>,
        kind: &str,
    ) -> Result<(), PatternError> {
        self.copy(part, media_type)?;
        let relation = (kind.to_string(), target_of(part).to_string());
        if !self.pattern.relations.contains(&relation) {
            self.pattern.relations.push(relation);
        }
        Ok(())
    }

    fn copy(&mut self, part: &str, media_type: Option<String>) -> Result<(), PatternError> {
        if !self.copied.insert(part.to_ascii_lowercase()) {
            return Ok(());
        }
        let wrong = |error: PartError| PatternError::Part(part.into(), error.to_string());
        let bytes = self.package.bytes(part).map_err(wrong)?;
        self.pattern.parts.push((format!("word/{}", target_of(part)), media_type, bytes));
        self.copy_related(part)
    }

    /// The relationships of a part, and the pictures and fonts that they lead to.
    fn copy_related(&mut self, part: &str) -> Result<(), PatternError> {
        let (folder, file) = part.rsplit_once('/').unwrap_or(("", part));
        let name = format!("{folder}/_rels/{file}.rels");
        if !self.package.has(&name) {
            return Ok(());
        }
        let (target_folder, _) = target_of(part).rsplit_once('/').unwrap_or(("", ""));
        let slash = if target_folder.is_empty() { "" } else { "/" };
        let wrong = |error: PartError| PatternError::Part(part.into(), error.to_string());
        let bytes = self.package.bytes(&name).map_err(wrong)?;
        let target = format!("word/{target_folder}{slash}_rels/{file}.rels");
        self.pattern.parts.push((target, None, bytes));
        for kind in ["image", "font"] {
            let relations = self.package.relationships(part);
            let related: Vec<String> =
                relations.parts_of_kind(kind).into_iter().map(String::from).collect();
            for part in related {
                self.copy(&part, None)?;
            }
        }
        Ok(())
    }
}

/// The name of a part as the main part's relationships have it.
fn target_of(part: &str) -> &str {
    part.split_once('/').map_or(part, |(_, target)| target)
}

/// The media type of a file that is no XML of its own.
fn media_type(name: &str) -> &'static str {
    match name.rsplit('.').next().unwrap_or_default() {
        "png" => "image/png",
        "jpg" | "jpeg" => "image/jpeg",
        "gif" => "image/gif",
        "bmp" => "image/bmp",
        "emf" => "image/emf",
        "wmf" => "image/wmf",
        "svg" => "image/svg+xml",
        "tif" | "tiff" => "image/tiff",
        "odttf" => "application/vnd.openxmlformats-officedocument.obfuscatedFont",
        "rels" => "application/vnd.openxmlformats-package.relationships+xml",
        _ => "application/octet-stream",
    }
}

/// The value of an attribute in the text of a tag.
fn attribute<'t>(tag: &'t str, name: &str) -> Option<&'t str> {
    let at = tag.find(&format!(" {name}=\""))?;
    tag.get(at + name.len() + 3..)?.split('"').next()
}

/// What stands before and behind an element.
fn around_element<'t>(text: &'t str, name: &str) -> Option<(&'t str, &'t str)> {
    let start = text.find(&format!("<{name}"))?;
    let rest = text.get(start..)?;
    let tag = rest.find('>')? + 1;
    let is_empty = rest.get(..tag)?.ends_with("/>");
    let end = format!("</{name}>");
    let length = if is_empty { tag } else { rest.find(&end)? + end.len() };
    Some((text.get(..start)?, rest.get(length..)?))
}
