//! TeX into the formula tree.

use super::colours::css_colour;
use super::scan::{Problem, ProblemKind, Scanner, Token};
use super::signs::{
    BOXES, CLASSES, OVERLAPS, SIDED, SPACES, STRIKES, STYLES, SWITCHES, TEXT_STYLES, meaning, sized,
};
use crate::math::{
    ACCENTS, ARROWS, Arrangement, Class, Display, DisplayLine, Expression, Fenced, FormulaSize,
    FractionLine, LetterStyle, Placement, SPANS, SpacingClass, has_limits, is_function, symbol,
};
use crate::source::CompactString;
use crate::tex::expanded;
use compact_str::ToCompactString;

/// How deep parts of a formula may stand in each other.
const DEEPEST: usize = 60;

/// Reads a formula, without the delimiters around it.
pub(crate) fn read(source: &str) -> (Expression, Vec<Problem>) {
    let expanded = defines_macros(source).then(|| expanded(source)).flatten();
    let mut reader = Reader::new(expanded.as_deref().unwrap_or(source));
    let tree = reader.whole();
    (tree, reader.problems)
}

/// Reads one formula, or a part of it that stands in words.
pub(super) struct Reader<'s> {
    pub(super) scan: Scanner<'s>,
    style: LetterStyle,
    depth: usize,
    pub(super) problems: Vec<Problem>,
    /// Number, label and the like of the display line that is being read.
    pub(super) line: DisplayLine,
    /// Whether that line says that it has no number.
    pub(super) is_unnumbered: bool,
}

/// What ends a row of parts.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Stop {
    End,
    Brace,
    Bracket,
    Cell,
    Right,
}

type Part = Option<Box<Expression>>;

impl<'s> Reader<'s> {
    pub(super) fn new(source: &'s str) -> Self {
        Self {
            scan: Scanner::new(source),
            style: LetterStyle::Usual,
            depth: 0,
            problems: Vec::new(),
            line: DisplayLine::default(),
            is_unnumbered: false,
        }
    }

    /// The whole source. A number or label makes it a display of one line; line ends that stand in no
    /// environment make lines.
    pub(super) fn whole(&mut self) -> Expression {
        let body = self.row_until(Stop::End);
        if let Some(Token::Character('&') | Token::Command("\\" | "cr" | "newline")) =
            self.scan.peek()
        {
            return Expression::Lines(self.rows(body, Stop::End));
        }
        let line = std::mem::take(&mut self.line);
        if line == DisplayLine::default() {
            return body;
        }
        let lines = vec![DisplayLine { cells: vec![body], ..line }];
        Expression::Display(Box::new(Display { arrangement: Arrangement::Single, lines }))
    }

    /// Cells and lines up to the stop; the first cell is read already.
    fn rows(&mut self, first: Expression, stop: Stop) -> Vec<Vec<Expression>> {
        let mut rows = vec![vec![first]];
        loop {
            match self.scan.peek() {
                Some(Token::Character('&')) => {
                    self.scan.next();
                }
                Some(Token::Command("\\" | "cr" | "newline")) => {
                    self.end_line();
                    rows.push(Vec::new());
                }
                _ => return rows,
            }
            let cell = self.row_until(stop);
            if let Some(row) = rows.last_mut() {
                row.push(cell);
            }
        }
    }

    /// Goes past a line end, its star and its room.
    pub(super) fn end_line(&mut self) {
        self.scan.next();
        if self.scan.rest().starts_with('*') {
            self.scan.next();
        }
        if self.scan.rest().starts_with('[') {
            self.scan.raw_option();
        }
    }

    /// Parts up to the stop; what closes without having been opened is passed over.
    pub(super) fn row_until(&mut self, stop: Stop) -> Expression {
        // A group is mostly one or two parts, a whole formula a dozen.
        let mut parts = Vec::with_capacity(if stop == Stop::End { 12 } else { 2 });
        loop {
            self.parts(stop, &mut parts);
            let at = self.scan.at();
            let Some(token) = self.scan.peek() else { break };
            if self.is_stop(token, stop) || (stop != Stop::End && is_outer_stop(token, stop)) {
                break;
            }
            if stop == Stop::End && is_line_stop(token) {
                break;
            }
            self.scan.next();
            let name = self.scan.since(at).trim().to_string();
            self.problem(at, ProblemKind::Unbalanced(name));
        }
        Expression::of(parts)
    }

    fn is_stop(&self, token: Token<'_>, stop: Stop) -> bool {
        match stop {
            Stop::End => false,
            Stop::Brace => token == Token::Character('}'),
            Stop::Bracket => token == Token::Character(']'),
            Stop::Cell => is_line_stop(token) || token == Token::Command("end"),
            Stop::Right => matches!(token, Token::Command("right" | "middle")),
        }
    }

    /// Parts up to anything that could end them.
    pub(super) fn parts(&mut self, stop: Stop, parts: &mut Vec<Expression>) {
        while let Some(token) = self.scan.peek() {
            let ends = match token {
                Token::Character('}' | '&') => true,
                Token::Character(']') => stop == Stop::Bracket,
                Token::Command("\\" | "cr" | "newline" | "right" | "middle" | "end") => true,
                _ => false,
            };
            if ends {
                return;
            }
            self.part(token, stop, parts);
        }
    }

    /// One part with its scripts, or a command that is about all parts before or behind it.
    pub(super) fn part(&mut self, token: Token<'s>, stop: Stop, parts: &mut Vec<Expression>) {
        let at = self.scan.at();
        match token {
            Token::Character('_' | '^' | '\'') | Token::Command("limits" | "nolimits") => {
                let base = match self.takes_scripts(parts) {
                    true => parts.pop().unwrap_or(Expression::nothing()),
                    false => Expression::nothing(),
                };
                let scripted = self.with_scripts(base, parts);
                parts.push(scripted);
            }
            Token::Command("over" | "choose" | "atop" | "brack" | "brace") => {
                self.scan.next();
                self.infix(token, stop, parts);
            }
            Token::Command("displaystyle" | "textstyle" | "scriptstyle" | "scriptscriptstyle") => {
                self.scan.next();
                let size = match token {
                    Token::Command("displaystyle") => FormulaSize::Display,
                    Token::Command("textstyle") => FormulaSize::Text,
                    Token::Command("scriptstyle") => FormulaSize::Script,
                    _ => FormulaSize::SmallScript,
                };
                let body = self.rest_of_row(stop);
                parts.push(Expression::Sized(size, Box::new(body)));
            }
            Token::Command("color") => {
                self.scan.next();
                let model = self.scan.raw_option().unwrap_or_default();
                let value = self.scan.raw_argument();
                let colour = self.colour(at, model, value);
                let body = self.rest_of_row(stop);
                parts.push(Expression::Coloured(colour.into(), Box::new(body)));
            }
            Token::Command(name) if meaning(&SWITCHES, name).is_some() => {
                self.scan.next();
                let style = meaning(&SWITCHES, name).unwrap_or(self.style);
                let before = std::mem::replace(&mut self.style, style);
                self.parts(stop, parts);
                self.style = before;
            }
            _ => {
                self.scan.next();
                if let Some(atom) = self.atom(token, at) {
                    parts.push(atom);
                }
            }
        }
    }

    /// All that is behind a command that is about the rest of its group.
    fn rest_of_row(&mut self, stop: Stop) -> Expression {
        self.deeper(|reader| {
            let mut parts = Vec::new();
            reader.parts(stop, &mut parts);
            Expression::of(parts)
        })
    }

    /// `a \over b`: what stands before is above, what stands behind below.
    fn infix(&mut self, token: Token<'s>, stop: Stop, parts: &mut Vec<Expression>) {
        let over = Box::new(Expression::of(std::mem::take(parts)));
        let under = Box::new(self.rest_of_row(stop));
        let line = match token {
            Token::Command("over") => FractionLine::Bar,
            _ => FractionLine::None,
        };
        let fraction = Expression::Fraction { over, under, line };
        parts.push(match token {
            Token::Command("choose") => fenced("(", fraction, ")"),
            Token::Command("brack") => fenced("[", fraction, "]"),
            Token::Command("brace") => fenced("{", fraction, "}"),
            _ => fraction,
        });
    }

    /// Whether scripts belong to the part before them: room takes none.
    fn takes_scripts(&self, parts: &[Expression]) -> bool {
        parts.last().is_some_and(|part| !matches!(part, Expression::Space(_)))
    }

    /// The scripts behind a base, in whatever order they stand.
    fn with_scripts(&mut self, base: Expression, parts: &mut Vec<Expression>) -> Expression {
        let (mut sub, mut sup): (Part, Part) = (None, None);
        let mut primes = String::new();
        let mut placement = None;
        loop {
            let at = self.scan.at();
            match self.scan.peek() {
                Some(Token::Character('\'')) => {
                    self.scan.next();
                    primes.push('′');
                }
                Some(Token::Character(mark @ ('_' | '^'))) => {
                    self.scan.next();
                    let script = self.argument();
                    let place = if mark == '_' { &mut sub } else { &mut sup };
                    if let Some(first) = place.take() {
                        self.problem(at, ProblemKind::Misplaced(mark.to_string()));
                        *place = Some(Box::new(first.beside(script)));
                    } else {
                        *place = Some(Box::new(script));
                    }
                }
                Some(Token::Command("limits")) => {
                    self.scan.next();
                    placement = Some(Placement::AlwaysBelowAndAbove);
                }
                Some(Token::Command("nolimits")) => {
                    self.scan.next();
                    placement = Some(Placement::Behind);
                }
                _ => break,
            }
        }
        if !primes.is_empty() {
            let marks = Expression::Operator(primes.into());
            sup = Some(Box::new(match sup {
                Some(rest) => marks.beside(*rest),
                None => marks,
            }));
        }
        let is_left = base.is_nothing() && parts.last().is_some_and(Expression::is_nothing);
        if is_left {
            return self.before_next(sub, sup, parts);
        }
        attached(base, sub, sup, placement)
    }

    /// Scripts behind an empty group stand before what follows.
    fn before_next(&mut self, sub: Part, sup: Part, parts: &mut Vec<Expression>) -> Expression {
        parts.pop();
        let follows = matches!(
            self.scan.peek(),
            Some(Token::Character(c)) if c.is_alphanumeric() || c == '{'
        ) || matches!(self.scan.peek(), Some(Token::Command(name)) if !is_control(name));
        if !follows {
            return Expression::Scripts { base: Box::new(Expression::nothing()), sub, sup };
        }
        let base = Box::new(self.argument());
        Expression::PreScripts { base, sub, sup }
    }

    /// An argument: a group, or one token with what it takes itself.
    pub(super) fn argument(&mut self) -> Expression {
        let at = self.scan.at();
        match self.scan.peek() {
            Some(Token::Character('{')) => {
                self.scan.next();
                self.group()
            }
            Some(Token::Character(c @ ('}' | '&' | ']'))) => {
                self.problem(at, ProblemKind::Misplaced(c.to_string()));
                Expression::nothing()
            }
            Some(Token::Command("\\" | "right" | "middle" | "end")) | None => {
                self.problem(at, ProblemKind::Misplaced("an empty argument".into()));
                Expression::nothing()
            }
            Some(Token::Character(digit)) if digit.is_ascii_digit() => {
                self.scan.next();
                self.number(digit.to_string())
            }
            Some(token) => {
                self.scan.next();
                self.deeper(|reader| reader.atom(token, at).unwrap_or(Expression::nothing()))
            }
        }
    }

    /// The parts of a group whose opening brace is behind us.
    pub(super) fn group(&mut self) -> Expression {
        let at = self.scan.at();
        let style = self.style;
        let group = self.deeper(|reader| reader.row_until(Stop::Brace));
        self.style = style;
        if !self.scan.eat('}') {
            self.problem(at.saturating_sub(1), ProblemKind::Unbalanced("{".into()));
        }
        group
    }

    pub(super) fn option(&mut self) -> Option<Expression> {
        if !self.scan.eat('[') {
            return None;
        }
        let body = self.deeper(|reader| reader.row_until(Stop::Bracket));
        self.scan.eat(']');
        Some(body)
    }

    /// Runs one level deeper; below the deepest level, source stays source.
    pub(super) fn deeper(&mut self, read: impl FnOnce(&mut Self) -> Expression) -> Expression {
        if self.depth >= DEEPEST {
            let at = self.scan.at();
            let raw = self.scan.raw_group();
            let taken = raw.to_string();
            // The brace stays for who waits for it.
            self.scan.rewind(at + taken.len());
            self.problem(at, ProblemKind::TooDeep);
            return Expression::Source(taken.into());
        }
        self.depth += 1;
        let read = read(self);
        self.depth -= 1;
        read
    }

    /// A formula of its own inside words.
    pub(super) fn inner(&mut self, source: &str) -> Expression {
        if self.depth >= DEEPEST {
            return Expression::Source(source.into());
        }
        let mut reader = Reader { depth: self.depth + 1, ..Reader::new(source) };
        let tree = reader.row_until(Stop::End);
        let at = self.scan.at();
        self.problems.extend(reader.problems.into_iter().map(|problem| Problem { at, ..problem }));
        Expression::Row(match tree {
            Expression::Row(parts) => parts,
            only => vec![only],
        })
    }

    pub(super) fn guarded_words(&mut self, raw: &str, style: LetterStyle) -> Expression {
        if self.depth >= DEEPEST {
            return Expression::Source(raw.into());
        }
        self.depth += 1;
        let words = self.words(raw, style);
        self.depth -= 1;
        words
    }

    pub(super) fn problem(&mut self, at: usize, kind: ProblemKind) {
        self.problems.push(Problem { at, kind });
    }

    /// A command that nobody knows is shown as it is written.
    pub(super) fn unknown(&mut self, name: &str) -> Expression {
        let at = self.scan.at().saturating_sub(name.len() + 1);
        self.problem(at, ProblemKind::UnknownCommand(format!("\\{name}")));
        Expression::Source(format!("\\{name}").into())
    }

    pub(super) fn colour(&mut self, at: usize, model: &str, value: &str) -> String {
        css_colour(model, value).unwrap_or_else(|| {
            self.problem(at, ProblemKind::UnknownCommand(value.to_string()));
            "currentcolor".to_string()
        })
    }

    /// Digits, as a number or as signs of a style.
    pub(super) fn number(&self, digits: String) -> Expression {
        match self.style {
            LetterStyle::Usual | LetterStyle::Upright | LetterStyle::Slanted => {
                Expression::Number(digits.into())
            }
            style => Expression::Identifier(digits.into(), style),
        }
    }

    /// The digits behind the first one, with a point among them.
    fn long_number(&mut self, first: char) -> Expression {
        let mut digits = String::from(first);
        loop {
            let rest = self.scan.rest();
            let mut ahead = rest.chars();
            match (ahead.next(), ahead.next()) {
                (Some(digit), _) if digit.is_ascii_digit() => digits.push(digit),
                (Some('.'), Some(next)) if next.is_ascii_digit() && !digits.contains('.') => {
                    digits.push('.');
                }
                _ => break,
            }
            self.scan.next();
        }
        self.number(digits)
    }

    /// One part without scripts; `None` for what shows nothing.
    fn atom(&mut self, token: Token<'s>, at: usize) -> Option<Expression> {
        match token {
            Token::Character('{') => Some(match self.group() {
                Expression::Row(parts) => Expression::Row(parts),
                only => Expression::Row(vec![only]),
            }),
            Token::Character('$') => {
                self.problem(at, ProblemKind::Unbalanced("$".into()));
                None
            }
            Token::Character('~') => Some(Expression::Text("\u{a0}".into(), LetterStyle::Usual)),
            Token::Character(digit) if digit.is_ascii_digit() => Some(self.long_number(digit)),
            Token::Character(sign) => Some(self.character(sign)),
            Token::Command(name) => self.command(name, at),
        }
    }

    pub(super) fn character(&self, sign: char) -> Expression {
        match sign {
            '-' => Expression::operator("−"),
            '*' => Expression::operator("∗"),
            _ if sign.is_alphabetic() || sign == '∞' => {
                Expression::Identifier(sign.to_compact_string(), self.style)
            }
            _ => Expression::Operator(sign.to_compact_string()),
        }
    }

    pub(super) fn command(&mut self, name: &'s str, at: usize) -> Option<Expression> {
        if let Some((sign, class)) = symbol(name) {
            return Some(self.sign(sign, class));
        }
        if is_function(name) {
            return Some(Expression::Identifier(name.into(), LetterStyle::Name));
        }
        if let Some(room) = meaning(&SPACES, name) {
            return Some(Expression::Space(room));
        }
        if let Some(style) = meaning(&STYLES, name) {
            return Some(self.styled(style));
        }
        if let Some(style) = meaning(&TEXT_STYLES, name) {
            let raw = self.scan.raw_argument();
            return Some(self.guarded_words(raw, style));
        }
        if let Some(groups) = meaning(&BOXES, name) {
            return Some(self.boxed_words(groups));
        }
        if let Some((size, side)) = sized(name) {
            let sign = self.bracket();
            return Some(Expression::SizedBracket { sign: sign.into(), size, side });
        }
        if let Some(class) = meaning(&CLASSES, name) {
            let body = self.argument();
            return Some(Expression::Classed(class, Box::new(body)));
        }
        if let Some((_, sign, class)) = SIDED.iter().find(|(known, ..)| *known == name) {
            return Some(Expression::Classed(*class, Box::new(Expression::operator(*sign))));
        }
        if let Some((_, mark, _)) = ACCENTS.iter().find(|(.., known)| *known == name) {
            return Some(Expression::Accent { mark: *mark, base: Box::new(self.argument()) });
        }
        if let Some((sign, is_below, _)) = SPANS.iter().find(|(.., known)| *known == name) {
            let base = Box::new(self.argument());
            return Some(Expression::Span { sign: *sign, is_below: *is_below, base });
        }
        if let Some((arrow, _)) = ARROWS.iter().find(|(_, known)| *known == name) {
            let below = self.option().map(Box::new);
            let above = Some(Box::new(self.argument())).filter(|above| !above.is_nothing());
            let base = Expression::Stretched(arrow.to_compact_string());
            return Some(match (&below, &above) {
                (None, None) => base,
                _ => Expression::Stacked { base: Box::new(base), below, above },
            });
        }
        if let Some(strike) = meaning(&STRIKES, name) {
            return Some(Expression::Struck(strike, Box::new(self.argument())));
        }
        if let Some(overlap) = meaning(&OVERLAPS, name) {
            self.scan.raw_option();
            return Some(Expression::Overlapping(overlap, Box::new(self.argument())));
        }
        self.construct(name, at)
    }

    /// A sign; negated with a stroke through it where `\not` stands before.
    pub(super) fn sign(&self, sign: char, class: Class) -> Expression {
        match class {
            Class::Letter => Expression::Identifier(sign.to_compact_string(), self.style),
            Class::Large => Expression::LargeOperator {
                sign: sign.to_compact_string(),
                lower: None,
                upper: None,
                placement: usual_placement(sign),
                body: Box::new(Expression::nothing()),
            },
            _ => Expression::Operator(sign.to_compact_string()),
        }
    }

    /// An argument whose letters are set in a style; letters side by side are one name.
    pub(super) fn styled(&mut self, style: LetterStyle) -> Expression {
        let before = std::mem::replace(&mut self.style, style);
        let body = self.argument();
        self.style = before;
        match body {
            Expression::Row(parts) => {
                let mut joined: Vec<Expression> = Vec::new();
                for part in parts {
                    match (joined.last_mut(), &part) {
                        (
                            Some(Expression::Identifier(name, first)),
                            Expression::Identifier(more, second),
                        ) if *first == style && *second == style => name.push_str(more),
                        _ => joined.push(part),
                    }
                }
                Expression::of(joined)
            }
            only => only,
        }
    }

    /// The bracket behind `\left`, `\big` and the like; empty for none.
    pub(super) fn bracket(&mut self) -> String {
        let at = self.scan.at();
        match self.scan.next() {
            Some(Token::Character('.')) => String::new(),
            Some(Token::Character('<')) => "⟨".into(),
            Some(Token::Character('>')) => "⟩".into(),
            Some(Token::Character(sign)) if !sign.is_alphanumeric() && sign != '{' => sign.into(),
            Some(Token::Command("{")) => "{".into(),
            Some(Token::Command("}")) => "}".into(),
            Some(Token::Command("|")) => "‖".into(),
            Some(Token::Command(name)) => {
                match (symbol(name), SIDED.iter().find(|(n, ..)| *n == name)) {
                    (Some((sign, _)), _) => sign.into(),
                    (None, Some((_, sign, _))) => (*sign).into(),
                    (None, None) => {
                        self.scan.rewind(at);
                        self.problem(at, ProblemKind::Misplaced("a bracket is missing".into()));
                        String::new()
                    }
                }
            }
            _ => {
                self.scan.rewind(at);
                self.problem(at, ProblemKind::Misplaced("a bracket is missing".into()));
                String::new()
            }
        }
    }
}

/// Whether a formula defines commands of its own.
fn defines_macros(source: &str) -> bool {
    const DEFINITIONS: [&str; 4] = [r"\newcommand", r"\renewcommand", r"\providecommand", r"\def\"];
    source.contains('\\') && DEFINITIONS.iter().any(|definition| source.contains(definition))
}

/// What ends a row further out: a brace inside a cell that is closed too early, and the like.
fn is_outer_stop(token: Token<'_>, stop: Stop) -> bool {
    match stop {
        Stop::End => false,
        // A brace is closed by nothing else, or by the end of what it stands in.
        Stop::Brace => matches!(token, Token::Command("end" | "\\" | "cr")),
        Stop::Bracket | Stop::Right | Stop::Cell => {
            token == Token::Character('}')
                || is_line_stop(token)
                || token == Token::Command("end")
                || (stop == Stop::Bracket && matches!(token, Token::Command("right" | "middle")))
        }
    }
}

fn is_line_stop(token: Token<'_>) -> bool {
    matches!(token, Token::Character('&') | Token::Command("\\" | "cr" | "newline"))
}

/// Commands that are no part of their own.
fn is_control(name: &str) -> bool {
    matches!(name, "\\" | "right" | "middle" | "end" | "over" | "choose" | "limits" | "nolimits")
        || meaning(&SPACES, name).is_some()
}

pub(super) fn fenced(open: &str, body: Expression, close: &str) -> Expression {
    Expression::Fenced(Box::new(Fenced {
        open: open.into(),
        close: close.into(),
        separator: CompactString::default(),
        parts: vec![body],
    }))
}

pub(super) fn sized_as(size: FormulaSize, body: Expression) -> Expression {
    Expression::Sized(size, Box::new(body))
}

pub(super) fn modulo() -> Expression {
    Expression::Identifier("mod".into(), LetterStyle::Name)
}

/// Where the limits of a large operator stand when nothing is said.
pub(crate) fn usual_placement(sign: char) -> Placement {
    match sign {
        '∫'..='∳' | '⨌' => Placement::Behind,
        _ => Placement::BelowAndAbove,
    }
}

/// Scripts at their base: behind it, or below and above it.
pub(super) fn attached(
    base: Expression,
    sub: Part,
    sup: Part,
    placement: Option<Placement>,
) -> Expression {
    match base {
        Expression::LargeOperator { sign, lower: None, upper: None, placement: usual, body } => {
            let placement = match (placement, usual) {
                // Below and above is what sums do anyway, in displays.
                (Some(placement), _) => placement,
                (None, usual) => usual,
            };
            Expression::LargeOperator { sign, lower: sub, upper: sup, placement, body }
        }
        base if sub.is_none() && sup.is_none() => base,
        Expression::Stacked { base, below: None, above: None } => {
            Expression::Stacked { base, below: sub, above: sup }
        }
        base => {
            let is_stacked = match (&base, placement) {
                (_, Some(Placement::Behind)) => false,
                (_, Some(_)) => true,
                (Expression::Identifier(name, LetterStyle::Name), None) => has_limits(name),
                (Expression::Span { sign, .. }, None) => {
                    matches!(sign, '\u{23DE}' | '\u{23DF}' | '\u{23B4}' | '\u{23B5}')
                }
                (Expression::Classed(SpacingClass::Operator, _), None) => true,
                _ => false,
            };
            let base = Box::new(base);
            match is_stacked {
                true => Expression::Stacked { base, below: sub, above: sup },
                false => Expression::Scripts { base, sub, sup },
            }
        }
    }
}

/// A length in hundredths of a mathematical unit; an em has 18.
pub(super) fn hundredths(raw: &str) -> Option<i32> {
    let raw = raw.trim();
    let unit_at = raw.find(|c: char| c.is_ascii_alphabetic())?;
    let (number, unit) = raw.split_at(unit_at);
    let number: f64 = number.trim().parse().ok()?;
    let units = match unit.trim() {
        "mu" => 1.0,
        "em" => 18.0,
        "ex" => 7.75,
        "pt" => 1.8,
        "px" | "bp" => 1.807,
        "mm" => 5.122,
        "cm" => 51.22,
        "in" => 130.1,
        _ => return None,
    };
    Some((number * units * 100.0).round().clamp(-100_000.0, 100_000.0) as i32)
}
