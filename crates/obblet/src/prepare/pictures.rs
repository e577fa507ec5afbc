//! Pictures that a document only names by addresses are taken into it, where its house has to have them.

use crate::address::scheme;
use crate::document::{Document, Inline, PictureSource, walk_inlines_mut};
use crate::findings::{Code, Findings};
use crate::house::{House, PictureFormat, PicturePlacement, PictureSettings};
use crate::picture_file::{PictureKind, carried};
use crate::resolver::Resolver;
use std::collections::HashMap;

/// Whether pictures have to be fetched for a house.
pub(crate) fn needs_pictures(settings: &PictureSettings) -> bool {
    let converts = settings.format != PictureFormat::Kept || settings.widest > 0;
    match settings.placement {
        PicturePlacement::Embedded => true,
        PicturePlacement::Beside => converts,
        PicturePlacement::Dropped => false,
    }
}

/// Takes the pictures into a document that it only names by addresses beside it, where the house has
/// to have them: to embed, convert or scale them. PNG, JPEG, GIF, BMP and WebP are taken in; anything
/// else stays where it is, with a finding.
pub fn take_in_pictures(
    document: &mut Document,
    house: &House,
    resolver: &dyn Resolver,
    findings: &mut Findings,
) {
    if needs_pictures(&house.pictures) {
        take_in(document, |_| true, PictureKind::is_in_pixels, resolver, findings);
    }
}

/// Takes the pictures in whose addresses are wanted and that are of these kinds.
pub(crate) fn take_in(
    document: &mut Document,
    is_wanted: impl Fn(&str) -> bool,
    is_kind: impl Fn(PictureKind) -> bool,
    resolver: &dyn Resolver,
    findings: &mut Findings,
) {
    let mut known: HashMap<String, PictureSource> = HashMap::new();
    let Document { blocks, notes, media, .. } = document;
    let notes = notes.iter_mut().map(|note| &mut note.content);
    for blocks in std::iter::once(blocks).chain(notes) {
        walk_inlines_mut(blocks, |place, inlines| {
            for inline in inlines {
                let Inline::Picture(picture) = inline else { continue };
                let PictureSource::Address(address) = &picture.source else { continue };
                if let Some(source) = known.get(address.as_str()) {
                    picture.source = source.clone();
                    continue;
                }
                let Some(path) = local_path(address).filter(|path| is_wanted(path)) else {
                    continue;
                };
                let bytes = resolver.resolve(&path).unwrap_or_default();
                let name = path.rsplit('/').next().unwrap_or_default();
                let kind = PictureKind::of(&bytes).filter(|kind| is_kind(*kind));
                let file = kind.and_then(|_| carried(name, bytes.into()));
                let Some(file) = file else {
                    findings.count(Code::PictureNotTakenIn, address, Some(place));
                    continue;
                };
                if file.is_cleaned {
                    findings.count(Code::PictureCleaned, address, Some(place));
                }
                let media_type = file.kind.media_type();
                let source = PictureSource::Media(media.add(&file.name, media_type, file.bytes));
                known.insert(address.to_string(), source.clone());
                picture.source = source;
            }
        });
    }
}

/// The path of an address that stays beside the document.
fn local_path(address: &str) -> Option<String> {
    let is_local = scheme(address).is_none() && !address.starts_with(['/', '#', '?', '\\']);
    let path = address.split(['?', '#']).next().filter(|path| is_local && !path.is_empty())?;
    let decoded = percent_encoding::percent_decode_str(path).decode_utf8().ok()?;
    Some(decoded.into_owned())
}
