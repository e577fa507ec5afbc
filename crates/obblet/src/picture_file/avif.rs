//! AVIF (AV1 Image File Format 1.1): the still picture of a file, with its clear parts.

use super::{LARGEST_SIDE, MOST_MEMORY};
use image::{DynamicImage, RgbaImage};
use mp4parse::{ImageRotation, ParseStrictness, read_avif};
use re_rav1d::dav1d::pixel::{MatrixCoefficients, YUVRange};
use re_rav1d::dav1d::{Decoder, Picture, PixelLayout, PlanarImageComponent, Settings};

/// Width and height in pixels as the file states them (ISO/IEC 23008-12, 6.5.3), without decoding it.
pub(super) fn size(bytes: &[u8]) -> Option<(u32, u32)> {
    let at = memchr::memmem::find(bytes, b"ispe")?;
    let number = |at: usize| {
        let four = bytes.get(at..at.checked_add(4)?)?;
        Some(u32::from_be_bytes(four.try_into().ok()?)).filter(|number| *number > 0)
    };
    // Behind the name stand a version and flags.
    Some((number(at + 8)?, number(at + 12)?))
}

/// The picture. `None` where it cannot be decoded: made of several parts, mirrored, too large, broken.
pub(super) fn decoded(bytes: &[u8]) -> Option<DynamicImage> {
    let (width, height) = size(bytes)?;
    let is_too_large = u64::from(width) * u64::from(height) * 8 > MOST_MEMORY;
    if width > LARGEST_SIDE || height > LARGEST_SIDE || is_too_large {
        return None;
    }
    let file = read_avif(&mut &*bytes, ParseStrictness::Permissive).ok()?;
    // Along which line it is mirrored is not told.
    if !file.image_mirror_ptr().ok()?.is_null() {
        return None;
    }
    let limit = width.saturating_mul(height);
    let colours = Planes::of(frame(file.primary_item_coded_data()?.to_vec(), limit)?)?;
    let clear = match file.alpha_item_coded_data() {
        Some(item) => Some(Planes::of(frame(item.to_vec(), limit)?)?),
        None => None,
    };
    let picture = colours.picture(clear.as_ref(), file.premultiplied_alpha);
    Some(match file.image_rotation().ok()? {
        ImageRotation::D0 => picture,
        ImageRotation::D90 => picture.rotate270(),
        ImageRotation::D180 => picture.rotate180(),
        ImageRotation::D270 => picture.rotate90(),
    })
}

fn byte(value: f32) -> u8 {
    (value.clamp(0.0, 1.0) * 255.0).round() as u8
}

/// The first frame of an AV1 stream of no more pixels than this.
fn frame(stream: Vec<u8>, limit: u32) -> Option<Picture> {
    let mut settings = Settings::new();
    settings.set_n_threads(1);
    settings.set_max_frame_delay(1);
    settings.set_frame_size_limit(limit);
    let mut decoder = Decoder::with_settings(&settings).ok()?;
    let mut sent = decoder.send_data(stream, None, None, None);
    loop {
        if let Ok(frame) = decoder.get_picture() {
            return Some(frame);
        }
        match sent {
            Err(error) if error.is_again() => sent = decoder.send_pending_data(),
            _ => return None,
        }
    }
}

/// The samples of a frame: lightness, and two differences of colour that may be stored for several
/// pixels together.
struct Planes {
    width: u32,
    height: u32,
    luma: Plane,
    chroma: Option<[Plane; 2]>,
    matrix: MatrixCoefficients,
    is_full_range: bool,
}

/// One plane of samples.
struct Plane {
    samples: re_rav1d::dav1d::Plane,
    /// Bytes of a row.
    stride: usize,
    /// By which powers of two it is smaller than the picture.
    smaller: (u32, u32),
    /// Bits of a sample, which takes two bytes when they are more than 8.
    bits: u32,
}

impl Plane {
    /// The sample for a pixel; 0 where the plane ends early.
    fn at(&self, x: u32, y: u32) -> f32 {
        let column = (x >> self.smaller.0) as usize;
        let row = (y >> self.smaller.1) as usize * self.stride;
        let samples: &[u8] = self.samples.as_ref();
        let value = if self.bits > 8 {
            let at = row + 2 * column;
            let pair = samples.get(at..at + 2).and_then(|pair| pair.try_into().ok());
            pair.map_or(0, u16::from_ne_bytes)
        } else {
            samples.get(row + column).copied().unwrap_or_default().into()
        };
        f32::from(value)
    }
}

impl Planes {
    fn of(frame: Picture) -> Option<Self> {
        let bits = u32::try_from(frame.bits_per_component()?.0).ok()?;
        let plane = |component, smaller| Plane {
            samples: frame.plane(component),
            stride: frame.stride(component) as usize,
            smaller,
            bits,
        };
        let smaller = match frame.pixel_layout() {
            PixelLayout::I400 => None,
            PixelLayout::I420 => Some((1, 1)),
            PixelLayout::I422 => Some((1, 0)),
            PixelLayout::I444 => Some((0, 0)),
        };
        let chroma = smaller.map(|smaller| {
            [PlanarImageComponent::U, PlanarImageComponent::V].map(|part| plane(part, smaller))
        });
        Some(Self {
            width: frame.width(),
            height: frame.height(),
            luma: plane(PlanarImageComponent::Y, (0, 0)),
            chroma,
            matrix: frame.matrix_coefficients(),
            is_full_range: frame.color_range() == YUVRange::Full,
        })
    }

    /// All pixels, with what another picture says of how clear they are.
    fn picture(&self, clear: Option<&Self>, is_multiplied: bool) -> DynamicImage {
        let mut picture = RgbaImage::new(self.width, self.height);
        for (x, y, pixel) in picture.enumerate_pixels_mut() {
            let [red, green, blue] = self.rgb(x, y);
            let alpha = clear.map_or(1.0, |planes| planes.luma(x, y));
            let share = if is_multiplied && alpha > 0.0 { alpha } else { 1.0 };
            pixel.0 = [red / share, green / share, blue / share, alpha].map(byte);
        }
        match clear {
            Some(_) => picture.into(),
            None => DynamicImage::from(picture).to_rgb8().into(),
        }
    }

    /// Lightness from 0 to 1.
    fn luma(&self, x: u32, y: u32) -> f32 {
        self.scaled(self.luma.at(x, y))
    }

    /// A sample from 0 to 1 (ITU-T H.273, 8.3).
    fn scaled(&self, sample: f32) -> f32 {
        let unit = (1 << (self.luma.bits - 8)) as f32;
        match self.is_full_range {
            true => sample / (256.0 * unit - 1.0),
            false => (sample - 16.0 * unit) / (219.0 * unit),
        }
    }

    /// A difference of colour from -0.5 to 0.5.
    fn difference(&self, sample: f32) -> f32 {
        let unit = (1 << (self.luma.bits - 8)) as f32;
        let span = if self.is_full_range { 256.0 * unit - 1.0 } else { 224.0 * unit };
        (sample - 128.0 * unit) / span
    }

    /// Red, green and blue from 0 to 1 (ITU-T H.273, 8.3).
    fn rgb(&self, x: u32, y: u32) -> [f32; 3] {
        let luma = self.luma(x, y);
        let Some([first, second]) = &self.chroma else { return [luma; 3] };
        let (first, second) = (first.at(x, y), second.at(x, y));
        let (of_red, of_blue) = match self.matrix {
            MatrixCoefficients::Identity => {
                return [self.scaled(second), luma, self.scaled(first)];
            }
            MatrixCoefficients::YCgCo => {
                let (green, orange) = (self.difference(first), self.difference(second));
                return [luma - green + orange, luma + green, luma - green - orange];
            }
            MatrixCoefficients::BT709 => (0.2126, 0.0722),
            MatrixCoefficients::BT2020NonConstantLuminance
            | MatrixCoefficients::BT2020ConstantLuminance => (0.2627, 0.0593),
            MatrixCoefficients::BT470M => (0.30, 0.11),
            MatrixCoefficients::ST240M => (0.212, 0.087),
            _ => (0.299, 0.114),
        };
        let red = luma + 2.0 * (1.0 - of_red) * self.difference(second);
        let blue = luma + 2.0 * (1.0 - of_blue) * self.difference(first);
        let green = (luma - of_red * red - of_blue * blue) / (1.0 - of_red - of_blue);
        [red, green, blue]
    }
}
