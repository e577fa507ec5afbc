//! Tasks: headings with a state, and tasks inside a text.

use super::Reader;
use super::drawers::TASK;
use super::lines::stars;
use super::outline::{HeadingLine, planning_of};
use super::survey::INLINE_TASK;
use crate::document::Admonition;
use crate::document::AdmonitionKind;
use crate::document::BlockKind;
use crate::document::{Block, Heading, Inline, Place, Planning, Task};

impl<'s> Reader<'s> {
    pub(super) fn task(
        &mut self,
        line: &HeadingLine<'_>,
        mut planning: Vec<Planning>,
        place: Place,
    ) -> Option<Box<Task>> {
        let (mut keyword, mut priority) = (line.keyword, line.priority);
        if !self.options.keeps_hidden {
            let options = &self.settings.options;
            let hides = [
                (!options.keywords && keyword.is_some(), "the states of tasks"),
                (!options.priorities && priority.is_some(), "the priorities of tasks"),
                (!options.planning && !planning.is_empty(), "the planned dates of tasks"),
            ];
            keyword = keyword.filter(|_| options.keywords);
            priority = priority.filter(|_| options.priorities);
            if !options.planning {
                planning.clear();
            }
            for (_, what) in hides.into_iter().filter(|(is_hidden, _)| *is_hidden) {
                self.hidden(what, place);
            }
        }
        if keyword.is_none() && priority.is_none() && planning.is_empty() {
            return None;
        }
        let (keyword, done) = keyword.unwrap_or_default();
        let priority = priority.map(Into::into);
        Some(Box::new(Task { keyword: keyword.into(), done, priority, planning }))
    }
}

/// `[#A]` or `[#12]`.
pub(super) fn priority(text: &str) -> Option<(&str, &str)> {
    let (inner, behind) = text.strip_prefix("[#")?.split_once(']')?;
    let is_letter = inner.len() == 1 && inner.bytes().all(|byte| byte.is_ascii_uppercase());
    let is_number =
        (1..=2).contains(&inner.len()) && inner.bytes().all(|byte| byte.is_ascii_digit());
    (is_letter || is_number).then_some((inner, behind))
}

/// The words of a heading that is a list item.
pub(super) fn words_of_task(heading: Heading) -> Vec<Inline> {
    let mut words = Vec::new();
    if let Some(task) = heading.task.filter(|task| !task.keyword.is_empty()) {
        words.push(Inline::Text(format!("{} ", task.keyword).into()));
    }
    words.extend(heading.content);
    words
}

impl Reader<'_> {
    /// Planned dates are not for readers unless the document says so. Gives the line behind them.
    pub(super) fn planning_of_inline_task(&mut self, at: usize, close: usize) -> usize {
        let is_shown = self.settings.options.planning || self.options.keeps_hidden;
        let line = self.lines.get(at).filter(|_| at < close && !is_shown);
        match line.filter(|line| planning_of(line).is_some()).map(|line| line.place()) {
            Some(place) => {
                self.hidden("the planned dates of tasks", place);
                at + 1
            }
            None => at,
        }
    }

    /// A heading of many stars is a task inside the text.
    pub(super) fn inline_task(&mut self, at: usize, end: usize, out: &mut Vec<Block>) -> usize {
        let Some(line) = self.lines.get(at).copied() else { return at + 1 };
        let close = (at + 1..end).find(|next| {
            self.lines
                .get(*next)
                .is_some_and(|line| stars(line.text).is_some_and(|s| s >= INLINE_TASK))
        });
        let words = |at: usize| -> &str {
            self.lines.get(at).map_or("", |line| line.text.trim_start_matches('*').trim())
        };
        // Without an end of its own it is one line.
        let close = close.filter(|close| words(*close) == "END");
        let behind = close.map_or(at + 1, |close| close + 1);
        let place = self.place_of(&(at..behind));
        if words(at) == "END" {
            return behind;
        }
        if !self.settings.options.inline_tasks && !self.options.keeps_hidden {
            self.hidden("an inline task", place);
            return behind;
        }
        let title = self.inlines_of_text(words(at), line.place());
        let content = match close {
            Some(close) => {
                let first = self.planning_of_inline_task(at + 1, close);
                self.deeper(place, |reader| reader.elements(first..close))
            }
            None => None,
        };
        out.push(inline_task(title, content.unwrap_or_default(), place));
        behind
    }
}

fn inline_task(title: Vec<Inline>, content: Vec<Block>, place: Place) -> Block {
    let kind = AdmonitionKind::Other(TASK.into());
    let admonition = Admonition { kind, title: Some(title), content };
    Block::new(BlockKind::Admonition(Box::new(admonition))).at(place)
}
