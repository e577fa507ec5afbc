//! The numbers of formulas, figures and tables: how LaTeX has to count so that they come out.

use crate::document::{BlockKind, Caption, Document, Node, Visit, walk};
use crate::math::{Expression, LineNumber};

/// What is counted anew in each section.
#[derive(Debug, Default, Clone, Copy)]
pub(super) struct Numbers {
    pub(super) equations_within: bool,
    pub(super) figures_within: bool,
    pub(super) tables_within: bool,
    /// How many formulas have been counted, and in which section.
    count: u32,
}

impl Numbers {
    /// A point in a number says that it is counted within the section before it.
    pub(super) fn of(document: &Document) -> Self {
        let mut numbers = Self::default();
        let has_point = |number: &str| number.contains('.');
        let in_caption = |caption: &Option<Caption>| {
            let label = caption.as_ref().and_then(|caption| caption.label.as_deref());
            label.and_then(|label| label.rsplit(' ').next()).is_some_and(has_point)
        };
        for visit in walk(&document.blocks) {
            let Visit::Enter(Node::Block(block)) = visit else { continue };
            match &block.kind {
                BlockKind::Formula(formula) => {
                    numbers.equations_within |= formula.number.as_deref().is_some_and(has_point);
                    if let Some(Expression::Display(display)) = formula.tree.as_deref() {
                        numbers.equations_within |= display.lines.iter().any(|line| {
                            matches!(&line.number, LineNumber::Counted(Some(number)) if has_point(number))
                        });
                    }
                }
                BlockKind::Figure(figure) => numbers.figures_within |= in_caption(&figure.caption),
                BlockKind::Table(table) => numbers.tables_within |= in_caption(&table.caption),
                _ => {}
            }
        }
        numbers
    }

    /// A section begins.
    pub(super) fn begin_section(&mut self) {
        if self.equations_within {
            self.count = 0;
        }
    }

    /// Whether a formula gets the number that it shows; counts it then.
    pub(super) fn counts(&mut self, number: &str, section: &str) -> bool {
        let next = self.count + 1;
        let shown = match self.equations_within {
            true => format!("{section}.{next}"),
            false => next.to_string(),
        };
        let is_next = shown == number;
        if is_next {
            self.count = next;
        }
        is_next
    }
}
