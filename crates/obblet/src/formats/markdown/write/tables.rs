//! Tables drawn with pipes.

use super::blocks::Speller;
use super::leaf::Place as LeafPlace;
use super::{TableForm, report_unsayable};
use crate::document::{Block, BlockKind, CellAlign, Row, Table};
use crate::formats::markdown::read::grammar;
use unicode_width::UnicodeWidthStr;

/// Columns wider than this are not padded: a long text would push its neighbours off the screen.
const WIDEST_PADDING: usize = 60;

impl Speller<'_> {
    pub(super) fn table(&mut self, table: &Table) {
        let rows: Vec<Vec<String>> = table.rows().map(|(_, row)| self.row_cells(row)).collect();
        let widths = self.widths(&rows, table.columns.len());
        for (index, row) in rows.iter().enumerate() {
            let line = drawn_row(row, &widths, table);
            if !grammar::has_cells(&line, row) {
                report_unsayable(&mut self.findings, self.place);
            }
            self.line(&line);
            if index == 0 {
                self.line(&delimiters(table, &widths));
            }
        }
    }

    fn row_cells(&mut self, row: &Row) -> Vec<String> {
        let mut cells = Vec::with_capacity(row.cells.len());
        for cell in &row.cells {
            let text = match cell.content.first() {
                Some(Block { kind: BlockKind::Paragraph(content), place, .. }) => {
                    self.place = *place;
                    self.leaf(content, LeafPlace::Cell)
                }
                _ => String::new(),
            };
            cells.push(text.replace('|', "\\|"));
        }
        cells
    }

    /// How wide each column is drawn.
    fn widths(&self, rows: &[Vec<String>], columns: usize) -> Vec<usize> {
        let mut widths = vec![0; columns];
        if self.options.tables == TableForm::Compact {
            return widths;
        }
        for row in rows {
            for (width, cell) in widths.iter_mut().zip(row) {
                *width = (*width).max(cell.width().min(WIDEST_PADDING));
            }
        }
        widths
    }
}

fn drawn_row(cells: &[String], widths: &[usize], table: &Table) -> String {
    let mut line = String::from("|");
    for (index, cell) in cells.iter().enumerate() {
        let width = widths.get(index).copied().unwrap_or_default();
        let space = width.saturating_sub(cell.width());
        let align = table.columns.get(index).and_then(|column| column.align);
        let before = match align {
            Some(CellAlign::End) => space,
            Some(CellAlign::Centre) => space / 2,
            Some(CellAlign::Start) | None => 0,
        };
        line.push(' ');
        line.extend(std::iter::repeat_n(' ', before));
        line.push_str(cell);
        line.extend(std::iter::repeat_n(' ', space - before));
        line.push_str(if cell.is_empty() && width == 0 { "|" } else { " |" });
    }
    line
}

fn delimiters(table: &Table, widths: &[usize]) -> String {
    let mut line = String::from("|");
    for (column, width) in table.columns.iter().zip(widths) {
        let (left, right) = match column.align {
            None => ("", ""),
            Some(CellAlign::Start) => (":", ""),
            Some(CellAlign::Centre) => (":", ":"),
            Some(CellAlign::End) => ("", ":"),
        };
        let dashes =
            width.saturating_sub(left.len() + right.len()).max(3 - left.len() - right.len());
        line.push_str(&format!(" {left}{}{right} |", "-".repeat(dashes)));
    }
    line
}
