//! Pictures in AVIF become PNG where the target knows no AVIF. The files of `fixtures/pictures` show four
//! quarters: red, green, blue, grey.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use image::RgbaImage;
use obblet::{Format, House, WriteOptions, Written, convert};
use std::io::{Cursor, Read as _};
use std::path::Path;

fn file(name: &str) -> Vec<u8> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/fixtures/pictures");
    std::fs::read(folder.join(name)).unwrap()
}

/// A page with the picture inside, written in a house.
fn written(avif: &[u8], format: Format, settings: &str) -> Written {
    let data = STANDARD.encode(avif);
    let page = format!("<p><img alt=\"wheel\" src=\"data:image/avif;base64,{data}\"></p>");
    let house = House::from_toml(&format!("like = \"body\"\n{settings}")).unwrap();
    let picture_folder = Some("pictures".into());
    let options = WriteOptions { house, picture_folder, ..WriteOptions::format(format) };
    convert(page.as_bytes(), Format::Html, &options).unwrap()
}

const AS_PNG: &str = "[pictures]\nformat = \"png\"\n";

/// The picture of the only file beside the page.
fn as_png(name: &str) -> RgbaImage {
    let written = written(&file(name), Format::Html, AS_PNG);
    let [media] = written.media.as_slice() else { panic!("{name}: {:?}", written.findings) };
    assert_eq!((media.name.as_str(), media.media_type.as_str()), ("picture.png", "image/png"));
    image::load_from_memory(&media.bytes).unwrap().to_rgba8()
}

#[test]
fn all_forms_of_samples_are_the_colours_they_stand_for() {
    let colours = [[200, 30, 30], [30, 160, 60], [20, 60, 190], [128, 128, 128]];
    let greys = [81, 110, 63, 128].map(|grey| [grey; 3]);
    let solid = [255; 4];
    let clear = [0, 0, 255, 128];
    let cases = [
        ("quarters-420.avif", colours, solid),
        ("quarters-422.avif", colours, solid),
        ("quarters-444-limited.avif", colours, solid),
        ("quarters-exact.avif", colours, solid),
        ("quarters-10-bit.avif", colours, solid),
        ("quarters-grey.avif", greys, solid),
        ("quarters-clear.avif", colours, clear),
        ("quarters-premultiplied.avif", colours, clear),
    ];
    for (name, colours, alphas) in cases {
        let picture = as_png(name);
        assert_eq!((picture.width(), picture.height()), (33, 21), "{name}");
        let middles = [(8, 5), (25, 5), (8, 16), (25, 16)];
        for ((at, wanted), alpha) in middles.into_iter().zip(colours).zip(alphas) {
            let [found @ .., found_alpha] = picture.get_pixel(at.0, at.1).0;
            let is_near = |one: u8, two: u8| one.abs_diff(two) <= 5;
            assert!(is_near(found_alpha, alpha), "{name} at {at:?}: alpha {found_alpha}");
            // What cannot be seen has no colour.
            let is_alike =
                alpha == 0 || found.into_iter().zip(wanted).all(|(one, two)| is_near(one, two));
            assert!(is_alike, "{name} at {at:?}: {found:?}, not {wanted:?}");
        }
    }
}

#[test]
fn one_that_is_to_be_turned_is_turned() {
    let picture = as_png("quarters-turned.avif");
    assert_eq!((picture.width(), picture.height()), (21, 33));
    // Blue stood below on the left, red above it.
    let [_, _, blue, _] = picture.get_pixel(5, 8).0;
    let [red, ..] = picture.get_pixel(16, 8).0;
    assert!(blue > 170 && red > 170, "{blue} {red}");
}

#[test]
fn one_that_is_kept_is_left_alone_unless_it_is_too_wide() {
    let bytes = file("quarters-420.avif");
    let kept = written(&bytes, Format::Html, "[pictures]\nwidest = 40\n");
    assert_eq!(kept.media.iter().map(|media| media.bytes.to_vec()).collect::<Vec<_>>(), [bytes]);
    assert_eq!(kept.findings.iter().count(), 0);
    let bytes = file("quarters-420.avif");
    let narrow = written(&bytes, Format::Html, "[pictures]\nwidest = 11\n");
    let picture = image::load_from_memory(&narrow.media[0].bytes).unwrap();
    assert_eq!((picture.width(), picture.height()), (11, 7));
}

#[test]
fn word_and_latex_files_hold_it_as_png() {
    let bytes = file("quarters-420.avif");
    let word = written(&bytes, Format::Word, "");
    let mut package = zip::ZipArchive::new(Cursor::new(word.bytes)).unwrap();
    let mut png = Vec::new();
    package.by_name("word/media/picture.png").unwrap().read_to_end(&mut png).unwrap();
    assert_eq!(image::load_from_memory(&png).unwrap().width(), 33);
    let latex = written(&bytes, Format::Latex, "");
    assert!(latex.text().contains("{pictures/picture.png}"), "{}", latex.text());
}

#[test]
fn broken_files_are_findings() {
    for name in ["quarters-420.avif", "quarters-clear.avif", "quarters-10-bit.avif"] {
        let whole = file(name);
        let cut = (12..whole.len()).step_by(5).map(|end| whole[..end].to_vec());
        let changed = (12..whole.len()).step_by(5).map(|at| {
            let mut bytes = whole.clone();
            bytes[at] ^= 0xff;
            bytes
        });
        for bytes in cut.chain(changed) {
            let written = written(&bytes, Format::Html, AS_PNG);
            assert_eq!(written.media.len(), 1);
            assert!(written.findings.iter().count() > 0);
        }
    }
}
