//! Picture files: reading them within limits, and cutting parts out of them.

use image::{DynamicImage, ImageFormat, ImageReader, Limits};
use std::io::Cursor;

/// The widest and highest picture that is decoded, in pixels.
const LARGEST_SIDE: u32 = 20_000;

/// The most memory that decoding one picture may take, in bytes.
const MOST_MEMORY: u64 = 512 << 20;

/// A reader that refuses pictures that are too large.
pub(crate) fn limited_reader(bytes: &[u8], format: ImageFormat) -> ImageReader<Cursor<&[u8]>> {
    let mut limits = Limits::default();
    limits.max_image_width = Some(LARGEST_SIDE);
    limits.max_image_height = Some(LARGEST_SIDE);
    limits.max_alloc = Some(MOST_MEMORY);
    let mut reader = ImageReader::with_format(Cursor::new(bytes), format);
    reader.limits(limits);
    reader
}

/// What is left of a picture when these shares of it are cut off (left, top, right, bottom), as PNG.
/// `None` where it cannot be decoded.
pub(crate) fn cropped(bytes: &[u8], shares: [f32; 4]) -> Option<Vec<u8>> {
    let format = image::guess_format(bytes).ok()?;
    let picture: DynamicImage = limited_reader(bytes, format).decode().ok()?;
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
