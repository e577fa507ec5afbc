//! The grid of a table: cells that overlap, and rows and columns in which none begins (HTML Standard,
//! 4.9.12).

use super::Validator;
use crate::findings::Code;
use crate::formats::html::dom::NodeId;
use std::collections::HashSet;

/// The widest cell that is looked at; browsers make wider ones as narrow as this.
const WIDEST: usize = 1000;
/// The most cells that spans may cover; a table whose cells cover more is not looked at.
const MOST: usize = 1 << 20;

impl Validator<'_> {
    pub(super) fn cells(&mut self, table: NodeId) {
        let mut columns = Columns::default();
        for rows in self.row_groups(table) {
            self.group(&rows, &mut columns);
        }
        let stated = self.stated_columns(table);
        let widest = columns.width.max(stated);
        let empty = (0..widest).find(|column| !columns.begun.contains(column));
        if let Some(column) = empty.filter(|_| !columns.begun.is_empty() || stated > 0) {
            let subject = format!("no cell begins in column {}", column + 1);
            self.report(Code::TableGridWrong, &subject, table);
        }
    }

    fn stated_columns(&self, table: NodeId) -> usize {
        let dom = self.dom;
        let span = |node: NodeId| -> usize {
            let stated = dom.attribute(node, "span").and_then(|span| span.parse().ok());
            stated.unwrap_or(1).min(WIDEST)
        };
        let groups = dom.children(table).filter(|node| dom.name(*node) == Some("colgroup"));
        groups
            .map(|group| {
                let columns: Vec<NodeId> =
                    dom.children(group).filter(|node| dom.name(*node) == Some("col")).collect();
                match columns.is_empty() {
                    true => span(group),
                    false => columns.into_iter().map(span).sum(),
                }
            })
            .sum()
    }

    fn group(&mut self, rows: &[NodeId], columns: &mut Columns) {
        let dom = self.dom;
        // For each column the row up to which a cell from above covers it.
        let mut covered: Vec<usize> = Vec::new();
        for (index, row) in rows.iter().enumerate() {
            let mut column = 0;
            let mut begun = false;
            let cells =
                dom.children(*row).filter(|cell| matches!(dom.name(*cell), Some("td" | "th")));
            for cell in cells {
                while covered.get(column).is_some_and(|until| *until > index) {
                    column += 1;
                }
                begun = true;
                let span =
                    |name: &str| dom.attribute(cell, name).and_then(|n| n.parse::<usize>().ok());
                let wide = span("colspan").unwrap_or(1).clamp(1, WIDEST);
                let high = match span("rowspan").unwrap_or(1) {
                    0 => rows.len() - index,
                    high => high,
                };
                if column + wide > MOST {
                    return;
                }
                covered.resize(covered.len().max(column + wide), 0);
                let here = covered.get_mut(column..column + wide).unwrap_or_default();
                if here.iter().any(|until| *until > index) {
                    self.report(Code::TableGridWrong, "a cell overlaps another", cell);
                }
                here.iter_mut().for_each(|until| *until = index.saturating_add(high));
                if index.saturating_add(high) > rows.len() {
                    self.report(Code::TableGridWrong, "a cell reaches below its rows", cell);
                }
                columns.begun.insert(column);
                column += wide;
                columns.width = columns.width.max(column);
            }
            if !begun {
                self.report(Code::TableGridWrong, "no cell begins in the row", *row);
            }
        }
    }
}

#[derive(Debug, Default)]
struct Columns {
    /// Those in which a cell begins.
    begun: HashSet<usize>,
    width: usize,
}
