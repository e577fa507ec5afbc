//! Theorems and other statements: environments whose numbers LaTeX counts as the document does.

use super::{Need, Writer};
use crate::document::{Attributes, Block, BlockKind, Document, GroupRole, Node, Visit, walk};
use std::collections::BTreeMap;

/// How the statements of a document are counted.
#[derive(Debug, Default)]
pub(super) struct Statements {
    /// The words of each kind, with the name of its environment.
    pub(super) kinds: BTreeMap<String, String>,
    /// Whether one counter counts all of them.
    pub(super) is_shared: bool,
    /// Whether they are counted anew in each section.
    pub(super) is_within: bool,
    /// Whether LaTeX counts as the document does at all.
    pub(super) is_counted: bool,
}

/// A statement's title in its parts: `Theorem 2.1 (Head)`.
struct Title<'t> {
    words: &'t str,
    number: Option<&'t str>,
    note: Option<&'t str>,
}

fn parts(title: &str) -> Title<'_> {
    let (front, note) = match title.strip_suffix(')').and_then(|rest| rest.split_once(" (")) {
        Some((front, note)) => (front, Some(note)),
        None => (title, None),
    };
    match front.rsplit_once(' ') {
        Some((words, number)) if number.starts_with(|c: char| c.is_ascii_digit()) => {
            Title { words, number: Some(number), note }
        }
        _ => Title { words: front, number: None, note },
    }
}

impl Statements {
    pub(super) fn of(document: &Document) -> Self {
        let mut seen: Vec<(String, String, u32)> = Vec::new();
        let mut kinds = BTreeMap::new();
        let mut section = 0;
        for visit in walk(&document.blocks) {
            let Visit::Enter(Node::Block(block)) = visit else { continue };
            match &block.kind {
                BlockKind::Heading(heading) if heading.level == 1 && heading.number.is_some() => {
                    section += 1;
                }
                BlockKind::Group(group) => {
                    let GroupRole::Statement(title) = &group.role else { continue };
                    let title = parts(title);
                    if let Some(number) = title.number {
                        kinds.insert(title.words.to_string(), environment_name(title.words));
                        seen.push((title.words.to_string(), number.to_string(), section));
                    }
                }
                _ => {}
            }
        }
        for (is_shared, is_within) in [(false, false), (true, false), (false, true), (true, true)] {
            if fits(&seen, is_shared, is_within) {
                return Self { kinds, is_shared, is_within, is_counted: true };
            }
        }
        Self { kinds, ..Self::default() }
    }
}

/// Whether counting in this way gives the numbers that the document shows.
fn fits(seen: &[(String, String, u32)], is_shared: bool, is_within: bool) -> bool {
    let mut counts: BTreeMap<(&str, u32), u32> = BTreeMap::new();
    seen.iter().all(|(words, number, section)| {
        let counter = if is_shared { "" } else { words.as_str() };
        let within = if is_within { *section } else { 0 };
        let count = counts.entry((counter, within)).or_default();
        *count += 1;
        match is_within {
            true => *number == format!("{section}.{count}"),
            false => *number == count.to_string(),
        }
    })
}

fn environment_name(words: &str) -> String {
    let name: String = words.to_lowercase().chars().filter(char::is_ascii_alphabetic).collect();
    // Names that LaTeX uses itself.
    match name.as_str() {
        "" => "statement".into(),
        "proof" | "note" | "table" | "figure" | "document" | "abstract" | "quote" => {
            format!("{name}statement")
        }
        _ => name,
    }
}

impl Writer<'_> {
    pub(super) fn statement(&mut self, name: &str, content: &[Block], attributes: &Attributes) {
        self.need(Need::Amsthm);
        let title = parts(name);
        if name == "Proof" {
            return self.environment("proof", "", content, attributes);
        }
        let note = title.note.map(|note| self.as_argument(|writer| writer.text(note)));
        let note = note.map(|note| format!("[{{{note}}}]")).unwrap_or_default();
        let known = self.statements.kinds.get(title.words).cloned();
        if let (Some(_), Some(environment), true) =
            (title.number, known, self.statements.is_counted)
        {
            return self.environment(&environment, &note, content, attributes);
        }
        // Without a number that LaTeX would count, the title is written out.
        self.need(Need::StatementEnvironment);
        let words = self.as_argument(|writer| writer.text(name));
        self.environment("statement", &format!("{{{words}}}"), content, attributes);
    }
}
