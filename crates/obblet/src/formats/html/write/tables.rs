//! Tables.
//!
//! HTML's table model (HTML Standard, 4.9.12) wants that no two cells overlap, that no cell hangs
//! out of its row group, and that a cell begins in every column. [`Grid`] makes it so.

use super::{LooksForm, Writer};
use crate::document::{
    Attributes, Cell, CellAlign, Column, HeaderScope, Length, Looks, RowGroup, RowGroupKind, Table,
};

/// One cell at its place in the grid of its row group.
struct Placed<'d> {
    cell: &'d Cell,
    column: usize,
    columns: usize,
    rows: usize,
}

/// A row group with every cell in its place.
struct Grid<'d> {
    kind: RowGroupKind,
    rows: Vec<PlacedRow<'d>>,
}

/// A row with every cell in its place.
struct PlacedRow<'d> {
    attributes: &'d Attributes,
    cells: Vec<Placed<'d>>,
}

impl Writer<'_> {
    pub(super) fn table(&mut self, table: &Table, attributes: &Attributes) {
        let mut grids: Vec<Grid<'_>> = table.groups.iter().map(Grid::of).collect();
        let starts = merge_empty_columns(&mut grids);
        if starts.is_empty() {
            return;
        }
        self.open("table", attributes);
        self.out.push('\n');
        if let Some(caption) = &table.caption {
            self.caption("caption", caption);
        }
        self.column_groups(table, &starts);
        for grid in &grids {
            self.row_group(grid, table, &starts);
        }
        self.out.push_str("</table>\n");
    }

    /// The groups of columns where there are several, and the widths where looks are kept.
    fn column_groups(&mut self, table: &Table, starts: &[usize]) {
        let columns: Vec<Column> = starts
            .iter()
            .map(|start| table.columns.get(*start).copied().unwrap_or_default())
            .collect();
        let has_groups = columns.iter().skip(1).any(|column| column.begins_group);
        let keeps_looks = self.options.looks != LooksForm::Dropped;
        let has_widths = keeps_looks && columns.iter().any(|column| column.width.is_some());
        if !has_groups && !has_widths {
            return;
        }
        let mut left = columns.as_slice();
        while !left.is_empty() {
            let next = left.iter().skip(1).position(|column| column.begins_group);
            let (group, rest) = left.split_at(next.map_or(left.len(), |at| at + 1));
            left = rest;
            self.out.push_str("<colgroup");
            if has_widths {
                self.out.push_str(">\n");
                group.iter().for_each(|column| self.column(column));
            } else {
                if group.len() > 1 {
                    self.attribute("span", &group.len().to_string());
                }
                self.out.push('>');
            }
            self.out.push_str("</colgroup>\n");
        }
    }

    fn column(&mut self, column: &Column) {
        let looks = Looks { width: column.width.map(Length::Share), ..Looks::default() };
        let stated = self.look_attributes(Some(&looks));
        self.out.push_str("<col");
        if let Some(class) = stated.class {
            self.attribute("class", &class);
        }
        if let Some(style) = stated.style {
            self.attribute("style", &style);
        }
        self.out.push_str(">\n");
    }

    fn row_group(&mut self, grid: &Grid<'_>, table: &Table, starts: &[usize]) {
        if grid.rows.is_empty() {
            return;
        }
        let name = match grid.kind {
            RowGroupKind::Head => "thead",
            RowGroupKind::Body => "tbody",
            RowGroupKind::Foot => "tfoot",
        };
        self.out.push_str(&format!("<{name}>\n"));
        for row in &grid.rows {
            self.open("tr", row.attributes);
            self.out.push('\n');
            for placed in &row.cells {
                let original = starts.get(placed.column).copied().unwrap_or_default();
                let align = table.columns.get(original).and_then(|column| column.align);
                self.cell(placed, align);
            }
            self.out.push_str("</tr>\n");
        }
        self.out.push_str(&format!("</{name}>\n"));
    }

    fn cell(&mut self, placed: &Placed<'_>, column_align: Option<CellAlign>) {
        let cell = placed.cell;
        let name = if cell.header.is_some() { "th" } else { "td" };
        self.out.push('<');
        self.out.push_str(name);
        for (name, span) in [("colspan", placed.columns), ("rowspan", placed.rows)] {
            if span > 1 {
                self.attribute(name, &span.to_string());
            }
        }
        match cell.header.filter(|_| self.options.header_scopes) {
            Some(HeaderScope::Column) => self.attribute("scope", "col"),
            Some(HeaderScope::Row) => self.attribute("scope", "row"),
            None => {}
        }
        let align = cell.align.or(column_align).map(|align| match align {
            CellAlign::Start => "text-align: start",
            CellAlign::Centre => "text-align: center",
            CellAlign::End => "text-align: end",
        });
        self.attributes_and_style(&cell.attributes, align);
        self.out.push('>');
        self.lone_paragraph_or_blocks(&cell.content);
        self.close(name);
        self.out.push('\n');
    }
}

impl<'d> Grid<'d> {
    /// Puts the cells of a group in their columns; cuts rows off cells that hang out.
    fn of(group: &'d RowGroup) -> Self {
        let height = group.rows.len();
        // For each column, how many rows a cell from above still covers.
        let mut covered: Vec<usize> = Vec::new();
        let mut rows = Vec::with_capacity(height);
        for (index, row) in group.rows.iter().enumerate() {
            let mut placed = Vec::with_capacity(row.cells.len());
            let mut column = 0;
            let mut fresh = Vec::new();
            for cell in &row.cells {
                while covered.get(column).is_some_and(|rows| *rows > 0) {
                    column += 1;
                }
                let wanted = cell.column_span.clamp(1, 1000) as usize;
                let free = (1..wanted)
                    .take_while(|more| covered.get(column + more).is_none_or(|rows| *rows == 0));
                let columns = 1 + free.count();
                let rows = (cell.row_span.max(1) as usize).min(height - index);
                placed.push(Placed { cell, column, columns, rows });
                fresh.push((column..column + columns, rows));
                column += columns;
            }
            covered.iter_mut().for_each(|rows| *rows = rows.saturating_sub(1));
            for (range, rows) in fresh {
                if covered.len() < range.end {
                    covered.resize(range.end, 0);
                }
                if let Some(columns) = covered.get_mut(range) {
                    columns.fill(rows - 1);
                }
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
