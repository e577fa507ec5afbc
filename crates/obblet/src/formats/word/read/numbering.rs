//! Numbering definitions (ECMA-376 part 1, 17.9), and the counters that make numbers of them.

use super::super::number_formats::NumberFormat;
use super::super::xml::{Element, Ns, Xml};
use super::context::Context;
use super::paragraph_properties::ParagraphProperties;
use super::run_properties::RunProperties;
use crate::document::{CompactString, Looks, NumberDelimiter, NumeralStyle};
use std::collections::{HashMap, HashSet};
use std::rc::Rc;

/// Levels of a list, as the standard has them.
pub(super) const LEVELS: usize = 9;

/// How one level of a list is numbered.
#[derive(Debug, Clone)]
pub(super) struct Level {
    start: i32,
    pub(super) format: NumberFormat,
    /// The label with `%n` for the number of level `n`.
    text: String,
    /// The level after which numbers start anew; `Some(0)` for never.
    restart: Option<usize>,
    /// All numbers of the label in decimal.
    is_legal: bool,
    /// The paragraph style whose paragraphs stand on this level.
    style: Option<CompactString>,
    /// What stands before items that have no number.
    pub(super) bullet: Option<char>,
    /// The bullet is a picture.
    pub(super) has_picture: bool,
    /// What the level says of its paragraphs' looks.
    pub(super) looks: Option<Box<Looks>>,
}

impl Default for Level {
    fn default() -> Self {
        Self {
            start: 1,
            format: NumberFormat::Numeral(NumeralStyle::Decimal),
            text: String::new(),
            restart: None,
            is_legal: false,
            style: None,
            bullet: None,
            has_picture: false,
            looks: None,
        }
    }
}

#[derive(Debug, Default)]
struct AbstractNumbering {
    levels: [Level; LEVELS],
    /// The numbering style that this definition stands for or leads to.
    style_link: Option<CompactString>,
    number_style_link: Option<CompactString>,
}

#[derive(Debug, Default)]
struct Numbering {
    abstract_id: i64,
    /// New starts, and whole new levels, of this list alone.
    start_overrides: HashMap<usize, i32>,
    level_overrides: HashMap<usize, Level>,
}

/// A list with its levels settled.
#[derive(Debug)]
pub(super) struct ListDefinition {
    /// Lists of one abstract definition share counters.
    sequence: i64,
    levels: Vec<Rc<Level>>,
    start_overrides: HashMap<usize, i32>,
}

/// All lists of a package, with the state of their counters.
#[derive(Debug, Default)]
pub(super) struct Numberings {
    abstracts: HashMap<i64, AbstractNumbering>,
    lists: HashMap<i64, Numbering>,
    /// The definition that a numbering style stands for, by the style's id.
    by_style: HashMap<CompactString, i64>,
    settled: HashMap<i64, Option<Rc<ListDefinition>>>,
    /// The last number of each level, by abstract definition.
    counters: HashMap<i64, [Option<i32>; LEVELS]>,
    /// New starts that have been used.
    started: HashSet<(i64, usize)>,
}

/// The number of one paragraph.
#[derive(Debug, Clone)]
pub(super) struct Numbered {
    /// Lists of one sequence share their counters.
    pub(super) sequence: i64,
    pub(super) level: usize,
    pub(super) number: i32,
    pub(super) delimiter: NumberDelimiter,
    /// The label's pattern, when it shows more than this level's number.
    pub(super) pattern: Option<CompactString>,
    /// The whole label as Word shows it.
    pub(super) label: String,
    pub(super) definition: Rc<Level>,
}

impl Numbered {
    pub(super) fn format(&self) -> NumberFormat {
        self.definition.format
    }
}

impl Numberings {
    /// Reads the numbering part.
    pub(super) fn read(text: &str, context: &mut Context<'_>) -> Self {
        let mut all = Self::default();
        let mut xml = Xml::new(text);
        let top = xml.level();
        while let Some(root) = xml.child(top) {
            if !root.is("numbering") {
                context.unknown(&root);
            }
            let level = xml.level();
            while root.is("numbering")
                && let Some(element) = xml.child(level)
            {
                match element.local() {
                    "abstractNum" => {
                        let id = element.number("abstractNumId").unwrap_or_default();
                        let found = AbstractNumbering::read(&mut xml, context);
                        if let Some(style) = &found.style_link {
                            all.by_style.entry(style.clone()).or_insert(id);
                        }
                        all.abstracts.insert(id, found);
                    }
                    "num" => {
                        let id = element.number("numId").unwrap_or_default();
                        all.lists.insert(id, Numbering::read(&mut xml, context));
                    }
                    // Bullets of pictures are reported where a list uses one.
                    "numPicBullet" | "numIdMacAtCleanup" => {}
                    _ => context.unknown(&element),
                }
            }
        }
        all
    }

    /// The abstract definition of a list, through the numbering style it may lead to.
    fn abstract_of(&self, list: i64) -> Option<(i64, &AbstractNumbering)> {
        let id = self.lists.get(&list)?.abstract_id;
        let found = self.abstracts.get(&id)?;
        let linked = found.number_style_link.as_ref().and_then(|style| self.by_style.get(style));
        let linked = linked.and_then(|id| self.abstracts.get(id).map(|found| (*id, found)));
        linked.or(Some((id, found)))
    }

    fn settle(&self, list: i64) -> Option<ListDefinition> {
        let (sequence, definition) = self.abstract_of(list)?;
        let own = self.lists.get(&list)?;
        let level = |(at, level): (usize, &Level)| {
            Rc::new(own.level_overrides.get(&at).unwrap_or(level).clone())
        };
        let levels = definition.levels.iter().enumerate().map(level).collect();
        Some(ListDefinition { sequence, levels, start_overrides: own.start_overrides.clone() })
    }

    fn definition(&mut self, list: i64) -> Option<Rc<ListDefinition>> {
        if let Some(known) = self.settled.get(&list) {
            return known.clone();
        }
        let settled = self.settle(list).map(Rc::new);
        self.settled.insert(list, settled.clone());
        settled
    }

    /// The level of a list that belongs to a paragraph style (17.9.23).
    pub(super) fn level_of_style(&mut self, list: i64, style: &str) -> Option<usize> {
        let definition = self.definition(list)?;
        definition.levels.iter().position(|level| level.style.as_deref() == Some(style))
    }

    /// Counts one paragraph of a list. `None` when there is no such list.
    pub(super) fn count(&mut self, list: i64, level: usize) -> Option<Numbered> {
        let level = level.min(LEVELS - 1);
        let definition = self.definition(list)?;
        let sequence = definition.sequence;
        let counters = self.counters.entry(sequence).or_default();
        let override_of = definition.start_overrides.get(&level);
        let new_start = override_of.filter(|_| self.started.insert((list, level)));
        let current = definition.levels.get(level)?.clone();
        let last = counters.get(level).copied().flatten();
        let number = match (new_start, last) {
            (Some(start), _) => *start,
            (None, Some(last)) => last.saturating_add(1),
            (None, None) => override_of.copied().unwrap_or(current.start),
        };
        for (at, counter) in counters.iter_mut().enumerate() {
            let restart = definition.levels.get(at).and_then(|level| level.restart).unwrap_or(at);
            match at {
                _ if at == level => *counter = Some(number),
                _ if at > level && restart > level => *counter = None,
                _ => {}
            }
        }
        let label = label(&definition.levels, counters, &current, level);
        let (delimiter, pattern) = delimiter(&current.text, level);
        Some(Numbered { sequence, level, number, delimiter, pattern, label, definition: current })
    }
}

/// The label of a level, all numbers filled in.
fn label(
    levels: &[Rc<Level>],
    counters: &[Option<i32>; LEVELS],
    current: &Level,
    own: usize,
) -> String {
    let mut label = String::with_capacity(current.text.len() + 4);
    let mut rest = current.text.as_str();
    while let Some((before, behind)) = rest.split_once('%') {
        label.push_str(before);
        let digit = behind.chars().next().and_then(|c| c.to_digit(10)).filter(|n| *n > 0);
        let Some(at) = digit.map(|digit| digit as usize - 1) else {
            label.push('%');
            rest = behind;
            continue;
        };
        rest = behind.get(1..).unwrap_or_default();
        // A level below has no number here.
        if let Some(definition) = levels.get(at).filter(|_| at <= own) {
            let number = counters.get(at).copied().flatten().unwrap_or(definition.start);
            match definition.format {
                _ if current.is_legal => label.push_str(&number.to_string()),
                format => label.push_str(&format.spell(number)),
            }
        }
    }
    label.push_str(rest);
    label
}

/// What stands around a label's own number, and the pattern where that is not all.
fn delimiter(text: &str, level: usize) -> (NumberDelimiter, Option<CompactString>) {
    let mark = text.find('%').and_then(|at| text.split_at_checked(at));
    let own = mark.and_then(|(before, behind)| {
        let number = behind.get(1..2)?.parse::<usize>().ok()?;
        (number == level + 1).then_some((before, behind.get(2..)?))
    });
    match own {
        Some(("", "." | ".\u{a0}")) => (NumberDelimiter::Period, None),
        Some(("", ")")) => (NumberDelimiter::Parenthesis, None),
        Some(("(", ")")) => (NumberDelimiter::Parentheses, None),
        Some(("", "")) => (NumberDelimiter::None, None),
        _ => (NumberDelimiter::Period, Some(text.into())),
    }
}

impl AbstractNumbering {
    fn read(xml: &mut Xml<'_>, context: &mut Context<'_>) -> Self {
        let mut numbering = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "lvl" => {
                    let at = level_index(&element);
                    let read = Level::read(xml, context);
                    if let Some(place) = at.and_then(|at| numbering.levels.get_mut(at)) {
                        *place = read;
                    }
                }
                "styleLink" => numbering.style_link = element.short(),
                "numStyleLink" => numbering.number_style_link = element.short(),
                // How the program names and offers the list.
                "nsid" | "multiLevelType" | "tmpl" | "name" => {}
                _ => context.unknown(&element),
            }
        }
        numbering
    }
}

impl Numbering {
    fn read(xml: &mut Xml<'_>, context: &mut Context<'_>) -> Self {
        let mut numbering = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "abstractNumId" => {
                    numbering.abstract_id = element.number("val").unwrap_or_default();
                }
                "lvlOverride" => {
                    let Some(at) = level_index(&element) else { continue };
                    let inside = xml.level();
                    while let Some(property) = xml.child(inside) {
                        match property.local() {
                            "startOverride" => {
                                let start = small(property.number("val")).unwrap_or(1);
                                numbering.start_overrides.insert(at, start);
                            }
                            "lvl" => {
                                let level = Level::read(xml, context);
                                numbering.level_overrides.insert(at, level);
                            }
                            _ => context.unknown(&property),
                        }
                    }
                }
                _ => context.unknown(&element),
            }
        }
        numbering
    }
}

impl Level {
    fn read(xml: &mut Xml<'_>, context: &mut Context<'_>) -> Self {
        let mut found = Self::default();
        let mut run = RunProperties::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "start" => found.start = small(element.number("val")).unwrap_or(1),
                "numFmt" => found.format = number_format(&element),
                "lvlText" => found.text = element.val().unwrap_or_default().into_owned(),
                "lvlRestart" => {
                    found.restart = element.number("val").and_then(|n| usize::try_from(n).ok());
                }
                "isLgl" => found.is_legal = element.is_on(),
                "pStyle" => found.style = element.short(),
                "lvlPicBulletId" => found.has_picture = true,
                "pPr" => found.looks = ParagraphProperties::read(xml, context).looks,
                "rPr" => run = RunProperties::read(xml, context),
                // Newer formats are stated twice: for programs that know them, and for others.
                "AlternateContent" if element.ns == Ns::Compatibility => {
                    let inside = xml.level();
                    while let Some(inner) = xml.descendant(inside) {
                        if inner.is("numFmt") {
                            found.format = number_format(&inner);
                            break;
                        }
                    }
                }
                "suff" | "lvlJc" | "legacy" => {}
                _ => context.unknown(&element),
            }
        }
        if found.format == NumberFormat::Bullet {
            let bullet = match run.symbol_font.flatten() {
                Some(font) => font.text(&found.text).0,
                None => found.text.clone(),
            };
            found.bullet = bullet.chars().next().filter(|character| !is_private(*character));
        }
        found
    }
}

fn is_private(character: char) -> bool {
    ('\u{E000}'..='\u{F8FF}').contains(&character) || character == '\u{FFFD}'
}

fn number_format(element: &Element<'_>) -> NumberFormat {
    let by_example = element.value("format").and_then(|example| NumberFormat::of_example(&example));
    by_example.unwrap_or_else(|| NumberFormat::of(&element.val().unwrap_or_default()))
}

fn level_index(element: &Element<'_>) -> Option<usize> {
    element.number("ilvl").and_then(|n| usize::try_from(n).ok()).filter(|at| *at < LEVELS)
}

fn small(number: Option<i64>) -> Option<i32> {
    number.and_then(|number| i32::try_from(number).ok())
}

#[cfg(test)]
mod tests {
    use super::*;

    const SAMPLE: &str = r#"<w:numbering
        xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main">
        <w:abstractNum w:abstractNumId="5">
            <w:lvl w:ilvl="0"><w:start w:val="1"/><w:numFmt w:val="decimal"/><w:lvlText w:val="%1."/></w:lvl>
            <w:lvl w:ilvl="1"><w:start w:val="1"/><w:numFmt w:val="lowerLetter"/><w:lvlText w:val="%1.%2)"/></w:lvl>
            <w:lvl w:ilvl="2"><w:start w:val="4"/><w:numFmt w:val="lowerRoman"/><w:lvlText w:val="(%3)"/></w:lvl>
        </w:abstractNum>
        <w:num w:numId="1"><w:abstractNumId w:val="5"/></w:num>
        <w:num w:numId="2"><w:abstractNumId w:val="5"/><w:lvlOverride w:ilvl="0"><w:startOverride w:val="7"/></w:lvlOverride></w:num>
    </w:numbering>"#;

    #[test]
    fn counters_go_on_restart_and_nest_as_word_counts() {
        let (theme, mut looks) = Default::default();
        let mut context = Context::new(&theme, false, &mut looks);
        let mut all = Numberings::read(SAMPLE, &mut context);
        let steps = [
            (1, 0, "1."),
            (1, 1, "1.a)"),
            (1, 1, "1.b)"),
            (1, 2, "(iv)"),
            (1, 2, "(v)"),
            (1, 0, "2."),
            (1, 1, "2.a)"),
            (2, 0, "7."),
            (2, 0, "8."),
            (1, 0, "9."),
        ];
        for (list, level, expected) in steps {
            assert_eq!(all.count(list, level).unwrap().label, expected);
        }
        assert!(all.count(3, 0).is_none());
    }
}
