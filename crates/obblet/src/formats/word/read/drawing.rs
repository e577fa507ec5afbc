//! DrawingML (ECMA-376 part 1, 20): pictures, text boxes, charts and diagrams, in a line or anchored
//! to it.

use super::super::vocabulary::own_size;
use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::line::{Frame, Line, TextStyle};
use super::media::Crop;
use crate::document::{
    Attributes, Block, BlockKind, Border, BorderLine, Borders, Colour, CompactString, Group,
    GroupRole, Inline, Length, Looks, Picture, PictureSource,
};

/// English metric units in a CSS pixel (914,400 to the inch, 96 pixels to the inch).
const UNITS_PER_PIXEL: f32 = 9525.0;

/// English metric units in a point.
const UNITS_PER_POINT: f32 = 12_700.0;

/// What a drawing says before and around what it shows.
#[derive(Default)]
struct Drawing {
    width: Option<f32>,
    height: Option<f32>,
    alternative: String,
    title: Option<String>,
    /// The size that the picture has by itself, where its name says so.
    own_size: Option<(u32, u32)>,
    decorative: bool,
    link: Option<String>,
    pictures: Vec<DrawnPicture>,
    charts: Vec<String>,
    diagrams: Vec<String>,
    /// Shapes, and those of them that hold text.
    shapes: usize,
    texts: usize,
    shape: ShapeLooks,
}

impl Drawing {
    /// A size that is the picture's own need not be stated; whoever changed it in Word stated another.
    fn leave_out_own_size(&mut self) {
        let rounded = |size: Option<f32>| size.map(|size| size.round() as u32);
        if self.own_size.is_some() && self.own_size == rounded(self.width).zip(rounded(self.height))
        {
            (self.width, self.height) = (None, None);
        }
    }
}

/// One picture of a drawing.
#[derive(Default)]
struct DrawnPicture {
    /// Relationship of the picture inside the package.
    embedded: Option<String>,
    /// Relationship of a picture outside.
    linked: Option<String>,
    /// The same as a drawing that scales.
    scalable: Option<String>,
    crop: Crop,
}

/// Fill and line of a shape.
#[derive(Default)]
struct ShapeLooks {
    fill: Option<Colour>,
    line: Option<Colour>,
    line_width: Option<f32>,
    is_in_line: bool,
    is_over: bool,
}

impl Reader<'_> {
    /// `w:drawing`: DrawingML in a line or anchored to it.
    pub(super) fn drawing(&mut self, xml: &mut Xml<'_>, line: &mut Line) {
        let mut drawing = Drawing::default();
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            self.drawing_part(&element, xml, &mut drawing);
        }
        let link = drawing.link.as_ref().and_then(|id| self.part.relationships.get(id));
        let link: Option<CompactString> = link.map(|found| found.target.as_str().into());
        let is_nothing =
            drawing.pictures.is_empty() && drawing.charts.is_empty() && drawing.diagrams.is_empty();
        let undrawn = drawing.shapes.saturating_sub(drawing.texts);
        let undrawn = if is_nothing && drawing.texts == 0 { undrawn.max(1) } else { undrawn };
        (0..undrawn).for_each(|_| self.lost("a drawn shape"));
        if is_nothing {
            self.describe_shapes(&drawing, line);
        }
        for relation in std::mem::take(&mut drawing.charts) {
            self.chart(&relation, drawing.alternative.trim());
        }
        for relation in std::mem::take(&mut drawing.diagrams) {
            self.diagram(&relation);
        }
        let is_single = drawing.pictures.len() == 1;
        drawing.leave_out_own_size();
        for (at, picture) in std::mem::take(&mut drawing.pictures).into_iter().enumerate() {
            if let Some(address) = link.clone() {
                line.open(Frame::Link { address, title: None });
            }
            // The words are for all pictures of a group together.
            let alternative = if at == 0 { drawing.alternative.trim() } else { "" };
            let decorative = drawing.decorative || at > 0;
            let size = if is_single { (drawing.width, drawing.height) } else { (None, None) };
            let title = drawing.title.take();
            self.drawn_picture(&picture, alternative, title, decorative, size, line);
            if link.is_some() {
                line.close();
            }
        }
    }

    /// What is said about shapes stays: as the title of their text, or as words where they have none.
    fn describe_shapes(&mut self, drawing: &Drawing, line: &mut Line) {
        let description = drawing.alternative.trim();
        if description.is_empty() || drawing.decorative {
            return;
        }
        let first = self.behind_paragraph.len().checked_sub(drawing.texts);
        match first.and_then(|first| self.behind_paragraph.get_mut(first)) {
            Some(text) if drawing.texts > 0 => {
                text.attributes.edit().pairs.push(("title".into(), description.into()));
            }
            _ => {
                words(description).into_iter().for_each(|text| {
                    line.push(text, TextStyle::default());
                });
            }
        }
    }

    fn drawn_picture(
        &mut self,
        drawn: &DrawnPicture,
        alternative: &str,
        title: Option<String>,
        decorative: bool,
        (width, height): (Option<f32>, Option<f32>),
        line: &mut Line,
    ) {
        let best = drawn.scalable.as_ref().or(drawn.embedded.as_ref());
        let source = match (best, &drawn.linked) {
            (Some(id), _) => self.embedded_picture(id, drawn.crop).map(PictureSource::Media),
            (None, Some(id)) => {
                let relationship = self.part.relationships.get(id);
                relationship.map(|found| PictureSource::Address(found.target.as_str().into()))
            }
            (None, None) => None,
        };
        let alternative = words(alternative);
        let Some(source) = source else {
            // The words for the picture are better than nothing.
            return alternative.into_iter().for_each(|text| line.push(text, TextStyle::default()));
        };
        let picture = Picture {
            source,
            alternative,
            decorative,
            title: title.map(Into::into),
            width,
            height,
            attributes: Attributes::NONE,
        };
        line.push(Inline::Picture(Box::new(picture)), TextStyle::default());
    }

    fn drawing_part(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, drawing: &mut Drawing) {
        let pixels = |name: &str| element.number(name).map(|units| units as f32 / UNITS_PER_PIXEL);
        match (element.ns, element.local()) {
            (Ns::WordDrawing, "extent") => {
                drawing.width = pixels("cx");
                drawing.height = pixels("cy");
            }
            (Ns::WordDrawing, "docPr") => {
                drawing.alternative = element.string("descr").unwrap_or_default();
                drawing.title = element.string("title").filter(|title| !title.is_empty());
                drawing.own_size = element.value("name").and_then(|name| own_size(&name));
            }
            (_, "decorative") => drawing.decorative = element.is_on(),
            (Ns::Drawing, "hlinkClick") => {
                drawing.link = drawing.link.take().or(element.string("id"));
            }
            (Ns::Drawing, "blip") => drawing.pictures.push(DrawnPicture {
                embedded: element.string("embed").filter(|id| !id.is_empty()),
                linked: element.string("link").filter(|id| !id.is_empty()),
                ..DrawnPicture::default()
            }),
            (_, "svgBlip") => {
                if let Some(picture) = drawing.pictures.last_mut() {
                    picture.scalable = element.string("embed");
                }
            }
            (Ns::Drawing, "srcRect") => {
                if let Some(picture) = drawing.pictures.last_mut() {
                    picture.crop = Crop::read(element);
                }
            }
            (_, "wsp") => drawing.shapes += 1,
            (_, "chart") => drawing.charts.push(element.string("id").unwrap_or_default()),
            (_, "relIds") => drawing.diagrams.push(element.string("dm").unwrap_or_default()),
            (_, "txbxContent") => {
                let looks = drawing.box_looks(self.options.looks);
                drawing.texts += usize::from(self.text_box(xml, looks));
            }
            (_, local) => {
                if element.ns == Ns::Drawing {
                    drawing.shape.read(element, &self.theme);
                }
                if !is_plain_part(local) {
                    self.looks.count("details of drawings");
                }
            }
        }
    }

    /// The text of a box follows the paragraph it is anchored in; says whether there is any.
    pub(super) fn text_box(&mut self, xml: &mut Xml<'_>, looks: Looks) -> bool {
        let content = self.apart(|reader| reader.blocks(xml));
        if content.is_empty() {
            return false;
        }
        let group = Group { role: GroupRole::Aside, content };
        let mut block = Block::new(BlockKind::Group(Box::new(group))).at(self.place());
        if !looks.is_empty() {
            block.attributes.edit().looks = Some(Box::new(looks));
        }
        self.behind_paragraph.push(block);
        true
    }

    /// Reads something that stands in a paragraph and is none of its line.
    pub(super) fn apart<T>(&mut self, read: impl FnOnce(&mut Self) -> T) -> T {
        let behind = std::mem::take(&mut self.behind_paragraph);
        let before = std::mem::take(&mut self.before_paragraph);
        let carried_over = std::mem::take(&mut self.carried_over);
        let fields = std::mem::take(&mut self.fields);
        let contents = std::mem::take(&mut self.holds_contents);
        let sequence = self.sequence.take();
        let found = read(self);
        self.sequence = sequence;
        self.holds_contents = contents;
        self.fields = fields;
        self.carried_over = carried_over;
        self.before_paragraph = before;
        self.behind_paragraph = behind;
        found
    }
}

impl Drawing {
    fn box_looks(&self, keeps_looks: bool) -> Looks {
        if !keeps_looks {
            return Looks::default();
        }
        let border = self.shape.line.map(|colour| {
            let width = Length::Points(self.shape.line_width.unwrap_or(0.75));
            let side = Some(Border { line: BorderLine::Single, width, colour: Some(colour) });
            Box::new(Borders { top: side, end: side, bottom: side, start: side })
        });
        let [beside, above] = [7.2, 3.6].map(Length::Points);
        Looks {
            background: self.shape.fill,
            borders: border,
            padding: Some([above, beside, above, beside]),
            width: self.width.map(|pixels| Length::Points(pixels * 0.75)),
            ..Looks::default()
        }
    }
}

impl ShapeLooks {
    /// Fill comes before the line, and effects behind it (20.1.2.2.35).
    fn read(&mut self, element: &Element<'_>, theme: &super::theme::Theme) {
        match element.local() {
            "ln" => {
                self.is_in_line = true;
                let width = element.number("w");
                self.line_width = width.map(|units| units as f32 / UNITS_PER_POINT);
            }
            "effectLst" | "scene3d" => self.is_over = true,
            "srgbClr" | "schemeClr" if !self.is_over => {
                let colour = theme.drawing_colour(element);
                let place = if self.is_in_line { &mut self.line } else { &mut self.fill };
                *place = place.or(colour);
            }
            _ => {}
        }
    }
}

/// What holds the parts of every drawing together, and where on the paper it stands.
fn is_plain_part(local: &str) -> bool {
    matches!(
        local,
        "inline"
            | "anchor"
            | "simplePos"
            | "positionH"
            | "positionV"
            | "align"
            | "posOffset"
            | "effectExtent"
            | "wrapNone"
            | "wrapSquare"
            | "wrapTight"
            | "wrapThrough"
            | "wrapTopAndBottom"
            | "wrapPolygon"
            | "start"
            | "lineTo"
            | "sizeRelH"
            | "sizeRelV"
            | "pctWidth"
            | "pctHeight"
            | "cNvGraphicFramePr"
            | "graphicFrameLocks"
            | "graphic"
            | "graphicData"
            | "pic"
            | "nvPicPr"
            | "cNvPr"
            | "cNvPicPr"
            | "picLocks"
            | "blipFill"
            | "stretch"
            | "fillRect"
            | "spPr"
            | "xfrm"
            | "off"
            | "ext"
            | "chOff"
            | "chExt"
            | "prstGeom"
            | "avLst"
            | "gd"
            | "extLst"
            | "useLocalDpi"
            | "wsp"
            | "cNvSpPr"
            | "spLocks"
            | "cNvCnPr"
            | "txbx"
            | "linkedTxbx"
            | "bodyPr"
            | "wgp"
            | "cNvGrpSpPr"
            | "grpSpPr"
            | "grpSp"
            | "wpc"
            | "bg"
            | "whole"
            | "solidFill"
            | "noFill"
            | "ln"
            | "srgbClr"
            | "schemeClr"
            | "style"
            | "lnRef"
            | "fillRef"
            | "effectRef"
            | "fontRef"
            | "hiddenLine"
            | "hiddenFill"
            | "creationId"
            | "noAutofit"
            | "spAutoFit"
            | "normAutofit"
            | "prstDash"
            | "round"
            | "miter"
            | "headEnd"
            | "tailEnd"
            | "effectLst"
            | "docPr"
            | "lockedCanvas"
    )
}

/// Words as inlines; none for nothing but white space.
pub(super) fn words(text: &str) -> Vec<Inline> {
    match text.trim() {
        "" => Vec::new(),
        text => vec![text.into()],
    }
}
