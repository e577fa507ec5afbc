//! Tables (ECMA-376 part 1, 17.4).

use super::Writer;
use super::blocks::Around;
use super::looks::{points, push_borders, push_shading};
use super::markup::push_text;
use crate::document::{
    Attributes, Block, BlockKind, Cell, CellAlign, Direction, HeaderScope, Length, Looks, Placed,
    RowGroupKind, StyleKind, Table, VerticalAlign, WritingMode,
};

/// A cell that reaches into rows below.
#[derive(Clone, Copy)]
struct Reaching {
    column: usize,
    columns: usize,
    rows: usize,
}

impl<'d> Writer<'d> {
    pub(super) fn table(
        &mut self,
        block: &'d Block,
        table: &'d Table,
        around: &Around,
        out: &mut String,
    ) {
        let mut inner = around.inside(&block.attributes);
        inner.style = None;
        inner.is_top = false;
        if let Some(caption) = &table.caption {
            self.caption(caption, "Table", &inner, out);
            inner.ids.clear();
        }
        let (grids, starts) = table.grids();
        let width = starts.len();
        if width == 0 {
            return self.lost("a table without cells");
        }
        let is_filled = self.empty_cells.fill(table, width);
        if !is_filled {
            self.lost("the columns of a very wide table");
        }
        let widths = column_widths(table, &starts, self.text_width());
        out.push_str("<w:tbl>");
        self.table_properties(block, table, &inner, out);
        out.push_str("<w:tblGrid>");
        for width in &widths {
            out.push_str(&format!("<w:gridCol w:w=\"{width}\"/>"));
        }
        out.push_str("</w:tblGrid>");
        for grid in &grids {
            let mut reaching: Vec<Reaching> = Vec::new();
            for row in &grid.rows {
                let mut attributes = row.attributes.clone();
                let of_cells =
                    || row.cells.iter().find_map(|placed| placed.cell.attributes.looks()?.height);
                let height = take_height(&mut attributes).or_else(of_cells);
                self.report_attributes(&attributes);
                let mut of_row = inner.inside(row.attributes);
                out.push_str("<w:tr>");
                self.row_properties(grid.kind, height, &of_row, out);
                match is_filled {
                    true => self.row(table, &row.cells, &mut reaching, &widths, &of_row, out),
                    false => self.row_of_cells(&row.cells, &widths, &of_row, out),
                }
                of_row.ids.clear();
                inner.ids.clear();
                out.push_str("</w:tr>");
            }
        }
        out.push_str("</w:tbl>");
    }

    fn table_properties(
        &mut self,
        block: &Block,
        table: &Table,
        around: &Around,
        out: &mut String,
    ) {
        let name = block.attributes.style().unwrap_or(&self.options.styles.table);
        let looks = block.attributes.looks();
        // Cells that say how they look need no style that says it too.
        let name = if looks.is_some() && block.attributes.style().is_none() {
            "Normal Table"
        } else {
            name
        };
        let style = self.styles.id(StyleKind::Table, name);
        out.push_str(&format!("<w:tblPr><w:tblStyle w:val=\"{style}\"/>"));
        if around.direction == Some(Direction::RightToLeft) {
            out.push_str("<w:bidiVisual/>");
        }
        out.push_str("<w:tblW w:w=\"5000\" w:type=\"pct\"/>");
        if let Some(borders) = looks.and_then(|looks| looks.borders.as_deref()) {
            push_borders(out, "w:tblBorders", borders, [0.0; 4]);
        }
        out.push_str("<w:tblLayout w:type=\"fixed\"/>");
        let has = |kind: RowGroupKind| table.groups.iter().any(|group| group.kind == kind);
        let row_headers = has_row_headers(table);
        let flag = |state: bool| u8::from(state);
        if has(RowGroupKind::Foot) {
            self.changed("the foot of a table");
        }
        let (first, last) = (flag(has(RowGroupKind::Head)), flag(has(RowGroupKind::Foot)));
        let column = flag(row_headers);
        let bits = 0x400 | u32::from(first) << 5 | u32::from(last) << 6 | u32::from(column) << 7;
        out.push_str(&format!(
            "<w:tblLook w:val=\"{bits:04X}\" w:firstRow=\"{first}\" w:lastRow=\"{last}\" w:firstColumn=\"{column}\" w:lastColumn=\"0\" w:noHBand=\"0\" w:noVBand=\"1\"/>"
        ));
        if let Some(title) = block.attributes.pair("title") {
            let (title, description) = title.split_once('\n').unwrap_or((title, ""));
            for (name, text) in [("tblCaption", title), ("tblDescription", description)] {
                if !text.is_empty() {
                    out.push_str(&format!("<w:{name} w:val=\""));
                    push_text(out, text);
                    out.push_str("\"/>");
                }
            }
        }
        out.push_str("</w:tblPr>");
    }

    fn row_properties(
        &mut self,
        kind: RowGroupKind,
        height: Option<Length>,
        around: &Around,
        out: &mut String,
    ) {
        let mut inside = String::from("<w:cantSplit/>");
        if let Some(height) = height {
            let twips = super::markup::twips(points(height, None)).max(0);
            inside.push_str(&format!("<w:trHeight w:val=\"{twips}\"/>"));
        }
        if kind == RowGroupKind::Head {
            inside.push_str("<w:tblHeader/>");
        }
        if let Some(change) = &around.change {
            let name = if super::blocks::is_deletion(Some(change)) { "w:del" } else { "w:ins" };
            let mut values = String::new();
            self.push_change_values(change, &mut values);
            inside.push_str(&format!("<{name}{values}/>"));
        }
        out.push_str(&format!("<w:trPr>{inside}</w:trPr>"));
    }

    fn row(
        &mut self,
        table: &'d Table,
        cells: &[Placed<'d>],
        reaching: &mut Vec<Reaching>,
        widths: &[usize],
        around: &Around,
        out: &mut String,
    ) {
        let mut column = 0;
        let mut cells = cells.iter().peekable();
        let mut around = around.clone();
        let mut fresh = Vec::new();
        while column < widths.len() {
            let above = reaching.iter().find(|above| above.column == column).copied();
            if let Some(above) = above {
                open_cell(above.columns, Some(false), widths, column, out);
                out.push_str("</w:tcPr><w:p/></w:tc>");
                column += above.columns;
                continue;
            }
            let Some(placed) = cells.next_if(|placed| placed.column == column) else {
                // A place without a cell.
                open_cell(1, None, widths, column, out);
                out.push_str("</w:tcPr><w:p/></w:tc>");
                column += 1;
                continue;
            };
            let columns = placed.columns.min(widths.len() - column).max(1);
            let starts = (placed.rows > 1).then_some(true);
            open_cell(columns, starts, widths, column, out);
            let align = table.columns.get(column).and_then(|column| column.align);
            self.cell(placed.cell, align, &around, out);
            around.ids.clear();
            if placed.rows > 1 {
                fresh.push(Reaching { column, columns, rows: placed.rows });
            }
            column += columns;
        }
        reaching.iter_mut().for_each(|above| above.rows -= 1);
        reaching.extend(fresh.into_iter().map(|f| Reaching { rows: f.rows - 1, ..f }));
        reaching.retain(|above| above.rows > 0);
    }

    /// The cells that are there, one after the other.
    fn row_of_cells(
        &mut self,
        cells: &[Placed<'d>],
        widths: &[usize],
        around: &Around,
        out: &mut String,
    ) {
        let mut around = around.clone();
        for (column, placed) in cells.iter().enumerate() {
            open_cell(1, None, widths, column, out);
            self.cell(placed.cell, None, &around, out);
            around.ids.clear();
        }
        if cells.is_empty() {
            open_cell(1, None, widths, 0, out);
            out.push_str("</w:tcPr><w:p/></w:tc>");
        }
    }

    fn cell(
        &mut self,
        cell: &'d Cell,
        column: Option<CellAlign>,
        around: &Around,
        out: &mut String,
    ) {
        let mut attributes = cell.attributes.clone();
        // The row has it.
        take_height(&mut attributes);
        self.report_attributes(&attributes);
        let mut inner = around.inside(&cell.attributes);
        inner.align = cell.align.or(column);
        if let Some(looks) = cell.attributes.looks() {
            cell_looks(looks, out);
            let text = inner.looks.get_or_insert_default();
            text.weight = looks.weight.or(text.weight);
            text.italic = looks.italic.or(text.italic);
        }
        let vertical = cell.vertical.or(cell.attributes.looks().and_then(|looks| looks.vertical));
        match vertical {
            Some(VerticalAlign::Middle) => out.push_str("<w:vAlign w:val=\"center\"/>"),
            Some(VerticalAlign::Bottom) => out.push_str("<w:vAlign w:val=\"bottom\"/>"),
            Some(VerticalAlign::Top) | None => {}
        }
        out.push_str("</w:tcPr>");
        let start = out.len();
        self.blocks(&cell.content, &inner, out);
        // A cell ends with a paragraph (17.4.66).
        let ends_with_text = cell
            .content
            .last()
            .is_some_and(|block| !matches!(block.kind, BlockKind::Table(_) | BlockKind::Group(_)));
        if out.len() == start || !ends_with_text || !out.ends_with("</w:p>") {
            out.push_str("<w:p/>");
        }
        out.push_str("</w:tc>");
    }
}

/// Opens a cell up to its last properties. `starts` says whether it begins to reach down or goes on.
fn open_cell(
    columns: usize,
    starts: Option<bool>,
    widths: &[usize],
    column: usize,
    out: &mut String,
) {
    let width: usize = widths.iter().skip(column).take(columns).sum();
    out.push_str(&format!("<w:tc><w:tcPr><w:tcW w:w=\"{width}\" w:type=\"dxa\"/>"));
    if columns > 1 {
        out.push_str(&format!("<w:gridSpan w:val=\"{columns}\"/>"));
    }
    match starts {
        Some(true) => out.push_str("<w:vMerge w:val=\"restart\"/>"),
        Some(false) => out.push_str("<w:vMerge/>"),
        None => {}
    }
}

/// Borders, colour and space of a cell, in the order of the schema.
fn cell_looks(looks: &Looks, out: &mut String) {
    if let Some(borders) = looks.borders.as_deref() {
        push_borders(out, "w:tcBorders", borders, [0.0; 4]);
    }
    if let Some(background) = looks.background {
        push_shading(out, background);
    }
    if let Some([top, end, bottom, start]) = looks.padding {
        out.push_str("<w:tcMar>");
        for (side, length) in [("top", top), ("left", start), ("bottom", bottom), ("right", end)] {
            let twips = super::markup::twips(points(length, looks.size)).max(0);
            out.push_str(&format!("<w:{side} w:w=\"{twips}\" w:type=\"dxa\"/>"));
        }
        out.push_str("</w:tcMar>");
    }
    match looks.writing {
        Some(WritingMode::VerticalDown) => out.push_str("<w:textDirection w:val=\"tbRl\"/>"),
        Some(WritingMode::VerticalUp) => out.push_str("<w:textDirection w:val=\"btLr\"/>"),
        None => {}
    }
}

/// The height that attributes state, which rows can have.
fn take_height(attributes: &mut Attributes) -> Option<Length> {
    attributes.looks()?.height?;
    attributes.edit().looks.as_mut()?.height.take()
}

/// The widths of the columns in twentieths of a point; together that of the text.
fn column_widths(table: &Table, starts: &[usize], text_width: usize) -> Vec<usize> {
    let stated: Vec<Option<f32>> = starts
        .iter()
        .map(|start| table.columns.get(*start).and_then(|column| column.width))
        .collect();
    let known: f32 = stated.iter().flatten().sum();
    let missing = stated.iter().filter(|width| width.is_none()).count();
    // Columns that state no width share what is left.
    let rest =
        if missing > 0 { (1.0 - known).max(0.1 * missing as f32) / missing as f32 } else { 0.0 };
    let shares: Vec<f32> = stated.iter().map(|width| width.unwrap_or(rest).max(0.005)).collect();
    let total: f32 = shares.iter().sum();
    let mut done = 0.0;
    let mut before = 0;
    shares
        .iter()
        .map(|share| {
            done += share / total;
            let end = (done * text_width as f32).round() as usize;
            let width = end.saturating_sub(before).max(1);
            before = end;
            width
        })
        .collect()
}

fn has_row_headers(table: &Table) -> bool {
    let mut body = table.rows().filter(|(kind, _)| *kind != RowGroupKind::Head).peekable();
    body.peek().is_some()
        && body.all(|(_, row)| {
            row.cells.first().is_some_and(|cell| cell.header == Some(HeaderScope::Row))
        })
}
