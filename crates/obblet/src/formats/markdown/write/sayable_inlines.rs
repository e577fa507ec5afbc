//! Inlines as the dialect can say them.

use super::sayable::Sayable;
use crate::document::{
    Attributes, CompactString, Foreign, Formatted, Formatting, Inline, InlineCode, LineBreak,
    Moment, Picture, PictureSource, Timestamp, plain_text,
};
use crate::embedded;
use crate::findings::Code;
use crate::formats::markdown::Switch;
use crate::formats::markdown::read::grammar;
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;

/// What the inlines stand in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Flow {
    /// A text of several lines.
    Lines,
    /// A single line: an ATX heading, a term, a title.
    Line,
    /// A single line in a table.
    Cell,
}

impl Sayable<'_> {
    /// The inlines of one leaf.
    pub(super) fn leaf(&mut self, inlines: &[Inline], flow: Flow) -> Vec<Inline> {
        let mut out = Vec::with_capacity(inlines.len());
        self.flow = flow;
        self.push_inlines(inlines, &mut out);
        self.tidy_leaf(&mut out);
        out
    }

    pub(super) fn nested(&mut self, inlines: &[Inline]) -> Vec<Inline> {
        let mut out = Vec::with_capacity(inlines.len());
        self.push_inlines(inlines, &mut out);
        tidy(&mut out);
        self.part_neighbours(&mut out);
        out
    }

    pub(super) fn push_inlines(&mut self, inlines: &[Inline], out: &mut Vec<Inline>) {
        inlines.iter().for_each(|inline| self.push_inline(inline, out));
    }

    fn push_inline(&mut self, inline: &Inline, out: &mut Vec<Inline>) {
        match inline {
            Inline::Text(text) => push_text(out, text),
            Inline::Break(kind) => self.push_break(*kind, out),
            Inline::Formatted(formatted) => self.push_formatted(formatted, out),
            Inline::Code(code) => self.push_code(code, out),
            Inline::Link(link) => self.push_link(link, out),
            Inline::Picture(picture) => self.push_picture(picture, out),
            Inline::NoteMark(note) => self.push_note_mark(*note, out),
            Inline::CommentMark(_) => self.not_carried("a review comment"),
            Inline::Anchor(anchor) => self.push_anchor(&anchor.id, out),
            Inline::Reference(reference) => self.push_reference(reference, out),
            Inline::Citation(citation) => self.push_citation(citation, out),
            Inline::Formula(formula) => self.push_formula(formula, out),
            Inline::CheckBox(ticked) => push_text(out, if *ticked { "☑" } else { "☐" }),
            Inline::Timestamp(timestamp) => self.push_timestamp(timestamp, out),
            Inline::Ruby(ruby) => {
                self.push_tag("<ruby>".into(), out);
                self.push_inlines(&ruby.base, out);
                self.push_tag("<rt>".into(), out);
                self.push_inlines(&ruby.reading, out);
                self.push_tag("</rt>".into(), out);
                self.push_tag("</ruby>".into(), out);
            }
            Inline::Foreign(foreign) => self.push_foreign(foreign, out),
        }
    }

    pub(super) fn push_tag(&mut self, markup: String, out: &mut Vec<Inline>) {
        if self.options.html {
            out.push(html(markup));
        }
    }

    fn push_break(&mut self, kind: LineBreak, out: &mut Vec<Inline>) {
        let several_lines = self.flow == Flow::Lines;
        // Where lines are broken by width, a line ending of the source is a space.
        let keeps_soft = !self.has(Switch::HardWraps) && self.options.wrap.is_none();
        match kind {
            LineBreak::Soft if several_lines && keeps_soft => {
                out.push(Inline::Break(LineBreak::Soft));
            }
            LineBreak::Soft => push_text(out, " "),
            LineBreak::Hard if several_lines => out.push(Inline::Break(LineBreak::Hard)),
            LineBreak::Hard if self.options.html => out.push(html("<br>".into())),
            LineBreak::Hard => {
                self.not_carried("a line break");
                push_text(out, " ");
            }
        }
    }

    fn push_formatted(&mut self, formatted: &Formatted, out: &mut Vec<Inline>) {
        let attributes = &formatted.attributes;
        if formatted.format == Formatting::Plain && attributes.is_empty() {
            return self.push_inlines(&formatted.content, out);
        }
        if attributes.is_empty() && self.has_mark(formatted.format) {
            let mut content = self.nested(&formatted.content);
            let before = take_edge_space(&mut content, Edge::Start);
            let behind = take_edge_space(&mut content, Edge::End);
            push_all(out, before);
            if !content.is_empty() {
                let (format, attributes) = (formatted.format, Attributes::NONE);
                out.push(Inline::Formatted(Box::new(Formatted { format, attributes, content })));
            }
            return push_all(out, behind);
        }
        let is_span = formatted.format == Formatting::Plain && self.fits_braces(attributes);
        if is_span || self.is_abbreviation(formatted) {
            let content = self.nested(&formatted.content);
            let attributes = attributes.clone();
            let format = formatted.format;
            return out.push(Inline::Formatted(Box::new(Formatted {
                format,
                attributes,
                content,
            })));
        }
        self.push_tagged(formatted, out);
    }

    /// A format that has no mark of its own, between tags.
    fn push_tagged(&mut self, formatted: &Formatted, out: &mut Vec<Inline>) {
        if formatted.format == Formatting::SmallCapitals {
            self.not_carried("small capitals");
        }
        let tags = embedded::tags_of(formatted).filter(|_| self.options.html);
        let Some((open, close)) = tags else {
            self.report_lost_tag(&formatted.attributes);
            if formatted.format != Formatting::Plain {
                self.not_carried(format_name(formatted.format));
            }
            return self.push_inlines(&formatted.content, out);
        };
        self.report_lost_attributes(&formatted.attributes);
        out.push(html(open));
        self.push_inlines(&formatted.content, out);
        out.push(html(close));
    }

    fn has_mark(&self, format: Formatting) -> bool {
        match format {
            Formatting::Emphasis | Formatting::Strong => true,
            Formatting::Deleted => self.has(Switch::Strikethrough),
            Formatting::Highlight => self.has(Switch::Highlight),
            Formatting::Inserted => self.has(Switch::Insertion),
            Formatting::Superscript | Formatting::Subscript => self.has(Switch::Scripts),
            _ => false,
        }
    }

    fn is_abbreviation(&self, formatted: &Formatted) -> bool {
        formatted.format == Formatting::Abbreviation
            && self.abbreviations.contains(&plain_text(&formatted.content))
    }

    pub(super) fn push_code(&mut self, code: &InlineCode, out: &mut Vec<Inline>) {
        let text: CompactString = code.text.replace('\n', " ").into();
        if text.is_empty() {
            return;
        }
        let attributes = &code.attributes;
        let in_braces = self.fits_braces(attributes);
        // In a table, a backslash before a pipe belongs to the pipe, even inside code.
        let splits_cell = self.flow == Flow::Cell && text.contains("\\|");
        if (attributes.is_empty() || in_braces) && !splits_cell {
            let attributes = attributes.clone();
            return out.push(Inline::Code(Box::new(InlineCode { text, attributes })));
        }
        if !self.options.html {
            self.report_lost_tag(attributes);
            let code = InlineCode { text, attributes: Attributes::NONE };
            return out.push(Inline::Code(Box::new(code)));
        }
        out.push(html(embedded::open_tag("code", attributes)));
        push_text(out, &text);
        out.push(html("</code>".into()));
    }

    fn push_picture(&mut self, picture: &Picture, out: &mut Vec<Inline>) {
        let Some(address) = self.picture_address(&picture.source) else {
            self.not_carried("a picture without a file");
            return self.push_inlines(&picture.alternative, out);
        };
        let attributes = &picture.attributes;
        let is_plain = attributes.is_empty() && picture.width.is_none() && picture.height.is_none();
        let in_braces = self.fits_braces(attributes);
        if !is_plain && !in_braces && self.options.html {
            self.report_lost_attributes(attributes);
            return out.push(html(picture_tag(picture, &address)));
        }
        if !is_plain && !in_braces {
            self.report_lost_tag(attributes);
            self.not_carried("the size of a picture");
        }
        let alternative = self.nested(&picture.alternative);
        let sized = |size: Option<f32>| size.filter(|_| in_braces);
        out.push(Inline::Picture(Box::new(Picture {
            source: PictureSource::Address(address),
            alternative,
            decorative: false,
            title: picture.title.clone(),
            width: sized(picture.width),
            height: sized(picture.height),
            attributes: if in_braces { attributes.clone() } else { Attributes::NONE },
        })));
    }

    /// The address of a picture; one of the document's own is in the folder beside, or inside the
    /// address.
    fn picture_address(&self, source: &PictureSource) -> Option<CompactString> {
        match source {
            PictureSource::Address(address) => Some(address.clone()),
            PictureSource::Media(id) => {
                let media = self.document.media.get(*id)?;
                Some(match &self.options.picture_folder {
                    Some(folder) => format!("{folder}/{}", media.name).into(),
                    None => {
                        let bytes = STANDARD.encode(&media.bytes);
                        format!("data:{};base64,{bytes}", media.media_type).into()
                    }
                })
            }
        }
    }

    fn push_timestamp(&mut self, timestamp: &Timestamp, out: &mut Vec<Inline>) {
        self.push_tag("<time>".into(), out);
        push_text(out, &moment(timestamp.start));
        self.push_tag("</time>".into(), out);
        if let Some(end) = timestamp.end {
            push_text(out, "–");
            self.push_tag("<time>".into(), out);
            push_text(out, &moment(end));
            self.push_tag("</time>".into(), out);
        }
        if timestamp.repeater.is_some() || timestamp.warning.is_some() {
            self.not_carried("how a date repeats");
        }
    }

    fn push_foreign(&mut self, foreign: &Foreign, out: &mut Vec<Inline>) {
        let is_html = foreign.format == "html" && self.options.html;
        if is_html || foreign.format != "html" && self.has(Switch::Attributes) {
            let mut foreign = foreign.clone();
            if is_html {
                foreign.markup = self.as_read(&foreign.markup);
            }
            if self.flow != Flow::Lines || !is_html {
                foreign.markup = foreign.markup.replace('\n', " ");
            }
            return out.push(Inline::Foreign(Box::new(foreign)));
        }
        self.findings.count(Code::ForeignMarkupLost, &foreign.format, Some(self.place));
    }

    /// No white space at the leaf's edges, no breaks there, nothing that would begin a block.
    fn tidy_leaf(&mut self, out: &mut Vec<Inline>) {
        tidy(out);
        for edge in [Edge::Start, Edge::End] {
            let taken = take_edge_space(out, edge);
            let is_hard = |inline: &Inline| matches!(inline, Inline::Break(LineBreak::Hard));
            let breaks = taken.iter().filter(|inline| is_hard(inline)).count();
            let at = if edge == Edge::Start { 0 } else { out.len() };
            if self.options.html && !out.is_empty() {
                out.splice(at..at, std::iter::repeat_n(html("<br>".into()), breaks));
            }
        }
        self.join_lines_before_tags(out);
        self.part_neighbours(out);
    }

    /// The dollars or backticks of two neighbours would run together.
    fn part_neighbours(&mut self, out: &mut Vec<Inline>) {
        for index in (1..out.len()).rev() {
            let run_together = matches!(
                out.get(index - 1..=index),
                Some([Inline::Formula(_), Inline::Formula(_)] | [Inline::Code(_), Inline::Code(_)])
            );
            if run_together {
                let between = if self.options.html {
                    html("<!-- -->".into())
                } else {
                    self.findings.count(Code::WhiteSpaceChanged, "neighbours", Some(self.place));
                    Inline::Text(" ".into())
                };
                out.insert(index, between);
            }
        }
    }

    /// A tag at the start of a line may begin an HTML block; then the line break before it, or
    /// behind it when it is alone in the first line, becomes a space.
    fn join_lines_before_tags(&mut self, out: &mut Vec<Inline>) {
        if out.len() > 1
            && let Some(Inline::Foreign(foreign)) = out.first()
            && foreign.format == "html"
            && grammar::html_interrupts(&foreign.markup, self.options.switches)
        {
            self.findings.count(Code::ForeignMarkupLost, "html", Some(self.place));
            out.remove(0);
            return self.tidy_leaf(out);
        }
        let alone_in_first =
            matches!(out.as_slice(), [Inline::Foreign(_), Inline::Break(LineBreak::Soft), ..]);
        let mut joined = Vec::new();
        for (index, pair) in out.windows(2).enumerate() {
            let [Inline::Break(_), Inline::Foreign(foreign)] = pair else { continue };
            if grammar::html_interrupts(&foreign.markup, self.options.switches) {
                joined.push(index);
            }
        }
        joined.extend(alone_in_first.then_some(1));
        for &index in &joined {
            out[index] = Inline::Text(" ".into());
        }
        if !joined.is_empty() {
            tidy(out);
        }
    }
}

/// Raw HTML in a line.
pub(super) fn html(markup: String) -> Inline {
    Inline::Foreign(Box::new(Foreign { format: "html".into(), markup }))
}

pub(super) fn push_text(out: &mut Vec<Inline>, text: &str) {
    match out.last_mut() {
        _ if text.is_empty() => {}
        Some(Inline::Text(last)) => last.push_str(text),
        _ => out.push(Inline::Text(text.into())),
    }
}

fn push_all(out: &mut Vec<Inline>, inlines: Vec<Inline>) {
    for inline in inlines {
        match inline {
            Inline::Text(text) => push_text(out, &text),
            inline => out.push(inline),
        }
    }
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Edge {
    Start,
    End,
}

/// Takes spaces and breaks off one edge, in reading order.
fn take_edge_space(content: &mut Vec<Inline>, edge: Edge) -> Vec<Inline> {
    let is_space = |inline: &Inline| match inline {
        Inline::Break(_) => true,
        Inline::Text(text) => text.bytes().all(|byte| byte == b' '),
        _ => false,
    };
    let whole = match edge {
        Edge::Start => {
            let behind = content.iter().take_while(|inline| is_space(inline)).count();
            content.drain(..behind)
        }
        Edge::End => {
            let before =
                content.iter().rposition(|inline| !is_space(inline)).map_or(0, |at| at + 1);
            content.drain(before..)
        }
    };
    let mut taken: Vec<Inline> = whole.filter(|inline| !is_empty_text(inline)).collect();
    let beside = match edge {
        Edge::Start => content.first_mut(),
        Edge::End => content.last_mut(),
    };
    if let Some(Inline::Text(text)) = beside {
        let kept: CompactString = match edge {
            Edge::Start => text.trim_start_matches(' ').into(),
            Edge::End => text.trim_end_matches(' ').into(),
        };
        let spaces = Inline::Text(" ".repeat(text.len() - kept.len()).into());
        *text = kept;
        match edge {
            _ if is_empty_text(&spaces) => {}
            Edge::Start => taken.push(spaces),
            Edge::End => taken.insert(0, spaces),
        }
    }
    taken
}

fn is_empty_text(inline: &Inline) -> bool {
    matches!(inline, Inline::Text(text) if text.is_empty())
}

/// Takes out spaces beside breaks, and soft breaks beside other breaks.
fn tidy(inlines: &mut Vec<Inline>) {
    let mut tidied: Vec<Inline> = Vec::with_capacity(inlines.len());
    for inline in inlines.drain(..) {
        match inline {
            Inline::Text(text) => {
                let behind_break = matches!(tidied.last(), Some(Inline::Break(_)));
                push_text(
                    &mut tidied,
                    if behind_break { text.trim_start_matches(' ') } else { &text },
                );
            }
            Inline::Break(kind) => {
                if let Some(Inline::Text(text)) = tidied.last_mut() {
                    let kept = text.trim_end_matches(' ').len();
                    text.truncate(kept);
                    if text.is_empty() {
                        tidied.pop();
                    }
                }
                match (tidied.last(), kind) {
                    (Some(Inline::Break(_)), LineBreak::Soft) => {}
                    (Some(Inline::Break(LineBreak::Soft)), LineBreak::Hard) => {
                        tidied.pop();
                        tidied.push(Inline::Break(LineBreak::Hard));
                    }
                    _ => tidied.push(Inline::Break(kind)),
                }
            }
            inline => tidied.push(inline),
        }
    }
    *inlines = tidied;
}

fn picture_tag(picture: &Picture, address: &str) -> String {
    let mut tag = embedded::open_tag("img", &picture.attributes);
    tag.pop();
    embedded::push_attribute(&mut tag, "src", address);
    embedded::push_attribute(&mut tag, "alt", &plain_text(&picture.alternative));
    if let Some(title) = &picture.title {
        embedded::push_attribute(&mut tag, "title", title);
    }
    for (name, size) in [("width", picture.width), ("height", picture.height)] {
        if let Some(size) = size {
            embedded::push_attribute(&mut tag, name, &format!("{size:.0}"));
        }
    }
    tag.push('>');
    tag
}

/// Whether a formula's source can stand between dollars: nothing in it closes them.
pub(super) fn between_dollars(source: &str, display: bool) -> bool {
    let width = if display { 2 } else { 1 };
    let mut run = 0;
    let mut escaped = false;
    for c in source.chars().chain([' ']) {
        match c {
            '$' if !escaped => run += 1,
            _ if run == width => return false,
            _ => run = 0,
        }
        escaped = c == '\\' && !escaped;
    }
    let ends_escaped = source.len() - source.trim_end_matches('\\').len();
    let blank_line = source.lines().any(|line| line.trim().is_empty());
    !source.is_empty()
        && source.trim() == source
        && !source.starts_with('$')
        && !source.ends_with('$')
        && !blank_line
        && ends_escaped.is_multiple_of(2)
}

fn moment(moment: Moment) -> String {
    let Moment { year, month, day, time } = moment;
    let date = format!("{year:04}-{month:02}-{day:02}");
    time.map_or(date.clone(), |(hour, minute)| format!("{date} {hour:02}:{minute:02}"))
}

fn format_name(format: Formatting) -> &'static str {
    match format {
        Formatting::Underline => "an underline",
        Formatting::Struck => "struck text",
        Formatting::Deleted => "deleted text",
        Formatting::Inserted => "inserted text",
        Formatting::Superscript => "raised text",
        Formatting::Subscript => "lowered text",
        Formatting::SmallCapitals => "small capitals",
        Formatting::Highlight => "highlighted text",
        Formatting::SmallPrint => "small print",
        Formatting::KeyboardInput => "keyboard input",
        Formatting::ProgramOutput => "program output",
        Formatting::Variable => "a variable",
        Formatting::Quoted => "a quotation inside a line",
        Formatting::WorkTitle => "the title of a work",
        Formatting::DefinedTerm => "a defined term",
        Formatting::Abbreviation => "an abbreviation",
        Formatting::Plain | Formatting::Emphasis | Formatting::Strong => "a format",
    }
}
