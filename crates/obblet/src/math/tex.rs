//! The tree as TeX (LaTeX2e with amsmath).

use super::symbols::{ACCENTS, FUNCTIONS, tex_name};
use super::{Expression, FractionLine, LetterStyle, Placement};

/// A formula's TeX source.
pub(crate) fn tex(expression: &Expression) -> String {
    let mut writer = Tex::default();
    writer.write(expression);
    writer.out.trim().to_string()
}

#[derive(Default)]
struct Tex {
    out: String,
}

impl Tex {
    fn write(&mut self, expression: &Expression) {
        match expression {
            Expression::Row(parts) => parts.iter().for_each(|part| self.write(part)),
            Expression::Identifier(text, style) => self.identifier(text, *style),
            Expression::Number(text) => self.put(text),
            Expression::Operator(text) => self.characters(text),
            Expression::Text(text) => {
                self.command(r"\text");
                self.out.push('{');
                self.words(text);
                self.out.push('}');
            }
            Expression::Fraction { over, under, line } => self.fraction(over, under, *line),
            Expression::Root { body, degree } => {
                self.command(r"\sqrt");
                if let Some(degree) = degree {
                    self.out.push('[');
                    self.write(degree);
                    self.out.push(']');
                }
                self.group(body);
            }
            Expression::Scripts { base, sub, sup } => {
                self.base(base);
                self.scripts(sub.as_deref(), sup.as_deref());
            }
            Expression::PreScripts { base, sub, sup } => {
                self.put("{}");
                self.scripts(sub.as_deref(), sup.as_deref());
                self.base(base);
            }
            Expression::Stacked { base, below, above } => self.stacked(base, below, above),
            Expression::LargeOperator { sign, lower, upper, placement, body } => {
                self.characters(sign);
                let is_integral = sign.chars().any(|c| ('∫'..='∳').contains(&c));
                match placement {
                    Placement::BelowAndAbove if is_integral => self.command(r"\limits"),
                    Placement::Behind if !is_integral => self.command(r"\nolimits"),
                    _ => {}
                }
                self.scripts(lower.as_deref(), upper.as_deref());
                self.write(body);
            }
            Expression::Fenced { open, close, separator, parts } => {
                self.fence(r"\left", open);
                for (at, part) in parts.iter().enumerate() {
                    if at > 0 {
                        self.fence(r"\middle", separator);
                    }
                    self.write(part);
                }
                self.fence(r"\right", close);
            }
            Expression::Matrix(rows) => self.rows("matrix", rows),
            Expression::Lines(rows) => self.rows("aligned", rows),
            Expression::Function { name, argument } => {
                self.write(name);
                if !self.out.ends_with([' ', '}', '{']) {
                    self.out.push(' ');
                }
                self.write(argument);
            }
            Expression::Accent { mark, base } => {
                let known = ACCENTS.iter().find(|(own, joined, _)| own == mark || joined == mark);
                match known {
                    Some((_, _, name)) => self.command(name),
                    None => {
                        self.command(r"\overset");
                        self.out.push_str(&format!("{{{mark}}}"));
                    }
                }
                self.group(base);
            }
            Expression::Span { sign, is_below, base } => {
                self.command(span_name(*sign, *is_below));
                self.group(base);
            }
            Expression::Framed(body) => {
                self.command(r"\boxed");
                self.group(body);
            }
            Expression::Invisible(body) => {
                self.command(r"\phantom");
                self.group(body);
            }
        }
    }

    /// Adds TeX; a letter behind a command's name is parted from it.
    fn put(&mut self, tex: &str) {
        if tex.starts_with(|c: char| c.is_ascii_alphabetic()) && ends_with_name(&self.out) {
            self.out.push(' ');
        }
        self.out.push_str(tex);
    }

    fn command(&mut self, name: &str) {
        self.out.push_str(name);
    }

    fn characters(&mut self, text: &str) {
        for character in text.chars() {
            match tex_name(character) {
                Some(name) => self.put(name),
                None => self.put(character.encode_utf8(&mut [0; 4])),
            }
        }
    }

    fn words(&mut self, text: &str) {
        for character in text.chars() {
            match character {
                '#' | '$' | '%' | '&' | '_' | '{' | '}' => {
                    self.out.push('\\');
                    self.out.push(character);
                }
                '\\' => self.out.push_str(r"\textbackslash{}"),
                '~' => self.out.push_str(r"\textasciitilde{}"),
                '^' => self.out.push_str(r"\textasciicircum{}"),
                _ => self.out.push(character),
            }
        }
    }

    fn identifier(&mut self, text: &str, style: LetterStyle) {
        let is_word = text.chars().count() > 1;
        if FUNCTIONS.contains(&text) && matches!(style, LetterStyle::Usual | LetterStyle::Upright) {
            return self.put(&format!(r"\{text}"));
        }
        let command = match style {
            LetterStyle::Usual => return self.characters(text),
            LetterStyle::Upright if is_word && text.chars().all(char::is_alphabetic) => {
                r"\operatorname"
            }
            LetterStyle::Upright => r"\mathrm",
            LetterStyle::Bold => r"\mathbf",
            LetterStyle::BoldSlanted => r"\boldsymbol",
            LetterStyle::DoubleStruck => r"\mathbb",
            LetterStyle::Script => r"\mathcal",
            LetterStyle::Fraktur => r"\mathfrak",
            LetterStyle::SansSerif => r"\mathsf",
            LetterStyle::Monospace => r"\mathtt",
        };
        self.command(command);
        self.out.push('{');
        self.characters(text);
        self.out.push('}');
    }

    fn group(&mut self, expression: &Expression) {
        self.out.push('{');
        self.write(expression);
        self.out.push('}');
    }

    /// What scripts are about: one character alone, or a group.
    fn base(&mut self, base: &Expression) {
        match base {
            Expression::Identifier(text, LetterStyle::Usual) if text.chars().count() == 1 => {
                self.write(base);
            }
            Expression::Fenced { .. } | Expression::Number(_) => self.write(base),
            Expression::Row(parts) if parts.len() == 1 => {
                if let Some(only) = parts.first() {
                    self.base(only);
                }
            }
            _ => self.group(base),
        }
    }

    fn scripts(&mut self, sub: Option<&Expression>, sup: Option<&Expression>) {
        for (mark, script) in [('_', sub), ('^', sup)] {
            if let Some(script) = script {
                self.out.push(mark);
                self.group(script);
            }
        }
    }

    fn fraction(&mut self, over: &Expression, under: &Expression, line: FractionLine) {
        match line {
            FractionLine::Bar => {
                self.command(r"\frac");
                self.group(over);
                self.group(under);
            }
            FractionLine::None => {
                self.command(r"\genfrac{}{}{0pt}{}");
                self.group(over);
                self.group(under);
            }
            FractionLine::Slanted | FractionLine::Slash => {
                self.group(over);
                self.put("/");
                self.group(under);
            }
        }
    }

    fn stacked(
        &mut self,
        base: &Expression,
        below: &Option<Box<Expression>>,
        above: &Option<Box<Expression>>,
    ) {
        let name = match base {
            Expression::Identifier(name, _) => name.as_str(),
            Expression::Row(parts) => match parts.as_slice() {
                [Expression::Identifier(name, _)] => name.as_str(),
                _ => "",
            },
            _ => "",
        };
        if ["lim", "max", "min", "sup", "inf", "limsup", "liminf", "det", "gcd"].contains(&name) {
            self.put(&format!(r"\{name}"));
            return self.scripts(below.as_deref(), above.as_deref());
        }
        if let Some(below) = below {
            self.command(r"\underset");
            self.group(below);
            self.out.push('{');
        }
        match above {
            Some(above) => {
                self.command(r"\overset");
                self.group(above);
                self.group(base);
            }
            None => self.write(base),
        }
        if below.is_some() {
            self.out.push('}');
        }
    }

    fn fence(&mut self, side: &str, bracket: &str) {
        self.command(side);
        match bracket {
            "" => self.out.push('.'),
            _ => {
                let before = self.out.len();
                self.characters(bracket);
                if ends_with_name(self.out.get(before..).unwrap_or_default()) {
                    self.out.push(' ');
                }
            }
        }
    }

    fn rows(&mut self, environment: &str, rows: &[Vec<Expression>]) {
        self.out.push_str(&format!(r"\begin{{{environment}}}"));
        for (at, row) in rows.iter().enumerate() {
            if at > 0 {
                self.out.push_str(r" \\ ");
            }
            for (at, cell) in row.iter().enumerate() {
                if at > 0 {
                    self.out.push_str(" & ");
                }
                self.write(cell);
            }
        }
        self.out.push_str(&format!(r"\end{{{environment}}}"));
    }
}

/// Whether a text ends with the name of a command, to which a letter would belong.
fn ends_with_name(tex: &str) -> bool {
    let name = tex.trim_end_matches(|c: char| c.is_ascii_alphabetic());
    name.len() < tex.len() && name.ends_with('\\')
}

fn span_name(sign: char, is_below: bool) -> &'static str {
    match (sign, is_below) {
        ('\u{23DE}', _) | ('\u{FE37}', _) => r"\overbrace",
        ('\u{23DF}', _) | ('\u{FE38}', _) => r"\underbrace",
        (_, true) => r"\underline",
        (_, false) => r"\overline",
    }
}
