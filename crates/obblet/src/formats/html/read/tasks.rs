//! Tasks and dates, as the writer marks them.

use super::super::dom::NodeId;
use super::super::tasks::{
    DATES, PLANNED, PLANNED_NAMES, PLANNING, PRIORITY, STATE, TAG, TASK, moment, timestamp,
};
use super::Reader;
use crate::document::{CompactString, Heading, Inline, Moment, Planning, Task, Timestamp};

impl Reader<'_> {
    /// Whether an element of a heading says something about it as a task.
    pub(super) fn is_about_task(&self, node: NodeId) -> bool {
        let has = |name| self.dom.attribute(node, name).is_some();
        self.in_heading && (has(TASK) || has(PRIORITY) || has(TAG))
    }

    /// Task, priority and tags of a heading.
    pub(super) fn read_task(&self, node: NodeId, heading: &mut Heading) {
        let mut task = Task::default();
        for child in self.dom.children(node) {
            let text = || -> CompactString { self.dom.text_of(child).trim().into() };
            if let Some(state) = self.dom.attribute(child, TASK) {
                task.keyword = text();
                task.done = state == "done";
            } else if self.dom.attribute(child, PRIORITY).is_some() {
                task.priority = Some(text());
            } else if self.dom.attribute(child, TAG).is_some() {
                heading.tags.push(text());
            }
        }
        if task != Task::default() {
            heading.task = Some(Box::new(task));
        }
    }

    pub(super) fn is_planning(&self, node: NodeId) -> bool {
        self.dom.attribute(node, "data-kind") == Some(PLANNING)
    }

    /// The planned dates that a paragraph says.
    pub(super) fn planning(&self, node: NodeId) -> Vec<Planning> {
        let planned = |child: NodeId| {
            let name = self.dom.attribute(child, PLANNED)?;
            let (kind, _) = PLANNED_NAMES.into_iter().find(|(_, known)| *known == name)?;
            let holder = self.dom.children(child).find(|below| self.dom.name(*below).is_some())?;
            Some(Planning { kind, timestamp: self.dates(holder)? })
        };
        self.dom.children(node).filter_map(planned).collect()
    }

    /// The date, or the span of dates, that an element is.
    pub(super) fn dates(&self, node: NodeId) -> Option<Timestamp> {
        let attribute = |name: &str| self.dom.attribute(node, name).map(Into::into);
        if self.dom.name(node) == Some("time") {
            let start = self.moment(node, None)?;
            return Some(timestamp(start, None, attribute));
        }
        if self.dom.attribute(node, "data-kind") != Some(DATES) {
            return None;
        }
        let mut times =
            self.dom.children(node).filter(|child| self.dom.name(*child) == Some("time"));
        let start = self.moment(times.next()?, None)?;
        let end = match times.next() {
            Some(end) => Some(self.moment(end, Some(start))?),
            None => None,
        };
        Some(timestamp(start, end, attribute))
    }

    /// A time that shows nothing but itself.
    fn moment(&self, node: NodeId, before: Option<Moment>) -> Option<Moment> {
        let is_plain = self.dom.attribute(node, "datetime").is_none();
        is_plain.then(|| moment(&self.dom.text_of(node), before)).flatten()
    }

    pub(super) fn timestamp_of(&self, node: NodeId) -> Option<Inline> {
        self.dates(node).map(|timestamp| Inline::Timestamp(Box::new(timestamp)))
    }

    /// Whether the first box in an item is ticked in part.
    pub(super) fn is_partial(&self, node: NodeId) -> bool {
        let mut below = self.dom.below(node);
        let first = below.find(|below| self.dom.name(*below) == Some("input"));
        first.is_some_and(|first| self.dom.attribute(first, STATE) == Some("partial"))
    }
}
