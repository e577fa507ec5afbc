//! Tables, with columns as wide as their widest cell.

use super::Writer;
use crate::document::{
    Attributes, Block, BlockKind, Cell, CellAlign, Column, HeaderScope, Inline, RowGroupKind,
    Table, build,
};
use crate::formats::code_content;
use crate::formats::org::read::TABLE_FORMULAS;

/// How many times as much space as text a table may take to be aligned, and what it may in any case.
const MOST_SPACE: (usize, usize) = (6, 20_000);

/// A line of a table.
enum Line {
    Rule,
    Cells(Vec<String>),
}

impl Line {
    /// Bytes that it takes at least.
    fn length(&self) -> usize {
        match self {
            Self::Rule => 1,
            Self::Cells(cells) => cells.iter().map(|cell| cell.len() + 3).sum(),
        }
    }
}

impl Writer<'_> {
    pub(super) fn table(&mut self, table: &Table, attributes: &Attributes) {
        self.caption_line(table.caption.as_ref());
        let label = table.caption.as_ref().and_then(|caption| caption.label.as_ref());
        let more: Vec<_> =
            label.map(|label| ("data-label", label.to_string())).into_iter().collect();
        self.attribute_lines(attributes, &more);
        let width = table.width();
        if width == 0 {
            return;
        }
        let outer = (
            std::mem::replace(&mut self.is_cell, true),
            std::mem::replace(&mut self.is_line, true),
        );
        let lines = self.table_lines(table, width);
        (self.is_cell, self.is_line) = outer;
        let text = aligned(lines, &table.columns, width);
        self.lines(&text);
        if let Some(set) = attributes.get() {
            let formulas = set.pairs.iter().filter(|(name, _)| name == TABLE_FORMULAS);
            let formulas: Vec<String> = formulas.map(|(_, f)| format!("#+tblfm: {f}")).collect();
            self.lines(&formulas.join("\n"));
        }
    }

    fn table_lines(&mut self, table: &Table, width: usize) -> Vec<Line> {
        let mut lines = Vec::new();
        let has_head = table.groups.first().is_some_and(|group| group.kind == RowGroupKind::Head);
        let mut covered: Vec<u32> = vec![0; width];
        let is_filled = self.empty_cells.fill(table, width);
        for (index, group) in table.groups.iter().enumerate() {
            if index > 0 {
                lines.push(Line::Rule);
            }
            if group.kind == RowGroupKind::Foot {
                self.changed("the foot of a table");
            }
            for row in &group.rows {
                let mut cells: Vec<String> = Vec::with_capacity(row.cells.len());
                let mut given = row.cells.iter();
                while cells.len() < width {
                    let column = cells.len();
                    let above = covered.get_mut(column).filter(|rows| is_filled && **rows > 0);
                    if let Some(rows) = above {
                        *rows -= 1;
                        cells.push(String::new());
                        continue;
                    }
                    let Some(cell) = given.next() else {
                        if !is_filled {
                            break;
                        }
                        cells.push(String::new());
                        continue;
                    };
                    let align = table.columns.get(column).and_then(|column| column.align);
                    let text = self.cell(cell, align, has_head && index == 0);
                    let span = if is_filled { cell.column_span.max(1) as usize } else { 1 };
                    for below in covered.iter_mut().skip(column).take(span) {
                        *below = cell.row_span.saturating_sub(1);
                    }
                    cells.push(text);
                    cells.resize((column + span).min(width), String::new());
                }
                lines.push(Line::Cells(cells));
            }
        }
        // One group of rows has no rule; a head needs one below it.
        if has_head && table.groups.len() == 1 {
            lines.push(Line::Rule);
        }
        if let Some(cookies) = cookies(&table.columns) {
            let behind_head = lines.iter().position(|line| matches!(line, Line::Rule)).unwrap_or(0);
            let at = if has_head { behind_head } else { 0 };
            lines.insert(at, Line::Cells(cookies));
        }
        if let Some(groups) = column_groups(&table.columns) {
            lines.insert(0, Line::Cells(groups));
        }
        lines
    }

    fn cell(&mut self, cell: &Cell, align: Option<CellAlign>, is_head: bool) -> String {
        if cell.column_span > 1 || cell.row_span > 1 {
            self.lost("cells that span others");
        }
        if cell.header == Some(HeaderScope::Row) || cell.header.is_some() && !is_head {
            self.lost("that a cell is the head of its row");
        }
        if !cell.attributes.is_empty() || cell.vertical.is_some() {
            self.lost("attributes of a cell");
        }
        if cell.align.is_some() && cell.align != align {
            self.lost("the alignment of a cell");
        }
        self.cell_text(cell)
    }

    /// The lines of what a cell holds. A cell is one line: what else blocks are is told, their words stay.
    fn cell_parts(&mut self, blocks: &[Block], parts: &mut Vec<String>) {
        for block in blocks {
            if let BlockKind::Paragraph(content) = &block.kind {
                parts.push(self.one_line(content));
                continue;
            }
            self.changed("blocks in a cell that are no text");
            self.other_parts(&block.kind, parts);
        }
    }

    fn other_parts(&mut self, kind: &BlockKind, parts: &mut Vec<String>) {
        match kind {
            BlockKind::Heading(heading) => parts.push(self.one_line(&heading.content)),
            BlockKind::List(list) => {
                list.items.iter().for_each(|item| self.cell_parts(&item.content, parts));
            }
            BlockKind::DescriptionList(items) => {
                for item in items {
                    item.terms.iter().for_each(|term| parts.push(self.one_line(term)));
                    item.descriptions.iter().for_each(|blocks| self.cell_parts(blocks, parts));
                }
            }
            BlockKind::Quotation(content) => self.cell_parts(content, parts),
            BlockKind::Group(group) => self.cell_parts(&group.content, parts),
            BlockKind::Admonition(admonition) => {
                admonition.title.iter().for_each(|title| parts.push(self.one_line(title)));
                self.cell_parts(&admonition.content, parts);
            }
            BlockKind::Figure(figure) => {
                self.cell_parts(&figure.content, parts);
                let caption = figure.caption.iter();
                caption.for_each(|caption| self.cell_parts(&caption.content, parts));
            }
            BlockKind::Table(table) => {
                let caption = table.caption.iter();
                caption.for_each(|caption| self.cell_parts(&caption.content, parts));
                let rows = table.groups.iter().flat_map(|group| &group.rows);
                let cells = rows.flat_map(|row| &row.cells);
                cells.for_each(|cell| self.cell_parts(&cell.content, parts));
            }
            BlockKind::Verse(lines) => {
                lines.iter().for_each(|line| parts.push(self.one_line(line)));
            }
            BlockKind::Code(code) => {
                code_content::report_lost(code, self.place, &mut self.findings);
                let lines = code.text.lines().filter(|line| !line.trim().is_empty());
                lines.for_each(|line| parts.push(self.one_line(&[build::code(line.trim())])));
            }
            BlockKind::Formula(formula) => {
                parts.push(self.one_line(&[Inline::Formula(formula.clone())]));
            }
            _ => self.lost("a block in a cell"),
        }
    }

    fn cell_text(&mut self, cell: &Cell) -> String {
        let mut parts = Vec::new();
        self.cell_parts(&cell.content, &mut parts);
        if parts.len() > 1 {
            self.changed("paragraphs of a cell");
        }
        let text = parts.join(" ");
        // What looks like a cookie or a mark of rows is none.
        let is_sign = matches!(text.as_str(), "/" | "#" | "!" | "$" | "*" | "_" | "^");
        let is_cookie = text.starts_with('<') && text.ends_with('>');
        match is_sign || is_cookie {
            true => format!("\u{200b}{text}"),
            false => text,
        }
    }
}

/// The row that states how columns are aligned.
fn cookies(columns: &[Column]) -> Option<Vec<String>> {
    if columns.iter().all(|column| column.align.is_none()) {
        return None;
    }
    let cookie = |column: &Column| match column.align {
        Some(CellAlign::Start) => "<l>".to_string(),
        Some(CellAlign::Centre) => "<c>".to_string(),
        Some(CellAlign::End) => "<r>".to_string(),
        None => String::new(),
    };
    Some(columns.iter().map(cookie).collect())
}

/// The row that states where groups of columns begin; its first cell says that it does.
fn column_groups(columns: &[Column]) -> Option<Vec<String>> {
    if !columns.iter().any(|column| column.begins_group) {
        return None;
    }
    let sign = |column: &Column| if column.begins_group { "<".to_string() } else { String::new() };
    let mut cells = vec!["/".to_string()];
    cells.extend(columns.iter().map(sign));
    Some(cells)
}

/// The lines with all cells of a column as wide as the widest.
fn aligned(lines: Vec<Line>, columns: &[Column], width: usize) -> String {
    let has_groups = columns.iter().any(|column| column.begins_group);
    let total = width + usize::from(has_groups);
    let lines: Vec<Line> = lines
        .into_iter()
        .map(|line| match line {
            // A column of marks stands before all others.
            Line::Cells(mut cells) if has_groups && cells.first().is_none_or(|c| c != "/") => {
                cells.insert(0, String::new());
                Line::Cells(cells)
            }
            line => line,
        })
        .collect();
    let mut widths = vec![1; total];
    for line in &lines {
        let Line::Cells(cells) = line else { continue };
        for (width, cell) in widths.iter_mut().zip(cells) {
            *width = (*width).max(cell.chars().filter(|c| *c != '\u{200b}').count());
        }
    }
    let text: usize = lines.iter().map(Line::length).sum();
    let whole = (widths.iter().sum::<usize>() + 3 * total).saturating_mul(lines.len());
    let is_aligned = whole <= text * MOST_SPACE.0 + MOST_SPACE.1;
    if !is_aligned {
        widths.fill(1);
    }
    let align = |index: usize| {
        let index = if has_groups { index.checked_sub(1) } else { Some(index) };
        index.and_then(|index| columns.get(index)).and_then(|column| column.align)
    };
    let mut out = String::new();
    for line in &lines {
        match line {
            Line::Rule => {
                let rules: Vec<String> = widths.iter().map(|width| "-".repeat(width + 2)).collect();
                out.push_str(&format!("|{}|\n", rules.join("+")));
            }
            Line::Cells(cells) => {
                out.push('|');
                let shown = if is_aligned { total } else { cells.len() };
                for (index, width) in widths.iter().enumerate().take(shown) {
                    let cell = cells.get(index).map_or("", String::as_str);
                    let length = cell.chars().filter(|c| *c != '\u{200b}').count();
                    let space = width.saturating_sub(length);
                    let before = match align(index) {
                        Some(CellAlign::End) => space,
                        Some(CellAlign::Centre) => space / 2,
                        _ => 0,
                    };
                    let (before, behind) = (" ".repeat(before), " ".repeat(space - before));
                    out.push_str(&format!(" {before}{cell}{behind} |"));
                }
                out.push('\n');
            }
        }
    }
    out
}
