//! What stands in for AVIF where the feature is off: such pictures stay as they are.

use image::DynamicImage;

pub(super) fn size(_: &[u8]) -> Option<(u32, u32)> {
    None
}

pub(super) fn decoded(_: &[u8]) -> Option<DynamicImage> {
    None
}
