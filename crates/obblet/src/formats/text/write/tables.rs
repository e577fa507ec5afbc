//! Tables drawn with characters.

use super::Writer;
use super::wrap::wrapped;
use crate::document::{CellAlign, RowGroupKind, Table};
use unicode_width::UnicodeWidthStr as _;

/// No column is made narrower than this to fit a line.
const NARROWEST: usize = 8;

/// One row as the lines of its cells.
struct DrawnRow {
    is_head: bool,
    cells: Vec<Vec<String>>,
}

impl Writer<'_> {
    pub(super) fn table(&mut self, table: &Table, width: Option<usize>) -> Vec<String> {
        let mut rows = self.cells(table, None);
        let columns = rows.iter().map(|row| row.cells.len()).max().unwrap_or(0);
        if columns == 0 {
            return Vec::new();
        }
        let mut widths = widths(&rows, columns);
        if let Some(width) = width {
            narrow(&mut widths, width.saturating_sub(3 * (columns - 1)));
            for row in &mut rows {
                for (cell, width) in row.cells.iter_mut().zip(&widths) {
                    *cell = cell.iter().flat_map(|line| wrapped(line, Some(*width))).collect();
                }
            }
        }
        let mut lines = match &table.caption {
            Some(caption) => self.caption(caption, width),
            None => Vec::new(),
        };
        let aligns: Vec<Option<CellAlign>> =
            table.columns.iter().map(|column| column.align).collect();
        for (at, row) in rows.iter().enumerate() {
            let ends_head = at > 0 && !row.is_head && rows.get(at - 1).is_some_and(|r| r.is_head);
            if ends_head {
                lines.push(rule(&widths));
            }
            lines.extend(drawn(row, &widths, &aligns));
        }
        lines
    }

    fn cells(&mut self, table: &Table, width: Option<usize>) -> Vec<DrawnRow> {
        let mut rows = Vec::new();
        // For each column, how many rows a cell from above still covers.
        let mut covered: Vec<u32> = Vec::new();
        for (kind, row) in table.rows() {
            let mut cells: Vec<Vec<String>> = Vec::new();
            for cell in &row.cells {
                while let Some(rows @ 1..) = covered.get(cells.len()).copied() {
                    if let Some(left) = covered.get_mut(cells.len()) {
                        *left = rows - 1;
                    }
                    cells.push(Vec::new());
                }
                if cell.column_span > 1 || cell.row_span > 1 {
                    self.lost("cells that span others");
                }
                let lines = self.blocks(&cell.content, width);
                let lines = lines.into_iter().filter(|line| !line.is_empty()).collect();
                let at = cells.len();
                cells.push(lines);
                let columns = cell.column_span.clamp(1, 1000) as usize;
                cells.extend(std::iter::repeat_n(Vec::new(), columns - 1));
                if covered.len() < at + columns {
                    covered.resize(at + columns, 0);
                }
                if let Some(columns) = covered.get_mut(at..at + columns) {
                    columns.fill(cell.row_span.saturating_sub(1));
                }
            }
            rows.push(DrawnRow { is_head: kind == RowGroupKind::Head, cells });
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
    let line = |at: usize| {
        let cell = |(column, width): (usize, &usize)| {
            let text = row.cells.get(column).and_then(|lines| lines.get(at));
            padded(text.map_or("", String::as_str), *width, aligns.get(column).copied().flatten())
        };
        let cells: Vec<String> = widths.iter().enumerate().map(cell).collect();
        cells.join(" | ").trim_end().to_string()
    };
    (0..height).map(line).collect()
}

fn padded(text: &str, width: usize, align: Option<CellAlign>) -> String {
    let room = width.saturating_sub(text.width());
    let before = match align {
        Some(CellAlign::End) => room,
        Some(CellAlign::Centre) => room / 2,
        Some(CellAlign::Start) | None => 0,
    };
    format!("{}{text}{}", " ".repeat(before), " ".repeat(room - before))
}
