//! Tables.

use super::{Need, Writer};
use crate::document::{
    Attributes, Block, BlockKind, Cell, CellAlign, Column, Grid, HeaderScope, Inline, LineBreak,
    Placed, RowGroupKind, Table, plain_text,
};

/// More rows than these go over pages.
const LONG: usize = 30;

/// More characters than these are set in a column that breaks lines.
const WIDE: usize = 34;

/// So many columns alike are still written one by one.
const MANY_ALIKE: usize = 12;

impl Writer<'_> {
    pub(super) fn table(&mut self, table: &Table, attributes: &Attributes) {
        let rows = table.rows().count();
        let (grids, starts) = table.grids();
        let width = starts.len();
        if rows == 0 || width == 0 {
            return self.lost("a table without cells");
        }
        self.need(Need::Booktabs);
        let columns = columns_of(table, &grids, &starts);
        let breaks = columns.iter().any(|column| column.contains('X'));
        let is_inner = self.is_argument || self.is_cell;
        let is_long = rows > LONG && !is_inner && !breaks;
        let specification = specification_of(&columns);
        if specification.contains('>') {
            self.need(Need::Array);
        }
        self.paragraph_break();
        let label = self.label(attributes);
        let is_float = table.caption.is_some() && !is_long && !is_inner;
        if is_float {
            self.out.push_str("\\begin{table}[htbp]\n\\centering\n");
            if let Some(caption) = &table.caption {
                self.caption(caption);
            }
            if !label.is_empty() {
                self.out.push_str(&format!("{label}\n"));
            }
        }
        let end = match (is_long, breaks) {
            (true, _) => {
                self.need(Need::Longtable);
                self.out.push_str(&format!("\\begin{{longtable}}{{{specification}}}\n"));
                if let Some(caption) = &table.caption {
                    self.caption(caption);
                    let length = self.out.trim_end().len();
                    self.out.truncate(length);
                    self.out.push_str(&format!("{label}\\\\\n"));
                }
                "longtable"
            }
            (false, true) => {
                self.need(Need::Tabularx);
                self.out
                    .push_str(&format!("\\begin{{tabularx}}{{\\linewidth}}{{{specification}}}\n"));
                "tabularx"
            }
            (false, false) => {
                self.out.push_str(&format!("\\begin{{tabular}}{{{specification}}}\n"));
                "tabular"
            }
        };
        if is_inner && table.caption.is_some() {
            self.lost("the caption of a table inside of another one");
        }
        let is_filled = self.empty_cells.fill(table, width);
        if !is_filled {
            self.lost("the columns of a very wide table");
        }
        self.rows(&grids, &columns, is_long, is_filled);
        self.out.push_str(&format!("\\end{{{end}}}\n"));
        if is_float {
            self.out.push_str("\\end{table}\n");
        } else if !is_long && !label.is_empty() {
            self.out.push_str(&format!("\\phantomsection{label}\n"));
        }
    }

    fn rows(&mut self, grids: &[Grid<'_>], columns: &[String], is_long: bool, is_filled: bool) {
        self.out.push_str("\\toprule\n");
        let mut is_head = true;
        for (at, grid) in grids.iter().enumerate() {
            if grid.rows.is_empty() {
                continue;
            }
            if at > 0 && is_head && grid.kind != RowGroupKind::Head {
                self.out.push_str("\\midrule\n");
                if is_long {
                    self.out.push_str("\\endhead\n");
                }
            } else if at > 0 && grid.kind == RowGroupKind::Foot {
                self.out.push_str("\\midrule\n");
            }
            is_head = grid.kind == RowGroupKind::Head;
            if grid.kind == RowGroupKind::Foot {
                self.lost("that rows are the foot of a table");
            }
            // How many rows and columns a cell from above still covers.
            let mut covered: Vec<(usize, usize)> = vec![(0, 0); columns.len()];
            for row in &grid.rows {
                self.report_attributes(row.attributes);
                match is_filled {
                    true => self.row(&row.cells, grid.kind, columns, &mut covered),
                    false => self.row_of_cells(&row.cells, grid.kind),
                }
            }
        }
        self.out.push_str("\\bottomrule\n");
    }

    fn row(
        &mut self,
        cells: &[Placed<'_>],
        kind: RowGroupKind,
        columns: &[String],
        covered: &mut [(usize, usize)],
    ) {
        let mut cells = cells.iter().peekable();
        let mut at = 0;
        while at < columns.len() {
            if at > 0 {
                self.out.push_str(" & ");
            }
            if let Some(placed) = cells.next_if(|placed| placed.column == at) {
                let column = columns.get(at).map_or("l", String::as_str);
                self.cell(placed, column, kind);
                if let Some(place) = covered.get_mut(at) {
                    *place = (placed.rows.saturating_sub(1), placed.columns);
                }
                at += placed.columns;
                continue;
            }
            let (rows, span) = covered.get(at).copied().unwrap_or_default();
            if rows > 0 {
                if let Some(place) = covered.get_mut(at) {
                    place.0 -= 1;
                }
                if span > 1 {
                    self.out.push_str(&format!("\\multicolumn{{{span}}}{{l}}{{}}"));
                }
                at += span.max(1);
            } else {
                at += 1;
            }
        }
        let length = self.out.trim_end_matches(' ').len();
        self.out.truncate(length);
        self.out.push_str(" \\\\\n");
    }

    /// The cells that are there, one after the other.
    fn row_of_cells(&mut self, cells: &[Placed<'_>], kind: RowGroupKind) {
        for (at, placed) in cells.iter().enumerate() {
            if at > 0 {
                self.out.push_str(" & ");
            }
            self.cell(&Placed { cell: placed.cell, column: at, columns: 1, rows: 1 }, "l", kind);
        }
        self.out.push_str(" \\\\\n");
    }

    fn cell(&mut self, placed: &Placed<'_>, column: &str, kind: RowGroupKind) {
        let cell = placed.cell;
        self.report_attributes(&cell.attributes);
        if cell.header.is_some() && kind != RowGroupKind::Head {
            self.lost("that a cell is a header of its row");
        }
        if kind == RowGroupKind::Head && cell.header == Some(HeaderScope::Row) {
            self.lost("what a header is a header of");
        }
        if cell.vertical.is_some() {
            self.lost("where content stands in a high cell");
        }
        let was_cell = std::mem::replace(&mut self.is_cell, true);
        let written = self.apart(|writer| {
            let label = writer.label(&cell.attributes);
            writer.out.push_str(&label);
            match is_plain_line(&cell.content) {
                true => writer.as_line(&cell.content),
                false => writer.inside(&cell.content),
            }
        });
        self.is_cell = was_cell;
        let mut written = written.trim().to_string();
        if placed.rows > 1 {
            self.need(Need::Multirow);
            written = format!("\\multirow{{{}}}{{*}}{{{written}}}", placed.rows);
        }
        // A cell that is aligned in its own way says so like one over several columns.
        if placed.columns > 1 || cell.align.is_some() {
            let align = match (cell.align, column) {
                (Some(CellAlign::Centre), _) => "c",
                (Some(CellAlign::End), _) => "r",
                (Some(CellAlign::Start), _) => "l",
                (None, "c") => "c",
                (None, "r") => "r",
                _ => "l",
            };
            let is_broken = written.contains("\\newline") || written.contains("\n\n");
            let align = if is_broken { "p{0.4\\linewidth}" } else { align };
            written = format!("\\multicolumn{{{}}}{{{align}}}{{{written}}}", placed.columns);
        }
        // Brackets behind a row's end would be read as its room.
        if written.starts_with('[') {
            written.insert_str(0, "{}");
        }
        self.out.push_str(&written);
    }
}

/// The columns as a table's argument says them.
fn specification_of(columns: &[String]) -> String {
    let mut specification = String::new();
    for alike in columns.chunk_by(|one, next| one == next) {
        match alike {
            [column, ..] if alike.len() > MANY_ALIKE => {
                specification.push_str(&format!("*{{{}}}{{{column}}}", alike.len()));
            }
            _ => specification.push_str(&alike.concat()),
        }
    }
    specification
}

/// One column after the other: by its alignment, its width, and how long its cells are.
fn columns_of(table: &Table, grids: &[Grid<'_>], starts: &[usize]) -> Vec<String> {
    let width = starts.len();
    let mut breaks = vec![false; width];
    let mut longest = vec![0; width];
    let rows = grids.iter().flat_map(|grid| &grid.rows);
    for placed in rows.flat_map(|row| &row.cells).filter(|placed| placed.columns == 1) {
        if let Some(known) = longest.get_mut(placed.column) {
            *known = cell_length(placed.cell).max(*known);
        }
        if let Some(breaks) = breaks.get_mut(placed.column) {
            *breaks |= !is_plain_line(&placed.cell.content);
        }
    }
    let is_wide = longest.iter().sum::<usize>() > 75;
    let column = |at: usize| {
        let start = starts.get(at).copied().unwrap_or(at);
        let Column { align, width, .. } = table.columns.get(start).copied().unwrap_or_default();
        let length = longest.get(at).copied().unwrap_or(0);
        let breaks =
            breaks.get(at).copied().unwrap_or(false) || length > 200 || (is_wide && length > WIDE);
        let declared = match align {
            Some(CellAlign::Centre) => ">{\\centering\\arraybackslash}",
            Some(CellAlign::End) => ">{\\raggedleft\\arraybackslash}",
            _ => "",
        };
        match (width, breaks, align) {
            (Some(width), ..) => {
                let width = (width * 100.0).round() / 100.0;
                format!("{declared}p{{{width}\\linewidth}}")
            }
            (None, true, _) => format!("{declared}X"),
            (None, false, Some(CellAlign::Centre)) => "c".to_string(),
            (None, false, Some(CellAlign::End)) => "r".to_string(),
            (None, false, _) => "l".to_string(),
        }
    };
    (0..width).map(column).collect()
}

/// Whether a cell is one paragraph without line breaks.
fn is_plain_line(content: &[Block]) -> bool {
    match content {
        [] => true,
        [Block { kind: BlockKind::Paragraph(inlines), attributes, .. }] => {
            attributes.id().is_none()
                && !inlines.iter().any(|inline| matches!(inline, Inline::Break(LineBreak::Hard)))
        }
        _ => false,
    }
}

fn cell_length(cell: &Cell) -> usize {
    let of_block = |block: &Block| match &block.kind {
        BlockKind::Paragraph(inlines) => plain_text(inlines).chars().count(),
        _ => WIDE * 2,
    };
    cell.content.iter().map(of_block).sum()
}
