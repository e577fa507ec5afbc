//! Electronic books: EPUB 3 (W3C EPUB 3.3, whose files readers of 3.2 take too).
//!
//! One document, mostly one that [`bind`](crate::assembly::bind) has made of many, becomes a package
//! of XHTML pages: a title page, a page a chapter, a navigation document, the pictures and one style
//! sheet. The same document and house give the same bytes.
//!
//! What a package may not hold is told: pictures that are not inside the document, and links to files
//! beside it.

mod navigation;
mod package;

use crate::assembly::{SplitPage, split};
use crate::convert::write;
use crate::document::{
    BlockKind, CompactString, Document, Formatting, Inline, Picture, PictureSource, Place,
    plain_text, walk_inlines_mut,
};
use crate::draft::Draft;
use crate::findings::{Account, Code, Findings};
use crate::format::Format;
use crate::formats::WriteError;
use crate::house::{Extent, House, PictureFormat, PicturePlacement, StylePlacement};
use crate::options::{WriteOptions, Written};
use crate::prepare::Matter;
use navigation::{Entry, navigation, title_page};
use package::{Item, Package};
use std::collections::HashSet;

/// The folder of pictures inside the package.
const PICTURES: &str = "pictures";

/// What [`write_ebook`] can be told.
#[derive(Debug, Clone)]
pub struct EbookOptions {
    /// The settings of the pages: most often the house `ebook`.
    pub house: House,
    /// Each heading of this level or higher begins a page. Default: 1.
    pub level: u8,
}

impl Default for EbookOptions {
    fn default() -> Self {
        Self { house: House::built_in("ebook").unwrap_or_default(), level: 1 }
    }
}

/// Writes a document as an electronic book.
///
/// ```
/// use obblet::document::{Document, build::*};
/// use obblet::ebook::{EbookOptions, write_ebook};
/// let blocks = vec![heading(1, "Flood"), paragraph("It came."), heading(1, "Ebb"), paragraph("It went.")];
/// let written = write_ebook(&Document::of(blocks), &EbookOptions::default())?;
/// assert!(written.bytes.starts_with(b"PK"));
/// # Ok::<(), obblet::WriteError>(())
/// ```
///
/// # Errors
/// [`WriteError`] as for [`write`](crate::convert::write()).
pub fn write_ebook(document: &Document, options: &EbookOptions) -> Result<Written, WriteError> {
    let mut findings = Findings::new();
    let house = house_for_pages(&options.house);
    let file = page_file;
    let mut pages = split(document.clone(), options.level, false, &file);
    for page in &mut pages {
        settle_pictures(&mut page.document, &mut findings);
        // The navigation document lists what there is.
        page.document.blocks.retain(|block| !matches!(block.kind, BlockKind::Contents(_)));
    }
    settle_links(&mut pages, &file, &house, &mut findings)?;
    let mut package = Package::of(document, &house);
    package.add(Item::page("title.xhtml", title_page(document, &house)));
    let mut entries = Vec::new();
    let mut account = Account::default();
    let mut sheet = String::new();
    let mut has_pictures: HashSet<CompactString> = HashSet::new();
    for page in &pages {
        let written = write(&page.document, &page_options(&house))?;
        sheet = written.style_sheet.clone().unwrap_or(sheet);
        let name = file(&page.name);
        entries.extend(Entry::all_of(&page.document, &name));
        let matter = Matter::of(&first_heading(&page.document));
        let text = in_division(written.text(), matter);
        package.add(Item::page(&name, text));
        for media in &written.media {
            if has_pictures.insert(media.name.as_str().into()) {
                let name = format!("{PICTURES}/{}", media.name);
                package.add(Item::picture(&name, &media.media_type, media.bytes.to_vec()));
            }
        }
        findings.extend(written.findings);
        account.add(written.account);
    }
    package.add(Item::navigation(navigation(document, &house, &entries)));
    package.add(Item::style_sheet(sheet));
    let bytes = package.packed().map_err(|error| WriteError::Layout(error.to_string()))?;
    Ok(Written::of(document, bytes, findings, account))
}

/// The file of a page by its name. Names of files in a package are ASCII (EPUB 3, 4.2.2), and some are
/// taken; two hyphens stand in no name of a page.
fn page_file(name: &str) -> String {
    match name {
        "" => return "text.xhtml".into(),
        "text" | "title" | "navigation" => return format!("{name}--page.xhtml"),
        _ => {}
    }
    let mut file = String::new();
    for c in name.chars() {
        match c.is_ascii() {
            true => file.push(c),
            false => file.push_str(&format!("_{:x}", c as u32)),
        }
    }
    file + ".xhtml"
}

/// The house, held to what a package can have.
fn house_for_pages(house: &House) -> House {
    let mut house = house.clone();
    house.page.extent = Extent::Page;
    house.page.syntax = crate::formats::html::Syntax::Xhtml;
    house.page.contents = 0;
    house.page.style_placement = StylePlacement::Linked;
    // All pages share one sheet.
    house.page.used_styles_only = false;
    house.page.show_title = false;
    house.pictures.placement = PicturePlacement::Beside;
    house
}

fn page_options(house: &House) -> WriteOptions {
    WriteOptions {
        house: house.clone(),
        picture_folder: Some(PICTURES.into()),
        style_sheet_address: Some("style.css".into()),
        ..WriteOptions::format(Format::Html)
    }
}

/// The page with what it is in the book.
fn in_division(html: &str, matter: Matter) -> String {
    let opening = format!("<body epub:type=\"{}\" class=\"{}\"", matter.division(), matter.kind());
    html.replacen("<body", &opening, 1).replacen(
        "<html ",
        "<html xmlns:epub=\"http://www.idpf.org/2007/ops\" ",
        1,
    )
}

/// Pictures that every reader shows (EPUB 3, 3.2, core media types), as they are in the document.
fn is_core(media_type: &str) -> bool {
    matches!(media_type, "image/png" | "image/jpeg" | "image/gif" | "image/svg+xml")
}

/// Pictures that are not in the document become their words; those of kinds that not every reader
/// shows are converted.
fn settle_pictures(document: &mut Document, findings: &mut Findings) {
    let is_inside = |source: &PictureSource| matches!(source, PictureSource::Media(_));
    let mut outside = Vec::new();
    let mut settle = |place: Place, inlines: &mut Vec<Inline>| {
        for inline in inlines.iter_mut() {
            if let Inline::Picture(picture) = inline
                && !is_inside(&picture.source)
            {
                outside.push((shown_source(picture), place));
                *inline = plain(std::mem::take(&mut picture.alternative));
            }
        }
    };
    walk_inlines_mut(&mut document.blocks, &mut settle);
    document.notes.iter_mut().for_each(|note| walk_inlines_mut(&mut note.content, &mut settle));
    for (subject, place) in outside {
        findings.add_about(Code::PictureDropped, &subject, Some(place));
    }
    if document.media.iter().any(|media| !is_core(&media.media_type)) {
        let mut settings = House::default().pictures;
        settings.format = PictureFormat::Png;
        if let std::borrow::Cow::Owned(converted) =
            crate::destination::with_pictures_converted(document, &settings, findings)
        {
            *document = converted;
        }
    }
}

fn shown_source(picture: &Picture) -> String {
    match &picture.source {
        PictureSource::Address(address) => address.to_string(),
        PictureSource::Media(media) => format!("picture {}", media.index() + 1),
    }
}

/// Words that stand for what the package cannot have.
fn plain(content: Vec<Inline>) -> Inline {
    crate::document::build::formatted(Formatting::Plain, content)
}

/// Links that lead to no page of the book, and to no place of one, become their words.
fn settle_links(
    pages: &mut [SplitPage],
    file: &dyn Fn(&str) -> String,
    house: &House,
    findings: &mut Findings,
) -> Result<(), WriteError> {
    let mut places: HashSet<String> = HashSet::new();
    for page in pages.iter() {
        let name = file(&page.name);
        let draft = Draft::of(&page.document, &page_options(house))?;
        places.extend(draft.ids().iter().map(|id| format!("{name}#{id}")));
        places.insert(name);
    }
    for page in pages {
        let name = file(&page.name);
        let leads = |address: &str| match address.strip_prefix('#') {
            Some("") => true,
            Some(place) => places.contains(&format!("{name}#{}", decoded(place))),
            None => {
                crate::address::NearAddress::of(address).is_none() && !address.starts_with('/')
                    || places.contains(&decoded(address))
            }
        };
        let mut broken = Vec::new();
        let mut settle = |place: Place, inlines: &mut Vec<Inline>| {
            for inline in inlines.iter_mut() {
                if let Inline::Link(link) = inline
                    && !leads(&link.address)
                {
                    broken.push((link.address.to_string(), place));
                    *inline = plain(std::mem::take(&mut link.content));
                }
            }
        };
        walk_inlines_mut(&mut page.document.blocks, &mut settle);
        let notes = page.document.notes.iter_mut();
        notes.for_each(|note| walk_inlines_mut(&mut note.content, &mut settle));
        for (address, place) in broken {
            findings.add_about(Code::LinkUnwrapped, &address, Some(place));
        }
    }
    Ok(())
}

/// The words of the heading that a page begins with.
fn first_heading(document: &Document) -> String {
    let headings = document.blocks.iter().filter_map(|block| match &block.kind {
        BlockKind::Heading(heading) => Some(plain_text(&heading.content)),
        _ => None,
    });
    headings.into_iter().next().unwrap_or_default()
}

fn decoded(address: &str) -> String {
    percent_encoding::percent_decode_str(address).decode_utf8_lossy().into_owned()
}

/// The title of the whole.
fn title_of(document: &Document) -> String {
    let stated = plain_text(&document.metadata.title);
    match stated.trim().is_empty() {
        true => document.title_or_first_heading().unwrap_or_else(|| crate::locale::UNTITLED.into()),
        false => stated,
    }
}
