//! Equations (OMML; ECMA-376 part 1, 22.1) from the formula tree.

use super::Writer;
use super::markup::push_text;
use crate::document::StyleKind;
use crate::formats::word::vocabulary::TEX_SOURCE;
use crate::math::{
    Array, Class, Display, DisplayLine, Expression, Extent, Fenced, Formula, FractionLine,
    LetterStyle, Overlap, Placement, Strike, class_of,
};
use crate::notation::{hex_digits, shown_number};

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
        let inside = self.equation(formula);
        format!("<m:oMathPara><m:oMath>{inside}</m:oMath></m:oMathPara>")
    }

    fn equation(&mut self, formula: &Formula) -> String {
        let tree = formula.numbered(&mut self.findings, Some(self.place)).as_display();
        let mut equation = Equation {
            out: String::new(),
            colour: None,
            source_style: self.styles.id(StyleKind::Inline, TEX_SOURCE).to_string(),
        };
        equation.write(&tree);
        equation.out
    }
}

/// One equation while it is written.
struct Equation {
    out: String,
    /// The colour of what is written, as six hexadecimal digits.
    colour: Option<String>,
    /// The id of the style of TeX that nobody understood.
    source_style: String,
}

type Part = Option<Box<Expression>>;

impl Equation {
    fn run(&mut self, text: &str, properties: &str, word_properties: &str) {
        self.out.push_str("<m:r>");
        if !properties.is_empty() {
            self.out.push_str(&format!("<m:rPr>{properties}</m:rPr>"));
        }
        let colour = self.colour.as_ref();
        let colour = colour.map(|colour| format!("<w:color w:val=\"{colour}\"/>"));
        let colour = colour.unwrap_or_default();
        if !word_properties.is_empty() || !colour.is_empty() {
            self.out.push_str(&format!("<w:rPr>{word_properties}{colour}</w:rPr>"));
        }
        self.out.push_str("<m:t xml:space=\"preserve\">");
        push_text(&mut self.out, text);
        self.out.push_str("</m:t></m:r>");
    }

    fn open(&mut self, name: &str) {
        self.out.push_str(&format!("<m:{name}>"));
    }

    fn close(&mut self, name: &str) {
        self.out.push_str(&format!("</m:{name}>"));
    }

    /// The start of an object, with its properties.
    fn object(&mut self, name: &str, properties: &str) {
        self.open(name);
        if !properties.is_empty() {
            self.out.push_str(&format!("<m:{name}Pr>{properties}</m:{name}Pr>"));
        }
    }

    fn argument(&mut self, name: &str, part: &Expression) {
        self.open(name);
        self.write(part);
        self.close(name);
    }

    fn optional(&mut self, name: &str, part: Option<&Expression>) {
        match part {
            Some(part) => self.argument(name, part),
            None => self.out.push_str(&format!("<m:{name}/>")),
        }
    }

    /// Parts side by side. An object for a sum or a function holds what it is about: the parts up to
    /// the next relation, plus or minus, and the next part.
    fn parts(&mut self, parts: &[Expression]) {
        let mut at = 0;
        while let Some(part) = parts.get(at) {
            at += 1;
            let rest = parts.get(at..).unwrap_or_default();
            match part {
                Expression::LargeOperator { sign, lower, upper, placement, body }
                    if body.is_nothing() =>
                {
                    let reach = rest.iter().take_while(|part| !ends_term(part)).count();
                    let body = Expression::of(rest.iter().take(reach).cloned().collect());
                    self.large_operator(sign, lower, upper, *placement, &body);
                    at += reach;
                }
                name if is_function_name(name) && rest.first().is_some_and(can_be_argument) => {
                    self.open("func");
                    self.argument("fName", name);
                    self.optional("e", rest.first());
                    self.close("func");
                    at += 1;
                }
                other => self.write(other),
            }
        }
    }

    fn write(&mut self, expression: &Expression) {
        match expression {
            Expression::Row(parts) => self.parts(parts),
            Expression::Identifier(name, style) => self.run(name, &letters(*style), ""),
            Expression::Number(text) | Expression::Operator(text) => self.run(text, "", ""),
            Expression::Text(text, style) => self.run(text, "<m:nor/>", text_face(*style)),
            Expression::Space(room) => self.space(*room),
            Expression::Fraction { over, under, line } => {
                let kind = match line {
                    FractionLine::Bar | FractionLine::Continued => "bar",
                    FractionLine::None => "noBar",
                    FractionLine::Slanted => "skw",
                    FractionLine::Slash => "lin",
                };
                self.object("f", &property("type", kind));
                self.argument("num", over);
                self.argument("den", under);
                self.close("f");
            }
            Expression::Root { body, degree } => {
                let hidden =
                    if degree.is_none() { property("degHide", "1") } else { String::new() };
                self.object("rad", &hidden);
                self.optional("deg", degree.as_deref());
                self.argument("e", body);
                self.close("rad");
            }
            Expression::Scripts { base, sub, sup } => self.scripts(base, sub, sup),
            Expression::PreScripts { base, sub, sup } => {
                self.open("sPre");
                self.optional("sub", sub.as_deref());
                self.optional("sup", sup.as_deref());
                self.argument("e", base);
                self.close("sPre");
            }
            Expression::Stacked { base, below, above } => {
                self.stacked(base, below.as_deref(), above.as_deref());
            }
            Expression::LargeOperator { sign, lower, upper, placement, body } => {
                self.large_operator(sign, lower, upper, *placement, body);
            }
            Expression::Fenced(fenced) => {
                let Fenced { open, close, separator, parts } = fenced.as_ref();
                let signs = property("begChr", open)
                    + &property("sepChr", separator)
                    + &property("endChr", close);
                self.object("d", &signs);
                parts.iter().for_each(|part| self.argument("e", part));
                self.close("d");
            }
            Expression::SizedBracket { sign, .. } => self.run(sign, "", ""),
            Expression::Matrix(rows) => self.matrix(rows, ""),
            Expression::Array(array) => self.array(array),
            Expression::Lines(lines) => {
                let lines = lines.iter().map(|line| (line.as_slice(), String::new()));
                self.lines(&lines.collect::<Vec<_>>());
            }
            Expression::Stack(lines) => {
                let lines = lines.iter().map(|line| (std::slice::from_ref(line), String::new()));
                self.lines(&lines.collect::<Vec<_>>());
            }
            Expression::Display(display) => self.display(display),
            Expression::Function { name, argument } => {
                self.open("func");
                self.argument("fName", name);
                self.argument("e", argument);
                self.close("func");
            }
            Expression::Accent { mark, base } => {
                self.object("acc", &property("chr", &mark.to_string()));
                self.argument("e", base);
                self.close("acc");
            }
            Expression::Span { sign, is_below, base } => self.span(*sign, *is_below, base),
            Expression::Stretched(arrow) => self.run(arrow, "", ""),
            Expression::Framed(inner) => {
                self.object("borderBox", "");
                self.argument("e", inner);
                self.close("borderBox");
            }
            Expression::Struck(strike, inner) => self.struck(*strike, inner),
            Expression::Invisible(extent, inner) => {
                let flat = match extent {
                    Extent::Both => String::new(),
                    Extent::Width => property("zeroAsc", "1") + &property("zeroDesc", "1"),
                    Extent::Height => property("zeroWid", "1"),
                };
                self.object("phant", &(property("show", "0") + &flat));
                self.argument("e", inner);
                self.close("phant");
            }
            Expression::Overlapping(overlap, inner) => {
                let flat = match overlap {
                    Overlap::Height => property("zeroAsc", "1") + &property("zeroDesc", "1"),
                    _ => property("zeroWid", "1"),
                };
                self.object("phant", &(property("show", "1") + &flat));
                self.argument("e", inner);
                self.close("phant");
            }
            Expression::Coloured(colour, inner) => {
                let digits = hex_digits(colour);
                let outer = std::mem::replace(&mut self.colour, digits);
                self.write(inner);
                self.colour = outer;
            }
            Expression::Sized(_, inner) | Expression::Classed(_, inner) => self.write(inner),
            Expression::Chemical { shown, .. } => self.write(shown),
            Expression::Source(source) => {
                let style = format!("<w:rStyle w:val=\"{}\"/>", self.source_style);
                self.run(source, "<m:nor/>", &style);
            }
        }
    }

    /// Room between parts, as characters that have about that width.
    fn space(&mut self, room: i32) {
        let spaces = match room {
            ..=0 => return,
            1..=200 => "\u{200A}",
            201..=350 => "\u{2009}",
            351..=450 => "\u{205F}",
            451..=700 => "\u{2005}",
            701..=1300 => "\u{2002}",
            1301..=2700 => "\u{2003}",
            _ => "\u{2003}\u{2003}",
        };
        self.run(spaces, "", "");
    }

    fn scripts(&mut self, base: &Expression, sub: &Part, sup: &Part) {
        let name = match (sub, sup) {
            (Some(_), Some(_)) => "sSubSup",
            (Some(_), None) => "sSub",
            (None, Some(_)) => "sSup",
            (None, None) => return self.write(base),
        };
        self.open(name);
        self.argument("e", base);
        for (name, part) in [("sub", sub), ("sup", sup)] {
            if let Some(part) = part {
                self.argument(name, part);
            }
        }
        self.close(name);
    }

    /// Below and above: one object for each, the one above outside.
    fn stacked(
        &mut self,
        base: &Expression,
        below: Option<&Expression>,
        above: Option<&Expression>,
    ) {
        match (base, below, above) {
            (Expression::Stretched(arrow), None, Some(words)) => self.arrow(arrow, "bot", words),
            (Expression::Stretched(arrow), Some(words), None) => self.arrow(arrow, "top", words),
            (Expression::Stretched(_), Some(below), Some(above)) => {
                self.open("limLow");
                self.open("e");
                self.stacked(base, None, Some(above));
                self.close("e");
                self.argument("lim", below);
                self.close("limLow");
            }
            (_, _, Some(above)) => {
                self.open("limUpp");
                self.open("e");
                self.stacked(base, below, None);
                self.close("e");
                self.argument("lim", above);
                self.close("limUpp");
            }
            (_, Some(below), None) => {
                self.open("limLow");
                self.argument("e", base);
                self.argument("lim", below);
                self.close("limLow");
            }
            (_, None, None) => self.write(base),
        }
    }

    /// An arrow as wide as its words, which stands on the line itself.
    fn arrow(&mut self, arrow: &str, place: &str, words: &Expression) {
        let properties =
            property("chr", arrow) + &property("pos", place) + &property("vertJc", place);
        self.object("groupChr", &properties);
        self.argument("e", words);
        self.close("groupChr");
    }

    fn large_operator(
        &mut self,
        sign: &str,
        lower: &Part,
        upper: &Part,
        placement: Placement,
        body: &Expression,
    ) {
        let limits = match placement {
            Placement::BelowAndAbove | Placement::AlwaysBelowAndAbove => "undOvr",
            Placement::Behind => "subSup",
        };
        let mut properties = property("chr", sign) + &property("limLoc", limits);
        for (name, part) in [("subHide", lower), ("supHide", upper)] {
            if part.is_none() {
                properties.push_str(&property(name, "1"));
            }
        }
        self.object("nary", &properties);
        self.optional("sub", lower.as_deref());
        self.optional("sup", upper.as_deref());
        self.argument("e", body);
        self.close("nary");
    }

    fn matrix(&mut self, rows: &[Vec<Expression>], properties: &str) {
        self.object("m", properties);
        for row in rows {
            self.open("mr");
            row.iter().for_each(|cell| self.argument("e", cell));
            self.close("mr");
        }
        self.close("m");
    }

    fn array(&mut self, array: &Array) {
        let mut columns = String::new();
        for sign in array.columns.chars() {
            let align = match sign {
                'l' => "left",
                'r' => "right",
                'c' => "center",
                _ => continue,
            };
            let stated = property("count", "1") + &property("mcJc", align);
            columns.push_str(&format!("<m:mc><m:mcPr>{stated}</m:mcPr></m:mc>"));
        }
        let properties = match columns.is_empty() {
            true => String::new(),
            false => format!("<m:mcs>{columns}</m:mcs>"),
        };
        self.matrix(&array.rows, &properties);
    }

    /// Lines one below the other, cut where they meet; a number is behind a `#`, as Word types it.
    fn lines(&mut self, lines: &[(&[Expression], String)]) {
        let has_numbers = lines.iter().any(|(_, number)| !number.is_empty());
        let wide = if has_numbers { property("maxDist", "1") } else { String::new() };
        self.object("eqArr", &wide);
        for (cells, number) in lines {
            self.open("e");
            for (at, cell) in cells.iter().enumerate() {
                if at > 0 {
                    self.run("&", "", "");
                }
                self.write(cell);
            }
            if !number.is_empty() {
                self.run("#", "", "");
                self.run(number, "<m:nor/>", "");
            }
            self.close("e");
        }
        self.close("eqArr");
    }

    fn display(&mut self, display: &Display) {
        if let [line] = display.lines.as_slice()
            && let [only] = line.cells.as_slice()
            && shown_number(line).is_empty()
        {
            return self.write(only);
        }
        let line = |line: &'_ DisplayLine| shown_number(line);
        let lines: Vec<_> =
            display.lines.iter().map(|each| (each.cells.as_slice(), line(each))).collect();
        self.lines(&lines);
    }

    fn span(&mut self, sign: char, is_below: bool, base: &Expression) {
        let place = if is_below { "bot" } else { "top" };
        if matches!(sign, '_' | '\u{AF}') {
            self.object("bar", &property("pos", place));
            self.argument("e", base);
            return self.close("bar");
        }
        // Wide hats and tildes are what an accent does over more than a letter.
        let accent = match sign {
            '^' => Some('\u{302}'),
            '~' => Some('\u{303}'),
            _ => None,
        };
        if let Some(accent) = accent {
            self.object("acc", &property("chr", &accent.to_string()));
            self.argument("e", base);
            return self.close("acc");
        }
        // The sign stands where it is said to; what it spans is set against the other side.
        let other = if is_below { "top" } else { "bot" };
        let properties = property("chr", &sign.to_string())
            + &property("pos", place)
            + &property("vertJc", other);
        self.object("groupChr", &properties);
        self.argument("e", base);
        self.close("groupChr");
    }

    fn struck(&mut self, strike: Strike, inner: &Expression) {
        let mut properties: String = ["hideTop", "hideBot", "hideLeft", "hideRight"]
            .map(|side| property(side, "1"))
            .concat();
        let strokes: &[&str] = match strike {
            Strike::Level => &["strikeH"],
            Strike::Rising => &["strikeBLTR"],
            Strike::Falling => &["strikeTLBR"],
            Strike::Crossed => &["strikeBLTR", "strikeTLBR"],
        };
        strokes.iter().for_each(|stroke| properties.push_str(&property(stroke, "1")));
        self.object("borderBox", &properties);
        self.argument("e", inner);
        self.close("borderBox");
    }
}

/// A property with one value.
fn property(name: &str, value: &str) -> String {
    let mut out = format!("<m:{name} m:val=\"");
    push_text(&mut out, value);
    out + "\"/>"
}

/// Whether what a sum is about ends before a part.
fn ends_term(part: &Expression) -> bool {
    match part {
        Expression::Operator(sign) => match sign.chars().next() {
            Some('+' | '−' | '±' | '∓' | ',' | ';' | ')' | ']' | '}') | None => true,
            Some(sign) => class_of(sign) == Class::Relation,
        },
        Expression::Text(..) => true,
        Expression::Space(room) => *room >= 1800,
        Expression::SizedBracket { .. } => false,
        _ => false,
    }
}

/// The name of a function, perhaps with scripts or limits.
fn is_function_name(part: &Expression) -> bool {
    match part {
        Expression::Identifier(_, LetterStyle::Name) => true,
        Expression::Scripts { base, .. } | Expression::Stacked { base, .. } => {
            is_function_name(base)
        }
        _ => false,
    }
}

fn can_be_argument(part: &Expression) -> bool {
    !matches!(
        part,
        Expression::Operator(_) | Expression::Space(_) | Expression::SizedBracket { .. }
    )
}

/// How words are set.
fn text_face(style: LetterStyle) -> &'static str {
    match style {
        LetterStyle::Bold => "<w:b/>",
        LetterStyle::Slanted => "<w:i/>",
        _ => "",
    }
}

/// How letters are set.
fn letters(style: LetterStyle) -> String {
    let (script, face) = match style {
        LetterStyle::Usual => return String::new(),
        LetterStyle::Upright | LetterStyle::Name => (None, "p"),
        LetterStyle::Slanted => (None, "i"),
        LetterStyle::Bold => (None, "b"),
        LetterStyle::BoldSlanted => (None, "bi"),
        LetterStyle::DoubleStruck => (Some("double-struck"), "p"),
        LetterStyle::Script | LetterStyle::RoundScript => (Some("script"), "p"),
        LetterStyle::Fraktur => (Some("fraktur"), "p"),
        LetterStyle::SansSerif => (Some("sans-serif"), "p"),
        LetterStyle::Monospace => (Some("monospace"), "p"),
    };
    script.map_or_else(String::new, |script| property("scr", script)) + &property("sty", face)
}
