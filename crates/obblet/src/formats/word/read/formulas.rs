//! Equations (OMML; ECMA-376 part 1, 22.1) into the formula tree.

use super::super::vocabulary::TEX_SOURCE;
use super::super::xml::{Element, Ns, Xml};
use super::Reader;
use super::line::{Line, TextStyle};
use crate::document::{CompactString, Inline};
use crate::math::{
    Arrangement, Class, Display, DisplayLine, Expression, Extent, Fenced, Formula, FractionLine,
    LetterStyle, LineNumber, Overlap, Placement, Strike, class_of, is_function,
};
use crate::notation::to_tex;
use compact_str::ToCompactString;

/// How deep parts of an equation may stand in each other.
const DEEPEST: usize = 60;

/// The arguments of an object by their names, and what its properties say.
#[derive(Default)]
struct Object {
    arguments: Vec<(CompactString, Expression)>,
    /// Rows of a matrix.
    rows: Vec<Vec<Expression>>,
    /// Property and value; an empty value where none is stated.
    properties: Vec<(CompactString, CompactString)>,
}

impl Object {
    fn take(&mut self, name: &str) -> Expression {
        let at = self.arguments.iter().position(|(known, _)| known == name);
        at.map_or(Expression::Row(Vec::new()), |at| self.arguments.remove(at).1)
    }

    /// An argument that is there and says anything.
    fn take_stated(&mut self, name: &str) -> Option<Box<Expression>> {
        let found = self.take(name);
        let is_nothing = matches!(&found, Expression::Row(parts) if parts.is_empty());
        (!is_nothing).then(|| Box::new(found))
    }

    fn property(&self, name: &str) -> Option<&str> {
        self.properties.iter().find(|(known, _)| known == name).map(|(_, value)| value.as_str())
    }

    fn is_on(&self, name: &str) -> bool {
        self.property(name).is_some_and(|value| !matches!(value, "0" | "off" | "false"))
    }

    /// A character that a property names; empty where it names none.
    fn character(&self, name: &str, default: &str) -> String {
        self.property(name).map_or_else(|| default.to_string(), ToString::to_string)
    }
}

impl Reader<'_> {
    /// `m:oMath`, or `m:oMathPara`, which stands on lines of its own.
    pub(super) fn equation(&mut self, element: &Element<'_>, xml: &mut Xml<'_>, line: &mut Line) {
        if element.local() == "oMath" {
            return self.whole_equation(xml, false, line);
        }
        let level = xml.level();
        while let Some(inner) = xml.child(level) {
            match (inner.ns, inner.local()) {
                (Ns::Math, "oMath") => {
                    self.whole_equation(xml, true, line);
                }
                // Whether it stands in the middle is for the page to say.
                (Ns::Math, "oMathParaPr") => {
                    let inside = xml.level();
                    while let Some(property) = xml.child(inside) {
                        if property.local() != "jc" {
                            self.unknown(&property);
                        }
                    }
                }
                (Ns::Word, "r") => {
                    let base = self.text_base(self.styles.paragraph(None));
                    self.run(xml, line, &base);
                }
                _ => self.unknown(&inner),
            }
        }
    }

    fn whole_equation(&mut self, xml: &mut Xml<'_>, display: bool, line: &mut Line) {
        let tree = self.expression(xml, 0);
        push_formula(tree, display, line);
    }

    /// All parts below the element that was given last.
    fn expression(&mut self, xml: &mut Xml<'_>, depth: usize) -> Expression {
        let mut parts = Vec::new();
        let level = xml.level();
        if depth > DEEPEST {
            let text = xml.text(level);
            return Expression::Text(text.into(), LetterStyle::Usual);
        }
        while let Some(element) = xml.child(level) {
            self.expression_part(&element, xml, depth, &mut parts);
        }
        match parts.len() {
            1 => parts.remove(0),
            _ => Expression::Row(parts),
        }
    }

    fn expression_part(
        &mut self,
        element: &Element<'_>,
        xml: &mut Xml<'_>,
        depth: usize,
        parts: &mut Vec<Expression>,
    ) {
        match (element.ns, element.local()) {
            (Ns::Math, "r") => self.math_run(xml, parts),
            (Ns::Math, "ctrlPr" | "argPr" | "oMathParaPr") => {}
            // Inside an equation, a change or a control is what it holds.
            (Ns::Word, "ins" | "moveTo" | "sdt" | "sdtContent" | "smartTag" | "customXml")
            | (Ns::Math, "oMath") => parts.extend(self.expression(xml, depth + 1).into_parts()),
            (Ns::Word, "del" | "moveFrom") => {
                self.lost("a deleted part of an equation");
            }
            (Ns::Word, "r") => {
                let inside = xml.level();
                let text = xml.text(inside);
                if !text.is_empty() {
                    parts.push(Expression::Text(text.into(), LetterStyle::Usual));
                }
            }
            (
                Ns::Word,
                "bookmarkStart" | "bookmarkEnd" | "proofErr" | "sdtPr" | "sdtEndPr" | "rPr",
            ) => {}
            (Ns::Math, name) if is_object(name) => {
                let name = name.to_string();
                let object = self.math_object(xml, depth);
                parts.push(object_expression(&name, object));
            }
            _ => {
                self.unknown(element);
                parts.extend(self.expression(xml, depth + 1).into_parts());
            }
        }
    }

    /// The arguments and properties of an object.
    fn math_object(&mut self, xml: &mut Xml<'_>, depth: usize) -> Object {
        let mut object = Object::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match (element.ns, element.local()) {
                (Ns::Math, "mr") => {
                    let inside = xml.level();
                    let mut row = Vec::new();
                    while let Some(cell) = xml.child(inside) {
                        if cell.local() == "e" {
                            row.push(self.expression(xml, depth + 1));
                        }
                    }
                    object.rows.push(row);
                }
                (Ns::Math, "e" | "num" | "den" | "sub" | "sup" | "deg" | "fName" | "lim") => {
                    let name = CompactString::from(element.local());
                    let argument = self.expression(xml, depth + 1);
                    object.arguments.push((name, argument));
                }
                (Ns::Math, name) if name.ends_with("Pr") => {
                    let inside = xml.level();
                    while let Some(property) = xml.child(inside) {
                        if property.ns == Ns::Math && is_property(property.local()) {
                            let value = property.short().unwrap_or_default();
                            object.properties.push((property.local().into(), value));
                        } else {
                            self.unknown(&property);
                        }
                    }
                }
                _ => self.unknown(&element),
            }
        }
        object
    }

    fn is_tex_style(&self, property: &Element<'_>) -> bool {
        let style = property.val().and_then(|id| self.styles.get(&id));
        style.is_some_and(|style| style.name == TEX_SOURCE)
    }

    /// A run: letters, numbers and signs, each a part of its own.
    fn math_run(&mut self, xml: &mut Xml<'_>, parts: &mut Vec<Expression>) {
        let (mut style, mut is_text, mut is_source) = (LetterStyle::Usual, false, false);
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match (element.ns, element.local()) {
                (Ns::Math, "rPr") => (style, is_text) = run_style(xml),
                (Ns::Math | Ns::Word, "t") => {
                    let inside = xml.level();
                    let text = xml.text(inside);
                    if is_source {
                        parts.push(Expression::Source(text.into()));
                    } else if is_text {
                        parts.push(Expression::Text(text.into(), LetterStyle::Usual));
                    } else {
                        push_tokens(&text, style, parts);
                    }
                }
                // Fonts and sizes of the run say nothing; that its text is TeX says a style.
                (Ns::Word, "rPr") => {
                    let inside = xml.level();
                    while let Some(property) = xml.child(inside) {
                        is_source |= property.is("rStyle") && self.is_tex_style(&property);
                    }
                }
                (Ns::Word, "lastRenderedPageBreak" | "noBreakHyphen" | "softHyphen") => {}
                (Ns::Word, "br" | "cr" | "tab") => {
                    parts.push(Expression::Text(" ".into(), LetterStyle::Usual))
                }
                (Ns::Word, "sym") => self.lost("a character by its place in a font"),
                (Ns::Word, "commentReference" | "annotationRef") => {}
                _ => self.unknown(&element),
            }
        }
    }
}

/// Properties of objects; those that are not used say how the object fits what is around it.
fn is_property(name: &str) -> bool {
    matches!(
        name,
        "chr"
            | "pos"
            | "vertJc"
            | "ctrlPr"
            | "begChr"
            | "endChr"
            | "sepChr"
            | "grow"
            | "shp"
            | "type"
            | "degHide"
            | "limLoc"
            | "subHide"
            | "supHide"
            | "show"
            | "zeroWid"
            | "zeroAsc"
            | "zeroDesc"
            | "transp"
            | "baseJc"
            | "maxDist"
            | "objDist"
            | "rSpRule"
            | "rSp"
            | "cSpRule"
            | "cSp"
            | "cGp"
            | "cGpRule"
            | "plcHide"
            | "mcs"
            | "mcJc"
            | "count"
            | "hideTop"
            | "hideBot"
            | "hideLeft"
            | "hideRight"
            | "strikeH"
            | "strikeV"
            | "strikeBLTR"
            | "strikeTLBR"
            | "opEmu"
            | "noBreak"
            | "diff"
            | "brk"
            | "aln"
            | "alnScr"
            | "argSz"
    )
}

fn is_object(name: &str) -> bool {
    matches!(
        name,
        "acc"
            | "bar"
            | "box"
            | "borderBox"
            | "d"
            | "eqArr"
            | "f"
            | "func"
            | "groupChr"
            | "limLow"
            | "limUpp"
            | "m"
            | "nary"
            | "phant"
            | "rad"
            | "sPre"
            | "sSub"
            | "sSubSup"
            | "sSup"
    )
}

fn push_formula(tree: Expression, display: bool, line: &mut Line) {
    if matches!(&tree, Expression::Row(parts) if parts.is_empty()) {
        return;
    }
    let formula = Formula::of_tree(tree, display);
    line.push(Inline::Formula(Box::new(formula)), TextStyle::default());
}

/// `m:rPr`: how letters are set, and whether they are words.
fn run_style(xml: &mut Xml<'_>) -> (LetterStyle, bool) {
    let (mut script, mut style, mut is_text) = (None, None, false);
    let level = xml.level();
    while let Some(property) = xml.child(level) {
        match property.local() {
            "nor" => is_text = property.is_on(),
            "scr" => script = property.short(),
            "sty" => style = property.short(),
            _ => {}
        }
    }
    let of_script = match script.as_deref() {
        Some("double-struck") => Some(LetterStyle::DoubleStruck),
        Some("script") => Some(LetterStyle::Script),
        Some("fraktur") => Some(LetterStyle::Fraktur),
        Some("sans-serif") => Some(LetterStyle::SansSerif),
        Some("monospace") => Some(LetterStyle::Monospace),
        _ => None,
    };
    let style = of_script.unwrap_or(match style.as_deref() {
        Some("p") => LetterStyle::Upright,
        Some("i") => LetterStyle::Slanted,
        Some("b") => LetterStyle::Bold,
        Some("bi") => LetterStyle::BoldSlanted,
        _ => LetterStyle::Usual,
    });
    (style, is_text)
}

/// Cuts a text into numbers, letters and signs. Upright letters in a row are one name.
fn push_tokens(text: &str, style: LetterStyle, parts: &mut Vec<Expression>) {
    let mut characters = text.chars().peekable();
    while let Some(character) = characters.next() {
        let mut token = String::from(character);
        if character.is_ascii_digit() {
            while let Some(next) = characters.next_if(|c| c.is_ascii_digit() || *c == '.') {
                token.push(next);
            }
            parts.push(match style {
                LetterStyle::Usual | LetterStyle::Upright => Expression::Number(token.into()),
                style => Expression::Identifier(token.into(), style),
            });
        } else if character.is_alphabetic() || class_of(character) == Class::Letter {
            let is_name = matches!(style, LetterStyle::Upright | LetterStyle::Slanted);
            while is_name && let Some(next) = characters.next_if(|c| c.is_alphabetic()) {
                token.push(next);
            }
            // Marks join the letter before them.
            while let Some(next) = characters.next_if(|c| ('\u{300}'..='\u{36F}').contains(c)) {
                token.push(next);
            }
            let is_variable = style == LetterStyle::Slanted && token.chars().count() == 1;
            let style = match style {
                _ if is_variable => LetterStyle::Usual,
                LetterStyle::Upright if is_function(&token) => LetterStyle::Name,
                style => style,
            };
            parts.push(Expression::Identifier(token.into(), style));
        } else if let Some(room) = room(character) {
            match parts.last_mut() {
                Some(Expression::Space(before)) if *before == room => *before += room,
                _ => parts.push(Expression::Space(room)),
            }
        } else if !character.is_whitespace() {
            parts.push(Expression::Operator(token.into()));
        }
    }
}

/// The room that a space of a stated width takes, in hundredths of a unit.
fn room(space: char) -> Option<i32> {
    Some(match space {
        '\u{200A}' => 100,
        '\u{2009}' => 300,
        '\u{205F}' => 400,
        '\u{2004}' | '\u{2005}' => 500,
        '\u{2002}' => 900,
        '\u{2003}' => 1800,
        _ => return None,
    })
}

/// What a function is named: letters side by side are a name.
fn function_name(name: Expression) -> Expression {
    match name {
        Expression::Identifier(text, LetterStyle::Usual | LetterStyle::Upright) => {
            Expression::Identifier(text, LetterStyle::Name)
        }
        Expression::Scripts { base, sub, sup } => {
            Expression::Scripts { base: Box::new(function_name(*base)), sub, sup }
        }
        Expression::Stacked { base, below, above } => {
            Expression::Stacked { base: Box::new(function_name(*base)), below, above }
        }
        other => other,
    }
}

fn object_expression(name: &str, mut object: Object) -> Expression {
    match name {
        "f" => Expression::Fraction {
            over: Box::new(object.take("num")),
            under: Box::new(object.take("den")),
            line: match object.property("type") {
                Some("noBar") => FractionLine::None,
                Some("skw") => FractionLine::Slanted,
                Some("lin") => FractionLine::Slash,
                _ => FractionLine::Bar,
            },
        },
        "rad" => {
            let is_hidden = object.is_on("degHide");
            let degree = object.take_stated("deg").filter(|_| !is_hidden);
            Expression::Root { body: Box::new(object.take("e")), degree }
        }
        "sSub" | "sSup" | "sSubSup" => Expression::Scripts {
            base: Box::new(object.take("e")),
            sub: object.take_stated("sub"),
            sup: object.take_stated("sup"),
        },
        "sPre" => Expression::PreScripts {
            base: Box::new(object.take("e")),
            sub: object.take_stated("sub"),
            sup: object.take_stated("sup"),
        },
        "limLow" => object.take("e").stacked(object.take_stated("lim"), None),
        "limUpp" => object.take("e").stacked(None, object.take_stated("lim")),
        "nary" => large_operator(object),
        "d" => Expression::Fenced(Box::new(Fenced {
            open: object.character("begChr", "(").into(),
            close: object.character("endChr", ")").into(),
            separator: object.character("sepChr", "|").into(),
            parts: object.arguments.into_iter().map(|(_, part)| part).collect(),
        })),
        "m" => Expression::Matrix(object.rows),
        "eqArr" => lines(object),
        "func" => Expression::Function {
            name: Box::new(function_name(object.take("fName"))),
            argument: Box::new(object.take("e")),
        },
        "acc" => {
            let mark = object.character("chr", "\u{302}").chars().next().unwrap_or('\u{302}');
            let base = Box::new(object.take("e"));
            let wide = match mark {
                '\u{302}' => '^',
                '\u{303}' => '~',
                _ => return Expression::Accent { mark, base },
            };
            match is_one_letter(&base) {
                true => Expression::Accent { mark, base },
                false => Expression::Span { sign: wide, is_below: false, base },
            }
        }
        "bar" => {
            // Below where nothing else is stated (22.1.2.7).
            let is_below = object.property("pos") != Some("top");
            let sign = if is_below { '_' } else { '\u{AF}' };
            Expression::Span { sign, is_below, base: Box::new(object.take("e")) }
        }
        "groupChr" => {
            let sign = object.character("chr", "\u{23DF}").chars().next().unwrap_or('\u{23DF}');
            let is_below = object.property("pos") != Some("top");
            let base = Box::new(object.take("e"));
            // An arrow that stands on the line itself carries words.
            if is_arrow(sign) && object.property("vertJc") == object.property("pos") {
                let arrow = Box::new(Expression::Stretched(sign.to_compact_string()));
                let (below, above) = if is_below { (None, Some(base)) } else { (Some(base), None) };
                return Expression::Stacked { base: arrow, below, above };
            }
            Expression::Span { sign, is_below, base }
        }
        "borderBox" => bordered(object),
        "phant" => phantom(object),
        _ => object.take("e"),
    }
}

fn large_operator(mut object: Object) -> Expression {
    let sign = object.character("chr", "∫");
    let is_integral = sign.chars().any(|c| ('∫'..='∳').contains(&c));
    let placement = match object.property("limLoc") {
        Some("undOvr") => Placement::BelowAndAbove,
        Some(_) => Placement::Behind,
        None if is_integral => Placement::Behind,
        None => Placement::BelowAndAbove,
    };
    let lower = object.take_stated("sub").filter(|_| !object.is_on("subHide"));
    let upper = object.take_stated("sup").filter(|_| !object.is_on("supHide"));
    Expression::LargeOperator {
        sign: sign.into(),
        lower,
        upper,
        placement,
        body: Box::new(object.take("e")),
    }
}

/// A line cut at the marks where lines meet (22.1.2.34).
fn aligned_parts(line: Expression) -> Vec<Expression> {
    let Expression::Row(parts) = line else { return vec![line] };
    let is_mark = |part: &Expression| matches!(part, Expression::Operator(sign) if sign == "&");
    parts.split(is_mark).map(|part| Expression::Row(part.to_vec())).collect()
}

/// Lines, whose numbers are behind a `#` where the whole is as wide as the page (22.1.2.34).
fn lines(object: Object) -> Expression {
    let is_wide = object.is_on("maxDist");
    let mut has_numbers = false;
    let mut lines = Vec::new();
    for (_, line) in object.arguments {
        let mut parts = line.into_parts();
        let mut number = LineNumber::None;
        let is_mark = |part: &Expression| matches!(part, Expression::Operator(sign) if sign == "#");
        if let Some(at) = parts.iter().position(is_mark).filter(|_| is_wide) {
            number = line_number(&parts.split_off(at));
            has_numbers = true;
        }
        let cells = aligned_parts(Expression::Row(parts));
        lines.push(DisplayLine { cells, number, ..DisplayLine::default() });
    }
    if !has_numbers {
        return Expression::Lines(lines.into_iter().map(|line| line.cells).collect());
    }
    let is_single = lines.len() == 1 && lines.iter().all(|line| line.cells.len() == 1);
    let arrangement = if is_single { Arrangement::Single } else { Arrangement::Aligned };
    Expression::Display(Box::new(Display { arrangement, lines }))
}

/// What stands behind the `#`.
fn line_number(parts: &[Expression]) -> LineNumber {
    let mut text = String::new();
    for part in parts.iter().skip(1) {
        match part {
            Expression::Text(words, _)
            | Expression::Operator(words)
            | Expression::Number(words) => {
                text.push_str(words);
            }
            Expression::Fenced(fenced) => {
                text.push_str(&format!("({})", to_tex(&Expression::Row(fenced.parts.clone()))));
            }
            other => text.push_str(&to_tex(other)),
        }
    }
    match text.strip_prefix('(').and_then(|rest| rest.strip_suffix(')')) {
        Some(inner) => LineNumber::Stated(inner.into()),
        None => LineNumber::Bare(text.into()),
    }
}

fn bordered(mut object: Object) -> Expression {
    let body = Box::new(object.take("e"));
    let strike = match ["strikeBLTR", "strikeTLBR", "strikeH"].map(|name| object.is_on(name)) {
        [true, true, _] => Strike::Crossed,
        [true, false, _] => Strike::Rising,
        [false, true, _] => Strike::Falling,
        [false, false, true] => Strike::Level,
        [false, false, false] => return Expression::Framed(body),
    };
    let has_frame = !object.is_on("hideTop");
    let struck = Expression::Struck(strike, body);
    if has_frame { Expression::Framed(Box::new(struck)) } else { struck }
}

/// What takes its place and is not seen, or the other way round (22.1.2.81).
fn phantom(mut object: Object) -> Expression {
    let is_shown =
        object.property("show").is_some_and(|show| !matches!(show, "0" | "off" | "false"));
    let is_flat = object.is_on("zeroAsc") && object.is_on("zeroDesc");
    let is_narrow = object.is_on("zeroWid");
    let body = Box::new(object.take("e"));
    match (is_shown, is_flat, is_narrow) {
        (false, true, _) => Expression::Invisible(Extent::Width, body),
        (false, false, true) => Expression::Invisible(Extent::Height, body),
        (false, false, false) => Expression::Invisible(Extent::Both, body),
        (true, true, _) => Expression::Overlapping(Overlap::Height, body),
        (true, false, true) => Expression::Overlapping(Overlap::Right, body),
        (true, false, false) => *body,
    }
}

fn is_arrow(sign: char) -> bool {
    matches!(sign, '\u{2190}'..='\u{21FF}' | '\u{27F0}'..='\u{27FF}')
}

fn is_one_letter(expression: &Expression) -> bool {
    match expression {
        Expression::Identifier(text, _) => text.chars().count() == 1,
        Expression::Scripts { base, .. } => is_one_letter(base),
        _ => false,
    }
}
