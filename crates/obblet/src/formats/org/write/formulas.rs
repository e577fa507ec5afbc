//! Formulas, in a line and by themselves.

use super::Writer;
use super::inlines::delimiters;
use crate::document::Attributes;
use crate::math::Formula;

impl Writer<'_> {
    pub(super) fn formula_in_line(&mut self, formula: &Formula) {
        let source = formula.source.trim();
        // No line of it may begin an element. A comment goes on to the end of its line.
        let is_joined = self.is_line || !source.contains('%');
        let source = if is_joined { source.replace('\n', " ") } else { source.to_string() };
        // A bar would end the cell.
        let source = if self.is_cell { source.replace('|', "\\vert ") } else { source };
        let (open, close) = delimiters(&source, formula.display);
        self.out.push_str(&format!("{open}{source}{close}"));
    }

    pub(super) fn formula(&mut self, formula: &Formula, attributes: &Attributes) {
        self.attribute_lines(attributes, &[]);
        let source = formula.source.trim();
        // A blank line would end the formula.
        let lines: Vec<&str> = source.lines().filter(|line| !line.trim().is_empty()).collect();
        let source = lines.join("\n");
        let label = formula.label.as_deref().map(|label| format!("\\label{{{label}}}\n"));
        let label = label.unwrap_or_default();
        let text = match (&formula.number, source.starts_with("\\begin{")) {
            (_, true) if label.is_empty() && formula.number.is_none() => source,
            (None, _) if label.is_empty() => {
                let (open, close) = delimiters(&source, true);
                return self.lines(&format!("{open}\n{source}\n{close}"));
            }
            (number, _) => {
                let number = number.as_deref().unwrap_or_default();
                self.equation += 1;
                let is_counted = number == self.equation.to_string();
                let tag = match is_counted || number.is_empty() || source.contains("\\tag") {
                    true => String::new(),
                    false => {
                        self.equation -= 1;
                        format!("\\tag{{{number}}}\n")
                    }
                };
                format!("\\begin{{equation}}\n{label}{tag}{source}\n\\end{{equation}}")
            }
        };
        self.lines(&text);
    }
}
