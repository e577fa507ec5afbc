//! Where the cells of a table stand: no two overlap, none hangs out of its row group, and one begins in
//! every column.

use super::{Attributes, Cell, HeaderScope, RowGroup, RowGroupKind, Table};
use crate::work;

/// One cell at its place in the grid of its row group.
pub(crate) struct Placed<'d> {
    pub(crate) cell: &'d Cell,
    pub(crate) column: usize,
    pub(crate) columns: usize,
    pub(crate) rows: usize,
}

/// A row group with every cell in its place.
pub(crate) struct Grid<'d> {
    pub(crate) kind: RowGroupKind,
    pub(crate) rows: Vec<PlacedRow<'d>>,
}

/// A row with every cell in its place.
pub(crate) struct PlacedRow<'d> {
    pub(crate) attributes: &'d Attributes,
    pub(crate) cells: Vec<Placed<'d>>,
}

/// How many times as many places as cells a table may have to be filled with empty ones;
/// [`Limits::empty_cells`](crate::limits::Limits::empty_cells) says how many more all tables of a document may have.
const FILLED: usize = 6;

/// The room for empty cells: formats that have a cell in every place would make gigabytes of a wide row
/// above many short ones.
pub(crate) struct EmptyCells {
    spare: usize,
}

impl EmptyCells {
    pub(crate) fn new() -> Self {
        Self { spare: work::limit(|limits| limits.empty_cells) }
    }

    /// Whether a table of so many columns is filled with empty cells.
    pub(crate) fn fill(&mut self, table: &Table, width: usize) -> bool {
        let cells: usize = table.rows().map(|(_, row)| row.cells.len()).sum();
        let places = width.saturating_mul(table.rows().count());
        match self.spare.checked_sub(places.saturating_sub(cells.saturating_mul(FILLED))) {
            Some(spare) => {
                self.spare = spare;
                true
            }
            None => false,
        }
    }
}

/// The empty cells that a reader may still add to rows that are shorter than others.
pub(crate) struct FillerCells {
    left: usize,
}

impl FillerCells {
    /// One for each byte, and some more for short sources.
    pub(crate) fn for_source(bytes: usize) -> Self {
        Self { left: bytes.saturating_add(2_000) }
    }

    /// Gives every row as many cells as there are columns; `false` where that would be too many, and the table
    /// stays as it is.
    pub(crate) fn fill(&mut self, table: &mut Table) -> bool {
        let width = table.columns.len();
        let missing = table.rows().map(|(_, row)| width.saturating_sub(row.cells.len())).sum();
        let Some(left) = self.left.checked_sub(missing) else { return false };
        self.left = left;
        for group in table.groups.iter_mut() {
            let header = (group.kind == RowGroupKind::Head).then_some(HeaderScope::Column);
            for row in group.rows.iter_mut().filter(|row| row.cells.len() < width) {
                row.cells.resize_with(width, || Cell { header, ..Cell::default() });
            }
        }
        true
    }
}

impl Table {
    /// The row groups with every cell in its place, and for each column its number before columns in
    /// which no cell begins were joined to those before them.
    pub(crate) fn grids(&self) -> (Vec<Grid<'_>>, Vec<usize>) {
        let mut grids: Vec<Grid<'_>> = self.groups.iter().map(Grid::of).collect();
        let starts = merge_empty_columns(&mut grids);
        (grids, starts)
    }
}

impl<'d> Grid<'d> {
    /// Puts the cells of a group in their columns; cuts rows off cells that hang out.
    fn of(group: &'d RowGroup) -> Self {
        let height = group.rows.len();
        // For each column, the first row that no cell from above covers.
        let mut first_free: Vec<usize> = Vec::new();
        let mut rows = Vec::with_capacity(height);
        for (index, row) in group.rows.iter().enumerate() {
            let mut placed = Vec::with_capacity(row.cells.len());
            let mut column = 0;
            for cell in &row.cells {
                while first_free.get(column).is_some_and(|first| *first > index) {
                    column += 1;
                }
                let wanted = cell.column_span.clamp(1, 1000) as usize;
                let behind = first_free.get(column + 1..).unwrap_or_default();
                let taken = behind.iter().take(wanted - 1).position(|first| *first > index);
                let columns = taken.map_or(wanted, |free| 1 + free);
                let rows = (cell.row_span.max(1) as usize).min(height - index);
                placed.push(Placed { cell, column, columns, rows });
                let end = column + columns;
                if rows > 1 {
                    if first_free.len() < end {
                        first_free.resize(end, 0);
                    }
                    if let Some(covered) = first_free.get_mut(column..end) {
                        covered.fill(index + rows);
                    }
                }
                column = end;
            }
            rows.push(PlacedRow { attributes: &row.attributes, cells: placed });
        }
        Self { kind: group.kind, rows }
    }
}

/// Joins every column in which no cell begins to the one before it. Gives, for each column that is
/// left, its number before.
fn merge_empty_columns(grids: &mut [Grid<'_>]) -> Vec<usize> {
    let cells = || grids.iter().flat_map(|grid| grid.rows.iter().flat_map(|row| &row.cells));
    let width = cells().map(|placed| placed.column + placed.columns).max().unwrap_or_default();
    let mut begins = vec![false; width];
    for placed in cells() {
        if let Some(begins) = begins.get_mut(placed.column) {
            *begins = true;
        }
    }
    let starts: Vec<usize> = (0..width).filter(|column| begins[*column]).collect();
    if starts.len() == width {
        return starts;
    }
    for placed in
        grids.iter_mut().flat_map(|grid| grid.rows.iter_mut().flat_map(|row| &mut row.cells))
    {
        let first = starts.partition_point(|start| *start < placed.column);
        let end = starts.partition_point(|start| *start < placed.column + placed.columns);
        placed.column = first;
        placed.columns = (end - first).max(1);
    }
    starts
}
