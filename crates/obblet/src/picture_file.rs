//! Picture files: reading them within limits, and cutting parts out of them.

#[cfg(feature = "avif")]
mod avif;
#[cfg(not(feature = "avif"))]
#[path = "picture_file/no_avif.rs"]
mod avif;
mod carried;
mod kind;
mod svg;

pub(crate) use carried::carried;
pub(crate) use kind::PictureKind;
pub use svg::{CleanDrawing, clean_drawing};

use image::{DynamicImage, ImageFormat, ImageReader, Limits};
use std::io::Cursor;

/// The widest and highest picture that is decoded, in pixels.
const LARGEST_SIDE: u32 = 20_000;

/// The most memory that decoding one picture may take, in bytes.
const MOST_MEMORY: u64 = 512 << 20;

/// A reader that refuses pictures that are too large.
fn limited_reader(bytes: &[u8], format: ImageFormat) -> ImageReader<Cursor<&[u8]>> {
    let mut limits = Limits::default();
    limits.max_image_width = Some(LARGEST_SIDE);
    limits.max_image_height = Some(LARGEST_SIDE);
    limits.max_alloc = Some(MOST_MEMORY);
    let mut reader = ImageReader::with_format(Cursor::new(bytes), format);
    reader.limits(limits);
    reader
}

/// Width and height in pixels, without decoding the picture. `None` where it is no such file.
pub(crate) fn dimensions(bytes: &[u8], format: ImageFormat) -> Option<(u32, u32)> {
    match format {
        ImageFormat::Avif => avif::size(bytes),
        format => limited_reader(bytes, format).into_dimensions().ok(),
    }
}

/// The picture. `None` where it cannot be decoded, or is too large.
pub(crate) fn decoded(bytes: &[u8], format: ImageFormat) -> Option<DynamicImage> {
    match format {
        ImageFormat::Avif => avif::decoded(bytes),
        format => limited_reader(bytes, format).decode().ok(),
    }
}

/// What is left of a picture when these shares of it are cut off (left, top, right, bottom), as PNG.
/// `None` where it cannot be decoded.
pub(crate) fn cropped(bytes: &[u8], shares: [f32; 4]) -> Option<Vec<u8>> {
    let picture = decoded(bytes, image::guess_format(bytes).ok()?)?;
    let (wide, high) = (picture.width() as f32, picture.height() as f32);
    let [left, top, right, bottom] = shares;
    let (x, y) = ((wide * left).round(), (high * top).round());
    let width = (wide - x - (wide * right).round()).max(1.0);
    let height = (high - y - (high * bottom).round()).max(1.0);
    let part = picture.crop_imm(x as u32, y as u32, width as u32, height as u32);
    let mut out = Vec::new();
    part.write_to(&mut Cursor::new(&mut out), ImageFormat::Png).ok()?;
    Some(out)
}

/// Width and height of a picture in pixels, without decoding it.
pub(crate) fn size(bytes: &[u8]) -> Option<(f32, f32)> {
    let (width, height) = dimensions(bytes, image::guess_format(bytes).ok()?)?;
    Some((width as f32, height as f32))
}

/// A picture of another kind as PNG. `None` where it cannot be decoded.
pub(crate) fn as_png(bytes: &[u8]) -> Option<Vec<u8>> {
    cropped(bytes, [0.0; 4])
}

/// A scalable drawing as a picture.
pub(crate) struct Drawn {
    pub(crate) png: Vec<u8>,
    /// The size that the drawing states, in pixels of CSS.
    pub(crate) size: (f32, f32),
}

/// Draws an SVG file, twice as large as it says so that it prints well. Texts in it are left out, since
/// what fonts there are differs from machine to machine. `None` where it is no such file.
pub(crate) fn drawn(bytes: &[u8]) -> Option<Drawn> {
    use resvg::{tiny_skia, usvg};
    let tree = usvg::Tree::from_data(bytes, &usvg::Options::default()).ok()?;
    let (width, height) = (tree.size().width(), tree.size().height());
    let scale = (2.0_f32).min(WIDEST_DRAWN / width.max(height));
    let (wide, high) = ((width * scale).ceil().max(1.0), (height * scale).ceil().max(1.0));
    let mut canvas = tiny_skia::Pixmap::new(wide as u32, high as u32)?;
    let transform = tiny_skia::Transform::from_scale(scale, scale);
    resvg::render(&tree, transform, &mut canvas.as_mut());
    Some(Drawn { png: canvas.encode_png().ok()?, size: (width, height) })
}

/// The widest and highest picture that a drawing becomes, in pixels.
const WIDEST_DRAWN: f32 = 2000.0;
