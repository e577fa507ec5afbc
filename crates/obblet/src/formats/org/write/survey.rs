//! What is known of the whole document before anything is written.

use crate::document::{
    Block, BlockKind, CompactString, Document, GroupRole, Ids, Inline, Node, NoteId, Task, Value,
    Visit, id_of_words, plain_text, walk,
};
use crate::formats::org::read::words_of;
use std::collections::{HashMap, HashSet};

/// What is known of the whole document.
#[derive(Debug, Default)]
pub(super) struct Survey<'d> {
    /// The words of headings by the ids that they get from them.
    pub(super) headings: HashMap<String, String>,
    /// Ids that headings state.
    pub(super) heading_ids: HashSet<&'d str>,
    /// Names of blocks and places in the text.
    pub(super) names: HashSet<&'d str>,
    /// Names of what is numbered: captioned tables and the like, equations.
    pub(super) numbered: HashSet<&'d str>,
    pub(super) equations: HashSet<&'d str>,
    /// The words of tasks in the order they come, each with whether it means that a task is over.
    pub(super) states: Vec<(&'d str, bool)>,
    /// All words of tasks.
    pub(super) state_words: HashSet<&'d str>,
    /// Whether text would be lowered or raised without braces.
    pub(super) has_bare_scripts: bool,
    /// Whether text has signs that would be read as dashes or dots.
    pub(super) has_special_strings: bool,
    /// Whether there is what Org does not show unless it is told to.
    pub(super) has_planning: bool,
    pub(super) has_priorities: bool,
    pub(super) has_logbook: bool,
    /// Labels of notes by their numbers.
    pub(super) note_labels: Vec<String>,
    /// Whether headings have the numbers that Org would count.
    pub(super) counts_headings: bool,
    /// Notes in the order of their marks.
    pub(super) marked: Vec<NoteId>,
    /// Numbers of the notes that have a mark.
    has_mark: HashSet<usize>,
}

impl<'d> Survey<'d> {
    pub(super) fn of(document: &'d Document) -> Self {
        let mut survey = Self { counts_headings: true, ..Self::default() };
        survey.note_labels(document);
        let mut ids = Ids::default();
        let mut counted = Counted::default();
        let mut has_numbers = false;
        let notes = document.notes.iter().map(|note| note.content.as_slice());
        for blocks in std::iter::once(document.blocks.as_slice()).chain(notes) {
            for visit in walk(blocks) {
                let Visit::Enter(node) = visit else { continue };
                match node {
                    Node::Block(block) => {
                        survey.block(block, &mut ids);
                        if let BlockKind::Heading(heading) = &block.kind {
                            has_numbers |= heading.number.is_some();
                            survey.counts_headings &=
                                counted.fits(heading.level, heading.number.as_deref());
                        }
                    }
                    Node::Inline(inline) => survey.inline(inline),
                    _ => {}
                }
            }
        }
        survey.counts_headings &= has_numbers;
        survey.titles(document, &mut ids);
        survey.stated_states(document);
        survey
    }

    fn block(&mut self, block: &'d Block, ids: &mut Ids) {
        let id = block.attributes.id();
        if let Some(id) = id {
            ids.reserve(id);
        }
        match &block.kind {
            BlockKind::Heading(heading) => {
                self.heading_ids.extend(id);
                if let Some(task) = &heading.task {
                    self.state(task);
                }
            }
            BlockKind::Formula(formula) => {
                self.equations.extend(formula.label.as_deref());
                self.names.extend(id);
            }
            kind => {
                self.names.extend(id);
                if let BlockKind::Group(group) = kind
                    && let GroupRole::Drawer(name) = &group.role
                {
                    self.has_logbook |= name.eq_ignore_ascii_case("logbook");
                }
                let has_caption = match kind {
                    BlockKind::Table(table) => table.caption.is_some(),
                    BlockKind::Figure(figure) => figure.caption.is_some(),
                    _ => false,
                };
                if has_caption {
                    self.numbered.extend(id);
                }
            }
        }
    }

    fn state(&mut self, task: &'d Task) {
        self.has_planning |= !task.planning.is_empty();
        self.has_priorities |= task.priority.is_some();
        let keyword = task.keyword.as_str();
        if !keyword.is_empty() && self.state_words.insert(keyword) {
            self.states.push((keyword, task.done));
        }
    }

    fn inline(&mut self, inline: &'d Inline) {
        match inline {
            Inline::Text(text) => {
                self.has_bare_scripts |= has_bare_script(text);
                self.has_special_strings |=
                    text.contains("--") || text.contains("...") || text.contains("\\-");
            }
            Inline::Anchor(anchor) => {
                self.names.insert(&anchor.id);
            }
            Inline::NoteMark(note) if self.has_mark.insert(note.index()) => self.marked.push(*note),
            _ => {}
        }
    }

    /// The ids that headings without one get from their words.
    fn titles(&mut self, document: &'d Document, ids: &mut Ids) {
        let mut seen: HashSet<String> = HashSet::new();
        for visit in walk(&document.blocks) {
            let Visit::Enter(Node::Block(block)) = visit else { continue };
            let BlockKind::Heading(heading) = &block.kind else { continue };
            let is_first = seen.insert(words_of(&heading.content));
            if block.attributes.id().is_some() {
                continue;
            }
            let words = plain_text(&heading.content);
            let id = ids.made(&id_of_words(&words)).to_string();
            let words = words.split_whitespace().collect::<Vec<_>>().join(" ");
            let is_plain = !words.is_empty() && !words.contains(['[', ']', '\\', '\u{1}']);
            if is_first && is_plain {
                self.headings.insert(id, words);
            }
        }
    }

    /// Words of tasks that the document states itself stand first.
    fn stated_states(&mut self, document: &'d Document) {
        let stated = |key: &str| matches!(key, "todo" | "seq_todo" | "typ_todo");
        let mut words: HashSet<&str> = HashSet::new();
        for (key, value) in &document.metadata.extra {
            if !stated(key) {
                continue;
            }
            let lines = match value {
                Value::Text(line) => vec![line.as_str()],
                Value::List(lines) => lines.iter().filter_map(text_of).collect(),
                _ => Vec::new(),
            };
            for line in lines {
                words.extend(line.split_whitespace().map(|w| w.split('(').next().unwrap_or(w)));
            }
        }
        self.states.retain(|(known, _)| !words.contains(known));
    }

    fn note_labels(&mut self, document: &Document) {
        let mut taken: HashSet<CompactString> = HashSet::new();
        let is_label = |label: &&CompactString| {
            label.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_'))
                && !label.is_empty()
        };
        let labels = document.notes.iter().map(|note| note.label.as_ref().filter(is_label));
        taken.extend(labels.clone().flatten().cloned());
        let mut used: HashSet<&CompactString> = HashSet::new();
        let mut next = 1;
        let mut free = || loop {
            let label = CompactString::from(next.to_string());
            next += 1;
            if taken.insert(label.clone()) {
                return label.to_string();
            }
        };
        let mut given = Vec::new();
        for label in labels {
            given.push(match label {
                Some(label) if used.insert(label) => label.to_string(),
                _ => free(),
            });
        }
        self.note_labels = given;
    }
}

fn text_of(value: &Value) -> Option<&str> {
    match value {
        Value::Text(text) => Some(text),
        _ => None,
    }
}

/// Whether a text would have something lowered or raised.
fn has_bare_script(text: &str) -> bool {
    let mut before = ' ';
    let mut characters = text.chars().peekable();
    while let Some(c) = characters.next() {
        if matches!(c, '_' | '^') && !before.is_whitespace() {
            let next = characters.peek().copied().unwrap_or(' ');
            if next.is_alphanumeric() || matches!(next, '+' | '-' | '(' | '*' | '.' | ',' | '\\') {
                return true;
            }
        }
        before = c;
    }
    false
}

/// Numbers of headings as Org counts them.
#[derive(Debug, Default)]
struct Counted {
    counts: Vec<usize>,
    unnumbered: Option<usize>,
}

impl Counted {
    /// Whether a heading has the number that it would get, or none where nothing above it has one.
    fn fits(&mut self, level: u8, number: Option<&str>) -> bool {
        let level = usize::from(level);
        if self.unnumbered.is_some_and(|above| level <= above) {
            self.unnumbered = None;
        }
        let Some(number) = number else {
            self.unnumbered.get_or_insert(level);
            return true;
        };
        self.counts.resize(level, 0);
        if let Some(last) = self.counts.last_mut() {
            *last += 1;
        }
        let parts: Vec<String> = self.counts.iter().map(ToString::to_string).collect();
        self.unnumbered.is_none() && parts.join(".") == number
    }
}
