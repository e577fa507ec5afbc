//! Files inside the package: pictures, cropped where only a part of one is shown; embedded files and
//! documents.

use super::super::xml::Element;
use super::Reader;
use super::gather::Gatherer;
use crate::attachments::address_of;
use crate::document::{Block, BlockKind, CompactString, Foreign, MediaId};
use crate::findings::Code;
use crate::picture_file::{PictureKind, carried, cropped};
use std::sync::Arc;

/// The parts cut off a picture: left, top, right, bottom, each a share of 1.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub(super) struct Crop([f32; 4]);

impl Crop {
    /// `a:srcRect`, in thousandths of a percent (20.1.8.55).
    pub(super) fn read(element: &Element<'_>) -> Self {
        Self(["l", "t", "r", "b"].map(|side| {
            let stated = element.value(side).unwrap_or_default();
            let share = match stated.strip_suffix('%') {
                Some(percent) => percent.parse().map(|percent: f32| percent / 100.0),
                None => stated.parse().map(|thousandths: f32| thousandths / 100_000.0),
            };
            share.unwrap_or_default()
        }))
    }

    /// The older format: a fraction, or 65,536ths with an `f` behind them.
    pub(super) fn of_older(element: &Element<'_>) -> Self {
        Self(["cropleft", "croptop", "cropright", "cropbottom"].map(|side| {
            let stated = element.value(side).unwrap_or_default();
            let share = match stated.strip_suffix('f') {
                Some(parts) => parts.parse().map(|parts: f32| parts / 65_536.0),
                None => stated.parse(),
            };
            share.unwrap_or_default()
        }))
    }

    /// Whether anything is cut off that is worth it. A picture that is to be shown with space around
    /// it is shown as it is.
    fn cuts(self) -> bool {
        let [left, top, right, bottom] = self.0;
        let is_inside = self.0.iter().all(|share| (0.0..1.0).contains(share));
        is_inside && left + right < 1.0 && top + bottom < 1.0 && self.0.iter().any(|s| *s > 0.002)
    }
}

/// Endings of files that browsers save or show, and never run on the page's own site.
const HARMLESS_FILES: [&str; 16] = [
    "csv", "doc", "docx", "odp", "ods", "odt", "pdf", "ppt", "pptx", "rtf", "txt", "vsd", "vsdx",
    "xls", "xlsx", "zip",
];

impl Reader<'_> {
    /// A picture of the package by its relationship; says so when there is none.
    pub(super) fn embedded_picture(&mut self, id: &str, crop: Crop) -> Option<MediaId> {
        let Some(relationship) = self.part.relationships.get(id) else {
            self.findings.add_about(Code::PictureMissing, id, Some(self.place()));
            return None;
        };
        let part = relationship.target.clone();
        if crop.cuts() {
            return self.cropped_picture(&part, crop);
        }
        if let Some(known) = self.pictures.get(&part) {
            return *known;
        }
        let bytes = self.picture_bytes(&part);
        let media = bytes.and_then(|bytes| self.carried_picture(file_name(&part), bytes.into()));
        self.pictures.insert(part, media);
        media
    }

    fn picture_bytes(&mut self, part: &str) -> Option<Vec<u8>> {
        match self.package.bytes(part) {
            Ok(bytes) => Some(bytes),
            Err(error) => {
                let subject = format!("{part}: {error}");
                self.findings.add_about(Code::PictureMissing, &subject, Some(self.place()));
                None
            }
        }
    }

    /// The part of a picture that is shown, as a picture of its own.
    fn cropped_picture(&mut self, part: &str, crop: Crop) -> Option<MediaId> {
        let bytes = self.picture_bytes(part)?;
        let shown = cropped(&bytes, crop.0);
        if shown.is_none() {
            self.lost("the cropping of a picture");
        }
        self.carried_picture(file_name(part), shown.unwrap_or(bytes).into())
    }

    /// A file as a picture of the document, if it is one.
    fn carried_picture(&mut self, name: &str, bytes: Arc<[u8]>) -> Option<MediaId> {
        let Some(picture) = carried(name, bytes) else {
            self.findings.add_about(Code::PictureRefused, name, Some(self.place()));
            return None;
        };
        if picture.is_cleaned {
            self.findings.add_about(Code::PictureCleaned, name, Some(self.place()));
        }
        if matches!(picture.kind, PictureKind::Emf | PictureKind::Wmf | PictureKind::Tiff) {
            self.findings.add_about(Code::PictureKindUnusual, name, Some(self.place()));
        }
        Some(self.document.media.add(&picture.name, picture.kind.media_type(), picture.bytes))
    }

    /// The address of an embedded file, which the document carries like its pictures.
    pub(super) fn embedded_file(&mut self, id: &str) -> Option<CompactString> {
        let relationship = self.part.relationships.get(id)?;
        let part = relationship.target.clone();
        if relationship.external {
            return Some(part.into());
        }
        let extension = part.rsplit('.').next().unwrap_or_default().to_ascii_lowercase();
        if !HARMLESS_FILES.contains(&extension.as_str()) {
            self.lost(&format!("the embedded file {}", file_name(&part)));
            return None;
        }
        let bytes = match self.package.bytes(&part) {
            Ok(bytes) => bytes,
            Err(error) => {
                let subject = format!("{part} ({error})");
                self.findings.add_about(Code::PartMissing, &subject, Some(self.place()));
                return None;
            }
        };
        // Media types of pictures are for what is shown.
        let id =
            self.document.media.add(file_name(&part), "application/octet-stream", bytes.into());
        let name = self.document.media.get(id).map(|media| media.name.clone())?;
        Some(address_of(&name).into())
    }

    /// `w:altChunk` (17.17.2.1): HTML becomes markup of that format, plain text paragraphs.
    pub(super) fn embedded_document(&mut self, element: &Element<'_>, gatherer: &mut Gatherer) {
        let Some(id) = element.value("id") else { return };
        let Some(part) = self.part.relationships.get(&id).map(|found| found.target.clone()) else {
            self.findings.add_about(Code::RelationMissing, &id, Some(self.place()));
            return;
        };
        let Some(text) = self.named_part_text(&part) else { return };
        let place = self.place();
        let extension = part.rsplit('.').next().unwrap_or_default().to_ascii_lowercase();
        let start = text.trim_start().get(..15).unwrap_or_default().to_ascii_lowercase();
        match extension.as_str() {
            _ if start.starts_with("<!doctype html") || start.starts_with("<html") => {
                let markup = body_of(&text).to_string();
                let foreign = Foreign { format: "html".into(), markup };
                gatherer.push(Block::new(BlockKind::Foreign(Box::new(foreign))).at(place));
            }
            "txt" => {
                for line in text.lines().filter(|line| !line.trim().is_empty()) {
                    let content = vec![line.trim().into()];
                    gatherer.push(Block::new(BlockKind::Paragraph(content)).at(place));
                }
            }
            _ => self.lost(&format!("the embedded document {}", file_name(&part))),
        }
    }
}

fn file_name(part: &str) -> &str {
    part.rsplit('/').next().unwrap_or(part)
}

/// The inside of a page's body, or all of a fragment.
fn body_of(page: &str) -> &str {
    let lower = page.to_ascii_lowercase();
    let start = lower.find("<body").and_then(|at| Some(at + lower.get(at..)?.find('>')? + 1));
    let end = lower.rfind("</body").unwrap_or(page.len());
    start.and_then(|start| page.get(start..end)).unwrap_or(page)
}
