//! Pictures as the destination takes them: of one format, no wider than it shows them.

use crate::document::{Document, Media, MediaStore};
use crate::findings::{Code, Findings};
use crate::house::{PictureFormat, PictureSettings};
use crate::picture_file::{decoded, dimensions};
use image::codecs::jpeg::JpegEncoder;
use image::imageops::FilterType;
use image::{DynamicImage, GenericImageView as _, ImageFormat};
use std::borrow::Cow;
use std::io::Cursor;

/// The document with its pictures as the house wants them.
pub(crate) fn converted<'d>(
    document: &'d Document,
    settings: &PictureSettings,
    findings: &mut Findings,
) -> Cow<'d, Document> {
    if settings.format == PictureFormat::Kept && settings.widest == 0 {
        return Cow::Borrowed(document);
    }
    let mut has_changed = false;
    let media: Vec<Media> = document
        .media
        .iter()
        .map(|media| {
            let new = one(media, settings, findings);
            has_changed |= new.is_some();
            new.unwrap_or_else(|| media.clone())
        })
        .collect();
    if !has_changed {
        return Cow::Borrowed(document);
    }
    Cow::Owned(Document { media: MediaStore::from_all(media), ..document.clone() })
}

/// The picture anew; `None` when it is fine as it is, or cannot be converted.
fn one(media: &Media, settings: &PictureSettings, findings: &mut Findings) -> Option<Media> {
    let format = ImageFormat::from_mime_type(&*media.media_type)?;
    let target = match settings.format {
        // One that is to be narrower is written anew, which can be done in other formats only.
        PictureFormat::Kept if format == ImageFormat::Avif => ImageFormat::Png,
        PictureFormat::Kept => format,
        PictureFormat::Png => ImageFormat::Png,
        PictureFormat::Jpeg => ImageFormat::Jpeg,
    };
    let widest = u32::from(settings.widest);
    let width = dimensions(&media.bytes, format).map(|(width, _)| width);
    let is_too_wide = widest > 0 && width.is_some_and(|width| width > widest);
    let is_wanted = settings.format == PictureFormat::Kept || target == format;
    if width.is_some() && is_wanted && !is_too_wide {
        return None;
    }
    // A picture that moves would stand still.
    if width.is_none() || format == ImageFormat::Gif && moves(media) {
        findings.add_about(Code::PictureNotConverted, &media.name, None);
        return None;
    }
    let converted = decoded(&media.bytes, format).and_then(|picture| {
        let picture = if is_too_wide { scaled(&picture, widest) } else { picture };
        encode(&picture, target, settings.quality).ok()
    });
    match converted {
        Some(bytes) => {
            findings.add_about(Code::PictureConverted, &media.name, None);
            Some(Media {
                name: renamed(&media.name, target, format).into(),
                media_type: target.to_mime_type().into(),
                bytes: bytes.into(),
            })
        }
        None => {
            findings.add_about(Code::PictureNotConverted, &media.name, None);
            None
        }
    }
}

/// Whether a GIF has more than one picture.
fn moves(media: &Media) -> bool {
    use image::AnimationDecoder as _;
    let decoder = image::codecs::gif::GifDecoder::new(Cursor::new(&*media.bytes));
    decoder.is_ok_and(|decoder| decoder.into_frames().take(2).count() > 1)
}

/// As wide as this, and as high as that makes it.
fn scaled(picture: &DynamicImage, width: u32) -> DynamicImage {
    let (wide, high) = picture.dimensions();
    let height = u64::from(high) * u64::from(width) / u64::from(wide.max(1));
    let height = u32::try_from(height).unwrap_or(u32::MAX).max(1);
    picture.resize_exact(width, height, FilterType::Lanczos3)
}

fn encode(picture: &DynamicImage, format: ImageFormat, quality: u8) -> image::ImageResult<Vec<u8>> {
    let mut bytes = Vec::new();
    if format == ImageFormat::Jpeg {
        let encoder = JpegEncoder::new_with_quality(&mut bytes, quality);
        on_white(picture).write_with_encoder(encoder)?;
    } else {
        picture.write_to(&mut Cursor::new(&mut bytes), format)?;
    }
    Ok(bytes)
}

/// JPEG knows nothing clear: what is, stands on white.
fn on_white(picture: &DynamicImage) -> DynamicImage {
    if !picture.color().has_alpha() {
        return picture.to_rgb8().into();
    }
    let mut pixels = image::RgbImage::new(picture.width(), picture.height());
    for (x, y, pixel) in picture.to_rgba8().enumerate_pixels() {
        let [red, green, blue, alpha] = pixel.0;
        let over = |colour: u8| {
            let (colour, alpha) = (u32::from(colour), u32::from(alpha));
            ((colour * alpha + 255 * (255 - alpha)) / 255) as u8
        };
        pixels.put_pixel(x, y, image::Rgb([over(red), over(green), over(blue)]));
    }
    pixels.into()
}

fn renamed(name: &str, target: ImageFormat, format: ImageFormat) -> String {
    if target == format {
        return name.into();
    }
    let stem = name.rsplit_once('.').map_or(name, |(stem, _)| stem);
    let ending = target.extensions_str().first().copied().unwrap_or("png");
    format!("{stem}.{ending}")
}
