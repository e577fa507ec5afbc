//! The inlines of one block, as text.

use super::attributes::braces;
use super::blocks::Speller;
use super::escape::{Around, Care, escaped};
use super::links::{LinkDefinitions, target};
use super::sayable::sayable_leaf;
use super::sayable_inlines::Flow;
use super::{EmphasisMark, MarkdownWriteOptions, report_unsayable};
use crate::document::{
    Attributes, Document, Formatted, Formatting, Inline, InlineCode, LineBreak, Picture,
    PictureSource,
};
use crate::embedded;
use crate::formats::markdown::Switch;
use crate::formats::markdown::read::grammar::{self, LineStarts};
use std::ops::Range;

/// What a text is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Place {
    Paragraph,
    /// A stanza: its line endings are its own.
    Verse,
    /// The first paragraph of a list item, which must not look like a task.
    Item,
    /// The text behind a task's box.
    Task,
    /// A heading with a line below it.
    Underlined,
    /// A heading behind number signs.
    Line,
    Term,
    /// Words behind the name of a container.
    Title,
    Cell,
}

impl Place {
    fn flow(self) -> Flow {
        match self {
            Self::Paragraph | Self::Verse | Self::Item | Self::Task | Self::Underlined => {
                Flow::Lines
            }
            Self::Line | Self::Term | Self::Title => Flow::Line,
            Self::Cell => Flow::Cell,
        }
    }
}

impl Speller<'_> {
    /// A text that reads back as these inlines.
    pub(super) fn leaf(&mut self, inlines: &[Inline], place: Place) -> String {
        if let Some(text) = self.read_back(inlines, place) {
            return text;
        }
        report_unsayable(&mut self.findings, self.place);
        let with_tags = self.options.html;
        let care = if with_tags { Care::Usual } else { Care::Most };
        let spelled = self.spelled(inlines, place, care, with_tags);
        let text = self.in_place(&spelled.text, place);
        // What this reads as can be spelled so that a second trip changes nothing.
        let read = self.reader.read(&text);
        let settled = sayable_leaf(self.document, self.options, &read, place.flow());
        self.read_back(&settled, place).unwrap_or(text)
    }

    /// The text with the fewest escapes that reads back as these inlines.
    fn read_back(&mut self, inlines: &[Inline], place: Place) -> Option<String> {
        for care in [Care::Least, Care::Usual, Care::Most] {
            let spelled = self.spelled(inlines, place, care, false);
            let text = self.in_place(&spelled.text, place);
            if self.reader.read(&text) == inlines {
                return Some(self.wrapped(spelled, place, inlines).unwrap_or(text));
            }
        }
        None
    }

    /// The text with its lines broken, where that is wanted and says the same.
    fn wrapped(
        &mut self,
        mut spelled: Spelled,
        place: Place,
        inlines: &[Inline],
    ) -> Option<String> {
        let breaks = place.flow() == Flow::Lines && place != Place::Verse;
        let width = self.options.wrap.filter(|_| breaks)?;
        let width = usize::from(width).saturating_sub(self.prefix_width()).max(20);
        spelled.wrap(width, place == Place::Task);
        let text = self.in_place(&spelled.text, place);
        let read = self.reader.read(&text);
        let joined = sayable_leaf(self.document, self.options, &read, place.flow());
        (joined == inlines).then_some(text)
    }

    /// Whether a text is one displayed formula and nothing else.
    pub(super) fn is_formula_text(&mut self, text: &str) -> bool {
        matches!(self.reader.read(text).as_slice(), [Inline::Formula(only)] if only.display)
    }

    fn spelled(&self, inlines: &[Inline], place: Place, care: Care, tags: bool) -> Spelled {
        let mut spelling = Spelling {
            options: self.options,
            document: self.document,
            links: self.links,
            care,
            tags,
            in_cell: place == Place::Cell,
            in_brackets: 0,
            out: Spelled::default(),
            last_mark: None,
            behind_closer: None,
            opens: false,
        };
        spelling.inlines(inlines, None);
        spelling.encode_edge_space();
        spelling.out
    }

    /// Keeps each line from being the start of a block, and the end from being anything else.
    fn in_place(&self, text: &str, place: Place) -> String {
        match place {
            Place::Cell => text.to_string(),
            Place::Line => self.without_closing_marks(text.to_string()),
            Place::Title => self.as_title(text.to_string()),
            Place::Term => {
                let text = self.lines_in_place(text, place);
                match LineStarts::new(self.options.switches).escape_position(&text, Some(" ")) {
                    Some(at) => with_backslash(&text, at),
                    None => text,
                }
            }
            _ => self.lines_in_place(text, place),
        }
    }

    fn lines_in_place(&self, text: &str, place: Place) -> String {
        let mut lines: Vec<String> = Vec::new();
        let mut starts = LineStarts::new(self.options.switches);
        let mut rest = text;
        for line in text.split('\n') {
            let behind_box = lines.first().filter(|_| place == Place::Task && lines.len() == 1);
            let behind_box = behind_box.map(|first| format!("[x] {first}"));
            let before = behind_box.as_ref().or(lines.last()).map(String::as_str);
            let first_behind_box = place == Place::Task && before.is_none();
            let position =
                if first_behind_box { None } else { starts.escape_position(rest, before) };
            rest = rest.get(line.len() + 1..).unwrap_or_default();
            lines.push(position.map_or_else(|| line.to_string(), |at| with_backslash(line, at)));
        }
        let mut text = lines.join("\n");
        let looks_like_task = place == Place::Item
            && self.has(Switch::Tasks)
            && ["[ ] ", "[x] ", "[X] ", "[\t] "].iter().any(|mark| text.starts_with(mark));
        let defines = place != Place::Task && grammar::begins_with_definition(&text);
        if looks_like_task || defines {
            text.insert(0, '\\');
        }
        if place == Place::Underlined { self.without_trailing_braces(text) } else { text }
    }

    /// Number signs at the end of a heading would be taken for its closing marks.
    fn without_closing_marks(&self, mut text: String) -> String {
        let before = text.trim_end_matches('#').len();
        let apart = before == 0 || text.get(..before).is_some_and(|text| text.ends_with(' '));
        if before < text.len() && apart {
            text.insert(before, '\\');
        }
        self.without_trailing_braces(text)
    }

    /// Braces at the end that could be read as attributes are text.
    fn without_trailing_braces(&self, mut text: String) -> String {
        if self.has(Switch::Attributes)
            && text.ends_with('}')
            && let Some(open) = text.rfind('{')
            && text
                .get(..open)
                .is_some_and(|before| before.is_empty() || before.ends_with([' ', '\t']))
        {
            text.insert(open, '\\');
        }
        text
    }

    fn as_title(&self, mut text: String) -> String {
        if text.ends_with(':') {
            text.pop();
            text.push_str("&#58;");
        }
        self.without_trailing_braces(text)
    }
}

fn with_backslash(line: &str, at: usize) -> String {
    let (before, behind) = line.split_at(at.min(line.len()));
    format!("{before}\\{behind}")
}

/// A text, and where it may be broken.
#[derive(Debug, Default)]
pub(super) struct Spelled {
    pub(super) text: String,
    /// Offsets of spaces that may become line endings.
    spaces: Vec<usize>,
}

impl Spelled {
    /// Breaks lines longer than `width` characters. Behind a task's box the first line has less
    /// room.
    fn wrap(&mut self, width: usize, behind_box: bool) {
        let mut bytes = std::mem::take(&mut self.text).into_bytes();
        let mut column = if behind_box { 4 } else { 0 };
        let mut last_space: Option<(usize, usize)> = None;
        let mut next_space = self.spaces.iter().copied().peekable();
        for at in 0..bytes.len() {
            let byte = bytes[at];
            if byte == b'\n' {
                (column, last_space) = (0, None);
                continue;
            }
            if next_space.next_if_eq(&at).is_some() {
                last_space = Some((at, column));
            }
            // Only the first byte of a character counts.
            if byte & 0xC0 != 0x80 {
                column += 1;
            }
            if column > width
                && let Some((space, before)) = last_space.take()
            {
                bytes[space] = b'\n';
                column -= before + 1;
            }
        }
        // Spaces became newlines, so this is still the text it was.
        self.text = String::from_utf8(bytes).unwrap_or_default();
    }

    /// Replaces one character by its character reference.
    fn encode(&mut self, range: Range<usize>) {
        let Some(c) = self.text.get(range.clone()).and_then(|text| text.chars().next()) else {
            return;
        };
        let reference = reference(c);
        let grown = reference.len() - range.len();
        self.text.replace_range(range.clone(), &reference);
        // Only what stands behind moves: that is little, for characters at the end of the text.
        let first = self.spaces.partition_point(|space| *space < range.start);
        if self.spaces.get(first) == Some(&range.start) {
            self.spaces.remove(first);
        }
        for space in self.spaces.iter_mut().skip(first) {
            *space += grown;
        }
    }
}

fn reference(c: char) -> String {
    if c == '\u{A0}' { "&nbsp;".into() } else { format!("&#{};", u32::from(c)) }
}

/// What stands beside a mark, as far as marks care (CommonMark 6.2).
fn is_word(c: char) -> bool {
    !c.is_whitespace() && !is_punctuation(c)
}

fn is_punctuation(c: char) -> bool {
    use unicode_properties::{GeneralCategoryGroup, UnicodeGeneralCategory};
    c.is_ascii_punctuation()
        || !c.is_ascii()
            && matches!(
                c.general_category_group(),
                GeneralCategoryGroup::Punctuation | GeneralCategoryGroup::Symbol
            )
}

pub(super) struct Spelling<'s> {
    pub(super) options: &'s MarkdownWriteOptions,
    document: &'s Document,
    pub(super) links: &'s LinkDefinitions,
    pub(super) care: Care,
    /// Formats become tags: marks could not be told apart.
    tags: bool,
    in_cell: bool,
    pub(super) in_brackets: usize,
    pub(super) out: Spelled,
    /// The last mark that was written, and where it ended.
    last_mark: Option<(u8, usize)>,
    /// A closing mark that a letter right behind would undo: only behind punctuation, or always.
    pub(super) behind_closer: Option<usize>,
    /// A mark was just opened, so that white space may not follow.
    opens: bool,
}

impl Spelling<'_> {
    /// Inlines, with the mark of the format that ends right behind them.
    pub(super) fn inlines(&mut self, inlines: &[Inline], closing: Option<u8>) {
        for (index, inline) in inlines.iter().enumerate() {
            let next = inlines.get(index + 1);
            let is_last = next.is_none();
            match inline {
                Inline::Text(text) => self.text(text, next),
                Inline::Break(LineBreak::Soft) => self.line_ending(""),
                Inline::Break(LineBreak::Hard) => self.line_ending("\\"),
                Inline::Formatted(formatted) => {
                    self.formatted(formatted, closing.filter(|_| is_last));
                }
                Inline::Code(code) => self.code(code),
                Inline::Link(link) => self.link(link),
                Inline::Picture(picture) => self.picture(picture),
                Inline::NoteMark(note) => {
                    let note = self.document.note(*note);
                    let label = note.and_then(|note| note.label.as_deref()).unwrap_or_default();
                    self.push(&format!("[^{label}]"));
                }
                Inline::Anchor(anchor) => {
                    let id = Attributes::with_id(anchor.id.clone());
                    self.push(&format!("[]{}", braces(&id, &[])));
                }
                Inline::Formula(formula) => self.formula(formula, next),
                Inline::Foreign(foreign) if foreign.format == "html" => {
                    self.push(&grammar::written_html(&foreign.markup, self.options.switches));
                }
                Inline::Foreign(foreign) => {
                    let raw = braces(&Attributes::NONE, &[("raw", foreign.format.to_string())]);
                    let text = between_backticks(&foreign.markup);
                    self.push(&format!("{text}{raw}"));
                }
                // A sayable document holds none of these.
                Inline::CommentMark(_)
                | Inline::Reference(_)
                | Inline::Citation(_)
                | Inline::CheckBox(_)
                | Inline::Timestamp(_)
                | Inline::Ruby(_) => {}
            }
        }
    }

    /// Markup, or text that is escaped already.
    pub(super) fn push(&mut self, text: &str) {
        self.opens = false;
        self.behind_closer = None;
        self.out.text.push_str(text);
    }

    fn last_char(&self) -> Option<char> {
        self.out.text.chars().next_back()
    }

    fn text(&mut self, text: &str, next: Option<&Inline>) {
        let around = Around {
            before: self.last_char().filter(|c| *c != '\n'),
            behind: next.and_then(first_of),
            in_brackets: self.in_brackets > 0,
            in_cell: self.in_cell,
        };
        let mut left = text;
        if let Some(first) = text.chars().next() {
            let at_line_start = self.out.text.is_empty() || self.out.text.ends_with('\n');
            let undoes = is_word(first) || first == '{';
            let undone = self.behind_closer == Some(self.out.text.len()) && undoes;
            let lost = at_line_start && matches!(first, ' ' | '\t');
            if undone || lost || self.opens && first.is_whitespace() {
                self.push(&reference(first));
                left = text.get(first.len_utf8()..).unwrap_or_default();
            }
        }
        if left.is_empty() {
            return;
        }
        let escaped = escaped(left, around, self.care, self.options.switches);
        let start = self.out.text.len();
        self.push(&escaped);
        self.note_spaces(start);
    }

    /// Notes the single spaces from here on, at which the text may be broken. Behind a backslash a
    /// line ending would be a hard break.
    fn note_spaces(&mut self, start: usize) {
        if self.options.wrap.is_none() {
            return;
        }
        let bytes = self.out.text.as_bytes();
        let is_space = |at: usize| bytes.get(at) == Some(&b' ');
        for at in start.max(1)..bytes.len() {
            let before = bytes.get(at - 1);
            if is_space(at) && !matches!(before, Some(b' ' | b'\\')) && !is_space(at + 1) {
                self.out.spaces.push(at);
            }
        }
    }

    /// White space at the end of a line would be lost.
    fn encode_edge_space(&mut self) {
        while self.out.text.ends_with([' ', '\t']) {
            let end = self.out.text.len();
            self.out.encode(end - 1..end);
        }
    }

    fn line_ending(&mut self, mark: &str) {
        self.encode_edge_space();
        self.push(mark);
        self.push("\n");
    }

    fn formatted(&mut self, formatted: &Formatted, closing: Option<u8>) {
        match formatted.format {
            Formatting::Plain => {
                self.push("[");
                self.in_brackets += 1;
                self.inlines(&formatted.content, None);
                self.in_brackets -= 1;
                self.push(&format!("]{}", braces(&formatted.attributes, &[])));
            }
            // The definition at the end marks it.
            Formatting::Abbreviation => self.inlines(&formatted.content, closing),
            format => match self.mark(format, closing) {
                Some(mark) => self.marked(mark, &formatted.content),
                None => {
                    let tags = embedded::tags_of(formatted).filter(|_| self.options.html);
                    let (open, close) = tags.unwrap_or_default();
                    self.push(&open);
                    self.inlines(&formatted.content, None);
                    self.push(&close);
                }
            },
        }
    }

    /// The mark of a format: not the one that ends right before, nor the one that ends right
    /// behind.
    fn mark(&self, format: Formatting, closing: Option<u8>) -> Option<&'static str> {
        let before = self.last_mark.filter(|(_, end)| *end == self.out.text.len());
        let before = before.map(|(byte, _)| byte);
        let is_free = |mark: &&&str| {
            let byte = mark.as_bytes().first().copied();
            byte != before && byte != closing
        };
        let underscores = self.options.emphasis == EmphasisMark::Underscore;
        let candidates: &[&'static str] = match format {
            _ if self.tags => &[],
            Formatting::Emphasis if underscores => &["_", "*"],
            Formatting::Emphasis => &["*", "_"],
            Formatting::Strong if underscores => &["__", "**"],
            Formatting::Strong => &["**", "__"],
            Formatting::Deleted => &["~~"],
            Formatting::Highlight => &["=="],
            Formatting::Inserted => &["++"],
            Formatting::Superscript => &["^"],
            Formatting::Subscript => &["~"],
            _ => &[],
        };
        candidates.iter().find(is_free).copied()
    }

    fn marked(&mut self, mark: &str, content: &[Inline]) {
        let byte = mark.as_bytes().first().copied().unwrap_or_default();
        let start = self.out.text.len();
        // Where a mark opens right behind one that closed, the letters between are none.
        self.push(mark);
        self.last_mark = Some((byte, self.out.text.len()));
        self.opens = true;
        let inside = self.out.text.len();
        self.inlines(content, Some(byte));
        if let Some(last) = self.last_char().filter(|c| c.is_whitespace()) {
            let end = self.out.text.len();
            self.out.encode(end - last.len_utf8()..end);
        }
        let first = self.out.text.get(inside..).and_then(|text| text.chars().next());
        self.part_from_word_before(start, byte, first);
        let last = self.last_char();
        let closer_touches = byte == b'_' || last.is_some_and(is_punctuation);
        self.push(mark);
        let end = self.out.text.len();
        self.last_mark = Some((byte, end));
        self.behind_closer = closer_touches.then_some(end);
    }

    /// An opening mark between a letter and punctuation opens nothing; an underscore behind a
    /// letter never does. As a character reference the letter is no letter.
    fn part_from_word_before(&mut self, start: usize, byte: u8, first: Option<char>) {
        let before = self.out.text.get(..start).and_then(|text| text.chars().next_back());
        if let Some(before) = before.filter(|c| is_word(*c))
            && (byte == b'_' || first.is_some_and(is_punctuation))
        {
            self.out.encode(start - before.len_utf8()..start);
        }
    }

    fn code(&mut self, code: &InlineCode) {
        let text = between_backticks(&code.text);
        self.push(&format!("{text}{}", braces(&code.attributes, &[])));
    }

    fn picture(&mut self, picture: &Picture) {
        let PictureSource::Address(address) = &picture.source else { return };
        self.push("![");
        self.in_brackets += 1;
        self.inlines(&picture.alternative, None);
        self.in_brackets -= 1;
        self.push(&format!("]({})", target(address, picture.title.as_deref(), false)));
        let mut sizes = Vec::new();
        for (name, size) in [("width", picture.width), ("height", picture.height)] {
            sizes.extend(size.map(|size| (name, size.to_string())));
        }
        self.push(&braces(&picture.attributes, &sizes));
    }
}

/// The first character that an inline puts into the text.
pub(super) fn first_of(inline: &Inline) -> Option<char> {
    match inline {
        Inline::Text(text) => text.chars().next(),
        Inline::Break(_) => None,
        Inline::Link(_) | Inline::NoteMark(_) | Inline::Anchor(_) => Some('['),
        Inline::Picture(_) => Some('!'),
        Inline::Code(_) => Some('`'),
        Inline::Formula(_) => Some('$'),
        Inline::Foreign(foreign) => foreign.markup.chars().next(),
        Inline::Formatted(formatted) => match formatted.format {
            Formatting::Plain => Some('['),
            Formatting::Abbreviation => formatted.content.first().and_then(first_of),
            _ => Some('*'),
        },
        _ => None,
    }
}

/// Code between as many backticks as it needs.
fn between_backticks(text: &str) -> String {
    let mut runs: Vec<usize> = Vec::new();
    for run in text.split(|c| c != '`').filter(|run| !run.is_empty()) {
        runs.push(run.len());
    }
    let length = (1..).find(|length| !runs.contains(length)).unwrap_or(1);
    let fence = "`".repeat(length);
    let touches = text.starts_with('`') || text.ends_with('`');
    let padded = text.starts_with(' ') && text.ends_with(' ') && text.contains(|c| c != ' ');
    let space = if touches || padded { " " } else { "" };
    format!("{fence}{space}{text}{space}{fence}")
}
