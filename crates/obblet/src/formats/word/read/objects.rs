//! Pictures, text boxes and other objects.

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::line::{Frame, Line, TextStyle};
use crate::document::{
    Attributes, Block, BlockKind, Group, GroupRole, Inline, MediaId, Picture, PictureSource,
};
use crate::findings::Code;

/// English metric units in a CSS pixel (914,400 to the inch, 96 pixels to the inch).
const UNITS_PER_PIXEL: f32 = 9525.0;

/// What a drawing says before and around its picture.
#[derive(Default)]
struct DrawingParts {
    width: Option<f32>,
    height: Option<f32>,
    alternative: String,
    decorative: bool,
    link: Option<String>,
    /// Relationship of the picture inside the package.
    embedded: Option<String>,
    /// Relationship of a picture outside.
    linked: Option<String>,
    /// What the drawing is when it holds no picture.
    other: Option<&'static str>,
    has_text: bool,
}

impl Reader<'_> {
    /// `w:drawing`: DrawingML in a line or anchored to it.
    pub(super) fn drawing(&mut self, xml: &mut Xml<'_>, line: &mut Line) {
        let mut parts = DrawingParts::default();
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            self.drawing_part(&element, xml, &mut parts);
        }
        let link = parts.link.as_ref().and_then(|id| self.part.relationships.get(id));
        let link = link.map(|relationship| relationship.target.clone());
        let source = match (&parts.embedded, &parts.linked) {
            (Some(id), _) => self.embedded_picture(id).map(PictureSource::Media),
            (None, Some(id)) => {
                let relationship = self.part.relationships.get(id);
                relationship.map(|found| PictureSource::Address(found.target.as_str().into()))
            }
            (None, None) => {
                if !parts.has_text {
                    self.lost(parts.other.unwrap_or("a drawn shape"));
                }
                return;
            }
        };
        let alternative = match parts.alternative.trim() {
            "" => Vec::new(),
            text => vec![text.into()],
        };
        let Some(source) = source else {
            // The words for the picture are better than nothing.
            return alternative.into_iter().for_each(|text| line.push(text, TextStyle::default()));
        };
        let picture = Picture {
            source,
            alternative,
            decorative: parts.decorative,
            title: None,
            width: parts.width,
            height: parts.height,
            attributes: Attributes::NONE,
        };
        let framed = link.is_some();
        if let Some(address) = link {
            line.open(Frame::Link { address: address.into(), title: None });
        }
        line.push(Inline::Picture(Box::new(picture)), TextStyle::default());
        if framed {
            line.close();
        }
    }

    fn drawing_part(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, parts: &mut DrawingParts) {
        let pixels = |name: &str| element.number(name).map(|units| units as f32 / UNITS_PER_PIXEL);
        match (element.ns, element.local()) {
            (Ns::WordDrawing, "extent") => {
                parts.width = pixels("cx");
                parts.height = pixels("cy");
            }
            (Ns::WordDrawing, "docPr") => {
                parts.alternative = element.string("descr").unwrap_or_default();
            }
            (_, "decorative") => parts.decorative = element.is_on(),
            (Ns::Drawing, "hlinkClick") => parts.link = parts.link.take().or(element.string("id")),
            (Ns::Drawing, "blip") => {
                parts.embedded = parts.embedded.take().or(element.string("embed"));
                parts.linked = parts.linked.take().or(element.string("link"));
            }
            (_, "chart") => parts.other = Some("a chart"),
            (_, "relIds") => parts.other = Some("a diagram"),
            (_, "txbxContent") => {
                parts.has_text = true;
                self.text_box(xml);
            }
            _ => {}
        }
    }

    /// The text of a box follows the paragraph it is anchored in.
    fn text_box(&mut self, xml: &mut Xml<'_>) {
        let already = std::mem::take(&mut self.behind_paragraph);
        let before = std::mem::take(&mut self.before_paragraph);
        let carried_over = std::mem::take(&mut self.carried_over);
        let fields = std::mem::take(&mut self.fields);
        let sequence = self.sequence.take();
        let content = self.blocks(xml);
        self.sequence = sequence;
        self.fields = fields;
        self.carried_over = carried_over;
        self.before_paragraph = before;
        self.behind_paragraph = already;
        if !content.is_empty() {
            let group = Group { role: GroupRole::Aside, content };
            let block = Block::new(BlockKind::Group(Box::new(group))).at(self.place());
            self.behind_paragraph.push(block);
        }
    }

    /// `w:pict` and `w:object`: the older vector format.
    pub(super) fn older_object(
        &mut self,
        object: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
    ) {
        let mut alternative = String::new();
        let mut found = false;
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            match (element.ns, element.local()) {
                (Ns::Vml, "shape" | "rect") => {
                    alternative = element.string("alt").unwrap_or_default();
                }
                (Ns::Vml, "imagedata") => {
                    let id = element.value("id").unwrap_or_default();
                    found = true;
                    if let Some(media) = self.embedded_picture(&id) {
                        line.push(older_picture(media, &alternative), TextStyle::default());
                    }
                }
                (_, "txbxContent") => {
                    found = true;
                    self.text_box(xml);
                }
                (_, "OLEObject") => self.lost("an embedded object, shown as its picture"),
                _ => {}
            }
        }
        if !found {
            let what =
                if object.local() == "object" { "an embedded object" } else { "a drawn shape" };
            self.lost(what);
        }
    }

    /// A picture of the package by its relationship; says so when there is none.
    fn embedded_picture(&mut self, id: &str) -> Option<MediaId> {
        let Some(relationship) = self.part.relationships.get(id) else {
            self.findings.add_about(Code::PictureMissing, id, Some(self.place()));
            return None;
        };
        let part = relationship.target.clone();
        if let Some(known) = self.pictures.get(&part) {
            return *known;
        }
        let media = match self.package.bytes(&part) {
            Ok(bytes) => {
                let name = part.rsplit('/').next().unwrap_or(&part);
                let media_type = self.media_type(name, &bytes);
                Some(self.document.media.add(name, media_type, bytes.into()))
            }
            Err(error) => {
                let subject = format!("{part}: {error}");
                self.findings.add_about(Code::PictureMissing, &subject, Some(self.place()));
                None
            }
        };
        self.pictures.insert(part, media);
        media
    }

    /// The media type by the first bytes, else by the name.
    fn media_type(&mut self, name: &str, bytes: &[u8]) -> &'static str {
        const SIGNATURES: [(&[u8], &str); 5] = [
            (b"\x89PNG\r\n", "image/png"),
            (b"\xFF\xD8\xFF", "image/jpeg"),
            (b"GIF8", "image/gif"),
            (b"BM", "image/bmp"),
            (b"RIFF", "image/webp"),
        ];
        if let Some((_, media_type)) = SIGNATURES.iter().find(|(mark, _)| bytes.starts_with(mark)) {
            return media_type;
        }
        let extension = name.rsplit('.').next().unwrap_or_default().to_ascii_lowercase();
        if extension == "svg" {
            return "image/svg+xml";
        }
        self.findings.add_about(Code::PictureKindUnusual, name, Some(self.place()));
        match extension.as_str() {
            "emf" => "image/emf",
            "wmf" => "image/wmf",
            "tif" | "tiff" => "image/tiff",
            _ => "application/octet-stream",
        }
    }
}

fn older_picture(media: MediaId, alternative: &str) -> Inline {
    Inline::Picture(Box::new(Picture {
        source: PictureSource::Media(media),
        alternative: match alternative.trim() {
            "" => Vec::new(),
            text => vec![text.into()],
        },
        decorative: false,
        title: None,
        width: None,
        height: None,
        attributes: Attributes::NONE,
    }))
}

impl Reader<'_> {
    /// An equation's characters, until the formula reader makes more of it.
    pub(super) fn equation(&mut self, _: &Element<'_>, xml: &mut Xml<'_>, line: &mut Line) {
        let level = xml.level();
        let mut source = String::new();
        while let Some(element) = xml.descendant(level) {
            if element.local() == "t" {
                let inside = xml.level();
                source.push_str(&xml.text(inside));
            }
        }
        self.findings.add_about(Code::EquationFlattened, &source, Some(self.place()));
        let formula = crate::math::Formula { source, ..crate::math::Formula::default() };
        line.push(Inline::Formula(Box::new(formula)), TextStyle::default());
    }

    pub(super) fn embedded_document(&mut self, _: &Element<'_>, _: &mut super::gather::Gatherer) {
        self.lost("an embedded document");
    }
}
