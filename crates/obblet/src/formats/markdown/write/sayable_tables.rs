//! Tables: drawn with pipes where pipes can say them, else in HTML.

use super::attributes::fits_braces;
use super::sayable::{Sayable, markup, with_label, without_unsayable};
use super::sayable_inlines::Flow;
use crate::document::{
    Attributes, Block, BlockKind, Cell, CellAlign, Column, FillerCells, HeaderScope, Row, RowGroup,
    RowGroupKind, Table, VerticalAlign,
};
use crate::embedded;
use crate::findings::Code;
use crate::formats::markdown::Switch;

impl Sayable<'_> {
    pub(super) fn push_table(
        &mut self,
        table: &Table,
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        if table.rows().all(|(_, row)| row.cells.is_empty()) {
            return self.not_carried("a table without cells");
        }
        if table.columns.iter().any(|column| column.width.is_some()) {
            self.not_carried("the widths of columns");
        }
        if table.columns.iter().skip(1).any(|column| column.begins_group) {
            self.not_carried("groups of columns");
        }
        let framed = table.caption.is_some() || !attributes.is_empty();
        let can_frame =
            self.has(Switch::Containers) && (attributes.is_empty() || fits_braces(&attributes));
        if self.has(Switch::Tables) && is_drawable(table) && (!framed || can_frame) {
            let table = self.drawn(table);
            let kind = BlockKind::Table(Box::new(table));
            return out.push(Block { kind, attributes, place: block.place });
        }
        if self.options.html {
            return self.push_html_table(table, &attributes, block, out);
        }
        self.push_flattened(table, block, out);
    }

    fn drawn(&mut self, table: &Table) -> Table {
        let width = table.width();
        let aligns = table.columns.iter().map(|column| column.align);
        let aligns = aligns.chain(std::iter::repeat(None)).take(width);
        let columns = aligns.map(|align| Column { align, ..Column::default() }).collect();
        let groups = table
            .groups
            .iter()
            .filter(|group| !group.rows.is_empty())
            .map(|group| RowGroup {
                kind: group.kind,
                rows: group.rows.iter().map(|row| self.drawn_row(row, group.kind)).collect(),
            })
            .collect();
        let caption = table.caption.as_ref().map(|caption| self.caption(caption));
        let mut drawn = Table { caption, columns, groups };
        // A reader takes short rows for rows with empty cells at their end. So wide a table that it is not filled
        // up keeps them short, which pipes can say as well.
        let bytes = 4 * drawn.rows().map(|(_, row)| row.cells.len()).sum::<usize>();
        FillerCells::for_source(bytes).fill(&mut drawn);
        drawn
    }

    fn drawn_row(&mut self, row: &Row, kind: RowGroupKind) -> Row {
        let header = (kind == RowGroupKind::Head).then_some(HeaderScope::Column);
        let mut cells = Vec::with_capacity(row.cells.len());
        for cell in &row.cells {
            let content = match cell.content.first() {
                Some(Block { kind: BlockKind::Paragraph(content), place, .. }) => {
                    self.place = *place;
                    let content = self.leaf(content, Flow::Cell);
                    let block = Block::new(BlockKind::Paragraph(content.clone())).at(*place);
                    if content.is_empty() { Vec::new() } else { vec![block] }
                }
                _ => Vec::new(),
            };
            cells.push(Cell { content, header, ..Cell::default() });
        }
        Row { cells, attributes: Attributes::NONE }
    }

    /// A table as HTML; cells that hold more than a line of HTML stand between blank lines, so
    /// that they are Markdown again.
    fn push_html_table(
        &mut self,
        table: &Table,
        attributes: &Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        self.report_lost_attributes(attributes);
        let mut html = HtmlRun { text: embedded::open_tag("table", attributes), block };
        html.text.push('\n');
        if let Some(caption) = &table.caption {
            html.text.push_str("<caption>");
            let content = with_label(caption.clone());
            self.push_html_content(&content, &mut html, out);
            html.text.push_str("</caption>\n");
        }
        for group in table.groups.iter().filter(|group| !group.rows.is_empty()) {
            let name = match group.kind {
                RowGroupKind::Head => "thead",
                RowGroupKind::Body => "tbody",
                RowGroupKind::Foot => "tfoot",
            };
            html.text.push_str(&format!("<{name}>\n"));
            for row in &group.rows {
                html.text.push_str("<tr>\n");
                let mut column = 0;
                for cell in &row.cells {
                    let align = table.columns.get(column).and_then(|column| column.align);
                    column += cell.column_span as usize;
                    self.push_html_cell(cell, align, &mut html, out);
                }
                html.text.push_str("</tr>\n");
            }
            html.text.push_str(&format!("</{name}>\n"));
        }
        html.text.push_str("</table>");
        html.end(out);
    }

    fn push_html_cell(
        &mut self,
        cell: &Cell,
        column_align: Option<CellAlign>,
        html: &mut HtmlRun<'_>,
        out: &mut Vec<Block>,
    ) {
        let name = if cell.header.is_some() { "th" } else { "td" };
        let attributes = without_unsayable(&cell.attributes);
        self.report_lost_attributes(&attributes);
        let mut tag = embedded::open_tag(name, &attributes);
        tag.pop();
        for (name, span) in [("colspan", cell.column_span), ("rowspan", cell.row_span)] {
            if span > 1 {
                embedded::push_attribute(&mut tag, name, &span.to_string());
            }
        }
        let scope = cell.header.map(|scope| match scope {
            HeaderScope::Column => "col",
            HeaderScope::Row => "row",
        });
        if let Some(scope) = scope {
            embedded::push_attribute(&mut tag, "scope", scope);
        }
        let style = cell_style(cell.align.or(column_align), cell.vertical);
        if !style.is_empty() {
            embedded::push_attribute(&mut tag, "style", &style);
        }
        tag.push('>');
        html.text.push_str(&tag);
        self.push_html_content(&cell.content, html, out);
        html.text.push_str(&format!("</{name}>\n"));
    }

    fn push_html_content(
        &mut self,
        content: &[Block],
        html: &mut HtmlRun<'_>,
        out: &mut Vec<Block>,
    ) {
        let in_line = match content {
            [] => Some(String::new()),
            [Block { kind: BlockKind::Paragraph(content), attributes, .. }]
                if without_unsayable(attributes).is_empty() =>
            {
                embedded::inline_html(content).filter(|html| !html.contains("\n\n"))
            }
            _ => None,
        };
        if let Some(line) = in_line {
            return html.text.push_str(&line);
        }
        html.end(out);
        let content = self.blocks(content);
        out.extend(content);
    }

    /// Rows as paragraphs, where neither pipes nor HTML can say the table.
    fn push_flattened(&mut self, table: &Table, block: &Block, out: &mut Vec<Block>) {
        self.not_carried("a table that pipes cannot draw");
        if let Some(caption) = &table.caption {
            let caption = with_label(caption.clone());
            let caption = self.blocks(&caption);
            out.extend(caption);
        }
        for (_, row) in table.rows() {
            for cell in &row.cells {
                let content = self.blocks(&cell.content);
                out.extend(content);
            }
        }
        self.findings.count(Code::ElementUnwrapped, "table", Some(block.place));
    }
}

/// HTML that goes on over several lines, until Markdown comes between.
struct HtmlRun<'b> {
    text: String,
    block: &'b Block,
}

impl HtmlRun<'_> {
    fn end(&mut self, out: &mut Vec<Block>) {
        let text = std::mem::take(&mut self.text).replace("\n\n", "\n&#10;");
        out.push(markup(text.trim_end_matches('\n').into(), self.block.place));
    }
}

/// One head row, then perhaps body rows, none of them wider, each cell a line at most.
fn is_drawable(table: &Table) -> bool {
    let mut groups = table.groups.iter().filter(|group| !group.rows.is_empty());
    let Some(head) = groups.next() else { return false };
    let body = groups.next();
    let width = table.width();
    head.kind == RowGroupKind::Head
        && head.rows.len() == 1
        && body.is_none_or(|body| body.kind == RowGroupKind::Body)
        && groups.next().is_none()
        && table.rows().all(|(kind, row)| {
            without_unsayable(&row.attributes).is_empty()
                && (row.cells.len() == width || kind != RowGroupKind::Head)
                && row.cells.iter().enumerate().all(|(column, cell)| {
                    let align = table.columns.get(column).and_then(|column| column.align);
                    is_drawable_cell(cell, kind, align)
                })
        })
}

fn is_drawable_cell(cell: &Cell, kind: RowGroupKind, column_align: Option<CellAlign>) -> bool {
    let header_fits = match cell.header {
        None => true,
        Some(HeaderScope::Column) => kind == RowGroupKind::Head,
        Some(HeaderScope::Row) => false,
    };
    let is_line = match cell.content.as_slice() {
        [] => true,
        [Block { kind: BlockKind::Paragraph(_), attributes, .. }] => {
            without_unsayable(attributes).is_empty()
        }
        _ => false,
    };
    header_fits
        && is_line
        && cell.column_span == 1
        && cell.row_span == 1
        && cell.align.is_none_or(|align| Some(align) == column_align)
        && cell.vertical.is_none_or(|vertical| vertical == VerticalAlign::Middle)
        && without_unsayable(&cell.attributes).is_empty()
}

fn cell_style(align: Option<CellAlign>, vertical: Option<VerticalAlign>) -> String {
    let align = align.map(|align| match align {
        CellAlign::Start => "text-align: start",
        CellAlign::Centre => "text-align: center",
        CellAlign::End => "text-align: end",
    });
    let vertical = vertical.map(|vertical| match vertical {
        VerticalAlign::Top => "vertical-align: top",
        VerticalAlign::Middle => "vertical-align: middle",
        VerticalAlign::Bottom => "vertical-align: bottom",
    });
    align.into_iter().chain(vertical).collect::<Vec<_>>().join("; ")
}
