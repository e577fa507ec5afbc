//! Pictures.

use super::{Reader, keys};
use crate::document::{Attributes, Inline, Picture, PictureSource};
use crate::tex::Spot;

/// Points of TeX in a pixel of CSS.
const POINTS_PER_PIXEL: f32 = 72.27 / 96.0;

/// The extensions of pictures, in the order browsers like them.
const EXTENSIONS: [&str; 8] = ["svg", "png", "jpg", "jpeg", "webp", "avif", "gif", "pdf"];

impl Reader<'_> {
    /// `\includegraphics[width=…]{file}`.
    pub(super) fn picture(&mut self, spot: Spot) {
        self.front.star();
        self.front.between('<', '>');
        let options = self.front.option();
        // The oldest way says two corners.
        self.front.option();
        let options = options.map(|tokens| self.front.typed(&tokens)).unwrap_or_default();
        let options = keys::options(&options);
        let file = self.front.expanded_argument();
        let address = self.picture_address(file.trim_matches('"'));
        let mut length = |key: &str| {
            let value = keys::value(&options, key)?.to_string();
            self.length_in_pixels(&value)
        };
        let (width, height) = (length("width"), length("height"));
        let alternative = match keys::value(&options, "alt") {
            Some(words) if !words.is_empty() => vec![words.into()],
            _ => Vec::new(),
        };
        // Words that are stated to be none say that a picture is decoration.
        let decorative =
            keys::value(&options, "artifact").is_some() || keys::value(&options, "alt") == Some("");
        for (key, _) in &options {
            if !matches!(
                key.as_str(),
                "width" | "height" | "alt" | "artifact" | "keepaspectratio" | "page"
            ) {
                self.layout(&format!("\\includegraphics: {key}"), spot);
            }
        }
        self.sheet.mark_place();
        self.sheet.push(Inline::Picture(Box::new(Picture {
            source: PictureSource::Address(address.as_str().into()),
            alternative,
            decorative,
            title: None,
            width,
            height,
            attributes: Attributes::NONE,
        })));
    }

    /// The file itself: with its folder and extension, as far as files can be looked for.
    fn picture_address(&self, file: &str) -> String {
        let has_extension = file.rsplit_once('.').is_some_and(|(_, end)| {
            EXTENSIONS.contains(&end.to_ascii_lowercase().as_str())
                || matches!(end, "eps" | "tif" | "bmp")
        });
        let folders = std::iter::once("").chain(self.graphics_folders.iter().map(String::as_str));
        for folder in folders {
            let path = format!("{folder}{file}");
            if has_extension {
                if self.resolver.resolve(&path).is_some() {
                    return path;
                }
                continue;
            }
            for extension in EXTENSIONS {
                let path = format!("{path}.{extension}");
                if self.resolver.resolve(&path).is_some() {
                    return path;
                }
            }
        }
        file.to_string()
    }

    /// A length as pixels; a share of the line stays unstated where it is all of it.
    fn length_in_pixels(&mut self, text: &str) -> Option<f32> {
        if matches!(text.trim(), r"\textwidth" | r"\linewidth" | r"\columnwidth" | r"\hsize") {
            return None;
        }
        let level = format!("{text}\\relax ");
        let points = self.front.dimension_of(&level);
        let pixels = (points / POINTS_PER_PIXEL).round();
        (pixels >= 1.0).then_some(pixels)
    }

    pub(super) fn graphics_path(&mut self) {
        let text = self.front.argument_text();
        let folders = text.split(['{', '}']).map(str::trim).filter(|folder| !folder.is_empty());
        self.graphics_folders = folders.map(ToString::to_string).collect();
    }
}
