//! What becomes of a document before a writer gets it: its media, addresses, looks and classes as the
//! target takes them.

mod book_classes;
mod pictures;

pub(crate) use book_classes::Matter;
pub use pictures::take_in_pictures;
pub(crate) use pictures::{needs_pictures, take_in};

use crate::address::{seen_from_elsewhere, with_addresses_turned};
use crate::document::Document;
use crate::findings::Findings;
use crate::format::Format;
use crate::options::WriteOptions;
use crate::{attachments, destination};
use book_classes::with_book_classes;
use std::borrow::Cow;

/// The document with its media as the target takes them.
pub(crate) fn prepared<'d>(
    document: &'d Document,
    options: &WriteOptions,
    folder: Option<&str>,
    findings: &mut Findings,
) -> Cow<'d, Document> {
    // What a Word file carries inside itself needs no place beside it.
    let mut document = match options.format {
        Format::Word => Cow::Borrowed(document),
        _ => attachments::settled(document, folder, findings),
    };
    let pictures = &options.house.pictures;
    document = then(document, |document| {
        destination::with_pictures_converted(document, pictures, findings)
    });
    if let Some(folder) = &options.source_folder {
        document = then(document, |document| {
            Cow::Owned(with_addresses_turned(document, |it| seen_from_elsewhere(it, folder)))
        });
    }
    // The HTML writer does the same where it leaves looks out.
    if !options.format.carries_looks() {
        document = then(document, destination::with_looks_as_formats);
    }
    if options.format == Format::Html && options.house.page.book_classes {
        document = Cow::Owned(with_book_classes(&document));
    }
    if options.format == Format::Latex {
        document =
            then(document, |document| destination::with_pictures_for_tex(document, findings));
    }
    document
}

/// One more step, which may leave a document as it is.
fn then<'d>(
    document: Cow<'d, Document>,
    step: impl for<'s> FnOnce(&'s Document) -> Cow<'s, Document>,
) -> Cow<'d, Document> {
    match document {
        Cow::Borrowed(document) => step(document),
        Cow::Owned(document) => {
            let changed = match step(&document) {
                Cow::Owned(changed) => Some(changed),
                Cow::Borrowed(_) => None,
            };
            Cow::Owned(changed.unwrap_or(document))
        }
    }
}
