//! Pictures in the line (ECMA-376 part 1, 20.4), and their files in the package.

use super::Writer;
use super::markup::push_text;
use super::parts::Parts;
use super::runs::RunLook;
use crate::document::{MediaId, Picture, PictureSource, plain_text};
use crate::findings::Code;
use crate::formats::word::vocabulary::name_of_own_size;
use crate::picture_file;
use std::collections::{HashMap, HashSet};
use std::sync::Arc;

/// DrawingML's units in a pixel of CSS.
const UNITS: f32 = 9525.0;
/// The widest picture: the text's width, in pixels.
const WIDEST: f32 = 601.0;
const HIGHEST: f32 = 860.0;
/// The size of a picture that says none and cannot be measured.
const UNKNOWN_SIZE: (f32, f32) = (320.0, 240.0);

/// The pictures of a package.
#[derive(Debug, Default)]
pub(super) struct Pictures {
    /// Part names and bytes, in the order of their first use.
    files: Vec<(String, &'static str, Arc<[u8]>)>,
    taken: HashSet<String>,
    by_media: HashMap<MediaId, Stored>,
    /// Drawings so far; each has a number of its own.
    drawings: usize,
}

/// How a picture of the document is stored.
#[derive(Debug, Clone)]
pub(super) struct Stored {
    /// The target that every program can show.
    target: String,
    /// The same as a drawing that scales.
    scalable: Option<String>,
    size: Option<(f32, f32)>,
}

impl Stored {
    pub(super) fn target(&self) -> &str {
        &self.target
    }

    /// The size on the page of a picture that shows it.
    pub(super) fn size_of(&self, picture: &Picture) -> (f32, f32) {
        size(picture, self.size)
    }
}

impl Pictures {
    /// Adds a file under its own name, as far as that is safe in a package.
    fn add(
        &mut self,
        folder: &str,
        name: &str,
        extension: &str,
        kind: &'static str,
        bytes: Arc<[u8]>,
    ) -> String {
        let stem = name.rsplit_once('.').map_or(name, |(stem, _)| stem);
        let stem: String = stem
            .chars()
            .filter(|c| c.is_ascii_alphanumeric() || matches!(c, '-' | '_'))
            .take(40)
            .collect();
        let stem = if stem.is_empty() { "picture".into() } else { stem };
        let is_free = |target: &String| self.taken.insert(target.to_ascii_lowercase());
        let numbered = (2..).map(|number| format!("{folder}/{stem}-{number}.{extension}"));
        let mut all = std::iter::once(format!("{folder}/{stem}.{extension}")).chain(numbered);
        let target = all.find(is_free).unwrap_or_default();
        self.files.push((format!("word/{target}"), kind, bytes));
        target
    }

    /// Adds a file of another program; gives its target.
    pub(super) fn add_embedded(
        &mut self,
        name: &str,
        kind: &'static str,
        bytes: Arc<[u8]>,
    ) -> String {
        let extension = name.rsplit('.').next().unwrap_or_default().to_ascii_lowercase();
        self.add("embeddings", name, &extension, kind, bytes)
    }

    /// The number of the next drawing.
    pub(super) fn next_number(&mut self) -> usize {
        self.drawings += 1;
        self.drawings
    }

    pub(super) fn add_to(&self, parts: &mut Parts) {
        for (name, kind, bytes) in &self.files {
            parts.file(name, kind, bytes);
        }
    }
}

/// Kinds of pictures that Word shows: media type and extension.
const SHOWN: [(&str, &str); 7] = [
    ("image/png", "png"),
    ("image/jpeg", "jpeg"),
    ("image/gif", "gif"),
    ("image/bmp", "bmp"),
    ("image/tiff", "tiff"),
    ("image/emf", "emf"),
    ("image/wmf", "wmf"),
];

impl Writer<'_> {
    pub(super) fn picture(&mut self, picture: &Picture, look: &RunLook, out: &mut String) {
        self.report_attributes(&picture.attributes);
        if let Some(id) = picture.attributes.id() {
            self.push_bookmark(id, out);
        }
        let (blip, stored) = match &picture.source {
            PictureSource::Media(id) => match self.stored(*id) {
                Some(stored) => {
                    let id = self.relations.part("image", &stored.target);
                    let drawn = stored.scalable.as_ref().map(|target| {
                        let id = self.relations.part("image", target);
                        format!(
                            "<a:extLst><a:ext uri=\"{{96DAC541-7B7A-43D3-8B79-37D633B846F1}}\"><asvg:svgBlip xmlns:asvg=\"http://schemas.microsoft.com/office/drawing/2016/SVG/main\" r:embed=\"{id}\"/></a:ext></a:extLst>"
                        )
                    });
                    let inside = drawn.unwrap_or_default();
                    (format!("<a:blip r:embed=\"{id}\">{inside}</a:blip>"), Some(stored))
                }
                None => return self.words_for(picture, look, out),
            },
            PictureSource::Address(address) => {
                self.findings.count(Code::PictureLinked, address, Some(self.place));
                let id = self.relations.outside("image", address);
                (format!("<a:blip r:link=\"{id}\"/>"), None)
            }
        };
        let (width, height) = size(picture, stored.and_then(|stored| stored.size));
        let drawing = self.drawing(picture, &blip, width, height);
        self.push_object_run(&drawing, look, out);
    }

    /// The words for a picture that is not there.
    fn words_for(&mut self, picture: &Picture, look: &RunLook, out: &mut String) {
        self.lost("a picture");
        self.inlines(&picture.alternative, look, out);
    }

    pub(super) fn stored(&mut self, id: MediaId) -> Option<Stored> {
        if let Some(known) = self.pictures.by_media.get(&id) {
            return Some(known.clone());
        }
        let media = self.document.media.get(id)?;
        let kind = media.media_type.as_str();
        let known = SHOWN.into_iter().find(|(name, _)| *name == kind);
        let stored = match known {
            Some((kind, _)) if is_broken_metafile(kind, &media.bytes) => return None,
            Some((kind, extension)) => {
                let size = picture_file::size(&media.bytes);
                let target =
                    self.pictures.add("media", &media.name, extension, kind, media.bytes.clone());
                Stored { target, scalable: None, size }
            }
            None if kind == "image/svg+xml" => self.stored_drawing(&media.name, &media.bytes)?,
            None => {
                let bytes = picture_file::as_png(&media.bytes)?;
                self.findings.count(Code::PictureConverted, &media.name, Some(self.place));
                let size = picture_file::size(&bytes);
                let target =
                    self.pictures.add("media", &media.name, "png", "image/png", bytes.into());
                Stored { target, scalable: None, size }
            }
        };
        self.pictures.by_media.insert(id, stored.clone());
        Some(stored)
    }

    /// A drawing that scales, with a picture of it for programs that cannot draw it.
    fn stored_drawing(&mut self, name: &str, bytes: &Arc<[u8]>) -> Option<Stored> {
        let drawn = picture_file::drawn(bytes)?;
        let target = self.pictures.add("media", name, "png", "image/png", drawn.png.into());
        let scalable = self.pictures.add("media", name, "svg", "image/svg+xml", bytes.clone());
        Some(Stored { target, scalable: Some(scalable), size: Some(drawn.size) })
    }

    fn drawing(&mut self, picture: &Picture, blip: &str, width: f32, height: f32) -> String {
        let number = self.pictures.next_number();
        let (cx, cy) = ((width * UNITS).round() as i64, (height * UNITS).round() as i64);
        let is_stated = picture.width.is_some() || picture.height.is_some();
        let name = match is_stated {
            true => format!("Picture {number}"),
            false => name_of_own_size(number, width.round() as u32, height.round() as u32),
        };
        let mut properties = format!("id=\"{number}\" name=\"{name}\"");
        let words = plain_text(&picture.alternative);
        for (name, text) in
            [("descr", words.as_str()), ("title", picture.title.as_deref().unwrap_or_default())]
        {
            if !text.is_empty() {
                properties.push_str(&format!(" {name}=\""));
                push_text(&mut properties, text);
                properties.push('"');
            }
        }
        let decorative = if picture.decorative {
            "<a:extLst><a:ext uri=\"{C183D7F6-B498-43B3-948B-1728B52AA6E4}\"><adec:decorative xmlns:adec=\"http://schemas.microsoft.com/office/drawing/2017/decorative\" val=\"1\"/></a:ext></a:extLst>"
        } else {
            ""
        };
        format!(
            "<w:drawing><wp:inline distT=\"0\" distB=\"0\" distL=\"0\" distR=\"0\"><wp:extent cx=\"{cx}\" cy=\"{cy}\"/><wp:docPr {properties}>{decorative}</wp:docPr>\
             <wp:cNvGraphicFramePr><a:graphicFrameLocks noChangeAspect=\"1\"/></wp:cNvGraphicFramePr>\
             <a:graphic><a:graphicData uri=\"http://schemas.openxmlformats.org/drawingml/2006/picture\"><pic:pic><pic:nvPicPr><pic:cNvPr id=\"{number}\" name=\"Picture {number}\"/><pic:cNvPicPr/></pic:nvPicPr>\
             <pic:blipFill>{blip}<a:stretch><a:fillRect/></a:stretch></pic:blipFill>\
             <pic:spPr><a:xfrm><a:off x=\"0\" y=\"0\"/><a:ext cx=\"{cx}\" cy=\"{cy}\"/></a:xfrm><a:prstGeom prst=\"rect\"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing>"
        )
    }
}

/// Whether a metafile does not begin as such files do.
fn is_broken_metafile(kind: &str, bytes: &[u8]) -> bool {
    let starts = |mark: &[u8]| bytes.starts_with(mark);
    match kind {
        "image/emf" => bytes.get(40..44) != Some(b" EMF".as_slice()),
        "image/wmf" => {
            !starts(&[0xD7, 0xCD, 0xC6, 0x9A]) && !starts(&[1, 0, 9, 0]) && !starts(&[2, 0, 9, 0])
        }
        _ => false,
    }
}

/// The size on the page: what is stated, else the picture's own, within the text.
fn size(picture: &Picture, own: Option<(f32, f32)>) -> (f32, f32) {
    let (own_width, own_height) = own.unwrap_or(UNKNOWN_SIZE);
    let ratio = own_height / own_width.max(1.0);
    let (width, height) = match (picture.width, picture.height) {
        (Some(width), Some(height)) => (width, height),
        (Some(width), None) => (width, width * ratio),
        (None, Some(height)) => (height / ratio.max(0.001), height),
        (None, None) => (own_width, own_height),
    };
    let is_stated = picture.width.is_some() || picture.height.is_some();
    let shrink = if is_stated { 1.0 } else { (WIDEST / width).min(HIGHEST / height).min(1.0) };
    ((width * shrink).max(1.0), (height * shrink).max(1.0))
}
