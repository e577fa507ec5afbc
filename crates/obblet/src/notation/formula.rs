//! Formulas by their source or their tree, whichever there is.

use super::meaning;
use super::tex::{self, Problem, ProblemKind, tex};
use crate::findings::{Code, Findings};
use crate::math::{Arrangement, Display, DisplayLine, Expression, Formula, LineNumber};
use crate::source::{CompactString, Place};
use std::collections::HashMap;
use std::sync::Arc;

impl Formula {
    /// The formula of a tree. The number and the label of a display of one line become its own.
    #[must_use]
    pub fn of_tree(tree: Expression, display: bool) -> Self {
        let Expression::Display(lines) = &tree else { return Self::bare(tree, display) };
        let [line] = lines.lines.as_slice() else { return Self::bare(tree, display) };
        let [only] = line.cells.as_slice() else { return Self::bare(tree, display) };
        let number = match &line.number {
            LineNumber::Stated(number) => Some(number.as_str().into()),
            LineNumber::Counted(Some(number)) => Some(number.as_str().into()),
            LineNumber::None | LineNumber::Counted(None) => None,
            LineNumber::Bare(_) => return Self::bare(tree, display),
        };
        let label = line.label.as_deref().map(Into::into);
        Self { number, label, ..Self::bare(only.clone(), display) }
    }

    fn bare(tree: Expression, display: bool) -> Self {
        Self { source: tex(&tree), display, tree: Some(Arc::new(tree)), ..Self::default() }
    }

    /// TeX that is the same for all formulas that say the same, whatever their numbers.
    #[must_use]
    pub fn meaning(&self) -> String {
        let bare = Self::of_tree(Expression::clone(&self.expression()), self.display);
        tex(&meaning::normal(&bare.expression()))
    }

    /// The number of a display of one line, whether the formula has it or its source states it.
    #[must_use]
    pub fn stated_number(&self) -> Option<CompactString> {
        let of_source = || Self::of_tree(Expression::clone(&self.expression()), true).number;
        self.number.clone().or_else(of_source)
    }

    /// The tree: the one that is there, or else what the source says.
    ///
    /// ```
    /// use obblet::math::{Expression, Formula};
    /// let formula = Formula { source: r"\frac{1}{2}".into(), ..Formula::default() };
    /// assert!(matches!(*formula.expression(), Expression::Fraction { .. }));
    /// ```
    #[must_use]
    pub fn expression(&self) -> Arc<Expression> {
        self.read().0
    }

    /// The formula for who shows it. What is wrong with the source is told.
    pub(crate) fn numbered(
        &self,
        findings: &mut Findings,
        place: Option<Place>,
    ) -> NumberedFormula<'_> {
        let (tree, problems) = self.read();
        report(&problems, findings, place);
        NumberedFormula { tree, number: self.number.as_deref(), label: self.label.as_deref() }
    }

    /// All labels: its own, and those of its lines.
    pub(crate) fn labels(&self) -> Vec<CompactString> {
        let mut labels: Vec<CompactString> = self.label.iter().cloned().collect();
        if let Some(tree) = self.tree_with_labels()
            && let Expression::Display(display) = tree.as_ref()
        {
            labels.extend(
                display.lines.iter().filter_map(|line| line.label.as_deref()).map(Into::into),
            );
        }
        labels
    }

    /// Gives labels other names.
    pub(crate) fn rename_labels(&mut self, names: &HashMap<CompactString, CompactString>) {
        if let Some(new) = self.label.as_ref().and_then(|label| names.get(label)) {
            self.label = Some(new.clone());
        }
        let Some(tree) = self.tree_with_labels() else { return };
        let mut tree = Expression::clone(&tree);
        let Expression::Display(display) = &mut tree else { return };
        let mut is_renamed = false;
        for label in display.lines.iter_mut().filter_map(|line| line.label.as_mut()) {
            if let Some(new) = names.get(label.as_str()) {
                *label = new.clone();
                is_renamed = true;
            }
        }
        if is_renamed {
            self.source = tex(&tree);
            self.tree = Some(Arc::new(tree));
        }
    }

    /// The tree, where its lines may have labels.
    fn tree_with_labels(&self) -> Option<Arc<Expression>> {
        let may_have = self.display && (self.tree.is_some() || self.source.contains("\\label"));
        may_have.then(|| self.expression())
    }

    /// The tree, and what is wrong with the source where that had to be read.
    pub(crate) fn read(&self) -> (Arc<Expression>, Vec<Problem>) {
        match &self.tree {
            Some(tree) => (tree.clone(), Vec::new()),
            None => {
                let (tree, problems) = tex::read(&self.source);
                (Arc::new(tree), problems)
            }
        }
    }
}

/// What a formula says, and the number and label that stand beside it.
pub(crate) struct NumberedFormula<'f> {
    pub(crate) tree: Arc<Expression>,
    pub(crate) number: Option<&'f str>,
    pub(crate) label: Option<&'f str>,
}

impl NumberedFormula<'_> {
    /// The tree with the number and the label in it: as a display of one line where there are any.
    pub(crate) fn as_display(&self) -> Arc<Expression> {
        if self.number.is_none() && self.label.is_none() {
            return self.tree.clone();
        }
        let label = self.label.map(CompactString::from);
        if let Expression::Display(display) = self.tree.as_ref() {
            let mut display = display.clone();
            if let ([line], Some(label)) = (display.lines.as_mut_slice(), label) {
                line.label.get_or_insert(label);
            }
            return Arc::new(Expression::Display(display));
        }
        let number = match self.number {
            Some(number) => LineNumber::Stated(number.into()),
            None => LineNumber::None,
        };
        let cells = vec![Expression::clone(&self.tree)];
        let lines = vec![DisplayLine { cells, number, label, is_words: false }];
        Arc::new(Expression::Display(Box::new(Display { arrangement: Arrangement::Single, lines })))
    }
}

/// Tells what is wrong with the source of a formula.
pub(crate) fn report(problems: &[Problem], findings: &mut Findings, place: Option<Place>) {
    for problem in problems {
        match &problem.kind {
            ProblemKind::UnknownCommand(command) => {
                findings.count(Code::FormulaCommandUnknown, command, place);
            }
            ProblemKind::Unbalanced(what) => {
                findings.add_about(Code::FormulaUnbalanced, what, place)
            }
            ProblemKind::Misplaced(what) => findings.add_about(Code::FormulaBroken, what, place),
            ProblemKind::TooDeep => findings.add(Code::NestingTooDeep, place),
        }
    }
}

/// Reads TeX, without the delimiters around it. What is not understood is
/// [source](Expression::Source) in its place.
///
/// ```
/// use obblet::notation::{from_tex, to_tex};
/// assert_eq!(to_tex(&from_tex(r"{ a \over b }")), r"\frac{a}{b}");
/// ```
#[must_use]
pub fn from_tex(source: &str) -> Expression {
    tex::read(source).0
}

/// Writes TeX, without delimiters.
#[must_use]
pub fn to_tex(expression: &Expression) -> String {
    tex(expression)
}
