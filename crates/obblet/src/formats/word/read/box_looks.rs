//! The looks of boxes: borders, shading, margins and alignment of tables, regions and cells (ECMA-376
//! part 1, 17.4).

use super::super::xml::{Element, Xml};
use super::context::Context;
use super::run_properties::shading;
use super::values::{border, points};
use crate::document::{
    Border, BorderLine, Borders, Colour, Length, Looks, TextAlign, VerticalAlign, WritingMode,
};

/// Borders around and inside.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub(super) struct Edges {
    top: Option<Border>,
    end: Option<Border>,
    bottom: Option<Border>,
    start: Option<Border>,
    inside_rows: Option<Border>,
    inside_columns: Option<Border>,
}

/// What a table, a region or a cell states of boxes.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct BoxLooks {
    pub(super) edges: Edges,
    pub(super) background: Option<Colour>,
    /// Space inside a cell: top, end, bottom, start.
    pub(super) margins: [Option<f32>; 4],
    pub(super) vertical: Option<VerticalAlign>,
    pub(super) writing: Option<WritingMode>,
    pub(super) align: Option<TextAlign>,
    pub(super) indent: Option<f32>,
    pub(super) width: Option<Length>,
    pub(super) cell_spacing: Option<f32>,
}

impl BoxLooks {
    /// Reads a property of a table, row or cell; gives false for those that are no looks of boxes.
    pub(super) fn property(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        context: &mut Context<'_>,
    ) -> bool {
        if !context.keeps_looks {
            return false;
        }
        match element.local() {
            "tblBorders" | "tcBorders" => self.edges.read(xml, context),
            "shd" => self.background = shading(element, context),
            "tblCellMar" | "tcMar" => self.read_margins(xml, context),
            "vAlign" => self.vertical = vertical(element),
            "textDirection" => {
                self.writing = match element.val().as_deref() {
                    Some("tbRl" | "rl" | "tbRlV" | "tbV" | "rlV") => {
                        Some(WritingMode::VerticalDown)
                    }
                    Some("btLr" | "lr" | "lrV") => Some(WritingMode::VerticalUp),
                    _ => None,
                };
            }
            "jc" => self.align = super::paragraph_properties::alignment(element.val().as_deref()),
            "tblInd" => self.indent = element.twips("w"),
            "tblW" => self.width = width(element),
            "tblCellSpacing" => self.cell_spacing = element.twips("w"),
            _ => return false,
        }
        true
    }

    fn read_margins(&mut self, xml: &mut Xml<'_>, context: &mut Context<'_>) {
        let level = xml.level();
        while let Some(side) = xml.child(level) {
            let at = match side.local() {
                "top" => 0,
                "end" | "right" => 1,
                "bottom" => 2,
                "start" | "left" => 3,
                _ => {
                    context.unknown(&side);
                    continue;
                }
            };
            if let Some(margin) = self.margins.get_mut(at) {
                *margin = side.twips("w");
            }
        }
    }

    /// Takes over what a stronger level states.
    pub(super) fn replace_by(&mut self, stronger: &Self) {
        self.edges.replace_by(&stronger.edges);
        self.background = stronger.background.or(self.background);
        for (margin, stated) in self.margins.iter_mut().zip(stronger.margins) {
            *margin = stated.or(*margin);
        }
        self.vertical = stronger.vertical.or(self.vertical);
        self.writing = stronger.writing.or(self.writing);
        self.align = stronger.align.or(self.align);
        self.indent = stronger.indent.or(self.indent);
        self.width = stronger.width.or(self.width);
        self.cell_spacing = stronger.cell_spacing.or(self.cell_spacing);
    }
}

/// A preferred width (17.4.63): a length, or a share in fiftieths of a percent.
fn width(element: &Element<'_>) -> Option<Length> {
    let stated = element.value("w")?;
    if element.value("type").as_deref() == Some("pct") || stated.ends_with('%') {
        let number = match stated.strip_suffix('%') {
            Some(percent) => percent.parse::<f32>().ok()? / 100.0,
            None => stated.parse::<f32>().ok()? / 5000.0,
        };
        return Some(Length::Share(number.clamp(0.0, 1.0))).filter(|_| number > 0.0);
    }
    points(&stated, 20.0).filter(|width| *width > 0.0).map(Length::Points)
}

fn vertical(element: &Element<'_>) -> Option<VerticalAlign> {
    match element.val().as_deref() {
        Some("center") => Some(VerticalAlign::Middle),
        Some("bottom") => Some(VerticalAlign::Bottom),
        _ => None,
    }
}

impl Edges {
    fn read(&mut self, xml: &mut Xml<'_>, context: &mut Context<'_>) {
        let level = xml.level();
        while let Some(side) = xml.child(level) {
            let place = match side.local() {
                "top" => &mut self.top,
                "end" | "right" => &mut self.end,
                "bottom" => &mut self.bottom,
                "start" | "left" => &mut self.start,
                "insideH" => &mut self.inside_rows,
                "insideV" => &mut self.inside_columns,
                "tl2br" | "tr2bl" => {
                    context.looks.count("diagonal borders");
                    continue;
                }
                _ => {
                    context.unknown(&side);
                    continue;
                }
            };
            *place = Some(border(&side, context.theme).0);
        }
    }

    pub(super) fn replace_by(&mut self, stronger: &Self) {
        self.top = stronger.top.or(self.top);
        self.end = stronger.end.or(self.end);
        self.bottom = stronger.bottom.or(self.bottom);
        self.start = stronger.start.or(self.start);
        self.inside_rows = stronger.inside_rows.or(self.inside_rows);
        self.inside_columns = stronger.inside_columns.or(self.inside_columns);
    }

    /// The borders of one cell of a table or region that these are the edges of.
    pub(super) fn of_cell(&self, outer: [bool; 4]) -> Borders {
        let [top, end, bottom, start] = outer;
        let side = |is_outer: bool, outside: Option<Border>, inside: Option<Border>| {
            if is_outer { outside } else { inside }
        };
        Borders {
            top: side(top, self.top, self.inside_rows),
            end: side(end, self.end, self.inside_columns),
            bottom: side(bottom, self.bottom, self.inside_rows),
            start: side(start, self.start, self.inside_columns),
        }
    }
}

pub(super) fn put_over(borders: &mut Borders, stronger: Borders) {
    borders.top = stronger.top.or(borders.top);
    borders.end = stronger.end.or(borders.end);
    borders.bottom = stronger.bottom.or(borders.bottom);
    borders.start = stronger.start.or(borders.start);
}

impl BoxLooks {
    /// The looks of the table as a whole.
    pub(super) fn of_table(&self) -> Looks {
        Looks {
            width: self.width,
            indent_start: self.indent.filter(|indent| *indent != 0.0).map(Length::Points),
            box_align: self.align.filter(|align| *align != TextAlign::Start),
            cell_spacing: Some(Length::Points(self.cell_spacing.unwrap_or_default())),
            ..Looks::default()
        }
    }
}

/// Borders that say no line at all are none.
pub(super) fn shown(borders: Borders) -> Option<Borders> {
    let drawn = |side: Option<Border>| side.filter(|border| border.line != BorderLine::None);
    let Borders { top, end, bottom, start } = borders;
    let borders =
        Borders { top: drawn(top), end: drawn(end), bottom: drawn(bottom), start: drawn(start) };
    (borders != Borders::default()).then_some(borders)
}
