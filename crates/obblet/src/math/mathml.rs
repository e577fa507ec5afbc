//! The tree as MathML Core.

use super::{Expression, FractionLine, LetterStyle, Placement};

/// Writes presentation markup. `text` writes characters as the syntax wants them.
pub(crate) fn push_mathml(
    out: &mut String,
    expression: &Expression,
    text: &dyn Fn(&mut String, &str),
) {
    Writer { out, text }.write(expression);
}

struct Writer<'w> {
    out: &'w mut String,
    text: &'w dyn Fn(&mut String, &str),
}

impl Writer<'_> {
    fn leaf(&mut self, name: &str, attributes: &str, text: &str) {
        self.out.push_str(&format!("<{name}{attributes}>"));
        (self.text)(self.out, text);
        self.out.push_str(&format!("</{name}>"));
    }

    fn element(&mut self, name: &str, attributes: &str, parts: &[&Expression]) {
        self.out.push_str(&format!("<{name}{attributes}>"));
        parts.iter().for_each(|part| self.write(part));
        self.out.push_str(&format!("</{name}>"));
    }

    fn write(&mut self, expression: &Expression) {
        match expression {
            Expression::Row(parts) if parts.len() == 1 => {
                parts.iter().for_each(|part| self.write(part));
            }
            Expression::Row(parts) => {
                self.element("mrow", "", &parts.iter().collect::<Vec<_>>());
            }
            Expression::Identifier(text, style) => self.identifier(text, *style),
            Expression::Number(text) => self.leaf("mn", "", text),
            Expression::Operator(text) => self.leaf("mo", "", text),
            Expression::Text(text) => self.leaf("mtext", "", &text.replace(' ', "\u{a0}")),
            Expression::Fraction { over, under, line } => match line {
                FractionLine::Bar => self.element("mfrac", "", &[over, under]),
                FractionLine::None => {
                    self.element("mfrac", " linethickness=\"0\"", &[over, under]);
                }
                FractionLine::Slanted | FractionLine::Slash => {
                    self.out.push_str("<mrow>");
                    self.write(over);
                    self.leaf("mo", "", "/");
                    self.write(under);
                    self.out.push_str("</mrow>");
                }
            },
            Expression::Root { body, degree: None } => self.element("msqrt", "", &[body]),
            Expression::Root { body, degree: Some(degree) } => {
                self.element("mroot", "", &[body, degree]);
            }
            Expression::Scripts { base, sub, sup } => {
                self.around(["msub", "msup", "msubsup"], base, sub, sup);
            }
            Expression::Stacked { base, below, above } => {
                self.around(["munder", "mover", "munderover"], base, below, above);
            }
            Expression::PreScripts { base, sub, sup } => {
                self.out.push_str("<mmultiscripts>");
                self.write(base);
                self.out.push_str("<mprescripts></mprescripts>");
                for script in [sub, sup] {
                    match script {
                        Some(script) => self.write(script),
                        None => self.out.push_str("<mrow></mrow>"),
                    }
                }
                self.out.push_str("</mmultiscripts>");
            }
            Expression::LargeOperator { sign, lower, upper, placement, body } => {
                self.out.push_str("<mrow>");
                let names = match placement {
                    Placement::BelowAndAbove => ["munder", "mover", "munderover"],
                    Placement::Behind => ["msub", "msup", "msubsup"],
                };
                let sign = Expression::Operator(sign.clone());
                self.around(names, &sign, lower, upper);
                self.write(body);
                self.out.push_str("</mrow>");
            }
            Expression::Fenced { open, close, separator, parts } => {
                self.out.push_str("<mrow>");
                self.fence(open, "prefix");
                for (at, part) in parts.iter().enumerate() {
                    if at > 0 {
                        self.leaf("mo", "", separator);
                    }
                    self.write(part);
                }
                self.fence(close, "postfix");
                self.out.push_str("</mrow>");
            }
            Expression::Matrix(rows) => self.table(rows, ""),
            Expression::Lines(rows) => self.table(rows, " displaystyle=\"true\""),
            Expression::Function { name, argument } => {
                self.out.push_str("<mrow>");
                self.write(name);
                self.leaf("mo", "", "\u{2061}");
                self.write(argument);
                self.out.push_str("</mrow>");
            }
            Expression::Accent { mark, base } => {
                self.out.push_str("<mover accent=\"true\">");
                self.write(base);
                let shown = super::symbols::ACCENTS.iter().find(|(_, joined, _)| joined == mark);
                let mark = shown.map_or(*mark, |(own, _, _)| *own);
                self.leaf("mo", "", mark.encode_utf8(&mut [0; 4]));
                self.out.push_str("</mover>");
            }
            Expression::Span { sign, is_below, base } => {
                let name = if *is_below { "munder" } else { "mover" };
                self.out.push_str(&format!("<{name}>"));
                self.write(base);
                self.leaf("mo", " stretchy=\"true\"", sign.encode_utf8(&mut [0; 4]));
                self.out.push_str(&format!("</{name}>"));
            }
            Expression::Framed(body) => {
                self.element("mrow", " style=\"border: 1px solid; padding: 0.2em\"", &[body]);
            }
            Expression::Invisible(body) => self.element("mphantom", "", &[body]),
        }
    }

    fn around(
        &mut self,
        [below, above, both]: [&str; 3],
        base: &Expression,
        lower: &Option<Box<Expression>>,
        upper: &Option<Box<Expression>>,
    ) {
        match (lower, upper) {
            (Some(lower), Some(upper)) => self.element(both, "", &[base, lower, upper]),
            (Some(lower), None) => self.element(below, "", &[base, lower]),
            (None, Some(upper)) => self.element(above, "", &[base, upper]),
            (None, None) => self.write(base),
        }
    }

    fn fence(&mut self, bracket: &str, form: &str) {
        if !bracket.is_empty() {
            self.leaf("mo", &format!(" form=\"{form}\" stretchy=\"true\""), bracket);
        }
    }

    fn table(&mut self, rows: &[Vec<Expression>], attributes: &str) {
        self.out.push_str(&format!("<mtable{attributes}>"));
        for row in rows {
            self.out.push_str("<mtr>");
            row.iter().for_each(|cell| self.element("mtd", "", &[cell]));
            self.out.push_str("</mtr>");
        }
        self.out.push_str("</mtable>");
    }

    /// Letters of other styles have characters of their own (MathML Core, 4.2).
    fn identifier(&mut self, text: &str, style: LetterStyle) {
        let is_single = text.chars().count() == 1;
        match style {
            LetterStyle::Usual => self.leaf("mi", "", text),
            LetterStyle::Upright if is_single => {
                self.leaf("mi", " mathvariant=\"normal\"", text);
            }
            LetterStyle::Upright => self.leaf("mi", "", text),
            style => {
                let text: String = text.chars().map(|c| styled(c, style)).collect();
                self.leaf("mi", "", &text);
            }
        }
    }
}

/// A letter or digit among the mathematical alphanumeric symbols (Unicode block 1D400).
fn styled(character: char, style: LetterStyle) -> char {
    // Capitals, small letters, digits; 0 where a style has no digits.
    let (capitals, small, digits) = match style {
        LetterStyle::Bold => (0x1D400, 0x1D41A, 0x1D7CE),
        LetterStyle::BoldSlanted => (0x1D468, 0x1D482, 0x1D7CE),
        LetterStyle::Script => (0x1D4D0, 0x1D4EA, 0),
        LetterStyle::Fraktur => (0x1D56C, 0x1D586, 0),
        LetterStyle::DoubleStruck => (0x1D538, 0x1D552, 0x1D7D8),
        LetterStyle::SansSerif => (0x1D5A0, 0x1D5BA, 0x1D7E2),
        LetterStyle::Monospace => (0x1D670, 0x1D68A, 0x1D7F6),
        LetterStyle::Usual | LetterStyle::Upright => return character,
    };
    // Some double-struck capitals were characters before the block was made.
    if style == LetterStyle::DoubleStruck
        && let Some((_, known)) =
            [('C', 'ℂ'), ('H', 'ℍ'), ('N', 'ℕ'), ('P', 'ℙ'), ('Q', 'ℚ'), ('R', 'ℝ'), ('Z', 'ℤ')]
                .into_iter()
                .find(|(plain, _)| *plain == character)
    {
        return known;
    }
    let shifted =
        |first: u32, from: char| char::from_u32(first + u32::from(character) - u32::from(from));
    let found = match character {
        'A'..='Z' => shifted(capitals, 'A'),
        'a'..='z' => shifted(small, 'a'),
        '0'..='9' if digits > 0 => shifted(digits, '0'),
        _ => None,
    };
    found.unwrap_or(character)
}
