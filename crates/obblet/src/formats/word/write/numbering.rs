//! The numbering part: one abstract definition for lists that are counted alike, a list of its own for each
//! that starts anew (ECMA-376 part 1, 17.9).

use super::markup::{push_val, value};
use super::parts::XML;
use super::{MAIN, Writer};
use crate::document::{
    BlockKind, CompactString, List, ListKind, NumberDelimiter, Numbering, NumeralStyle,
};
use crate::formats::word::number_formats::{NAMES, NumberFormat};
use std::collections::HashMap;

/// Levels of a list, as the standard has them.
pub(super) const LEVELS: usize = 9;
/// How far each level stands from the one around it, in twentieths of a point.
const STEP: usize = 567;
const HANGING: usize = 397;

/// How one level is counted.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub(super) struct Level {
    pub(super) format: &'static str,
    /// The label, with `%n` for the number of level `n`.
    pub(super) text: String,
    pub(super) start: i32,
    /// All numbers of the label in decimal.
    pub(super) is_legal: bool,
}

/// A definition of nine levels, told apart from one alike where lists must not grow together.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
struct Definition {
    levels: Vec<Option<Level>>,
    copy: u32,
}

/// A list: its definition, and where it starts anew.
#[derive(Debug, Clone)]
struct ListOut {
    definition: usize,
    starts: Vec<(usize, i32)>,
}

/// All lists of a document.
#[derive(Debug, Default)]
pub(super) struct Lists {
    definitions: Vec<Definition>,
    known: HashMap<Definition, usize>,
    lists: Vec<ListOut>,
    /// The last number of a sequence that later lists go on with, and its list.
    sequences: HashMap<CompactString, (u32, i32)>,
    /// The bulleted list of a definition.
    bulleted: HashMap<usize, u32>,
    copies: u32,
}

/// A list that is being written.
#[derive(Debug, Clone)]
pub(super) struct OpenList {
    /// Its number among the lists of the part.
    pub(super) number: u32,
    definition: usize,
    /// The number of the item before.
    last: i32,
    sequence: Option<CompactString>,
}

impl Lists {
    pub(super) fn is_empty(&self) -> bool {
        self.lists.is_empty()
    }

    fn define(&mut self, definition: Definition) -> usize {
        if let Some(known) = self.known.get(&definition) {
            return *known;
        }
        self.known.insert(definition.clone(), self.definitions.len());
        self.definitions.push(definition);
        self.definitions.len() - 1
    }

    fn add(&mut self, definition: usize, starts: Vec<(usize, i32)>) -> u32 {
        self.lists.push(ListOut { definition, starts });
        self.lists.len() as u32
    }

    /// Opens a list at a level, inside the one around it. `apart` keeps it from growing together with the
    /// list just before it.
    pub(super) fn open(
        &mut self,
        list: &List,
        level: usize,
        around: Option<&OpenList>,
        apart: bool,
    ) -> OpenList {
        let own = level_of(list, level);
        let start = match &list.kind {
            ListKind::Numbered(numbering) => numbering.start,
            ListKind::Bulleted(_) => 1,
        };
        let sequence = match &list.kind {
            ListKind::Numbered(numbering) => numbering.sequence.clone(),
            ListKind::Bulleted(_) => None,
        };
        // One level of the list around it, where that is what it says there.
        if let Some(around) = around.filter(|_| !apart)
            && let Some(definition) = self.definitions.get(around.definition)
            && definition.levels.get(level).and_then(Option::as_ref) == Some(&own)
        {
            let (number, definition) = (around.number, around.definition);
            return OpenList { number, definition, last: start - 1, sequence };
        }
        let copy = if apart {
            self.copies += 1;
            self.copies
        } else {
            0
        };
        let levels =
            levels_of(list, level, around.and_then(|a| self.definitions.get(a.definition)));
        let definition = self.define(Definition { levels, copy });
        // A list that another one has begun goes on with it.
        if let Some((number, last)) = sequence.as_ref().and_then(|name| self.sequences.get(name))
            && *last == start - 1
            && self.lists.get(*number as usize - 1).is_some_and(|l| l.definition == definition)
        {
            return OpenList { number: *number, definition, last: *last, sequence };
        }
        let number = match &list.kind {
            ListKind::Bulleted(_) => match self.bulleted.get(&definition) {
                Some(number) => *number,
                None => {
                    let number = self.add(definition, Vec::new());
                    self.bulleted.insert(definition, number);
                    number
                }
            },
            ListKind::Numbered(_) => {
                let is_first = !self.lists.iter().any(|list| list.definition == definition);
                let starts = if is_first { Vec::new() } else { vec![(level, start)] };
                self.add(definition, starts)
            }
        };
        OpenList { number, definition, last: start - 1, sequence }
    }

    /// Opens a list of these levels.
    pub(super) fn open_levels(&mut self, levels: Vec<Option<Level>>) -> OpenList {
        let definition = self.define(Definition { levels, copy: 0 });
        let number = self.add(definition, Vec::new());
        OpenList { number, definition, last: 0, sequence: None }
    }

    /// The list that the next item belongs to: a new one where its number is not the next.
    pub(super) fn item(&mut self, open: &mut OpenList, level: usize, stated: Option<i32>) -> u32 {
        let expected = open.last + 1;
        let number = stated.unwrap_or(expected);
        if number != expected {
            open.number = self.add(open.definition, vec![(level, number)]);
        }
        open.last = number;
        if let Some(name) = &open.sequence {
            self.sequences.insert(name.clone(), (open.number, number));
        }
        open.number
    }
}

/// The levels that a list and those inside it say; the list's own level is the first.
fn levels_of(list: &List, level: usize, around: Option<&Definition>) -> Vec<Option<Level>> {
    let mut levels = vec![None; LEVELS];
    for (own, outer) in
        levels.iter_mut().zip(around.into_iter().flat_map(|d| &d.levels)).take(level)
    {
        own.clone_from(outer);
    }
    let mut here: Vec<&List> = vec![list];
    for at in level..LEVELS {
        let Some(first) = here.first() else { break };
        if let Some(place) = levels.get_mut(at) {
            *place = Some(level_of(first, at));
        }
        here = here.iter().flat_map(|list| inner_lists(list)).collect();
    }
    levels
}

fn inner_lists(list: &List) -> impl Iterator<Item = &List> {
    list.items.iter().flat_map(|item| &item.content).filter_map(|block| match &block.kind {
        BlockKind::List(list) => Some(&**list),
        _ => None,
    })
}

fn level_of(list: &List, level: usize) -> Level {
    match &list.kind {
        ListKind::Bulleted(_) if is_task_list(list) => Level::bullet(""),
        ListKind::Bulleted(bullet) => {
            let usual = ["•", "–", "▪"].get(level % 3).copied().unwrap_or("•");
            // Marks of plain text are no bullets of print.
            let own = bullet.filter(|bullet| !matches!(bullet, '-' | '*' | '+'));
            let text = own.map_or_else(|| usual.to_string(), String::from);
            Level::bullet(&text)
        }
        ListKind::Numbered(numbering) => {
            label_level(list, numbering, level).unwrap_or_else(|| plain(numbering, level))
        }
    }
}

/// Boxes take the place of bullets.
pub(super) fn is_task_list(list: &List) -> bool {
    list.items.iter().all(|item| item.check.is_some())
}

impl Level {
    fn bullet(text: &str) -> Self {
        Self { format: "bullet", text: text.into(), start: 1, is_legal: false }
    }
}

/// A level that shows its numbers as the list says.
fn plain(numbering: &Numbering, level: usize) -> Level {
    let own = format!("%{}", level + 1);
    let text = match (&numbering.pattern, numbering.delimiter) {
        (Some(pattern), _) => pattern.to_string(),
        (None, NumberDelimiter::Period) => format!("{own}."),
        (None, NumberDelimiter::Parenthesis) => format!("{own})"),
        (None, NumberDelimiter::Parentheses) => format!("({own})"),
        (None, NumberDelimiter::None) => own,
    };
    Level { format: numeral(numbering.style), text, start: numbering.start, is_legal: false }
}

fn numeral(style: NumeralStyle) -> &'static str {
    match style {
        NumeralStyle::Decimal => "decimal",
        NumeralStyle::LowerLetter => "lowerLetter",
        NumeralStyle::UpperLetter => "upperLetter",
        NumeralStyle::LowerRoman => "lowerRoman",
        NumeralStyle::UpperRoman => "upperRoman",
    }
}

/// The level that makes the labels which the items show, where they show more than plain numbers.
fn label_level(list: &List, numbering: &Numbering, level: usize) -> Option<Level> {
    let mut next = numbering.start;
    let labels: Vec<(i32, Option<&str>)> = list
        .items
        .iter()
        .map(|item| {
            let number = item.number.unwrap_or(next);
            next = number.saturating_add(1);
            (number, item.label.as_deref())
        })
        .collect();
    let (first, label) = labels.first().and_then(|(number, label)| Some((*number, (*label)?)))?;
    // The usual numerals first: 1 is a decimal number before it is anything else.
    let usual = numeral(numbering.style);
    let names = std::iter::once(usual).chain(NAMES.into_iter().filter(|name| *name != usual));
    let all_show = |shown: &dyn Fn(i32, &str) -> bool| {
        labels.iter().all(|(number, label)| label.is_some_and(|label| shown(*number, label)))
    };
    for name in names {
        let format = NumberFormat::of(name);
        let spelled = format.spell(first);
        // The number of this level is the last one in the label.
        let Some(at) = label.rfind(spelled.as_str()).filter(|_| !spelled.is_empty()) else {
            continue;
        };
        let (before, behind) = (label.get(..at)?, label.get(at + spelled.len()..)?);
        let found = match &numbering.pattern {
            // Numbers of levels around this one change from place to place; the pattern knows them.
            Some(pattern) => all_show(&|number, label| label.contains(&format.spell(number)))
                .then(|| pattern.to_string()),
            None => all_show(&|number, label| {
                label == format!("{before}{}{behind}", format.spell(number))
            })
            .then(|| format!("{before}%{}{behind}", level + 1)),
        };
        if let Some(text) = found {
            // Roman numbers that are shown in decimal are those of a law (17.9.4).
            let is_legal = name == "decimal" && usual != "decimal";
            let format = if is_legal { usual } else { name };
            return Some(Level { format, text, start: numbering.start, is_legal });
        }
    }
    None
}

impl Writer<'_> {
    pub(super) fn numbering_part(&self) -> String {
        let mut out = format!("{XML}<w:numbering xmlns:w=\"{MAIN}\">");
        for (id, definition) in self.lists.definitions.iter().enumerate() {
            // Programs tell definitions apart by this number (17.9.14).
            out.push_str(&format!(
                "<w:abstractNum w:abstractNumId=\"{id}\"><w:nsid w:val=\"{:08X}\"/>\
                 <w:multiLevelType w:val=\"multilevel\"/>",
                0x4D54_0000 + id
            ));
            let bullets = definition.levels.iter().flatten().next();
            let is_bulleted = bullets.is_some_and(|level| level.format == "bullet");
            for (at, level) in definition.levels.iter().enumerate() {
                push_level(at, level.as_ref(), is_bulleted, &mut out);
            }
            out.push_str("</w:abstractNum>");
        }
        for (at, list) in self.lists.lists.iter().enumerate() {
            out.push_str(&format!("<w:num w:numId=\"{}\">", at + 1));
            push_val(&mut out, "w:abstractNumId", &list.definition.to_string());
            for (level, start) in &list.starts {
                out.push_str(&format!(
                    "<w:lvlOverride w:ilvl=\"{level}\"><w:startOverride w:val=\"{start}\"/></w:lvlOverride>"
                ));
            }
            out.push_str("</w:num>");
        }
        out + "</w:numbering>"
    }
}

fn push_level(at: usize, level: Option<&Level>, is_bulleted: bool, out: &mut String) {
    let usual = || {
        let own = format!("%{}.", at + 1);
        let (format, text) = match at % 3 {
            _ if is_bulleted => ("bullet", ["•", "–", "▪"].get(at % 3).unwrap_or(&"•").to_string()),
            0 => ("decimal", own),
            1 => ("lowerLetter", own),
            _ => ("lowerRoman", own),
        };
        Level { format, text, start: 1, is_legal: false }
    };
    let level = level.cloned().unwrap_or_else(usual);
    out.push_str(&format!("<w:lvl w:ilvl=\"{at}\">"));
    push_val(out, "w:start", &level.start.to_string());
    push_val(out, "w:numFmt", level.format);
    if level.is_legal {
        out.push_str("<w:isLgl/>");
    }
    let text = value(&level.text);
    let indent = STEP * (at + 1);
    out.push_str(&format!(
        "<w:lvlText w:val=\"{text}\"/><w:lvlJc w:val=\"left\"/>\
         <w:pPr><w:ind w:left=\"{indent}\" w:hanging=\"{HANGING}\"/></w:pPr></w:lvl>"
    ));
}
