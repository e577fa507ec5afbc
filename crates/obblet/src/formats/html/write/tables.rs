//! Tables.
//!
//! HTML's table model (HTML Standard, 4.9.12) wants that no two cells overlap, that no cell hangs
//! out of its row group, and that a cell begins in every column. [`Grid`](crate::document::Grid) makes
//! it so.

use super::{LooksForm, Writer};
use crate::document::{
    Attributes, CellAlign, Column, Grid, HeaderScope, Length, Looks, Placed, RowGroupKind, Table,
};

impl Writer<'_> {
    pub(super) fn table(&mut self, table: &Table, attributes: &Attributes) {
        let (grids, starts) = table.grids();
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
        self.put_looks(stated);
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
        self.open(name, &Attributes::NONE);
        self.out.push('\n');
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
        self.close(name);
        self.out.push('\n');
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
        // Where the document says how far paragraphs stand apart, those in cells do as well.
        if self.has_styles() {
            self.blocks_on_new_lines(&cell.content);
        } else {
            self.lone_paragraph_or_blocks(&cell.content);
        }
        self.close(name);
        self.out.push('\n');
    }
}
