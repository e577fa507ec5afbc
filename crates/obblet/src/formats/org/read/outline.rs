//! The outline: headings, what they say as tasks, and which of them are for readers.

use super::Reader;
use super::lines::{Line, drawer_name, stars, strip_prefix_of_any_case};
use super::options::{Archived, Chosen};
use super::properties::Properties;
use super::tasks::{priority, words_of_task};
use super::timestamps::timestamp;
use crate::document::{
    Block, BlockKind, CompactString, Foreign, Heading, List, ListItem, ListKind, ListSpacing,
    Numbering, Place, Planning, PlanningKind,
};
use crate::findings::Code;
use crate::formats::org::ORG;
use std::ops::Range;

/// The deepest level of headings in a tree.
const DEEPEST_LEVEL: usize = 9;

/// A heading's line in its parts.
#[derive(Debug, Default)]
pub(super) struct HeadingLine<'s> {
    pub(super) keyword: Option<(&'s str, bool)>,
    pub(super) priority: Option<&'s str>,
    pub(super) is_comment: bool,
    pub(super) title: &'s str,
    pub(super) tags: Vec<&'s str>,
}

/// What a heading's lines say before its section begins.
struct Opened<'s> {
    line: HeadingLine<'s>,
    level: usize,
    planning: Vec<Planning>,
    properties: Properties,
    /// The first line of the section.
    section: usize,
    place: Place,
}

/// Whether a tree is selected by its tag.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Selection {
    Out,
    /// One below it is.
    Above,
    In,
}

/// Numbers of headings, counted as they come.
#[derive(Default)]
struct Numbers {
    counts: Vec<usize>,
    /// Levels from which on headings have no numbers.
    unnumbered: Option<usize>,
}

impl Numbers {
    fn next(&mut self, level: usize, is_unnumbered: bool, deepest: usize) -> Option<String> {
        if self.unnumbered.is_some_and(|above| level <= above) {
            self.unnumbered = None;
        }
        if is_unnumbered && self.unnumbered.is_none() {
            self.unnumbered = Some(level);
        }
        if self.unnumbered.is_some() || level > deepest {
            return None;
        }
        self.counts.resize(level, 0);
        if let Some(count) = self.counts.last_mut() {
            *count += 1;
        }
        let parts: Vec<String> = self.counts.iter().map(ToString::to_string).collect();
        Some(parts.join("."))
    }
}

impl<'s> Reader<'s> {
    /// Everything: what stands before the first heading, then heading after heading.
    pub(super) fn outline(&mut self) -> Vec<Block> {
        let end = self.lines.len();
        let first = self.survey.headings.first().copied().unwrap_or(end);
        let start = self.file_properties(first);
        self.selection = self.selection();
        let mut blocks = self.outside(start..first, self.selection.is_empty());
        let mut numbers = Numbers::default();
        let mut index = 0;
        while let Some(&at) = self.survey.headings.get(index) {
            let next = self.survey.headings.get(index + 1).copied().unwrap_or(end);
            let opened = self.opened(at, next);
            if let Some(why) = self.reason_to_hide(&opened, index) {
                index = self.hide_tree(index, &opened, &why, &mut blocks);
                continue;
            }
            if self.is_section_of_notes(&opened, next) {
                self.elements(opened.section..next);
                index += 1;
                continue;
            }
            if self.is_below_depth(opened.level) {
                let behind = self.end_of_low(index);
                blocks.push(self.low_list(index..behind));
                index = behind;
                continue;
            }
            let is_archived = opened.line.tags.contains(&"ARCHIVE");
            let only_heading = is_archived
                && self.settings.options.archived == Archived::HeadingOnly
                && !self.options.keeps_hidden;
            let section = opened.section..next;
            let place = opened.place;
            blocks.push(self.heading(opened, &mut numbers));
            if only_heading {
                self.hidden("an archived tree", place);
                index = self.end_of_tree(index);
                continue;
            }
            let is_above = self.selection.get(index) == Some(&Selection::Above);
            blocks.extend(self.outside(section, !is_above));
            index += 1;
        }
        blocks
    }

    /// Properties of the whole file stand before everything else. Gives the line behind them.
    fn file_properties(&mut self, end: usize) -> usize {
        let is_first = |line: &&Line<'_>| !line.is_blank() && !line.text.starts_with("# ");
        let Some(first) =
            self.lines.get(..end).and_then(|lines| lines.iter().position(|l| is_first(&l)))
        else {
            return 0;
        };
        let Some((properties, behind)) = self.property_drawer(first, end) else { return 0 };
        let mut hides = false;
        for (name, value) in properties.all() {
            hides |= !self.settings.exports.take(0, name, value);
        }
        self.keep_lines(first..behind, if hides { "the properties of the file" } else { "" });
        behind
    }

    /// What of the outline is for readers, where only trees with a tag for it are.
    fn selection(&self) -> Vec<Selection> {
        let tags = &self.settings.selecting_tags;
        let line = |at: usize| self.lines.get(at);
        let is_tagged = |line: &Line<'_>| {
            line.text.trim_end().ends_with(':')
                && tags_of(line.text).1.iter().any(|tag| tags.contains(*tag))
        };
        let headings = &self.survey.headings;
        if !headings.iter().filter_map(|at| line(*at)).any(is_tagged) {
            return Vec::new();
        }
        let mut selection = vec![Selection::Out; headings.len()];
        // The headings above, each with its level.
        let mut above: Vec<(usize, usize)> = Vec::new();
        for (index, line) in headings.iter().enumerate().filter_map(|(i, at)| Some((i, line(*at)?)))
        {
            let level = level_of(line);
            while above.last().is_some_and(|(_, higher)| *higher >= level) {
                above.pop();
            }
            let is_in = |index: &usize| selection.get(*index) == Some(&Selection::In);
            if is_tagged(line) || above.last().is_some_and(|(index, _)| is_in(index)) {
                for (index, _) in above.iter().rev() {
                    match selection.get_mut(*index) {
                        Some(above @ Selection::Out) => *above = Selection::Above,
                        _ => break,
                    }
                }
                if let Some(own) = selection.get_mut(index) {
                    *own = Selection::In;
                }
            }
            above.push((index, level));
        }
        selection
    }

    /// Text that stands outside of what is selected.
    fn outside(&mut self, range: Range<usize>, is_wanted: bool) -> Vec<Block> {
        if is_wanted || self.options.keeps_hidden {
            return self.elements(range);
        }
        let is_text = |line: &Line<'_>| !line.is_blank() && !line.trimmed().starts_with('#');
        let lines = self.lines.get(range.clone()).unwrap_or_default();
        if let Some(first) = lines.iter().find(|line| is_text(line)).map(Line::place) {
            self.hidden("text outside of what is selected", first);
        }
        self.notes_of(range);
        Vec::new()
    }

    fn opened(&mut self, at: usize, next: usize) -> Opened<'s> {
        let Some(line) = self.lines.get(at).copied() else {
            return Opened {
                line: HeadingLine::default(),
                level: 1,
                planning: Vec::new(),
                properties: Properties::default(),
                section: next,
                place: Place::default(),
            };
        };
        let level = level_of(&line);
        let mut section = at + 1;
        let mut planning = Vec::new();
        if let Some(found) =
            self.lines.get(section).filter(|_| section < next).and_then(planning_of)
        {
            planning = found;
            section += 1;
        }
        let mut properties = Properties::default();
        if let Some((found, behind)) = self.property_drawer(section, next) {
            properties = found;
            section = behind;
        }
        let place = line.place();
        Opened { line: self.heading_line(line.text), level, planning, properties, section, place }
    }

    /// The parts of a heading's line (Org syntax, “Headings”).
    pub(super) fn heading_line(&self, text: &'s str) -> HeadingLine<'s> {
        let stars = stars(text).unwrap_or_default();
        let (rest, tags) = tags_of(text.get(stars..).unwrap_or_default());
        let mut rest = rest.trim_matches([' ', '\t']);
        let mut line = HeadingLine { tags, ..HeadingLine::default() };
        let word = rest.split([' ', '\t']).next().unwrap_or_default();
        if let Some(done) = self.settings.state(word) {
            line.keyword = Some((word, done));
            rest = rest.get(word.len()..).unwrap_or_default().trim_start();
        }
        if let Some((priority, behind)) = priority(rest) {
            line.priority = Some(priority);
            rest = behind.trim_start();
        }
        if let Some(behind) = rest.strip_prefix("COMMENT")
            && (behind.is_empty() || behind.starts_with([' ', '\t']))
        {
            line.is_comment = true;
            rest = behind.trim_start();
        }
        line.title = rest;
        line
    }

    /// Why a tree is not for readers.
    fn reason_to_hide(&self, opened: &Opened<'_>, index: usize) -> Option<String> {
        let line = &opened.line;
        let named = |why: &str| Some(format!("the tree “{}” ({why})", line.title));
        if line.is_comment {
            return named("a comment");
        }
        let excluding = &self.settings.excluding_tags;
        if let Some(tag) = line.tags.iter().find(|tag| excluding.contains(**tag)) {
            return named(tag);
        }
        if self.selection.get(index) == Some(&Selection::Out) {
            return named("not selected");
        }
        let is_archived = line.tags.contains(&"ARCHIVE");
        if is_archived
            && (self.settings.options.archived == Archived::Not
                || self.options.keeps_hidden && self.settings.options.archived != Archived::Whole)
        {
            return named("ARCHIVE");
        }
        let (keyword, is_done) = line.keyword?;
        let wanted = match &self.settings.options.tasks {
            Chosen::All => true,
            Chosen::None => false,
            Chosen::Only(names) if names.iter().any(|name| name == "todo") => !is_done,
            Chosen::Only(names) if names.iter().any(|name| name == "done") => is_done,
            chosen => chosen.has(keyword),
        };
        if wanted { None } else { named(keyword) }
    }

    /// The first heading that is not below this one, by its number among the headings.
    fn end_of_tree(&self, index: usize) -> usize {
        let headings = self.survey.headings.get(index..).unwrap_or_default();
        let level = |at: &usize| self.lines.get(*at).map_or(1, level_of);
        let own = headings.first().map_or(1, level);
        let below = headings.iter().skip(1).take_while(|at| level(at) > own).count();
        index + 1 + below
    }

    fn hide_tree(
        &mut self,
        index: usize,
        opened: &Opened<'_>,
        why: &str,
        blocks: &mut Vec<Block>,
    ) -> usize {
        let behind = self.end_of_tree(index);
        let end = self.lines.len();
        let start = self.survey.headings.get(index).copied().unwrap_or(end);
        let stop = self.survey.headings.get(behind).copied().unwrap_or(end);
        if self.options.keeps_hidden {
            blocks.push(self.raw(start..stop));
        } else {
            self.findings.add_about(Code::NotPublished, why, Some(opened.place));
            self.notes_of(start..stop);
        }
        behind
    }

    /// Lines as they stand, for who writes Org again.
    pub(super) fn raw(&self, range: Range<usize>) -> Block {
        let place = self.place_of(&range);
        let mut markup = String::new();
        for line in self.lines.get(range).unwrap_or_default() {
            let lowered =
                stars(line.text).map(|stars| stars + usize::try_from(line.shift).unwrap_or(0));
            match lowered.filter(|_| line.shift > 0) {
                Some(stars) => {
                    markup.push_str(&"*".repeat(stars));
                    markup.push_str(line.text.trim_start_matches('*'));
                }
                None => markup.push_str(line.text),
            }
            markup.push('\n');
        }
        markup.truncate(markup.trim_end().len());
        let foreign = Foreign { format: ORG.into(), markup };
        Block::new(BlockKind::Foreign(Box::new(foreign))).at(place)
    }

    /// A section that holds nothing but notes is only their place.
    fn is_section_of_notes(&self, opened: &Opened<'_>, next: usize) -> bool {
        opened.line.title == "Footnotes"
            && self.lines.get(opened.section..next).is_some_and(|lines| {
                let mut filled = lines.iter().filter(|line| !line.is_blank());
                filled.next().is_some_and(|first| first.text.starts_with("[fn:"))
            })
    }

    fn is_below_depth(&self, level: usize) -> bool {
        let depth = self.settings.options.depth;
        !self.options.keeps_hidden && depth.is_some_and(|depth| level > depth)
    }

    /// The first heading that is not too deep to be one.
    fn end_of_low(&self, index: usize) -> usize {
        let headings = self.survey.headings.get(index..).unwrap_or_default();
        let level = |at: &usize| self.lines.get(*at).map_or(1, level_of);
        index + headings.iter().take_while(|at| self.is_below_depth(level(at))).count()
    }

    /// Headings that are too deep, as a list.
    fn low_list(&mut self, headings: Range<usize>) -> Block {
        let place = self.survey.headings.get(headings.start).and_then(|at| self.lines.get(*at));
        let place = place.map(Line::place).unwrap_or_default();
        let mut items = Vec::new();
        let mut index = headings.start;
        while index < headings.end {
            let end = self.lines.len();
            let at = self.survey.headings.get(index).copied().unwrap_or(end);
            let next = self.survey.headings.get(index + 1).copied().unwrap_or(end);
            let behind = self.end_of_tree(index).min(headings.end);
            let opened = self.opened(at, next);
            if let Some(why) = self.reason_to_hide(&opened, index) {
                self.findings.add_about(Code::NotPublished, &why, Some(opened.place));
                index = behind;
                continue;
            }
            let section = opened.section..next;
            let place = opened.place;
            let Block { kind, attributes, .. } = self.heading(opened, &mut Numbers::default());
            let mut content = Vec::new();
            if let BlockKind::Heading(heading) = kind {
                content.push(Block::new(BlockKind::Paragraph(words_of_task(*heading))).at(place));
            }
            content.extend(self.elements(section));
            if index + 1 < behind
                && let Some(list) = self.deeper(place, |reader| reader.low_list(index + 1..behind))
            {
                content.push(list);
            }
            items.push(ListItem { content, attributes, place, ..ListItem::default() });
            index = behind;
        }
        let kind = match self.settings.options.numbers {
            Some(_) => ListKind::Numbered(Numbering::default()),
            None => ListKind::Bulleted(None),
        };
        let list = List { kind, spacing: ListSpacing::Tight, items };
        Block::new(BlockKind::List(Box::new(list))).at(place)
    }

    fn heading(&mut self, opened: Opened<'_>, numbers: &mut Numbers) -> Block {
        let Opened { line, level, planning, properties, place, .. } = opened;
        self.settings.exports.leave(level);
        for (name, value) in properties.all() {
            self.settings.exports.take(level, name, value);
        }
        if level > DEEPEST_LEVEL {
            self.findings.count(Code::HeadingLevelLowered, &level.to_string(), Some(place));
        }
        let content = self.inlines_of_text(line.title, place);
        let is_unnumbered = properties.get("unnumbered").is_some_and(|value| value != "nil");
        let number = match self.settings.options.numbers {
            Some(deepest) => numbers.next(level, is_unnumbered, deepest).map(Into::into),
            None => None,
        };
        let task = self.task(&line, planning, place);
        let mut tags: Vec<CompactString> =
            line.tags.iter().map(|tag| CompactString::new(tag)).collect();
        if !self.options.keeps_hidden {
            tags.retain(|tag| {
                tag != "ARCHIVE" && !self.settings.selecting_tags.contains(tag.as_str())
            });
            if !self.settings.options.tags && !tags.is_empty() {
                tags.clear();
                self.hidden("the tags of headings", place);
            }
        }
        let level = u8::try_from(level.clamp(1, DEEPEST_LEVEL)).unwrap_or(1);
        let heading = Heading { level, content, number, task, tags };
        let mut block = Block::new(BlockKind::Heading(Box::new(heading))).at(place);
        self.apply_properties(&properties, &mut block.attributes, place);
        block
    }
}

fn level_of(line: &Line<'_>) -> usize {
    let stars = i64::try_from(stars(line.text).unwrap_or(1)).unwrap_or(i64::MAX);
    usize::try_from(stars.saturating_add(i64::from(line.shift)).max(1)).unwrap_or(1)
}

/// The text before `:tags:` at the end of a heading, and the tags.
fn tags_of(text: &str) -> (&str, Vec<&str>) {
    let trimmed = text.trim_end_matches([' ', '\t']);
    let none = (text, Vec::new());
    if !trimmed.ends_with(':') {
        return none;
    }
    let start = trimmed.rfind([' ', '\t']).map_or(0, |at| at + 1);
    let word = trimmed.get(start..).unwrap_or_default();
    let Some(inner) = word.strip_prefix(':').and_then(|word| word.strip_suffix(':')) else {
        return none;
    };
    let is_tag = |tag: &str| {
        !tag.is_empty() && tag.chars().all(|c| c.is_alphanumeric() || "_@#%".contains(c))
    };
    if !inner.split(':').all(is_tag) {
        return none;
    }
    (trimmed.get(..start).unwrap_or_default(), inner.split(':').collect())
}

/// `SCHEDULED: <…> DEADLINE: <…> CLOSED: […]`
pub(super) fn planning_of(line: &Line<'_>) -> Option<Vec<Planning>> {
    const KINDS: [(&str, PlanningKind); 3] = [
        ("SCHEDULED:", PlanningKind::Scheduled),
        ("DEADLINE:", PlanningKind::Deadline),
        ("CLOSED:", PlanningKind::Closed),
    ];
    let mut left = line.trimmed();
    let mut planning = Vec::new();
    while !left.trim().is_empty() {
        left = left.trim_start();
        let (kind, rest) =
            KINDS.iter().find_map(|(word, kind)| Some((*kind, left.strip_prefix(word)?)))?;
        let rest = rest.trim_start();
        let (timestamp, length) = timestamp(rest)?;
        planning.push(Planning { kind, timestamp });
        left = rest.get(length..)?;
    }
    (!planning.is_empty()).then_some(planning)
}

impl Reader<'_> {
    /// The drawer of properties at a line, and the line behind it.
    fn property_drawer(&self, at: usize, end: usize) -> Option<(Properties, usize)> {
        let line = self.lines.get(at).filter(|_| at < end)?;
        drawer_name(line.trimmed()).filter(|name| name.eq_ignore_ascii_case("properties"))?;
        let close = self.survey.drawer_end(at, end)?;
        let lines = self.lines.get(at + 1..close)?;
        let is_property = |line: &Line<'_>| {
            strip_prefix_of_any_case(line.trimmed(), ":").is_some_and(|rest| rest.contains(':'))
        };
        if !lines.iter().all(is_property) {
            return None;
        }
        Some((Properties::of(lines), close + 1))
    }
}
