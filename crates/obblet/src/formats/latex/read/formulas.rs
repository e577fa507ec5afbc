//! Formulas: their source, their trees, and the numbers that are counted for them.

use super::Reader;
use crate::document::{Block, BlockKind, Inline};
use crate::math::{DisplayLine, Expression, Formula, LineNumber};
use crate::notation::{read_tex, report};
use crate::tex::{Category, Located, Name, Spot, Token, trimmed};
use std::sync::Arc;

impl Reader<'_> {
    /// `$…$`, or `$$…$$`.
    pub(super) fn inline_formula(&mut self, spot: Spot) {
        if self.front.is_next('$') {
            self.front.next_raw();
            return self.display_until("$$", spot);
        }
        self.formula_until("$", spot);
    }

    pub(super) fn formula_until(&mut self, end: &str, spot: Spot) {
        let source = self.formula_source(end);
        self.sheet.mark_place();
        let formula = self.with_tree(Formula { source, ..Formula::default() }, spot);
        self.sheet.push(Inline::Formula(Box::new(formula)));
    }

    /// Reads what a formula says: what is wrong with it is told here, with its place. A command that
    /// nobody knows is told by who has to show it.
    fn with_tree(&mut self, mut formula: Formula, spot: Spot) -> Formula {
        let (tree, problems) = read_tex(&formula.source);
        if problems.is_empty() {
            formula.tree = Some(Arc::new(tree));
            return formula;
        }
        let unbalanced: Vec<_> = problems.into_iter().filter(|p| p.is_about_balance()).collect();
        report(&unbalanced, &mut self.findings, Some(spot.into()));
        formula
    }

    pub(super) fn display_until(&mut self, end: &str, spot: Spot) {
        let source = self.formula_source(end);
        self.push_display(source, spot);
    }

    /// A display that its source says all about.
    fn push_display(&mut self, source: String, spot: Spot) {
        let (source, label) = without_label(source);
        let tag = stated_tag(&source);
        let mut formula = Formula { source, display: true, ..Formula::default() };
        if let Some(label) = label {
            self.labels.add_number(&label, &tag.unwrap_or_default(), "equation");
            formula.label = Some(label.into());
        }
        self.push_formula(formula, spot);
    }

    fn push_formula(&mut self, formula: Formula, spot: Spot) {
        let formula = self.with_tree(formula, spot);
        let block = Block::new(BlockKind::Formula(Box::new(formula))).at(spot.into());
        if self.sheet.is_cell {
            return self.sheet.blocks.push(block);
        }
        self.sheet.push_block(block);
    }

    /// The source up to its end, with the document's own macros expanded.
    fn formula_source(&mut self, end: &str) -> String {
        if let Some(source) = self.front.plain_formula(end) {
            return trimmed(source);
        }
        let mut tokens: Vec<Located> = Vec::new();
        let mut depth = 0_usize;
        while let Some(located) = self.front.next() {
            match located.token {
                Token::Character(_, Category::Begin) => depth += 1,
                Token::Character(_, Category::End) => depth = depth.saturating_sub(1),
                Token::Character(_, Category::Math) if depth == 0 && end.starts_with('$') => {
                    if end == "$$" {
                        self.front.next_raw();
                    }
                    break;
                }
                Token::Command(name) if depth == 0 => {
                    let text = self.front.names.text(name);
                    if end.strip_prefix('\\') == Some(text) {
                        break;
                    }
                    // An empty line ends a formula that nobody has closed.
                    if text == "par" {
                        break;
                    }
                }
                _ => {}
            }
            tokens.push(located);
        }
        trimmed(self.front.typed(&tokens))
    }

    /// `equation`, `align` and the like: counted line by line.
    pub(super) fn formula_environment(&mut self, name: &str, spot: Spot) {
        let plain = name.trim_end_matches('*');
        if plain == "subequations" {
            return self.sub_equations(name, spot);
        }
        let argument = match plain {
            "alignat" => Some(self.front.argument_text()),
            _ => None,
        };
        let source = self.environment_source(name);
        match plain {
            "math" => {
                let formula = Formula { source, ..Formula::default() };
                self.sheet.push(Inline::Formula(Box::new(formula)));
            }
            "displaymath" => self.push_display(source, spot),
            "equation" | "dmath" => self.equation(source, name.ends_with('*'), spot),
            _ => {
                let argument = argument.map(|a| format!("{{{a}}}")).unwrap_or_default();
                let source = format!("\\begin{{{name}}}{argument}\n{source}\n\\end{{{name}}}");
                self.lines(source, spot);
            }
        }
    }

    /// What stands up to the end of an environment of formulas.
    fn environment_source(&mut self, name: &str) -> String {
        let end = format!("\\end{{{name}}}");
        if let Some(source) = self.front.plain_formula(&end) {
            return trimmed(source);
        }
        // The end is a command, a brace, the name, and a brace.
        let length = name.chars().count() + 3;
        let mut tokens: Vec<Located> = Vec::new();
        while let Some(located) = self.front.next() {
            tokens.push(located);
            if !matches!(located.token, Token::Character('}', _)) {
                continue;
            }
            let start = tokens.len().saturating_sub(length);
            if self.front.typed(tokens.get(start..).unwrap_or_default()) == end {
                tokens.truncate(start);
                break;
            }
        }
        trimmed(self.front.typed(&tokens))
    }

    /// One numbered formula.
    fn equation(&mut self, source: String, has_star: bool, spot: Spot) {
        let (mut source, label) = without_label(source);
        let tag = stated_tag(&source);
        let says_unnumbered = source.contains(r"\notag") || source.contains(r"\nonumber");
        let is_unnumbered = has_star || says_unnumbered;
        let number = match &tag {
            Some(tag) => Some(tag.as_str().into()),
            None if is_unnumbered => None,
            None => Some(self.step("equation", "")),
        };
        if let Some(label) = &label {
            self.labels.add_number(label, number.as_deref().unwrap_or_default(), "equation");
        }
        let number = number.filter(|_| tag.is_none());
        if says_unnumbered {
            source = trimmed(source.replace(r"\notag", "").replace(r"\nonumber", ""));
        }
        let label = label.map(Into::into);
        let formula = Formula { source, display: true, label, number, tree: None };
        self.push_formula(formula, spot);
    }

    /// Several lines, each of which may be counted.
    fn lines(&mut self, source: String, spot: Spot) {
        let (tree, problems) = read_tex(&source);
        let unbalanced: Vec<_> = problems.into_iter().filter(|p| p.is_about_balance()).collect();
        report(&unbalanced, &mut self.findings, Some(spot.into()));
        let Expression::Display(mut display) = tree else {
            return self.push_display(source, spot);
        };
        for line in &mut display.lines {
            self.count_line(line);
        }
        let tree = Some(Arc::new(Expression::Display(display)));
        let formula = Formula { source, display: true, tree, ..Formula::default() };
        let block = Block::new(BlockKind::Formula(Box::new(formula))).at(spot.into());
        self.sheet.push_block(block);
    }

    fn count_line(&mut self, line: &mut DisplayLine) {
        if line.number == LineNumber::Counted(None) {
            let number = self.step("equation", "");
            line.number = LineNumber::Counted(Some(number));
        }
        if let Some(label) = &line.label {
            let number = match &line.number {
                LineNumber::Counted(Some(number))
                | LineNumber::Stated(number)
                | LineNumber::Bare(number) => number.as_str(),
                LineNumber::Counted(None) | LineNumber::None => "",
            };
            self.labels.add_number(label, number, "equation");
        }
    }

    /// Formulas inside are counted as 3a, 3b.
    fn sub_equations(&mut self, name: &str, spot: Spot) {
        let parent = self.step("equation", "");
        let value = self.front.counter("equation");
        let shown = self.front.shown_definition("theequation");
        self.front.define_text("theparentequation", &parent);
        self.front.define_text("theequation", r"\theparentequation\alph{equation}");
        self.front.set_counter("equation", 0);
        self.labels.current(&parent, "equation");
        let content = self.content_of(name, spot);
        self.front.set_counter("equation", value);
        self.front.restore_definition("theequation", shown);
        self.sheet.end_paragraph();
        self.sheet.blocks.extend(content);
    }

    /// `\ensuremath{…}` outside of formulas.
    pub(super) fn ensured_formula(&mut self) {
        let tokens = self.front.argument();
        let tokens = self.front.expanded(tokens);
        let source = self.front.typed(&tokens).trim().to_string();
        self.sheet.push(Inline::Formula(Box::new(Formula { source, ..Formula::default() })));
    }

    pub(super) fn chemistry(&mut self) {
        let tokens = self.front.argument();
        let source = format!(r"\ce{{{}}}", self.front.typed(&tokens).trim());
        self.sheet.push(Inline::Formula(Box::new(Formula { source, ..Formula::default() })));
    }

    /// A command of formulas that stands outside of them.
    pub(super) fn lone_math(&mut self, name: Name) {
        let source = format!("\\{}", self.front.names.text(name));
        self.sheet.push(Inline::Formula(Box::new(Formula { source, ..Formula::default() })));
    }

    /// `\DeclareMathOperator{\name}{words}` defines a macro.
    pub(super) fn math_operator(&mut self) {
        let star = if self.front.star() { "*" } else { "" };
        let name = self.front.argument_text();
        let words = self.front.argument_text();
        let name = name.trim_start_matches('\\').trim().to_string();
        self.front.define_text(&name, &format!(r"\operatorname{star}{{{words}}}"));
    }
}

/// A source without the label that stands in it.
fn without_label(source: String) -> (String, Option<String>) {
    let Some(at) = source.find(r"\label") else { return (source, None) };
    let rest = source.get(at + r"\label".len()..).unwrap_or_default().trim_start();
    let inside = rest.strip_prefix('{').and_then(|inside| inside.split_once('}'));
    let Some((label, behind)) = inside else { return (source, None) };
    let before = source.get(..at).unwrap_or_default().trim_end();
    let behind = behind.trim_start();
    let room = if before.is_empty() || behind.is_empty() { "" } else { " " };
    (format!("{before}{room}{behind}"), Some(label.trim().to_string()))
}

/// The number that a source states itself.
fn stated_tag(source: &str) -> Option<String> {
    let at = source.find(r"\tag")?;
    let rest = source.get(at + r"\tag".len()..)?.trim_start_matches('*').trim_start();
    let (tag, _) = rest.strip_prefix('{')?.split_once('}')?;
    Some(tag.trim().to_string())
}
