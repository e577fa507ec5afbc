//! Tables as people read them with their ears: with names above their columns, in even rows.

use super::Subject;
use crate::document::{BlockKind, Node, Place, RowGroupKind, Table};
use crate::findings::Code;

impl Subject<'_> {
    pub(super) fn tables(&mut self) {
        let found: Vec<(Code, String, Place)> = self
            .nodes()
            .filter_map(|node| match node {
                Node::Block(block) => match &block.kind {
                    BlockKind::Table(table) => Some((table, block.place)),
                    _ => None,
                },
                _ => None,
            })
            .filter_map(|(table, place)| fault(table).map(|(code, subject)| (code, subject, place)))
            .collect();
        for (code, subject, place) in found {
            self.findings.add_about(code, &subject, Some(place));
        }
    }
}

fn fault(table: &Table) -> Option<(Code, String)> {
    let rows = table.rows().count();
    let cells = || table.rows().flat_map(|(_, row)| &row.cells);
    let has_head =
        table.groups.iter().any(|group| group.kind == RowGroupKind::Head && !group.rows.is_empty())
            || cells().any(|cell| cell.header.is_some());
    let is_wide = table.rows().any(|(_, row)| row.cells.len() > 1);
    if rows > 1 && is_wide && !has_head {
        return Some((Code::TableHeadMissing, String::new()));
    }
    let has_spans = cells().any(|cell| cell.row_span > 1);
    let widths: Vec<u32> =
        table.rows().map(|(_, row)| row.cells.iter().map(|cell| cell.column_span).sum()).collect();
    let (least, most) = (widths.iter().min().copied()?, widths.iter().max().copied()?);
    (!has_spans && least != most)
        .then(|| (Code::TableRowsUneven, format!("{least} to {most} columns")))
}
