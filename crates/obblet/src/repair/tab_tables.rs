use super::Repair;
use super::lines::{each_flow, is_blank};
use super::typed_leaders::leaders;
use crate::document::{
    Block, BlockKind, Cell, Column, Document, Inline, LineBreak, Place, Row, RowGroup,
    RowGroupKind, Table,
};
use crate::findings::{Code, Findings};

/// Paragraphs whose columns are made of tabs, of four spaces or more, or of leaders of dots, become
/// a table: two rows or more in a row with the same number of columns.
#[derive(Debug, Clone, Copy)]
pub struct TabTables;

/// One line as a row.
type Cells = Vec<Vec<Inline>>;

impl Repair for TabTables {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_flow(document, |blocks| {
            if blocks.iter().any(|block| rows(block).is_some()) {
                *blocks = with_tables(std::mem::take(blocks), findings);
            }
        });
    }
}

fn with_tables(blocks: Vec<Block>, findings: &mut Findings) -> Vec<Block> {
    let mut done = Vec::with_capacity(blocks.len());
    let mut run: Vec<(Block, Vec<Cells>)> = Vec::new();
    for block in blocks {
        let rows = rows(&block);
        let width = |rows: &[Cells]| rows.first().map_or(0, Vec::len);
        let fits = match (run.last(), &rows) {
            (Some((_, before)), Some(rows)) => width(before) == width(rows),
            (None, Some(_)) => true,
            (_, None) => false,
        };
        if !fits {
            end_run(&mut run, &mut done, findings);
        }
        match rows {
            Some(rows) => run.push((block, rows)),
            None => done.push(block),
        }
    }
    end_run(&mut run, &mut done, findings);
    done
}

fn end_run(run: &mut Vec<(Block, Vec<Cells>)>, done: &mut Vec<Block>, findings: &mut Findings) {
    let run = std::mem::take(run);
    if run.iter().map(|(_, rows)| rows.len()).sum::<usize>() < 2 {
        return done.extend(run.into_iter().map(|(block, _)| block));
    }
    let place = run.first().map(|(block, _)| block.place).unwrap_or_default();
    findings.add(Code::TabTableMade, Some(place));
    let rows: Vec<Row> =
        run.into_iter().flat_map(|(_, rows)| rows).map(|c| row(c, place)).collect();
    let columns = vec![Column::default(); rows.first().map_or(0, |row| row.cells.len())];
    let groups = vec![RowGroup { kind: RowGroupKind::Body, rows }];
    let table = Table { caption: None, columns, groups };
    done.push(Block::new(BlockKind::Table(Box::new(table))).at(place));
}

fn row(cells: Cells, place: Place) -> Row {
    let cell = |content: Vec<Inline>| Cell {
        content: match content.is_empty() {
            true => Vec::new(),
            false => vec![Block::new(BlockKind::Paragraph(content)).at(place)],
        },
        ..Cell::default()
    };
    Row { cells: cells.into_iter().map(cell).collect(), ..Row::default() }
}

/// A paragraph's lines as rows, when all have the same number of columns, at least two.
fn rows(block: &Block) -> Option<Vec<Cells>> {
    let BlockKind::Paragraph(content) = &block.kind else { return None };
    if !block.attributes.is_empty() {
        return None;
    }
    let is_break = |inline: &Inline| matches!(inline, Inline::Break(LineBreak::Hard));
    let rows: Vec<Cells> = content.split(is_break).map(cells).collect();
    let width = rows.first()?.len();
    let is_even = width >= 2 && rows.iter().all(|row| row.len() == width);
    let is_filled = rows.iter().all(|row| row.iter().any(|cell| !cell.is_empty()));
    (is_even && is_filled).then_some(rows)
}

fn cells(line: &[Inline]) -> Cells {
    let mut cells: Cells = vec![Vec::new()];
    for inline in line {
        let Inline::Text(text) = inline else {
            if let Some(cell) = cells.last_mut() {
                cell.push(inline.clone());
            }
            continue;
        };
        for (index, part) in split(text).into_iter().enumerate() {
            if index > 0 {
                cells.push(Vec::new());
            }
            if let Some(cell) = cells.last_mut().filter(|_| !part.is_empty()) {
                cell.push(Inline::Text(part.into()));
            }
        }
    }
    // Spaces before the first column only indent.
    if cells.len() > 1 && cells.first().is_some_and(Vec::is_empty) {
        cells.remove(0);
    }
    cells
}

/// The parts of a text between leaders, tabs and runs of at least four spaces.
fn split(text: &str) -> Vec<&str> {
    let mut parts = Vec::new();
    let mut from = 0;
    for leader in leaders(text) {
        parts.extend(split_at_blanks(text.get(from..leader.start).unwrap_or_default()));
        from = leader.end;
    }
    parts.extend(split_at_blanks(text.get(from..).unwrap_or_default()));
    parts
}

fn split_at_blanks(text: &str) -> Vec<&str> {
    let mut parts = Vec::new();
    let mut from = 0;
    let mut at = 0;
    while let Some(start) = text.get(at..).and_then(|rest| rest.find(is_blank)).map(|n| at + n) {
        let rest = text.get(start..).unwrap_or_default();
        let blanks = rest.get(..rest.len() - rest.trim_start_matches(is_blank).len());
        let blanks = blanks.unwrap_or_default();
        at = start + blanks.len();
        let tabs = blanks.matches('\t').count();
        if tabs > 0 || blanks.chars().count() >= 4 {
            parts.push(text.get(from..start).unwrap_or_default());
            // Each further tab is an empty column.
            parts.extend(std::iter::repeat_n("", tabs.saturating_sub(1)));
            from = at;
        }
    }
    parts.push(text.get(from..).unwrap_or_default());
    parts
}
