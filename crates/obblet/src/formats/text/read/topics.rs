//! Reference topics: sections with names in capitals (NAME, SYNOPSIS, PARAMETERS, EXAMPLES), as
//! programs and tables of commands are described.

use super::inlines::inlines;
use super::lines::{Chunk, Line};
use super::{Reader, small};
use crate::document::build::{code_block, paragraph};
use crate::document::{
    Block, BlockKind, ContentsKind, ContentsList, DescriptionItem, Heading, Inline,
};

/// Names of sections; two of them make a text one of topics.
const SECTIONS: [&str; 22] = [
    "NAME",
    "SYNOPSIS",
    "SYNTAX",
    "USAGE",
    "DESCRIPTION",
    "PARAMETERS",
    "ARGUMENTS",
    "OPTIONS",
    "RETURNS",
    "RETURN VALUE",
    "ERRORS",
    "EXIT STATUS",
    "EXAMPLE",
    "EXAMPLES",
    "FILES",
    "NOTES",
    "REMARKS",
    "SEE ALSO",
    "HISTORY",
    "BUGS",
    "VALUES",
    "DEFAULTS",
];

/// A section: its name's line, and what stands below it.
struct Section<'t> {
    name: Line<'t>,
    chunks: Vec<Chunk<'t>>,
}

impl Reader {
    /// A text of reference topics; `None` for any other.
    pub(super) fn topics(&mut self, chunks: &[Chunk<'_>]) -> Option<Vec<Block>> {
        let (before, sections) = sections(chunks);
        let known = |section: &&Section<'_>| SECTIONS.contains(&section.name.text);
        let has_name = sections.iter().any(|section| section.name.text == "NAME");
        if !has_name || sections.iter().filter(known).count() < 2 {
            return None;
        }
        let mut blocks = self.inner(&before);
        let place = chunks.first().map(Chunk::place).unwrap_or_default();
        self.took("reference topics", place);
        let menu = ContentsList { kind: ContentsKind::Headings, depth: 2 };
        let has_one = sections.iter().filter(|section| section.name.text == "NAME").count() == 1;
        if !has_one {
            blocks.push(Block::new(BlockKind::Contents(Box::new(menu.clone()))));
        }
        for section in &sections {
            self.section(section, &mut blocks);
            // The menu of one topic stands below its name.
            if has_one && section.name.text == "NAME" {
                blocks.push(Block::new(BlockKind::Contents(Box::new(menu.clone()))));
            }
        }
        Some(blocks)
    }

    fn section(&mut self, section: &Section<'_>, blocks: &mut Vec<Block>) {
        let place = crate::document::Place::new(section.name.start, section.name.end());
        let push_heading = |blocks: &mut Vec<Block>, level: u8, content: Vec<Inline>| {
            let heading = Heading { level, content, ..Heading::default() };
            blocks.push(Block::new(BlockKind::Heading(Box::new(heading))).at(place));
        };
        match section.name.text {
            "NAME" => {
                let line = section.chunks.first().and_then(|chunk| chunk.lines.first());
                let text = line.map_or("", |line| line.text);
                let (name, summary) = [" - ", " – ", " — "]
                    .iter()
                    .find_map(|dash| text.split_once(dash))
                    .unwrap_or((text, ""));
                push_heading(blocks, 1, inlines(name.trim()));
                if !summary.trim().is_empty() {
                    blocks.push(paragraph(inlines(summary.trim())).at(place));
                }
                let mut rest = section.chunks.clone();
                if let Some(first) = rest.first_mut() {
                    first.lines.remove(0);
                }
                rest.retain(|chunk| !chunk.lines.is_empty());
                blocks.extend(self.inner(&rest));
            }
            name => {
                push_heading(blocks, 2, vec![Inline::Text(sentence_case(name).into())]);
                match name {
                    "SYNOPSIS" | "SYNTAX" | "USAGE" | "EXAMPLE" | "EXAMPLES" => {
                        self.samples(section, blocks);
                    }
                    "PARAMETERS" | "ARGUMENTS" | "OPTIONS" | "ERRORS" | "RETURNS" | "VALUES"
                    | "EXIT STATUS" | "FILES" | "DEFAULTS" => self.definitions(section, blocks),
                    _ => blocks.extend(self.inner(&section.chunks)),
                }
            }
        }
    }

    /// What is typed: as it stands. Sentences between are paragraphs: they stand no deeper than the
    /// section, begin with a capital and end with a stop.
    fn samples(&mut self, section: &Section<'_>, blocks: &mut Vec<Block>) {
        for chunk in &section.chunks {
            let is_prose = chunk.indent() == 0
                && chunk
                    .lines
                    .first()
                    .is_some_and(|line| line.text.starts_with(char::is_uppercase))
                && chunk.lines.last().is_some_and(|line| line.text.ends_with(['.', ':', '?', '!']));
            if is_prose {
                self.paragraphs(chunk, blocks);
                continue;
            }
            let base = chunk.indent();
            let line =
                |line: &Line<'_>| format!("{}{}\n", " ".repeat(line.indent - base), line.text);
            let text: String = chunk.lines.iter().map(line).collect();
            blocks.push(code_block("", &text).at(chunk.place()));
        }
    }

    /// A term and what it means: beside it behind two spaces, or below it and further in.
    fn definitions(&mut self, section: &Section<'_>, blocks: &mut Vec<Block>) {
        let base = section.chunks.iter().map(Chunk::indent).min().unwrap_or(0);
        let mut items: Vec<(Line<'_>, Vec<Line<'_>>)> = Vec::new();
        for line in section.chunks.iter().flat_map(|chunk| &chunk.lines) {
            if line.indent <= base {
                let (term, beside) = match line.text.find("  ").or_else(|| line.text.find('\t')) {
                    Some(at) => {
                        let term = Line { text: line.text.get(..at).unwrap_or_default(), ..*line };
                        (term, vec![line.behind(at)])
                    }
                    None => (*line, Vec::new()),
                };
                items.push((term, beside));
            } else if let Some((_, meaning)) = items.last_mut() {
                meaning.push(*line);
            }
        }
        // Where terms mean nothing, it is running text.
        if items.is_empty() || items.iter().any(|(_, meaning)| meaning.is_empty()) {
            blocks.extend(self.inner(&section.chunks));
            return;
        }
        let place = section.chunks.first().map(Chunk::place).unwrap_or_default();
        let items = items
            .into_iter()
            .map(|(term, lines)| {
                let mut content = Vec::new();
                let lines = lines.into_iter().map(|line| Line { indent: 0, ..line }).collect();
                self.paragraphs(&Chunk { lines, blanks: 0 }, &mut content);
                DescriptionItem { terms: vec![inlines(term.text)], descriptions: vec![content] }
            })
            .collect();
        blocks.push(Block::new(BlockKind::DescriptionList(items)).at(place));
    }
}

/// The sections of a text, and what stands before the first. What they hold loses their indent.
fn sections<'t>(chunks: &[Chunk<'t>]) -> (Vec<Chunk<'t>>, Vec<Section<'t>>) {
    let mut before = Vec::new();
    let mut sections: Vec<Section<'t>> = Vec::new();
    let is_name = |line: &Line<'_>| {
        let has_words = line.text.split(' ').count() <= 3;
        line.indent == 0
            && has_words
            && line.text.len() >= 3
            && line.text.bytes().all(|byte| byte.is_ascii_uppercase() || byte == b' ')
    };
    for chunk in chunks {
        let mut lines = chunk.lines.as_slice();
        if let Some(name) = lines.first().filter(|line| is_name(line)) {
            sections.push(Section { name: *name, chunks: Vec::new() });
            lines = lines.get(1..).unwrap_or_default();
        }
        if lines.is_empty() {
            continue;
        }
        let chunk = Chunk { lines: lines.to_vec(), blanks: chunk.blanks };
        match sections.last_mut() {
            Some(section) => section.chunks.push(chunk),
            None => before.push(chunk),
        }
    }
    for section in &mut sections {
        let base = section.chunks.iter().map(Chunk::indent).min().unwrap_or(0);
        let lines = section.chunks.iter_mut().flat_map(|chunk| &mut chunk.lines);
        lines.for_each(|line| line.indent -= base);
    }
    (before, sections)
}

/// `RETURN VALUE` as `Return value`.
fn sentence_case(name: &str) -> String {
    let small = small(name);
    let mut characters = small.chars();
    characters.next().map(|first| first.to_uppercase().collect::<String>()).unwrap_or_default()
        + characters.as_str()
}
