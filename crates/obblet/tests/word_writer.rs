//! The Word writer: what stands in the parts, case by case, and that all parts hold together.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod examples;
mod fixture;

use obblet::{Format, House, WriteOptions, convert, read, write};
use quick_xml::Reader;
use quick_xml::events::{BytesStart, Event};
use std::collections::{BTreeMap, HashMap, HashSet};
use std::io::{Cursor, Read as _};

/// The parts of a package by their names.
fn parts_of(file: &[u8]) -> BTreeMap<String, Vec<u8>> {
    let mut archive = zip::ZipArchive::new(Cursor::new(file)).unwrap();
    let mut parts = BTreeMap::new();
    for at in 0..archive.len() {
        let mut part = archive.by_index(at).unwrap();
        let mut bytes = Vec::new();
        part.read_to_end(&mut bytes).unwrap();
        let name = part.name().unwrap().into_owned();
        parts.insert(name, bytes);
    }
    parts
}

fn options(settings: &str) -> WriteOptions {
    let mut house = House::built_in("page").unwrap();
    for line in settings.lines() {
        let (key, value) = line.split_once('=').unwrap();
        house.set(key.trim(), value.trim()).unwrap();
    }
    WriteOptions { house, ..WriteOptions::format(Format::Word) }
}

/// One line a paragraph, row and cell, so that people can read it.
fn in_lines(xml: &str) -> String {
    let mut lines = xml.to_string();
    for end in
        ["</w:p>", "<w:p/>", "</w:tblGrid>", "<w:sdtContent>", "</w:sdt>", "</w:tc>", "</w:num>"]
    {
        lines = lines.replace(end, &format!("{end}\n"));
    }
    lines
}

/// What a case is about of a part.
fn shown(part: &str, text: &str) -> String {
    let between = |start: &str, end: &str| {
        let from = text.find(start).map_or(0, |at| at + start.len());
        let to = text.rfind(end).unwrap_or(text.len());
        text[from..to.max(from)].to_string()
    };
    let inside = match part {
        "document" => between("<w:body>", "<w:sectPr><w:pgSz"),
        "numbering" => format!("<w:num {}", between("<w:num ", "</w:numbering>")),
        "footnotes" => format!(
            "<w:footnote w:id=\"2\">{}",
            between("<w:footnote w:id=\"2\">", "</w:footnotes>")
        ),
        "comments" => between("mc:Ignorable=\"w14\">", "</w:comments>"),
        "relations" => between("package/2006/relationships\">", "</Relationships>"),
        _ => text.split_once("?>\n").map_or(text, |(_, rest)| rest).to_string(),
    };
    in_lines(&inside)
}

const PARTS: [(&str, &str); 8] = [
    ("document", "word/document.xml"),
    ("numbering", "word/numbering.xml"),
    ("footnotes", "word/footnotes.xml"),
    ("comments", "word/comments.xml"),
    ("threads", "word/commentsExtended.xml"),
    ("relations", "word/_rels/document.xml.rels"),
    ("core", "docProps/core.xml"),
    ("custom", "docProps/custom.xml"),
];

#[test]
fn cases_are_written_as_they_say() {
    fixture::check("word_writer.txt", |case| {
        let options = options(case.part("set"));
        let (source, format) = match case.has("html") {
            true => (case.part("html"), Format::Html),
            false => (case.part("source"), Format::Markdown),
        };
        let written = convert(source.as_bytes(), format, &options).unwrap();
        let parts = parts_of(&written.bytes);
        let lines: Vec<String> = written.findings.iter().map(|f| f.line("w")).collect();
        let mut found = vec![("findings", lines.join("\n"))];
        for (part, name) in PARTS.into_iter().filter(|(part, _)| case.has(part)) {
            let text = parts.get(name).map(|bytes| String::from_utf8_lossy(bytes).into_owned());
            found.push((part, shown(part, &text.unwrap_or_default())));
        }
        found
    });
}

/// What a part says that other parts have to know.
#[derive(Default)]
struct Said {
    relations: Vec<String>,
    styles: Vec<String>,
    lists: Vec<String>,
    bookmarks: Vec<(String, String)>,
    anchors: Vec<String>,
    notes: Vec<(String, String)>,
    /// Widths of the grid's columns, and of each row's cells, by table.
    tables: Vec<(Vec<u32>, Vec<u32>)>,
}

fn value(start: &BytesStart<'_>, name: &str) -> Option<String> {
    let found = start.attributes().flatten().find(|a| a.key.into_inner() == name)?;
    Some(quick_xml::escape::unescape(&found.value).unwrap().into_owned())
}

/// Reads a part, which must be whole, and notes what it refers to.
fn said(text: &str) -> Said {
    let mut said = Said::default();
    let mut reader = Reader::from_str(text);
    let mut open_tables: Vec<(Vec<u32>, Vec<u32>)> = Vec::new();
    loop {
        let event = reader.read_event().expect("well-formed XML");
        match &event {
            Event::Eof => return said,
            Event::End(end) if end.name().into_inner() == "w:tbl" => {
                said.tables.push(open_tables.pop().unwrap());
            }
            Event::Start(start) | Event::Empty(start) => {
                note_element(start, &mut said, &mut open_tables);
            }
            _ => {}
        }
    }
}

fn note_element(start: &BytesStart<'_>, said: &mut Said, tables: &mut Vec<(Vec<u32>, Vec<u32>)>) {
    let val = || value(start, "w:val").unwrap();
    for name in ["r:id", "r:embed", "r:link"] {
        said.relations.extend(value(start, name));
    }
    match start.name().into_inner() {
        "w:pStyle" | "w:rStyle" | "w:tblStyle" | "w:basedOn" | "w:next" => said.styles.push(val()),
        "w:numId" => said.lists.push(val()),
        "w:bookmarkStart" => {
            said.bookmarks.push((value(start, "w:id").unwrap(), value(start, "w:name").unwrap()));
        }
        "w:hyperlink" => said.anchors.extend(value(start, "w:anchor")),
        name @ ("w:footnoteReference" | "w:endnoteReference" | "w:commentReference") => {
            said.notes.push((name.to_string(), value(start, "w:id").unwrap()));
        }
        "w:tbl" => tables.push(Default::default()),
        "w:gridCol" => {
            tables.last_mut().unwrap().0.push(value(start, "w:w").unwrap().parse().unwrap());
        }
        "w:tr" => tables.last_mut().unwrap().1.push(0),
        "w:tcW" => {
            let width: u32 = value(start, "w:w").unwrap().parse().unwrap();
            *tables.last_mut().unwrap().1.last_mut().unwrap() += width;
        }
        _ => {}
    }
}

/// All that does not hold together in a file.
fn loose_ends(file: &[u8]) -> Vec<String> {
    let parts = parts_of(file);
    let text =
        |name: &str| String::from_utf8(parts.get(name).cloned().unwrap_or_default()).unwrap();
    let mut faults = Vec::new();
    let types = text("[Content_Types].xml");
    let styles = text("word/styles.xml");
    let numbering = text("word/numbering.xml");
    for name in parts.keys().filter(|name| *name != "[Content_Types].xml") {
        let extension = name.rsplit('.').next().unwrap();
        let has_type = types.contains(&format!("PartName=\"/{name}\""))
            || extension != "xml" && types.contains(&format!("Extension=\"{extension}\""));
        if !has_type {
            faults.push(format!("{name} has no type"));
        }
    }
    for name in parts.keys().filter(|name| name.ends_with(".xml") && name.starts_with("word/")) {
        let said = said(&text(name));
        let (folder, file) = name.rsplit_once('/').unwrap();
        let relations = text(&format!("{folder}/_rels/{file}.rels"));
        for id in &said.relations {
            if !relations.contains(&format!("Id=\"{id}\"")) {
                faults.push(format!("{name}: no relation {id}"));
            }
        }
        for target in relations.split("<Relationship ").skip(1).filter(|r| !r.contains("External"))
        {
            let target = target.split("Target=\"").nth(1).unwrap().split('"').next().unwrap();
            if !parts.contains_key(&format!("{folder}/{target}")) {
                faults.push(format!("{name}: no part {target}"));
            }
        }
        for style in &said.styles {
            if !styles.contains(&format!("w:styleId=\"{style}\"")) {
                faults.push(format!("{name}: no style {style}"));
            }
        }
        for list in &said.lists {
            if !numbering.contains(&format!("<w:num w:numId=\"{list}\"")) {
                faults.push(format!("{name}: no list {list}"));
            }
        }
        for (kind, id) in &said.notes {
            let element = kind.trim_end_matches("Reference");
            let part = text(&format!("word/{}s.xml", element.trim_start_matches("w:")));
            if !part.contains(&format!("<{element} w:id=\"{id}\"")) {
                faults.push(format!("{name}: no {element} {id}"));
            }
        }
        let ids: HashSet<&String> = said.bookmarks.iter().map(|(id, _)| id).collect();
        let names: HashSet<&String> = said.bookmarks.iter().map(|(_, name)| name).collect();
        if ids.len() < said.bookmarks.len() || names.len() < said.bookmarks.len() {
            faults.push(format!("{name}: two bookmarks are one"));
        }
        if names.iter().any(|name| name.chars().count() > 40) {
            faults.push(format!("{name}: a bookmark with a long name"));
        }
        for (grid, rows) in &said.tables {
            let width: u32 = grid.iter().sum();
            if rows.is_empty() || rows.iter().any(|row| *row != width) {
                faults.push(format!("{name}: a grid of {width} with rows of {rows:?}"));
            }
        }
    }
    faults.extend(endless_chains(&styles));
    faults
}

/// Styles that are based on each other in a circle.
fn endless_chains(styles: &str) -> Vec<String> {
    let mut bases = HashMap::new();
    for style in styles.split("<w:style ").skip(1) {
        let of = |mark: &str| style.split(mark).nth(1).and_then(|rest| rest.split('"').next());
        bases.insert(of("w:styleId=\"").unwrap(), of("<w:basedOn w:val=\""));
    }
    let ends = |id: &str| {
        std::iter::successors(Some(id), |id| bases.get(id).copied().flatten()).take(99).count() < 99
    };
    bases.keys().filter(|id| !ends(id)).map(|id| format!("style {id} has no end")).collect()
}

#[test]
fn specification_examples_become_files_that_hold_together() {
    let mut examples = examples::of_demo();
    examples.extend(examples::of_specifications());
    for file in ["markdown.txt", "word_writer.txt"] {
        let cases = fixture::cases(file).into_iter();
        examples.extend(cases.map(|case| (case.name.clone(), case.part("source").to_string())));
    }
    let mut faults = Vec::new();
    for (name, text) in examples {
        let written = convert(text.as_bytes(), Format::Markdown, &options("")).unwrap();
        faults
            .extend(loose_ends(&written.bytes).into_iter().map(|fault| format!("{name}: {fault}")));
    }
    assert!(faults.is_empty(), "{} faults\n{}", faults.len(), faults.join("\n"));
}

/// Files made of pages and of Word files, with their looks.
#[test]
fn files_with_looks_hold_together() {
    let mut house = House::built_in("looks").unwrap();
    house.set("repairs.sources", "[]").unwrap();
    let options = WriteOptions { house, ..WriteOptions::format(Format::Word) };
    let noise = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/fixtures/noise");
    let handbook = "../obblet-cli/demo/volunteers/handbook.docx";
    let handbook = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(handbook);
    let pages = std::fs::read_dir(noise).unwrap().map(|entry| entry.unwrap().path());
    let pages = pages.filter(|path| path.extension().is_some_and(|extension| extension == "html"));
    let mut count = 0;
    for path in pages.chain([handbook]) {
        let is_page = path.extension().is_some_and(|extension| extension == "html");
        let format = if is_page { Format::Html } else { Format::Word };
        let written = convert(&std::fs::read(&path).unwrap(), format, &options).unwrap();
        assert_eq!(loose_ends(&written.bytes), Vec::<String>::new(), "{}", path.display());
        count += 1;
    }
    assert!(count > 10);
}

/// Lists, boxes and quotations in each other, as deep as a document may be, on a small stack.
#[test]
fn deep_documents_are_written_or_refused() {
    let check = || {
        for (mark, levels) in [("> ", 90), ("- ", 90), ("1. ", 60)] {
            let text = format!("{}deep\n", mark.repeat(levels));
            let written = convert(text.as_bytes(), Format::Markdown, &options("")).unwrap();
            assert_eq!(loose_ends(&written.bytes), Vec::<String>::new());
            let reading = read(&written.bytes, Format::Word, &Default::default()).unwrap();
            let again = write(&reading.document, &options("")).unwrap();
            let parts = parts_of(&again.bytes);
            assert!(String::from_utf8_lossy(&parts["word/document.xml"]).contains("deep"));
        }
    };
    std::thread::Builder::new().stack_size(2 << 20).spawn(check).unwrap().join().unwrap();
}

/// A pattern gives its styles and its page; what it lacks is added behind, and all parts hold together.
#[test]
fn a_pattern_gives_styles_and_pages() {
    let handbook = "../obblet-cli/demo/volunteers/handbook.docx";
    let handbook = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(handbook);
    let mut options = options("word.pattern = trust.docx\nword.quotation = \"Intense Quote\"");
    let source = "# Tides\n\n> High.\n\n1. gate\n\nTerm\n: said\n";
    let missing = convert(source.as_bytes(), Format::Markdown, &options).unwrap_err();
    assert!(missing.to_string().contains("trust.docx"), "{missing}");
    options.house.pattern = Some(b"no pattern".as_slice().into());
    let wrong = convert(source.as_bytes(), Format::Markdown, &options).unwrap_err();
    assert!(wrong.to_string().contains("not a ZIP archive"), "{wrong}");

    let pattern = std::fs::read(handbook).unwrap();
    let own = parts_of(&pattern);
    options.house.pattern = Some(pattern.into());
    let written = convert(source.as_bytes(), Format::Markdown, &options).unwrap();
    assert_eq!(loose_ends(&written.bytes), Vec::<String>::new());
    let parts = parts_of(&written.bytes);
    let text = |name: &str| String::from_utf8(parts[name].clone()).unwrap();
    let of_pattern = String::from_utf8(own["word/styles.xml"].clone()).unwrap();
    let of_pattern = of_pattern.rsplit_once("</w:styles>").unwrap().0;
    let behind = text("word/styles.xml").strip_prefix(of_pattern).unwrap().to_string();
    assert!(behind.contains("<w:name w:val=\"Term\"/>"), "{behind}");
    assert!(!behind.contains("<w:name w:val=\"Normal\"/>"), "{behind}");
    assert_eq!(own["word/theme/theme1.xml"], parts["word/theme/theme1.xml"]);
    let main = text("word/document.xml");
    assert!(main.contains("<w:pStyle w:val=\"IntenseQuote\"/>"), "{main}");
    let page =
        |text: &str| text.split("<w:pgSz").nth(1).unwrap().split("/>").next().unwrap().to_string();
    assert_eq!(page(&main), page(&String::from_utf8(own["word/document.xml"].clone()).unwrap()));
    // Lists are numbered behind those of the pattern.
    let lists = text("word/numbering.xml");
    let numbers: Vec<&str> = lists.split("<w:num w:numId=\"").skip(1).collect();
    let unique: HashSet<&str> = numbers.iter().map(|n| n.split('"').next().unwrap()).collect();
    assert_eq!(unique.len(), numbers.len());
}
