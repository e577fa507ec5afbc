//! What stands below headings: which element a line begins (Org syntax, “Elements”).

use super::Reader;
use super::affiliated::Affiliated;
use super::lines::{
    Keyword, block_begin, block_end, bullet, comment, drawer_name, dynamic_begin, environment,
    fixed_width, is_rule, note_definition, stars,
};
use super::settings::is_setting;
use super::survey::INLINE_TASK;
use crate::document::{
    Block, BlockKind, BreakKind, Caption, ContentsKind, ContentsList, Figure, Foreign, Inline,
    Place,
};
use crate::findings::Code;
use crate::formats::org::ORG;
use crate::work;
use std::ops::Range;

/// The element that a line begins.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Element {
    /// A block and the line it ends with.
    Block(usize),
    Dynamic(usize),
    Drawer(usize),
    Environment(usize),
    InlineTask,
    Keyword,
    Comment,
    FixedWidth,
    Table,
    DrawnTable,
    Rule,
    Note,
    Diary,
    Clock,
    Item,
}

impl Reader<'_> {
    pub(super) fn elements(&mut self, range: Range<usize>) -> Vec<Block> {
        let mut blocks = Vec::new();
        let mut at = range.start;
        while at < range.end && !work::is_over() {
            let Some(line) = self.lines.get(at) else { break };
            if line.is_blank() {
                at += 1;
                continue;
            }
            at = self.affiliated_element(at, range.end, &mut blocks);
        }
        blocks
    }

    /// Reads one element with what is said about it on lines before it. Gives the line behind it.
    fn affiliated_element(&mut self, at: usize, end: usize, out: &mut Vec<Block>) -> usize {
        let (affiliated, start) = self.affiliated(at, end);
        let is_alone = self.lines.get(start).filter(|_| start < end).is_none_or(|l| l.is_blank());
        if is_alone {
            for line in at..start {
                self.lonely_keyword(line, out);
            }
            return start;
        }
        let first = out.len();
        let behind = self.element(start, end, &affiliated, out);
        self.apply(affiliated, first, out);
        behind
    }

    /// What is said about an element that is not there.
    fn lonely_keyword(&mut self, at: usize, out: &mut Vec<Block>) {
        let Some(line) = self.lines.get(at).copied() else { return };
        let key = Keyword::of(line.trimmed()).map_or("", |keyword| keyword.key);
        self.findings.count(Code::KeywordMisplaced, key, Some(line.place()));
        if self.options.keeps_hidden {
            out.push(self.raw(at..at + 1));
        }
    }

    fn element(
        &mut self,
        at: usize,
        end: usize,
        affiliated: &Affiliated,
        out: &mut Vec<Block>,
    ) -> usize {
        let Some(element) = self.starts(at, end) else {
            return self.paragraph(at, end, affiliated, out);
        };
        match element {
            Element::Block(close) => {
                self.block(at, close, affiliated, out);
                close + 1
            }
            Element::Dynamic(close) => {
                self.dynamic_block(at, close, out);
                close + 1
            }
            Element::Drawer(close) => {
                self.drawer(at, close, out);
                close + 1
            }
            Element::Environment(close) => {
                self.environment(at..close + 1, affiliated, out);
                close + 1
            }
            Element::InlineTask => self.inline_task(at, end, out),
            Element::Keyword => {
                self.keyword(at, out);
                at + 1
            }
            Element::Comment => self.comments(at, end, out),
            Element::FixedWidth => self.fixed_width(at, end, out),
            Element::Table => self.table(at, end, affiliated, out),
            Element::DrawnTable => self.drawn_table(at, end, out),
            Element::Rule => {
                out.push(Block::new(BlockKind::ThematicBreak).at(self.place_of(&(at..at + 1))));
                at + 1
            }
            Element::Note => self.note_definition(at, end),
            Element::Diary => {
                self.hide_line(at, "a line of a diary", out);
                at + 1
            }
            Element::Clock => {
                self.clock(at, out);
                at + 1
            }
            Element::Item => self.list(at, end, out),
        }
    }

    /// The element that a line begins; `None` for text.
    pub(super) fn starts(&self, at: usize, end: usize) -> Option<Element> {
        work::count(1);
        let line = self.lines.get(at)?;
        if line.is_rest {
            return None;
        }
        let text = line.trimmed();
        let indented = line.text.len() > text.len();
        match text.as_bytes().first()? {
            b'#' => self.starts_with_number_sign(text, at, end),
            b':' => match drawer_name(text) {
                Some(_) => self.survey.drawer_end(at, end).map(Element::Drawer),
                None => fixed_width(text).map(|_| Element::FixedWidth),
            },
            b'|' => Some(Element::Table),
            b'+' if text.starts_with("+-") && is_frame(text) => Some(Element::DrawnTable),
            b'-' if is_rule(text) => Some(Element::Rule),
            b'[' if !indented => note_definition(text).map(|_| Element::Note),
            b'%' if !indented => text.starts_with("%%(").then_some(Element::Diary),
            b'C' if text.starts_with("CLOCK:") => Some(Element::Clock),
            b'\\' => {
                let name = environment(text)?;
                self.survey.environment_end_of(name, at, end).map(Element::Environment)
            }
            b'*' if !indented => {
                stars(text).filter(|stars| *stars >= INLINE_TASK).map(|_| Element::InlineTask)
            }
            _ => bullet(line.text).map(|_| Element::Item),
        }
    }

    fn starts_with_number_sign(&self, text: &str, at: usize, end: usize) -> Option<Element> {
        if !text.starts_with("#+") {
            return comment(text).map(|_| Element::Comment);
        }
        if let Some((name, _)) = block_begin(text) {
            return self.survey.block_end(name, at, end).map(Element::Block);
        }
        if dynamic_begin(text).is_some() {
            return self.survey.dynamic_end(at, end).map(Element::Dynamic);
        }
        Keyword::of(text).map(|_| Element::Keyword)
    }

    /// Lines of text up to a blank one, or to the next element.
    fn paragraph(
        &mut self,
        at: usize,
        end: usize,
        affiliated: &Affiliated,
        out: &mut Vec<Block>,
    ) -> usize {
        self.tell_unclosed(at);
        let mut behind = at + 1;
        while behind < end
            && self.lines.get(behind).is_some_and(|line| !line.is_blank())
            && self.starts(behind, end).is_none()
        {
            self.tell_unclosed(behind);
            behind += 1;
        }
        let place = self.place_of(&(at..behind));
        if let Some(kind) = self.break_of(at..behind) {
            out.push(Block::new(BlockKind::Break(kind)).at(place));
            return behind;
        }
        let content = self.inlines_of_lines(at..behind);
        if content.is_empty() {
            return behind;
        }
        out.push(self.figure_or_paragraph(content, affiliated, place));
        behind
    }

    /// A picture alone with a caption is a figure.
    fn figure_or_paragraph(
        &mut self,
        mut content: Vec<Inline>,
        affiliated: &Affiliated,
        place: Place,
    ) -> Block {
        let is_picture = matches!(content.as_slice(), [only] if is_picture(only));
        if is_picture && let Some(only) = content.first_mut() {
            affiliated.apply_to_picture(only);
        }
        if is_picture && let Some(caption) = self.caption(affiliated, "figure") {
            let content = vec![Block::new(BlockKind::Paragraph(content)).at(place)];
            let figure = Figure { content, caption: Some(caption) };
            return Block::new(BlockKind::Figure(Box::new(figure))).at(place);
        }
        Block::new(BlockKind::of_line(content)).at(place)
    }

    /// The caption that stands before an element of this kind.
    pub(super) fn caption(&mut self, affiliated: &Affiliated, kind: &str) -> Option<Caption> {
        let (text, place) = affiliated.caption.as_ref()?;
        let content = self.inlines_of_text(text, *place);
        let number = self.targets.count(kind);
        if let Some(name) = &affiliated.name {
            self.targets.add_number(name, number);
        }
        let content = vec![Block::new(BlockKind::Paragraph(content)).at(*place)];
        let label = affiliated.label().map(Into::into);
        Some(Caption { label, content })
    }

    /// A block, drawer or environment that begins here and is never closed is text.
    fn tell_unclosed(&mut self, at: usize) {
        let Some(line) = self.lines.get(at).copied().filter(|line| !line.is_rest) else { return };
        let text = line.trimmed();
        let what = match text.as_bytes().first() {
            Some(b'#') if block_begin(text).is_some() || dynamic_begin(text).is_some() => text,
            Some(b'#') if block_end(text).is_some() => {
                let what = text.trim();
                return self.findings.add_about(Code::BlockUnopened, what, Some(line.place()));
            }
            Some(b':') if drawer_name(text).is_some_and(|n| !n.eq_ignore_ascii_case("end")) => text,
            Some(b'\\') if environment(text).is_some() => text,
            _ => return,
        };
        self.findings.add_about(Code::BlockUnclosed, what.trim(), Some(line.place()));
    }

    fn break_of(&self, range: Range<usize>) -> Option<BreakKind> {
        let [line] = self.lines.get(range)? else { return None };
        match line.text.trim() {
            "\\newpage" | "\\clearpage" | "\\pagebreak" | "\\newpage{}" | "\\clearpage{}" => {
                Some(BreakKind::Page)
            }
            "\\columnbreak" | "\\columnbreak{}" => Some(BreakKind::Column),
            _ => None,
        }
    }

    /// Lines of remarks.
    fn comments(&mut self, at: usize, end: usize, out: &mut Vec<Block>) -> usize {
        let mut text = String::new();
        let mut behind = at;
        while let Some(line) = self.lines.get(behind).filter(|_| behind < end)
            && let Some(remark) = comment(line.trimmed())
        {
            if behind > at {
                text.push('\n');
            }
            text.push_str(remark);
            behind += 1;
        }
        let place = self.place_of(&(at..behind));
        out.push(Block::new(BlockKind::SourceRemark(text.into())).at(place));
        behind
    }

    /// A line that is not for readers.
    pub(super) fn hide_line(&mut self, at: usize, what: &str, out: &mut Vec<Block>) {
        if self.options.keeps_hidden {
            out.push(self.raw(at..at + 1));
        } else {
            let place = self.place_of(&(at..at + 1));
            self.hidden(what, place);
        }
    }

    /// Lines that readers of the tree do not see, unless Org is written again.
    pub(super) fn keep_lines(&mut self, range: Range<usize>, what: &str) {
        if self.options.keeps_hidden && !range.is_empty() {
            let raw = self.raw(range);
            self.targets.file_properties = Some(raw);
        } else if !what.is_empty() {
            let place = self.place_of(&range);
            self.hidden(what, place);
        }
    }

    /// A keyword in the text.
    fn keyword(&mut self, at: usize, out: &mut Vec<Block>) {
        let Some(line) = self.lines.get(at).copied() else { return };
        let Some(keyword) = Keyword::of(line.trimmed()) else { return };
        let key = keyword.key.to_ascii_lowercase();
        let place = line.place();
        match key.as_str() {
            "toc" => return self.contents(keyword.value, place, out),
            "print_bibliography" => {
                return out.push(Block::new(BlockKind::Bibliography).at(place));
            }
            "call" => {
                let called = keyword.value.split(['(', '[']).next().unwrap_or_default();
                self.findings.count(Code::CodeNotRun, called.trim(), Some(place));
                return self.hide_line(at, "a call of code", out);
            }
            "include" => return,
            "html" | "latex" | "ascii" | "odt" | "md" | "texinfo" | "beamer" | "man" | "org" => {
                let foreign = Foreign { format: key.into(), markup: keyword.value.into() };
                return out.push(Block::new(BlockKind::Foreign(Box::new(foreign))).at(place));
            }
            "setupfile" => {
                let name = keyword.value.trim_matches('"');
                if super::sources::file(self.resolver, name).is_none() {
                    self.findings.add_about(Code::IncludeMissing, name, Some(place));
                }
                return;
            }
            _ => {}
        }
        if self.settings.is_own(&key) {
            return;
        }
        if is_setting(&key) {
            return;
        }
        if self.options.keeps_hidden {
            let foreign = Foreign { format: ORG.into(), markup: line.trimmed().trim_end().into() };
            return out.push(Block::new(BlockKind::Foreign(Box::new(foreign))).at(place));
        }
        self.findings.count(Code::KeywordUnknown, keyword.key, Some(place));
    }

    /// `#+TOC: headlines 2`
    fn contents(&mut self, value: &str, place: Place, out: &mut Vec<Block>) {
        let mut words = value.split_whitespace();
        let kind = match words.next().unwrap_or("headlines") {
            "tables" => ContentsKind::Tables,
            "figures" => ContentsKind::Figures,
            "headlines" => ContentsKind::Headings,
            other => {
                return self.findings.count(
                    Code::KeywordUnknown,
                    &format!("TOC: {other}"),
                    Some(place),
                );
            }
        };
        let depth = words.next().and_then(|word| word.parse().ok()).unwrap_or(0);
        let contents = ContentsList { kind, depth };
        out.push(Block::new(BlockKind::Contents(Box::new(contents))).at(place));
    }
}

/// A frame of a table drawn with signs.
fn is_frame(text: &str) -> bool {
    text.trim_end().bytes().all(|byte| matches!(byte, b'+' | b'-' | b'='))
}

/// A picture, alone or as a link.
fn is_picture(inline: &Inline) -> bool {
    match inline {
        Inline::Picture(_) => true,
        Inline::Link(link) => matches!(link.content.as_slice(), [Inline::Picture(_)]),
        _ => false,
    }
}
