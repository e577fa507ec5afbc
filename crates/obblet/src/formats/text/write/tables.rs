//! Tables drawn with characters.

use super::Writer;
use super::wrap::wrapped;
use crate::document::{CellAlign, Grid, Placed, RowGroupKind, Table};
use unicode_width::UnicodeWidthStr as _;

/// Tables of more columns are not drawn: every row would have all of them.
const MOST_COLUMNS: usize = 100;

/// No column is made narrower than this to fit a line.
const NARROWEST: usize = 8;

/// One row as the lines of its cells.
struct DrawnRow {
    is_head: bool,
    cells: Vec<Vec<String>>,
}

impl Writer<'_> {
    pub(super) fn table(&mut self, table: &Table, width: Option<usize>) -> Vec<String> {
        let (grids, starts) = table.grids();
        let columns = starts.len();
        if columns == 0 {
            return Vec::new();
        }
        let mut lines = match &table.caption {
            Some(caption) => self.caption(caption, width),
            None => Vec::new(),
        };
        if table.groups.iter().any(|group| group.kind == RowGroupKind::Foot) {
            self.changed("the foot of a table");
        }
        if columns == 1 {
            self.changed("a table of one column");
        }
        if columns > MOST_COLUMNS {
            lines.extend(self.undrawn(&grids, width));
            return lines;
        }
        let mut rows = self.rows(&grids, columns);
        let mut widths = widths(&rows, columns);
        if let Some(width) = width {
            narrow(&mut widths, width.saturating_sub(3 * (columns - 1)));
            for row in &mut rows {
                for (cell, width) in row.cells.iter_mut().zip(&widths) {
                    *cell = cell.iter().flat_map(|line| wrapped(line, Some(*width))).collect();
                }
            }
        }
        let align = |start: &usize| table.columns.get(*start).and_then(|column| column.align);
        let aligns: Vec<Option<CellAlign>> = starts.iter().map(align).collect();
        for (at, row) in rows.iter().enumerate() {
            let ends_head = at > 0 && !row.is_head && rows.get(at - 1).is_some_and(|r| r.is_head);
            if ends_head {
                lines.push(rule(&widths));
            }
            lines.extend(drawn(row, &widths, &aligns));
        }
        lines
    }

    /// The rows as their cells one behind the other.
    fn undrawn(&mut self, grids: &[Grid<'_>], width: Option<usize>) -> Vec<String> {
        self.lost("the columns of a very wide table");
        let rows = grids.iter().flat_map(|grid| &grid.rows);
        rows.flat_map(|row| {
            let cells = row.cells.iter().map(|placed| self.cell(placed).join(" "));
            wrapped(&cells.collect::<Vec<_>>().join(" | "), width)
        })
        .collect()
    }

    fn cell(&mut self, placed: &Placed<'_>) -> Vec<String> {
        if placed.columns > 1 || placed.rows > 1 {
            self.lost("cells that span others");
        }
        let mut lines = self.blocks(&placed.cell.content, None);
        lines.retain(|line| !line.is_empty());
        lines
    }

    fn rows(&mut self, grids: &[Grid<'_>], columns: usize) -> Vec<DrawnRow> {
        let mut rows = Vec::new();
        for grid in grids {
            for row in &grid.rows {
                let mut cells = vec![Vec::new(); columns];
                for placed in &row.cells {
                    let lines = self.cell(placed);
                    if let Some(cell) = cells.get_mut(placed.column) {
                        *cell = lines;
                    }
                }
                rows.push(DrawnRow { is_head: grid.kind == RowGroupKind::Head, cells });
            }
        }
        rows
    }
}

fn widths(rows: &[DrawnRow], columns: usize) -> Vec<usize> {
    let mut widths = vec![1; columns];
    for row in rows {
        for (cell, width) in row.cells.iter().zip(&mut widths) {
            let widest = cell.iter().map(|line| line.width()).max().unwrap_or(0);
            *width = widest.max(*width);
        }
    }
    widths
}

/// Makes the widest columns narrower until all fit, or none can be narrower.
fn narrow(widths: &mut [usize], room: usize) {
    let total: usize = widths.iter().sum();
    let mut over = total.saturating_sub(room);
    while over > 0 {
        // The widest goes down to the next one, all of that width together.
        let widest = widths.iter().copied().max().unwrap_or(0);
        if widest <= NARROWEST {
            return;
        }
        let next = widths.iter().copied().filter(|width| *width < widest).max().unwrap_or(0);
        let count = widths.iter().filter(|width| **width == widest).count();
        let step = (widest - next.max(NARROWEST)).min(over.div_ceil(count)).max(1);
        for width in widths.iter_mut().filter(|width| **width == widest) {
            let less = step.min(over);
            *width -= less;
            over -= less;
        }
    }
}

fn rule(widths: &[usize]) -> String {
    let dashes: Vec<String> = widths.iter().map(|width| "-".repeat(*width)).collect();
    dashes.join("-+-")
}

fn drawn(row: &DrawnRow, widths: &[usize], aligns: &[Option<CellAlign>]) -> Vec<String> {
    let height = row.cells.iter().map(Vec::len).max().unwrap_or(0).max(1);
    let drawn_line = |at: usize| {
        let mut line = String::new();
        for (column, width) in widths.iter().enumerate() {
            if column > 0 {
                line.push_str(" | ");
            }
            let text = row.cells.get(column).and_then(|lines| lines.get(at));
            let align = aligns.get(column).copied().flatten();
            push_padded(text.map_or("", String::as_str), *width, align, &mut line);
        }
        line.truncate(line.trim_end().len());
        line
    };
    (0..height).map(drawn_line).collect()
}

fn push_padded(text: &str, width: usize, align: Option<CellAlign>, line: &mut String) {
    let room = width.saturating_sub(text.width());
    let before = match align {
        Some(CellAlign::End) => room,
        Some(CellAlign::Centre) => room / 2,
        Some(CellAlign::Start) | None => 0,
    };
    line.extend(std::iter::repeat_n(' ', before));
    line.push_str(text);
    line.extend(std::iter::repeat_n(' ', room - before));
}
