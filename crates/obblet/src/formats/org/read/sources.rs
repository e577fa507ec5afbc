//! The sources a document is made of: itself, and what it includes (Org manual, “Include Files”).

use super::lines::{Keyword, Line, block_begin, block_end, stars, strip_prefix_of_any_case};
use crate::document::Place;
use crate::findings::{Code, Findings};
use crate::formats::text_source;
use crate::resolver::Resolver;
use crate::work;
use std::collections::HashMap;
use std::ops::Range;
use std::sync::Arc;

/// How deep files may include each other.
const DEEPEST: usize = 20;

/// A text that lines are of.
#[derive(Debug, Clone)]
pub(super) struct Source {
    pub(super) name: String,
    pub(super) text: Arc<str>,
}

/// A stretch of a source.
#[derive(Debug, Clone)]
struct Piece {
    source: usize,
    range: Range<usize>,
    shift: i16,
}

/// The sources of a document, and their stretches in reading order.
pub(super) struct Sources {
    pub(super) list: Vec<Source>,
    pieces: Vec<Piece>,
}

impl Sources {
    pub(super) fn gather(
        text: &Arc<str>,
        resolver: &dyn Resolver,
        findings: &mut Findings,
    ) -> Self {
        let main = Source { name: String::new(), text: text.clone() };
        let mut gathering = Gathering {
            sources: Self { list: vec![main], pieces: Vec::new() },
            resolver,
            findings,
            open: Vec::new(),
            level: 0,
            files_left: work::limit(|limits| limits.included_files),
            bytes_left: work::limit(|limits| limits.included_bytes),
        };
        gathering.source(0, 0..text.len(), 0);
        gathering.sources
    }

    /// The lines in reading order.
    pub(super) fn lines(&self) -> Vec<Line<'_>> {
        let mut lines = Vec::new();
        for piece in &self.pieces {
            let Some(source) = self.list.get(piece.source) else { continue };
            let text = source.text.get(piece.range.clone()).unwrap_or_default();
            let number = u32::try_from(piece.source).unwrap_or(u32::MAX);
            each_line(text, |start, text| {
                let start = u32::try_from(piece.range.start + start).unwrap_or(u32::MAX);
                lines.push(Line::new(text, number, start).lowered(piece.shift));
            });
        }
        lines
    }

    /// Whether something stands anywhere in the sources.
    pub(super) fn contain(&self, what: &[u8]) -> bool {
        let finder = memchr::memmem::Finder::new(what);
        self.list.iter().any(|source| finder.find(source.text.as_bytes()).is_some())
    }

    /// The folder of a source, with its slash.
    pub(super) fn folder(&self, source: u32) -> &str {
        self.list.get(source as usize).map_or("", |source| folder_of(&source.name))
    }
}

fn folder_of(name: &str) -> &str {
    name.rfind('/').and_then(|slash| name.get(..=slash)).unwrap_or_default()
}

/// The text of a file.
pub(super) fn file(resolver: &dyn Resolver, name: &str) -> Option<Arc<str>> {
    let bytes = resolver.resolve(name)?;
    let decoded = text_source::decoded(&bytes, &mut Findings::new()).into_owned();
    Some(text_source::normalised(&decoded).into())
}

/// Each line of a text with the offset of its start.
fn each_line<'t>(text: &'t str, mut give: impl FnMut(usize, &'t str)) {
    let mut start = 0;
    for end in memchr::memchr_iter(b'\n', text.as_bytes()).chain([text.len()]) {
        if start == text.len() {
            break;
        }
        give(start, text.get(start..end).unwrap_or_default());
        start = end + 1;
    }
}

struct Gathering<'g> {
    sources: Sources,
    resolver: &'g dyn Resolver,
    findings: &'g mut Findings,
    /// The files that are being read, outermost first.
    open: Vec<String>,
    /// The level of the last heading.
    level: i16,
    files_left: usize,
    bytes_left: usize,
}

impl Gathering<'_> {
    /// Takes a stretch of a source in, and what it includes in its place.
    fn source(&mut self, source: usize, range: Range<usize>, shift: i16) {
        let Some(text) = self.sources.list.get(source).map(|source| source.text.clone()) else {
            return;
        };
        let text = text.get(range.clone()).unwrap_or_default();
        let finder = memchr::memmem::Finder::new(b"#+");
        if finder.find(text.as_bytes()).is_none() {
            self.note_level(text, shift);
            return self.sources.pieces.push(Piece { source, range, shift });
        }
        let ends = last_ends(text);
        let mut verbatim: Option<&str> = None;
        let mut taken = 0;
        each_line(text, |start, line| {
            if let Some(name) = verbatim {
                if block_end(line.trim_start()).is_some_and(|end| end.eq_ignore_ascii_case(name)) {
                    verbatim = None;
                }
                return;
            }
            if let Some(stars) = stars(line) {
                self.level = level(stars, shift);
                return;
            }
            let line = line.trim_start_matches([' ', '\t']);
            if !line.starts_with("#+") {
                return;
            }
            if let Some((name, _)) = block_begin(line) {
                let is_closed =
                    ends.get(&name.to_ascii_lowercase()).is_some_and(|end| *end > start);
                verbatim = Some(name).filter(|name| is_closed && is_verbatim(name));
                return;
            }
            let Some(value) = strip_prefix_of_any_case(line, "#+include:") else { return };
            let before = range.start + taken..range.start + start;
            self.sources.pieces.push(Piece { source, range: before, shift });
            let end = start
                + memchr::memchr(b'\n', text.get(start..).unwrap_or_default().as_bytes())
                    .map_or(text.len() - start, |end| end + 1);
            taken = end;
            let (start, end) = (range.start + start, range.start + end);
            let place =
                Place { source: u32::try_from(source).unwrap_or(0), ..Place::new(start, end) };
            self.include(source, value.trim(), place);
        });
        let rest = range.start + taken..range.end;
        self.sources.pieces.push(Piece { source, range: rest, shift });
    }

    fn note_level(&mut self, text: &str, shift: i16) {
        each_line(text, |_, line| {
            if let Some(stars) = stars(line) {
                self.level = level(stars, shift);
            }
        });
    }

    fn include(&mut self, from: usize, value: &str, place: Place) {
        let request = Request::of(value);
        let folder = self.sources.list.get(from).map(|source| folder_of(&source.name).to_string());
        let address = request.file.strip_prefix("./").unwrap_or(&request.file);
        let name = folder.unwrap_or_default() + address;
        if self.open.contains(&name) || self.open.len() >= DEEPEST {
            return self.findings.add_about(Code::IncludeCircular, &name, Some(place));
        }
        let is_room = self.files_left > 0;
        let text = is_room.then(|| file(self.resolver, &name)).flatten();
        let text = text.filter(|text| text.len() <= self.bytes_left);
        let range = text.as_ref().and_then(|text| request.range(text));
        let (Some(text), Some(range)) = (text, range) else {
            return self.findings.add_about(Code::IncludeMissing, &name, Some(place));
        };
        self.bytes_left -= text.len();
        self.files_left -= 1;
        if let Some(block) = &request.block {
            let content = text.get(range).unwrap_or_default();
            return self.take_as_block(&name, block, content);
        }
        let source = self.sources.list.len();
        self.sources.list.push(Source { name: name.clone(), text: text.clone() });
        let outer = self.level;
        let highest = highest_level(text.get(range.clone()).unwrap_or_default());
        let wanted = request.highest_level.unwrap_or(outer.saturating_add(1));
        let shift = highest.map_or(0, |highest| wanted.saturating_sub(highest));
        self.open.push(name);
        self.source(source, range, shift);
        self.open.pop();
        self.level = outer;
    }

    /// A file whose text stands in a block: code, an example.
    fn take_as_block(&mut self, name: &str, block: &str, content: &str) {
        let kind = block.split_whitespace().next().unwrap_or_default();
        let mut text = format!("#+begin_{block}\n");
        let is_code = is_verbatim(kind);
        each_line(content, |_, line| {
            if is_code && needs_comma(line) {
                text.push(',');
            }
            text.push_str(line);
            text.push('\n');
        });
        text.push_str(&format!("#+end_{kind}\n"));
        let range = 0..text.len();
        let source = self.sources.list.len();
        self.sources.list.push(Source { name: name.to_string(), text: text.into() });
        self.sources.pieces.push(Piece { source, range, shift: 0 });
    }
}

fn level(stars: usize, shift: i16) -> i16 {
    i16::try_from(stars).unwrap_or(i16::MAX).saturating_add(shift).max(1)
}

fn highest_level(text: &str) -> Option<i16> {
    let mut highest: Option<i16> = None;
    each_line(text, |_, line| {
        if let Some(stars) = stars(line) {
            let level = level(stars, 0);
            highest = Some(highest.map_or(level, |highest| highest.min(level)));
        }
    });
    highest
}

/// Whether the text of such a block is taken as it is.
pub(super) fn is_verbatim(name: &str) -> bool {
    ["src", "example", "export", "comment"].iter().any(|known| name.eq_ignore_ascii_case(known))
}

/// Whether a line of code would be taken for Org (Org manual, “Literal Examples”).
pub(crate) fn needs_comma(line: &str) -> bool {
    let line = line.trim_start_matches([' ', '\t']);
    let behind = line.trim_start_matches(',');
    behind.starts_with('*') || behind.starts_with("#+")
}

/// Where each kind of block ends last.
fn last_ends(text: &str) -> HashMap<String, usize> {
    let mut ends = HashMap::new();
    each_line(text, |start, line| {
        if let Some(name) = block_end(line.trim_start_matches([' ', '\t'])) {
            ends.insert(name.to_ascii_lowercase(), start);
        }
    });
    ends
}

/// What an include line asks for.
#[derive(Debug, Default, PartialEq, Eq)]
struct Request {
    file: String,
    /// Behind `::`: a heading, an id or a name.
    part: Option<String>,
    /// What begins the block that holds the text.
    block: Option<String>,
    lines: Option<String>,
    highest_level: Option<i16>,
    is_only_content: bool,
}

impl Request {
    fn of(value: &str) -> Self {
        let (file, rest) = match value.strip_prefix('"').and_then(|rest| rest.split_once('"')) {
            Some(pair) => pair,
            None => value.split_once([' ', '\t']).unwrap_or((value, "")),
        };
        let (file, part) = match file.split_once("::") {
            Some((file, part)) => (file, Some(part.to_string())),
            None => (file, None),
        };
        let mut request = Self { file: file.to_string(), part, ..Self::default() };
        let mut block: Vec<String> = Vec::new();
        let mut words = words(rest).into_iter().peekable();
        while let Some(word) = words.next() {
            let Some(name) = word.strip_prefix(':').filter(|name| !name.is_empty()) else {
                block.push(word);
                continue;
            };
            let value = words.next_if(|word| !word.starts_with(':')).unwrap_or_default();
            match name {
                "lines" => request.lines = Some(value),
                "minlevel" => request.highest_level = value.parse().ok(),
                "only-contents" => request.is_only_content = !value.is_empty() && value != "nil",
                // Switches of code stay with it.
                _ => block.extend([word, value]),
            }
        }
        request.block = (!block.is_empty()).then(|| block.join(" "));
        request
    }

    /// The part of the file that is wanted.
    fn range(&self, text: &str) -> Option<Range<usize>> {
        let mut range = match &self.part {
            Some(part) => part_of(text, part, self.is_only_content)?,
            None => 0..text.len(),
        };
        if let Some(lines) = &self.lines {
            let within = text.get(range.clone())?;
            let (from, to) = lines.split_once('-').unwrap_or((lines, ""));
            let start_of = |number: usize| {
                let ends = memchr::memchr_iter(b'\n', within.as_bytes());
                match number.checked_sub(2) {
                    Some(skipped) => ends.map(|end| end + 1).nth(skipped).unwrap_or(within.len()),
                    None => 0,
                }
            };
            let from = start_of(from.trim().parse().unwrap_or(1));
            // The last line named is not taken in.
            let to = to.trim().parse().map_or(within.len(), start_of);
            range = range.start + from..range.start + to.max(from);
        }
        Some(range)
    }
}

/// Words parted by white space; a quoted one may hold some.
fn words(text: &str) -> Vec<String> {
    let mut words = Vec::new();
    let mut left = text.trim_start();
    while !left.is_empty() {
        let quoted = left.strip_prefix('"').and_then(|rest| rest.split_once('"'));
        let (word, rest) = match quoted {
            Some(pair) => pair,
            None => left.split_once([' ', '\t']).unwrap_or((left, "")),
        };
        words.push(word.to_string());
        left = rest.trim_start();
    }
    words
}

/// The subtree of a heading, by its words or its id; or the block behind a `#+NAME`.
fn part_of(text: &str, part: &str, is_only_content: bool) -> Option<Range<usize>> {
    let wanted_id = part.strip_prefix('#');
    let wanted_words = part.strip_prefix('*').map(str::trim);
    let mut heading: Option<(usize, usize, usize)> = None;
    let mut found: Option<(usize, usize, usize)> = None;
    let mut end = text.len();
    let mut named: Option<usize> = None;
    each_line(text, |start, line| {
        if let Some((_, _, level)) = found
            && end == text.len()
            && stars(line).is_some_and(|stars| stars <= level)
        {
            end = start;
        }
        if found.is_some() {
            return;
        }
        if let Some(level) = stars(line) {
            heading = Some((start, start + line.len() + 1, level));
            let words = line.get(level..).unwrap_or_default().trim();
            if wanted_words.is_some_and(|wanted| words == wanted || words.ends_with(wanted)) {
                found = heading;
            }
        }
        let trimmed = line.trim();
        if let Some(id) = strip_prefix_of_any_case(trimmed, ":custom_id:")
            && wanted_id == Some(id.trim())
        {
            found = heading;
        }
        if let Some(keyword) = Keyword::of(trimmed)
            && keyword.is("name")
            && keyword.value == part
            && named.is_none()
        {
            named = Some(start);
        }
    });
    if let Some((start, behind, _)) = found {
        return Some(if is_only_content {
            without_properties(text, behind..end)
        } else {
            start..end
        });
    }
    let start = named?;
    // A named element ends where the next blank line is, or its block does.
    let mut end = text.len();
    let mut block: Option<String> = None;
    each_line(text.get(start..)?, |at, line| {
        if end != text.len() {
            return;
        }
        let trimmed = line.trim();
        if block.is_none()
            && let Some((name, _)) = block_begin(trimmed)
        {
            block = Some(name.to_ascii_lowercase());
        } else if block.is_some() && block_end(trimmed).map(str::to_ascii_lowercase) == block {
            end = start + at + line.len();
        } else if block.is_none() && trimmed.is_empty() {
            end = start + at;
        }
    });
    Some(start..end)
}

/// Without the property drawer at the start.
fn without_properties(text: &str, range: Range<usize>) -> Range<usize> {
    let within = text.get(range.clone()).unwrap_or_default();
    let is_drawer =
        within.trim_start().get(..12).is_some_and(|d| d.eq_ignore_ascii_case(":properties:"));
    let lower = within.to_ascii_lowercase();
    match lower.find(":end:").filter(|_| is_drawer) {
        Some(end) => (range.start + end + 5).min(range.end)..range.end,
        None => range,
    }
}
