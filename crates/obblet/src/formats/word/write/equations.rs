//! Equations (OMML; ECMA-376 part 1, 22.1) from the formula tree. A formula without a tree shows its TeX
//! source in a mathematical zone, where Word can turn it into an equation.

use super::Writer;
use super::markup::push_text;
use crate::document::StyleKind;
use crate::findings::Code;
use crate::formats::word::vocabulary::TEX_SOURCE;
use crate::math::{Expression, Formula, FractionLine, LetterStyle, Placement};

impl Writer<'_> {
    pub(super) fn inline_equation(&mut self, formula: &Formula) -> String {
        let inside = self.equation(formula);
        if formula.display {
            return format!("<m:oMathPara><m:oMath>{inside}</m:oMath></m:oMathPara>");
        }
        format!("<m:oMath>{inside}</m:oMath>")
    }

    /// A formula on a line of its own.
    pub(super) fn display_equation(&mut self, formula: &Formula) -> String {
        if formula.number.is_some() || formula.label.is_some() {
            self.lost("the number of an equation");
        }
        let inside = self.equation(formula);
        format!("<m:oMathPara><m:oMath>{inside}</m:oMath></m:oMathPara>")
    }

    fn equation(&mut self, formula: &Formula) -> String {
        let mut out = String::new();
        match &formula.tree {
            Some(tree) => push_expression(tree, &mut out),
            None => {
                self.findings.count(Code::FormulaAsSource, "TeX", Some(self.place));
                let style = self.styles.id(StyleKind::Inline, TEX_SOURCE);
                out.push_str(&format!(
                    "<m:r><m:rPr><m:nor/></m:rPr><w:rPr><w:rStyle w:val=\"{style}\"/></w:rPr>"
                ));
                push_text_element(&formula.source, &mut out);
                out.push_str("</m:r>");
            }
        }
        out
    }
}

fn push_run(text: &str, properties: &str, out: &mut String) {
    out.push_str("<m:r>");
    if !properties.is_empty() {
        out.push_str(&format!("<m:rPr>{properties}</m:rPr>"));
    }
    push_text_element(text, out);
    out.push_str("</m:r>");
}

fn push_text_element(text: &str, out: &mut String) {
    out.push_str("<m:t xml:space=\"preserve\">");
    push_text(out, text);
    out.push_str("</m:t>");
}

fn argument(name: &str, part: &Expression, out: &mut String) {
    out.push_str(&format!("<m:{name}>"));
    push_expression(part, out);
    out.push_str(&format!("</m:{name}>"));
}

fn optional(name: &str, part: Option<&Expression>, out: &mut String) {
    match part {
        Some(part) => argument(name, part, out),
        None => out.push_str(&format!("<m:{name}/>")),
    }
}

/// A property with one value.
fn property(name: &str, value: &str) -> String {
    let mut out = format!("<m:{name} m:val=\"");
    push_text(&mut out, value);
    out + "\"/>"
}

fn push_expression(expression: &Expression, out: &mut String) {
    match expression {
        Expression::Row(parts) => parts.iter().for_each(|part| push_expression(part, out)),
        Expression::Identifier(name, style) => push_run(name, &letters(*style), out),
        Expression::Number(text) | Expression::Operator(text) => push_run(text, "", out),
        Expression::Text(text) => push_run(text, "<m:nor/>", out),
        Expression::Fraction { over, under, line } => {
            let kind = match line {
                FractionLine::Bar => "bar",
                FractionLine::None => "noBar",
                FractionLine::Slanted => "skw",
                FractionLine::Slash => "lin",
            };
            out.push_str(&format!("<m:f><m:fPr>{}</m:fPr>", property("type", kind)));
            argument("num", over, out);
            argument("den", under, out);
            out.push_str("</m:f>");
        }
        Expression::Root { body, degree } => {
            let hidden = if degree.is_none() { property("degHide", "1") } else { String::new() };
            out.push_str(&format!("<m:rad><m:radPr>{hidden}</m:radPr>"));
            optional("deg", degree.as_deref(), out);
            argument("e", body, out);
            out.push_str("</m:rad>");
        }
        Expression::Scripts { base, sub, sup } => scripts(base, sub, sup, out),
        Expression::PreScripts { base, sub, sup } => {
            out.push_str("<m:sPre>");
            optional("sub", sub.as_deref(), out);
            optional("sup", sup.as_deref(), out);
            argument("e", base, out);
            out.push_str("</m:sPre>");
        }
        Expression::Stacked { base, below, above } => {
            stacked(base, below.as_deref(), above.as_deref(), out);
        }
        Expression::LargeOperator { sign, lower, upper, placement, body } => {
            let limits = match placement {
                Placement::BelowAndAbove => "undOvr",
                Placement::Behind => "subSup",
            };
            out.push_str(&format!(
                "<m:nary><m:naryPr>{}{}",
                property("chr", sign),
                property("limLoc", limits)
            ));
            for (name, part) in [("subHide", lower), ("supHide", upper)] {
                if part.is_none() {
                    out.push_str(&property(name, "1"));
                }
            }
            out.push_str("</m:naryPr>");
            optional("sub", lower.as_deref(), out);
            optional("sup", upper.as_deref(), out);
            argument("e", body, out);
            out.push_str("</m:nary>");
        }
        Expression::Fenced { open, close, separator, parts } => {
            out.push_str(&format!(
                "<m:d><m:dPr>{}{}{}</m:dPr>",
                property("begChr", open),
                property("sepChr", separator),
                property("endChr", close)
            ));
            parts.iter().for_each(|part| argument("e", part, out));
            out.push_str("</m:d>");
        }
        Expression::Matrix(rows) => {
            out.push_str("<m:m>");
            for row in rows {
                out.push_str("<m:mr>");
                row.iter().for_each(|cell| argument("e", cell, out));
                out.push_str("</m:mr>");
            }
            out.push_str("</m:m>");
        }
        Expression::Lines(lines) => {
            out.push_str("<m:eqArr>");
            for line in lines {
                out.push_str("<m:e>");
                for (at, part) in line.iter().enumerate() {
                    if at > 0 {
                        push_run("&", "", out);
                    }
                    push_expression(part, out);
                }
                out.push_str("</m:e>");
            }
            out.push_str("</m:eqArr>");
        }
        Expression::Function { name, argument: inner } => {
            out.push_str("<m:func>");
            argument("fName", name, out);
            argument("e", inner, out);
            out.push_str("</m:func>");
        }
        Expression::Accent { mark, base } => {
            let mark = property("chr", &mark.to_string());
            out.push_str(&format!("<m:acc><m:accPr>{mark}</m:accPr>"));
            argument("e", base, out);
            out.push_str("</m:acc>");
        }
        Expression::Span { sign, is_below, base } => span(*sign, *is_below, base, out),
        Expression::Framed(inner) => {
            out.push_str("<m:borderBox>");
            argument("e", inner, out);
            out.push_str("</m:borderBox>");
        }
        Expression::Invisible(inner) => {
            let hidden = property("show", "0");
            out.push_str(&format!("<m:phant><m:phantPr>{hidden}</m:phantPr>"));
            argument("e", inner, out);
            out.push_str("</m:phant>");
        }
    }
}

/// How letters are set.
fn letters(style: LetterStyle) -> String {
    let (script, face) = match style {
        LetterStyle::Usual => return String::new(),
        LetterStyle::Upright => (None, "p"),
        LetterStyle::Bold => (None, "b"),
        LetterStyle::BoldSlanted => (None, "bi"),
        LetterStyle::DoubleStruck => (Some("double-struck"), "p"),
        LetterStyle::Script => (Some("script"), "p"),
        LetterStyle::Fraktur => (Some("fraktur"), "p"),
        LetterStyle::SansSerif => (Some("sans-serif"), "p"),
        LetterStyle::Monospace => (Some("monospace"), "p"),
    };
    script.map_or_else(String::new, |script| property("scr", script)) + &property("sty", face)
}

type Part = Option<Box<Expression>>;

fn scripts(base: &Expression, sub: &Part, sup: &Part, out: &mut String) {
    let name = match (sub, sup) {
        (Some(_), Some(_)) => "sSubSup",
        (Some(_), None) => "sSub",
        (None, Some(_)) => "sSup",
        (None, None) => return push_expression(base, out),
    };
    out.push_str(&format!("<m:{name}>"));
    argument("e", base, out);
    for (name, part) in [("sub", sub), ("sup", sup)] {
        if let Some(part) = part {
            argument(name, part, out);
        }
    }
    out.push_str(&format!("</m:{name}>"));
}

/// Below and above: one object for each, the one above outside.
fn stacked(
    base: &Expression,
    below: Option<&Expression>,
    above: Option<&Expression>,
    out: &mut String,
) {
    match (below, above) {
        (_, Some(above)) => {
            out.push_str("<m:limUpp><m:e>");
            stacked(base, below, None, out);
            out.push_str("</m:e>");
            argument("lim", above, out);
            out.push_str("</m:limUpp>");
        }
        (Some(below), None) => {
            out.push_str("<m:limLow>");
            argument("e", base, out);
            argument("lim", below, out);
            out.push_str("</m:limLow>");
        }
        (None, None) => push_expression(base, out),
    }
}

fn span(sign: char, is_below: bool, base: &Expression, out: &mut String) {
    let place = if is_below { "bot" } else { "top" };
    if matches!(sign, '_' | '\u{AF}') {
        out.push_str(&format!("<m:bar><m:barPr>{}</m:barPr>", property("pos", place)));
        argument("e", base, out);
        return out.push_str("</m:bar>");
    }
    // The sign stands where it is said to; what it spans is set against the other side.
    let other = if is_below { "top" } else { "bot" };
    out.push_str(&format!(
        "<m:groupChr><m:groupChrPr>{}{}{}</m:groupChrPr>",
        property("chr", &sign.to_string()),
        property("pos", place),
        property("vertJc", other)
    ));
    argument("e", base, out);
    out.push_str("</m:groupChr>");
}
