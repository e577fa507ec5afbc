//! The formula tree as MathML Core.

use super::write_tables::{Line, line_cell};
use super::{BRACKETS, FRAME, FUNCTION_ROOM, OVERLINE, SOURCE, UNDERLINE, stroke, styled_text};
use crate::math::{
    ACCENTS, Arrangement, BracketSide, Class, Expression, Extent, Fenced, FormulaSize,
    FractionLine, LetterStyle, Overlap, Placement, class_of,
};
use crate::notation::NumberedFormula;
use crate::notation::tex::usual_placement;

/// What a formula asks of the page it stands on.
pub(crate) trait Page {
    /// Adds characters as the page's syntax wants them.
    fn push_text(&mut self, out: &mut String, text: &str);

    /// The same for the value of an attribute.
    fn push_value(&mut self, out: &mut String, value: &str);

    /// The id of a line that has a label, if that is free.
    fn id_of_label(&mut self, label: &str) -> Option<String>;
}

/// Writes presentation markup.
pub(crate) fn push_mathml(out: &mut String, formula: &NumberedFormula, page: &mut dyn Page) {
    let mut writer = Writer { out, page };
    match (formula.tree.as_ref(), formula.number, formula.label) {
        (Expression::Display(display), _, label) => writer.display(display, label),
        (Expression::Row(parts), None, None) => writer.parts(parts),
        (only, None, None) => writer.write(only),
        (only, number, label) => {
            let number = number.map(|number| format!("({number})")).unwrap_or_default();
            let cells = std::slice::from_ref(only);
            writer.lines(&[Line { cells, number, label, is_words: false }], Arrangement::Single);
        }
    }
}

pub(super) struct Writer<'w> {
    pub(super) out: &'w mut String,
    pub(super) page: &'w mut dyn Page,
}

impl Writer<'_> {
    pub(super) fn leaf(&mut self, name: &str, attributes: &str, text: &str) {
        self.open(name, attributes);
        self.page.push_text(self.out, text);
        self.close(name);
    }

    pub(super) fn open(&mut self, name: &str, attributes: &str) {
        self.out.push('<');
        self.out.push_str(name);
        self.out.push_str(attributes);
        self.out.push('>');
    }

    pub(super) fn close(&mut self, name: &str) {
        self.out.push_str("</");
        self.out.push_str(name);
        self.out.push('>');
    }

    /// An element of a fixed number of parts.
    fn element(&mut self, name: &str, attributes: &str, parts: &[&Expression]) {
        self.open(name, attributes);
        parts.iter().for_each(|part| self.write(part));
        self.close(name);
    }

    /// An element around any number of parts.
    pub(super) fn around(&mut self, name: &str, attributes: &str, body: &Expression) {
        self.open(name, attributes);
        match body {
            Expression::Row(parts) => self.parts(parts),
            only => self.write(only),
        }
        self.close(name);
    }

    /// Parts side by side: the name of a function is parted from what it is applied to.
    pub(super) fn parts(&mut self, parts: &[Expression]) {
        for (at, part) in parts.iter().enumerate() {
            self.write(part);
            let follows = parts.get(at + 1);
            if is_named(part) && follows.is_some_and(can_be_argument) {
                self.applied_to(follows);
            }
        }
    }

    /// What is not seen between a function and what it is applied to, and room where that is not in
    /// brackets.
    fn applied_to(&mut self, argument: Option<&Expression>) {
        self.leaf("mo", "", "\u{2061}");
        let is_bracket = matches!(
            argument,
            Some(Expression::Operator(_) | Expression::Fenced(_) | Expression::SizedBracket { .. })
        );
        if !is_bracket {
            self.space(FUNCTION_ROOM);
        }
    }

    pub(super) fn write(&mut self, expression: &Expression) {
        match expression {
            Expression::Row(_) => self.around("mrow", "", expression),
            Expression::Identifier(text, style) => self.identifier(text, *style),
            Expression::Number(text) => self.leaf("mn", "", text),
            Expression::Operator(text) => self.operator(text),
            Expression::Text(text, style) => self.text(text, *style),
            Expression::Space(room) => self.space(*room),
            Expression::Fraction { over, under, line } => match line {
                FractionLine::Bar => self.element("mfrac", "", &[over, under]),
                FractionLine::Continued => {
                    self.open("mstyle", " displaystyle=\"true\" scriptlevel=\"0\"");
                    self.element("mfrac", "", &[over, under]);
                    self.close("mstyle");
                }
                FractionLine::None => {
                    self.element("mfrac", " linethickness=\"0\"", &[over, under]);
                }
                FractionLine::Slanted | FractionLine::Slash => {
                    self.open("mrow", "");
                    self.write(over);
                    self.leaf("mo", "", "/");
                    self.write(under);
                    self.close("mrow");
                }
            },
            Expression::Root { body, degree: None } => self.around("msqrt", "", body),
            Expression::Root { body, degree: Some(degree) } => {
                self.element("mroot", "", &[body, degree]);
            }
            Expression::Scripts { base, sub, sup } => {
                self.scripts(["msub", "msup", "msubsup"], base, sub, sup);
            }
            Expression::Stacked { base, below, above } => self.stacked(base, below, above),
            Expression::PreScripts { base, sub, sup } => {
                self.open("mmultiscripts", "");
                self.write(base);
                self.out.push_str("<mprescripts></mprescripts>");
                for script in [sub, sup] {
                    match script {
                        Some(script) => self.write(script),
                        None => self.out.push_str("<mrow></mrow>"),
                    }
                }
                self.close("mmultiscripts");
            }
            Expression::LargeOperator { sign, lower, upper, placement, body } => {
                self.large_operator(sign, lower, upper, *placement, body);
            }
            Expression::Fenced(fenced) => {
                let Fenced { open, close, separator, parts } = fenced.as_ref();
                self.open("mrow", "");
                self.fence(open, "prefix");
                for (at, part) in parts.iter().enumerate() {
                    if at > 0 {
                        self.fence(separator, "infix");
                    }
                    self.write(part);
                }
                self.fence(close, "postfix");
                self.close("mrow");
            }
            Expression::SizedBracket { sign, size, side } => self.bracket(sign, *size, *side),
            Expression::Matrix(rows) => self.table(rows, "", |_, _| String::new()),
            Expression::Array(array) => self.array(array),
            Expression::Lines(rows) => {
                let style = |_, column| format!(" style=\"{}\"", line_cell(column));
                self.table(rows, " displaystyle=\"true\"", style);
            }
            Expression::Stack(lines) => {
                self.open("mtable", "");
                for line in lines {
                    self.open("mtr", "");
                    self.around("mtd", "", line);
                    self.close("mtr");
                }
                self.close("mtable");
            }
            Expression::Display(display) => self.display(display, None),
            Expression::Function { name, argument } => {
                self.open("mrow", "");
                self.write(name);
                self.applied_to(Some(argument));
                self.write(argument);
                self.close("mrow");
            }
            Expression::Accent { mark, base } => {
                self.open("mover", " accent=\"true\"");
                self.write(base);
                let shown = ACCENTS.iter().find(|(_, joined, _)| joined == mark);
                let mark = shown.map_or(*mark, |(own, ..)| *own);
                self.leaf("mo", " stretchy=\"false\"", mark.encode_utf8(&mut [0; 4]));
                self.close("mover");
            }
            Expression::Span { sign: '\u{AF}', base, .. } => self.styled("mrow", OVERLINE, base),
            Expression::Span { sign: '_', base, .. } => self.styled("mrow", UNDERLINE, base),
            Expression::Span { sign, is_below, base } => {
                let name = if *is_below { "munder" } else { "mover" };
                self.open(name, "");
                self.write(base);
                // Fonts have wide forms of the marks that join letters.
                let sign = match sign {
                    '^' => '\u{302}',
                    '~' => '\u{303}',
                    sign => *sign,
                };
                self.leaf("mo", " stretchy=\"true\"", sign.encode_utf8(&mut [0; 4]));
                self.close(name);
            }
            Expression::Stretched(arrow) => self.leaf("mo", " stretchy=\"true\"", arrow),
            Expression::Framed(body) => self.styled("mrow", FRAME, body),
            Expression::Struck(strike, body) => self.styled("mrow", &stroke(*strike), body),
            Expression::Invisible(extent, body) => self.invisible(*extent, body),
            Expression::Overlapping(overlap, body) => self.around(
                "mpadded",
                match overlap {
                    Overlap::Height => " height=\"0\" depth=\"0\"",
                    Overlap::Left | Overlap::Right | Overlap::Centre => " width=\"0\"",
                },
                body,
            ),
            Expression::Coloured(colour, body) => {
                self.styled("mstyle", &format!("color: {colour}"), body);
            }
            Expression::Sized(size, body) => self.around(
                "mstyle",
                match size {
                    FormulaSize::Display => " displaystyle=\"true\" scriptlevel=\"0\"",
                    FormulaSize::Text => " displaystyle=\"false\" scriptlevel=\"0\"",
                    FormulaSize::Script => " displaystyle=\"false\" scriptlevel=\"1\"",
                    FormulaSize::SmallScript => " displaystyle=\"false\" scriptlevel=\"2\"",
                },
                body,
            ),
            Expression::Classed(_, body) => match body.as_ref() {
                Expression::Identifier(name, LetterStyle::Name) => {
                    self.leaf("mo", " lspace=\"0.22em\" rspace=\"0.22em\"", name);
                }
                body => self.write(body),
            },
            Expression::Chemical { shown, .. } => self.write(shown),
            Expression::Source(source) => {
                self.leaf("mtext", &format!(" style=\"{SOURCE}\""), source);
            }
        }
    }

    fn styled(&mut self, name: &str, style: &str, body: &Expression) {
        let mut attributes = String::from(" style=\"");
        self.page.push_value(&mut attributes, style);
        attributes.push('"');
        self.around(name, &attributes, body);
    }

    fn invisible(&mut self, extent: Extent, body: &Expression) {
        let kept = match extent {
            Extent::Both => return self.around("mphantom", "", body),
            Extent::Width => " height=\"0\" depth=\"0\"",
            Extent::Height => " width=\"0\"",
        };
        self.open("mpadded", kept);
        self.around("mphantom", "", body);
        self.close("mpadded");
    }

    fn operator(&mut self, text: &str) {
        let mut characters = text.chars();
        let first = characters.next().unwrap_or_default();
        let is_single = characters.next().is_none();
        let class = class_of(first);
        // Brackets grow, and arrows below or above something do, unless they are told not to.
        let is_fixed =
            is_single && (class == Class::Bracket || (class == Class::Relation && is_arrow(first)));
        let attributes = if is_fixed { " stretchy=\"false\"" } else { "" };
        self.leaf("mo", attributes, text);
    }

    fn text(&mut self, text: &str, style: LetterStyle) {
        let css = match style {
            LetterStyle::Slanted => " style=\"font-style: italic\"",
            LetterStyle::Bold => " style=\"font-weight: bold\"",
            LetterStyle::SansSerif => " style=\"font-family: sans-serif\"",
            // As spelled here it is not what source looks like.
            LetterStyle::Monospace => " style=\"font-family:monospace\"",
            _ => "",
        };
        self.open("mtext", css);
        for (at, word) in text.split(' ').enumerate() {
            if at > 0 {
                self.out.push('\u{a0}');
            }
            self.page.push_text(self.out, word);
        }
        self.close("mtext");
    }

    fn space(&mut self, room: i32) {
        self.out.push_str("<mspace width=\"");
        push_ems(self.out, room);
        self.out.push_str("em\"></mspace>");
    }

    fn scripts(
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

    /// Words on an arrow have room at both sides.
    fn stacked(
        &mut self,
        base: &Expression,
        below: &Option<Box<Expression>>,
        above: &Option<Box<Expression>>,
    ) {
        const NAMES: [&str; 3] = ["munder", "mover", "munderover"];
        if !matches!(base, Expression::Stretched(_)) {
            return self.scripts(NAMES, base, below, above);
        }
        let padded = |part: &Option<Box<Expression>>| {
            part.clone().map(|part| {
                let room = || Expression::Space(600);
                Box::new(Expression::Row(vec![room(), *part, room()]))
            })
        };
        self.scripts(NAMES, base, &padded(below), &padded(above));
    }

    fn large_operator(
        &mut self,
        sign: &str,
        lower: &Option<Box<Expression>>,
        upper: &Option<Box<Expression>>,
        placement: Placement,
        body: &Expression,
    ) {
        let names = match placement {
            Placement::Behind => ["msub", "msup", "msubsup"],
            _ => ["munder", "mover", "munderover"],
        };
        let has_body = !body.is_nothing();
        if has_body {
            self.open("mrow", "");
        }
        let usual = usual_placement(sign.chars().next().unwrap_or('∑'));
        let is_fixed = placement == Placement::AlwaysBelowAndAbove
            || (placement, usual) == (Placement::BelowAndAbove, Placement::Behind);
        let attributes = if is_fixed { " movablelimits=\"false\"" } else { "" };
        let name = match (lower, upper) {
            (Some(_), Some(_)) => names[2],
            (Some(_), None) => names[0],
            (None, Some(_)) => names[1],
            (None, None) => "",
        };
        if !name.is_empty() {
            self.open(name, "");
        }
        self.leaf("mo", attributes, sign);
        for limit in [lower, upper].into_iter().flatten() {
            self.write(limit);
        }
        if !name.is_empty() {
            self.close(name);
        }
        if has_body {
            self.write(body);
            self.close("mrow");
        }
    }

    fn fence(&mut self, bracket: &str, form: &str) {
        if !bracket.is_empty() {
            self.leaf("mo", &format!(" form=\"{form}\" stretchy=\"true\""), bracket);
        }
    }

    fn bracket(&mut self, sign: &str, size: u8, side: BracketSide) {
        let form = match side {
            BracketSide::Unstated => "",
            BracketSide::Open => " form=\"prefix\"",
            BracketSide::Close => " form=\"postfix\"",
            BracketSide::Middle => " form=\"infix\"",
        };
        let height = usize::from(size).checked_sub(1).and_then(|at| BRACKETS.get(at));
        let height = height
            .map(|height| format!(" minsize=\"{height}\" maxsize=\"{height}\""))
            .unwrap_or_default();
        self.leaf("mo", &format!("{form} stretchy=\"true\"{height}"), sign);
    }

    fn identifier(&mut self, text: &str, style: LetterStyle) {
        let mut characters = text.chars();
        let first = characters.next().unwrap_or_default();
        let is_single = characters.next().is_none();
        let is_upright = match style {
            LetterStyle::Upright | LetterStyle::Name => true,
            LetterStyle::Usual => ('Α'..='Ω').contains(&first),
            _ => false,
        };
        let attributes = if is_single && is_upright { " mathvariant=\"normal\"" } else { "" };
        // One slanted letter is what any variable is.
        let style = match style {
            LetterStyle::Slanted if is_single => LetterStyle::Usual,
            style => style,
        };
        match style {
            LetterStyle::Usual | LetterStyle::Upright | LetterStyle::Name => {
                self.leaf("mi", attributes, text);
            }
            style => self.leaf("mi", attributes, &styled_text(text, style)),
        }
    }
}

/// Hundredths of a mathematical unit as ems, to four places.
fn push_ems(out: &mut String, room: i32) {
    // An em has 18 units; what is halfway between two places cannot be.
    let places = (u64::from(room.unsigned_abs()) * 100 + 9) / 18;
    if room < 0 && places > 0 {
        out.push('-');
    }
    out.push_str(&(places / 10_000).to_string());
    let behind = format!("{:04}", places % 10_000);
    let behind = behind.trim_end_matches('0');
    if !behind.is_empty() {
        out.push('.');
        out.push_str(behind);
    }
}

fn is_arrow(character: char) -> bool {
    matches!(character, '\u{2190}'..='\u{21FF}' | '\u{27F0}'..='\u{27FF}')
}

/// Whether a part is the name of a function, perhaps with scripts.
fn is_named(part: &Expression) -> bool {
    match part {
        Expression::Identifier(_, LetterStyle::Name) => true,
        Expression::Scripts { base, .. } | Expression::Stacked { base, .. } => is_named(base),
        _ => false,
    }
}

fn can_be_argument(part: &Expression) -> bool {
    match part {
        Expression::Space(_) => false,
        Expression::Operator(sign) => {
            sign.chars().next().is_some_and(|sign| class_of(sign) == Class::Bracket)
        }
        _ => true,
    }
}
