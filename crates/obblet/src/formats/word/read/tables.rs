//! Tables (ECMA-376 part 1, 17.4).

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::paragraphs::Paragraph;
use crate::document::{
    BlockKind, Cell, CellAlign, Column, HeaderScope, Row, RowGroup, RowGroupKind, Table,
    VerticalAlign,
};

/// A cell with what Word says of its place in the grid.
struct GridCell {
    cell: Cell,
    column: usize,
    merge: VerticalMerge,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum VerticalMerge {
    /// A cell of its own, or the first of several.
    Starts,
    /// Part of the cell above.
    GoesOn,
}

/// A row before its cells are merged.
struct GridRow {
    cells: Vec<GridCell>,
    is_header: bool,
}

/// What a table says of itself.
#[derive(Default)]
struct TableProperties {
    style: Option<String>,
    first_row: bool,
    first_column: bool,
}

impl Reader<'_> {
    pub(super) fn table(&mut self, xml: &mut Xml<'_>) -> BlockKind {
        let mut properties = TableProperties::default();
        let mut widths = Vec::new();
        let mut rows = Vec::new();
        self.table_parts(xml, &mut properties, &mut widths, &mut rows);
        let (row_headers, column_headers) = self.headers(&properties, &mut rows);
        let total: f32 = widths.iter().sum();
        let columns = widths
            .iter()
            .map(|width| Column {
                width: (total > 0.0).then(|| width / total),
                ..Column::default()
            })
            .collect();
        let groups = row_groups(merged(rows), row_headers, column_headers);
        BlockKind::Table(Box::new(Table { caption: None, columns, groups }))
    }

    /// Reads the children of a table, or of a content control inside one.
    fn table_parts(
        &mut self,
        xml: &mut Xml<'_>,
        properties: &mut TableProperties,
        widths: &mut Vec<f32>,
        rows: &mut Vec<GridRow>,
    ) {
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "tblPr" => *properties = self.table_properties(xml),
                "tblGrid" => *widths = grid(xml),
                "tr" => rows.push(self.row(xml)),
                "sdt" | "sdtContent" | "customXml" | "ins" | "del" if element.ns == Ns::Word => {
                    if matches!(element.local(), "ins" | "del") {
                        self.lost("a tracked change of a table row");
                    }
                    if self.too_deep() {
                        // Row by row, without the containers around them.
                        let inside = xml.level();
                        while let Some(element) = xml.descendant(inside) {
                            if element.is("tr") {
                                rows.push(self.row(xml));
                            }
                        }
                        continue;
                    }
                    self.depth += 1;
                    self.table_parts(xml, properties, widths, rows);
                    self.depth -= 1;
                }
                "tblPrEx" => self.looks.count("borders"),
                "bookmarkStart" => self.waiting_anchors.extend(element.value("name")),
                "bookmarkEnd" | "sdtPr" | "sdtEndPr" | "proofErr" | "permStart" | "permEnd"
                | "commentRangeStart" | "commentRangeEnd" => {}
                _ => self.unknown(element.shown()),
            }
        }
    }

    fn table_properties(&mut self, xml: &mut Xml<'_>) -> TableProperties {
        let mut found = TableProperties::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "tblStyle" => found.style = element.val(),
                "tblLook" => (found.first_row, found.first_column) = conditional_regions(&element),
                "tblCaption" | "tblDescription" => self.lost("a description of a table"),
                "tblPrChange" => self.lost("a tracked change of looks"),
                name if self.looks.count_property(name) => {}
                _ => self.unknown(element.shown()),
            }
        }
        found
    }

    /// How many first rows are headers, and whether the first column is.
    fn headers(&self, properties: &TableProperties, rows: &mut [GridRow]) -> (usize, bool) {
        let stated = rows.iter().take_while(|row| row.is_header).count();
        let style = properties.style.as_deref().map(|id| self.styles.table_headers(id));
        let (by_row, by_column) = style.unwrap_or_default();
        let first_row = usize::from(by_row && properties.first_row && rows.len() > 1);
        (stated.max(first_row), by_column && properties.first_column)
    }

    fn row(&mut self, xml: &mut Xml<'_>) -> GridRow {
        let mut row = GridRow { cells: Vec::new(), is_header: false };
        let mut column = 0;
        self.row_parts(xml, &mut row, &mut column);
        row
    }

    fn row_parts(&mut self, xml: &mut Xml<'_>, row: &mut GridRow, column: &mut usize) {
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "trPr" => {
                    let skipped = self.row_properties(xml, row);
                    fill(row, column, skipped);
                }
                "tc" => self.push_cell(xml, row, column),
                "sdt" | "sdtContent" | "customXml" if element.ns == Ns::Word => {
                    if self.too_deep() {
                        let inside = xml.level();
                        while let Some(element) = xml.descendant(inside) {
                            if element.is("tc") {
                                self.push_cell(xml, row, column);
                            }
                        }
                        continue;
                    }
                    self.depth += 1;
                    self.row_parts(xml, row, column);
                    self.depth -= 1;
                }
                "tblPrEx" => self.looks.count("borders"),
                "bookmarkStart" => self.waiting_anchors.extend(element.value("name")),
                "bookmarkEnd" | "sdtPr" | "sdtEndPr" | "proofErr" => {}
                _ => self.unknown(element.shown()),
            }
        }
    }

    fn push_cell(&mut self, xml: &mut Xml<'_>, row: &mut GridRow, column: &mut usize) {
        let cell = self.cell(xml, *column);
        *column += cell.cell.column_span as usize;
        row.cells.push(cell);
    }

    /// Reads `w:trPr`. Gives the grid columns left out before the first cell.
    fn row_properties(&mut self, xml: &mut Xml<'_>, row: &mut GridRow) -> usize {
        let mut before = 0;
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "tblHeader" => row.is_header = element.is_on(),
                "gridBefore" => before = span(&element) as usize,
                "gridAfter" => {}
                "ins" | "del" => self.lost("a tracked change of a table row"),
                "trPrChange" => self.lost("a tracked change of looks"),
                name if self.looks.count_property(name) => {}
                _ => self.unknown(element.shown()),
            }
        }
        before
    }

    fn cell(&mut self, xml: &mut Xml<'_>, column: usize) -> GridCell {
        let mut found = GridCell { cell: Cell::default(), column, merge: VerticalMerge::Starts };
        // `w:tcPr` comes first; blocks are read with what is left of the cell.
        let mut gatherer = super::lists::Gatherer::default();
        let mut aligns = Vec::new();
        let level = xml.level();
        let too_deep = self.too_deep();
        let mut has_properties = false;
        self.depth += 1;
        loop {
            let next = if too_deep { xml.descendant(level) } else { xml.child(level) };
            let Some(element) = next else { break };
            match element.local() {
                // Read flat, later ones belong to the cells of tables inside this one.
                "tcPr" if element.ns == Ns::Word && !(too_deep && has_properties) => {
                    has_properties = true;
                    self.cell_properties(xml, &mut found);
                }
                "p" if element.ns == Ns::Word => {
                    let paragraph = self.paragraph(xml);
                    aligns.extend(aligned(&paragraph));
                    self.put_paragraph(paragraph, &mut gatherer);
                }
                _ if too_deep => {}
                _ => self.block_element(&element, xml, &mut gatherer),
            }
        }
        self.depth -= 1;
        found.cell.content = gatherer.finish();
        found.cell.align = common(&aligns);
        found
    }

    fn cell_properties(&mut self, xml: &mut Xml<'_>, found: &mut GridCell) {
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "gridSpan" => found.cell.column_span = span(&element),
                "vMerge" => {
                    let starts = element.val().as_deref() == Some("restart");
                    found.merge =
                        if starts { VerticalMerge::Starts } else { VerticalMerge::GoesOn };
                }
                "vAlign" => {
                    found.cell.vertical = match element.val().as_deref() {
                        Some("center") => Some(VerticalAlign::Middle),
                        Some("bottom") => Some(VerticalAlign::Bottom),
                        _ => None,
                    };
                }
                "tcW" => {}
                "hMerge" => self.lost("a cell merged in the oldest way"),
                "cellIns" | "cellDel" | "cellMerge" => self.lost("a tracked change of a cell"),
                "tcPrChange" => self.lost("a tracked change of looks"),
                name if self.looks.count_property(name) => {}
                _ => self.unknown(element.shown()),
            }
        }
    }
}

/// `w:tblLook`: by attributes, or as a bit mask in hexadecimal (17.4.55).
fn conditional_regions(element: &Element<'_>) -> (bool, bool) {
    let flag = |name: &str| element.value(name).map(|v| matches!(v.as_str(), "1" | "true" | "on"));
    let mask = element.val().and_then(|mask| u32::from_str_radix(&mask, 16).ok()).unwrap_or(0);
    (flag("firstRow").unwrap_or(mask & 0x20 != 0), flag("firstColumn").unwrap_or(mask & 0x80 != 0))
}

fn span(element: &Element<'_>) -> u32 {
    element.number("val").and_then(|n| u32::try_from(n).ok()).unwrap_or(1).clamp(1, 1000)
}

fn grid(xml: &mut Xml<'_>) -> Vec<f32> {
    let mut widths = Vec::new();
    let level = xml.level();
    while let Some(column) = xml.child(level) {
        if column.is("gridCol") {
            widths.push(column.number("w").unwrap_or_default().clamp(0, 1 << 20) as f32);
        }
    }
    widths
}

/// Puts an empty cell where grid columns are left out.
fn fill(row: &mut GridRow, column: &mut usize, count: usize) {
    if count > 0 {
        let cell = Cell { column_span: count as u32, ..Cell::default() };
        row.cells.push(GridCell { cell, column: *column, merge: VerticalMerge::Starts });
        *column += count;
    }
}

fn aligned(paragraph: &Paragraph) -> Option<Option<CellAlign>> {
    (!paragraph.content.is_empty()).then_some(paragraph.align)
}

/// The alignment of a cell whose paragraphs all have the same.
fn common(aligns: &[Option<CellAlign>]) -> Option<CellAlign> {
    let first = aligns.first().copied().flatten()?;
    aligns.iter().all(|align| *align == Some(first)).then_some(first)
}

/// Makes one cell of each that goes on below.
fn merged(rows: Vec<GridRow>) -> Vec<Row> {
    let mut done: Vec<Row> = Vec::with_capacity(rows.len());
    // For each grid column, the row and index of the cell that may go on in the next row.
    let mut open: Vec<Option<(usize, usize)>> = Vec::new();
    for (index, grid_row) in rows.into_iter().enumerate() {
        let mut row = Row::default();
        let mut next: Vec<Option<(usize, usize)>> = Vec::new();
        for grid_cell in grid_row.cells {
            let end = grid_cell.column + grid_cell.cell.column_span as usize;
            if next.len() < end {
                next.resize(end, None);
            }
            let above = open.get(grid_cell.column).copied().flatten();
            let owner = match (grid_cell.merge, above) {
                (VerticalMerge::GoesOn, Some(owner)) => {
                    extend(&mut done, owner, grid_cell.cell);
                    owner
                }
                _ => {
                    row.cells.push(grid_cell.cell);
                    (index, row.cells.len() - 1)
                }
            };
            if let Some(place) = next.get_mut(grid_cell.column) {
                *place = Some(owner);
            }
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

fn row_groups(mut rows: Vec<Row>, headers: usize, first_column: bool) -> Vec<RowGroup> {
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
