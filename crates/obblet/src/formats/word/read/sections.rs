//! Sections (ECMA-376 part 1, 17.6): columns, page headers and footers. The size of the paper says
//! nothing on a page that has no sheets.

use super::super::xml::{Element, Xml};
use super::context::Context;
use super::notes::note_numbers;
use crate::document::CompactString;

/// What a section says of itself.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct Section {
    /// 1 where the text is not set in columns.
    pub(super) columns: u8,
    /// Goes on without a new page or column.
    pub(super) is_continuous: bool,
    /// The first page has a header and footer of its own.
    pub(super) has_first_page: bool,
    pub(super) right_to_left: bool,
    /// Relationships of headers and footers, with the pages they are for.
    pub(super) running: Vec<Running>,
    /// The width between the margins, in points.
    pub(super) text_width: Option<f32>,
}

/// A header or footer.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Running {
    pub(super) is_header: bool,
    /// `first`, `even` or `default`.
    pub(super) pages: CompactString,
    pub(super) relationship: CompactString,
}

impl Section {
    /// Reads the properties below `w:sectPr`.
    pub(super) fn read(xml: &mut Xml<'_>, context: &mut Context<'_>) -> Self {
        let mut found = Self { columns: 1, ..Self::default() };
        let (mut page_width, mut margins) = (None, 0.0);
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "headerReference" => found.running.extend(running(&element, true)),
                "footerReference" => found.running.extend(running(&element, false)),
                "cols" => {
                    let inside = xml.level();
                    while let Some(column) = xml.child(inside) {
                        // How wide each is.
                        if !column.is("col") {
                            context.unknown(&column);
                        }
                    }
                    let stated = element.number("num").unwrap_or(1);
                    // Columns of different widths are counted by their elements.
                    found.columns = u8::try_from(stated).unwrap_or(1).clamp(1, 45);
                }
                "type" => found.is_continuous = element.val().as_deref() == Some("continuous"),
                "titlePg" => found.has_first_page = element.is_on(),
                "bidi" => found.right_to_left = element.is_on(),
                "pgSz" => page_width = element.twips("w"),
                "pgMar" => {
                    let side = |names| element.twips_of(names).unwrap_or_default();
                    margins = side(["left", "start"]) + side(["right", "end"]);
                }
                "pgBorders" => context.looks.count("page borders"),
                "lnNumType" => context.looks.count("line numbers"),
                "textDirection" => context.looks.count("text direction"),
                "sectPrChange" => context.lost.push("a tracked change of looks"),
                // About paper, printers and where notes stand on it.
                "docGrid" | "paperSrc" | "pgNumType" | "vAlign" | "noEndnote" | "formProt"
                | "rtlGutter" | "printerSettings" | "footnoteColumns" => {}
                "footnotePr" | "endnotePr" => note_numbers(xml, context),
                _ => context.unknown(&element),
            }
        }
        found.text_width = page_width.map(|width| width - margins).filter(|width| *width > 36.0);
        found
    }

    /// The header or the footer of the section's first page.
    pub(super) fn running(&self, is_header: bool) -> Option<&Running> {
        let of = |pages: &str| {
            self.running.iter().find(|found| found.is_header == is_header && found.pages == pages)
        };
        if self.has_first_page { of("first") } else { of("default") }
    }
}

fn running(element: &Element<'_>, is_header: bool) -> Option<Running> {
    let pages = element.value("type").map_or("default".into(), Into::into);
    Some(Running { is_header, pages, relationship: element.value("id")?.into() })
}
