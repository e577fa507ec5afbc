//! Tables that are drawn: with bars, with frames of plus signs, or by columns below a ruled head.

use super::Reader;
use super::inlines::inlines;
use super::lines::{Chunk, Line};
use crate::document::{
    Block, BlockKind, Cell, Column, HeaderScope, Inline, LineBreak, Place, Row, RowGroup,
    RowGroupKind, Table,
};

/// A row as the texts of its cells.
type Texts = Vec<String>;

impl Reader {
    pub(super) fn table(&mut self, chunk: &Chunk<'_>, blocks: &mut Vec<Block>) -> Option<usize> {
        let (head, body) = with_bars(&chunk.lines).or_else(|| by_columns(&chunk.lines))?;
        self.took("tables", chunk.place());
        let table = made(&head, &body, chunk.place());
        blocks.push(Block::new(BlockKind::Table(Box::new(table))).at(chunk.place()));
        Some(1)
    }
}

/// Whether a line is drawn, and holds no words.
fn is_rule(text: &str) -> bool {
    let is_drawn = |c: char| {
        matches!(
            c,
            '-' | '='
                | '+'
                | '|'
                | ':'
                | ' '
                | '\t'
                | '─'
                | '━'
                | '│'
                | '┼'
                | '├'
                | '┤'
                | '┌'
                | '┐'
                | '└'
                | '┘'
                | '┬'
                | '┴'
                | '═'
        )
    };
    text.chars().all(is_drawn)
        && text.chars().filter(|c| matches!(c, '-' | '=' | '─' | '━' | '═')).count() >= 3
}

fn cells(text: &str) -> Texts {
    let text = text.trim();
    let inner = text.strip_prefix(['|', '│']).unwrap_or(text);
    let inner = inner.strip_suffix(['|', '│']).unwrap_or(inner);
    inner.split(['|', '│']).map(|cell| cell.trim().to_string()).collect()
}

/// Rows between bars. Between two drawn lines of a frame, lines are one row whose cells are wrapped.
fn with_bars(lines: &[Line<'_>]) -> Option<(Vec<Texts>, Vec<Texts>)> {
    let is_row = |line: &Line<'_>| line.text.contains(['|', '│']) && !is_rule(line.text);
    let rows = lines.iter().filter(|line| is_row(line)).count();
    let rules = lines.iter().filter(|line| is_rule(line.text)).count();
    let is_framed =
        lines.first().is_some_and(|line| is_rule(line.text) && line.text.starts_with(['+', '┌']));
    if rows < 1 || rules < 1 || rows + rules < lines.len() {
        return None;
    }
    let width =
        lines.iter().filter(|line| is_row(line)).map(|line| cells(line.text).len()).max()?;
    if width < 2 && !is_framed {
        return None;
    }
    // Where every row has its own drawn line below, lines between them are one row.
    let inner_rules = rules.saturating_sub(if is_framed { 2 } else { 0 });
    let is_ruled = is_framed && inner_rules > 1;
    let mut groups: Vec<Vec<Texts>> = vec![Vec::new()];
    for line in lines {
        if is_rule(line.text) {
            if groups.last().is_some_and(|group| !group.is_empty()) {
                groups.push(Vec::new());
            }
        } else if let Some(group) = groups.last_mut() {
            group.push(cells(line.text));
        }
    }
    groups.retain(|group| !group.is_empty());
    if is_ruled {
        groups = groups.into_iter().map(|rows| vec![joined(rows)]).collect();
    } else {
        groups = groups.into_iter().map(unwrapped).collect();
    }
    if groups.len() < 2 {
        return Some((Vec::new(), groups.into_iter().flatten().collect()));
    }
    let head = groups.remove(0);
    Some((head, groups.into_iter().flatten().collect()))
}

/// A row whose first cell is empty goes on with the row before, where that is how cells are wrapped.
fn unwrapped(rows: Vec<Texts>) -> Vec<Texts> {
    let mut done: Vec<Texts> = Vec::new();
    for row in rows {
        let goes_on = row.len() > 1
            && row.first().is_some_and(String::is_empty)
            && row.iter().filter(|cell| !cell.is_empty()).count() == 1;
        match done.last_mut().filter(|_| goes_on) {
            Some(before) => *before = joined(vec![std::mem::take(before), row]),
            None => done.push(row),
        }
    }
    done
}

/// Lines of cells as one row.
fn joined(rows: Vec<Texts>) -> Texts {
    let width = rows.iter().map(Vec::len).max().unwrap_or(0);
    let mut whole = vec![String::new(); width];
    for row in rows {
        for (cell, text) in whole.iter_mut().zip(row) {
            if !cell.is_empty() && !text.is_empty() {
                cell.push('\n');
            }
            cell.push_str(&text);
        }
    }
    whole
}

/// A head, below it a line of dashes that shows the columns, and rows.
fn by_columns(lines: &[Line<'_>]) -> Option<(Vec<Texts>, Vec<Texts>)> {
    let at = lines.iter().position(|line| {
        is_rule(line.text)
            && line.text.split_whitespace().count() >= 2
            && !line.text.contains(['|', '+'])
    })?;
    if at > 2 || at + 1 >= lines.len() {
        return None;
    }
    let rule = lines.get(at)?;
    let mut starts = Vec::new();
    let mut was_blank = true;
    for (column, c) in rule.text.chars().enumerate() {
        if !c.is_whitespace() && was_blank {
            starts.push(rule.indent + column);
        }
        was_blank = c.is_whitespace();
    }
    // What stands before the first column is part of it.
    if let Some(first) = starts.first_mut() {
        *first = 0;
    }
    let row = |line: &Line<'_>| -> Texts {
        let characters: Vec<char> = line.text.chars().collect();
        let at = |column: usize| column.saturating_sub(line.indent).min(characters.len());
        let ends = starts.iter().skip(1).map(|start| at(*start)).chain([characters.len()]);
        starts
            .iter()
            .zip(ends)
            .map(|(start, end)| {
                let cell: String =
                    characters.get(at(*start)..end).unwrap_or_default().iter().collect();
                cell.trim().to_string()
            })
            .collect()
    };
    // No word stands across the beginning of a column.
    let fits = |line: &Line<'_>| {
        let characters: Vec<char> = line.text.chars().collect();
        starts.iter().skip(1).all(|start| {
            let before = start.checked_sub(line.indent + 1).and_then(|at| characters.get(at));
            before.is_none_or(|c| c.is_whitespace())
        })
    };
    if !lines.iter().filter(|line| !is_rule(line.text)).all(fits) {
        return None;
    }
    let is_end = |line: &&Line<'_>| is_rule(line.text);
    let head: Vec<Texts> = lines.iter().take(at).filter(|line| !is_end(line)).map(row).collect();
    let body: Vec<Texts> =
        lines.iter().skip(at + 1).filter(|line| !is_end(line)).map(row).collect();
    (!body.is_empty()).then_some((head, unwrapped(body)))
}

fn made(head: &[Texts], body: &[Texts], place: Place) -> Table {
    let width = head.iter().chain(body).map(Vec::len).max().unwrap_or(0);
    let group = |kind: RowGroupKind, rows: &[Texts]| RowGroup {
        kind,
        rows: rows.iter().map(|texts| row(texts, width, kind, place)).collect(),
    };
    let mut groups = Vec::new();
    if !head.is_empty() {
        groups.push(group(RowGroupKind::Head, head));
    }
    groups.push(group(RowGroupKind::Body, body));
    Table { caption: None, columns: vec![Column::default(); width], groups }
}

fn row(texts: &Texts, width: usize, kind: RowGroupKind, place: Place) -> Row {
    let cell = |text: &str| {
        let content: Vec<Inline> = inlines(text)
            .into_iter()
            .map(|inline| match inline {
                Inline::Break(LineBreak::Soft) => Inline::Text(" ".into()),
                other => other,
            })
            .collect();
        Cell {
            content: match content.is_empty() {
                true => Vec::new(),
                false => vec![Block::new(BlockKind::Paragraph(content)).at(place)],
            },
            header: (kind == RowGroupKind::Head).then_some(HeaderScope::Column),
            ..Cell::default()
        }
    };
    let empty = std::iter::repeat_n("", width.saturating_sub(texts.len()));
    Row {
        cells: texts.iter().map(String::as_str).chain(empty).map(cell).collect(),
        ..Row::default()
    }
}
