//! Tables.

use super::table_columns::{alignment, columns};
use super::{Reader, Stop};
use crate::document::{
    Block, BlockKind, Caption, Cell, CellAlign, Column, HeaderScope, Row, RowGroup, RowGroupKind,
    Table, VerticalAlign,
};
use crate::tex::{Name, Spot, Token};

/// A table while it is read.
#[derive(Default)]
struct Open {
    rows: Vec<Row>,
    row: Row,
    /// Before which rows lines are drawn.
    lines: Vec<usize>,
    /// How many rows are the head, where the source says so.
    head: Option<usize>,
    /// Which rows are the foot.
    foot: Option<(usize, usize)>,
    caption: Option<Caption>,
    label: Option<String>,
}

impl Reader<'_> {
    /// `tabular` and its kin.
    pub(super) fn table(&mut self, name: &str, spot: Spot) {
        let plain = name.trim_end_matches('*');
        self.front.option();
        // Those of a stated width say that first.
        if matches!(plain, "tabularx" | "tabulary" | "xltabular" | "tabu" | "longtabu")
            || name == "tabular*"
        {
            self.front.argument();
        }
        self.front.option();
        let specification = self.front.argument();
        let specification = self.front.expanded(specification);
        let mut columns = columns(&self.front.typed(&specification));
        let is_float = plain.starts_with("long") || plain == "xltabular";
        if is_float {
            self.floats.push(super::floats::Float::of_long_table());
        }
        let mut open = Open::default();
        self.rows(name, spot, &mut open);
        if is_float
            && let Some((caption, label)) = self.floats.pop().map(super::floats::Float::parts)
        {
            open.caption = caption;
            open.label = label.map(|label| label.to_string());
        }
        for column in &mut columns {
            // What stands at the start anyway needs no word.
            if column.align == Some(CellAlign::Start) {
                column.align = None;
            }
        }
        self.push_table(open, columns, spot);
    }

    fn rows(&mut self, name: &str, spot: Spot, open: &mut Open) {
        loop {
            self.row_commands(open);
            let stop = self.cell(open);
            match stop {
                Stop::Cell => {}
                Stop::Row => open.end_row(),
                stop if self.ends(stop, name, spot) => break,
                _ => {}
            }
        }
        open.end_row();
    }

    /// Lines and the like at the start of a row.
    fn row_commands(&mut self, open: &mut Open) {
        loop {
            self.front.skip_spaces();
            if self.front.next_sign().is_some_and(|sign| sign != '\\') {
                return;
            }
            let Some(next) = self.front.next() else { return };
            let Token::Command(command) = next.token else {
                return self.front.push_one(next);
            };
            match self.front.names.text(command) {
                "hline" | "toprule" | "midrule" | "bottomrule" | "hdashline" | "specialrule"
                | "Xhline" => {
                    open.lines.push(open.rows.len());
                    self.skip_line_options(command);
                }
                "cline" | "cmidrule" => {
                    self.front.option();
                    self.front.between('(', ')');
                    self.front.argument();
                }
                "endhead" | "endfirsthead" => open.end_head(),
                "endfoot" | "endlastfoot" => open.end_foot(),
                "caption" => {
                    self.command(command, next.spot);
                    // A caption ends like a row.
                    self.front.skip_spaces();
                    if let Some(end) = self.front.next_raw()
                        && !super::references::is_command(end.token, "\\", &self.front.names)
                        && !super::references::is_command(
                            end.token,
                            "tabularnewline",
                            &self.front.names,
                        )
                    {
                        self.front.push_one(end);
                    }
                }
                "label" => {
                    self.command(command, next.spot);
                }
                "addlinespace" | "noalign" => {
                    self.front.option();
                    if self.front.names.text(command) == "noalign" {
                        self.front.argument();
                    }
                }
                "rowcolor" => {
                    self.front.option();
                    self.front.argument();
                    self.front.option();
                    self.layout("\\rowcolor", next.spot);
                }
                "par" => {}
                _ => return self.front.push_one(next),
            }
        }
    }

    /// The rule commands that say how thick they are.
    pub(super) fn skip_line_options(&mut self, command: Name) {
        match self.front.names.text(command) {
            "specialrule" => {
                for _ in 0..3 {
                    self.front.argument();
                }
            }
            "Xhline" => {
                self.front.argument();
            }
            "toprule" | "midrule" | "bottomrule" => {
                self.front.option();
            }
            _ => {}
        }
    }

    /// One cell, up to what ends it.
    fn cell(&mut self, open: &mut Open) -> Stop {
        let mut cell = Cell::default();
        // A cell over several columns or rows says so first.
        loop {
            self.front.skip_spaces();
            if self.front.next_sign().is_some_and(|sign| sign != '\\') {
                break;
            }
            let Some(next) = self.front.next() else { break };
            let Token::Command(command) = next.token else {
                self.front.push_one(next);
                break;
            };
            match self.front.names.text(command) {
                "multicolumn" => {
                    let span = self.front.argument_text();
                    cell.column_span = span.parse().unwrap_or(1).clamp(1, 1_000);
                    let specification = self.front.argument_text();
                    cell.align = alignment(&specification);
                    let content = self.front.argument();
                    self.front.push(content);
                }
                "multirow" | "multirowcell" => {
                    let vertical = self.front.option_text();
                    let span = self.front.argument_text();
                    cell.row_span =
                        span.trim_start_matches('-').parse().unwrap_or(1).clamp(1, 10_000);
                    if vertical.as_deref() == Some("t") {
                        cell.vertical = Some(VerticalAlign::Top);
                    }
                    self.front.option();
                    self.front.argument();
                    self.front.option();
                    let content = self.front.argument();
                    self.front.push(content);
                }
                "cellcolor" => {
                    self.front.option();
                    self.front.argument();
                    self.layout("\\cellcolor", next.spot);
                }
                "thead" | "makecell" => {
                    self.front.option();
                    let content = self.front.argument();
                    let content = self.blocks_of(content);
                    cell.content.extend(content);
                }
                _ => {
                    self.front.push_one(next);
                    break;
                }
            }
        }
        let mut stop = Stop::End;
        let sheet = self.nested(|reader| {
            reader.sheet.is_cell = true;
            stop = reader.run(None);
        });
        let content = sheet.into_blocks();
        match cell.content.is_empty() {
            true => cell.content = content,
            false => cell.content.extend(content),
        }
        open.row.cells.push(cell);
        stop
    }

    fn push_table(&mut self, open: Open, columns: Vec<Column>, spot: Spot) {
        let Open { rows, lines, head, foot, caption, label, .. } = open;
        if rows.is_empty() {
            return;
        }
        let rows = without_covered(rows);
        let head = head.unwrap_or_else(|| head_by_lines(&lines, rows.len()));
        let mut head_rows = rows;
        let mut body = head_rows.split_off(head.min(head_rows.len()));
        for cell in head_rows.iter_mut().flat_map(|row| &mut row.cells) {
            cell.header = Some(HeaderScope::Column);
        }
        let at_body = |row: usize| row.saturating_sub(head_rows.len()).min(body.len());
        let (foot_from, foot_to) = foot.map_or((0, 0), |(from, to)| (at_body(from), at_body(to)));
        let foot = body.drain(foot_from..foot_to.max(foot_from)).collect();
        let groups = [
            RowGroup { kind: RowGroupKind::Head, rows: head_rows },
            RowGroup { kind: RowGroupKind::Body, rows: body },
            RowGroup { kind: RowGroupKind::Foot, rows: foot },
        ];
        let groups = groups.into_iter().filter(|group| !group.rows.is_empty()).collect();
        let table = Table { caption, columns, groups };
        let mut block = Block::new(BlockKind::Table(Box::new(table))).at(spot.into());
        if let Some(label) = label {
            block = block.with_id(label.as_str());
        }
        self.sheet.push_block(block);
    }
}

impl Open {
    fn end_row(&mut self) {
        let row = std::mem::take(&mut self.row);
        let is_blank = row.cells.len() <= 1 && row.cells.iter().all(|cell| cell.content.is_empty());
        if !is_blank {
            self.rows.push(row);
        }
    }

    /// What stands so far is the head; a second one for later pages goes.
    fn end_head(&mut self) {
        self.end_row();
        match self.head {
            Some(head) => self.rows.truncate(head),
            None => self.head = Some(self.rows.len()),
        }
        self.lines.clear();
    }

    /// What stands behind the head so far is the foot; a second one goes.
    fn end_foot(&mut self) {
        self.end_row();
        match self.foot {
            Some((_, to)) => self.rows.truncate(to),
            None => self.foot = Some((self.head.unwrap_or(0), self.rows.len())),
        }
    }
}

/// Cells that one from above covers are written, and empty: they go.
fn without_covered(rows: Vec<Row>) -> Vec<Row> {
    if rows.iter().flat_map(|row| &row.cells).all(|cell| cell.row_span <= 1) {
        return rows;
    }
    // How many rows are still covered in each column.
    let mut covered: Vec<u32> = Vec::new();
    let mut kept = Vec::new();
    for mut row in rows {
        let mut cells = Vec::new();
        let mut column = 0;
        let mut next = covered.iter().map(|rows| rows.saturating_sub(1)).collect::<Vec<_>>();
        for cell in row.cells {
            let is_covered = covered.get(column).is_some_and(|rows| *rows > 0);
            let width = cell.column_span as usize;
            if next.len() < column + width {
                next.resize(column + width, 0);
            }
            if is_covered && cell.content.is_empty() {
                column += width;
                continue;
            }
            for place in next.iter_mut().skip(column).take(width) {
                *place = cell.row_span.saturating_sub(1);
            }
            column += width;
            cells.push(cell);
        }
        row.cells = cells;
        covered = next;
        kept.push(row);
    }
    kept
}

/// Rows between the first two lines are a head, if others follow.
fn head_by_lines(lines: &[usize], rows: usize) -> usize {
    let first = lines.first().copied();
    let second = lines.iter().copied().find(|line| *line > 0);
    match (first, second) {
        (Some(_), Some(second)) if second < rows && second <= 3 => second,
        _ => 0,
    }
}
