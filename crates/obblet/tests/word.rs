//! The Word reader on packages made from the XML in `fixtures/word.txt`.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod fixture;
mod package;

use fixture::Case;
use obblet::{Format, House, ReadError, ReadOptions, WriteOptions, read, write};
use package::{OFFICE, PNG, STRICT, TRANSITIONAL, package, relationship, relationships};

/// The package of a case: its parts wrapped in their root elements.
fn package_of(case: &Case) -> Vec<u8> {
    let word = if case.has("strict") { STRICT } else { TRANSITIONAL };
    let names = format!(
        "xmlns:w=\"{word}\" xmlns:r=\"{OFFICE}\" \
         xmlns:a=\"http://schemas.openxmlformats.org/drawingml/2006/main\" \
         xmlns:wp=\"http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing\" \
         xmlns:mc=\"http://schemas.openxmlformats.org/markup-compatibility/2006\" \
         xmlns:wps=\"http://schemas.microsoft.com/office/word/2010/wordprocessingShape\" \
         xmlns:v=\"urn:schemas-microsoft-com:vml\" \
         xmlns:m=\"http://schemas.openxmlformats.org/officeDocument/2006/math\" \
         xmlns:w14=\"http://schemas.microsoft.com/office/word/2010/wordml\" \
         xmlns:w15=\"http://schemas.microsoft.com/office/word/2012/wordml\" \
         xmlns:c=\"http://schemas.openxmlformats.org/drawingml/2006/chart\" \
         xmlns:dgm=\"http://schemas.openxmlformats.org/drawingml/2006/diagram\""
    );
    let root =
        |name: &str, inner: &str| format!("<w:{name} {names}>{inner}</w:{name}>").into_bytes();
    let mut document = root("document", &format!("<w:body>{}</w:body>", case.part("document")));
    if case.has("cut") {
        document.truncate(document.len() - case.part("cut").parse::<usize>().unwrap());
    }
    let mut relations = case.part("relations").to_string();
    // The main part has a name nobody would guess: parts are found by relationship.
    let mut parts = vec![
        ("_rels/.rels", relationships(&relationship("m", "officeDocument", "main/text.xml"))),
        ("main/text.xml", document),
        ("main/media/wheel.png", PNG.to_vec()),
        // A picture under a bad name, and what is none under a good one.
        ("main/media/in dex.php", [PNG, b"2"].concat()),
        ("main/media/sluice.png", b"<script>alert(1)</script>".to_vec()),
        ("main/media/pond.svg", b"<svg xmlns='http://www.w3.org/2000/svg' onload='x()'/>".to_vec()),
    ];
    for (part, kind, file, name) in [
        ("styles", "styles", "styles.xml", "main/styles.xml"),
        ("numbering", "numbering", "numbering.xml", "main/numbering.xml"),
        ("footnotes", "footnotes", "notes.xml", "main/notes.xml"),
        ("hdr", "header", "head.xml", "main/head.xml"),
        ("comments", "comments", "remarks.xml", "main/remarks.xml"),
    ] {
        if case.has(part) {
            relations.push_str(&relationship(part, kind, file));
            parts.push((name, root(part, case.part(part))));
        }
    }
    // Parts of other vocabularies come with their root elements.
    for (part, kind, file, name) in [
        ("theme", "theme", "theme.xml", "main/theme.xml"),
        ("threads", "commentsExtended", "threads.xml", "main/threads.xml"),
        ("chart", "chart", "chart.xml", "main/chart.xml"),
        ("diagram", "diagramData", "diagram.xml", "main/diagram.xml"),
        ("chunk", "aFChunk", "chunk.html", "main/chunk.html"),
        ("sheet", "package", "tides.xlsx", "main/tides.xlsx"),
    ] {
        if case.has(part) {
            relations.push_str(&relationship(part, kind, file));
            parts.push((
                name,
                case.part(part).replacen(" NAMES", &format!(" {names}"), 1).into_bytes(),
            ));
        }
    }
    parts.push(("main/_rels/text.xml.rels", relationships(&relations)));
    package(&parts)
}

#[test]
fn cases_read_as_they_say() {
    fixture::check("word.txt", |case| {
        let house = if case.has("house") { case.part("house") } else { "like = \"body\"" };
        let house = House::from_toml(house).expect(&case.name);
        let mut reading =
            read(&package_of(case), Format::Word, &house.read_options()).expect(&case.name);
        reading.findings.locate(&reading.map);
        let folder = Some("pictures".into());
        let options =
            WriteOptions { house, picture_folder: folder, ..WriteOptions::format(Format::Html) };
        let mut written = write(&reading.document, &options).unwrap();
        // Of a page with styles: its own rules, without those that every such page has, and its text.
        if let Some((_, rules)) = written.text().split_once("height: auto }\n") {
            let shown = rules.replace("</style>\n</head>\n<body>\n<main id=\"text\">\n", "");
            written.bytes = shown.replace("</main>\n</body>\n</html>\n", "").into_bytes();
        }
        let findings = reading.findings.iter().chain(&written.findings);
        let lines: Vec<String> = findings.map(|finding| finding.line("w")).collect();
        vec![("html", written.text().to_string()), ("findings", lines.join("\n"))]
    });
}

#[test]
fn what_is_no_word_file_is_a_clear_error() {
    let spreadsheet = package(&[
        ("_rels/.rels", relationships(&relationship("m", "officeDocument", "xl/workbook.xml"))),
        ("xl/workbook.xml", b"<x/>".to_vec()),
    ]);
    let empty_zip = package(&[]);
    let whole = package_of(&fixture::cases("word.txt")[0]);
    let cases: [(&[u8], &str); 6] = [
        (b"", "the file is empty"),
        (b"plain words", "not a ZIP archive"),
        (b"\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1", "binary file"),
        (&whole[..whole.len() / 2], "broken or cut off"),
        (&spreadsheet, "a spreadsheet"),
        (&empty_zip, "no Word document"),
    ];
    for (bytes, expected) in cases {
        let error = read(bytes, Format::Word, &ReadOptions::default()).unwrap_err();
        assert!(matches!(error, ReadError::NotWord(_)));
        assert!(error.to_string().contains(expected), "{error}");
    }
}

/// Damage anywhere gives a document or an error, never a panic.
#[test]
fn damaged_packages_never_panic() {
    for case in fixture::cases("word.txt") {
        let whole = package_of(&case);
        for at in (0..whole.len()).step_by(7) {
            let mut damaged = whole.clone();
            damaged[at] ^= 0x55;
            let _ = read(&damaged, Format::Word, &ReadOptions::default());
        }
    }
}

/// Ten thousand tables in each other: read without their nesting, said so, on a small stack.
#[test]
fn hostile_nesting_ends_in_a_finding() {
    let nested = |open: &str, close: &str, inner: &str| {
        format!("{}{inner}{}", open.repeat(10_000), close.repeat(10_000))
    };
    let text = "<w:p><w:r><w:t>inside</w:t></w:r></w:p>";
    let bodies = [
        nested("<w:tbl><w:tr><w:tc>", "</w:tc></w:tr></w:tbl>", text),
        nested("<w:sdt><w:sdtContent>", "</w:sdtContent></w:sdt>", text),
        // Boxes that Obblet wrote, as deep as it never writes them.
        nested(
            "<w:sdt><w:sdtPr><w:tag w:val=\"obblet:aside\"/></w:sdtPr><w:sdtContent>",
            "</w:sdtContent></w:sdt>",
            text,
        ),
        // Content controls around a row, and around a cell.
        format!(
            "<w:tbl>{}</w:tbl>",
            nested(
                "<w:sdt><w:sdtContent>",
                "</w:sdtContent></w:sdt>",
                &format!("<w:tr><w:tc>{text}</w:tc></w:tr>")
            )
        ),
        format!(
            "<w:tbl><w:tr>{}</w:tr></w:tbl>",
            nested(
                "<w:sdt><w:sdtContent>",
                "</w:sdtContent></w:sdt>",
                &format!("<w:tc>{text}</w:tc>")
            )
        ),
        // A nested table's own spans say nothing about the cell around it.
        nested(
            "<w:tbl><w:tr><w:tc><w:tcPr><w:gridSpan w:val=\"9\"/></w:tcPr>",
            "</w:tc></w:tr></w:tbl>",
            text,
        ),
        format!("<w:p>{}</w:p>", nested("<w:ins>", "</w:ins>", "<w:r><w:t>inside</w:t></w:r>")),
    ];
    let check = move || {
        for body in bodies {
            let root = format!(
                "<w:document xmlns:w=\"{TRANSITIONAL}\"><w:body>{body}</w:body></w:document>"
            );
            let bytes = package(&[
                ("_rels/.rels", relationships(&relationship("m", "officeDocument", "d.xml"))),
                ("d.xml", root.into_bytes()),
            ]);
            let reading = read(&bytes, Format::Word, &ReadOptions::default()).unwrap();
            assert!(reading.findings.iter().any(|f| f.code.name() == "nesting-too-deep"));
            let written = write(&reading.document, &WriteOptions::house("body").unwrap()).unwrap();
            assert!(written.text().contains("inside"));
        }
    };
    std::thread::Builder::new().stack_size(1 << 20).spawn(check).unwrap().join().unwrap();
}
