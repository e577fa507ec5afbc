//! Whether two formulas say the same.

use super::mathml::styled_text;
use super::tex::usual_placement;
use crate::math::{Expression, Fenced, FractionLine, LetterStyle, LineNumber, Placement};
use crate::source::CompactString;
use compact_str::ToCompactString;

/// Whether two trees say the same, however they are put together: room between parts, sizes and
/// groups say nothing, and how far a sum or a function reaches is not compared.
///
/// ```
/// use obblet::notation::{from_tex, same_meaning};
/// assert!(same_meaning(&from_tex(r"a\,{b}"), &from_tex("ab")));
/// assert!(!same_meaning(&from_tex("a_b"), &from_tex("a^b")));
/// ```
#[must_use]
pub fn same_meaning(one: &Expression, other: &Expression) -> bool {
    meaning(one) == meaning(other)
}

/// One tree for all formulas that say the same.
pub(super) fn normal(expression: &Expression) -> Expression {
    Expression::Row(meaning(expression))
}

/// The parts of a formula without what says nothing.
fn meaning(expression: &Expression) -> Vec<Expression> {
    let mut parts = Vec::new();
    push(expression, &mut parts);
    parts
}

fn one(expression: &Expression) -> Box<Expression> {
    Box::new(Expression::of(meaning(expression)))
}

fn maybe(part: &Option<Box<Expression>>) -> Option<Box<Expression>> {
    part.as_deref().map(one).filter(|part| !part.is_nothing())
}

fn cells(rows: &[Vec<Expression>]) -> Expression {
    let cell = |cell: &Expression| *one(cell);
    Expression::Matrix(rows.iter().map(|row| row.iter().map(cell).collect()).collect())
}

fn push(expression: &Expression, parts: &mut Vec<Expression>) {
    match expression {
        Expression::Row(inner) => inner.iter().for_each(|part| push(part, parts)),
        Expression::Space(_) => {}
        Expression::Sized(_, body) | Expression::Classed(_, body) => push(body, parts),
        Expression::Overlapping(_, body) | Expression::Coloured(_, body) => push(body, parts),
        Expression::Chemical { shown, .. } => push(shown, parts),
        Expression::SizedBracket { sign, .. } | Expression::Stretched(sign) => {
            push_operator(sign, parts);
        }
        Expression::Operator(sign) => push_operator(sign, parts),
        Expression::Identifier(text, style) => push_identifier(text, *style, parts),
        Expression::Text(text, _) | Expression::Source(text) => push_text(text, parts),
        Expression::Number(digits) => parts.push(Expression::Number(digits.clone())),
        Expression::Function { name, argument } => {
            push(name, parts);
            push(argument, parts);
        }
        Expression::LargeOperator { sign, lower, upper, placement, body } => {
            let usual = usual_placement(sign.chars().next().unwrap_or('∑'));
            let has_limits = lower.is_some() || upper.is_some();
            let placement = match (placement, has_limits) {
                (_, false) => usual,
                (Placement::AlwaysBelowAndAbove, _) => Placement::BelowAndAbove,
                (placement, _) => *placement,
            };
            parts.push(Expression::LargeOperator {
                sign: sign.clone(),
                lower: maybe(lower),
                upper: maybe(upper),
                placement,
                body: Box::new(Expression::nothing()),
            });
            push(body, parts);
        }
        Expression::Fraction { over, under, line: FractionLine::Slanted | FractionLine::Slash } => {
            push(over, parts);
            push_operator("/", parts);
            push(under, parts);
        }
        Expression::Fenced(fenced) if fenced.open.is_empty() && fenced.close.is_empty() => {
            fenced.parts.iter().for_each(|part| push(part, parts));
        }
        Expression::Stacked { base, below: None, above: None }
        | Expression::Scripts { base, sub: None, sup: None } => push(base, parts),
        Expression::Display(display) => {
            let row = |line: &crate::math::DisplayLine| {
                let mut row: Vec<Expression> = line.cells.iter().map(|cell| *one(cell)).collect();
                if let LineNumber::Counted(Some(number))
                | LineNumber::Stated(number)
                | LineNumber::Bare(number) = &line.number
                {
                    row.push(Expression::Text(number.clone(), LetterStyle::Usual));
                }
                while row.last().is_some_and(Expression::is_nothing) {
                    row.pop();
                }
                row
            };
            parts.push(Expression::Matrix(display.lines.iter().map(row).collect()));
        }
        other => parts.push(built(other)),
    }
}

/// What is built from parts, with their meaning in it.
fn built(expression: &Expression) -> Expression {
    match expression {
        Expression::Fraction { over, under, line } => Expression::Fraction {
            over: one(over),
            under: one(under),
            line: if *line == FractionLine::None { FractionLine::None } else { FractionLine::Bar },
        },
        Expression::Root { body, degree } => {
            Expression::Root { body: one(body), degree: maybe(degree) }
        }
        Expression::Scripts { base, sub, sup } => {
            Expression::Scripts { base: one(base), sub: maybe(sub), sup: maybe(sup) }
        }
        Expression::PreScripts { base, sub, sup } => {
            Expression::PreScripts { base: one(base), sub: maybe(sub), sup: maybe(sup) }
        }
        Expression::Stacked { base, below, above } => {
            Expression::Stacked { base: one(base), below: maybe(below), above: maybe(above) }
        }
        Expression::Fenced(fenced) => {
            let Fenced { open, close, separator, parts } = fenced.as_ref();
            let separator =
                if parts.len() > 1 { separator.clone() } else { CompactString::default() };
            let parts = parts.iter().map(|part| *one(part)).collect();
            let (open, close) = (open.clone(), close.clone());
            Expression::Fenced(Box::new(Fenced { open, close, separator, parts }))
        }
        Expression::Matrix(rows) | Expression::Lines(rows) => cells(rows),
        Expression::Array(array) => cells(&array.rows),
        Expression::Stack(lines) => {
            Expression::Matrix(lines.iter().map(|line| vec![*one(line)]).collect())
        }
        Expression::Accent { mark, base } => Expression::Accent { mark: *mark, base: one(base) },
        Expression::Span { sign, is_below, base } => {
            Expression::Span { sign: *sign, is_below: *is_below, base: one(base) }
        }
        Expression::Framed(body) => Expression::Framed(one(body)),
        Expression::Struck(strike, body) => Expression::Struck(*strike, one(body)),
        Expression::Invisible(extent, body) => Expression::Invisible(*extent, one(body)),
        other => other.clone(),
    }
}

/// Signs one by one; those that are not seen say nothing.
fn push_operator(signs: &str, parts: &mut Vec<Expression>) {
    for sign in signs.chars() {
        match (sign, parts.last_mut()) {
            ('\u{2061}'..='\u{2064}', _) => {}
            // A stroke through a sign belongs to it.
            ('\u{338}', Some(Expression::Operator(last))) => last.push(sign),
            _ => parts.push(Expression::operator(sign.to_compact_string())),
        }
    }
}

/// Letters in the characters of their style; names of functions as upright ones.
fn push_identifier(text: &str, style: LetterStyle, parts: &mut Vec<Expression>) {
    let is_single = text.chars().count() == 1;
    let (text, style) = match style {
        LetterStyle::Usual => (text.to_string(), LetterStyle::Usual),
        LetterStyle::Slanted if is_single => (text.to_string(), LetterStyle::Usual),
        LetterStyle::Upright | LetterStyle::Name => (text.to_string(), LetterStyle::Upright),
        style => {
            let style = if style == LetterStyle::RoundScript { LetterStyle::Script } else { style };
            // Characters of their own say their style themselves.
            for letter in text.chars() {
                let styled = styled_text(&letter.to_string(), style);
                parts.push(Expression::Identifier(styled.into(), LetterStyle::Usual));
            }
            return;
        }
    };
    match (parts.last_mut(), style) {
        (Some(Expression::Identifier(last, LetterStyle::Upright)), LetterStyle::Upright) => {
            last.push_str(&text);
        }
        _ => parts.push(Expression::Identifier(text.into(), style)),
    }
}

fn push_text(text: &str, parts: &mut Vec<Expression>) {
    let words = text.split_whitespace().collect::<Vec<_>>().join(" ");
    match parts.last_mut() {
        _ if words.is_empty() => {}
        Some(Expression::Text(last, _)) => {
            last.push(' ');
            last.push_str(&words);
        }
        _ => parts.push(Expression::Text(words.into(), LetterStyle::Usual)),
    }
}
