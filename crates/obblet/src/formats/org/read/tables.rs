//! Tables (Org syntax, “Tables”; Org manual, “Tables” and “Column Groups”).

use super::Reader;
use super::affiliated::Affiliated;
use super::lines::{Keyword, Line};
use crate::document::{
    Block, BlockKind, Cell, CellAlign, CodeBlock, Column, HeaderScope, Place, Row, RowGroup,
    RowGroupKind, Table,
};
use crate::findings::Code;
use std::ops::Range;

/// Signs in the first column that say what a row is for.
const MARKS: [&str; 8] = ["/", "#", "!", "$", "*", "_", "^", ""];

/// The attribute that keeps the formulas of a table.
pub(in crate::formats::org) const FORMULAS: &str = "formulas";

/// A row as it stands in its line.
enum RowLine<'s> {
    Rule,
    Cells(Vec<&'s str>, Line<'s>),
}

impl<'s> Reader<'s> {
    pub(super) fn table(
        &mut self,
        at: usize,
        end: usize,
        affiliated: &Affiliated,
        out: &mut Vec<Block>,
    ) -> usize {
        let is_row = |line: &&Line<'_>| line.trimmed().starts_with('|');
        let lines = self.lines.get(at..end).unwrap_or_default();
        let behind = at + lines.iter().take_while(|line| is_row(line)).count();
        let formulas = self.formulas(behind, end);
        let next = behind + formulas.len();
        let place = self.place_of(&(at..next));
        if !self.settings.options.tables && !self.options.keeps_hidden {
            self.hidden("a table", place);
            return next;
        }
        let rows = self.rows(at..behind);
        let hides = has_marks(&rows) && rows.iter().any(is_for_calculating);
        if hides && self.options.keeps_hidden {
            out.push(self.raw(at..next));
            return next;
        }
        if hides {
            self.hidden("a column of marks, and rows for calculating", place);
        }
        let table = self.table_of(rows, place);
        let Some(mut table) = table else { return next };
        table.caption = self.caption(affiliated, "table");
        let mut block = Block::new(BlockKind::Table(Box::new(table))).at(place);
        if self.options.keeps_hidden {
            let formulas = formulas.into_iter().map(|formula| (FORMULAS.into(), formula.into()));
            let formulas: Vec<_> = formulas.collect();
            if !formulas.is_empty() {
                block.attributes.edit().pairs.extend(formulas);
            }
        } else if !formulas.is_empty() {
            self.findings.count(Code::CodeNotRun, "formulas of a table", Some(place));
        }
        out.push(block);
        next
    }

    /// `#+TBLFM:` lines behind a table.
    fn formulas(&self, at: usize, end: usize) -> Vec<String> {
        let lines = self.lines.get(at..end).unwrap_or_default().iter();
        let value = |line: &Line<'_>| {
            Keyword::of(line.trimmed()).filter(|k| k.is("tblfm")).map(|k| k.value.to_string())
        };
        lines.map_while(value).collect()
    }

    fn rows(&self, range: Range<usize>) -> Vec<RowLine<'s>> {
        let lines = self.lines.get(range).unwrap_or_default();
        lines.iter().map(|line| row(*line)).collect()
    }

    fn table_of(&mut self, rows: Vec<RowLine<'s>>, place: Place) -> Option<Table> {
        let has_marks = has_marks(&rows);
        let rows = detached(rows, has_marks);
        let mut table = Table::default();
        let mut groups: Vec<Vec<(Vec<&str>, Line<'s>)>> = vec![Vec::new()];
        for row in rows {
            match row {
                RowLine::Rule => groups.push(Vec::new()),
                RowLine::Cells(cells, line) => {
                    if let Some(columns) = cookies(&cells) {
                        if columns.iter().any(|cookie| cookie.has_width) {
                            let place = Some(line.place());
                            self.findings.count(
                                Code::SettingNotKept,
                                "the width of a column",
                                place,
                            );
                        }
                        apply_cookies(&mut table, columns);
                    } else if let Some(group) = groups.last_mut() {
                        group.push((cells, line));
                    }
                }
            }
        }
        groups.retain(|group| !group.is_empty());
        let widest = groups.iter().flatten().map(|(cells, _)| cells.len()).max()?;
        let has_head = groups.len() > 1;
        // A column that only separates others with its width is one like all.
        table.columns.resize(widest, Column::default());
        for (index, group) in groups.into_iter().enumerate() {
            let is_head = has_head && index == 0;
            let kind = if is_head { RowGroupKind::Head } else { RowGroupKind::Body };
            let rows = group.into_iter().map(|(cells, line)| {
                let place = line.place();
                let mut row = Row::default();
                for text in cells {
                    row.cells.push(self.cell(text, is_head, place));
                }
                row
            });
            table.groups.push(RowGroup { kind, rows: rows.collect() });
        }
        if !self.filler_cells.fill(&mut table) {
            self.findings.add(Code::TableTooWide, Some(place));
        }
        Some(table)
    }

    fn cell(&mut self, text: &str, is_head: bool, place: Place) -> Cell {
        let header = is_head.then_some(HeaderScope::Column);
        if text.is_empty() {
            return Cell { header, ..Cell::default() };
        }
        let content = self.inlines_of_text(text, place);
        let content = vec![Block::new(BlockKind::Paragraph(content)).at(place)];
        Cell { content, header, ..Cell::default() }
    }

    /// A table drawn with signs, as another program makes it, stays as it is drawn.
    pub(super) fn drawn_table(&mut self, at: usize, end: usize, out: &mut Vec<Block>) -> usize {
        let is_drawn = |line: &&Line<'_>| line.trimmed().starts_with(['|', '+']);
        let lines = self.lines.get(at..end).unwrap_or_default();
        let behind = at + lines.iter().take_while(is_drawn).count();
        let place = self.place_of(&(at..behind));
        if self.options.keeps_hidden {
            out.push(self.raw(at..behind));
            return behind;
        }
        self.findings.count(Code::DrawnTableAsText, "", Some(place));
        let drawn = self.lines.get(at..behind).unwrap_or_default();
        let text: String =
            drawn.iter().map(|line| format!("{}\n", line.trimmed().trim_end())).collect();
        let code = CodeBlock::of_text(text);
        out.push(Block::new(BlockKind::Code(Box::new(code))).at(place));
        behind
    }
}

fn row(line: Line<'_>) -> RowLine<'_> {
    let text = line.trimmed().trim_end_matches([' ', '\t']);
    let inner = text.strip_prefix('|').unwrap_or(text);
    if inner.starts_with('-') {
        return RowLine::Rule;
    }
    let inner = inner.strip_suffix('|').unwrap_or(inner);
    RowLine::Cells(inner.split('|').map(str::trim).collect(), line)
}

/// Whether the first column only says what rows are for.
fn has_marks(rows: &[RowLine<'_>]) -> bool {
    let mut has_sign = false;
    for row in rows {
        let RowLine::Cells(cells, _) = row else { continue };
        let Some(first) = cells.first().filter(|first| MARKS.contains(first)) else { return false };
        // A row of column groups alone makes no column of marks.
        has_sign |= !first.is_empty();
    }
    has_sign
}

/// Whether the mark of a row says more than where groups of columns begin, which the table keeps.
fn is_for_calculating(row: &RowLine<'_>) -> bool {
    matches!(row, RowLine::Cells(cells, _) if !matches!(cells.first(), Some(&("/" | "")) | None))
}

/// Without the column of marks, and without the rows that are for calculating only.
fn detached<'s>(rows: Vec<RowLine<'s>>, has_marks: bool) -> Vec<RowLine<'s>> {
    if !has_marks {
        return rows;
    }
    let mut kept = Vec::new();
    for row in rows {
        match row {
            RowLine::Rule => kept.push(RowLine::Rule),
            RowLine::Cells(mut cells, line) => {
                let mark = cells.first().copied().unwrap_or_default();
                if matches!(mark, "!" | "$" | "_" | "^") {
                    continue;
                }
                if mark != "/" || cookies(&cells).is_none() {
                    cells.drain(..cells.len().min(1));
                } else if let Some(first) = cells.first_mut() {
                    *first = "";
                    cells.remove(0);
                }
                kept.push(RowLine::Cells(cells, line));
            }
        }
    }
    kept
}

/// What a cookie says about its column.
#[derive(Debug, Clone, Copy, Default)]
struct Cookie {
    align: Option<CellAlign>,
    has_width: bool,
    begins_group: bool,
    ends_group: bool,
}

/// The cookies of a row that holds nothing else.
fn cookies(cells: &[&str]) -> Option<Vec<Cookie>> {
    let mut is_any = false;
    let mut found = Vec::new();
    for cell in cells {
        match *cell {
            "" | "/" => found.push(Cookie::default()),
            cell => {
                found.push(cookie(cell)?);
                is_any = true;
            }
        }
    }
    is_any.then_some(found)
}

/// `<l>`, `<r10>`, `<12>`, or `<`, `>` and `<>` for groups of columns.
fn cookie(text: &str) -> Option<Cookie> {
    let mut cookie = Cookie::default();
    match text {
        "<" => cookie.begins_group = true,
        ">" => cookie.ends_group = true,
        "<>" => (cookie.begins_group, cookie.ends_group) = (true, true),
        _ => {
            let inner = text.strip_prefix('<')?.strip_suffix('>')?;
            cookie.align = match inner.chars().next()? {
                'l' => Some(CellAlign::Start),
                'c' => Some(CellAlign::Centre),
                'r' => Some(CellAlign::End),
                _ => None,
            };
            let width = inner.trim_start_matches(['l', 'c', 'r']);
            let is_width = width.bytes().all(|byte| byte.is_ascii_digit());
            if !is_width || inner.len() - width.len() > 1 {
                return None;
            }
            cookie.has_width = !width.is_empty();
        }
    }
    Some(cookie)
}

fn apply_cookies(table: &mut Table, cookies: Vec<Cookie>) {
    if table.columns.len() < cookies.len() {
        table.columns.resize(cookies.len(), Column::default());
    }
    let mut begins = false;
    for (column, cookie) in table.columns.iter_mut().zip(cookies) {
        column.align = cookie.align.or(column.align);
        column.begins_group |= cookie.begins_group || begins;
        begins = cookie.ends_group;
    }
}
