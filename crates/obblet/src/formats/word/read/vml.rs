//! The older vector format (ECMA-376 part 4, 14), and embedded objects, which are shown as pictures of
//! it.

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::drawing::words;
use super::line::{Frame, Line, TextStyle};
use super::media::Crop;
use super::values::points;
use crate::document::{
    Attributes, Block, BlockKind, Inline, Looks, MediaId, Picture, PictureSource,
};

/// Points in a CSS pixel.
const POINTS_PER_PIXEL: f32 = 0.75;

#[derive(Default)]
struct OlderObject {
    alternative: String,
    width: Option<f32>,
    height: Option<f32>,
    link: Option<String>,
    picture: Option<MediaId>,
    /// Something of it has been read.
    is_shown: bool,
    /// Shapes, and those of them of which something was read.
    shapes: usize,
    shown: usize,
    /// Who is to sign, and as what.
    signer: Option<String>,
    file: Option<String>,
}

impl OlderObject {
    fn show(&mut self) {
        self.is_shown = true;
        self.shown += 1;
    }

    /// What is said about a shape is the title of its text.
    fn describe(&mut self, text: Option<&mut Block>) {
        let description = std::mem::take(&mut self.alternative);
        if let Some(text) = text.filter(|_| !description.trim().is_empty()) {
            text.attributes.edit().pairs.push(("title".into(), description.trim().into()));
        }
    }
}

impl Reader<'_> {
    /// `w:pict` and `w:object`.
    pub(super) fn older_object(
        &mut self,
        object: &Element<'_>,
        xml: &mut Xml<'_>,
        line: &mut Line,
    ) {
        let is_object = object.local() == "object";
        let mut found = OlderObject::default();
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            self.older_part(&element, xml, &mut found, line);
        }
        if let Some(signer) = &found.signer {
            self.lost("a line for a digital signature, kept as words");
            line.push_text(signer, &TextStyle::default());
            return;
        }
        let address = found.file.as_ref().and_then(|id| self.embedded_file(id));
        if let Some(address) = address.clone() {
            line.open(Frame::Link { address, title: None });
        }
        if let Some(media) = found.picture {
            line.push(older_picture(media, &found), TextStyle::default());
        } else if address.is_some() {
            line.push_text("📎", &TextStyle::default());
        }
        if address.is_some() {
            line.close();
        }
        // A group may hold shapes that show nothing beside others that do.
        let undrawn = found.shapes.saturating_sub(found.shown);
        if found.is_shown && !is_object {
            (0..undrawn).for_each(|_| self.lost("a drawn shape"));
        }
        if !found.is_shown && address.is_none() {
            if !found.alternative.trim().is_empty() {
                words(&found.alternative).into_iter().for_each(|text| {
                    line.push(text, TextStyle::default());
                });
            }
            self.lost(if is_object { "an embedded object" } else { "a drawn shape" });
        }
    }

    fn older_part(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        found: &mut OlderObject,
        line: &mut Line,
    ) {
        match (element.ns, element.local()) {
            (Ns::Vml, "shape" | "rect" | "roundrect" | "oval" | "line" | "group") => {
                found.shapes += usize::from(element.local() != "group");
                if element.flag("hr") == Some(true) {
                    found.show();
                    let block = Block::new(BlockKind::ThematicBreak).at(self.place());
                    let is_first = line.is_bare();
                    let place = if is_first {
                        &mut self.before_paragraph
                    } else {
                        &mut self.behind_paragraph
                    };
                    place.push(block);
                }
                if found.alternative.is_empty() {
                    found.alternative = element.string("alt").unwrap_or_default();
                }
                let style = element.value("style").unwrap_or_default();
                found.width = found.width.or_else(|| measure(&style, "width"));
                found.height = found.height.or_else(|| measure(&style, "height"));
                found.link = found.link.take().or_else(|| element.string("href"));
            }
            (Ns::Vml, "imagedata") => {
                let id = element.string("id").unwrap_or_default();
                found.show();
                if found.picture.is_none() {
                    found.picture = self.embedded_picture(&id, Crop::of_older(element));
                }
            }
            // Words drawn along a line, such as a watermark.
            (Ns::Vml, "textpath") => {
                if let Some(text) = element.value("string").filter(|text| !text.trim().is_empty()) {
                    found.show();
                    self.looks.count("text effects");
                    line.push_text(&text, &TextStyle::default());
                }
            }
            (Ns::Word, "txbxContent") => {
                found.show();
                if self.text_box(xml, Looks::default()) && found.picture.is_none() {
                    found.describe(self.behind_paragraph.last_mut());
                }
            }
            (Ns::VmlOffice, "signatureline") => {
                let part = |name: &str| element.value(name).filter(|text| !text.is_empty());
                let names = [part("suggestedsigner"), part("suggestedsigner2")];
                let names: Vec<_> = names.into_iter().flatten().collect();
                found.signer = Some(format!("✗ ____________________ {}", names.join(", ")));
            }
            (Ns::VmlOffice, "OLEObject") => found.file = element.string("id"),
            (Ns::Word, "control") => self.lost("a control that runs a program"),
            (Ns::Word, "movie") => self.lost("a film"),
            (_, local) if is_plain_part(local) => {}
            _ => self.looks.count("details of drawings"),
        }
    }
}

/// What holds the parts of an older drawing together, and how its shape is made.
fn is_plain_part(local: &str) -> bool {
    matches!(
        local,
        "shapetype"
            | "formulas"
            | "f"
            | "path"
            | "lock"
            | "stroke"
            | "fill"
            | "textbox"
            | "wrap"
            | "anchorlock"
            | "handles"
            | "h"
            | "shapelayout"
            | "idmap"
            | "shapedefaults"
            | "LinkType"
            | "LockedField"
            | "FieldCodes"
            | "extrusion"
    )
}

/// A length of a `style` attribute, in pixels.
fn measure(style: &str, property: &str) -> Option<f32> {
    let value = style.split(';').find_map(|declaration| {
        let (name, value) = declaration.split_once(':')?;
        (name.trim() == property).then(|| value.trim())
    })?;
    let pixels = match value.strip_suffix("px") {
        Some(pixels) => pixels.parse().ok()?,
        None => points(value, 1.0)? / POINTS_PER_PIXEL,
    };
    (pixels >= 1.0).then_some(pixels)
}

fn older_picture(media: MediaId, object: &OlderObject) -> Inline {
    Inline::Picture(Box::new(Picture {
        source: PictureSource::Media(media),
        alternative: words(&object.alternative),
        decorative: false,
        title: None,
        width: object.width,
        height: object.height,
        attributes: Attributes::NONE,
    }))
}
