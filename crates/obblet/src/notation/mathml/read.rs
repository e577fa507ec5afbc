//! MathML into the formula tree.

use super::letters::plain_text;
use super::{BRACKETS, FRAME, FUNCTION_ROOM, LEFT, NUMBER, OVERLINE, SOURCE, UNDERLINE, stroke};
use crate::math::{
    ACCENTS, Arrangement, Array, BracketSide, Class, Display, DisplayLine, Expression, Extent,
    Fenced, FormulaSize, FractionLine, LetterStyle, LineNumber, Overlap, Placement, SPANS,
    SpacingClass, Strike, class_of, is_function,
};
use crate::notation::tex::usual_placement;
use crate::source::CompactString;

/// How deep elements may stand in each other.
const DEEPEST: usize = 120;

/// An element of MathML.
#[derive(Debug, Clone, Default)]
pub(crate) struct Element {
    pub(crate) name: String,
    pub(crate) attributes: Vec<(String, String)>,
    pub(crate) children: Vec<Node>,
}

/// What an element holds.
#[derive(Debug, Clone)]
pub(crate) enum Node {
    Element(Element),
    Text(String),
}

impl Element {
    fn attribute(&self, name: &str) -> Option<&str> {
        self.attributes.iter().find(|(known, _)| known == name).map(|(_, value)| value.as_str())
    }

    fn has(&self, name: &str, value: &str) -> bool {
        self.attribute(name).is_some_and(|stated| stated.trim() == value)
    }

    fn elements(&self) -> impl Iterator<Item = &Element> {
        self.children.iter().filter_map(|child| match child {
            Node::Element(element) => Some(element),
            Node::Text(_) => None,
        })
    }

    fn text(&self) -> String {
        let mut text = String::new();
        for child in &self.children {
            match child {
                Node::Text(words) => text.push_str(words),
                Node::Element(element) => text.push_str(&element.text()),
            }
        }
        text.split_ascii_whitespace().collect::<Vec<_>>().join(" ")
    }
}

/// Reads what is in a `math` element. The names of elements that nobody knows are given back; what
/// is in them is read.
pub(crate) fn read_mathml(math: &Element) -> (Expression, Vec<String>) {
    let mut reader = Reader::default();
    let tree = reader.row(math);
    (display_in(&tree).cloned().unwrap_or(tree), reader.unknown)
}

/// The display that elements stand around which say nothing.
fn display_in(tree: &Expression) -> Option<&Expression> {
    let mut inner = tree;
    loop {
        match inner {
            Expression::Display(_) => return Some(inner),
            Expression::Row(parts) => match parts.as_slice() {
                [only] => inner = only,
                _ => return None,
            },
            _ => return None,
        }
    }
}

#[derive(Default)]
struct Reader {
    depth: usize,
    unknown: Vec<String>,
}

impl Reader {
    /// All children, side by side.
    fn row(&mut self, element: &Element) -> Expression {
        Expression::of(self.children(element))
    }

    fn children(&mut self, element: &Element) -> Vec<Expression> {
        if self.depth > DEEPEST {
            return vec![Expression::Text(element.text().into(), LetterStyle::Usual)];
        }
        self.depth += 1;
        let mut parts = Vec::new();
        let mut is_applied = false;
        for child in element.elements() {
            let unseen = match child.name.as_str() {
                "mo" => {
                    child.text().chars().next().filter(|c| ('\u{2061}'..='\u{2064}').contains(c))
                }
                _ => None,
            };
            match (unseen, parts.last_mut()) {
                // It says that the name before it is one of a function.
                (Some('\u{2061}'), Some(last)) => as_name(last),
                (Some(_), _) => {}
                (None, _) => {
                    let read = self.element(child);
                    // Room behind a name is no more than what the name asks for.
                    let is_usual_room =
                        is_applied && read == Some(Expression::Space(FUNCTION_ROOM));
                    parts.extend(read.filter(|_| !is_usual_room));
                }
            }
            is_applied = unseen == Some('\u{2061}');
        }
        self.depth -= 1;
        parts
    }

    /// The children of an element that has a fixed number of them.
    fn arguments(&mut self, element: &Element) -> Vec<Expression> {
        if self.depth > DEEPEST {
            return vec![Expression::Text(element.text().into(), LetterStyle::Usual)];
        }
        self.depth += 1;
        let found = element.elements().map(|child| self.argument(child)).collect();
        self.depth -= 1;
        found
    }

    fn argument(&mut self, element: &Element) -> Expression {
        self.element(element).unwrap_or(Expression::nothing())
    }

    /// One element; `None` for what shows nothing.
    fn element(&mut self, element: &Element) -> Option<Expression> {
        Some(match element.name.as_str() {
            "mi" => identifier(element),
            "mn" => number(&element.text()),
            "mo" => operator(element),
            "mtext" | "ms" => {
                self.unknown.extend(element.elements().map(|inner| inner.name.clone()));
                words(element)
            }
            "mspace" => Expression::Space(room(element.attribute("width"))),
            "mrow" | "mstyle" | "merror" | "mpadded" | "math" => self.group(element),
            "semantics" | "maction" => {
                let first = element.elements().next()?;
                return self.element(first);
            }
            "annotation" | "annotation-xml" | "maligngroup" | "malignmark" | "none"
            | "mprescripts" => return None,
            "mfrac" => self.fraction(element),
            "msqrt" => Expression::Root { body: Box::new(self.row(element)), degree: None },
            "mroot" => {
                let [body, degree] = self.fixed(element);
                Expression::Root { body, degree: Some(degree) }
            }
            "msub" | "msup" | "msubsup" | "munder" | "mover" | "munderover" => {
                self.scripted(element)
            }
            "mmultiscripts" => self.multiscripts(element),
            "mtable" => self.table(element),
            "mphantom" => Expression::Invisible(Extent::Both, Box::new(self.row(element))),
            "menclose" => self.enclosed(element),
            "mfenced" => self.old_fenced(element),
            "mtr" | "mtd" | "mlabeledtr" => Expression::Row(self.children(element)),
            other => {
                self.unknown.push(other.to_string());
                Expression::Row(self.children(element))
            }
        })
    }

    fn fixed<const N: usize>(&mut self, element: &Element) -> [Box<Expression>; N] {
        let mut found = self.arguments(element).into_iter();
        std::array::from_fn(|_| Box::new(found.next().unwrap_or(Expression::nothing())))
    }

    /// A row, with what its attributes say.
    fn group(&mut self, element: &Element) -> Expression {
        let style = element.attribute("style").unwrap_or_default().trim();
        let parts = match self.fenced(element) {
            Some(fenced) => return fenced,
            None => self.children(element),
        };
        let body = || Box::new(Expression::of(parts.clone()));
        if style == OVERLINE {
            return Expression::Span { sign: '\u{AF}', is_below: false, base: body() };
        }
        if style == UNDERLINE {
            return Expression::Span { sign: '_', is_below: true, base: body() };
        }
        if style == FRAME {
            return Expression::Framed(body());
        }
        let strikes = [Strike::Rising, Strike::Falling, Strike::Crossed, Strike::Level];
        if let Some(strike) = strikes.into_iter().find(|strike| style == stroke(*strike)) {
            return Expression::Struck(strike, body());
        }
        let is_plain = |colour: &&str| {
            colour.chars().all(|c| c.is_ascii_alphanumeric() || c == '#') && !colour.is_empty()
        };
        let colour = css_value(style, "color").or(element.attribute("mathcolor")).filter(is_plain);
        if let Some(colour) = colour {
            return Expression::Coloured(colour.into(), body());
        }
        if element.name == "mpadded" {
            let is_flat = element.has("height", "0") && element.has("depth", "0");
            if is_flat || element.has("width", "0") {
                let extent = if is_flat { Extent::Width } else { Extent::Height };
                return match parts.as_slice() {
                    [Expression::Invisible(Extent::Both, body)] => {
                        Expression::Invisible(extent, body.clone())
                    }
                    _ if is_flat => Expression::Overlapping(Overlap::Height, body()),
                    _ => Expression::Overlapping(Overlap::Right, body()),
                };
            }
        }
        if element.name == "mstyle" {
            let size = match (element.attribute("displaystyle"), element.attribute("scriptlevel")) {
                (Some("true"), _) => Some(FormulaSize::Display),
                (Some("false"), Some("1")) => Some(FormulaSize::Script),
                (Some("false"), Some("2")) => Some(FormulaSize::SmallScript),
                (Some("false"), _) => Some(FormulaSize::Text),
                _ => None,
            };
            return match size {
                Some(size) => Expression::Sized(size, body()),
                None => Expression::Row(parts),
            };
        }
        Expression::Row(parts)
    }

    /// A row between brackets that grow.
    fn fenced(&mut self, element: &Element) -> Option<Expression> {
        let is_fence = |child: &Element, form: &str| {
            child.name == "mo"
                && child.has("stretchy", "true")
                && child.has("form", form)
                && child.attribute("minsize").is_none()
        };
        let children: Vec<&Element> = element.elements().collect();
        let open = children.first().filter(|first| is_fence(first, "prefix"));
        let close = children.last().filter(|last| is_fence(last, "postfix"));
        if open.is_none() && close.is_none() {
            return None;
        }
        let from = usize::from(open.is_some());
        let to = children.len() - usize::from(close.is_some());
        let mut separator = String::new();
        let mut parts = vec![Vec::new()];
        if self.depth > DEEPEST {
            return None;
        }
        self.depth += 1;
        for child in children.get(from..to).unwrap_or_default() {
            if is_fence(child, "infix") {
                separator = child.text();
                parts.push(Vec::new());
            } else if let (Some(part), Some(read)) = (parts.last_mut(), self.element(child)) {
                part.push(read);
            }
        }
        self.depth -= 1;
        let unwrapped = |part: Vec<Expression>| match Expression::of(part) {
            Expression::Row(parts) => Expression::of(parts),
            only => only,
        };
        Some(Expression::Fenced(Box::new(Fenced {
            open: open.map(|mo| mo.text().into()).unwrap_or_default(),
            close: close.map(|mo| mo.text().into()).unwrap_or_default(),
            separator: separator.into(),
            parts: parts.into_iter().map(unwrapped).collect(),
        })))
    }

    fn fraction(&mut self, element: &Element) -> Expression {
        let [over, under] = self.fixed(element);
        let line = match element.attribute("linethickness") {
            Some(width) if width.trim_start().starts_with('0') => FractionLine::None,
            _ if element.has("bevelled", "true") => FractionLine::Slanted,
            _ => FractionLine::Bar,
        };
        Expression::Fraction { over, under, line }
    }

    fn scripted(&mut self, element: &Element) -> Expression {
        let name = element.name.as_str();
        let mut parts = self.arguments(element).into_iter();
        let base = parts.next().unwrap_or(Expression::nothing());
        let mut next = || parts.next().map(Box::new);
        let (below, above) = match name {
            "msub" | "munder" => (next(), None),
            "msup" | "mover" => (None, next()),
            _ => (next(), next()),
        };
        let is_behind = name.starts_with("ms");
        if let Expression::LargeOperator { sign, placement, body, .. } = base {
            let placement = match (is_behind, placement) {
                (true, _) => Placement::Behind,
                (false, Placement::AlwaysBelowAndAbove) => Placement::AlwaysBelowAndAbove,
                (false, _) => Placement::BelowAndAbove,
            };
            return Expression::LargeOperator { sign, lower: below, upper: above, placement, body };
        }
        let base = Box::new(base);
        if is_behind {
            return Expression::Scripts { base, sub: below, sup: above };
        }
        if matches!(*base, Expression::Stretched(_)) {
            let [below, above] =
                [below, above].map(|part| part.map(|words| Box::new(without_room(*words))));
            return Expression::Stacked { base, below, above };
        }
        let scripts: Vec<&Element> = element.elements().skip(1).collect();
        if let ([mark], "mover" | "munder") = (scripts.as_slice(), name)
            && mark.name == "mo"
            && let Some(spanned) = spanning(element, mark, &base, name == "munder")
        {
            return spanned;
        }
        Expression::Stacked { base, below, above }
    }

    /// Scripts before and behind; only the first pair on each side can be kept in one part.
    fn multiscripts(&mut self, element: &Element) -> Expression {
        let mut children = element.elements();
        let base = children.next().map(|base| self.argument(base)).unwrap_or(Expression::nothing());
        let (mut behind, mut before) = (Vec::new(), Vec::new());
        let mut is_before = false;
        for child in children {
            match child.name.as_str() {
                "mprescripts" => is_before = true,
                _ => {
                    let script = Some(self.argument(child)).filter(|script| !script.is_nothing());
                    if is_before { before.push(script) } else { behind.push(script) }
                }
            }
        }
        let mut whole = base;
        for pair in behind.chunks(2) {
            whole = with_pair(whole, pair, false);
        }
        for pair in before.chunks(2).rev() {
            whole = with_pair(whole, pair, true);
        }
        whole
    }

    fn table(&mut self, element: &Element) -> Expression {
        if self.depth > DEEPEST {
            return Expression::Text(element.text().into(), LetterStyle::Usual);
        }
        self.depth += 1;
        let rows: Vec<&Element> = element.elements().filter(|row| row.name == "mtr").collect();
        let is_number = |cell: &Element| cell.has("style", NUMBER);
        let is_display = element.has("displaystyle", "true");
        let is_words = |cell: &Element| cell.has("style", LEFT);
        let is_told = |row: &&&Element| {
            row.attribute("id").is_some()
                || row.elements().any(is_number)
                || row.elements().next().is_some_and(is_words)
        };
        let has_numbers = is_display && rows.iter().any(|row| is_told(&row));
        let styles: Vec<Vec<String>> = rows
            .iter()
            .map(|row| {
                let style =
                    |cell: &Element| cell.attribute("style").unwrap_or_default().to_string();
                row.elements().map(style).collect()
            })
            .collect();
        let arrangement = arrangement_of(&styles);
        let read = if has_numbers || (is_display && arrangement != Arrangement::Aligned) {
            self.display(&rows, arrangement)
        } else {
            let read: Vec<Vec<Expression>> = rows
                .iter()
                .map(|row| row.elements().map(|cell| self.row(cell)).collect())
                .collect();
            if is_display {
                Expression::Lines(read)
            } else if styles.iter().flatten().any(|style| !style.is_empty()) {
                let (columns, lines) = array_columns(&styles);
                Expression::Array(Box::new(Array { columns, rows: read, lines }))
            } else {
                Expression::Matrix(read)
            }
        };
        self.depth -= 1;
        read
    }

    fn display(&mut self, rows: &[&Element], arrangement: Arrangement) -> Expression {
        let mut lines = Vec::new();
        for row in rows {
            let label = row.attribute("id").map(ToString::to_string);
            let mut line = DisplayLine { label: label.map(Into::into), ..DisplayLine::default() };
            for cell in row.elements() {
                if cell.has("style", NUMBER) {
                    let shown = cell.text();
                    let inner = shown.strip_prefix('(').and_then(|rest| rest.strip_suffix(')'));
                    line.number = match (shown.as_str(), inner) {
                        ("", _) => LineNumber::None,
                        (_, Some(inner)) => LineNumber::Stated(inner.into()),
                        (bare, None) => LineNumber::Bare(bare.into()),
                    };
                } else {
                    let is_alone = row.elements().count() == 1;
                    line.is_words =
                        is_alone && arrangement != Arrangement::Broken && cell.has("style", LEFT);
                    line.cells.push(self.row(cell));
                }
            }
            lines.push(line);
        }
        Expression::Display(Box::new(Display { arrangement, lines }))
    }

    /// `menclose` of MathML before Core.
    fn enclosed(&mut self, element: &Element) -> Expression {
        let body = Box::new(self.row(element));
        let notation = element.attribute("notation").unwrap_or("longdiv");
        let is = |name: &str| notation.split_ascii_whitespace().any(|known| known == name);
        match () {
            () if is("box") || is("roundedbox") || is("circle") => Expression::Framed(body),
            () if is("updiagonalstrike") && is("downdiagonalstrike") => {
                Expression::Struck(Strike::Crossed, body)
            }
            () if is("updiagonalstrike") => Expression::Struck(Strike::Rising, body),
            () if is("downdiagonalstrike") => Expression::Struck(Strike::Falling, body),
            () if is("horizontalstrike") => Expression::Struck(Strike::Level, body),
            () if is("top") => Expression::Span { sign: '\u{AF}', is_below: false, base: body },
            () if is("bottom") => Expression::Span { sign: '_', is_below: true, base: body },
            () if is("radical") => Expression::Root { body, degree: None },
            () => {
                self.unknown.push(format!("menclose {notation}"));
                *body
            }
        }
    }

    /// `mfenced` of MathML before Core.
    fn old_fenced(&mut self, element: &Element) -> Expression {
        let parts = self.arguments(element);
        let separators = element.attribute("separators").unwrap_or(",").trim();
        let separator = separators.chars().next().map(String::from).unwrap_or_default();
        let stated = |name: &str, usual: &str| element.attribute(name).unwrap_or(usual).to_string();
        let mut joined = Vec::new();
        for (at, part) in parts.into_iter().enumerate() {
            if at > 0 && !separator.is_empty() {
                joined.push(Expression::operator(separator.clone()));
            }
            joined.push(part);
        }
        Expression::Fenced(Box::new(Fenced {
            open: stated("open", "(").into(),
            close: stated("close", ")").into(),
            separator: CompactString::default(),
            parts: vec![Expression::of(joined)],
        }))
    }
}

/// What stands on an arrow, without the room at its sides.
fn without_room(words: Expression) -> Expression {
    match words {
        Expression::Row(parts) => match parts.as_slice() {
            [Expression::Space(_), inner, Expression::Space(_)] => inner.clone(),
            _ => Expression::Row(parts),
        },
        only => only,
    }
}

fn with_pair(base: Expression, pair: &[Option<Expression>], is_before: bool) -> Expression {
    let script = |at: usize| pair.get(at).cloned().flatten().map(Box::new);
    let (base, sub, sup) = (Box::new(base), script(0), script(1));
    match is_before {
        true => Expression::PreScripts { base, sub, sup },
        false => Expression::Scripts { base, sub, sup },
    }
}

fn identifier(element: &Element) -> Expression {
    let text = element.text();
    let stated = match element.attribute("mathvariant") {
        Some("bold") => Some(LetterStyle::Bold),
        Some("italic") => Some(LetterStyle::Slanted),
        Some("bold-italic") => Some(LetterStyle::BoldSlanted),
        Some("double-struck") => Some(LetterStyle::DoubleStruck),
        Some("script" | "bold-script") => Some(LetterStyle::Script),
        Some("fraktur" | "bold-fraktur") => Some(LetterStyle::Fraktur),
        Some("sans-serif" | "bold-sans-serif") => Some(LetterStyle::SansSerif),
        Some("monospace") => Some(LetterStyle::Monospace),
        _ => None,
    };
    if let Some(style) = stated {
        return Expression::Identifier(text.into(), style);
    }
    if let Some((plain, style)) = plain_text(&text) {
        return Expression::Identifier(plain.into(), style);
    }
    let mut characters = text.chars();
    let first = characters.next().unwrap_or_default();
    let style = match characters.next() {
        None if ('Α'..='Ω').contains(&first) => LetterStyle::Usual,
        None if element.has("mathvariant", "normal") => LetterStyle::Upright,
        None => LetterStyle::Usual,
        Some('\u{338}') => LetterStyle::Usual,
        Some(_) if is_function(&text) => LetterStyle::Name,
        Some(_) => LetterStyle::Upright,
    };
    Expression::Identifier(text.into(), style)
}

fn number(text: &str) -> Expression {
    match plain_text(text) {
        Some((plain, style)) => Expression::Identifier(plain.into(), style),
        None => Expression::Number(text.into()),
    }
}

fn operator(element: &Element) -> Expression {
    let text = element.text();
    let mut characters = text.chars();
    let first = characters.next().unwrap_or_default();
    let is_single = characters.next().is_none();
    if text == "-" {
        return Expression::operator("−");
    }
    if is_single && class_of(first) == Class::Large {
        let is_fixed = element.has("movablelimits", "false");
        let placement =
            if is_fixed { Placement::AlwaysBelowAndAbove } else { usual_placement(first) };
        let body = Box::new(Expression::nothing());
        return Expression::LargeOperator {
            sign: text.into(),
            lower: None,
            upper: None,
            placement,
            body,
        };
    }
    if element.has("stretchy", "true") {
        let side = match element.attribute("form") {
            Some("prefix") => BracketSide::Open,
            Some("postfix") => BracketSide::Close,
            Some("infix") => BracketSide::Middle,
            _ => BracketSide::Unstated,
        };
        let height = element.attribute("minsize").unwrap_or_default();
        if let Some(at) = BRACKETS.iter().position(|known| *known == height) {
            return Expression::SizedBracket { sign: text.into(), size: at as u8 + 1, side };
        }
        if class_of(first) == Class::Relation {
            return Expression::Stretched(text.into());
        }
    }
    if first.is_ascii_alphabetic() {
        let name = Expression::Identifier(text.into(), LetterStyle::Name);
        return match element.attribute("lspace") {
            Some(_) => Expression::Classed(SpacingClass::Binary, Box::new(name)),
            None => name,
        };
    }
    Expression::Operator(text.into())
}

fn words(element: &Element) -> Expression {
    let style = element.attribute("style").unwrap_or_default();
    let text = element.text();
    if style == SOURCE {
        return Expression::Source(text.into());
    }
    let style = match style.replace(' ', "").as_str() {
        "font-style:italic" => LetterStyle::Slanted,
        "font-weight:bold" => LetterStyle::Bold,
        "font-family:sans-serif" => LetterStyle::SansSerif,
        "font-family:monospace" => LetterStyle::Monospace,
        _ => LetterStyle::Usual,
    };
    Expression::Text(text.replace('\u{a0}', " ").into(), style)
}

/// A length as hundredths of a unit, of which 18 are an em.
fn room(width: Option<&str>) -> i32 {
    let width = width.unwrap_or_default().trim();
    let (number, scale) = match width.strip_suffix("em") {
        Some(number) => (number, 1800.0),
        None => (width.strip_suffix("px").unwrap_or(width), 112.5),
    };
    let number: f64 = number.trim().parse().unwrap_or(0.0);
    (number * scale).round().clamp(-100_000.0, 100_000.0) as i32
}

/// An accent, or a sign that spans what is below or above it.
fn spanning(
    element: &Element,
    mark: &Element,
    base: &Expression,
    is_below: bool,
) -> Option<Expression> {
    let text = mark.text();
    let mut characters = text.chars();
    let sign = characters.next().filter(|_| characters.next().is_none())?;
    let base = Box::new(base.clone());
    let is_fixed = mark.has("stretchy", "false");
    let span = SPANS.iter().find(|(known, below, _)| {
        let same = *known == sign
            || (*known == '^' && sign == '\u{302}')
            || (*known == '~' && sign == '\u{303}')
            || (*known == '\u{AF}' && matches!(sign, '\u{203E}' | '―' | '¯'));
        same && *below == is_below
    });
    if let Some((sign, ..)) = span.filter(|_| !is_fixed) {
        return Some(Expression::Span { sign: *sign, is_below, base });
    }
    let is_accent = element.has("accent", "true") && !is_below;
    let known = ACCENTS.iter().find(|(own, joined, _)| *own == sign || *joined == sign)?;
    is_accent.then_some(Expression::Accent { mark: known.1, base })
}

/// A name before what is not seen is that of a function.
fn as_name(part: &mut Expression) {
    match part {
        Expression::Identifier(_, style @ LetterStyle::Upright) => *style = LetterStyle::Name,
        Expression::Scripts { base, .. } | Expression::Stacked { base, .. } => as_name(base),
        _ => {}
    }
}

/// How the lines of a display are set, from the styles of their cells.
fn arrangement_of(styles: &[Vec<String>]) -> Arrangement {
    fn first(row: Option<&Vec<String>>) -> &str {
        row.and_then(|row| row.first()).map_or("", String::as_str)
    }
    let is_broken = styles.len() > 1
        && first(styles.first()) == LEFT
        && css_value(first(styles.last()), "text-align") == Some("right");
    let is_aligned = |row: &Vec<String>| row.iter().any(|style| style.contains("padding-right: 0"));
    match styles {
        _ if is_broken => Arrangement::Broken,
        _ if styles.iter().any(is_aligned) => Arrangement::Aligned,
        [_] => Arrangement::Single,
        _ => Arrangement::Gathered,
    }
}

/// Columns and lines of an array from the styles of its cells.
fn array_columns(styles: &[Vec<String>]) -> (String, Vec<usize>) {
    let mut columns = String::new();
    let longest = styles.iter().max_by_key(|row| row.len());
    for style in longest.map_or(&[][..], Vec::as_slice) {
        if style.contains("border-left") {
            columns.push('|');
        }
        columns.push(match css_value(style, "text-align") {
            Some("left") => 'l',
            Some("right") => 'r',
            _ => 'c',
        });
        if style.contains("border-right") {
            columns.push('|');
        }
    }
    let mut lines = Vec::new();
    for (at, row) in styles.iter().enumerate() {
        if row.iter().any(|style| style.contains("border-top")) {
            lines.push(at);
        }
        if row.iter().any(|style| style.contains("border-bottom")) {
            lines.push(at + 1);
        }
    }
    (columns, lines)
}

/// The value of a property in a `style` attribute.
fn css_value<'s>(style: &'s str, property: &str) -> Option<&'s str> {
    style.split(';').find_map(|declaration| {
        let (name, value) = declaration.split_once(':')?;
        (name.trim() == property).then(|| value.trim())
    })
}
