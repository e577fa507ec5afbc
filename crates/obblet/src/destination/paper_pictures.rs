//! Pictures for documents that are set on paper by TeX, which knows PNG, JPEG and PDF.

use crate::document::{
    Document, Inline, Media, MediaId, MediaStore, Picture, PictureSource, walk_inlines_mut,
};
use crate::findings::{Code, Findings};
use crate::picture_file::{as_png, drawn};
use std::borrow::Cow;
use std::collections::HashMap;

/// The endings of pictures that TeX does not know.
const UNKNOWN: [&str; 6] = ["svg", "gif", "webp", "avif", "bmp", "tiff"];

/// Whether a picture has to be converted before TeX can set it, by its name.
pub(crate) fn is_unknown_to_tex(name: &str) -> bool {
    let ending = name.rsplit_once('.').map(|(_, ending)| ending.to_ascii_lowercase());
    ending.is_some_and(|ending| UNKNOWN.contains(&ending.as_str()))
}

/// The document with pictures that TeX can set: others become PNG.
pub(crate) fn for_tex<'d>(document: &'d Document, findings: &mut Findings) -> Cow<'d, Document> {
    if !document.media.iter().any(|media| is_unknown_to_tex(&media.name)) {
        return Cow::Borrowed(document);
    }
    // The width that a drawing states, by its name: its picture has more dots than that.
    let mut widths: HashMap<String, f32> = HashMap::new();
    let media: Vec<Media> = document
        .media
        .iter()
        .map(|media| converted(media, &mut widths, findings).unwrap_or_else(|| media.clone()))
        .collect();
    let mut document = Document { media: MediaStore::from_all(media), ..document.clone() };
    let Document { blocks, notes, media, .. } = &mut document;
    let width = |id: MediaId| media.get(id).and_then(|media| widths.get(media.name.as_str()));
    let notes = notes.iter_mut().map(|note| &mut note.content);
    for blocks in std::iter::once(blocks).chain(notes) {
        walk_inlines_mut(blocks, |_, inlines| {
            for inline in inlines {
                let Inline::Picture(picture) = inline else { continue };
                let Picture { source: PictureSource::Media(id), width: None, height: None, .. } =
                    picture.as_ref()
                else {
                    continue;
                };
                picture.width = width(*id).copied();
            }
        });
    }
    Cow::Owned(document)
}

fn converted(
    media: &Media,
    widths: &mut HashMap<String, f32>,
    findings: &mut Findings,
) -> Option<Media> {
    if !is_unknown_to_tex(&media.name) {
        return None;
    }
    let stem = media.name.rsplit_once('.').map_or(media.name.as_str(), |(stem, _)| stem);
    let name = format!("{stem}.png");
    let png = match drawn(&media.bytes) {
        Some(drawn) => {
            widths.insert(name.clone(), drawn.size.0);
            Some(drawn.png)
        }
        None => as_png(&media.bytes),
    };
    let Some(png) = png else {
        findings.add_about(Code::PictureNotConverted, &media.name, None);
        return None;
    };
    findings.add_about(Code::PictureConverted, &media.name, None);
    Some(Media { name: name.into(), media_type: "image/png".into(), bytes: png.into() })
}
