//! A long Word file like those editors get: headings, prose with formats, links and notes, lists and
//! tables, over and over with other numbers.

use super::package::{OFFICE, TRANSITIONAL, package, relationship, relationships};

const STYLES: &str = r#"<w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:ascii="Calibri" w:hAnsi="Calibri"/><w:sz w:val="22"/><w:lang w:val="en-GB"/></w:rPr></w:rPrDefault></w:docDefaults>
<w:style w:type="paragraph" w:default="1" w:styleId="Normal"><w:name w:val="Normal"/></w:style>
<w:style w:type="paragraph" w:styleId="Heading1"><w:name w:val="heading 1"/><w:basedOn w:val="Normal"/><w:pPr><w:outlineLvl w:val="0"/></w:pPr><w:rPr><w:b/></w:rPr></w:style>
<w:style w:type="paragraph" w:styleId="ListParagraph"><w:name w:val="List Paragraph"/><w:basedOn w:val="Normal"/><w:pPr><w:ind w:left="720"/></w:pPr></w:style>
<w:style w:type="character" w:styleId="Hyperlink"><w:name w:val="Hyperlink"/><w:rPr><w:u w:val="single"/></w:rPr></w:style>"#;

const NUMBERING: &str = r#"<w:abstractNum w:abstractNumId="1"><w:lvl w:ilvl="0"><w:numFmt w:val="decimal"/><w:lvlText w:val="%1."/></w:lvl><w:lvl w:ilvl="1"><w:numFmt w:val="lowerLetter"/><w:lvlText w:val="%2)"/></w:lvl></w:abstractNum><w:num w:numId="1"><w:abstractNumId w:val="1"/></w:num>"#;

/// One chapter, as a word processor writes it: save marks, proofing marks, empty properties.
fn chapter(n: usize) -> String {
    let run = |text: &str, properties: &str| {
        format!(
            "<w:r w:rsidR=\"00A41B{:02X}\" w:rsidRPr=\"00C1{:04X}\"><w:rPr>{properties}<w:lang w:val=\"en-GB\"/></w:rPr><w:t xml:space=\"preserve\">{text}</w:t></w:r>",
            n % 256,
            n % 65536
        )
    };
    let paragraph = |properties: &str, inside: &str| {
        format!(
            "<w:p w14:paraId=\"4F{n:06X}\" w:rsidR=\"00A41B11\" w:rsidRDefault=\"00A41B11\"><w:pPr>{properties}</w:pPr>{inside}</w:p>"
        )
    };
    let item = |level: u8, text: &str| {
        paragraph(
            &format!(
                "<w:pStyle w:val=\"ListParagraph\"/><w:numPr><w:ilvl w:val=\"{level}\"/><w:numId w:val=\"1\"/></w:numPr>"
            ),
            &run(text, ""),
        )
    };
    let cell = |text: &str| {
        format!(
            "<w:tc><w:tcPr><w:tcW w:w=\"3005\" w:type=\"dxa\"/></w:tcPr>{}</w:tc>",
            paragraph("<w:spacing w:after=\"0\"/>", &run(text, ""))
        )
    };
    let row = |cells: &[String]| format!("<w:tr w:rsidR=\"00A41B11\">{}</w:tr>", cells.concat());
    let mut out =
        paragraph("<w:pStyle w:val=\"Heading1\"/>", &run(&format!("Chapter {n}: the wheel"), ""));
    for k in 0..4 {
        let inside = [
            run(&format!("On day {k} of week {n} the tide stood at four metres, and "), ""),
            "<w:proofErr w:type=\"spellStart\"/>".into(),
            run("the wheel turned", "<w:b/>"),
            "<w:proofErr w:type=\"spellEnd\"/>".into(),
            run(" for two hours before the pond was empty; see ", ""),
            format!(
                "<w:hyperlink w:anchor=\"ch{n}\" w:history=\"1\">{}</w:hyperlink>",
                run("the table", "<w:rStyle w:val=\"Hyperlink\"/>")
            ),
            run(" for what the miller wrote, ", ""),
            run("and when", "<w:i/>"),
            run(".", ""),
        ]
        .concat();
        out.push_str(&paragraph("<w:jc w:val=\"both\"/>", &inside));
    }
    for k in 0..5 {
        out.push_str(&item(
            u8::from(k % 3 == 1),
            &format!("Step {k}: open gate {n} slowly, and listen."),
        ));
    }
    out.push_str("<w:tbl><w:tblPr><w:tblW w:w=\"0\" w:type=\"auto\"/></w:tblPr><w:tblGrid><w:gridCol w:w=\"3005\"/><w:gridCol w:w=\"3005\"/><w:gridCol w:w=\"3006\"/></w:tblGrid>");
    for k in 0..4 {
        out.push_str(&row(&[
            cell(&format!("Gate {k}")),
            cell(&format!("{k}.{n} m")),
            cell("shut at dusk"),
        ]));
    }
    out.push_str("</w:tbl>");
    out
}

/// The main part, at least this many bytes long.
pub(crate) fn main_part(bytes: usize) -> String {
    let mut body = String::with_capacity(bytes + 20_000);
    body.push_str(&format!(
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<w:document xmlns:w=\"{TRANSITIONAL}\" xmlns:r=\"{OFFICE}\" xmlns:w14=\"http://schemas.microsoft.com/office/word/2010/wordml\"><w:body>"
    ));
    let mut n = 0;
    while body.len() < bytes {
        n += 1;
        body.push_str(&chapter(n));
    }
    body.push_str("</w:body></w:document>");
    body
}

/// The whole package.
pub(crate) fn word_file(main: &str) -> Vec<u8> {
    let root = |name: &str, inner: &str| {
        format!("<w:{name} xmlns:w=\"{TRANSITIONAL}\">{inner}</w:{name}>").into_bytes()
    };
    let relations = relationship("s", "styles", "styles.xml")
        + &relationship("n", "numbering", "numbering.xml");
    package(&[
        ("_rels/.rels", relationships(&relationship("m", "officeDocument", "word/document.xml"))),
        ("word/_rels/document.xml.rels", relationships(&relations)),
        ("word/styles.xml", root("styles", STYLES)),
        ("word/numbering.xml", root("numbering", NUMBERING)),
        ("word/document.xml", main.as_bytes().to_vec()),
    ])
}
