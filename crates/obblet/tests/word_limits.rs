//! Hostile and very long Word files: clear errors or findings, in bounded time and memory.

#![allow(clippy::unwrap_used, clippy::expect_used, reason = "a test fails by panicking")]

mod package;

use obblet::{Format, ReadOptions, WriteOptions, convert, read};
use package::{OFFICE, TRANSITIONAL, package, relationship, relationships};

/// A package whose body holds this, with more parts and relationships.
fn file(body: &str, relations: &str, parts: &[(&str, Vec<u8>)]) -> Vec<u8> {
    let root = format!(
        "<w:document xmlns:w=\"{TRANSITIONAL}\" xmlns:r=\"{OFFICE}\" \
         xmlns:m=\"http://schemas.openxmlformats.org/officeDocument/2006/math\" \
         xmlns:mc=\"http://schemas.openxmlformats.org/markup-compatibility/2006\"><w:body>{body}</w:body></w:document>"
    );
    let mut all = vec![
        ("_rels/.rels", relationships(&relationship("m", "officeDocument", "word/document.xml"))),
        ("word/_rels/document.xml.rels", relationships(relations)),
        ("word/document.xml", root.into_bytes()),
    ];
    all.extend(parts.iter().cloned());
    package(&all)
}

fn in_root(name: &str, inside: &str) -> Vec<u8> {
    format!("<w:{name} xmlns:w=\"{TRANSITIONAL}\">{inside}</w:{name}>").into_bytes()
}

/// Reads and writes a file; gives the HTML and the names of the findings.
fn converted(file: &[u8]) -> (String, Vec<&'static str>) {
    let written = convert(file, Format::Word, &WriteOptions::house("looks").unwrap()).unwrap();
    let codes = written.findings.iter().map(|finding| finding.code.name()).collect();
    (String::from_utf8(written.bytes).unwrap(), codes)
}

const TEXT: &str = "<w:p><w:r><w:t>still here</w:t></w:r></w:p>";

#[test]
fn archives_that_grow_without_end_are_refused() {
    let zeros = vec![b' '; 64 << 20];
    let bomb = file(
        TEXT,
        &relationship("s", "styles", "styles.xml"),
        &[("word/styles.xml", zeros.clone())],
    );
    assert!(bomb.len() < 1 << 20);
    let (html, codes) = converted(&bomb);
    assert!(html.contains("still here") && codes.contains(&"part-missing"), "{codes:?}");

    let main = package(&[
        ("_rels/.rels", relationships(&relationship("m", "officeDocument", "d.xml"))),
        ("d.xml", zeros),
    ]);
    let error = read(&main, Format::Word, &ReadOptions::default()).unwrap_err().to_string();
    assert!(error.contains("200 times its size"), "{error}");
}

#[test]
fn entities_are_never_fetched_or_expanded() {
    let doctype = "<!DOCTYPE w:document [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;\"><!ENTITY x SYSTEM \"file:///etc/passwd\">]>";
    let text = format!(
        "{doctype}<w:document xmlns:w=\"{TRANSITIONAL}\"><w:body><w:p><w:r><w:t>one &b;&x;&amp; two</w:t></w:r></w:p></w:body></w:document>"
    );
    let whole = package(&[
        ("_rels/.rels", relationships(&relationship("m", "officeDocument", "d.xml"))),
        ("d.xml", text.into_bytes()),
    ]);
    let (html, _) = converted(&whole);
    assert!(html.contains("one &amp; two"), "{html}");
}

#[test]
fn circles_and_huge_numbers_end() {
    let style = |id: &str, based: &str| {
        format!(
            "<w:style w:type=\"paragraph\" w:styleId=\"{id}\"><w:name w:val=\"{id}\"/><w:basedOn w:val=\"{based}\"/></w:style>"
        )
    };
    let styles = style("A", "B") + &style("B", "A") + &style("C", "C");
    let huge = "99999999999999999999";
    let level = format!(
        "<w:lvl w:ilvl=\"0\"><w:start w:val=\"2147483647\"/><w:numFmt w:val=\"decimal\"/><w:lvlText w:val=\"%1.%1.%9\"/></w:lvl><w:lvl w:ilvl=\"{huge}\"/>"
    );
    let numbering = format!(
        "<w:abstractNum w:abstractNumId=\"1\">{level}</w:abstractNum><w:num w:numId=\"1\"><w:abstractNumId w:val=\"1\"/></w:num>"
    );
    let item = "<w:p><w:pPr><w:pStyle w:val=\"A\"/><w:numPr><w:ilvl w:val=\"0\"/><w:numId w:val=\"1\"/></w:numPr></w:pPr><w:r><w:t>item</w:t></w:r></w:p>";
    let cell = format!(
        "<w:tc><w:tcPr><w:gridSpan w:val=\"{huge}\"/></w:tcPr>{TEXT}</w:tc><w:tc><w:tcPr><w:gridSpan w:val=\"100000\"/></w:tcPr>{TEXT}</w:tc>"
    );
    let body = format!(
        "{item}{item}<w:p><w:pPr><w:pStyle w:val=\"C\"/><w:ind w:left=\"{huge}\"/><w:spacing w:before=\"-{huge}\" w:line=\"NaN\"/></w:pPr><w:r><w:rPr><w:sz w:val=\"{huge}\"/><w:color w:val=\"ZZZ\"/></w:rPr><w:t>huge</w:t></w:r></w:p>\
         <w:tbl><w:tblGrid><w:gridCol w:w=\"{huge}\"/></w:tblGrid><w:tr><w:trPr><w:gridBefore w:val=\"{huge}\"/></w:trPr>{cell}</w:tr></w:tbl>\
         <w:p><w:pPr><w:sectPr><w:cols w:num=\"{huge}\"/><w:pgSz w:w=\"{huge}\"/></w:sectPr></w:pPr></w:p>"
    );
    let relations = relationship("s", "styles", "styles.xml")
        + &relationship("n", "numbering", "numbering.xml")
        + &relationship("f", "footnotes", "document.xml")
        + &relationship("x", "header", "../word/document.xml");
    let whole = file(
        &body,
        &relations,
        &[
            ("word/styles.xml", in_root("styles", &styles)),
            ("word/numbering.xml", in_root("numbering", &numbering)),
        ],
    );
    let (html, _) = converted(&whole);
    assert_eq!(html.matches("item").count(), 2);
    assert!(html.contains("huge") && html.contains("still here"));
}

/// Whatever there is so much of, reading ends and keeps what follows.
#[test]
fn much_of_one_thing_is_read_to_its_end() {
    let nested = |open: &str, close: &str, inside: &str| {
        format!("{}{inside}{}", open.repeat(20_000), close.repeat(20_000))
    };
    let field = "<w:r><w:fldChar w:fldCharType=\"begin\"/></w:r><w:r><w:instrText>HYPERLINK \"x\"</w:instrText></w:r><w:r><w:fldChar w:fldCharType=\"separate\"/></w:r>";
    let bodies = [
        // Fields that never end, and links that stay open over every paragraph behind them.
        format!("<w:p>{}</w:p>{}", field.repeat(300), TEXT.repeat(300)),
        format!("<w:p>{}<w:r><w:t>still here</w:t></w:r></w:p>", "<w:r><w:fldChar w:fldCharType=\"begin\"/></w:r>".repeat(50_000).as_str()),
        format!("<w:p><m:oMath>{}</m:oMath></w:p>{TEXT}", nested("<m:rad><m:e>", "</m:e></m:rad>", "<m:r><m:t>x</m:t></m:r>")),
        format!("<w:p>{}</w:p>{TEXT}", nested("<mc:AlternateContent><mc:Choice>", "</mc:Choice></mc:AlternateContent>", "")),
        nested("<mc:AlternateContent><mc:Choice>", "</mc:Choice></mc:AlternateContent>", TEXT) + TEXT,
        format!("<w:p>{}</w:p>{TEXT}", nested("<w:bdo w:val=\"rtl\">", "</w:bdo>", "")),
        // Text boxes in text boxes, readings of readings, alternatives and equations in runs.
        nested("<w:p><w:r><w:pict><w:txbxContent>", "</w:txbxContent></w:pict></w:r></w:p>", TEXT),
        format!("<w:p>{}</w:p>{TEXT}", nested("<w:r><w:ruby><w:rt>", "</w:rt></w:ruby></w:r>", "")),
        format!("<w:p>{}</w:p>{TEXT}", nested("<w:r><mc:AlternateContent><mc:Fallback>", "</mc:Fallback></mc:AlternateContent></w:r>", "")),
        format!("<w:p>{}</w:p>{TEXT}", nested("<w:r><m:oMathPara>", "</m:oMathPara></w:r>", "")),
        // Runs whose formats change with each character, tabs, bookmarks, commented ranges.
        format!("<w:p>{}</w:p>{TEXT}", "<w:r><w:rPr><w:b/></w:rPr><w:t>a</w:t></w:r><w:r><w:rPr><w:i/><w:sz w:val=\"9\"/></w:rPr><w:t>b</w:t></w:r>".repeat(20_000)),
        format!("<w:p><w:r>{}</w:r></w:p>{TEXT}", "<w:t>a</w:t><w:tab/>".repeat(50_000)),
        format!("<w:p>{}</w:p>{TEXT}", "<w:bookmarkStart w:id=\"1\" w:name=\"same\"/>".repeat(50_000)),
        format!("<w:p>{}</w:p>{TEXT}", "<w:commentRangeStart w:id=\"1\"/><w:commentRangeEnd w:id=\"1\"/>".repeat(50_000)),
        TEXT.repeat(40_000),
    ];
    let check = move || {
        for (at, body) in bodies.iter().enumerate() {
            let (html, _) = converted(&file(body, "", &[]));
            // Of a field that never ends nothing is shown; of all others the text behind is.
            assert!(at == 1 || html.contains("still here"), "{at}");
        }
    };
    std::thread::Builder::new().stack_size(2 << 20).spawn(check).unwrap().join().unwrap();
}

/// Each list of contents has all entries: many of them would make the file grow with their square.
#[test]
fn lists_of_contents_are_few() {
    let source = "#+TOC: headlines\n\n#+TOC: figures\n\n".repeat(1000) + &"* Ebb\n".repeat(1000);
    let options = obblet::WriteOptions::format(obblet::Format::Word);
    let written = obblet::convert(source.as_bytes(), obblet::Format::Org, &options).unwrap();
    assert!(written.bytes.len() < 1 << 20, "{} bytes", written.bytes.len());
    let codes: Vec<&str> = written.findings.iter().map(|finding| finding.code.name()).collect();
    assert!(codes.contains(&"node-not-carried"), "{codes:?}");
}
