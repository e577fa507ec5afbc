//! What houses make of documents: rules, limits, characters, syntax, style sheets, layouts. Cases are in
//! `fixtures/house.txt`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;
mod generated;

use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use image::ImageFormat;
use obblet::findings::Code;
use obblet::house::BUILT_IN;
use obblet::rules::{Action, Rule};
use obblet::{Converter, Format, House, Resolver, WriteOptions, Written, convert};
use proptest::prelude::*;
use std::io::Cursor;

fn options(house: House) -> WriteOptions {
    WriteOptions {
        house,
        style_sheet_address: Some("page.css".into()),
        ..WriteOptions::format(Format::Html)
    }
}

fn in_house(toml: &str, source: &str, from: Format) -> Written {
    convert(source.as_bytes(), from, &options(House::from_toml(toml).unwrap())).unwrap()
}

#[test]
fn cases_come_out_as_their_house_says() {
    fixture::check("house.txt", |case| {
        let mut house = match House::from_toml(case.part("house")) {
            Ok(house) => house,
            Err(error) => return vec![("error", error.to_string())],
        };
        house.files =
            case.parts_named("file").map(|(name, text)| (name.into(), text.into())).collect();
        let from = if case.has("page") { Format::Html } else { Format::Markdown };
        let source = if case.has("page") { case.part("page") } else { case.part("source") };
        match convert(source.as_bytes(), from, &options(house)) {
            Ok(written) => {
                let lines: Vec<String> =
                    written.findings.iter().map(|found| found.line("s")).collect();
                vec![
                    ("html", written.text().to_string()),
                    ("findings", lines.join("\n")),
                    ("style sheet", written.style_sheet.unwrap_or_default()),
                ]
            }
            Err(error) => vec![("error", error.to_string())],
        }
    });
}

#[test]
fn a_date_that_is_only_shown_is_told() {
    let cases = [
        ("2026-05-12", "en", false),
        ("12 May 2026", "en", false),
        ("12. Mai 2026", "de", false),
        ("12. Mai 2026", "en", true),
        ("Spring 2026", "en", true),
        // A day that does not exist has a finding of its own.
        ("2026-02-31", "en", false),
    ];
    for (date, language, is_told) in cases {
        let source = format!("---\ndate: {date}\nlang: {language}\n---\n\nHigh water.\n");
        for (house, is_page) in [("like = \"page\"", true), ("like = \"body\"", false)] {
            let written = in_house(house, &source, Format::Markdown);
            let told = written.findings.iter().any(|found| found.code == Code::DateUnclear);
            assert_eq!(told, is_told && is_page, "{date} in {language}, {house}");
            let has_time = written.text().contains("<time");
            assert!(!is_told || !has_time, "{}", written.text());
        }
    }
}

/// A body that is parsed and spelled again is the same to the byte, and so is one whose house has a
/// rule that matches nothing.
#[test]
fn what_needs_no_change_keeps_every_byte() {
    const PARSED: &str = "like = \"body\"\n[characters]\nascii_only = true\n";
    const UNMATCHED: &str = "like = \"body\"\n[[rules]]\non = \"no-such\"\ndrop = true\n";
    let mut compared = 0;
    for case in &fixture::cases("markdown.txt") {
        let source = case.part("markdown");
        let plain = in_house("like = \"body\"\n", source, Format::Markdown);
        let unmatched = in_house(UNMATCHED, source, Format::Markdown);
        assert_eq!(unmatched.text(), plain.text(), "{}", case.name);
        if plain.text().is_ascii() {
            let parsed = in_house(PARSED, source, Format::Markdown);
            assert_eq!(parsed.text(), plain.text(), "{}", case.name);
            compared += 1;
        }
    }
    assert!(compared > 20, "{compared}");
}

/// A picture in a format, as big as asked for, inside a page.
fn page_with_picture(width: u32, height: u32, format: ImageFormat, name: &str) -> String {
    let mut picture = image::RgbaImage::new(width, height);
    for (x, y, pixel) in picture.enumerate_pixels_mut() {
        *pixel = image::Rgba([x as u8, y as u8, 90, if x < 8 { 0 } else { 255 }]);
    }
    let mut bytes = Cursor::new(Vec::new());
    match format {
        ImageFormat::Jpeg => {
            image::DynamicImage::from(picture).to_rgb8().write_to(&mut bytes, format)
        }
        format => picture.write_to(&mut bytes, format),
    }
    .unwrap();
    let data = STANDARD.encode(bytes.into_inner());
    format!("<p><img alt=\"wheel\" src=\"data:image/{name};base64,{data}\"></p>")
}

#[test]
fn pictures_get_the_format_and_width_the_house_wants() {
    use ImageFormat::{Jpeg, Png, WebP};
    // Format and width of the source, settings, format and width of what comes out.
    let cases = [
        (Png, "png", 64, "format = \"jpeg\"", Jpeg, 64, 1),
        (Png, "png", 64, "widest = 32", Png, 32, 1),
        (Jpeg, "jpeg", 64, "widest = 32\nformat = \"png\"", Png, 32, 1),
        (WebP, "webp", 64, "format = \"png\"", Png, 64, 1),
        (Png, "png", 64, "format = \"png\"\nwidest = 64", Png, 64, 0),
    ];
    for (format, name, width, settings, wanted, wanted_width, findings) in cases {
        let page = page_with_picture(width, 48, format, name);
        let house = House::from_toml(&format!("like = \"body\"\n[pictures]\n{settings}\n"));
        let options =
            WriteOptions { picture_folder: Some("pictures".into()), ..options(house.unwrap()) };
        let written = convert(page.as_bytes(), Format::Html, &options).unwrap();
        let [media] = written.media.as_slice() else { panic!("{settings}: {written:?}") };
        let ending = media.name.rsplit_once('.').unwrap().1;
        assert!(written.text().contains(&format!("pictures/{}", media.name)), "{settings}");
        assert!(wanted.extensions_str().contains(&ending), "{settings}: {}", media.name);
        let picture = image::load_from_memory_with_format(&media.bytes, wanted).unwrap();
        assert_eq!((picture.width(), picture.height()), (wanted_width, 48 * wanted_width / width));
        assert_eq!(written.findings.iter().count(), findings, "{settings}");
        if wanted == Jpeg {
            // What was clear is white now.
            assert!(picture.to_rgb8().get_pixel(2, 2).0.iter().all(|colour| *colour > 240));
        }
    }
    let broken =
        "<p><img alt=\"w\" src=\"data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAEAAAAAw\"></p>";
    let house = "like = \"body\"\n[pictures]\nformat = \"jpeg\"\n";
    let written = in_house(house, broken, Format::Html);
    assert!(written.text().contains("image/png"));
    assert_eq!(written.findings.iter().count(), 1);
}

/// Every element away: the words are all there, none glued to another.
#[test]
fn words_stay_apart_when_all_elements_go() {
    let rule = "like = \"body\"\n[[rules]]\non = \"*\"\nunwrap = true\n";
    let thread = std::thread::Builder::new().stack_size(256 << 20).spawn(move || {
        let run = generated::runner(120).run(&generated::document(), |document| {
            let plain = obblet::write(&document, &options(House::built_in("body").unwrap()));
            let bare = obblet::write(&document, &options(House::from_toml(rule).unwrap()));
            let (plain, bare) = (plain.unwrap(), bare.unwrap());
            let tags = regex::Regex::new("</?[a-z](?:[^>\"]|\"[^\"]*\")*>").unwrap();
            prop_assert!(!bare.text().replace("<br>", "").contains('<'), "{}", bare.text());
            let letters =
                |html: &str| tags.replace_all(html, "").split_whitespace().collect::<String>();
            prop_assert_eq!(letters(plain.text()), letters(bare.text()));
            Ok(())
        });
        run.unwrap();
    });
    thread.unwrap().join().unwrap();
}

#[test]
fn a_house_file_to_start_from_is_the_house_it_is_like() {
    for (name, _, _) in BUILT_IN {
        let start = House::start_like(name).unwrap();
        assert_eq!(House::from_toml(&start).unwrap(), House::built_in(name).unwrap(), "{name}");
        // Every line that only a mark keeps from holding holds.
        let open: String = start
            .lines()
            .map(|line| match line.strip_prefix('#') {
                Some(setting) if !setting.starts_with(' ') => format!("{setting}\n"),
                _ => format!("{line}\n"),
            })
            .collect();
        let house = House::from_toml(&open).unwrap_or_else(|error| panic!("{name}: {error}"));
        assert_eq!(house.page, House::built_in(name).unwrap().page, "{name}");
    }
}

/// Selectors that look at all siblings of every element end in a finding, not in an hour.
#[test]
fn costly_selectors_end() {
    let cases = [
        (".none ~ li", 7_000, false),
        ("li:last-child", 7_000, true),
        ("li:nth-child(2n)", 2_000, true),
    ];
    for (selector, items, is_found) in cases {
        let page = format!("<ul>{}</ul>", "<li>x</li>".repeat(items));
        let house = format!("like = \"body\"\n[[rules]]\non = \"{selector}\"\ndrop = true\n");
        let written = in_house(&house, &page, Format::Html);
        let codes: Vec<_> = written.findings.iter().map(|found| found.code.name()).collect();
        assert_eq!(codes.contains(&"rule-applied"), is_found, "{selector} {codes:?}");
        assert_eq!(codes.contains(&"rule-too-costly"), !is_found, "{selector} {codes:?}");
    }
}

/// Rules that a program makes are checked too, though no file was read.
#[test]
fn a_wrong_rule_of_a_program_is_told() {
    let mut house = House::built_in("body").unwrap();
    let rule =
        |name: &str| Rule { on: "p".into(), actions: vec![Action::Rename(name.into())], why: None };
    house.rules = vec![rule("blink"), rule("div")];
    assert!(house.rules[0].check().is_err());
    let written = convert(b"High water\n", Format::Markdown, &options(house)).unwrap();
    assert_eq!(written.text(), "<div>High water</div>\n");
    let codes: Vec<_> = written.findings.iter().map(|found| found.code.name()).collect();
    assert_eq!(codes, ["rule-applied", "rule-wrong"]);
}

/// Pictures that a document only names are taken in where the house has to have them.
#[test]
fn pictures_beside_the_source_are_taken_in() {
    struct Folder(Vec<u8>);
    impl Resolver for Folder {
        fn resolve(&self, address: &str) -> Option<Vec<u8>> {
            match address {
                "a b/wheel.png" => Some(self.0.clone()),
                "mill.svg" => Some(b"<svg/>".to_vec()),
                _ => None,
            }
        }
    }
    let mut png = Cursor::new(Vec::new());
    image::RgbImage::new(40, 20).write_to(&mut png, ImageFormat::Png).unwrap();
    let folder = Folder(png.into_inner());
    let source = "![w](a%20b/wheel.png) ![w](a%20b/wheel.png#x) ![m](mill.svg) ![g](gone.png) \
                  ![far](https://mill.example/w.png)\n";
    let written = |toml: &str| {
        let house = House::from_toml(&format!("like = \"body\"\n[pictures]\n{toml}\n")).unwrap();
        let options = WriteOptions { picture_folder: Some("p".into()), ..options(house) };
        Converter::with_options(&options)
            .from(Format::Markdown)
            .resolver(&folder)
            .convert(source.as_bytes())
            .unwrap()
    };
    let embedded = written("placement = \"embedded\"");
    assert_eq!(embedded.text().matches("data:image/png;base64,").count(), 2);
    assert!(embedded.text().contains("src=\"mill.svg\"") && embedded.media.is_empty());
    let codes: Vec<_> = embedded.findings.iter().map(|found| found.code.name()).collect();
    assert_eq!(codes, ["picture-not-taken-in", "picture-not-taken-in"]);

    let scaled = written("widest = 10\nformat = \"jpeg\"");
    assert_eq!(scaled.text().matches("src=\"p/wheel.jpg\"").count(), 2, "{}", scaled.text());
    let picture = image::load_from_memory(&scaled.media[0].bytes).unwrap();
    assert_eq!((picture.width(), picture.height()), (10, 5));

    let beside = written("placement = \"beside\"");
    assert!(beside.text().contains("src=\"a%20b/wheel.png\"") && beside.findings.is_empty());
}
