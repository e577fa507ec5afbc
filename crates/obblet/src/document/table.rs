//! Tables.

use super::{Attributes, Block, Caption};
use serde::{Deserialize, Serialize};

/// A table: columns, and rows gathered in row groups.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Table {
    /// What the table shows.
    pub caption: Option<Caption>,
    /// One entry a grid column; may be shorter than the widest row.
    pub columns: Vec<Column>,
    /// Head, body and foot groups in reading order.
    pub groups: Vec<RowGroup>,
}

/// One column of a table's grid.
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Column {
    /// Alignment of cells that state none.
    pub align: Option<CellAlign>,
    /// Share of the table's width, 0 to 1.
    pub width: Option<f32>,
    /// A group of columns that belong together begins with this one.
    pub begins_group: bool,
}

/// Rows of one kind.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct RowGroup {
    /// Head, body or foot.
    pub kind: RowGroupKind,
    /// The rows.
    pub rows: Vec<Row>,
}

/// What a group of rows is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum RowGroupKind {
    /// Names what stands below; repeated on each page of paper.
    Head,
    /// Content.
    Body,
    /// Sums up.
    Foot,
}

/// One row.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Row {
    /// The cells that start in this row; grid columns covered from above have none.
    pub cells: Vec<Cell>,
    /// Attributes.
    pub attributes: Attributes,
}

/// One cell.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Cell {
    /// The blocks.
    pub content: Vec<Block>,
    /// Grid columns covered, at least 1.
    pub column_span: u32,
    /// Rows covered, at least 1.
    pub row_span: u32,
    /// What the cell is a header of, when it is one.
    pub header: Option<HeaderScope>,
    /// Alignment, where it differs from the column's.
    pub align: Option<CellAlign>,
    /// Where content stands when the cell is higher than it.
    pub vertical: Option<VerticalAlign>,
    /// Attributes.
    pub attributes: Attributes,
}

impl Default for Cell {
    fn default() -> Self {
        Self {
            content: Vec::new(),
            column_span: 1,
            row_span: 1,
            header: None,
            align: None,
            vertical: None,
            attributes: Attributes::NONE,
        }
    }
}

/// What a header cell is a header of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum HeaderScope {
    /// Its column or columns.
    Column,
    /// Its row or rows.
    Row,
}

/// Horizontal alignment of a cell.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum CellAlign {
    /// At the line's start.
    Start,
    /// In the middle.
    Centre,
    /// At the line's end.
    End,
}

/// Vertical alignment of a cell.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum VerticalAlign {
    /// At the top.
    Top,
    /// In the middle.
    Middle,
    /// At the bottom.
    Bottom,
}

impl Table {
    /// All rows, in reading order, with the kind of their group.
    pub fn rows(&self) -> impl Iterator<Item = (RowGroupKind, &Row)> {
        self.groups.iter().flat_map(|group| group.rows.iter().map(|row| (group.kind, row)))
    }

    /// The number of grid columns: the widest row, spans from above counted.
    #[must_use]
    pub fn width(&self) -> usize {
        // For each column, the first row that no cell from above covers.
        let mut free: Vec<usize> = Vec::new();
        let mut widest = self.columns.len();
        for (number, (_, row)) in self.rows().enumerate() {
            let mut column = 0;
            for cell in &row.cells {
                while free.get(column).is_some_and(|first| *first > number) {
                    column += 1;
                }
                let end = column + cell.column_span as usize;
                if free.len() < end {
                    free.resize(end, 0);
                }
                free[column..end].fill(number + (cell.row_span as usize).max(1));
                column = end;
            }
            widest = widest.max(column);
        }
        widest
    }
}
