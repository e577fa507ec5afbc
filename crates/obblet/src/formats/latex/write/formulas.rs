//! Formulas: their source, and what that needs.

use super::{Need, Writer};
use crate::document::{Attributes, NumeralStyle};
use crate::findings::Code;
use crate::math::{Expression, Formula, LineNumber};
use crate::notation::{ProblemKind, read_tex};
use compact_str::ToCompactString;

/// Commands and environments of formulas that need a package.
const PACKAGES: [(&str, Need); 31] = [
    (r"\ce", Need::Mhchem),
    (r"\oiint", Need::Esint),
    (r"\cancel", Need::Cancel),
    (r"\bcancel", Need::Cancel),
    (r"\xcancel", Need::Cancel),
    (r"\textcolor", Need::Xcolor),
    (r"\color", Need::Xcolor),
    (r"\mathscr", Need::Mathrsfs),
    (r"\llbracket", Need::Stmaryrd),
    (r"\rrbracket", Need::Stmaryrd),
    (r"\sfrac", Need::Xfrac),
    (r"\coloneqq", Need::Mathtools),
    (r"\eqqcolon", Need::Mathtools),
    (r"\begin{dcases", Need::Mathtools),
    (r"\begin{rcases", Need::Mathtools),
    (r"\begin{drcases", Need::Mathtools),
    (r"\begin{psmallmatrix", Need::Mathtools),
    (r"\begin{multlined", Need::Mathtools),
    (r"\xmapsto", Need::Mathtools),
    (r"\xhook", Need::Mathtools),
    (r"\xleftrightarrow", Need::Mathtools),
    (r"\xRightarrow", Need::Mathtools),
    (r"\xLeftarrow", Need::Mathtools),
    (r"\xLeftrightarrow", Need::Mathtools),
    (r"\xright", Need::Mathtools),
    (r"\xleft", Need::Mathtools),
    (r"\overbracket", Need::Mathtools),
    (r"\underbracket", Need::Mathtools),
    (r"\mathrlap", Need::Mathtools),
    (r"\mathllap", Need::Mathtools),
    (r"\prescript", Need::Mathtools),
];

impl Writer<'_> {
    pub(super) fn inline_formula(&mut self, formula: &Formula) {
        let Some(source) = self.formula_source(formula) else { return };
        // Lines with numbers stand on lines of their own, whatever the source says.
        let tree = formula.expression();
        let is_display = formula.display || matches!(*tree, Expression::Display(_));
        if let Expression::Display(display) = tree.as_ref()
            && (self.is_argument || self.is_cell)
        {
            self.lost("the numbers of a formula inside of a note or table");
            let lines = display.lines.iter().map(|line| line.cells.clone()).collect();
            let source = crate::notation::to_tex(&Expression::Lines(lines));
            return self.out.push_str(&format!("${source}$"));
        }
        if is_display && !self.is_argument && !self.is_cell {
            self.line();
            let displayed = self.displayed(formula, &source);
            self.out.push_str(&displayed);
            return self.line();
        }
        match formula.display {
            true => self.out.push_str(&format!("$\\displaystyle {source}$")),
            false => self.out.push_str(&format!("${source}$")),
        }
    }

    pub(super) fn display_formula(&mut self, formula: &Formula, attributes: &Attributes) {
        let Some(source) = self.formula_source(formula) else { return };
        if self.is_cell {
            return self.out.push_str(&format!("$\\displaystyle {source}$\n"));
        }
        // A formula belongs to the paragraph before it.
        self.line();
        let label = self.label(attributes);
        if !label.is_empty() {
            self.out.push_str(&format!("\\phantomsection{label}\n"));
        }
        self.paragraph_break();
        let displayed = self.displayed(formula, &source);
        self.out.push_str(&displayed);
        self.line();
    }

    fn displayed(&mut self, formula: &Formula, source: &str) -> String {
        let section = self.headings.section();
        if is_display_environment(source) {
            return self.display_lines(formula, source, &section);
        }
        let is_counted = match &formula.number {
            Some(number) => self.numbers.counts(number, &section),
            None => true,
        };
        // A number that LaTeX would not count is stated.
        let stated = formula.number.as_ref().filter(|_| !is_counted);
        let tag = stated.map(|number| format!(" \\tag{{{number}}}")).unwrap_or_default();
        let source = &format!("{source}{tag}");
        let label = formula.label.as_deref().map(super::escape::label);
        let label = label.map(|label| format!("\\label{{{label}}}")).unwrap_or_default();
        match (&formula.number, label.is_empty()) {
            (None, true) => format!("\\[\n{source}\n\\]"),
            (Some(_), _) => format!("\\begin{{equation}}{label}\n{source}\n\\end{{equation}}"),
            (None, false) if source.contains("\\tag") => {
                format!("\\begin{{equation}}{label}\n{source}\n\\end{{equation}}")
            }
            (None, false) => format!("\\begin{{equation*}}{label}\n{source}\n\\end{{equation*}}"),
        }
    }

    /// Lines that are counted one by one; where they share a number, as 2a and 2b, they stand in an
    /// environment that counts so.
    fn display_lines(&mut self, formula: &Formula, source: &str, section: &str) -> String {
        let Some(Expression::Display(display)) = formula.tree.as_deref() else {
            return source.to_string();
        };
        let numbers: Vec<&str> = display
            .lines
            .iter()
            .filter_map(|line| match &line.number {
                LineNumber::Counted(Some(number)) | LineNumber::Stated(number) => {
                    Some(number.as_str())
                }
                _ => None,
            })
            .collect();
        if let Some(whole) = shared_number(&numbers)
            && self.numbers.counts(whole, section)
        {
            return format!("\\begin{{subequations}}\n{source}\n\\end{{subequations}}");
        }
        for number in numbers {
            self.numbers.counts(number, section);
        }
        source.to_string()
    }

    /// The source as LaTeX takes it, and what it needs; `None` where it can only be shown as code.
    fn formula_source(&mut self, formula: &Formula) -> Option<String> {
        let source = formula.source.trim();
        let (_, problems) = read_tex(source);
        for problem in &problems {
            match &problem.kind {
                ProblemKind::UnknownCommand(command) => {
                    self.findings.count(Code::FormulaCommandUnknown, command, Some(self.place));
                    let name = command.trim_start_matches('\\');
                    if !name.is_empty() && name.bytes().all(|b| b.is_ascii_alphabetic()) {
                        self.unknown_commands.insert(name.to_string());
                    }
                }
                _ => {
                    self.findings.count(Code::FormulaAsSource, "TeX", Some(self.place));
                    let words = self.as_argument(|writer| {
                        writer.characters(source, super::escape::Context::Code);
                    });
                    self.out.push_str(&format!("\\texttt{{{words}}}"));
                    return None;
                }
            }
        }
        if source.is_empty() {
            return None;
        }
        self.need(Need::Amsmath);
        if source.contains('\\') {
            self.need(Need::Amssymb);
        }
        for (command, need) in PACKAGES {
            if source.contains(command) {
                self.need(need);
            }
        }
        // An empty line would end the formula.
        let lines: Vec<&str> = source.lines().filter(|line| !line.trim().is_empty()).collect();
        Some(self.in_commands(&lines.join("\n")))
    }

    /// Characters outside ASCII by their commands.
    fn in_commands(&mut self, source: &str) -> String {
        if source.is_ascii() {
            return source.to_string();
        }
        let mut spelled = String::new();
        for character in source.chars() {
            if character.is_ascii() {
                spelled.push(character);
                continue;
            }
            let tree = match character.is_alphabetic() {
                true => Expression::Identifier(character.to_compact_string(), Default::default()),
                false => Expression::operator(character.to_compact_string()),
            };
            let tex = crate::notation::to_tex(&tree);
            match tex.is_ascii() {
                true => {
                    spelled.push_str(&tex);
                    spelled.push(' ');
                }
                false => {
                    let words = self.as_argument(|writer| {
                        writer.text(character.encode_utf8(&mut [0; 4]));
                    });
                    spelled.push_str(&format!("\\text{{{words}}}"));
                }
            }
        }
        spelled
    }
}

/// `2a`, `2b`: the number that lines share.
fn shared_number<'n>(numbers: &[&'n str]) -> Option<&'n str> {
    let (first, _) = numbers.split_first()?;
    let whole = first.strip_suffix('a')?;
    let is_next = |(at, number): (usize, &&str)| {
        let letter = NumeralStyle::LowerLetter.spell(i32::try_from(at + 1).unwrap_or(i32::MAX));
        number.strip_prefix(whole) == Some(letter.as_str())
    };
    numbers.iter().enumerate().all(is_next).then_some(whole)
}

/// Whether a source is a display by itself.
fn is_display_environment(source: &str) -> bool {
    const DISPLAYS: [&str; 7] =
        ["equation", "align", "gather", "multline", "alignat", "flalign", "eqnarray"];
    let Some(rest) = source.strip_prefix("\\begin{") else { return false };
    let Some((name, _)) = rest.split_once('}') else { return false };
    let plain = name.strip_suffix('*').unwrap_or(name);
    DISPLAYS.contains(&plain) && source.ends_with(&format!("\\end{{{name}}}"))
}
