//! Numbering definitions (ECMA-376 part 1, 17.9), and the counters that make numbers of them.

use super::super::xml::{Element, Xml};
use crate::document::{NumberDelimiter, NumeralStyle};
use std::collections::{HashMap, HashSet};

/// Levels of a list, as the standard has them.
const LEVELS: usize = 9;

/// How one level of a list is numbered.
#[derive(Debug, Clone)]
pub(super) struct Level {
    start: i32,
    pub(super) format: NumberFormat,
    /// The label with `%n` for the number of level `n`.
    pub(super) text: String,
    /// The level after which numbers start anew; `Some(0)` for never.
    restart: Option<usize>,
    /// All numbers of the label in decimal.
    is_legal: bool,
}

/// How numbers are spelled.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum NumberFormat {
    Bullet,
    /// No label at all.
    None,
    Numeral(NumeralStyle),
    /// `01`, `02`.
    TwoDigits,
}

impl Default for Level {
    fn default() -> Self {
        Self {
            start: 1,
            format: NumberFormat::Numeral(NumeralStyle::Decimal),
            text: String::new(),
            restart: None,
            is_legal: false,
        }
    }
}

#[derive(Debug, Default)]
struct AbstractNumbering {
    levels: [Level; LEVELS],
    /// The numbering style that this definition stands for or leads to.
    style_link: Option<String>,
    number_style_link: Option<String>,
}

#[derive(Debug, Default)]
struct Numbering {
    abstract_id: i64,
    /// New starts, and whole new levels, of this list alone.
    start_overrides: HashMap<usize, i32>,
    level_overrides: HashMap<usize, Level>,
}

/// All lists of a package, with the state of their counters.
#[derive(Debug, Default)]
pub(super) struct Numberings {
    abstracts: HashMap<i64, AbstractNumbering>,
    lists: HashMap<i64, Numbering>,
    /// The last number of each level, by abstract definition: its lists share counters.
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
    pub(super) format: NumberFormat,
    pub(super) delimiter: NumberDelimiter,
    /// The label's pattern, when it shows more than this level's number.
    pub(super) pattern: Option<String>,
    /// The whole label as Word shows it.
    pub(super) label: String,
}

impl Numberings {
    /// Reads the numbering part.
    pub(super) fn read(text: &str) -> Self {
        let mut all = Self::default();
        let mut xml = Xml::new(text);
        let top = xml.level();
        while let Some(root) = xml.child(top) {
            let level = xml.level();
            while root.is("numbering")
                && let Some(element) = xml.child(level)
            {
                match element.local() {
                    "abstractNum" => {
                        let id = element.number("abstractNumId").unwrap_or_default();
                        all.abstracts.insert(id, AbstractNumbering::read(&mut xml));
                    }
                    "num" => {
                        let id = element.number("numId").unwrap_or_default();
                        all.lists.insert(id, Numbering::read(&mut xml));
                    }
                    _ => {}
                }
            }
        }
        all
    }

    /// The abstract definition of a list, through the numbering style it may lead to.
    fn abstract_of(&self, list: i64) -> Option<(i64, &AbstractNumbering)> {
        let id = self.lists.get(&list)?.abstract_id;
        let found = self.abstracts.get(&id)?;
        let Some(style) = &found.number_style_link else { return Some((id, found)) };
        let linked = self.abstracts.iter().filter(|(_, a)| a.style_link.as_ref() == Some(style));
        // The least id, so that the choice is always the same.
        linked.min_by_key(|(id, _)| **id).map(|(id, found)| (*id, found)).or(Some((id, found)))
    }

    /// Counts one paragraph of a list. `None` when there is no such list.
    pub(super) fn count(&mut self, list: i64, level: usize) -> Option<Numbered> {
        let level = level.min(LEVELS - 1);
        let (sequence, definition) = self.abstract_of(list)?;
        let own = self.lists.get(&list)?;
        let levels: Vec<Level> = (0..LEVELS)
            .map(|at| own.level_overrides.get(&at).unwrap_or(&definition.levels[at]).clone())
            .collect();
        let mut counters = self.counters.get(&sequence).copied().unwrap_or_default();
        let new_start =
            own.start_overrides.get(&level).filter(|_| self.started.insert((list, level)));
        let current = levels.get(level)?;
        let number = match (new_start, counters[level]) {
            (Some(start), _) => *start,
            (None, Some(last)) => last.saturating_add(1),
            (None, None) => own.start_overrides.get(&level).copied().unwrap_or(current.start),
        };
        counters[level] = Some(number);
        for (deeper, counter) in counters.iter_mut().enumerate().skip(level + 1) {
            let restart = levels[deeper].restart.unwrap_or(deeper);
            if restart > level {
                *counter = None;
            }
        }
        self.counters.insert(sequence, counters);
        let label = label(&levels, &counters, level);
        let (delimiter, pattern) = delimiter(&current.text, level);
        let format = current.format;
        Some(Numbered { sequence, level, number, format, delimiter, pattern, label })
    }
}

/// The label of a level, all numbers filled in.
fn label(levels: &[Level], counters: &[Option<i32>; LEVELS], level: usize) -> String {
    let Some(current) = levels.get(level) else { return String::new() };
    let mut label = current.text.clone();
    for (at, definition) in levels.iter().enumerate().take(level + 1).rev() {
        let number = counters[at].unwrap_or(definition.start);
        let spelled = match definition.format {
            _ if current.is_legal => number.to_string(),
            NumberFormat::Numeral(style) => style.spell(number),
            NumberFormat::TwoDigits => format!("{number:02}"),
            NumberFormat::Bullet | NumberFormat::None => String::new(),
        };
        label = label.replace(&format!("%{}", at + 1), &spelled);
    }
    label
}

/// What stands around a label's own number, and the pattern where that is not all.
fn delimiter(text: &str, level: usize) -> (NumberDelimiter, Option<String>) {
    let own = format!("%{}", level + 1);
    let around = text.split_once(&own);
    match around {
        Some(("", "." | ".\u{a0}")) => (NumberDelimiter::Period, None),
        Some(("", ")")) => (NumberDelimiter::Parenthesis, None),
        Some(("(", ")")) => (NumberDelimiter::Parentheses, None),
        Some(("", "")) => (NumberDelimiter::None, None),
        _ => (NumberDelimiter::Period, Some(text.to_string())),
    }
}

impl AbstractNumbering {
    fn read(xml: &mut Xml<'_>) -> Self {
        let mut numbering = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "lvl" => {
                    let at = level_index(&element);
                    let read = Level::read(xml);
                    if let Some(place) = at.and_then(|at| numbering.levels.get_mut(at)) {
                        *place = read;
                    }
                }
                "styleLink" => numbering.style_link = element.val(),
                "numStyleLink" => numbering.number_style_link = element.val(),
                _ => {}
            }
        }
        numbering
    }
}

impl Numbering {
    fn read(xml: &mut Xml<'_>) -> Self {
        let mut numbering = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "abstractNumId" => {
                    numbering.abstract_id = element.number("val").unwrap_or_default()
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
                                numbering.level_overrides.insert(at, Level::read(xml));
                            }
                            _ => {}
                        }
                    }
                }
                _ => {}
            }
        }
        numbering
    }
}

impl Level {
    fn read(xml: &mut Xml<'_>) -> Self {
        let mut found = Self::default();
        let level = xml.level();
        while let Some(element) = xml.child(level) {
            match element.local() {
                "start" => found.start = small(element.number("val")).unwrap_or(1),
                "numFmt" => found.format = number_format(element.val().as_deref()),
                "lvlText" => found.text = element.val().unwrap_or_default(),
                "lvlRestart" => {
                    found.restart = element.number("val").and_then(|n| usize::try_from(n).ok());
                }
                "isLgl" => found.is_legal = element.is_on(),
                _ => {}
            }
        }
        found
    }
}

fn level_index(element: &Element<'_>) -> Option<usize> {
    element.number("ilvl").and_then(|n| usize::try_from(n).ok()).filter(|at| *at < LEVELS)
}

fn small(number: Option<i64>) -> Option<i32> {
    number.and_then(|number| i32::try_from(number).ok())
}

fn number_format(name: Option<&str>) -> NumberFormat {
    NumberFormat::Numeral(match name {
        Some("bullet") => return NumberFormat::Bullet,
        Some("none") => return NumberFormat::None,
        Some("decimalZero") => return NumberFormat::TwoDigits,
        Some("lowerLetter") => NumeralStyle::LowerLetter,
        Some("upperLetter") => NumeralStyle::UpperLetter,
        Some("lowerRoman") => NumeralStyle::LowerRoman,
        Some("upperRoman") => NumeralStyle::UpperRoman,
        _ => NumeralStyle::Decimal,
    })
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
        let mut all = Numberings::read(SAMPLE);
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
