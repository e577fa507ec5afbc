//! Tables (ECMA-376 part 1, 17.4).

use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::box_looks::BoxLooks;
use super::gather::Gatherer;
use super::inlines::is_mere_mark;
use super::paragraph_properties::ParagraphProperties;
use super::paragraphs::Paragraph;
use super::revisions::revision;
use super::table_grid::{
    GridCell, GridRow, VerticalMerge, column_aligns, drop_empty_end, fill, fill_short_rows, merged,
    row_groups,
};
use super::table_styles::{CellPlace, Region, ResolvedTableStyle, WantedRegions};
use crate::document::{
    Attributes, Block, BlockKind, Cell, CellAlign, Column, CompactString, Direction, Length,
    Revision, StyleKind, Table, TextAlign, VerticalAlign,
};

/// What a table says of itself.
#[derive(Default)]
struct TableProperties {
    style: Option<CompactString>,
    wanted: WantedRegions,
    right_to_left: bool,
    title: Option<String>,
    boxed: BoxLooks,
    column_widths: Vec<f32>,
}

impl Reader<'_> {
    /// Reads a table.
    pub(super) fn table(&mut self, xml: &mut Xml<'_>) -> (Table, Attributes) {
        let mut properties = TableProperties::default();
        let mut rows = Vec::new();
        self.table_parts(xml, &mut properties, &mut rows);
        fill_short_rows(&mut rows);
        // Tables of one style are many; those inside this one have been read already.
        let mut style = self
            .table_styles
            .remove(&properties.style)
            .unwrap_or_else(|| ResolvedTableStyle::of(&self.styles, properties.style.as_deref()));
        let headers = headers(&properties, &style, &rows);
        if self.options.looks {
            self.dress_cells(&properties, &mut style, &mut rows);
        }
        let attributes = self.table_attributes(&properties, &style);
        self.table_styles.insert(properties.style.take(), style);
        let total: f32 = properties.column_widths.iter().sum();
        let mut rows = merged(rows);
        let aligns = column_aligns(&mut rows, properties.column_widths.len());
        let columns = properties
            .column_widths
            .iter()
            .zip(aligns)
            .map(|(width, align)| Column {
                align,
                width: (total > 0.0).then(|| width / total),
                ..Column::default()
            })
            .collect();
        let groups = row_groups(rows, headers.0, headers.1);
        (Table { caption: None, columns, groups }, attributes)
    }

    fn table_attributes(
        &mut self,
        properties: &TableProperties,
        style: &ResolvedTableStyle,
    ) -> Attributes {
        let mut attributes = Attributes::NONE;
        if properties.right_to_left {
            attributes.edit().direction = Some(Direction::RightToLeft);
        }
        if let Some(title) = &properties.title {
            attributes.edit().pairs.push(("title".into(), title.into()));
        }
        if self.options.looks {
            let mut looks = style.table(&properties.boxed).of_table();
            if looks.width.is_none() {
                let total: f32 = properties.column_widths.iter().sum();
                looks.width = (total > 0.0).then_some(Length::Points(total));
            }
            attributes.edit().looks = Some(Box::new(looks));
            let name = properties.style.as_ref().and_then(|id| self.styles.get(id));
            if let Some(name) = name.map(|style| style.name.clone()) {
                attributes.edit().style = Some(name.clone());
                self.used_styles.insert((StyleKind::Table, name));
            }
        }
        attributes
    }

    /// Gives each cell the looks of the table, of its regions and of its own.
    fn dress_cells(
        &mut self,
        properties: &TableProperties,
        style: &mut ResolvedTableStyle,
        rows: &mut [GridRow],
    ) {
        let table_rows = rows.len();
        let ends = rows.iter().flat_map(|row| row.cells.last());
        let table_columns =
            ends.map(|cell| cell.column + cell.cell.column_span as usize).max().unwrap_or_default();
        let table = style.table(&properties.boxed);
        for (at, row) in rows.iter_mut().enumerate() {
            let mut around = table.clone();
            around.replace_by(&row.exceptions);
            for cell in &mut row.cells {
                let place = CellPlace {
                    row: at,
                    column: cell.column,
                    rows: 1,
                    columns: cell.cell.column_span as usize,
                    table_rows,
                    table_columns,
                };
                let mut looks = style.cell_looks(&place, properties.wanted, &around, &cell.boxed);
                let region = style.cell(&place, properties.wanted);
                looks.replace_by(&super::looks::of_run(&region.run));
                looks.height = row.height;
                dress_paragraphs(&mut cell.cell.content, &region.paragraph);
                cell.cell.vertical = None;
                cell.cell.attributes.edit().looks = Some(Box::new(looks));
            }
        }
    }

    /// Reads the children of a table, or of a content control inside one.
    fn table_parts(
        &mut self,
        xml: &mut Xml<'_>,
        properties: &mut TableProperties,
        rows: &mut Vec<GridRow>,
    ) {
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "tblPr" => *properties = self.table_properties(xml),
                "tblGrid" => properties.column_widths = self.grid(xml),
                "tr" => self.push_row(xml, rows),
                "sdt" | "sdtContent" | "customXml" | "ins" | "del" | "moveTo" | "moveFrom"
                    if element.ns == Ns::Word =>
                {
                    if self.too_deep() {
                        // Row by row, without the containers around them.
                        let inside = xml.level();
                        while let Some(element) = xml.descendant(inside) {
                            if element.is("tr") {
                                self.push_row(xml, rows);
                            }
                        }
                        continue;
                    }
                    let first = rows.len();
                    self.depth += 1;
                    self.table_parts(xml, properties, rows);
                    self.depth -= 1;
                    if let Some(change) = revision(&element) {
                        let changed = rows.split_off(first);
                        self.settle_rows(changed, &change, rows);
                    }
                }
                "bookmarkStart" => self.waiting_anchors.extend(element.string("name")),
                "sdtPr" | "sdtEndPr" | "customXmlPr" | "commentRangeStart" | "commentRangeEnd" => {}
                mark if is_mere_mark(mark) => {}
                _ => self.unknown(&element),
            }
        }
    }

    fn push_row(&mut self, xml: &mut Xml<'_>, rows: &mut Vec<GridRow>) {
        let mut row = self.row(xml);
        match row.change.take() {
            Some(change) => self.settle_rows(vec![row], &change, rows),
            None => rows.push(row),
        }
    }

    fn table_properties(&mut self, xml: &mut Xml<'_>) -> TableProperties {
        let mut found = TableProperties::default();
        let mut description = None;
        let column_widths = Vec::new();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "tblStyle" => found.style = element.short(),
                "tblLook" => found.wanted = WantedRegions::read(&element),
                "bidiVisual" => found.right_to_left = element.is_on(),
                "tblCaption" => found.title = element.string("val").or(found.title),
                "tblDescription" => description = element.string("val"),
                "tblPrChange" => self.lost("a tracked change of looks"),
                _ => self.box_property(&element, xml, &mut found.boxed),
            }
        }
        // Title and description are one text, a line each.
        let is_said = |text: &String| !text.trim().is_empty();
        let lines: Vec<String> =
            found.title.take().into_iter().chain(description).filter(is_said).collect();
        let title = (!lines.is_empty()).then(|| lines.join("\n"));
        TableProperties { column_widths, title, ..found }
    }

    fn box_property(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, boxed: &mut BoxLooks) {
        self.properties(|context| {
            if !boxed.property(element, xml, context) {
                context.count(element);
            }
        });
    }

    fn grid(&mut self, xml: &mut Xml<'_>) -> Vec<f32> {
        let mut widths = Vec::new();
        let level = xml.level();
        while let Some(column) = xml.child(level) {
            match column.local() {
                "gridCol" => widths.push(column.twips("w").unwrap_or_default().max(0.0)),
                "tblGridChange" => self.lost("a tracked change of looks"),
                _ => self.unknown(&column),
            }
        }
        widths
    }

    fn row(&mut self, xml: &mut Xml<'_>) -> GridRow {
        let mut row = GridRow::default();
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
                "tblPrEx" => {
                    let inside = xml.level();
                    while let Some(property) = xml.child(inside) {
                        if property.local() == "tblPrExChange" {
                            self.lost("a tracked change of looks");
                        } else if property.local() != "tblLook" {
                            self.box_property(&property, xml, &mut row.exceptions);
                        }
                    }
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
                "bookmarkStart" => self.waiting_anchors.extend(element.string("name")),
                "sdtPr" | "sdtEndPr" | "customXmlPr" | "commentRangeStart" | "commentRangeEnd" => {}
                mark if is_mere_mark(mark) => {}
                _ => self.unknown(&element),
            }
        }
    }

    fn push_cell(&mut self, xml: &mut Xml<'_>, row: &mut GridRow, column: &mut usize) {
        let cell = self.cell(xml, *column);
        *column += cell.cell.column_span as usize;
        match row.cells.last_mut().filter(|_| cell.goes_on_across) {
            Some(before) => {
                before.cell.column_span += cell.cell.column_span;
                before.cell.content.extend(cell.cell.content);
            }
            None => row.cells.push(cell),
        }
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
                "ins" | "del" => row.change = revision(&element),
                "trPrChange" => self.lost("a tracked change of looks"),
                "trHeight" if self.options.looks => {
                    row.height = element.twips("val").map(Length::Points);
                }
                "jc" | "tblCellSpacing" => {
                    let mut exceptions = std::mem::take(&mut row.exceptions);
                    self.box_property(&element, xml, &mut exceptions);
                    row.exceptions = exceptions;
                }
                _ => self.properties(|context| context.count(&element)),
            }
        }
        before
    }

    fn cell(&mut self, xml: &mut Xml<'_>, column: usize) -> GridCell {
        let mut found = GridCell {
            cell: Cell::default(),
            column,
            merge: VerticalMerge::Starts,
            goes_on_across: false,
            boxed: BoxLooks::default(),
        };
        // `w:tcPr` comes first; blocks are read with what is left of the cell.
        let mut gatherer = Gatherer::new(self.options.looks);
        let mut aligns = Vec::new();
        let level = xml.level();
        let too_deep = self.too_deep();
        let mut has_properties = false;
        let mut change = None;
        self.depth += 1;
        loop {
            let next = if too_deep { xml.descendant(level) } else { xml.child(level) };
            let Some(element) = next else { break };
            match element.local() {
                // Read flat, later ones belong to the cells of tables inside this one.
                "tcPr" if element.ns == Ns::Word && !(too_deep && has_properties) => {
                    has_properties = true;
                    change = self.cell_properties(xml, &mut found);
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
        self.rest_carried_over(&mut gatherer);
        found.cell.content = gatherer.finish();
        if let Some(change) = change {
            self.settle_cell(&mut found.cell, &change);
        }
        if self.options.looks {
            drop_empty_end(&mut found.cell);
        } else {
            found.cell.align = common(&aligns);
        }
        found
    }

    /// Reads `w:tcPr`. Gives the tracked change of the cell as a whole.
    fn cell_properties(&mut self, xml: &mut Xml<'_>, found: &mut GridCell) -> Option<Revision> {
        let mut change = None;
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "gridSpan" => found.cell.column_span = span(&element),
                "vMerge" => {
                    let starts = element.val().as_deref() == Some("restart");
                    found.merge =
                        if starts { VerticalMerge::Starts } else { VerticalMerge::GoesOn };
                }
                "hMerge" => {
                    found.goes_on_across = element.val().as_deref() != Some("restart");
                }
                "vAlign" => {
                    found.cell.vertical = match element.val().as_deref() {
                        Some("center") => Some(VerticalAlign::Middle),
                        Some("bottom") => Some(VerticalAlign::Bottom),
                        _ => None,
                    };
                    self.box_property(&element, xml, &mut found.boxed);
                }
                "tcW" => {}
                "cellIns" | "cellDel" => change = revision(&element),
                "cellMerge" => self.lost("a tracked change of the span of cells"),
                "tcPrChange" => self.lost("a tracked change of looks"),
                _ => self.box_property(&element, xml, &mut found.boxed),
            }
        }
        change
    }
}

/// What a table style says of paragraphs stands over the defaults, not over their own styles.
fn dress_paragraphs(blocks: &mut [Block], region: &ParagraphProperties) {
    let around = super::looks::of_paragraph(region);
    if around.is_empty() {
        return;
    }
    for block in blocks {
        if !matches!(block.kind, BlockKind::Paragraph(_)) || block.attributes.style().is_some() {
            continue;
        }
        let mut looks = around.clone();
        if let Some(own) = block.attributes.looks() {
            looks.replace_by(own);
        }
        block.attributes.edit().looks = Some(Box::new(looks));
    }
}

/// How many first rows are headers, and whether the first column is.
fn headers(
    properties: &TableProperties,
    style: &ResolvedTableStyle,
    rows: &[GridRow],
) -> (usize, bool) {
    let stated = rows.iter().take_while(|row| row.is_header).count();
    let by_row = style.sets_apart(Region::FirstRow) && properties.wanted.first_row;
    let first_row = usize::from(by_row && rows.len() > 1);
    let first_column = style.sets_apart(Region::FirstColumn) && properties.wanted.first_column;
    (stated.max(first_row), first_column)
}

fn span(element: &Element<'_>) -> u32 {
    element.number("val").and_then(|n| u32::try_from(n).ok()).unwrap_or(1).clamp(1, 1000)
}

fn aligned(paragraph: &Paragraph) -> Option<Option<CellAlign>> {
    let align = match paragraph.align {
        Some(TextAlign::Start) => Some(CellAlign::Start),
        Some(TextAlign::Centre) => Some(CellAlign::Centre),
        Some(TextAlign::End) => Some(CellAlign::End),
        Some(TextAlign::Justify) | None => None,
    };
    (!paragraph.content.is_empty()).then_some(align)
}

/// The alignment of a cell whose paragraphs all have the same.
fn common(aligns: &[Option<CellAlign>]) -> Option<CellAlign> {
    let first = aligns.first().copied().flatten()?;
    aligns.iter().all(|align| *align == Some(first)).then_some(first)
}
