//! The grid of a table (ECMA-376 part 1, 17.4): rows as Word has them, with a cell for each place, and
//! the cells that are made of them.

use super::box_looks::BoxLooks;
use crate::document::{
    Block, BlockKind, Cell, CellAlign, HeaderScope, Length, Revision, Row, RowGroup, RowGroupKind,
};

/// A cell with what Word says of its place in the grid.
pub(super) struct GridCell {
    pub(super) cell: Cell,
    pub(super) column: usize,
    pub(super) merge: VerticalMerge,
    /// Part of the cell before it, in the oldest way of joining cells.
    pub(super) goes_on_across: bool,
    pub(super) boxed: BoxLooks,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum VerticalMerge {
    /// A cell of its own, or the first of several.
    Starts,
    /// Part of the cell above.
    GoesOn,
}

/// A row before its cells are merged.
#[derive(Default)]
pub(super) struct GridRow {
    pub(super) cells: Vec<GridCell>,
    pub(super) is_header: bool,
    /// A tracked change of the row as a whole.
    pub(super) change: Option<Revision>,
    pub(super) height: Option<Length>,
    /// Properties of the row that stand over those of the table.
    pub(super) exceptions: BoxLooks,
}

/// Puts an empty cell where grid columns are left out.
pub(super) fn fill(row: &mut GridRow, column: &mut usize, count: usize) {
    if count > 0 {
        let cell = Cell { column_span: count as u32, ..Cell::default() };
        row.cells.push(GridCell {
            cell,
            column: *column,
            merge: VerticalMerge::Starts,
            goes_on_across: false,
            boxed: BoxLooks::default(),
        });
        *column += count;
    }
}

/// Rows that end before the others do so with an empty cell.
pub(super) fn fill_short_rows(rows: &mut [GridRow]) {
    let end = |row: &GridRow| {
        row.cells.last().map_or(0, |cell| cell.column + cell.cell.column_span as usize)
    };
    let widest = rows.iter().map(end).max().unwrap_or_default();
    for row in rows {
        let mut column = end(row);
        let missing = widest.saturating_sub(column);
        fill(row, &mut column, missing);
    }
}

/// Every cell ends with a paragraph, also one that holds a table: that one is no space.
pub(super) fn drop_empty_end(cell: &mut Cell) {
    let is_empty =
        |block: &Block| matches!(&block.kind, BlockKind::Paragraph(content) if content.is_empty());
    if cell.content.last().is_some_and(is_empty) {
        cell.content.pop();
    }
}

/// Makes one cell of each that goes on below.
pub(super) fn merged(rows: Vec<GridRow>) -> Vec<Row> {
    let mut done: Vec<Row> = Vec::with_capacity(rows.len());
    // The grid columns of the last row, with the row and index of the cell that may go on in the next.
    let mut open: Vec<(usize, (usize, usize))> = Vec::new();
    for (index, grid_row) in rows.into_iter().enumerate() {
        let mut row = Row::default();
        let mut next = Vec::with_capacity(grid_row.cells.len());
        let mut above = open.into_iter().peekable();
        for grid_cell in grid_row.cells {
            while above.next_if(|(column, _)| *column < grid_cell.column).is_some() {}
            let over = above.next_if(|(column, _)| *column == grid_cell.column);
            let owner = match (grid_cell.merge, over) {
                (VerticalMerge::GoesOn, Some((_, owner))) => {
                    extend(&mut done, owner, grid_cell.cell);
                    owner
                }
                _ => {
                    row.cells.push(grid_cell.cell);
                    (index, row.cells.len() - 1)
                }
            };
            next.push((grid_cell.column, owner));
        }
        done.push(row);
        open = next;
    }
    done
}

/// Lets a cell reach one row further down; content that stood there stays with it.
fn extend(rows: &mut [Row], (row, index): (usize, usize), below: Cell) {
    if let Some(cell) = rows.get_mut(row).and_then(|row| row.cells.get_mut(index)) {
        cell.row_span += 1;
        cell.content.extend(below.content);
    }
}

/// Takes the alignment that all cells of a column have who hold anything to the column.
pub(super) fn column_aligns(rows: &mut [Row], width: usize) -> Vec<Option<CellAlign>> {
    let mut found: Vec<Option<Option<CellAlign>>> = vec![None; width];
    each_cell(rows, |column, cell| {
        let holds_nothing = cell.content.is_empty();
        let Some(known) = found.get_mut(column).filter(|_| !holds_nothing) else { return };
        *known = match known {
            None => Some(cell.align),
            Some(align) if *align == cell.align => Some(*align),
            Some(_) => Some(None),
        };
    });
    let aligns: Vec<Option<CellAlign>> = found.into_iter().map(Option::flatten).collect();
    each_cell(rows, |column, cell| {
        if cell.align.is_some() && aligns.get(column).copied().flatten() == cell.align {
            cell.align = None;
        }
    });
    aligns
}

/// Calls with each cell that is one column wide, and the number of its column.
fn each_cell(rows: &mut [Row], mut call: impl FnMut(usize, &mut Cell)) {
    // For each column that a cell reached over from above, the first row that it does not cover.
    let mut first_free: Vec<usize> = Vec::new();
    for (index, row) in rows.iter_mut().enumerate() {
        let mut column = 0;
        for cell in &mut row.cells {
            while first_free.get(column).is_some_and(|first| *first > index) {
                column += 1;
            }
            let end = column + cell.column_span as usize;
            if cell.row_span > 1 {
                if first_free.len() < end {
                    first_free.resize(end, 0);
                }
                if let Some(columns) = first_free.get_mut(column..end) {
                    columns.fill(index + cell.row_span as usize);
                }
            }
            if cell.column_span == 1 {
                call(column, cell);
            }
            column = end;
        }
    }
}

pub(super) fn row_groups(mut rows: Vec<Row>, headers: usize, first_column: bool) -> Vec<RowGroup> {
    let headers = headers.min(rows.len());
    for row in rows.iter_mut().take(headers) {
        row.cells.iter_mut().for_each(|cell| cell.header = Some(HeaderScope::Column));
    }
    if first_column {
        for row in rows.iter_mut().skip(headers) {
            if let Some(cell) = row.cells.first_mut() {
                cell.header = Some(HeaderScope::Row);
            }
        }
    }
    let body = rows.split_off(headers);
    [(RowGroupKind::Head, rows), (RowGroupKind::Body, body)]
        .into_iter()
        .filter(|(_, rows)| !rows.is_empty())
        .map(|(kind, rows)| RowGroup { kind, rows })
        .collect()
}
