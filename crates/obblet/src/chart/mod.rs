//! Charts: the data that a document stores of one, drawn as SVG, and as a table.

mod draw;

pub(crate) use draw::draw;

use crate::document::{
    Block, BlockKind, Cell, CellAlign, HeaderScope, Inline, Row, RowGroup, RowGroupKind, Table,
};

/// A chart.
#[derive(Debug, Clone, Default, PartialEq)]
pub(crate) struct Chart {
    pub(crate) kind: ChartKind,
    pub(crate) title: String,
    pub(crate) category_title: String,
    pub(crate) value_title: String,
    pub(crate) series: Vec<Series>,
    /// Values of one category stand on each other.
    pub(crate) is_stacked: bool,
}

/// How values are drawn.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(crate) enum ChartKind {
    /// Bars that stand.
    #[default]
    Columns,
    /// Bars that lie.
    Bars,
    Lines,
    Areas,
    Pie,
    /// Points at two values each.
    Points,
}

/// One row of values.
#[derive(Debug, Clone, Default, PartialEq)]
pub(crate) struct Series {
    pub(crate) name: String,
    pub(crate) categories: Vec<String>,
    /// `None` where there is no value.
    pub(crate) values: Vec<Option<f64>>,
}

impl Chart {
    /// The names of the places that values stand at: the longest list of all series.
    fn categories(&self) -> Vec<String> {
        let longest = self.series.iter().map(|series| series.values.len()).max().unwrap_or(0);
        let named = self.series.iter().max_by_key(|series| series.categories.len());
        let names = named.map(|series| series.categories.as_slice()).unwrap_or_default();
        (0..longest)
            .map(|at| names.get(at).cloned().unwrap_or_else(|| (at + 1).to_string()))
            .collect()
    }

    /// The data as a table: a row a category, a column a series.
    pub(crate) fn table(&self) -> Table {
        let text = |text: &str| -> Vec<Block> {
            let content: Vec<Inline> = if text.is_empty() { vec![] } else { vec![text.into()] };
            vec![BlockKind::Paragraph(content).into()]
        };
        let header = |words: &str, scope| Cell {
            content: text(words),
            header: Some(scope),
            ..Cell::default()
        };
        let mut head = vec![header(&self.category_title, HeaderScope::Column)];
        head.extend(self.series.iter().map(|series| header(&series.name, HeaderScope::Column)));
        let body = self.categories().into_iter().enumerate().map(|(at, name)| {
            let mut cells = vec![header(&name, HeaderScope::Row)];
            cells.extend(self.series.iter().map(|series| {
                let value = series.values.get(at).copied().flatten();
                Cell {
                    content: text(&value.map(spelled).unwrap_or_default()),
                    align: Some(CellAlign::End),
                    ..Cell::default()
                }
            }));
            Row { cells, ..Row::default() }
        });
        let groups = vec![
            RowGroup {
                kind: RowGroupKind::Head,
                rows: vec![Row { cells: head, ..Row::default() }],
            },
            RowGroup { kind: RowGroupKind::Body, rows: body.collect() },
        ];
        Table { groups, ..Table::default() }
    }
}

/// A number without the noise of its binary form.
fn spelled(value: f64) -> String {
    let text = format!("{value:.6}");
    let text = text.trim_end_matches('0').trim_end_matches('.');
    if text == "-0" { "0".into() } else { text.into() }
}
