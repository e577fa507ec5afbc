//! Commands of formulas that build something from their arguments.

use super::read::{Reader, Stop, fenced, hundredths, modulo, sized_as};
use super::scan::{ProblemKind, Token};
use super::signs::{OF_TEXT, negated};
use crate::math::{
    BracketSide, Expression, Extent, Fenced, FormulaSize, FractionLine, LetterStyle, LineNumber,
    SpacingClass,
};
use crate::notation::chemistry;

impl<'s> Reader<'s> {
    /// Commands that build something from their arguments.
    pub(super) fn construct(&mut self, name: &'s str, at: usize) -> Option<Expression> {
        Some(match name {
            "frac" => self.fraction(FractionLine::Bar),
            "cfrac" => {
                self.scan.raw_option();
                self.fraction(FractionLine::Continued)
            }
            "sfrac" | "nicefrac" => self.fraction(FractionLine::Slanted),
            "dfrac" => sized_as(FormulaSize::Display, self.fraction(FractionLine::Bar)),
            "tfrac" => sized_as(FormulaSize::Text, self.fraction(FractionLine::Bar)),
            "binom" => fenced("(", self.fraction(FractionLine::None), ")"),
            "dbinom" => {
                sized_as(FormulaSize::Display, fenced("(", self.fraction(FractionLine::None), ")"))
            }
            "tbinom" => {
                sized_as(FormulaSize::Text, fenced("(", self.fraction(FractionLine::None), ")"))
            }
            "genfrac" => self.general_fraction(),
            "sqrt" => {
                let degree = self.option().map(Box::new);
                Expression::Root { body: Box::new(self.argument()), degree }
            }
            "root" => self.plain_root(),
            "overset" | "stackrel" => {
                let above = Some(Box::new(self.argument()));
                self.argument().stacked(None, above)
            }
            "underset" => {
                let below = Some(Box::new(self.argument()));
                self.argument().stacked(below, None)
            }
            "overunderset" => {
                let above = Some(Box::new(self.argument()));
                let below = Some(Box::new(self.argument()));
                self.argument().stacked(below, above)
            }
            "operatorname" => self.function_name(),
            "left" => self.fenced(at),
            "begin" => return Some(self.environment(at)),
            "substack" => self.stack(),
            "ensuremath" => self.argument(),
            "boxed" | "fbox" | "framebox" => Expression::Framed(Box::new(self.argument())),
            "phantom" => Expression::Invisible(Extent::Both, Box::new(self.argument())),
            "hphantom" => Expression::Invisible(Extent::Width, Box::new(self.argument())),
            "vphantom" => Expression::Invisible(Extent::Height, Box::new(self.argument())),
            "mathstrut" => {
                Expression::Invisible(Extent::Height, Box::new(Expression::operator("(")))
            }
            "textcolor" => {
                let model = self.scan.raw_option().unwrap_or_default();
                let value = self.scan.raw_argument();
                let colour = self.colour(at, model, value);
                Expression::Coloured(colour.into(), Box::new(self.argument()))
            }
            "bmod" => Expression::Classed(SpacingClass::Binary, Box::new(modulo())),
            "pmod" => {
                let body = self.argument();
                Expression::Row(vec![
                    Expression::Space(1800),
                    Expression::operator("("),
                    modulo(),
                    Expression::Space(600),
                    body,
                    Expression::operator(")"),
                ])
            }
            "pod" => {
                let body = self.argument();
                Expression::Row(vec![
                    Expression::Space(1800),
                    Expression::operator("("),
                    body,
                    Expression::operator(")"),
                ])
            }
            "mod" => {
                Expression::Row(vec![Expression::Space(1800), modulo(), Expression::Space(600)])
            }
            "not" => self.negation(),
            "prescript" => {
                let sup = Some(Box::new(self.argument())).filter(|sup| !sup.is_nothing());
                let sub = Some(Box::new(self.argument())).filter(|sub| !sub.is_nothing());
                Expression::PreScripts { base: Box::new(self.argument()), sub, sup }
            }
            "ce" => {
                let source = self.scan.raw_argument().to_string();
                let shown = Box::new(chemistry::read(&source));
                Expression::Chemical { source: source.into(), shown }
            }
            "mspace" | "hspace" | "kern" | "mkern" | "hskip" | "mskip" => self.stated_space(name),
            " " | "\n" | "space" | "nobreakspace" => {
                Expression::Text(" ".into(), LetterStyle::Usual)
            }
            "{" => Expression::operator("{"),
            "}" => Expression::operator("}"),
            "|" => Expression::operator("‖"),
            "#" | "$" | "%" | "&" | "_" => Expression::operator(name),
            "tag" => return self.tag(),
            "label" => {
                self.line.label = Some(self.scan.raw_argument().trim().into());
                return None;
            }
            "notag" | "nonumber" => {
                self.is_unnumbered = true;
                return None;
            }
            "nobreak" | "allowbreak" | "relax" | "centering" | "strut" | "noindent"
            | "displaylimits" | "null" | "protect" | "/" | "-" | "(" | ")" => {
                return None;
            }
            "vspace" | "special" => {
                self.scan.eat('*');
                self.scan.raw_argument();
                return None;
            }
            "rule" => {
                self.scan.raw_option();
                self.scan.raw_argument();
                self.scan.raw_argument();
                return None;
            }
            _ if OF_TEXT.contains(&name) => return None,
            _ => self.unknown(name),
        })
    }

    /// Words in a box; what is said of its size and colours is passed over.
    pub(super) fn boxed_words(&mut self, groups: usize) -> Expression {
        while self.scan.raw_option().is_some() {}
        for _ in 0..groups {
            self.scan.raw_argument();
            while self.scan.raw_option().is_some() {}
        }
        let raw = self.scan.raw_argument();
        self.guarded_words(raw, LetterStyle::Usual)
    }

    pub(super) fn fraction(&mut self, line: FractionLine) -> Expression {
        let over = Box::new(self.argument());
        Expression::Fraction { over, under: Box::new(self.argument()), line }
    }

    /// `\genfrac{open}{close}{thickness}{style}{over}{under}`.
    fn general_fraction(&mut self) -> Expression {
        let bracket = |raw: &str| match raw.trim() {
            r"\{" | r"\lbrace" => "{".to_string(),
            r"\}" | r"\rbrace" => "}".to_string(),
            r"\langle" => "⟨".to_string(),
            r"\rangle" => "⟩".to_string(),
            other => other.to_string(),
        };
        let open = bracket(self.scan.raw_argument());
        let close = bracket(self.scan.raw_argument());
        let has_line = !self.scan.raw_argument().trim().starts_with('0');
        let size = match self.scan.raw_argument().trim() {
            "0" => Some(FormulaSize::Display),
            "1" => Some(FormulaSize::Text),
            "2" => Some(FormulaSize::Script),
            "3" => Some(FormulaSize::SmallScript),
            _ => None,
        };
        let line = if has_line { FractionLine::Bar } else { FractionLine::None };
        let mut fraction = self.fraction(line);
        if !open.is_empty() || !close.is_empty() {
            fraction = fenced(&open, fraction, &close);
        }
        size.map_or(fraction.clone(), |size| sized_as(size, fraction))
    }

    /// `\root n \of x`.
    fn plain_root(&mut self) -> Expression {
        let degree = Some(Box::new(self.argument()));
        if self.scan.peek() == Some(Token::Command("of")) {
            self.scan.next();
        }
        Expression::Root { body: Box::new(self.argument()), degree }
    }

    /// `\operatorname{name}`; with a star, scripts stand below and above it.
    fn function_name(&mut self) -> Expression {
        let has_star = self.scan.eat('*');
        let name = self.styled(LetterStyle::Name);
        match has_star {
            true => Expression::Stacked { base: Box::new(name), below: None, above: None },
            false => name,
        }
    }

    /// `\left( … \middle| … \right)`.
    pub(super) fn fenced(&mut self, at: usize) -> Expression {
        let open = self.bracket();
        let mut parts = Vec::new();
        let mut separators: Vec<String> = Vec::new();
        loop {
            parts.push(self.deeper(|reader| reader.row_until(Stop::Right)));
            if self.scan.peek() != Some(Token::Command("middle")) {
                break;
            }
            self.scan.next();
            separators.push(self.bracket());
        }
        let close = match self.scan.peek() {
            Some(Token::Command("right")) => {
                self.scan.next();
                self.bracket()
            }
            _ => {
                self.problem(at, ProblemKind::Unbalanced(r"\left".into()));
                String::new()
            }
        };
        let separator = separators.first().cloned().unwrap_or_default();
        if separators.iter().all(|other| *other == separator) {
            let (open, close) = (open.into(), close.into());
            let fenced = Fenced { open, close, separator: separator.into(), parts };
            return Expression::Fenced(Box::new(fenced));
        }
        let mut signs = separators.into_iter();
        let mut row = Vec::new();
        for part in parts {
            row.push(part);
            row.extend(signs.next().map(|sign| Expression::SizedBracket {
                sign: sign.into(),
                size: 0,
                side: BracketSide::Middle,
            }));
        }
        fenced(&open, Expression::Row(row), &close)
    }

    fn negation(&mut self) -> Expression {
        match self.argument() {
            Expression::Operator(sign) => {
                let mut signs = sign.chars();
                match (signs.next(), signs.next()) {
                    (Some(only), None) => Expression::Operator(negated(only).into()),
                    _ => Expression::Operator(sign),
                }
            }
            Expression::Identifier(name, style) => {
                Expression::Identifier(format!("{name}\u{338}").into(), style)
            }
            other => other,
        }
    }

    fn stated_space(&mut self, name: &str) -> Expression {
        self.scan.eat('*');
        let raw = match name {
            "mspace" | "hspace" => self.scan.raw_argument(),
            _ => {
                self.scan.skip_space();
                let start = self.scan.at();
                let length = self
                    .scan
                    .rest()
                    .find(|c: char| !(c.is_ascii_alphanumeric() || matches!(c, '.' | '-')))
                    .unwrap_or(self.scan.rest().len());
                self.scan.rewind(start + length.min(12));
                self.scan.since(start)
            }
        };
        Expression::Space(hundredths(raw).unwrap_or(0))
    }

    pub(super) fn tag(&mut self) -> Option<Expression> {
        let is_bare = self.scan.eat('*');
        let text = self.scan.raw_argument().trim().to_string();
        self.line.number =
            if is_bare { LineNumber::Bare(text.into()) } else { LineNumber::Stated(text.into()) };
        None
    }

    pub(super) fn stack(&mut self) -> Expression {
        if !self.scan.eat('{') {
            return self.argument();
        }
        let mut lines = Vec::new();
        loop {
            lines.push(self.deeper(|reader| reader.row_until(Stop::Brace)));
            match self.scan.peek() {
                Some(Token::Command("\\" | "cr")) => self.end_line(),
                _ => break,
            }
        }
        self.scan.eat('}');
        Expression::Stack(lines)
    }
}
