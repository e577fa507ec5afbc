//! Environments of formulas: matrices, cases, lines that line up, displays with numbers.

use super::read::{Reader, Stop, fenced, sized_as};
use super::scan::{ProblemKind, Token};
use crate::math::{
    Arrangement, Array, Display, DisplayLine, Expression, FormulaSize, LetterStyle, LineNumber,
};

/// The brackets around the matrices of amsmath.
pub(super) const MATRICES: [(&str, &str, &str); 5] = [
    ("pmatrix", "(", ")"),
    ("bmatrix", "[", "]"),
    ("Bmatrix", "{", "}"),
    ("vmatrix", "|", "|"),
    ("Vmatrix", "‖", "‖"),
];

/// Displays of several lines.
pub(super) const DISPLAYS: [(&str, Arrangement); 6] = [
    ("equation", Arrangement::Single),
    ("align", Arrangement::Aligned),
    ("alignat", Arrangement::AlignedTight),
    ("flalign", Arrangement::AlignedWide),
    ("gather", Arrangement::Gathered),
    ("multline", Arrangement::Broken),
];

impl Reader<'_> {
    /// From behind `\begin` to behind `\end{…}`.
    pub(super) fn environment(&mut self, at: usize) -> Expression {
        // A brace inside of a name is one that was not closed.
        let name = self.scan.raw_argument().replace(['{', '}'], "");
        let name = name.trim_end_matches('\\').trim().to_string();
        let read = self.deeper(|reader| reader.environment_body(&name, at));
        match self.scan.peek() {
            Some(Token::Command("end")) => {
                let end = self.scan.at();
                self.scan.next();
                let closed = self.scan.raw_argument().trim();
                if closed != name {
                    let wrong = format!("\\end{{{closed}}}");
                    self.problem(end, ProblemKind::Unbalanced(wrong));
                }
            }
            _ => self.problem(at, ProblemKind::Unbalanced(format!("\\begin{{{name}}}"))),
        }
        read
    }

    fn environment_body(&mut self, name: &str, at: usize) -> Expression {
        if let Some(body) = self.matrix(name) {
            return body;
        }
        let plain = name.strip_suffix('*').unwrap_or(name);
        if let Some((_, arrangement)) = DISPLAYS.iter().find(|(known, _)| *known == plain) {
            if *arrangement == Arrangement::AlignedTight {
                self.scan.raw_argument();
            }
            return self.display(*arrangement, plain.len() < name.len());
        }
        match name {
            "aligned" | "split" => {
                self.scan.raw_option();
                Expression::Lines(self.cells().0)
            }
            "alignedat" => {
                self.scan.raw_argument();
                Expression::Lines(self.cells().0)
            }
            "eqnarray" | "eqnarray*" => self.display(Arrangement::Aligned, name.ends_with('*')),
            "gathered" | "multlined" => {
                self.scan.raw_option();
                Expression::Stack(self.single_cells())
            }
            "subarray" => {
                self.scan.raw_argument();
                Expression::Stack(self.single_cells())
            }
            "math" | "displaymath" => Expression::of(self.single_cells()),
            _ => {
                self.problem(at, ProblemKind::UnknownCommand(format!("\\begin{{{name}}}")));
                let opened = Expression::Source(format!("\\begin{{{name}}}").into());
                let mut parts = vec![opened];
                parts.extend(self.single_cells());
                parts.push(Expression::Source(format!("\\end{{{name}}}").into()));
                Expression::Row(parts)
            }
        }
    }

    fn matrix(&mut self, name: &str) -> Option<Expression> {
        if let Some((_, open, close)) = MATRICES.iter().find(|(known, ..)| *known == name) {
            let cells = self.cells().0;
            return Some(fenced(open, Expression::Matrix(cells), close));
        }
        Some(match name {
            "matrix" => Expression::Matrix(self.cells().0),
            "smallmatrix" => sized_as(FormulaSize::Script, Expression::Matrix(self.cells().0)),
            "array" | "darray" => {
                self.scan.raw_option();
                let columns = array_columns(self.scan.raw_argument());
                let (rows, lines) = self.cells();
                Expression::Array(Box::new(Array { columns, rows, lines }))
            }
            "cases" => fenced("{", self.cases(), ""),
            "rcases" => fenced("", self.cases(), "}"),
            "dcases" => sized_as(FormulaSize::Display, fenced("{", self.cases(), "")),
            "drcases" => sized_as(FormulaSize::Display, fenced("", self.cases(), "}")),
            _ => return None,
        })
    }

    fn cases(&mut self) -> Expression {
        let (rows, lines) = self.cells();
        Expression::Array(Box::new(Array { columns: "ll".into(), rows, lines }))
    }

    /// Rows of cells up to the end, and above which of them lines stand.
    fn cells(&mut self) -> (Vec<Vec<Expression>>, Vec<usize>) {
        let mut rows: Vec<Vec<Expression>> = vec![Vec::new()];
        let mut lines = Vec::new();
        loop {
            while let Some(Token::Command("hline" | "toprule" | "midrule" | "bottomrule")) =
                self.scan.peek()
            {
                self.scan.next();
                lines.push(rows.len() - 1);
            }
            let cell = self.row_until(Stop::Cell);
            if let Some(row) = rows.last_mut() {
                row.push(cell);
            }
            match self.scan.peek() {
                Some(Token::Character('&')) => {
                    self.scan.next();
                }
                Some(Token::Command("\\" | "cr" | "newline")) => {
                    self.end_line();
                    rows.push(Vec::new());
                }
                _ => break,
            }
        }
        let is_blank =
            |row: &Vec<Expression>| row.len() == 1 && row.iter().all(Expression::is_nothing);
        if rows.last().is_some_and(is_blank) {
            rows.pop();
        }
        (rows, lines)
    }

    fn single_cells(&mut self) -> Vec<Expression> {
        let of_row = |row: Vec<Expression>| Expression::of(row);
        self.cells().0.into_iter().map(of_row).collect()
    }

    /// Lines with their numbers up to the end.
    fn display(&mut self, arrangement: Arrangement, has_star: bool) -> Expression {
        let outer = (std::mem::take(&mut self.line), std::mem::take(&mut self.is_unnumbered));
        let mut lines = Vec::new();
        let mut cells = Vec::new();
        loop {
            if let Some(Token::Command("intertext" | "shortintertext")) = self.scan.peek() {
                self.scan.next();
                let raw = self.scan.raw_argument();
                let words = self.guarded_words(raw, LetterStyle::Usual);
                lines.push(DisplayLine {
                    cells: vec![words],
                    is_words: true,
                    ..Default::default()
                });
                continue;
            }
            cells.push(self.row_until(Stop::Cell));
            match self.scan.peek() {
                Some(Token::Character('&')) => {
                    self.scan.next();
                }
                Some(Token::Command("\\" | "cr" | "newline")) => {
                    self.end_line();
                    let line = self.finished(std::mem::take(&mut cells), has_star);
                    lines.push(line);
                }
                _ => break,
            }
        }
        let is_blank = cells.iter().all(Expression::is_nothing) && !lines.is_empty();
        if !is_blank {
            let line = self.finished(cells, has_star);
            lines.push(line);
        }
        if matches!(arrangement, Arrangement::Broken) && !has_star {
            number_the_last(&mut lines);
        }
        (self.line, self.is_unnumbered) = outer;
        Expression::Display(Box::new(Display { arrangement, lines }))
    }

    fn finished(&mut self, cells: Vec<Expression>, has_star: bool) -> DisplayLine {
        let mut line = DisplayLine { cells, ..std::mem::take(&mut self.line) };
        let is_unnumbered = std::mem::take(&mut self.is_unnumbered) || has_star;
        if line.number == LineNumber::None && !is_unnumbered {
            line.number = LineNumber::Counted(None);
        }
        line
    }
}

/// A formula broken over lines has one number.
fn number_the_last(lines: &mut [DisplayLine]) {
    let stated = lines.iter_mut().filter_map(|line| match std::mem::take(&mut line.number) {
        LineNumber::None | LineNumber::Counted(_) => None,
        stated => Some(stated),
    });
    let number = stated.last().unwrap_or(LineNumber::Counted(None));
    let label = lines.iter_mut().filter_map(|line| line.label.take()).last();
    if let Some(last) = lines.last_mut() {
        last.number = number;
        last.label = label;
    }
}

/// The columns of an array: letters and lines, whatever else its specification says left out.
fn array_columns(raw: &str) -> String {
    let mut columns = String::new();
    let mut rest = raw.chars();
    while let Some(sign) = rest.next() {
        match sign {
            'l' | 'c' | 'r' | '|' => columns.push(sign),
            '@' | '!' | '>' | '<' | 'p' | 'm' | 'b' => {
                if matches!(sign, 'p' | 'm' | 'b') {
                    columns.push('l');
                }
                let mut depth = 0_usize;
                for inner in rest.by_ref() {
                    match inner {
                        '{' => depth += 1,
                        '}' => depth = depth.saturating_sub(1),
                        _ => {}
                    }
                    if depth == 0 {
                        break;
                    }
                }
            }
            _ => {}
        }
    }
    columns
}
