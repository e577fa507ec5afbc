//! `obblet publish --dry-run`: what a run would do.

use crate::talk::counted;
use obblet_publish::{Action, Plan, State};
use serde::Serialize;
use std::collections::BTreeMap;

/// The plan as JSON.
pub(crate) fn json(plan: &Plan) -> String {
    let counts: BTreeMap<&str, usize> =
        State::ALL.into_iter().map(|state| (state.word(), plan.count(state))).collect();
    let files: Vec<Row<'_>> = plan
        .entries()
        .iter()
        .map(|entry| Row {
            source: &entry.source,
            target: &entry.target,
            action: action_word(entry.action),
            state: entry.state,
            why: &entry.why,
            notes: &entry.notes,
        })
        .collect();
    format!("{:#}\n", serde_json::json!({ "counts": counts, "files": files }))
}

#[derive(Serialize)]
struct Row<'p> {
    source: &'p str,
    target: &'p str,
    action: &'static str,
    state: State,
    why: &'p str,
    notes: &'p [String],
}

fn action_word(action: Action) -> &'static str {
    match action {
        Action::Convert(_) => "convert",
        Action::Copy => "copy",
        Action::LeaveOut => "leave out",
        Action::Remove => "remove",
    }
}

/// The plan for people: counts by folder and state, then every file that is not as it was.
pub(crate) fn text(plan: &Plan) -> String {
    let mut text = counts(plan);
    for entry in plan.entries().iter().filter(|entry| entry.state != State::Unchanged) {
        let to = match entry.action {
            Action::Convert(_) | Action::Copy => format!(" → {}", entry.target),
            Action::LeaveOut | Action::Remove => String::new(),
        };
        let word = entry.state.word();
        text.push_str(&format!("{word:<11} {}{to}: {}\n", entry.source, entry.why));
        for note in &entry.notes {
            text.push_str(&format!("{:<11} {note}\n", ""));
        }
    }
    let files = counted(plan.entries().len(), "file", "files");
    text.push_str(&format!("{files}. Nothing was written.\n"));
    text
}

/// A table: a row for each folder, a column for each state that there is.
fn counts(plan: &Plan) -> String {
    let states: Vec<State> = State::ALL.into_iter().filter(|s| plan.count(*s) > 0).collect();
    let mut folders: BTreeMap<&str, BTreeMap<State, usize>> = BTreeMap::new();
    for entry in plan.entries() {
        let folder = entry.source.rsplit_once('/').map_or(".", |(folder, _)| folder);
        *folders.entry(folder).or_default().entry(entry.state).or_default() += 1;
    }
    let mut text = String::new();
    for state in &states {
        text.push_str(&format!("{:>12}", state.word()));
    }
    text.push_str("  folder\n");
    for (folder, counts) in folders {
        for state in &states {
            text.push_str(&format!("{:>12}", counts.get(state).copied().unwrap_or(0)));
        }
        text.push_str(&format!("  {folder}\n"));
    }
    text.push('\n');
    text
}
