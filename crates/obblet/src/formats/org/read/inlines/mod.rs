//! What stands in a line (Org syntax, “Objects”).

mod citations;
mod code;
mod entities;
mod formulas;
mod leaf;
mod links;
pub(super) mod macros;
mod marks;
mod plain;
mod scripts;

pub(in crate::formats::org) use entities::entity_at;
pub(in crate::formats::org) use links::{is_known, is_picture, plain_length, starts_plain_link};
pub(in crate::formats::org) use marks::{is_closing, is_opening, is_white};
pub(super) use plain::RadioWords;

use super::Reader;
use super::options::Timestamps;
use super::timestamps::timestamp;
use crate::dates::is_impossible;
use crate::document::{
    Anchor, Attributes, Foreign, Formatted, Formatting, Inline, InlineCode, LineBreak, Place,
    clean_id,
};
use crate::findings::Code;
use crate::formats::org::ORG;
use crate::work;
use leaf::Leaf;
use plain::LineBuilder;
use std::ops::Range;

/// How deep objects may stand in each other.
const DEEPEST: usize = 40;

/// Bytes that may begin an object, or end a plain scheme.
const SPECIAL: [bool; 256] = {
    let mut special = [false; 256];
    let signs = b"\n*/_+=~^[<\\$@{:";
    let mut at = 0;
    while at < signs.len() {
        special[signs[at] as usize] = true;
        at += 1;
    }
    special
};

/// Where an object may begin.
#[derive(Clone, Copy)]
struct Spot<'l, 't> {
    leaf: &'l Leaf<'t>,
    at: usize,
    /// The stretch of the leaf that is read.
    range: &'l Range<usize>,
    /// How many objects stand around it.
    depth: usize,
}

impl Reader<'_> {
    /// Reads the text of one line or less.
    pub(super) fn inlines_of_text(&mut self, text: &str, place: Place) -> Vec<Inline> {
        if text.is_empty() {
            return Vec::new();
        }
        let leaf = Leaf::of_text(text, place);
        trimmed(self.objects(&leaf, 0..text.len(), 0))
    }

    /// Reads lines of text.
    pub(super) fn inlines_of_lines(&mut self, range: Range<usize>) -> Vec<Inline> {
        let lines = self.lines.get(range).unwrap_or_default();
        if let [line] = lines {
            let (text, place) = (line.text.trim_matches([' ', '\t']), line.place());
            return self.inlines_of_text(text, place);
        }
        let mut text = String::with_capacity(lines.iter().map(|line| line.text.len() + 1).sum());
        let mut starts = Vec::with_capacity(lines.len());
        for line in lines {
            if !text.is_empty() {
                text.push('\n');
            }
            starts.push((text.len(), line.place()));
            text.push_str(line.text.trim_matches([' ', '\t']));
        }
        let leaf = Leaf::of_lines(&text, starts);
        trimmed(self.objects(&leaf, 0..text.len(), 0))
    }

    /// Reads a stretch of a leaf.
    fn objects(&mut self, leaf: &Leaf<'_>, range: Range<usize>, depth: usize) -> Vec<Inline> {
        let mut line = LineBuilder::default();
        let bytes = leaf.text.as_bytes();
        let mut at = range.start;
        while at < range.end && !work::is_over() {
            work::count(1);
            let rest = bytes.get(at..range.end).unwrap_or_default();
            let is_special = |byte: &u8| SPECIAL.get(usize::from(*byte)).copied().unwrap_or(false);
            let run = rest.iter().position(is_special).unwrap_or(rest.len());
            if run > 0 {
                leaf.push_plain(at..at + run, &mut line.text);
                at += run;
                continue;
            }
            let spot = Spot { leaf, at, range: &range, depth };
            match self.object(spot, &mut line) {
                Some(next) => at = next,
                None => {
                    line.text.push_str(leaf.text.get(at..at + 1).unwrap_or_default());
                    at += 1;
                }
            }
        }
        self.finish(line)
    }

    /// Reads the object at a place, if there is one. Gives where it ends.
    fn object(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, depth } = spot;
        if depth >= DEEPEST {
            return None;
        }
        let text = leaf.text.get(at..range.end)?;
        match text.as_bytes().first()? {
            b'\n' => {
                self.line_end(line);
                Some(at + 1)
            }
            b'*' | b'/' | b'+' | b'=' | b'~' => self.emphasis(spot, line),
            b'_' => self
                .code_in_line(spot, line)
                .or_else(|| self.emphasis(spot, line))
                .or_else(|| self.script(spot, line)),
            b'^' => self.script(spot, line),
            b'[' => self.bracket(spot, line),
            b'<' => self.angle(spot, line),
            b'\\' => self.backslash(spot, line),
            b'$' => self.dollar(spot, line),
            b'@' => self.snippet(spot, line),
            b'{' => self.macro_call(spot, line),
            b':' => self.plain_link(spot, line),
            _ => None,
        }
    }

    fn line_end(&mut self, line: &mut LineBuilder) {
        let kept = line.text.trim_end_matches([' ', '\t']).len();
        line.text.truncate(kept);
        if self.radio.is_some() {
            // The words of a target may stand on two lines.
            line.text.push('\n');
        } else {
            let kind = self.line_break();
            self.push(line, Inline::Break(kind));
        }
    }

    fn line_break(&self) -> LineBreak {
        match self.settings.options.keeps_breaks {
            true => LineBreak::Hard,
            false => LineBreak::Soft,
        }
    }

    fn push(&mut self, line: &mut LineBuilder, inline: Inline) {
        self.flush(line);
        line.out.push(inline);
    }

    /// `*strong*`, `/emphasis/`, `_underline_`, `+struck+`, `=verbatim=`, `~code~`
    fn emphasis(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, depth } = spot;
        let close = leaf.emphasis_end(at, range)?;
        let mark = *leaf.text.as_bytes().get(at)?;
        let is_literal = matches!(mark, b'=' | b'~');
        if !self.settings.options.emphasis && !is_literal {
            return None;
        }
        let inside = at + 1..close;
        let inline = match mark {
            b'=' | b'~' => code(leaf.text.get(inside)?),
            _ => {
                let format = match mark {
                    b'*' => Formatting::Strong,
                    b'/' => Formatting::Emphasis,
                    b'_' => Formatting::Underline,
                    _ => Formatting::Deleted,
                };
                let content = self.objects(leaf, inside, depth + 1);
                formatted(format, content)
            }
        };
        self.push(line, inline);
        Some(close + 1)
    }

    /// What a square bracket begins.
    fn bracket(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let text = leaf.text.get(at..range.end)?;
        match text.as_bytes().get(1)? {
            b'[' => self.bracket_link(spot, line),
            b'f' if text.starts_with("[fn:") => self.note(spot, line),
            b'c' if text.starts_with("[cite") => self.citation(spot, line),
            b'0'..=b'9' | b'%' | b'/' => {
                if let Some((found, length)) = timestamp(text) {
                    self.push_timestamp(found, leaf.place(at), line);
                    return Some(at + length);
                }
                self.report_impossible_day(text, leaf.place(at));
                self.cookie(text).map(|length| at + length)
            }
            _ => None,
        }
    }

    /// A timestamp of a day that no calendar has stays text.
    fn report_impossible_day(&mut self, text: &str, place: Place) {
        if let Some(day) = text.get(1..11).filter(|day| is_impossible(day)) {
            self.findings.count(Code::DateImpossible, day, Some(place));
        }
    }

    /// The count of tasks, where the document hides it.
    fn cookie(&self, text: &str) -> Option<usize> {
        if self.settings.options.statistics || self.options.keeps_hidden {
            return None;
        }
        let (inner, _) = text.get(1..)?.split_once(']')?;
        let is_cookie = inner.contains(['/', '%'])
            && inner.bytes().all(|byte| byte.is_ascii_digit() || matches!(byte, b'/' | b'%'));
        is_cookie.then_some(inner.len() + 2)
    }

    fn push_timestamp(
        &mut self,
        found: crate::document::Timestamp,
        place: Place,
        line: &mut LineBuilder,
    ) {
        let is_shown = match self.settings.options.timestamps {
            Timestamps::All => true,
            Timestamps::Active => found.active,
            Timestamps::Inactive => !found.active,
            Timestamps::None => false,
        };
        if is_shown || self.options.keeps_hidden {
            self.push(line, Inline::Timestamp(Box::new(found)));
        } else {
            self.hidden("timestamps", place);
        }
    }

    /// `[fn:label]`, `[fn:label:words]`, `[fn::words]`
    fn note(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, depth } = spot;
        let close = leaf.partner(at).filter(|close| *close < range.end)?;
        let inner = leaf.text.get(at + 4..close)?;
        let place = leaf.place(at);
        let (label, has_words) = match inner.split_once(':') {
            Some((label, _)) => (label, true),
            None => (inner, false),
        };
        let is_label = super::lines::is_label(label);
        if has_words && (label.is_empty() || is_label) {
            let start = at + 4 + label.len() + 1;
            if !self.settings.options.notes && !self.options.keeps_hidden {
                self.hidden("footnotes", place);
                return Some(close + 1);
            }
            let content = self.trimmed(leaf, start..close, depth);
            let mark = self.note_in_line(label, content, place);
            self.push_mark(line, mark);
        } else {
            let mark = self.note_mark(label, place).filter(|_| is_label)?;
            self.push_mark(line, mark);
        }
        Some(close + 1)
    }

    fn push_mark(&mut self, line: &mut LineBuilder, mark: Inline) {
        if !matches!(&mark, Inline::Text(text) if text.is_empty()) {
            self.push(line, mark);
        }
    }

    /// What `<` begins: a target, a date, an address.
    fn angle(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let text = leaf.text.get(at..range.end)?;
        if text.starts_with("<<") {
            return self.target(spot, line);
        }
        if let Some((found, length)) = timestamp(text) {
            self.push_timestamp(found, leaf.place(at), line);
            return Some(at + length);
        }
        self.report_impossible_day(text, leaf.place(at));
        if text.starts_with("<%%(") {
            let close = leaf.next(">", at).filter(|close| *close < range.end)?;
            let markup = leaf.text.get(at..=close)?;
            if self.options.keeps_hidden {
                self.push(line, raw(markup));
            } else {
                self.hidden("a date of a diary", leaf.place(at));
            }
            return Some(close + 1);
        }
        self.angle_link(spot, line)
    }

    /// `<<target>>`, or `<<<words>>>`, which links to itself from wherever the words stand.
    fn target(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, depth } = spot;
        let text = leaf.text.get(at..range.end)?;
        let is_radio = text.starts_with("<<<");
        let (signs, end) = if is_radio { (3, ">>>") } else { (2, ">>") };
        let close = leaf.next(end, at + signs).filter(|close| close + signs <= range.end)?;
        let inner = leaf.text.get(at + signs..close)?;
        let is_target = !inner.is_empty()
            && !inner.contains(['<', '>', '\n'])
            && !inner.starts_with([' ', '\t'])
            && !inner.ends_with([' ', '\t']);
        let id = clean_id(inner).filter(|_| is_target)?;
        self.push(line, Inline::Anchor(Box::new(Anchor { id })));
        if is_radio {
            let content = self.objects(leaf, at + signs..close, depth + 1);
            line.out.extend(content);
        }
        Some(close + signs)
    }

    /// `@@html:<b>@@`
    fn snippet(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let text = leaf.text.get(at..range.end)?;
        let rest = text.strip_prefix("@@")?;
        let colon = rest.find(|c: char| !(c.is_ascii_alphanumeric() || c == '-'))?;
        if colon == 0 || !rest.get(colon..)?.starts_with(':') {
            return None;
        }
        let start = at + 2 + colon + 1;
        let close = leaf.next("@@", start).filter(|close| close + 2 <= range.end)?;
        let format = rest.get(..colon)?.to_lowercase();
        let foreign =
            Foreign { format: format.into(), markup: leaf.text.get(start..close)?.into() };
        self.push(line, Inline::Foreign(Box::new(foreign)));
        Some(close + 2)
    }
}

/// Without the space that what was left out has left at the ends, and breaks before nothing.
fn trimmed(mut inlines: Vec<Inline>) -> Vec<Inline> {
    while matches!(inlines.last(), Some(Inline::Break(_))) {
        inlines.pop();
    }
    if let Some(Inline::Text(first)) = inlines.first_mut() {
        let blank = first.len() - first.trim_start_matches(' ').len();
        first.replace_range(..blank, "");
    }
    if let Some(Inline::Text(last)) = inlines.last_mut() {
        last.truncate(last.trim_end_matches(' ').len());
    }
    inlines.retain(|inline| !matches!(inline, Inline::Text(text) if text.is_empty()));
    inlines
}

/// Markup as it stands, for who writes Org again.
fn raw(markup: &str) -> Inline {
    Inline::Foreign(Box::new(Foreign { format: ORG.into(), markup: markup.into() }))
}

fn code(text: &str) -> Inline {
    let text = if text.contains('\n') { text.replace('\n', " ") } else { text.into() };
    Inline::Code(Box::new(InlineCode { text: text.into(), attributes: Attributes::NONE }))
}

fn formatted(format: Formatting, content: Vec<Inline>) -> Inline {
    Inline::Formatted(Box::new(Formatted { format, attributes: Attributes::NONE, content }))
}
