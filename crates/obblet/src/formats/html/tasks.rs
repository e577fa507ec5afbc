//! Tasks and dates on pages: the attributes that say what they are, for writer and reader.

use crate::document::{CompactString, Moment, PlanningKind, Timestamp};

/// On the state of a task: `open` or `done`.
pub(super) const TASK: &str = "data-task";
/// On the priority of a task.
pub(super) const PRIORITY: &str = "data-priority";
/// On a tag of a heading.
pub(super) const TAG: &str = "data-tag";
/// On a planned date: which of them it is.
pub(super) const PLANNED: &str = "data-planned";
/// On a box: `partial`.
pub(super) const STATE: &str = "data-state";
/// On a date that belongs into an agenda.
pub(super) const ACTIVE: &str = "data-active";
/// On a date: how it repeats.
pub(super) const REPEATS: &str = "data-repeats";
/// On a date: how long before it a warning is wanted.
pub(super) const WARNS: &str = "data-warns";
/// The kind of a paragraph of planned dates.
pub(super) const PLANNING: &str = "planning";
/// The kind of what holds the two ends of a span of dates.
pub(super) const DATES: &str = "dates";
/// On a drawer: its name.
pub(super) const NAME: &str = "data-name";
/// The kind of a drawer.
pub(super) const DRAWER: &str = "drawer";

pub(super) const PLANNED_NAMES: [(PlanningKind, &str); 3] = [
    (PlanningKind::Scheduled, "scheduled"),
    (PlanningKind::Deadline, "deadline"),
    (PlanningKind::Closed, "closed"),
];

/// The day that a text spells, perhaps with a time of day; a time alone is on the day before it.
pub(super) fn moment(text: &str, day_before: Option<Moment>) -> Option<Moment> {
    let text = text.trim();
    let (date, time) = match text.split_once([' ', 'T']) {
        Some((date, time)) => (Some(date), Some(time)),
        None if text.contains(':') => (None, Some(text)),
        None => (Some(text), None),
    };
    let start = match date {
        Some(date) => Moment::of_day(date)?,
        None => day_before?,
    };
    let time = match time {
        Some(time) => Some(clock(time)?),
        None => None,
    };
    Some(Moment { time, ..start })
}

fn clock(text: &str) -> Option<(u8, u8)> {
    let (hour, minute) = text.split_once(':')?;
    let has_form = (hour.len(), minute.len()) == (2, 2);
    let (hour, minute) = (hour.parse().ok()?, minute.parse().ok()?);
    (has_form && hour < 24 && minute < 60).then_some((hour, minute))
}

/// The date that elements say.
pub(super) fn timestamp(
    start: Moment,
    end: Option<Moment>,
    attribute: impl Fn(&str) -> Option<CompactString>,
) -> Timestamp {
    let active = attribute(ACTIVE).is_some();
    Timestamp { active, start, end, repeater: attribute(REPEATS), warning: attribute(WARNS) }
}
