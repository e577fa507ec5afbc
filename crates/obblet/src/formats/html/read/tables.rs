//! Tables.

use super::super::dom::NodeId;
use super::Reader;
use super::blocks::labelled;
use crate::document::{
    Caption, Cell, CellAlign, Column, HeaderScope, Length, Row, RowGroup, RowGroupKind, Table,
    TextAlign, VerticalAlign,
};
use crate::findings::Code;

/// More rows or columns than these are never meant (HTML Standard, 4.9.11).
const MOST_COLUMNS: u32 = 1000;
const MOST_ROWS: u32 = 65_534;

impl Reader<'_> {
    pub(super) fn table(&mut self, node: NodeId) -> Table {
        let dom = self.dom;
        let mut table = Table::default();
        // Alignment around a table is the table's, not that of its cells.
        let outer = self.text.clone();
        (self.text.align, self.text.cell_align) = (None, None);
        for child in dom.children(node) {
            match dom.name(child) {
                Some("caption") if !self.is_shown(child) => {}
                Some("caption") => {
                    let read = labelled(self.identified_flow(child));
                    let caption = table.caption.get_or_insert_with(Caption::default);
                    caption.label = read.label.or(caption.label.take());
                    caption.content.extend(read.content);
                }
                Some("thead" | "tbody" | "tfoot") if !self.is_shown(child) => {}
                Some("thead") => self.push_rows(child, RowGroupKind::Head, &mut table),
                Some("tbody") => self.push_rows(child, RowGroupKind::Body, &mut table),
                Some("tfoot") => self.push_rows(child, RowGroupKind::Foot, &mut table),
                _ => {}
            }
        }
        self.text = outer;
        head_of_headers(&mut table);
        let width = table.width();
        table.columns = self.columns(node, width);
        share_alignment(&mut table);
        table
    }

    /// The columns, with the groups and widths that `colgroup` and `col` state.
    fn columns(&mut self, table: NodeId, width: usize) -> Vec<Column> {
        let dom = self.dom;
        let mut columns: Vec<Column> = Vec::new();
        for group in dom.children(table).filter(|child| dom.name(*child) == Some("colgroup")) {
            let first = columns.len();
            let cols: Vec<NodeId> =
                dom.children(group).filter(|child| dom.name(*child) == Some("col")).collect();
            let holders = if cols.is_empty() { vec![group] } else { cols };
            for holder in holders {
                let span = dom.attribute(holder, "span").and_then(|span| span.trim().parse().ok());
                let column = Column { width: self.column_width(holder), ..Column::default() };
                let room = width.saturating_sub(columns.len());
                let count = span.unwrap_or(1_usize).clamp(1, MOST_COLUMNS as usize).min(room);
                columns.extend(std::iter::repeat_n(column, count));
            }
            if let Some(column) = columns.get_mut(first) {
                column.begins_group = true;
            }
        }
        columns.resize(width, Column::default());
        columns
    }

    /// A share of the table's width; any other width is a finding.
    fn column_width(&mut self, column: NodeId) -> Option<f32> {
        let stated = self.styles.stated(column);
        let name = self.dom.name(column).unwrap_or_default();
        let looks = self.own_looks(column, name, &stated, None);
        match looks.width {
            Some(Length::Share(share)) if self.options.looks => Some(share),
            Some(_) => {
                self.dropped(Code::LooksNotRead, "width", column);
                None
            }
            None => None,
        }
    }

    fn push_rows(&mut self, group: NodeId, kind: RowGroupKind, table: &mut Table) {
        let dom = self.dom;
        let mut rows = Vec::new();
        for child in dom.children(group).filter(|child| dom.name(*child) == Some("tr")) {
            if !self.is_shown(child) {
                continue;
            }
            let outer = self.enter(child);
            let mut row = Row { attributes: self.attributes(child), ..Row::default() };
            for cell in dom.children(child) {
                if matches!(dom.name(cell), Some("td" | "th")) {
                    let outer = self.enter(cell);
                    row.cells.push(self.cell(cell, kind, row.cells.is_empty()));
                    self.leave(outer);
                }
            }
            self.leave(outer);
            rows.push(row);
        }
        if !rows.is_empty() {
            table.groups.push(RowGroup { kind, rows });
        }
    }

    fn cell(&mut self, node: NodeId, group: RowGroupKind, first: bool) -> Cell {
        let span = |name: &str, most: u32| {
            let stated = self.dom.attribute(node, name).and_then(|span| span.trim().parse().ok());
            stated.unwrap_or(1).clamp(1, most)
        };
        let (column_span, row_span) = (span("colspan", MOST_COLUMNS), span("rowspan", MOST_ROWS));
        let is_header = self.dom.name(node) == Some("th");
        let header = is_header.then(|| match self.dom.attribute(node, "scope") {
            Some("row" | "rowgroup") => HeaderScope::Row,
            Some("col" | "colgroup") => HeaderScope::Column,
            _ if group != RowGroupKind::Head && first => HeaderScope::Row,
            _ => HeaderScope::Column,
        });
        let (align, vertical) = self.cell_alignment(node);
        let attributes = self.attributes(node);
        let content = if self.is_shown(node) { self.flow(node) } else { Vec::new() };
        Cell { content, column_span, row_span, header, align, vertical, attributes }
    }

    /// The alignment of a cell: its own, or the one all its paragraphs share.
    fn cell_alignment(&mut self, node: NodeId) -> (Option<CellAlign>, Option<VerticalAlign>) {
        let dom = self.dom;
        let mut align = self.text.align;
        let blocks =
            dom.children(node).filter(|child| matches!(dom.name(*child), Some("p" | "div")));
        let mut shared = Vec::new();
        for block in blocks {
            let outer = self.enter(block);
            shared.push(self.text.align);
            self.leave(outer);
        }
        if let Some(first) = shared.first().filter(|first| shared.iter().all(|a| a == *first)) {
            align = *first;
        }
        self.text.cell_align = align;
        let align = align.map(|align| match align {
            TextAlign::Start | TextAlign::Justify => CellAlign::Start,
            TextAlign::Centre => CellAlign::Centre,
            TextAlign::End => CellAlign::End,
        });
        let vertical = self.styles.stated(node).vertical.or(match dom.attribute(node, "valign") {
            Some("top") => Some(VerticalAlign::Top),
            Some("middle") => Some(VerticalAlign::Middle),
            Some("bottom") => Some(VerticalAlign::Bottom),
            _ => None,
        });
        (align, vertical)
    }
}

/// A first row of header cells is the head, where the table states none.
fn head_of_headers(table: &mut Table) {
    let Some(first) = table.groups.first_mut().filter(|group| group.kind == RowGroupKind::Body)
    else {
        return;
    };
    let is_head = first.rows.first().is_some_and(|row| {
        row.cells.len() > 1 && row.cells.iter().all(|cell| cell.header.is_some())
    });
    if !is_head {
        return;
    }
    let body = first.rows.split_off(1);
    first.kind = RowGroupKind::Head;
    for cell in first.rows.iter_mut().flat_map(|row| &mut row.cells) {
        cell.header = Some(HeaderScope::Column);
    }
    if !body.is_empty() {
        table.groups.insert(1, RowGroup { kind: RowGroupKind::Body, rows: body });
    }
}

/// Alignment that all cells of a column share is the column's.
fn share_alignment(table: &mut Table) {
    // The columns of each cell, in reading order.
    let (grids, starts) = table.grids();
    let rows = grids.iter().flat_map(|grid| &grid.rows);
    let columns: Vec<(usize, usize)> =
        rows.flat_map(|row| &row.cells).map(|placed| (placed.column, placed.columns)).collect();
    // What all cells of one column share; those over several columns say nothing about it.
    let mut shared: Vec<Option<Option<CellAlign>>> = vec![None; starts.len()];
    for ((column, width), (_, cell)) in columns.iter().zip(cells_of(table)) {
        if let Some(known) = shared.get_mut(*column).filter(|_| *width == 1) {
            *known = match known {
                None => Some(cell.align),
                Some(align) if *align == cell.align => *known,
                Some(_) => Some(None),
            };
        }
    }
    for (at, align) in shared.iter().enumerate() {
        let start = starts.get(at).copied().unwrap_or(at);
        if let (Some(Some(align)), Some(column)) = (align, table.columns.get_mut(start)) {
            column.align = Some(*align);
        }
    }
    let cells = table.groups.iter_mut().flat_map(|group| &mut group.rows);
    for ((column, width), cell) in columns.iter().zip(cells.flat_map(|row| &mut row.cells)) {
        let align = shared.get(*column).copied().flatten().flatten();
        if *width == 1 && align.is_some() {
            cell.align = None;
        }
    }
}

fn cells_of(table: &Table) -> impl Iterator<Item = (RowGroupKind, &Cell)> {
    table.rows().flat_map(|(kind, row)| row.cells.iter().map(move |cell| (kind, cell)))
}
