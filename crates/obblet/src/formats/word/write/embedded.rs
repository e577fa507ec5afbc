//! Files of other office programs inside the document (ECMA-376 part 1, 17.3.3.19, and part 4, 6.2.2.19).

use super::Writer;
use super::markup::value;
use super::runs::RunLook;
use crate::attachments;
use crate::document::{Inline, Link, PictureSource, plain_text};

/// Extensions, media types and programs of the files that Word embeds as they are.
const KINDS: [(&str, &str, &str); 3] = [
    (
        "docx",
        "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
        "Word.Document.12",
    ),
    (
        "pptx",
        "application/vnd.openxmlformats-officedocument.presentationml.presentation",
        "PowerPoint.Show.12",
    ),
    ("xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "Excel.Sheet.12"),
];

/// Points in a pixel of CSS.
const POINTS: f32 = 0.75;

impl Writer<'_> {
    /// A link to a file that the document carries: the picture that stands for it, with the file behind.
    /// Gives whether the link is such a one and has been written.
    pub(super) fn embedded(&mut self, link: &Link, look: &RunLook, out: &mut String) -> bool {
        let Some(name) = attachments::name_in(&link.address) else { return false };
        let document = self.document;
        let Some(file) = document.media.iter().find(|media| media.name == name) else {
            return false;
        };
        let extension = name.rsplit('.').next().unwrap_or_default().to_ascii_lowercase();
        let kind = KINDS.iter().find(|(known, _, _)| *known == extension);
        let picture = match &link.content[..] {
            [Inline::Picture(picture)] => match &picture.source {
                PictureSource::Media(id) => self.stored(*id).map(|stored| (picture, stored)),
                PictureSource::Address(_) => None,
            },
            _ => None,
        };
        let (Some((_, media_type, program)), Some((picture, stored))) = (kind, picture) else {
            self.lost(&format!("the embedded file {name}"));
            self.inlines(&link.content, look, out);
            return true;
        };
        let target = self.pictures.add_embedded(name, media_type, file.bytes.clone());
        let file = self.relations.part("package", &target);
        let shown = self.relations.part("image", stored.target());
        let (width, height) = stored.size_of(picture);
        let number = self.pictures.next_number();
        let words = value(&plain_text(&picture.alternative));
        let object = format!(
            "<w:object><v:shape id=\"_x0000_i{number}\" style=\"width:{}pt;height:{}pt\" alt=\"{words}\" o:ole=\"\">\
             <v:imagedata r:id=\"{shown}\" o:title=\"\"/></v:shape>\
             <o:OLEObject Type=\"Embed\" ProgID=\"{program}\" ShapeID=\"_x0000_i{number}\" DrawAspect=\"Content\" ObjectID=\"_{number}\" r:id=\"{file}\"/></w:object>",
            (width * POINTS).round(),
            (height * POINTS).round(),
        );
        self.push_object_run(&object, look, out);
        true
    }
}
