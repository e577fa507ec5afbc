//! Comparing counterparts, and telling what has none.

use super::align::{align, by_rare_words, likeness};
use super::objects::{ObjectPair, compare_texts, report_objects};
use super::tables::compare_tables;
use super::tokens::Text;
use super::units::{Body, Item, Unit, Units};
use super::{Change, Kind, Places, Tally, quoted};
use crate::document::{CheckState, Document, NoteId};
use std::collections::{HashMap, HashSet, VecDeque};

/// How alike two things must be to be the same thing elsewhere.
const MOVED: f32 = 0.9;

/// Two documents, and what is known of both.
pub(super) struct Pair<'d> {
    pub(super) left: &'d Document,
    pub(super) right: &'d Document,
    /// Which note of the left is which of the right, as their marks say.
    pub(super) notes: Vec<(NoteId, NoteId)>,
}

pub(super) fn compare_documents(left: &Document, right: &Document, tally: &mut Tally<'_>) {
    let mut pair = Pair { left, right, notes: Vec::new() };
    let one = Units::of(&left.blocks, left);
    let two = Units::of(&right.blocks, right);
    pair.compare_rows(&one, &two, tally);
    pair.compare_notes(tally);
}

impl Pair<'_> {
    pub(super) fn compare_rows(&mut self, one: &Units<'_>, two: &Units<'_>, tally: &mut Tally<'_>) {
        let pairs = align(one, two);
        let moved = moved(one, two, &pairs);
        let mut counterpart: HashMap<usize, (usize, bool)> =
            pairs.iter().map(|&(a, b)| (a, (b, false))).collect();
        counterpart.extend(moved.iter().map(|&(a, b)| (a, (b, true))));
        let taken: HashSet<usize> = counterpart.values().map(|(b, _)| *b).collect();

        let mut right = 0;
        let report_extra =
            |pair: &mut Self, until: usize, right: &mut usize, tally: &mut Tally<'_>| {
                while *right < until {
                    if let Some(unit) = two.0.get(*right).filter(|_| !taken.contains(right)) {
                        pair.report_unit(unit, Change::Extra, tally);
                    }
                    *right += 1;
                }
            };
        for (a, unit) in one.0.iter().enumerate() {
            match counterpart.get(&a).and_then(|(b, moved)| Some((*b, two.0.get(*b)?, *moved))) {
                Some((b, other, false)) => {
                    report_extra(self, b, &mut right, tally);
                    self.compare_units(unit, other, false, tally);
                }
                Some((_, other, true)) => self.compare_units(unit, other, true, tally),
                None => self.report_unit(unit, Change::Missing, tally),
            }
        }
        report_extra(self, two.0.len(), &mut right, tally);
    }

    fn compare_units(
        &mut self,
        left: &Unit<'_>,
        right: &Unit<'_>,
        moved: bool,
        tally: &mut Tally<'_>,
    ) {
        let places = (Some(left.place), Some(right.place));
        if moved {
            let kind = kind_of(&left.body);
            tally.report(kind, Change::Moved, format!("{} is elsewhere", left.shown()), places);
        }
        compare_items(left.item.as_ref(), right.item.as_ref(), places, tally);
        compare_contexts(left, right, places, tally);
        match (&left.body, &right.body) {
            (
                Body::Heading { level, number, text },
                Body::Heading { level: level_2, number: number_2, text: text_2 },
            ) => {
                let details = |changes: &mut super::Changes<'_, '_>| {
                    changes.differ("level", level, level_2, ToString::to_string);
                    changes.differ("number", number, number_2, |number| quoted(number));
                };
                self.texts(Kind::Heading, text, text_2, places, moved, tally, details);
            }
            (Body::Heading { text, .. }, Body::Paragraph(text_2)) => {
                self.texts(Kind::Heading, text, text_2, places, moved, tally, |changes| {
                    changes.add(format!("{} became a paragraph", left.shown()));
                });
            }
            (Body::Paragraph(text), Body::Heading { text: text_2, .. }) => {
                self.texts(Kind::Heading, text, text_2, places, moved, tally, |changes| {
                    changes.add(format!("{} became a heading", left.shown()));
                });
            }
            (Body::Paragraph(text), Body::Paragraph(text_2)) => {
                self.texts(Kind::Paragraph, text, text_2, places, moved, tally, |_| {});
            }
            (Body::Code { text, language }, Body::Code { text: text_2, language: language_2 }) => {
                let mut changes = tally.change(Kind::Code, places);
                changes.differ("language", language, language_2, |name| quoted(name));
                changed_lines(text, text_2).into_iter().for_each(|line| changes.add(line));
                changes.end_unless(moved);
            }
            (Body::Formula(one), Body::Formula(two)) => {
                let mut changes = tally.change(Kind::Math, places);
                changes.differ("formula", &one.meaning(), &two.meaning(), |tex| quoted(tex));
                changes.differ("number", &one.stated_number(), &two.stated_number(), |number| {
                    quoted(number.as_deref().unwrap_or_default())
                });
                changes.end_unless(moved);
            }
            (Body::Table(one), Body::Table(two)) => {
                compare_tables(self, one, two, places, moved, tally);
            }
            (Body::Markup(_), Body::Markup(_)) | (Body::Mark(_), Body::Mark(_)) => {
                if left.shown() != right.shown() {
                    let what = format!("{} became {}", left.shown(), right.shown());
                    tally.report(Kind::Structure, Change::Changed, what, places);
                } else if !moved {
                    tally.keep(Kind::Structure);
                }
            }
            _ => {}
        }
    }

    /// Words and what stands among them, with what else differs about the block.
    #[allow(clippy::too_many_arguments, reason = "one place for all texts")]
    fn texts(
        &mut self,
        kind: Kind,
        left: &Text,
        right: &Text,
        places: Places,
        moved: bool,
        tally: &mut Tally<'_>,
        details: impl FnOnce(&mut super::Changes<'_, '_>),
    ) {
        let mut changes = tally.change(kind, places);
        details(&mut changes);
        let diff = super::words::diff(&left.tokens, &right.tokens);
        for stretch in diff.stretches.iter().filter(|stretch| stretch.has_words()) {
            changes.add(super::words::told(stretch));
        }
        changes.end_unless(moved);
        compare_texts(self, &ObjectPair { left, right, diff: &diff, places }, tally);
    }

    /// A unit that only one of the documents has, with all in it.
    fn report_unit(&mut self, unit: &Unit<'_>, change: Change, tally: &mut Tally<'_>) {
        let places = match change {
            Change::Extra => (None, Some(unit.place)),
            _ => (Some(unit.place), None),
        };
        let document = if change == Change::Extra { self.right } else { self.left };
        if let Some(item) = &unit.item {
            let what = format!("the item {}", item_name(item));
            tally.report(Kind::List, change, what, places);
        }
        tally.report(kind_of(&unit.body), change, unit.shown(), places);
        let context = surroundings(unit);
        if !context.is_empty() {
            let what = format!("what {} stands in: {}", unit.shown(), context.join(" > "));
            tally.report(Kind::Structure, change, what, places);
        }
        match &unit.body {
            Body::Heading { text, .. } | Body::Paragraph(text) => {
                report_objects(text, change, places, tally);
            }
            Body::Table(table) => {
                for (_, row) in table.rows() {
                    for cell in &row.cells {
                        let text = super::tables::cell_text(cell, document);
                        report_objects(&text, change, places, tally);
                    }
                }
            }
            _ => {}
        }
    }

    /// The texts of notes: those whose marks are counterparts, then the others in order.
    fn compare_notes(&mut self, tally: &mut Tally<'_>) {
        let mut pairs = std::mem::take(&mut self.notes);
        pairs.sort_unstable();
        pairs.dedup();
        let taken_left: HashSet<usize> = pairs.iter().map(|(a, _)| a.index()).collect();
        let taken_right: HashSet<usize> = pairs.iter().map(|(_, b)| b.index()).collect();
        let free = |count: usize, taken: &HashSet<usize>| -> Vec<usize> {
            (0..count).filter(|index| !taken.contains(index)).collect()
        };
        let left = free(self.left.notes.len(), &taken_left);
        let right = free(self.right.notes.len(), &taken_right);
        pairs.extend(left.iter().zip(&right).map(|(a, b)| (NoteId::new(*a), NoteId::new(*b))));
        for (a, b) in pairs {
            if let (Some(one), Some(two)) = (self.left.note(a), self.right.note(b)) {
                let one = Units::of(&one.content, self.left);
                let two = Units::of(&two.content, self.right);
                match (one.0.as_slice(), two.0.as_slice()) {
                    // Notes of one paragraph each are counterparts, whatever they say.
                    ([one], [two]) => self.compare_units(one, two, false, tally),
                    _ => self.compare_rows(&one, &two, tally),
                }
            }
        }
        let lone_left = left.get(right.len()..).unwrap_or_default();
        let lone_right = right.get(left.len()..).unwrap_or_default();
        for (document, change, lone) in
            [(self.left, Change::Missing, lone_left), (self.right, Change::Extra, lone_right)]
        {
            for note in lone.iter().filter_map(|index| document.notes.get(*index)) {
                for unit in &Units::of(&note.content, document).0 {
                    self.report_unit(unit, change, tally);
                }
            }
        }
    }
}

/// Units without a counterpart in order that are the same, or nearly so, somewhere else.
fn moved(one: &Units<'_>, two: &Units<'_>, pairs: &[(usize, usize)]) -> Vec<(usize, usize)> {
    use super::align::Side as _;
    let taken_left: HashSet<usize> = pairs.iter().map(|(a, _)| *a).collect();
    let taken_right: HashSet<usize> = pairs.iter().map(|(_, b)| *b).collect();
    // A mark such as a thematic break is like any other of its kind: that says nothing.
    let free = |units: &Units<'_>, taken: &HashSet<usize>| -> Vec<usize> {
        let lone = (0..units.len()).filter(|index| !taken.contains(index));
        lone.filter(|index| !units.words(*index).is_empty()).collect()
    };
    let (mut free_left, mut free_right) = (free(one, &taken_left), free(two, &taken_right));
    let equal = equal_elsewhere(one, two, &free_left, &free_right);
    let settled_left: HashSet<usize> = equal.iter().map(|(a, _)| *a).collect();
    let settled_right: HashSet<usize> = equal.iter().map(|(_, b)| *b).collect();
    free_left.retain(|index| !settled_left.contains(index));
    free_right.retain(|index| !settled_right.contains(index));
    let left = Chosen { units: one, chosen: free_left };
    let right = Chosen { units: two, chosen: free_right };
    let found = by_rare_words(&left, &right, 0..left.len(), 0..right.len());
    let near = found.into_iter().filter(|(a, b)| likeness(&left, *a, &right, *b) >= MOVED);
    let near = near.filter_map(|(a, b)| Some((*left.chosen.get(a)?, *right.chosen.get(b)?)));
    equal.into_iter().chain(near).collect()
}

/// The same things in other places, first with first.
fn equal_elsewhere(
    one: &Units<'_>,
    two: &Units<'_>,
    left: &[usize],
    right: &[usize],
) -> Vec<(usize, usize)> {
    use super::align::Side as _;
    let mut places: HashMap<u64, VecDeque<usize>> = HashMap::new();
    for index in right {
        places.entry(two.key(*index)).or_default().push_back(*index);
    }
    let place = |index: &usize| Some((*index, places.get_mut(&one.key(*index))?.pop_front()?));
    left.iter().filter_map(place).collect()
}

/// Some units of a row.
struct Chosen<'u, 'd> {
    units: &'u Units<'d>,
    chosen: Vec<usize>,
}

impl super::align::Side for Chosen<'_, '_> {
    fn len(&self) -> usize {
        self.chosen.len()
    }

    fn key(&self, index: usize) -> u64 {
        self.chosen.get(index).map_or(0, |at| self.units.key(*at))
    }

    fn words(&self, index: usize) -> &[u64] {
        self.chosen.get(index).map_or(&[], |at| self.units.words(*at))
    }

    fn fits(&self, index: usize, other: &Self, other_index: usize) -> bool {
        match (self.chosen.get(index), other.chosen.get(other_index)) {
            (Some(a), Some(b)) => self.units.fits(*a, other.units, *b),
            _ => false,
        }
    }
}

pub(super) fn kind_of(body: &Body<'_>) -> Kind {
    match body {
        Body::Heading { .. } => Kind::Heading,
        Body::Paragraph(_) => Kind::Paragraph,
        Body::Code { .. } => Kind::Code,
        Body::Formula(_) => Kind::Math,
        Body::Table(_) => Kind::Table,
        Body::Markup(_) | Body::Mark(_) => Kind::Structure,
    }
}

fn compare_items(one: Option<&Item>, two: Option<&Item>, places: Places, tally: &mut Tally<'_>) {
    match (one, two) {
        (None, None) => {}
        (Some(item), None) => {
            let what = format!("the item {} is no item any more", item_name(item));
            tally.report(Kind::List, Change::Missing, what, places);
        }
        (None, Some(item)) => {
            let what = format!("what was no item is the item {}", item_name(item));
            tally.report(Kind::List, Change::Extra, what, places);
        }
        (Some(one), Some(two)) => {
            let mut changes = tally.change(Kind::List, places);
            let kind =
                |numbered: &bool| if *numbered { "numbered" } else { "bulleted" }.to_string();
            changes.differ("list", one.numbered, two.numbered, kind);
            changes.differ("depth", one.depth, two.depth, ToString::to_string);
            if one.numbered && two.numbered {
                changes.differ("number", &one.number, &two.number, |number| quoted(number));
            }
            changes.differ("box", one.check, two.check, |check| check_name(*check).to_string());
            changes.end();
        }
    }
}

fn item_name(item: &Item) -> String {
    if item.numbered { item.number.clone() } else { "with a bullet".to_string() }
}

fn check_name(check: Option<CheckState>) -> &'static str {
    match check {
        None => "none",
        Some(CheckState::Open) => "open",
        Some(CheckState::Partial) => "partly done",
        Some(CheckState::Done) => "done",
    }
}

/// What a unit stands in, but for lists: their depth and kind are compared with the items.
fn surroundings(unit: &Unit<'_>) -> Vec<String> {
    unit.context.iter().filter(|name| *name != "item").cloned().collect()
}

fn compare_contexts(left: &Unit<'_>, right: &Unit<'_>, places: Places, tally: &mut Tally<'_>) {
    let (one, two) = (surroundings(left), surroundings(right));
    if one.is_empty() && two.is_empty() {
        return;
    }
    let shown = |context: &Vec<String>| match context.join(" > ") {
        text if text.is_empty() => "nothing".to_string(),
        text => text,
    };
    let mut changes = tally.change(Kind::Structure, places);
    changes.differ(&format!("what {} stands in:", left.shown()), one, two, shown);
    changes.end();
}

/// The first lines of code that differ.
fn changed_lines(one: &str, two: &str) -> Vec<String> {
    const MOST: usize = 3;
    if one == two {
        return Vec::new();
    }
    let (left, right): (Vec<&str>, Vec<&str>) = (one.lines().collect(), two.lines().collect());
    let mut told = Vec::new();
    if left.len() != right.len() {
        told.push(format!("{} lines became {}", left.len(), right.len()));
    }
    for (number, (a, b)) in
        left.iter().zip(&right).enumerate().filter(|(_, (a, b))| a != b).take(MOST)
    {
        told.push(format!("line {}: {} became {}", number + 1, quoted(a), quoted(b)));
    }
    if told.is_empty() {
        told.push("the last line ending differs".into());
    }
    told
}
