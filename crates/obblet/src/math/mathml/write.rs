//! The formula tree as MathML Core.

use super::{
    BRACKETS, FRAME, FUNCTION_ROOM, LEFT, NUMBER, OVERLINE, SOURCE, UNDERLINE, stroke, styled_text,
};
use crate::math::symbols::{ACCENTS, Class, class_of};
use crate::math::tex::usual_placement;
use crate::math::{
    Arrangement, Array, BracketSide, Display, DisplayLine, Expression, Extent, FormulaSize,
    FractionLine, LetterStyle, LineNumber, Overlap, Placement,
};

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
pub(crate) fn push_mathml(out: &mut String, expression: &Expression, page: &mut dyn Page) {
    let mut writer = Writer { out, page };
    match expression {
        Expression::Row(parts) => writer.parts(parts),
        only => writer.write(only),
    }
}

struct Writer<'w> {
    out: &'w mut String,
    page: &'w mut dyn Page,
}

impl Writer<'_> {
    fn leaf(&mut self, name: &str, attributes: &str, text: &str) {
        self.open(name, attributes);
        self.page.push_text(self.out, text);
        self.close(name);
    }

    fn open(&mut self, name: &str, attributes: &str) {
        self.out.push_str(&format!("<{name}{attributes}>"));
    }

    fn close(&mut self, name: &str) {
        self.out.push_str(&format!("</{name}>"));
    }

    /// An element of a fixed number of parts.
    fn element(&mut self, name: &str, attributes: &str, parts: &[&Expression]) {
        self.open(name, attributes);
        parts.iter().for_each(|part| self.write(part));
        self.close(name);
    }

    /// An element around any number of parts.
    fn around(&mut self, name: &str, attributes: &str, body: &Expression) {
        self.open(name, attributes);
        match body {
            Expression::Row(parts) => self.parts(parts),
            only => self.write(only),
        }
        self.close(name);
    }

    /// Parts side by side: the name of a function is parted from what it is applied to.
    fn parts(&mut self, parts: &[Expression]) {
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
            Some(
                Expression::Operator(_)
                    | Expression::Fenced { .. }
                    | Expression::SizedBracket { .. }
            )
        );
        if !is_bracket {
            self.space(FUNCTION_ROOM);
        }
    }

    fn write(&mut self, expression: &Expression) {
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
            Expression::Fenced { open, close, separator, parts } => {
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
                self.table(rows, " displaystyle=\"true\"", |_, column| line_cell(column));
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
            Expression::Display(display) => self.display(display),
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
        self.leaf("mtext", css, &text.replace(' ', "\u{a0}"));
    }

    fn space(&mut self, room: i32) {
        let em = f64::from(room) / 1800.0;
        let width = format!("{em:.4}");
        let width = width.trim_end_matches('0').trim_end_matches('.');
        self.open("mspace", &format!(" width=\"{width}em\""));
        self.close("mspace");
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

    fn table(
        &mut self,
        rows: &[Vec<Expression>],
        attributes: &str,
        style: impl Fn(usize, usize) -> String,
    ) {
        self.open("mtable", attributes);
        for (at, row) in rows.iter().enumerate() {
            self.open("mtr", "");
            for (column, cell) in row.iter().enumerate() {
                self.around("mtd", &style(at, column), cell);
            }
            self.close("mtr");
        }
        self.close("mtable");
    }

    fn array(&mut self, array: &Array) {
        let Array { columns, rows, lines } = array;
        let mut styles = Vec::new();
        let mut border = "";
        for sign in columns.chars() {
            let align = match sign {
                '|' => {
                    border = "; border-left: 1px solid";
                    continue;
                }
                'l' => "left",
                'r' => "right",
                _ => "center",
            };
            styles.push(format!("text-align: {align}{border}"));
            border = "";
        }
        let style = |row: usize, column: usize| {
            let own = styles.get(column).map_or("text-align: center", String::as_str);
            let is_last = column + 1 == styles.len();
            let right =
                if is_last && !border.is_empty() { "; border-right: 1px solid" } else { "" };
            let above = if lines.contains(&row) { "; border-top: 1px solid" } else { "" };
            let is_below = row + 1 == rows.len() && lines.contains(&rows.len());
            let below = if is_below { "; border-bottom: 1px solid" } else { "" };
            format!(" style=\"{own}{right}{above}{below}\"")
        };
        self.table(rows, "", style);
    }

    fn display(&mut self, display: &Display) {
        if let ([line], Arrangement::Single) = (display.lines.as_slice(), display.arrangement)
            && line.label.is_none()
            && shown_number(line).is_empty()
        {
            return line.cells.iter().for_each(|cell| match cell {
                Expression::Row(parts) => self.parts(parts),
                only => self.write(only),
            });
        }
        let has_numbers = display.lines.iter().any(|line| !shown_number(line).is_empty());
        self.open("mtable", " displaystyle=\"true\"");
        for (at, line) in display.lines.iter().enumerate() {
            let id = line.label.as_deref().and_then(|label| self.page.id_of_label(label));
            let mut attributes = String::new();
            if let Some(id) = id {
                attributes.push_str(" id=\"");
                self.page.push_value(&mut attributes, &id);
                attributes.push('"');
            }
            self.open("mtr", &attributes);
            let last = display.lines.len() - 1;
            for (column, cell) in line.cells.iter().enumerate() {
                let styled = |style: &str| format!(" style=\"{style}\"");
                let style = match display.arrangement {
                    _ if line.is_words => styled(LEFT),
                    Arrangement::Broken if at == 0 && last > 0 => styled(LEFT),
                    Arrangement::Broken if at == last && last > 0 => styled("text-align: right"),
                    Arrangement::Aligned | Arrangement::AlignedTight | Arrangement::AlignedWide => {
                        line_cell(column)
                    }
                    _ => String::new(),
                };
                let widest = widest(display);
                let spans = line.is_words && widest > 1;
                let span = if spans { format!(" columnspan=\"{widest}\"") } else { String::new() };
                self.around("mtd", &(style + &span), cell);
            }
            if has_numbers {
                self.missing_cells(display, line);
                self.open("mtd", &format!(" style=\"{NUMBER}\""));
                let number = shown_number(line);
                if !number.is_empty() {
                    self.leaf("mtext", "", &number);
                }
                self.close("mtd");
            }
            self.close("mtr");
        }
        self.close("mtable");
    }

    /// Numbers stand in one column, whatever lines have before them.
    fn missing_cells(&mut self, display: &Display, line: &DisplayLine) {
        if line.is_words {
            return;
        }
        for _ in line.cells.len()..widest(display) {
            self.out.push_str("<mtd></mtd>");
        }
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
        self.leaf("mi", attributes, &styled_text(text, style));
    }
}

/// The number of a line as it is shown; empty for none.
pub(crate) fn shown_number(line: &DisplayLine) -> String {
    match &line.number {
        LineNumber::Counted(Some(number)) | LineNumber::Stated(number) => format!("({number})"),
        LineNumber::Bare(number) => number.clone(),
        LineNumber::None | LineNumber::Counted(None) => String::new(),
    }
}

fn widest(display: &Display) -> usize {
    display.lines.iter().map(|line| line.cells.len()).max().unwrap_or(0)
}

fn line_cell(column: usize) -> String {
    match column % 2 {
        0 => " style=\"text-align: right; padding-right: 0\"".into(),
        _ => " style=\"text-align: left; padding-left: 0\"".into(),
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
