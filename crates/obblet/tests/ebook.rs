//! Electronic books: what is in the package, and what may not be. `conformance/run` has epubcheck
//! look at whole ones.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a panic is a failed test")]

use obblet::ebook::{EbookOptions, write_ebook};
use obblet::findings::Code;
use obblet::{Converter, Format, WriteOptions, Written};
use std::collections::BTreeMap;
use std::io::{Cursor, Read as _};

const SOURCE: &str = "---\ntitle: The mill & the sea\nauthors: [Hesper Sands]\nlanguage: en-GB\n\
    isbn: \"urn:isbn:9780000000002\"\ndate: 2026-04-02\n---\n\n# Foreword\n\nRead [the ebb](#ebb).\n\n\
    # Flood\n\nIt came[^n].\n\n***\n\nIt stayed. ![The weir](https://marrowby.example/weir.png)\n\n\
    ## The gate\n\n$x^2$ and [a file](log.md), [a place](#nowhere), [a page](https://marrowby.example/).\n\n\
    # Ebb\n\nIt went. \"So\" it did.\n\n[^n]: At four, as [before](#flood).\n";

fn book(source: &str) -> Written {
    let options = EbookOptions::default();
    let reading_options =
        WriteOptions { house: options.house.clone(), ..WriteOptions::format(Format::Word) };
    let reading = Converter::with_options(&reading_options)
        .from(Format::Markdown)
        .read(source.as_bytes())
        .unwrap();
    write_ebook(&reading.document, &options).unwrap()
}

fn files(bytes: &[u8]) -> BTreeMap<String, String> {
    let mut archive = zip::ZipArchive::new(Cursor::new(bytes)).unwrap();
    let mut files = BTreeMap::new();
    for index in 0..archive.len() {
        let mut file = archive.by_index(index).unwrap();
        let mut text = String::new();
        file.read_to_string(&mut text).unwrap();
        if index == 0 {
            let is_stored = file.compression() == zip::CompressionMethod::Stored;
            assert_eq!((&*file.name().unwrap(), is_stored), ("mimetype", true));
            assert_eq!(text, "application/epub+zip");
        }
        files.insert(file.name().unwrap().into_owned(), text);
    }
    files
}

#[test]
fn a_book_has_a_page_a_chapter_and_links_between_them() {
    let written = book(SOURCE);
    assert!(written.bytes == book(SOURCE).bytes, "the same again");
    let files = files(&written.bytes);
    let pages: Vec<&str> = files.keys().filter_map(|name| name.strip_suffix(".xhtml")).collect();
    assert_eq!(pages, ["book/ebb", "book/flood", "book/navigation", "book/text", "book/title"]);
    let has = |file: &str, words: &[&str]| {
        for words in words {
            assert!(files[file].contains(words), "{words} is not in {file}:\n{}", files[file]);
        }
    };
    has(
        "book/text.xhtml",
        &["epub:type=\"frontmatter\"", "class=\"foreword front\"", "href=\"ebb.xhtml#ebb\""],
    );
    has(
        "book/flood.xhtml",
        &[
            "<body epub:type=\"bodymatter\" class=\"chapter\"",
            "<h1 id=\"flood\" class=\"chapter\"",
            "<p class=\"first\">It came",
            "class=\"scene\"",
            "<p class=\"first\">It stayed. The weir</p>",
            "<math",
            " and a file, a place, <a href=\"https://marrowby.example/\">a page</a>.",
            "href=\"#flood\"",
        ],
    );
    has("book/ebb.xhtml", &["“So” it did."]);
    has(
        "book/navigation.xhtml",
        &[
            "<li><a href=\"flood.xhtml#flood\">Flood</a>\n<ol>\n<li><a href=\"flood.xhtml#the-gate\">",
            "<li><a href=\"title.xhtml\">The mill &amp; the sea</a></li>",
        ],
    );
    has(
        "book/package.opf",
        &[
            "<dc:title>The mill &amp; the sea</dc:title>",
            "<dc:language>en-GB</dc:language>",
            "<dc:creator>Hesper Sands</dc:creator>",
            "<dc:identifier id=\"book\">urn:isbn:9780000000002</dc:identifier>",
            "<meta property=\"dcterms:modified\">2026-04-02T00:00:00Z</meta>",
            "properties=\"mathml\"",
            "properties=\"nav\"",
        ],
    );
    let codes: Vec<Code> = written.findings.iter().map(|finding| finding.code).collect();
    assert!(codes.contains(&Code::PictureDropped), "{codes:?}");
    assert_eq!(codes.iter().filter(|code| **code == Code::LinkUnwrapped).count(), 2, "{codes:?}");
    // Only relative units: a reader sets the size.
    assert!(!files["book/style.css"].contains("pt;"), "{}", files["book/style.css"]);
}

#[test]
fn a_book_of_nothing_is_a_book() {
    let files = files(&book("").bytes);
    assert!(files.contains_key("book/package.opf") && files.contains_key("book/title.xhtml"));
    assert!(files["book/package.opf"].contains("urn:uuid:"));
}

#[test]
fn names_of_chapters_may_be_anything() {
    let text = "# A\n\na [n](#navigation) [m](#mühle)\n\n# Navigation\n\nb\n\n# Title\n\nc\n\n# Mühle\n\nd\n";
    let files = files(&book(text).bytes);
    let names: Vec<&str> = files.keys().filter_map(|name| name.strip_suffix(".xhtml")).collect();
    assert_eq!(
        names,
        [
            "book/m_fchle",
            "book/navigation--page",
            "book/navigation",
            "book/text",
            "book/title--page",
            "book/title"
        ]
    );
    let page = &files["book/text.xhtml"];
    assert!(page.contains("href=\"navigation--page.xhtml#navigation\""), "{page}");
    assert!(
        page.contains("href=\"m_fchle.xhtml#m%C3%BChle\"")
            || page.contains("href=\"m_fchle.xhtml#mühle\""),
        "{page}"
    );
}
