//! Tasks, their planned dates, and dates in the text.

use super::super::tasks::{
    ACTIVE, DATES, PLANNED, PLANNED_NAMES, PLANNING, PRIORITY, REPEATS, TAG, TASK, WARNS,
};
use super::Writer;
use crate::document::{CompactString, Moment, Task, Timestamp};

impl Writer<'_> {
    /// What stands before the words of a heading that is a task.
    pub(super) fn task(&mut self, task: &Task) {
        if !task.keyword.is_empty() {
            let state = if task.done { "done" } else { "open" };
            self.small(TASK, state, &task.keyword);
            self.out.push(' ');
        }
        if let Some(priority) = &task.priority {
            self.small(PRIORITY, "", priority);
            self.out.push(' ');
        }
    }

    pub(super) fn tags(&mut self, tags: &[CompactString]) {
        for tag in tags {
            self.out.push(' ');
            self.small(TAG, "", tag);
        }
    }

    fn small(&mut self, name: &str, value: &str, text: &str) {
        self.out.push_str("<small");
        self.flag_or_value(name, value);
        self.out.push('>');
        self.text(text);
        self.out.push_str("</small>");
    }

    fn flag_or_value(&mut self, name: &str, value: &str) {
        if value.is_empty() {
            self.out.push(' ');
            self.out.push_str(name);
        } else {
            self.attribute(name, value);
        }
    }

    /// The planned dates of a task, in a line below its heading.
    pub(super) fn planning(&mut self, task: &Task) {
        if task.planning.is_empty() {
            return;
        }
        self.out.push_str("<p");
        self.attribute("data-kind", PLANNING);
        self.out.push('>');
        for (at, planned) in task.planning.iter().enumerate() {
            let known = PLANNED_NAMES.into_iter().position(|(kind, _)| kind == planned.kind);
            let index = known.unwrap_or_default();
            if at > 0 {
                self.out.push(' ');
            }
            self.out.push_str("<span");
            if let Some((_, name)) = PLANNED_NAMES.get(index) {
                self.attribute(PLANNED, name);
            }
            self.out.push('>');
            let word = self.words.planning.get(index).copied().unwrap_or_default();
            self.text(word);
            self.out.push_str(": ");
            self.timestamp(&planned.timestamp);
            self.out.push_str("</span>");
        }
        self.out.push_str("</p>\n");
    }

    pub(super) fn timestamp(&mut self, timestamp: &Timestamp) {
        let Timestamp { active, start, end, repeater, warning } = timestamp;
        let is_simple = end.is_none() && repeater.is_none() && warning.is_none();
        if is_simple {
            return self.moment(*start, None, *active);
        }
        self.out.push_str("<span");
        self.attribute("data-kind", DATES);
        if *active {
            self.flag_or_value(ACTIVE, "");
        }
        for (name, value) in [(REPEATS, repeater), (WARNS, warning)] {
            if let Some(value) = value {
                self.attribute(name, value);
            }
        }
        self.out.push('>');
        self.moment(*start, None, false);
        if let Some(end) = end {
            self.out.push('–');
            self.moment(*end, Some(*start), false);
        }
        for interval in [repeater, warning].into_iter().flatten() {
            self.out.push_str(" <small>");
            self.text(interval);
            self.out.push_str("</small>");
        }
        self.out.push_str("</span>");
    }

    /// A moment; on the same day as the one before, only the time is shown.
    fn moment(&mut self, moment: Moment, before: Option<Moment>, active: bool) {
        let is_same_day = before.is_some_and(|before| {
            Moment { time: None, ..before } == Moment { time: None, ..moment }
        });
        self.out.push_str("<time");
        if active {
            self.flag_or_value(ACTIVE, "");
        }
        self.out.push('>');
        match moment.time.filter(|_| is_same_day) {
            Some((hour, minute)) => self.out.push_str(&format!("{hour:02}:{minute:02}")),
            None => self.out.push_str(&moment.spelled()),
        }
        self.out.push_str("</time>");
    }
}
