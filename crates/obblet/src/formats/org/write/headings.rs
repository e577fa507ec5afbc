//! Headings with their tasks, dates, tags and properties.

use super::Writer;
use super::attributes::TAG_COLUMN;
use super::escape::APART;
use super::inlines::spelled;
use super::links::is_machine_id;
use crate::document::{Attributes, Heading, PlanningKind};
use crate::findings::Code;
use crate::formats::org::read::words_of;

impl Writer<'_> {
    pub(super) fn heading(&mut self, heading: &Heading, attributes: &Attributes) {
        self.blank_line();
        let mut line = "*".repeat(usize::from(heading.level.max(1)));
        line.push(' ');
        if let Some(task) = &heading.task {
            if !task.keyword.is_empty() {
                line.push_str(&task.keyword);
                line.push(' ');
            }
            if let Some(priority) = &task.priority {
                line.push_str(&format!("[#{priority}] "));
            }
        }
        if let Some(number) = heading.number.as_deref().filter(|_| !self.survey.counts_headings) {
            self.findings.count(Code::NumberAsText, number, Some(self.place));
            line.push_str(&format!("{number} "));
        }
        let words = self.one_line(&heading.content);
        line.push_str(&self.protected(&words));
        if !heading.tags.is_empty() {
            let tags = format!(":{}:", heading.tags.join(":"));
            let length = line.trim_end().chars().count();
            let space = TAG_COLUMN.saturating_sub(length + tags.chars().count()).max(1);
            line.truncate(line.trim_end().len());
            line.push_str(&" ".repeat(space));
            line.push_str(&tags);
        }
        self.out.push_str(line.trim_end());
        // A heading without words still needs the space behind its stars.
        if line.trim_end().ends_with('*') && line.trim_end().chars().all(|c| c == '*') {
            self.out.push(' ');
        }
        self.out.push('\n');
        self.planning(heading);
        self.properties(heading, attributes);
        self.is_start = false;
        self.has_list_before = false;
        self.is_behind_heading = true;
    }

    /// Words that would be the state of a task, a priority, or tags.
    fn protected(&self, words: &str) -> String {
        let first = words.split(' ').next().unwrap_or_default();
        let is_state =
            matches!(first, "TODO" | "DONE" | "COMMENT") || self.survey.state_words.contains(first);
        let mut out = String::new();
        if is_state || words.starts_with("[#") {
            out.push(APART);
        }
        out.push_str(words);
        let last = words.rsplit(' ').next().unwrap_or_default();
        if last.len() > 2 && last.starts_with(':') && last.ends_with(':') {
            out.push(APART);
        }
        out
    }

    fn planning(&mut self, heading: &Heading) {
        let Some(task) = heading.task.as_ref().filter(|task| !task.planning.is_empty()) else {
            return;
        };
        let dates: Vec<String> = task
            .planning
            .iter()
            .map(|planned| {
                let word = match planned.kind {
                    PlanningKind::Scheduled => "SCHEDULED",
                    PlanningKind::Deadline => "DEADLINE",
                    PlanningKind::Closed => "CLOSED",
                };
                format!("{word}: {}", spelled(&planned.timestamp))
            })
            .collect();
        self.out.push_str(&dates.join(" "));
        self.out.push('\n');
    }

    fn properties(&mut self, heading: &Heading, attributes: &Attributes) {
        let mut properties: Vec<(String, String)> = Vec::new();
        if self.survey.counts_headings && heading.number.is_none() {
            properties.push(("UNNUMBERED".into(), "t".into()));
        }
        if let Some(set) = attributes.get() {
            if let Some(id) = &set.id {
                let name = if is_machine_id(id) { "ID" } else { "CUSTOM_ID" };
                properties.push((name.into(), id.to_string()));
            }
            if !set.classes.is_empty() {
                properties.push(("HTML_CONTAINER_CLASS".into(), set.classes.join(" ")));
            }
            if let Some(language) = &set.language {
                properties.push(("LANGUAGE".into(), language.to_string()));
            }
            if set.direction.is_some() {
                self.lost("a direction of writing");
            }
            if !set.audiences.is_empty() {
                properties.push(("AUDIENCE".into(), set.audiences.join(" ")));
            }
            if set.revision.is_some() {
                self.lost("a tracked change of a block");
            }
            for (name, value) in &set.pairs {
                if name == "unnumbered" && self.survey.counts_headings {
                    continue;
                }
                properties.push((name.to_uppercase().to_string(), value.to_string()));
            }
        }
        if properties.is_empty() {
            return;
        }
        let widest = properties.iter().map(|(name, _)| name.chars().count()).max().unwrap_or(0);
        self.out.push_str(":PROPERTIES:\n");
        for (name, value) in properties {
            let space = " ".repeat(widest - name.chars().count() + 1);
            self.out.push_str(format!(":{name}:{space}{}", value.replace('\n', " ")).trim_end());
            self.out.push('\n');
        }
        self.out.push_str(":END:\n");
    }

    /// Whether a heading is the one that notes stand under.
    pub(super) fn is_notes_heading(heading: &Heading) -> bool {
        words_of(&heading.content) == "footnotes"
    }
}
