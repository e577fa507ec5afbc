//! Tables: shape, spans, header cells, what stands in the cells.

use super::align::{Side, align};
use super::objects::{ObjectPair, compare_texts, report_objects};
use super::pairs::Pair;
use super::tokens::{Piece, Text, Token};
use super::words::{diff, told};
use super::{Change, Changes, Kind, Places, Tally, quoted};
use crate::document::{BlockKind, Inline};
use crate::document::{
    Cell, CellAlign, Document, HeaderScope, Node, Row, RowGroupKind, Table, Visit, walk,
};

/// All texts of a cell, one behind the other.
pub(super) fn cell_text(cell: &Cell, document: &Document) -> Text {
    let mut all = Text::default();
    for visit in walk(&cell.content) {
        let Visit::Enter(Node::Block(block)) = visit else { continue };
        let text = match &block.kind {
            BlockKind::Paragraph(content) => Text::of(content, document),
            BlockKind::Heading(heading) => Text::of(&heading.content, document),
            BlockKind::Code(code) => Text::of(&[Inline::Text(code.text.as_str().into())], document),
            BlockKind::Formula(formula) => Text::of(&[Inline::Formula(formula.clone())], document),
            _ => continue,
        };
        append(&mut all, text);
    }
    all
}

fn append(all: &mut Text, mut text: Text) {
    let links = u32::try_from(all.links.len()).unwrap_or(u32::MAX);
    for token in &mut text.tokens {
        token.link = token.link.map(|link| link.saturating_add(links));
    }
    if let Some(first) = text.tokens.first_mut().filter(|_| !all.tokens.is_empty()) {
        first.apart = true;
    }
    all.tokens.append(&mut text.tokens);
    all.links.append(&mut text.links);
}

/// A row with the texts of its cells.
struct RowTexts<'t> {
    kind: RowGroupKind,
    cells: &'t [Cell],
    texts: Vec<Text>,
    key: u64,
    words: Vec<u64>,
}

struct Rows<'t>(Vec<RowTexts<'t>>);

impl<'t> Rows<'t> {
    fn of(table: &'t Table, document: &Document) -> Self {
        Self(table.rows().map(|(kind, row)| RowTexts::of(kind, row, document)).collect())
    }
}

impl<'t> RowTexts<'t> {
    fn of(kind: RowGroupKind, row: &'t Row, document: &Document) -> Self {
        let texts: Vec<Text> = row.cells.iter().map(|cell| cell_text(cell, document)).collect();
        let mut key = row.cells.len() as u64;
        let mut words = Vec::new();
        for text in &texts {
            key = key.rotate_left(7) ^ text.tokens.len() as u64;
            for token in &text.tokens {
                let word = Token::key(token);
                key = key.rotate_left(5).wrapping_mul(0x9E37_79B9_7F4A_7C15) ^ word;
                words.push(word);
            }
        }
        words.sort_unstable();
        Self { kind, cells: &row.cells, texts, key, words }
    }
}

impl Side for Rows<'_> {
    fn len(&self) -> usize {
        self.0.len()
    }

    fn key(&self, index: usize) -> u64 {
        self.0.get(index).map_or(0, |row| row.key)
    }

    fn words(&self, index: usize) -> &[u64] {
        self.0.get(index).map_or(&[], |row| &row.words)
    }

    fn fits(&self, _: usize, _: &Self, _: usize) -> bool {
        true
    }
}

pub(super) fn compare_tables(
    pair: &mut Pair<'_>,
    left: &Table,
    right: &Table,
    places: Places,
    moved: bool,
    tally: &mut Tally<'_>,
) {
    let (one, two) = (Rows::of(left, pair.left), Rows::of(right, pair.right));
    let mut pairs = align(&one, &two);
    // With as many rows on both sides, a row without a counterpart is the one at its place.
    if pairs.len() < one.len() && one.len() == two.len() {
        pairs = (0..one.len()).map(|row| (row, row)).collect();
    }
    let mut changes = tally.change(Kind::Table, places);
    changes.differ("rows:", one.len(), two.len(), ToString::to_string);
    changes.differ("columns:", left.width(), right.width(), ToString::to_string);
    compare_columns(left, right, &mut changes);
    let mut cell_diffs = Vec::new();
    for &(a, b) in &pairs {
        let (Some(row), Some(other)) = (one.0.get(a), two.0.get(b)) else { continue };
        changes
            .differ(&format!("row {}:", a + 1), row.kind, other.kind, |kind| group(*kind).into());
        changes.differ(
            &format!("cells of row {}:", a + 1),
            row.cells.len(),
            other.cells.len(),
            ToString::to_string,
        );
        for column in 0..row.cells.len().min(other.cells.len()) {
            let (cell, other_cell) = (&row.cells[column], &other.cells[column]);
            let name = format!("row {}, cell {}:", a + 1, column + 1);
            compare_cells(&name, cell, other_cell, &mut changes);
            let (text, other_text) = (&row.texts[column], &other.texts[column]);
            let found = diff(&text.tokens, &other_text.tokens);
            for stretch in found.stretches.iter().filter(|stretch| stretch.has_words()) {
                changes.add(format!("{name} {}", told(stretch)));
            }
            cell_diffs.push((text, other_text, found));
        }
    }
    let lone = |row: &RowTexts<'_>| {
        let texts: Vec<String> = row.texts.iter().map(Text::plain).collect();
        quoted(&texts.join(" | "))
    };
    let (lone_left, lone_right) = lone_rows(&one, &two, &pairs);
    lone_left.iter().for_each(|row| changes.add(format!("the row {} is gone", lone(row))));
    lone_right.iter().for_each(|row| changes.add(format!("the row {} is new", lone(row))));
    changes.end_unless(moved);
    for (left, right, diff) in &cell_diffs {
        compare_texts(pair, &ObjectPair { left, right, diff, places }, tally);
    }
    for (rows, change) in [(lone_left, Change::Missing), (lone_right, Change::Extra)] {
        for text in rows.iter().flat_map(|row| &row.texts) {
            report_objects(text, change, places, tally);
        }
    }
}

type Lone<'r, 't> = Vec<&'r RowTexts<'t>>;

fn lone_rows<'r, 't>(
    one: &'r Rows<'t>,
    two: &'r Rows<'t>,
    pairs: &[(usize, usize)],
) -> (Lone<'r, 't>, Lone<'r, 't>) {
    let left: std::collections::HashSet<usize> = pairs.iter().map(|(a, _)| *a).collect();
    let right: std::collections::HashSet<usize> = pairs.iter().map(|(_, b)| *b).collect();
    let lone = |rows: &'r Rows<'t>, taken: &std::collections::HashSet<usize>| {
        let free = rows.0.iter().enumerate().filter(|(index, _)| !taken.contains(index));
        free.map(|(_, row)| row).collect()
    };
    (lone(one, &left), lone(two, &right))
}

fn compare_columns(left: &Table, right: &Table, changes: &mut Changes<'_, '_>) {
    // What stands at the start stands there without a word, too.
    let align = |table: &Table, at: usize| {
        let align = table.columns.get(at).and_then(|column| column.align);
        align.filter(|align| *align != CellAlign::Start)
    };
    for at in 0..left.columns.len().min(right.columns.len()) {
        let name = format!("alignment of column {}:", at + 1);
        changes.differ(&name, align(left, at), align(right, at), |align| align_name(*align).into());
    }
}

fn compare_cells(name: &str, left: &Cell, right: &Cell, changes: &mut Changes<'_, '_>) {
    let spans = |cell: &Cell| (cell.column_span, cell.row_span);
    changes.differ(&format!("{name} span"), spans(left), spans(right), |(columns, rows)| {
        format!("{columns} × {rows}")
    });
    changes.differ(&format!("{name} header of"), left.header, right.header, |scope| {
        match scope {
            None => "nothing",
            Some(HeaderScope::Column) => "a column",
            Some(HeaderScope::Row) => "a row",
        }
        .to_string()
    });
}

fn group(kind: RowGroupKind) -> &'static str {
    match kind {
        RowGroupKind::Head => "head",
        RowGroupKind::Body => "body",
        RowGroupKind::Foot => "foot",
    }
}

fn align_name(align: Option<CellAlign>) -> &'static str {
    match align {
        None => "none",
        Some(CellAlign::Start) => "start",
        Some(CellAlign::Centre) => "centre",
        Some(CellAlign::End) => "end",
    }
}

impl super::words::Stretch<'_> {
    /// Whether words or breaks differ; pictures, notes, code and formulas are told on their own.
    pub(super) fn has_words(&self) -> bool {
        let is_words =
            |token: &Token| matches!(token.piece, Piece::Word(_) | Piece::Break | Piece::Markup(_));
        self.left.iter().chain(self.right).any(is_words)
    }
}
