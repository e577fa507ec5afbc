//! Matrices, arrays, and the lines of displays, as tables.

use super::write::Writer;
use super::{LEFT, NUMBER};
use crate::math::{Arrangement, Array, Display, DisplayLine, Expression, LineNumber};

/// A line of a display, with its number as it is shown.
pub(super) struct Line<'a> {
    pub(super) cells: &'a [Expression],
    pub(super) number: String,
    pub(super) label: Option<&'a str>,
    pub(super) is_words: bool,
}

impl Writer<'_> {
    pub(super) fn table(
        &mut self,
        rows: &[Vec<Expression>],
        attributes: &str,
        style: impl Fn(usize, usize) -> String,
    ) {
        self.open("mtable", attributes);
        for (at, row) in rows.iter().enumerate() {
            self.open("mtr", "");
            for (column, cell) in row.iter().enumerate() {
                self.around("mtd", &style(at, column), cell);
            }
            self.close("mtr");
        }
        self.close("mtable");
    }

    pub(super) fn array(&mut self, array: &Array) {
        let Array { columns, rows, lines } = array;
        let mut styles = Vec::new();
        let mut border = "";
        for sign in columns.chars() {
            let align = match sign {
                '|' => {
                    border = "; border-left: 1px solid";
                    continue;
                }
                'l' => "left",
                'r' => "right",
                _ => "center",
            };
            styles.push(format!("text-align: {align}{border}"));
            border = "";
        }
        let style = |row: usize, column: usize| {
            let own = styles.get(column).map_or("text-align: center", String::as_str);
            let is_last = column + 1 == styles.len();
            let right =
                if is_last && !border.is_empty() { "; border-right: 1px solid" } else { "" };
            let above = if lines.contains(&row) { "; border-top: 1px solid" } else { "" };
            let is_below = row + 1 == rows.len() && lines.contains(&rows.len());
            let below = if is_below { "; border-bottom: 1px solid" } else { "" };
            format!(" style=\"{own}{right}{above}{below}\"")
        };
        self.table(rows, "", style);
    }

    /// A display; the label that its formula has is that of its only line.
    pub(super) fn display(&mut self, display: &Display, label: Option<&str>) {
        let label = label.filter(|_| display.lines.len() == 1);
        let lines = display.lines.iter().map(|line| Line {
            cells: &line.cells,
            number: shown_number(line),
            label: line.label.as_deref().or(label),
            is_words: line.is_words,
        });
        let lines: Vec<Line<'_>> = lines.collect();
        self.lines(&lines, display.arrangement);
    }

    pub(super) fn lines(&mut self, lines: &[Line<'_>], arrangement: Arrangement) {
        if let ([line], Arrangement::Single) = (lines, arrangement)
            && line.label.is_none()
            && line.number.is_empty()
        {
            return line.cells.iter().for_each(|cell| match cell {
                Expression::Row(parts) => self.parts(parts),
                only => self.write(only),
            });
        }
        let has_numbers = lines.iter().any(|line| !line.number.is_empty());
        let widest = lines.iter().map(|line| line.cells.len()).max().unwrap_or(0);
        let last = lines.len().saturating_sub(1);
        self.open("mtable", " displaystyle=\"true\"");
        for (at, line) in lines.iter().enumerate() {
            self.open_line(line);
            let side = match arrangement {
                Arrangement::Broken if at == 0 && last > 0 => Some(LEFT),
                Arrangement::Broken if at == last && last > 0 => Some("text-align: right"),
                _ => None,
            };
            for (column, cell) in line.cells.iter().enumerate() {
                let style = match arrangement {
                    _ if line.is_words => Some(LEFT),
                    Arrangement::Aligned | Arrangement::AlignedTight | Arrangement::AlignedWide => {
                        Some(line_cell(column))
                    }
                    _ => side,
                };
                let mut attributes =
                    style.map(|style| format!(" style=\"{style}\"")).unwrap_or_default();
                if line.is_words && widest > 1 {
                    attributes.push_str(&format!(" columnspan=\"{widest}\""));
                }
                self.around("mtd", &attributes, cell);
            }
            if has_numbers {
                self.number_cell(line, widest);
            }
            self.close("mtr");
        }
        self.close("mtable");
    }

    fn open_line(&mut self, line: &Line<'_>) {
        self.out.push_str("<mtr");
        if let Some(id) = line.label.and_then(|label| self.page.id_of_label(label)) {
            self.out.push_str(" id=\"");
            self.page.push_value(self.out, &id);
            self.out.push('"');
        }
        self.out.push('>');
    }

    /// Numbers stand in one column, whatever lines have before them.
    fn number_cell(&mut self, line: &Line<'_>, widest: usize) {
        if !line.is_words {
            (line.cells.len()..widest).for_each(|_| self.out.push_str("<mtd></mtd>"));
        }
        self.out.push_str("<mtd style=\"");
        self.out.push_str(NUMBER);
        self.out.push_str("\">");
        if !line.number.is_empty() {
            self.leaf("mtext", "", &line.number);
        }
        self.close("mtd");
    }
}

/// The number of a line as it is shown; empty for none.
pub(crate) fn shown_number(line: &DisplayLine) -> String {
    match &line.number {
        LineNumber::Counted(Some(number)) | LineNumber::Stated(number) => format!("({number})"),
        LineNumber::Bare(number) => number.to_string(),
        LineNumber::None | LineNumber::Counted(None) => String::new(),
    }
}

pub(super) fn line_cell(column: usize) -> &'static str {
    match column % 2 {
        0 => "text-align: right; padding-right: 0",
        _ => "text-align: left; padding-left: 0",
    }
}
