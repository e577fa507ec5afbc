//! The formula tree as TeX.

use super::colours::tex_colour;
use super::environments::{DISPLAYS, MATRICES};
use super::read::usual_placement;
use super::signs::{
    CLASSES, OVERLAPS, SIDED, SIZES, SPACES, STRIKES, STYLES, TEXT_STYLES, name_of,
};
use crate::math::{
    ACCENTS, ARROWS, Arrangement, Array, BracketSide, Display, DisplayLine, Expression, Extent,
    Fenced, FormulaSize, FractionLine, LetterStyle, LineNumber, Placement, SPANS, SpacingClass,
    has_limits, is_function, tex_name,
};

/// A formula's TeX source.
pub(crate) fn tex(expression: &Expression) -> String {
    let mut writer = Writer::default();
    writer.inside(expression);
    writer.out.trim().to_string()
}

#[derive(Default)]
struct Writer {
    out: String,
    /// Whether what is written is a script of something.
    is_script: bool,
    /// Where the name of the last command ends.
    command_end: usize,
}

impl Writer {
    /// What stands inside braces, or is the whole: the parts of a row need none of their own.
    fn inside(&mut self, expression: &Expression) {
        match expression {
            Expression::Row(parts) => self.parts(parts),
            only => self.last(only),
        }
    }

    fn parts(&mut self, parts: &[Expression]) {
        let (last, before) = match parts.split_last() {
            Some(parts) => parts,
            None => return,
        };
        before.iter().for_each(|part| self.write(part));
        self.last(last);
    }

    /// The last part of a group: what is about the rest of it needs no braces.
    fn last(&mut self, expression: &Expression) {
        match expression {
            Expression::Sized(size, body) if short_fraction(*size, body).is_none() => {
                self.command(size_name(*size));
                self.inside(body);
            }
            other => self.write(other),
        }
    }

    fn write(&mut self, expression: &Expression) {
        match expression {
            Expression::Row(parts) => self.row(parts),
            Expression::Identifier(text, style) => self.identifier(text, *style),
            Expression::Number(text) => self.number(text),
            Expression::Operator(text) => self.characters(text),
            Expression::Text(text, style) => self.text(text, *style),
            Expression::Space(room) => self.space(*room),
            Expression::Fraction { over, under, line } => self.fraction("", over, under, *line),
            Expression::Root { body, degree } => {
                self.command("sqrt");
                if let Some(degree) = degree {
                    self.out.push('[');
                    self.inside(degree);
                    self.out.push(']');
                }
                self.group(body);
            }
            Expression::Scripts { base, sub, sup } => {
                self.base(base);
                self.scripts(sub.as_deref(), sup.as_deref());
            }
            Expression::PreScripts { base, sub, sup } => {
                self.out.push_str("{}");
                self.scripts(sub.as_deref(), sup.as_deref());
                self.base(base);
            }
            Expression::Stacked { base, below, above } => {
                self.stacked(base, below.as_deref(), above.as_deref());
            }
            Expression::LargeOperator { sign, lower, upper, placement, body } => {
                self.characters(sign);
                match (placement, usual_placement(sign.chars().next().unwrap_or('∑'))) {
                    (Placement::AlwaysBelowAndAbove, _) => self.command("limits"),
                    (Placement::BelowAndAbove, Placement::Behind) => self.command("limits"),
                    (Placement::Behind, Placement::BelowAndAbove) => self.command("nolimits"),
                    _ => {}
                }
                self.scripts(lower.as_deref(), upper.as_deref());
                self.inside(body);
            }
            Expression::Fenced(fenced) => {
                let Fenced { open, close, separator, parts } = fenced.as_ref();
                self.fenced("", open, close, separator, parts);
            }
            Expression::SizedBracket { sign, size, side } => self.sized_bracket(sign, *size, *side),
            Expression::Matrix(rows) => self.rows("matrix", "", rows, &[]),
            Expression::Array(array) => self.array(array),
            Expression::Lines(rows) => self.rows("aligned", "", rows, &[]),
            Expression::Stack(lines) => self.stack(lines),
            Expression::Display(display) => self.display(display),
            Expression::Function { name, argument } => {
                self.write(name);
                if !self.out.ends_with([' ', '}', '{']) {
                    self.out.push(' ');
                }
                self.inside(argument);
            }
            Expression::Accent { mark, base } => self.accent(*mark, base),
            Expression::Span { sign, is_below, base } => self.span(*sign, *is_below, base),
            Expression::Stretched(arrow) => {
                self.command(arrow_name(arrow));
                self.out.push_str("{}");
            }
            Expression::Framed(body) => self.with_group("boxed", body),
            Expression::Struck(strike, body) => {
                self.with_group(name_of(&STRIKES, strike).unwrap_or("cancel"), body);
            }
            Expression::Invisible(extent, body) => self.with_group(
                match extent {
                    Extent::Both => "phantom",
                    Extent::Width => "hphantom",
                    Extent::Height => "vphantom",
                },
                body,
            ),
            Expression::Overlapping(overlap, body) => {
                self.with_group(name_of(&OVERLAPS, overlap).unwrap_or("smash"), body);
            }
            Expression::Coloured(colour, body) => {
                let (model, value) = tex_colour(colour);
                self.command("textcolor");
                if !model.is_empty() {
                    self.out.push_str(&format!("[{model}]"));
                }
                self.out.push_str(&format!("{{{value}}}"));
                self.group(body);
            }
            Expression::Sized(size, body) => self.sized(*size, body),
            Expression::Classed(class, body) => self.classed(*class, body),
            Expression::Chemical { source, .. } => {
                self.command("ce");
                self.out.push_str(&format!("{{{source}}}"));
            }
            Expression::Source(source) => {
                self.put(source);
                if ends_with_name(source) {
                    self.command_end = self.out.len();
                }
            }
        }
    }

    /// A row in a row is a group.
    fn row(&mut self, parts: &[Expression]) {
        let is_modulo = |name: &str| name == "mod";
        if let [
            Expression::Space(1800),
            Expression::Operator(open),
            Expression::Identifier(name, LetterStyle::Name),
            Expression::Space(600),
            body,
            Expression::Operator(_),
        ] = parts
            && is_modulo(name)
            && open == "("
        {
            return self.with_group("pmod", body);
        }
        self.out.push('{');
        self.parts(parts);
        self.out.push('}');
    }

    /// Adds TeX; a letter or digit behind a command's name is parted from it.
    fn put(&mut self, tex: &str) {
        let is_at_name = self.command_end == self.out.len() && self.command_end > 0;
        if is_at_name && tex.starts_with(|c: char| c.is_ascii_alphanumeric()) {
            self.out.push(' ');
        }
        self.out.push_str(tex);
    }

    fn command(&mut self, name: &str) {
        self.out.push('\\');
        self.out.push_str(name);
        if name.ends_with(|c: char| c.is_ascii_alphabetic()) {
            self.command_end = self.out.len();
        }
    }

    fn negated(&mut self, name: &str) {
        self.command("not");
        self.command(name);
    }

    fn with_group(&mut self, name: &str, body: &Expression) {
        self.command(name);
        self.group(body);
    }

    fn number(&mut self, digits: &str) {
        if self.out.ends_with(|c: char| c.is_ascii_digit()) {
            self.out.push_str("{}");
        }
        self.put(digits);
    }

    fn characters(&mut self, text: &str) {
        if let Some(plain) = text.strip_suffix('\u{338}') {
            self.command("not");
            return self.characters(plain);
        }
        for character in text.chars() {
            match character {
                '#' | '$' | '%' | '&' | '_' | '{' | '}' => {
                    self.out.push('\\');
                    self.out.push(character);
                }
                '−' => self.out.push('-'),
                '∗' => self.out.push('*'),
                '|' => self.out.push('|'),
                '‖' => self.out.push_str(r"\|"),
                '~' => self.command("sim"),
                '^' => self.out.push_str(r"\text{\textasciicircum}"),
                '∄' => self.command("nexists"),
                '⊄' => self.negated("subset"),
                '⊅' => self.negated("supset"),
                '∌' => self.negated("ni"),
                '″' => {
                    self.command("prime");
                    self.command("prime");
                }
                '°' => self.out.push_str(r"{}^{\circ}"),
                // Signs that are not seen.
                '\u{2061}'..='\u{2064}' => {}
                other => match tex_name(other) {
                    Some(name) => self.command(name),
                    None => self.put(other.encode_utf8(&mut [0; 4])),
                },
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
                '\u{a0}' => self.out.push('~'),
                '—' => self.out.push_str("---"),
                '–' => self.out.push_str("--"),
                '“' => self.out.push_str("``"),
                '”' => self.out.push_str("''"),
                '‘' => self.out.push('`'),
                '’' => self.out.push('\''),
                _ => self.out.push(character),
            }
        }
    }

    fn text(&mut self, text: &str, style: LetterStyle) {
        match text {
            " " => return self.out.push_str(r"\ "),
            "\u{a0}" => return self.out.push('~'),
            _ => {}
        }
        self.command(name_of(&TEXT_STYLES, &style).unwrap_or("text"));
        self.out.push('{');
        self.words(text);
        self.out.push('}');
    }

    fn space(&mut self, room: i32) {
        match name_of(&SPACES, &room) {
            Some(name) => self.command(name),
            None => {
                let units = f64::from(room) / 100.0;
                self.out.push_str(&format!(r"\mspace{{{units}mu}}"));
            }
        }
    }

    fn identifier(&mut self, text: &str, style: LetterStyle) {
        if let Some(plain) = text.strip_suffix('\u{338}') {
            self.command("not");
            return self.identifier(plain, style);
        }
        let is_name = matches!(style, LetterStyle::Name | LetterStyle::Usual);
        if is_name && is_function(text) && text.len() > 1 {
            return self.command(text);
        }
        let command = match style {
            LetterStyle::Usual => return self.characters(text),
            LetterStyle::Name => "operatorname",
            style => name_of(&STYLES, &style).unwrap_or("mathrm"),
        };
        self.command(command);
        self.out.push('{');
        self.characters(text);
        self.out.push('}');
    }

    fn group(&mut self, expression: &Expression) {
        self.out.push('{');
        self.inside(expression);
        self.out.push('}');
    }

    /// What scripts are about: one part alone, or a group.
    fn base(&mut self, base: &Expression) {
        let needs_group = match base {
            Expression::Scripts { .. }
            | Expression::PreScripts { .. }
            | Expression::LargeOperator { .. }
            | Expression::Function { .. }
            | Expression::Space(_)
            | Expression::Source(_) => true,
            Expression::Stacked { base, .. } => !matches!(**base, Expression::Span { .. }),
            Expression::Identifier(text, LetterStyle::Usual) => text.chars().count() > 1,
            Expression::Identifier(text, LetterStyle::Name) => has_limits(text),
            _ => false,
        };
        match base {
            Expression::Identifier(text, LetterStyle::Name) if has_limits(text) => {
                self.write(base);
                self.command("nolimits");
            }
            _ if base.is_nothing() => self.out.push_str("{}"),
            _ if needs_group => self.group(base),
            _ => self.write(base),
        }
    }

    fn scripts(&mut self, sub: Option<&Expression>, sup: Option<&Expression>) {
        let outer = std::mem::replace(&mut self.is_script, true);
        let sup = self.primes(sup);
        for (mark, script) in [('_', sub), ('^', sup.as_ref())] {
            if let Some(script) = script {
                self.out.push(mark);
                self.group(script);
            }
        }
        self.is_script = outer;
    }

    /// Primes stand first, and need no mark; gives what is left of the raised part.
    fn primes(&mut self, sup: Option<&Expression>) -> Option<Expression> {
        let marks = |part: Option<&Expression>| match part {
            Some(Expression::Operator(text)) if text.chars().all(|c| c == '′') => {
                Some("'".repeat(text.chars().count()))
            }
            _ => None,
        };
        match sup? {
            Expression::Row(parts) if marks(parts.first()).is_some() => {
                self.out.push_str(&marks(parts.first())?);
                Some(Expression::of(parts.get(1..)?.to_vec()))
            }
            only => match marks(Some(only)) {
                Some(marks) => {
                    self.out.push_str(&marks);
                    None
                }
                None => Some(only.clone()),
            },
        }
    }

    fn fraction(&mut self, size: &str, over: &Expression, under: &Expression, line: FractionLine) {
        match line {
            FractionLine::Bar => self.command(&format!("{size}frac")),
            FractionLine::Continued => self.command("cfrac"),
            FractionLine::Slanted => self.command("sfrac"),
            FractionLine::None => self.out.push_str(r"\genfrac{}{}{0pt}{}"),
            FractionLine::Slash => {
                self.group(over);
                self.put("/");
                return self.group(under);
            }
        }
        self.group(over);
        self.group(under);
    }

    fn stacked(
        &mut self,
        base: &Expression,
        below: Option<&Expression>,
        above: Option<&Expression>,
    ) {
        match base {
            Expression::Identifier(name, LetterStyle::Name | LetterStyle::Usual)
                if has_limits(name) =>
            {
                self.command(name);
                return self.scripts(below, above);
            }
            Expression::Identifier(name, LetterStyle::Name) if !is_function(name) => {
                self.command("operatorname*");
                self.out.push('{');
                self.characters(name);
                self.out.push('}');
                return self.scripts(below, above);
            }
            Expression::Span {
                sign: '\u{23DE}' | '\u{23DF}' | '\u{23B4}' | '\u{23B5}', ..
            } => {
                self.write(base);
                return self.scripts(below, above);
            }
            Expression::Classed(SpacingClass::Operator, _) => {
                self.write(base);
                return self.scripts(below, above);
            }
            Expression::Stretched(arrow) => {
                self.command(arrow_name(arrow));
                if let Some(below) = below {
                    self.out.push('[');
                    self.inside(below);
                    self.out.push(']');
                }
                return self.group(above.unwrap_or(&Expression::nothing()));
            }
            _ => {}
        }
        if let Some(below) = below {
            self.with_group("underset", below);
            self.out.push('{');
        }
        match above {
            Some(above) => {
                self.with_group("overset", above);
                self.group(base);
            }
            None => self.inside(base),
        }
        if below.is_some() {
            self.out.push('}');
        }
    }

    /// Brackets that grow, or what has a name of its own.
    fn fenced(
        &mut self,
        size: &str,
        open: &str,
        close: &str,
        separator: &str,
        parts: &[Expression],
    ) {
        match (open, parts, close) {
            ("(", [Expression::Fraction { over, under, line: FractionLine::None }], ")") => {
                self.command(&format!("{size}binom"));
                self.group(over);
                return self.group(under);
            }
            (_, [Expression::Matrix(rows)], _) => {
                let known = MATRICES.iter().find(|(_, o, c)| *o == open && *c == close);
                if let Some((name, ..)) = known {
                    return self.rows(name, "", rows, &[]);
                }
            }
            ("{", [Expression::Array(array)], "") if array.columns == "ll" => {
                return self.rows(&format!("{size}cases"), "", &array.rows, &array.lines);
            }
            ("", [Expression::Array(array)], "}") if array.columns == "ll" => {
                let name = if size.is_empty() { "rcases" } else { "drcases" };
                return self.rows(name, "", &array.rows, &array.lines);
            }
            _ => {}
        }
        self.bracket(r"\left", open);
        for (at, part) in parts.iter().enumerate() {
            if at > 0 {
                self.bracket(r"\middle", separator);
            }
            self.inside(part);
        }
        self.bracket(r"\right", close);
    }

    fn bracket(&mut self, command: &str, bracket: &str) {
        self.out.push_str(command);
        self.command_end = self.out.len();
        match bracket {
            "" => self.out.push('.'),
            _ => self.characters(bracket),
        }
    }

    fn sized_bracket(&mut self, sign: &str, size: u8, side: BracketSide) {
        if size == 0 {
            return self.bracket(r"\middle", sign);
        }
        let name = name_of(&SIZES, &size).unwrap_or("big");
        let side = match side {
            BracketSide::Unstated => "",
            BracketSide::Open => "l",
            BracketSide::Close => "r",
            BracketSide::Middle => "m",
        };
        self.bracket(&format!(r"\{name}{side}"), sign);
    }

    fn rows(
        &mut self,
        environment: &str,
        argument: &str,
        rows: &[Vec<Expression>],
        lines: &[usize],
    ) {
        self.out.push_str(&format!(r"\begin{{{environment}}}{argument}"));
        for (at, row) in rows.iter().enumerate() {
            if at > 0 {
                self.out.push_str(r" \\ ");
            }
            let start = self.out.len();
            self.lines_above(at, lines);
            self.cells(row);
            self.open_no_option(start);
        }
        if lines.contains(&rows.len()) {
            self.out.push_str(r" \\ ");
            self.lines_above(rows.len(), lines);
        } else if let [_, .., row] = rows
            && let [cell] = row.as_slice()
            && cell.is_nothing()
        {
            // What is empty behind the last line end is no row.
            self.out.push_str(r" \\ ");
        }
        self.out.push_str(&format!(r"\end{{{environment}}}"));
    }

    fn lines_above(&mut self, row: usize, lines: &[usize]) {
        for _ in lines.iter().filter(|line| **line == row) {
            self.out.push_str(r"\hline ");
        }
    }

    fn cells(&mut self, cells: &[Expression]) {
        for (at, cell) in cells.iter().enumerate() {
            if at > 0 {
                self.out.push_str(" & ");
            }
            self.inside(cell);
        }
    }

    fn array(&mut self, array: &Array) {
        self.rows("array", &format!("{{{}}}", array.columns), &array.rows, &array.lines);
    }

    fn stack(&mut self, lines: &[Expression]) {
        let (before, behind) = match self.is_script {
            true => (r"\substack{", "}"),
            false => (r"\begin{gathered}", r"\end{gathered}"),
        };
        self.out.push_str(before);
        for (at, line) in lines.iter().enumerate() {
            if at > 0 {
                self.out.push_str(r" \\ ");
            }
            let start = self.out.len();
            self.inside(line);
            self.open_no_option(start);
        }
        // Within the braces of a script, an empty last line is one.
        if let [_, .., line] = lines
            && line.is_nothing()
            && !self.is_script
        {
            self.out.push_str(r" \\ ");
        }
        self.out.push_str(behind);
    }

    /// A bracket would be the option of the environment or of the line end before it.
    fn open_no_option(&mut self, start: usize) {
        if self.out.get(start..).is_some_and(|line| line.starts_with('[')) {
            self.out.replace_range(start..=start, r"\lbrack ");
        }
    }

    fn display(&mut self, display: &Display) {
        let lines = &display.lines;
        let is_counted = |line: &DisplayLine| matches!(line.number, LineNumber::Counted(_));
        if let (Arrangement::Single, [line]) = (display.arrangement, lines.as_slice())
            && !is_counted(line)
        {
            self.cells(&line.cells);
            return self.number_and_label(line);
        }
        let known = DISPLAYS.iter().find(|(_, known)| *known == display.arrangement);
        let name = known.map_or("align", |(name, _)| name);
        let has_numbers = lines.iter().any(is_counted);
        let star = if has_numbers { "" } else { "*" };
        self.out.push_str(&format!(r"\begin{{{name}{star}}}"));
        if display.arrangement == Arrangement::AlignedTight {
            let widest = lines.iter().map(|line| line.cells.len()).max().unwrap_or(0);
            self.out.push_str(&format!("{{{}}}", widest.div_ceil(2)));
        }
        for (at, line) in lines.iter().enumerate() {
            let is_behind_words = at.checked_sub(1).and_then(|at| lines.get(at));
            if at > 0 && !line.is_words && !is_behind_words.is_some_and(|line| line.is_words) {
                self.out.push_str(r" \\ ");
            }
            if line.is_words {
                if at > 0 {
                    self.out.push_str(r" \\ ");
                }
                self.intertext(line);
                continue;
            }
            let start = self.out.len();
            self.cells(&line.cells);
            self.open_no_option(start);
            let takes_number = display.arrangement != Arrangement::Broken;
            if has_numbers && takes_number && line.number == LineNumber::None {
                self.command("notag");
            }
            self.number_and_label(line);
        }
        self.out.push_str(&format!(r"\end{{{name}{star}}}"));
    }

    fn intertext(&mut self, line: &DisplayLine) {
        self.command("intertext");
        self.out.push('{');
        for cell in &line.cells {
            match cell {
                Expression::Text(text, _) => self.words(text),
                other => {
                    self.out.push('$');
                    self.inside(other);
                    self.out.push('$');
                }
            }
        }
        self.out.push('}');
    }

    fn number_and_label(&mut self, line: &DisplayLine) {
        match &line.number {
            LineNumber::Stated(text) => self.out.push_str(&format!(r"\tag{{{text}}}")),
            LineNumber::Bare(text) => self.out.push_str(&format!(r"\tag*{{{text}}}")),
            LineNumber::None | LineNumber::Counted(_) => {}
        }
        if let Some(label) = &line.label {
            self.out.push_str(&format!(r"\label{{{label}}}"));
        }
    }

    fn accent(&mut self, mark: char, base: &Expression) {
        let known = ACCENTS.iter().find(|(own, joined, _)| *own == mark || *joined == mark);
        match known {
            Some((.., name)) => self.with_group(name, base),
            None => {
                self.out.push_str(r"\overset{");
                self.characters(mark.encode_utf8(&mut [0; 4]));
                self.out.push('}');
                self.group(base);
            }
        }
    }

    fn span(&mut self, sign: char, is_below: bool, base: &Expression) {
        let known = SPANS.iter().find(|(known, below, _)| *known == sign && *below == is_below);
        let name = known.map_or(if is_below { "underline" } else { "overline" }, |(.., name)| name);
        self.with_group(name, base);
    }

    fn sized(&mut self, size: FormulaSize, body: &Expression) {
        let letter = short_fraction(size, body);
        match (letter, body) {
            (Some(letter), Expression::Fraction { over, under, line }) => {
                self.fraction(letter, over, under, *line);
            }
            (Some(letter), Expression::Fenced(fenced)) => {
                let Fenced { open, close, separator, parts } = fenced.as_ref();
                self.fenced(letter, open, close, separator, parts);
            }
            (_, Expression::Matrix(rows)) if size == FormulaSize::Script => {
                self.rows("smallmatrix", "", rows, &[]);
            }
            _ => {
                self.out.push('{');
                self.command(size_name(size));
                self.inside(body);
                self.out.push('}');
            }
        }
    }

    fn classed(&mut self, class: SpacingClass, body: &Expression) {
        if let Expression::Operator(sign) = body
            && let Some((name, ..)) = SIDED.iter().find(|(_, s, c)| s == sign && *c == class)
        {
            return self.command(name);
        }
        if class == SpacingClass::Binary
            && matches!(body, Expression::Identifier(name, LetterStyle::Name) if name == "mod")
        {
            return self.command("bmod");
        }
        self.with_group(name_of(&CLASSES, &class).unwrap_or("mathord"), body);
    }
}

/// What has a command of its own in another size: the letter before its name.
fn short_fraction(size: FormulaSize, body: &Expression) -> Option<&'static str> {
    let letter = match size {
        FormulaSize::Display => "d",
        FormulaSize::Text => "t",
        FormulaSize::Script if matches!(body, Expression::Matrix(_)) => return Some(""),
        _ => return None,
    };
    let is_binomial = |parts: &[Expression]| {
        matches!(parts, [Expression::Fraction { line: FractionLine::None, .. }])
    };
    let is_cases =
        |parts: &[Expression]| matches!(parts, [Expression::Array(array)] if array.columns == "ll");
    let has_command = match body {
        Expression::Fraction { line: FractionLine::Bar, .. } => true,
        Expression::Fenced(fenced) => {
            let Fenced { open, close, parts, .. } = fenced.as_ref();
            (open == "(" && close == ")" && is_binomial(parts))
                || (letter == "d" && (open == "{") != (close == "}") && is_cases(parts))
        }
        _ => false,
    };
    has_command.then_some(letter)
}

fn size_name(size: FormulaSize) -> &'static str {
    match size {
        FormulaSize::Display => "displaystyle",
        FormulaSize::Text => "textstyle",
        FormulaSize::Script => "scriptstyle",
        FormulaSize::SmallScript => "scriptscriptstyle",
    }
}

fn arrow_name(arrow: &str) -> &'static str {
    let first = arrow.chars().next();
    let known = ARROWS.iter().find(|(known, _)| Some(*known) == first);
    known.map_or("xrightarrow", |(_, name)| name)
}

/// Whether a text ends with the name of a command, to which a letter would belong.
fn ends_with_name(tex: &str) -> bool {
    let name = tex.trim_end_matches(|c: char| c.is_ascii_alphabetic());
    name.len() < tex.len() && name.ends_with('\\')
}
