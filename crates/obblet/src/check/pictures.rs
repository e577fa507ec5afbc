//! What is said of pictures to people who do not see them.

use super::Subject;
use crate::document::{Inline, Picture, PictureSource, Place, plain_text};
use crate::findings::Code;
use crate::format::Format;

/// Characters from which on a description belongs into the text.
const LONG: usize = 250;

/// Words that say that there is a picture, and nothing more.
const EMPTY_WORDS: &[&str] = &[
    "image",
    "picture",
    "photo",
    "photograph",
    "graphic",
    "graphics",
    "figure",
    "img",
    "pic",
    "icon",
    "logo",
    "untitled",
    "image of",
    "picture of",
    "photo of",
    "bild",
    "foto",
    "abbildung",
    "imagen",
    "immagine",
    "alt",
    "alt text",
    "placeholder",
    "description",
];

impl Subject<'_> {
    pub(super) fn pictures(&mut self) {
        let mut found = Vec::new();
        self.each_inline(|place, inline| {
            if let Inline::Picture(picture) = inline
                && let Some(fault) = fault(picture, self.format)
            {
                found.push((fault, place));
            }
        });
        for ((code, subject), place) in found {
            self.findings.add_about(code, &subject, Some(place));
        }
    }

    /// Every inline with the place of its block.
    pub(super) fn each_inline(&self, mut each: impl FnMut(Place, &Inline)) {
        use crate::document::Node;
        let mut place = Place::default();
        for node in self.nodes() {
            match node {
                Node::Block(block) => place = block.place,
                Node::Inline(inline) => each(place, inline),
                _ => {}
            }
        }
    }
}

fn fault(picture: &Picture, format: Format) -> Option<(Code, String)> {
    let shown = match &picture.source {
        PictureSource::Address(address) => address.chars().take(60).collect::<String>(),
        PictureSource::Media(media) => format!("picture {}", media.index() + 1),
    };
    let words = plain_text(&picture.alternative);
    let words = words.trim();
    if words.is_empty() {
        // In a page an empty text is stated, and a missing one is found by its tag.
        let is_missing = !picture.decorative && format != Format::Html;
        return is_missing.then_some((Code::PictureUndescribed, shown));
    }
    if words.chars().count() > LONG {
        return Some((Code::PictureDescriptionLong, words.chars().count().to_string()));
    }
    let lower = words.to_lowercase();
    let file = shown.rsplit('/').next().unwrap_or_default().to_lowercase();
    let stem = file.rsplit_once('.').map_or(file.as_str(), |(stem, _)| stem);
    let is_name = lower == file
        || (lower == stem && stem.contains(['-', '_', '.']))
        || is_file_name(&lower)
        || EMPTY_WORDS.contains(&lower.trim_end_matches([':', '.', ' ']).trim());
    is_name.then(|| (Code::PictureDescribedByName, words.to_string()))
}

/// `IMG_2041`, `mill-wheel.jpg`
fn is_file_name(words: &str) -> bool {
    let ends = [".png", ".jpg", ".jpeg", ".gif", ".svg", ".webp", ".avif", ".tif", ".tiff", ".bmp"];
    let is_one_word = !words.contains(char::is_whitespace);
    let is_camera =
        ["img", "dsc", "dscn", "scan", "image", "pict", "picture", "photo"].iter().any(|start| {
            words.strip_prefix(start).is_some_and(|rest| {
                let rest = rest.trim_start_matches(['_', '-', ' ']);
                !rest.is_empty() && rest.bytes().all(|byte| byte.is_ascii_digit())
            })
        });
    (is_one_word && ends.iter().any(|end| words.ends_with(end))) || is_camera
}
