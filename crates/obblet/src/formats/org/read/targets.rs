//! What links point to, and links that name a place by its words (Org manual, “Internal Links”).

use super::Reader;
use super::code::Exports;
use crate::document::{
    Block, BlockKind, CompactString, Ids, Inline, Link, Node, Place, Reference, ReferenceShows,
    Visit, clean_id, id_of_words, plain_text, walk, walk_inlines_mut,
};
use crate::findings::Code;
use std::collections::{HashMap, HashSet};

/// Begins the address of a link whose target is looked for when everything is read.
const SEARCHED: char = '\u{1}';

/// How a link names its target.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Search {
    /// `*Words`: a heading.
    Heading,
    /// `#id`
    Id,
    /// `(label)`: a line of code.
    CodeLine,
    /// Anything: a target, a name, a heading.
    Anything,
}

impl Search {
    fn sign(self) -> char {
        match self {
            Self::Heading => '*',
            Self::Id => '#',
            Self::CodeLine => '(',
            Self::Anything => '?',
        }
    }
}

/// What links can point to.
#[derive(Debug, Default)]
pub(super) struct Targets {
    counts: HashMap<String, usize>,
    names: HashSet<String>,
    /// Numbers of captions and equations by their names.
    numbers: HashMap<String, usize>,
    /// Other ids of headings, each with the one that the tree has.
    aliases: HashMap<String, String>,
    line_marks: HashMap<String, usize>,
    exports: HashMap<String, Exports>,
    last_exports: Option<Exports>,
    /// What links look for, and where they do.
    searches: Vec<(String, Place)>,
    /// Where the number of a thing is asked for first.
    references: HashMap<String, Place>,
    pub(super) file_properties: Option<Block>,
}

impl Targets {
    /// Counts one more of a kind.
    pub(super) fn count(&mut self, kind: &str) -> usize {
        let count = self.counts.entry(kind.to_string()).or_default();
        *count += 1;
        *count
    }

    pub(super) fn add_number(&mut self, name: &str, number: usize) {
        self.numbers.insert(name.to_string(), number);
    }

    pub(super) fn add_name(&mut self, name: &str) {
        self.names.insert(name.to_string());
    }

    pub(super) fn add_alias(&mut self, other: &str, id: &str) {
        self.aliases.insert(other.to_string(), id.to_string());
    }

    pub(super) fn add_line_mark(&mut self, label: &str, number: usize) {
        self.line_marks.insert(label.to_string(), number);
    }

    pub(super) fn set_exports(&mut self, name: Option<&str>, exports: Exports) {
        if let Some(name) = name {
            self.exports.insert(name.to_string(), exports);
        }
        self.last_exports = Some(exports);
    }

    /// The number of a thing is asked for, which is known when everything is read.
    pub(super) fn expect_number(&mut self, name: &str, place: Place) {
        self.references.entry(name.to_string()).or_insert(place);
    }

    /// The words and ids that links ask for.
    fn wanted(&self) -> HashSet<String> {
        let mut wanted = HashSet::new();
        for (words, _) in &self.searches {
            wanted.insert(without_cookies(words).to_lowercase());
            let id = self.aliases.get(words).unwrap_or(words);
            wanted.extend(clean_id(id).map(String::from));
            wanted.insert(id.clone());
        }
        wanted.extend(self.references.keys().cloned());
        wanted
    }

    /// The address of a link whose target is looked for when everything is read.
    pub(super) fn searched(&mut self, search: Search, words: &str, place: Place) -> CompactString {
        let words: Vec<&str> = words.split_whitespace().collect();
        self.searches.push((words.join(" "), place));
        format!("{SEARCHED}{}{}", search.sign(), self.searches.len() - 1).into()
    }
}

/// The places of a tree by what links call them.
#[derive(Default)]
struct Places {
    /// Ids of headings by their words; the first of equal ones.
    headings: HashMap<String, String>,
    /// Headings by their ids.
    titles: HashMap<String, Vec<Inline>>,
    ids: HashSet<String>,
    /// The labels of formulas.
    labels: HashSet<String>,
}

impl Places {
    fn of(blocks: &[Block], wanted: &HashSet<String>) -> Self {
        let mut ids = Ids::default();
        let mut places = Self::default();
        let mut headings = Vec::new();
        places.add_ids(blocks, |block| headings.push(block));
        for id in &places.ids {
            ids.reserve(id);
        }
        for block in headings {
            let BlockKind::Heading(heading) = &block.kind else { continue };
            let words = words_of(&heading.content);
            let id = match block.attributes.id() {
                Some(id) => id.to_string(),
                None => ids.made(&id_of_words(&plain_text(&heading.content))).to_string(),
            };
            if wanted.contains(&words) || wanted.contains(&id) {
                places.titles.insert(id.clone(), link_text(&heading.content));
            }
            places.ids.insert(id.clone());
            places.headings.entry(words).or_insert(id);
        }
        places
    }

    /// Adds what blocks state as their ids; gives the headings.
    fn add_ids<'b>(&mut self, blocks: &'b [Block], mut heading: impl FnMut(&'b Block)) {
        for visit in walk(blocks) {
            let id = match visit {
                Visit::Enter(Node::Block(block)) => block.attributes.id(),
                Visit::Enter(Node::Inline(Inline::Anchor(anchor))) => Some(anchor.id.as_str()),
                Visit::Enter(Node::Inline(Inline::Formatted(formatted))) => {
                    formatted.attributes.id()
                }
                _ => None,
            };
            if let Some(id) = id {
                self.ids.insert(id.to_string());
            }
            let Visit::Enter(Node::Block(block)) = visit else { continue };
            match &block.kind {
                BlockKind::Heading(_) => heading(block),
                BlockKind::Formula(formula) => {
                    self.labels.extend(formula.label.as_ref().map(ToString::to_string));
                }
                _ => {}
            }
        }
    }
}

/// The words of a heading as links write them: without counts of tasks, in small letters.
pub(in crate::formats::org) fn words_of(content: &[Inline]) -> String {
    without_cookies(&plain_text(content)).to_lowercase()
}

fn without_cookies(text: &str) -> String {
    let is_cookie = |word: &&str| {
        let inner = word.strip_prefix('[').and_then(|word| word.strip_suffix(']'));
        !inner.is_some_and(|inner| {
            inner.contains(['/', '%'])
                && inner.bytes().all(|b| b.is_ascii_digit() || b == b'/' || b == b'%')
        })
    };
    text.split_whitespace().filter(is_cookie).collect::<Vec<_>>().join(" ")
}

impl Reader<'_> {
    /// Whether results of code are for readers.
    pub(super) fn shows_results(&self, name: &str) -> bool {
        if self.options.keeps_hidden {
            return true;
        }
        let named = self.targets.exports.get(name).copied().filter(|_| !name.is_empty());
        named.or(self.targets.last_exports).is_none_or(|exports| exports.results)
    }

    /// Finds the targets of links that name them by words.
    pub(super) fn settle_targets(&mut self) {
        if let Some(properties) = self.targets.file_properties.take() {
            self.document.blocks.insert(0, properties);
        }
        if self.targets.searches.is_empty() && self.targets.references.is_empty() {
            return;
        }
        let wanted = self.targets.wanted();
        let mut places = Places::of(&self.document.blocks, &wanted);
        for note in &self.document.notes {
            places.add_ids(&note.content, |_| {});
        }
        places.ids.extend(std::mem::take(&mut places.labels));
        let mut blocks = std::mem::take(&mut self.document.blocks);
        let mut notes = std::mem::take(&mut self.document.notes);
        let mut title = std::mem::take(&mut self.document.metadata.title);
        walk_inlines_mut(&mut blocks, |_, inlines| self.settle(inlines, &places));
        for note in &mut notes {
            walk_inlines_mut(&mut note.content, |_, inlines| self.settle(inlines, &places));
        }
        self.settle(&mut title, &places);
        self.document.blocks = blocks;
        self.document.notes = notes;
        self.document.metadata.title = title;
    }

    fn settle(&mut self, inlines: &mut [Inline], places: &Places) {
        for inline in inlines {
            if let Inline::Reference(reference) = inline
                && reference.stored.is_empty()
            {
                self.fill(reference, places);
            }
            let Inline::Link(link) = inline else { continue };
            let Some(searched) = link.address.strip_prefix(SEARCHED) else { continue };
            let (sign, number) = searched.split_at(searched.len().min(1));
            let search = number
                .parse()
                .ok()
                .and_then(|number: usize| self.targets.searches.get(number).cloned());
            let (words, place) = search.unwrap_or_default();
            let sign = sign.to_string();
            *inline = self.settled(link, &sign, &words, places, place);
        }
    }

    /// What a reference of LaTeX shows.
    fn fill(&mut self, reference: &mut Reference, places: &Places) {
        let target = reference.target.as_str();
        let number = self.targets.numbers.get(target);
        let title = places.titles.get(target).map(|title| plain_text(title));
        let place = self.targets.references.get(target).copied();
        let shown = match (number, title, reference.shows) {
            (Some(number), _, ReferenceShows::EquationNumber) => format!("({number})"),
            (Some(number), ..) => number.to_string(),
            // What is not counted is known by its words.
            (None, Some(title), _) => title,
            (None, None, _) => {
                if !places.ids.contains(target) {
                    self.findings.add_about(Code::ReferenceMissing, target, place);
                }
                "??".into()
            }
        };
        if reference.shows == ReferenceShows::Page && places.ids.contains(target) {
            self.findings.count(Code::PageReferenceAsNumber, target, place);
        }
        reference.stored.push(Inline::Text(shown.into()));
    }

    fn settled(
        &mut self,
        link: &mut Link,
        sign: &str,
        words: &str,
        places: &Places,
        place: Place,
    ) -> Inline {
        let content = std::mem::take(&mut link.content);
        let has_words = !content.is_empty();
        let attributes = std::mem::take(&mut link.attributes);
        let linked = |target: &str, content: Vec<Inline>| {
            let address = format!("#{target}").into();
            Inline::Link(Box::new(Link { address, title: None, content, attributes }))
        };
        let alias = self.targets.aliases.get(words).map_or(words, String::as_str);
        let clean = clean_id(alias).unwrap_or_default();
        let known = [alias, clean.as_str()].into_iter().find(|id| places.ids.contains(*id));
        if let Some(id) = known.filter(|_| matches!(sign, "#" | "?")) {
            if has_words {
                return linked(id, content);
            }
            let number = self.targets.numbers.get(words).filter(|_| sign == "?");
            let title = places.titles.get(id).cloned();
            return reference(id, number.copied(), title, alias);
        }
        if sign == "("
            && let Some(number) = self.targets.line_marks.get(words)
        {
            // Lines of code have no place of their own.
            self.findings.count(Code::LinkUnwrapped, words, Some(place));
            let number = vec![Inline::Text(number.to_string().into())];
            let content = if has_words { content } else { number };
            return plain(content);
        }
        let heading = places.headings.get(&without_cookies(words).to_lowercase());
        if let Some(id) = heading.filter(|_| matches!(sign, "*" | "?")) {
            return match has_words {
                true => linked(id, content),
                false => reference(id, None, places.titles.get(id).cloned(), words),
            };
        }
        self.findings.add_about(Code::ReferenceMissing, words, Some(place));
        if sign == "#" {
            // The target may be in what the page is put into.
            let content = if has_words { content } else { vec![Inline::Text(words.into())] };
            return linked(words, content);
        }
        plain(if has_words { content } else { vec![Inline::Text(words.into())] })
    }
}

/// What a link to a heading shows of it: no links, no marks of notes.
fn link_text(content: &[Inline]) -> Vec<Inline> {
    let mut blocks = vec![Block::new(BlockKind::Paragraph(content.to_vec()))];
    walk_inlines_mut(&mut blocks, |_, inlines| {
        inlines.retain(|inline| !matches!(inline, Inline::NoteMark(_) | Inline::Anchor(_)));
        for inline in inlines {
            if let Inline::Link(link) = inline {
                *inline = plain(std::mem::take(&mut link.content));
            }
        }
    });
    match blocks.pop() {
        Some(Block { kind: BlockKind::Paragraph(content), .. }) => content,
        _ => Vec::new(),
    }
}

/// A reference to a place: its number, or its words.
fn reference(
    target: &str,
    number: Option<usize>,
    words: Option<Vec<Inline>>,
    otherwise: &str,
) -> Inline {
    let text = |text: &str| vec![Inline::Text(text.into())];
    let (shows, stored) = match (number, words) {
        (Some(number), _) => (ReferenceShows::Number, text(&number.to_string())),
        (None, Some(words)) => (ReferenceShows::Text, words),
        (None, None) => (ReferenceShows::Text, text(otherwise)),
    };
    Inline::Reference(Box::new(Reference { target: target.into(), shows, stored }))
}

/// Several inlines as one.
fn plain(mut content: Vec<Inline>) -> Inline {
    if content.len() == 1
        && let Some(only) = content.pop()
    {
        return only;
    }
    let format = crate::document::Formatting::Plain;
    let attributes = crate::document::Attributes::NONE;
    Inline::Formatted(Box::new(crate::document::Formatted { format, attributes, content }))
}
