//! The styles that documents have which bring none of their own, in Word's own terms.
//!
//! Sizes are in half points, distances in twentieths of a point. Text is set in one family with room to
//! breathe; headings are told by size and one deep colour, so that they stand on paper and screen alike.

use crate::document::StyleKind;

/// One style.
#[derive(Debug)]
pub(super) struct DefaultStyle {
    pub(super) name: &'static str,
    pub(super) id: &'static str,
    pub(super) kind: StyleKind,
    pub(super) based_on: &'static str,
    /// The style of the paragraph behind one of this style; empty for the same.
    pub(super) next: &'static str,
    /// The content of `w:pPr` and `w:rPr`; for a table all that follows its name.
    pub(super) paragraph: &'static str,
    pub(super) run: &'static str,
}

/// What all text and all paragraphs have.
pub(super) const RUN_DEFAULTS: &str = r#"<w:rFonts w:asciiTheme="minorHAnsi" w:hAnsiTheme="minorHAnsi" w:eastAsiaTheme="minorEastAsia" w:cstheme="minorBidi"/><w:sz w:val="22"/><w:szCs w:val="22"/>"#;
pub(super) const PARAGRAPH_DEFAULTS: &str =
    r#"<w:spacing w:after="140" w:line="276" w:lineRule="auto"/>"#;

const fn style(
    kind: StyleKind,
    name: &'static str,
    id: &'static str,
    [based_on, next]: [&'static str; 2],
    paragraph: &'static str,
    run: &'static str,
) -> DefaultStyle {
    DefaultStyle { name, id, kind, based_on, next, paragraph, run }
}

use StyleKind::{Block, Inline, Table};

const FIXED: &str = r#"<w:rFonts w:ascii="Consolas" w:hAnsi="Consolas" w:cs="Consolas"/><w:noProof/><w:sz w:val="20"/><w:szCs w:val="20"/>"#;

/// In the order in which they are written.
pub(super) const STYLES: &[DefaultStyle] = &[
    style(Block, "Normal", "Normal", ["", ""], "", ""),
    style(
        Block,
        "Title",
        "Title",
        ["Normal", "Normal"],
        r#"<w:keepNext/><w:spacing w:before="0" w:after="200" w:line="240" w:lineRule="auto"/><w:contextualSpacing/>"#,
        r#"<w:b/><w:bCs/><w:color w:val="17404F"/><w:spacing w:val="-6"/><w:kern w:val="28"/><w:sz w:val="52"/><w:szCs w:val="52"/>"#,
    ),
    style(
        Block,
        "Subtitle",
        "Subtitle",
        ["Normal", "Normal"],
        r#"<w:keepNext/><w:spacing w:after="240"/>"#,
        r#"<w:color w:val="51666E"/><w:sz w:val="28"/><w:szCs w:val="28"/>"#,
    ),
    style(
        Block,
        "heading 1",
        "Heading1",
        ["Normal", "Normal"],
        r#"<w:keepNext/><w:keepLines/><w:spacing w:before="400" w:after="120" w:line="240" w:lineRule="auto"/><w:outlineLvl w:val="0"/>"#,
        r#"<w:b/><w:bCs/><w:color w:val="17404F"/><w:sz w:val="36"/><w:szCs w:val="36"/>"#,
    ),
    style(
        Block,
        "heading 2",
        "Heading2",
        ["Normal", "Normal"],
        r#"<w:keepNext/><w:keepLines/><w:spacing w:before="320" w:after="100" w:line="240" w:lineRule="auto"/><w:outlineLvl w:val="1"/>"#,
        r#"<w:b/><w:bCs/><w:color w:val="1F5568"/><w:sz w:val="29"/><w:szCs w:val="29"/>"#,
    ),
    style(
        Block,
        "heading 3",
        "Heading3",
        ["Normal", "Normal"],
        r#"<w:keepNext/><w:keepLines/><w:spacing w:before="260" w:after="80" w:line="240" w:lineRule="auto"/><w:outlineLvl w:val="2"/>"#,
        r#"<w:b/><w:bCs/><w:color w:val="1F5568"/><w:sz w:val="25"/><w:szCs w:val="25"/>"#,
    ),
    style(
        Block,
        "heading 4",
        "Heading4",
        ["Normal", "Normal"],
        r#"<w:keepNext/><w:keepLines/><w:spacing w:before="220" w:after="60"/><w:outlineLvl w:val="3"/>"#,
        r#"<w:b/><w:bCs/><w:color w:val="2B6478"/>"#,
    ),
    style(
        Block,
        "heading 5",
        "Heading5",
        ["Normal", "Normal"],
        r#"<w:keepNext/><w:keepLines/><w:spacing w:before="200" w:after="60"/><w:outlineLvl w:val="4"/>"#,
        r#"<w:i/><w:iCs/><w:color w:val="2B6478"/>"#,
    ),
    style(
        Block,
        "heading 6",
        "Heading6",
        ["Normal", "Normal"],
        r#"<w:keepNext/><w:keepLines/><w:spacing w:before="200" w:after="60"/><w:outlineLvl w:val="5"/>"#,
        r#"<w:color w:val="2B6478"/>"#,
    ),
    style(
        Block,
        "heading 7",
        "Heading7",
        ["Heading6", "Normal"],
        r#"<w:outlineLvl w:val="6"/>"#,
        "",
    ),
    style(
        Block,
        "heading 8",
        "Heading8",
        ["Heading6", "Normal"],
        r#"<w:outlineLvl w:val="7"/>"#,
        "",
    ),
    style(
        Block,
        "heading 9",
        "Heading9",
        ["Heading6", "Normal"],
        r#"<w:outlineLvl w:val="8"/>"#,
        "",
    ),
    style(
        Block,
        "List Paragraph",
        "ListParagraph",
        ["Normal", ""],
        r#"<w:ind w:left="720"/><w:contextualSpacing/>"#,
        "",
    ),
    style(Block, "List Continue", "ListContinue", ["Normal", ""], r#"<w:ind w:left="567"/>"#, ""),
    style(
        Block,
        "List Continue 2",
        "ListContinue2",
        ["Normal", ""],
        r#"<w:ind w:left="1134"/>"#,
        "",
    ),
    style(
        Block,
        "List Continue 3",
        "ListContinue3",
        ["Normal", ""],
        r#"<w:ind w:left="1701"/>"#,
        "",
    ),
    style(
        Block,
        "List Continue 4",
        "ListContinue4",
        ["Normal", ""],
        r#"<w:ind w:left="2268"/>"#,
        "",
    ),
    style(
        Block,
        "List Continue 5",
        "ListContinue5",
        ["Normal", ""],
        r#"<w:ind w:left="2835"/>"#,
        "",
    ),
    style(
        Block,
        "Quote",
        "Quote",
        ["Normal", "Normal"],
        r#"<w:pBdr><w:left w:val="single" w:sz="18" w:space="12" w:color="9DB8C1"/></w:pBdr><w:ind w:left="454" w:right="454"/>"#,
        r#"<w:i/><w:iCs/><w:color w:val="3C4F56"/>"#,
    ),
    style(
        Block,
        "Code",
        "Code",
        ["Normal", ""],
        r#"<w:pBdr><w:top w:val="single" w:sz="4" w:space="6" w:color="D5DDE0"/><w:left w:val="single" w:sz="4" w:space="6" w:color="D5DDE0"/><w:bottom w:val="single" w:sz="4" w:space="6" w:color="D5DDE0"/><w:right w:val="single" w:sz="4" w:space="6" w:color="D5DDE0"/></w:pBdr><w:shd w:val="clear" w:color="auto" w:fill="F3F6F7"/><w:spacing w:before="60" w:after="200" w:line="252" w:lineRule="auto"/><w:ind w:left="142" w:right="142"/>"#,
        FIXED,
    ),
    style(Block, "Verse", "Verse", ["Normal", ""], r#"<w:ind w:left="567"/>"#, r#"<w:i/><w:iCs/>"#),
    style(
        Block,
        "Thematic Break",
        "ThematicBreak",
        ["Normal", "Normal"],
        r#"<w:pBdr><w:bottom w:val="single" w:sz="6" w:space="1" w:color="9DB8C1"/></w:pBdr><w:spacing w:before="160" w:after="280" w:line="120" w:lineRule="exact"/><w:ind w:left="2835" w:right="2835"/>"#,
        "",
    ),
    style(
        Block,
        "Term",
        "Term",
        ["Normal", "Description"],
        r#"<w:keepNext/><w:spacing w:after="20"/>"#,
        r#"<w:b/><w:bCs/>"#,
    ),
    style(Block, "Description", "Description", ["Normal", "Term"], r#"<w:ind w:left="567"/>"#, ""),
    style(Block, "Description Continued", "DescriptionContinued", ["Description", ""], "", ""),
    style(
        Block,
        "Box Title",
        "BoxTitle",
        ["BoxText", "BoxText"],
        r#"<w:keepNext/>"#,
        r#"<w:b/><w:bCs/><w:color w:val="17404F"/>"#,
    ),
    style(
        Block,
        "Box Text",
        "BoxText",
        ["Normal", ""],
        r#"<w:pBdr><w:left w:val="single" w:sz="24" w:space="10" w:color="C08A2E"/></w:pBdr><w:shd w:val="clear" w:color="auto" w:fill="FBF6EA"/><w:ind w:left="284" w:right="142"/>"#,
        "",
    ),
    style(
        Block,
        "caption",
        "Caption",
        ["Normal", "Normal"],
        r#"<w:keepLines/><w:spacing w:before="80" w:after="160" w:line="240" w:lineRule="auto"/>"#,
        r#"<w:color w:val="51666E"/><w:sz w:val="19"/><w:szCs w:val="19"/>"#,
    ),
    style(
        Block,
        "toc 1",
        "TOC1",
        ["Normal", "Normal"],
        r#"<w:tabs><w:tab w:val="right" w:leader="dot" w:pos="9026"/></w:tabs><w:spacing w:before="60" w:after="60"/>"#,
        "",
    ),
    style(
        Block,
        "toc 2",
        "TOC2",
        ["TOC1", "Normal"],
        r#"<w:spacing w:before="0" w:after="40"/><w:ind w:left="240"/>"#,
        "",
    ),
    style(
        Block,
        "toc 3",
        "TOC3",
        ["TOC1", "Normal"],
        r#"<w:spacing w:before="0" w:after="40"/><w:ind w:left="480"/>"#,
        "",
    ),
    style(Block, "table of figures", "TableofFigures", ["TOC1", "Normal"], "", ""),
    style(
        Block,
        "footnote text",
        "FootnoteText",
        ["Normal", ""],
        r#"<w:spacing w:after="40" w:line="240" w:lineRule="auto"/>"#,
        r#"<w:sz w:val="19"/><w:szCs w:val="19"/>"#,
    ),
    style(Block, "endnote text", "EndnoteText", ["FootnoteText", ""], "", ""),
    style(
        Block,
        "annotation text",
        "CommentText",
        ["Normal", ""],
        r#"<w:spacing w:after="60" w:line="240" w:lineRule="auto"/>"#,
        r#"<w:sz w:val="20"/><w:szCs w:val="20"/>"#,
    ),
    style(Block, "header", "Header", ["Normal", ""], r#"<w:spacing w:after="0"/>"#, ""),
    style(Block, "footer", "Footer", ["Normal", ""], r#"<w:spacing w:after="0"/>"#, ""),
    style(Inline, "Default Paragraph Font", "DefaultParagraphFont", ["", ""], "", ""),
    style(
        Inline,
        "Hyperlink",
        "Hyperlink",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:color w:val="14607A"/><w:u w:val="single"/>"#,
    ),
    style(
        Inline,
        "footnote reference",
        "FootnoteReference",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:vertAlign w:val="superscript"/>"#,
    ),
    style(
        Inline,
        "endnote reference",
        "EndnoteReference",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:vertAlign w:val="superscript"/>"#,
    ),
    style(
        Inline,
        "annotation reference",
        "CommentReference",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:sz w:val="16"/><w:szCs w:val="16"/>"#,
    ),
    style(Inline, "HTML Code", "HTMLCode", ["DefaultParagraphFont", ""], "", FIXED),
    style(Inline, "HTML Keyboard", "HTMLKeyboard", ["DefaultParagraphFont", ""], "", FIXED),
    style(Inline, "HTML Sample", "HTMLSample", ["DefaultParagraphFont", ""], "", FIXED),
    style(
        Inline,
        "HTML Variable",
        "HTMLVariable",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:i/><w:iCs/>"#,
    ),
    style(Inline, "HTML Cite", "HTMLCite", ["DefaultParagraphFont", ""], "", r#"<w:i/><w:iCs/>"#),
    style(
        Inline,
        "HTML Definition",
        "HTMLDefinition",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:i/><w:iCs/>"#,
    ),
    style(Inline, "HTML Acronym", "HTMLAcronym", ["DefaultParagraphFont", ""], "", ""),
    style(Inline, "TeX Source", "TeXSource", ["DefaultParagraphFont", ""], "", FIXED),
    style(
        Inline,
        "Deleted Text",
        "DeletedText",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:strike/><w:color w:val="9C2F2F"/>"#,
    ),
    style(
        Inline,
        "Inserted Text",
        "InsertedText",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:color w:val="256B3A"/><w:u w:val="single"/>"#,
    ),
    style(
        Inline,
        "Small Print",
        "SmallPrint",
        ["DefaultParagraphFont", ""],
        "",
        r#"<w:sz w:val="18"/><w:szCs w:val="18"/>"#,
    ),
    style(
        Table,
        "Normal Table",
        "TableNormal",
        ["", ""],
        r#"<w:tblPr><w:tblInd w:w="0" w:type="dxa"/><w:tblCellMar><w:top w:w="0" w:type="dxa"/><w:left w:w="108" w:type="dxa"/><w:bottom w:w="0" w:type="dxa"/><w:right w:w="108" w:type="dxa"/></w:tblCellMar></w:tblPr>"#,
        "",
    ),
    style(
        Table,
        "Ruled Table",
        "RuledTable",
        ["TableNormal", ""],
        r#"<w:pPr><w:spacing w:before="40" w:after="40" w:line="240" w:lineRule="auto"/></w:pPr><w:tblPr><w:tblStyleRowBandSize w:val="1"/><w:tblBorders><w:top w:val="single" w:sz="8" w:space="0" w:color="17404F"/><w:bottom w:val="single" w:sz="8" w:space="0" w:color="17404F"/><w:insideH w:val="single" w:sz="4" w:space="0" w:color="C9D6DA"/></w:tblBorders></w:tblPr><w:tblStylePr w:type="firstRow"><w:rPr><w:b/><w:bCs/><w:color w:val="17404F"/></w:rPr><w:tcPr><w:tcBorders><w:bottom w:val="single" w:sz="8" w:space="0" w:color="17404F"/></w:tcBorders><w:shd w:val="clear" w:color="auto" w:fill="E8EFF1"/></w:tcPr></w:tblStylePr><w:tblStylePr w:type="lastRow"><w:rPr><w:b/><w:bCs/></w:rPr><w:tcPr><w:tcBorders><w:top w:val="single" w:sz="8" w:space="0" w:color="17404F"/></w:tcBorders></w:tcPr></w:tblStylePr><w:tblStylePr w:type="firstCol"><w:rPr><w:b/><w:bCs/></w:rPr></w:tblStylePr>"#,
        "",
    ),
];

/// Colours and fonts by the names that Word offers them under.
pub(super) const THEME: &str = include_str!("theme.xml");

/// Fonts: name, family, and whether all letters are equally wide.
pub(super) const FONTS: [(&str, &str, bool); 3] =
    [("Calibri", "swiss", false), ("Consolas", "modern", true), ("MS Gothic", "modern", true)];
