//! The numbering part: one abstract definition for lists that are counted alike, and a list of its own
//! wherever numbers do not go on by themselves (ECMA-376 part 1, 17.9). What Word will count is counted
//! here too, so that a list starts anew exactly where it must.

use super::list_levels::{LEVELS, Level, levels_of, outermost_level};
use super::markup::{push_val, value};
use super::parts::XML;
use super::pattern::Pattern;
use super::{MAIN, Writer};
use crate::document::{List, ListKind};
use std::collections::{HashMap, HashSet};

/// How far each level stands from the one around it, in twentieths of a point.
const STEP: i32 = 567;
const HANGING: i32 = 397;
/// How many definitions back one is looked for that fits.
const DEFINITIONS_BACK: usize = 16;

/// Nine levels, of which those that no list has used yet may become anything.
#[derive(Debug)]
struct Definition {
    levels: [Option<Level>; LEVELS],
    /// How far the levels stand in, in twentieths of a point, where a list says so.
    indents: [Option<i32>; LEVELS],
    /// So many levels count headings, and no items.
    heading_levels: usize,
    /// The numbers that were counted last.
    counters: [Option<i32>; LEVELS],
    /// The list of it that was used last.
    last_list: Option<u32>,
}

/// A list: its definition, and where it starts anew.
#[derive(Debug)]
struct ListOut {
    definition: usize,
    start: Option<(usize, i32)>,
}

/// Numbers that definitions and lists begin with.
#[derive(Debug, Clone, Copy, Default)]
pub(super) struct FirstNumbers {
    pub(super) definition: usize,
    /// The number before that of the first list.
    pub(super) list: u32,
}

/// All lists of a document.
#[derive(Debug, Default)]
pub(super) struct Lists {
    first: FirstNumbers,
    definitions: Vec<Definition>,
    lists: Vec<ListOut>,
    /// Lists whose new start has been used.
    started: HashSet<u32>,
    /// Definitions by the words of their first level, where many are alike.
    by_shape: HashMap<[Option<Level>; LEVELS], usize>,
}

/// A list that is being written.
#[derive(Debug, Clone)]
pub(super) struct OpenList {
    pub(super) level: usize,
    definition: usize,
    /// Its number among the lists of the part, once it has an item.
    list: Option<u32>,
    is_numbered: bool,
    /// The number of the item before.
    last: i32,
}

impl Definition {
    fn new(levels: [Option<Level>; LEVELS], indents: [Option<i32>; LEVELS]) -> Self {
        let counters = [None; LEVELS];
        Self { levels, indents, heading_levels: 0, counters, last_list: None }
    }

    /// Whether a list of these levels, the outermost of them first, can be one of this definition.
    fn fits(
        &self,
        first: usize,
        levels: &[Option<Level>; LEVELS],
        indents: &[Option<i32>; LEVELS],
    ) -> bool {
        let same = |own: &Option<Level>, other: &Option<Level>| match (own, other) {
            (Some(own), Some(other)) => own.is_like(other),
            _ => true,
        };
        let has_outer = self.levels.iter().take(first).all(Option::is_some);
        first >= self.heading_levels
            && has_outer
            && self.levels.iter().zip(levels).all(|(own, other)| same(own, other))
            && (first..LEVELS).all(|at| self.indent_fits(at, indents))
    }

    /// Whether a level stands in as far as another list wants it, or is still free.
    fn indent_fits(&self, at: usize, indents: &[Option<i32>; LEVELS]) -> bool {
        let is_free = self.levels.get(at).is_none_or(Option::is_none);
        is_free || self.indents.get(at) == indents.get(at)
    }

    fn take_over(&mut self, levels: [Option<Level>; LEVELS], indents: [Option<i32>; LEVELS]) {
        let own = self.levels.iter_mut().zip(&mut self.indents);
        for ((level, indent), (other, other_indent)) in own.zip(levels.into_iter().zip(indents)) {
            if level.is_none() && other.is_some() {
                (*level, *indent) = (other, other_indent);
            }
        }
    }

    /// The number that Word gives the next paragraph of a level.
    fn natural(&self, level: usize) -> i32 {
        let start = self.levels.get(level).and_then(Option::as_ref).map_or(1, |level| level.start);
        self.counters.get(level).copied().flatten().map_or(start, |last| last.saturating_add(1))
    }

    /// Counts a paragraph; the levels below it begin anew.
    fn count(&mut self, level: usize, number: i32) {
        for (at, counter) in self.counters.iter_mut().enumerate().skip(level) {
            *counter = (at == level).then_some(number);
        }
    }
}

impl Lists {
    /// Lists whose numbers come behind those of others.
    pub(super) fn behind(first: FirstNumbers) -> Self {
        Self { first, ..Self::default() }
    }

    /// A definition that fits, with what these levels add to it; else a new one.
    fn define(
        &mut self,
        first: usize,
        levels: [Option<Level>; LEVELS],
        indents: [Option<i32>; LEVELS],
    ) -> usize {
        let alike = self.by_shape.get(&levels).copied();
        let recent = (0..self.definitions.len()).rev().take(DEFINITIONS_BACK);
        // The definition of the headings comes first.
        let found = alike.into_iter().chain(recent).chain([0]).find(|at| {
            self.definitions.get(*at).is_some_and(|known| known.fits(first, &levels, &indents))
        });
        if let Some(definition) = found.and_then(|at| self.definitions.get_mut(at)) {
            definition.take_over(levels, indents);
            return found.unwrap_or_default();
        }
        self.by_shape.insert(levels.clone(), self.definitions.len());
        self.definitions.push(Definition::new(levels, indents));
        self.definitions.len() - 1
    }

    fn add(&mut self, definition: usize, start: Option<(usize, i32)>) -> u32 {
        self.lists.push(ListOut { definition, start });
        self.lists.len() as u32
    }

    /// Opens a list, inside the one around it.
    pub(super) fn open(
        &mut self,
        list: &List,
        around: Option<&OpenList>,
        indent: Option<i32>,
    ) -> OpenList {
        let level = match around {
            Some(around) => (around.level + 1).min(LEVELS - 1),
            None => outermost_level(list),
        };
        let (start, is_numbered) = match &list.kind {
            ListKind::Numbered(numbering) => (numbering.start, true),
            ListKind::Bulleted(_) => (1, false),
        };
        let mut levels = levels_of(list, level);
        let mut indents = [None; LEVELS];
        if let Some(outer) = around.and_then(|around| self.definitions.get(around.definition)) {
            for at in 0..level {
                if let (Some(level), Some(known)) = (levels.get_mut(at), outer.levels.get(at)) {
                    level.clone_from(known);
                }
            }
            indents = outer.indents;
        }
        let before = indents.iter().take(level).rev().find_map(|indent| *indent);
        if let Some(place) = indents.get_mut(level) {
            *place = indent.map(|indent| before.unwrap_or_default() + indent);
        }
        // A level of the list around it, if it can be, so that numbers begin anew in each item.
        let fits = around.filter(|around| {
            let outer = self.definitions.get(around.definition);
            outer.is_some_and(|outer| outer.fits(level, &levels, &indents))
        });
        let (definition, list) = match fits {
            Some(around) => {
                if let Some(outer) = self.definitions.get_mut(around.definition) {
                    outer.take_over(levels, indents);
                }
                (around.definition, around.list)
            }
            None => (self.define(level, levels, indents), None),
        };
        OpenList { level, definition, list, is_numbered, last: start.saturating_sub(1) }
    }

    /// The list that the next item belongs to: a new one where Word would count on to another number.
    pub(super) fn item(&mut self, open: &mut OpenList, stated: Option<i32>) -> u32 {
        let number = stated.unwrap_or_else(|| open.last.saturating_add(1));
        open.last = number;
        let Some(definition) = self.definitions.get(open.definition) else { return 0 };
        let known = open.list.or(definition.last_list);
        let natural = definition.natural(open.level);
        let waiting = known
            .filter(|list| !self.started.contains(list))
            .and_then(|list| self.lists.get(list as usize - 1)?.start)
            .filter(|(level, _)| *level == open.level);
        let next = waiting.map_or(natural, |(_, start)| start);
        let list = match known {
            Some(list) if !open.is_numbered || next == number => list,
            None if !open.is_numbered || natural == number => self.add(open.definition, None),
            _ => self.add(open.definition, Some((open.level, number))),
        };
        self.started.insert(list);
        open.list = Some(list);
        if let Some(definition) = self.definitions.get_mut(open.definition) {
            definition.count(open.level, number);
            definition.last_list = Some(list);
        }
        list + self.first.list
    }

    /// The list that counts headings, by levels that are known to count them. It is the first one.
    pub(super) fn define_headings(&mut self, levels: [Option<Level>; LEVELS]) -> OpenList {
        let heading_levels = levels.iter().rposition(Option::is_some).map_or(0, |last| last + 1);
        let definition = self.definitions.len();
        let new = Definition::new(levels, [None; LEVELS]);
        self.definitions.push(Definition { heading_levels, ..new });
        let list = Some(self.add(definition, None));
        OpenList { level: 0, definition, list, is_numbered: true, last: 0 }
    }

    /// Counts a heading; gives the number of its list.
    pub(super) fn heading(&mut self, list: &OpenList, level: usize) -> Option<u32> {
        let definition = self.definitions.get_mut(list.definition)?;
        let number = definition.natural(level);
        definition.count(level, number);
        list.list.map(|list| list + self.first.list)
    }
}

impl Writer<'_> {
    /// The part, with the lists of the pattern; `None` where there are no lists at all.
    pub(super) fn numbering_part(&self, pattern: &Pattern) -> Option<String> {
        let Lists { definitions, lists, first, .. } = &self.lists;
        let (mut abstracts, mut out) = (String::new(), String::new());
        for (at, definition) in definitions.iter().enumerate() {
            push_definition(at + first.definition, definition, &mut abstracts);
        }
        for (at, list) in lists.iter().enumerate() {
            out.push_str(&format!("<w:num w:numId=\"{}\">", at + 1 + first.list as usize));
            let definition = list.definition + first.definition;
            push_val(&mut out, "w:abstractNumId", &definition.to_string());
            if let Some((level, start)) = list.start {
                out.push_str(&format!(
                    "<w:lvlOverride w:ilvl=\"{level}\"><w:startOverride w:val=\"{start}\"/></w:lvlOverride>"
                ));
            }
            out.push_str("</w:num>");
        }
        pattern.numbering_with(&abstracts, &out).or_else(|| {
            let whole =
                format!("{XML}<w:numbering xmlns:w=\"{MAIN}\">{abstracts}{out}</w:numbering>");
            (!lists.is_empty()).then_some(whole)
        })
    }
}

fn push_definition(id: usize, definition: &Definition, out: &mut String) {
    // Programs tell definitions apart by this number (17.9.14).
    out.push_str(&format!(
        "<w:abstractNum w:abstractNumId=\"{id}\"><w:nsid w:val=\"{:08X}\"/>\
         <w:multiLevelType w:val=\"multilevel\"/>",
        0x4D54_0000 + id
    ));
    let first = definition.levels.iter().flatten().next();
    let is_bulleted = first.is_some_and(|level| level.format == "bullet");
    for (at, level) in definition.levels.iter().enumerate() {
        let indent = definition.indents.get(at).copied().flatten();
        push_level(at, level.as_ref(), indent, is_bulleted, out);
    }
    out.push_str("</w:abstractNum>");
}

fn push_level(
    at: usize,
    level: Option<&Level>,
    indent: Option<i32>,
    is_bulleted: bool,
    out: &mut String,
) {
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
    let indent = indent.unwrap_or(STEP * (at as i32 + 1));
    out.push_str(&format!(
        "<w:lvlText w:val=\"{text}\"/><w:lvlJc w:val=\"left\"/>\
         <w:pPr><w:ind w:left=\"{indent}\" w:hanging=\"{HANGING}\"/></w:pPr></w:lvl>"
    ));
}
