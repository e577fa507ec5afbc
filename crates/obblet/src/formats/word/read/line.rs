//! One paragraph's inlines while they are read: stretches with formats, and what is open around
//! them.

use super::super::vocabulary::TEXT_STYLES;
use crate::document::{
    Attributes, CompactString, Direction, Formatted, Formatting, Inline, InlineCode, Link, Looks,
    Revision,
};
use std::rc::Rc;

/// What is special about a stretch of text, as a set.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) struct RunFormat(u32);

impl RunFormat {
    pub(super) const STRONG: Self = Self(1);
    pub(super) const EMPHASIS: Self = Self(1 << 1);
    pub(super) const UNDERLINE: Self = Self(1 << 2);
    pub(super) const STRUCK: Self = Self(1 << 3);
    pub(super) const SMALL_CAPITALS: Self = Self(1 << 4);
    pub(super) const HIGHLIGHT: Self = Self(1 << 5);
    pub(super) const SUPERSCRIPT: Self = Self(1 << 6);
    pub(super) const SUBSCRIPT: Self = Self(1 << 7);
    /// Always innermost: code holds characters only.
    pub(super) const CODE: Self = Self(1 << 8);

    /// Those that only styles say, from this one on, in the order of the table of styles.
    const FIRST_OF_STYLES: u32 = 9;

    /// What a style says, if that is no property of runs.
    pub(super) fn of_style(says: Formatting) -> Option<Self> {
        let at = TEXT_STYLES.iter().position(|(_, format)| *format == says)?;
        Some(Self(1 << (Self::FIRST_OF_STYLES as usize + at)))
    }

    /// All formats that become elements around others.
    fn nesting() -> impl Iterator<Item = (Self, Formatting)> {
        let of_styles = TEXT_STYLES.iter().enumerate();
        let of_styles = of_styles
            .map(|(at, (_, format))| (Self(1 << (Self::FIRST_OF_STYLES as usize + at)), *format));
        Self::NESTING.into_iter().chain(of_styles)
    }

    /// The formats that runs have as properties.
    const NESTING: [(Self, Formatting); 8] = [
        (Self::STRONG, Formatting::Strong),
        (Self::EMPHASIS, Formatting::Emphasis),
        (Self::UNDERLINE, Formatting::Underline),
        (Self::STRUCK, Formatting::Struck),
        (Self::SMALL_CAPITALS, Formatting::SmallCapitals),
        (Self::HIGHLIGHT, Formatting::Highlight),
        (Self::SUPERSCRIPT, Formatting::Superscript),
        (Self::SUBSCRIPT, Formatting::Subscript),
    ];

    pub(super) fn with(self, other: Self) -> Self {
        Self(self.0 | other.0)
    }

    pub(super) fn has(self, other: Self) -> bool {
        self.0 & other.0 != 0
    }

    pub(super) fn without(self, other: Self) -> Self {
        Self(self.0 & !other.0)
    }
}

/// Attributes of text that are no format: a named style, looks, a language.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct Dress {
    pub(super) style: Option<CompactString>,
    pub(super) language: Option<CompactString>,
    pub(super) looks: Looks,
    /// The tracked change of how it looks.
    pub(super) change: Option<Box<Revision>>,
}

impl Dress {
    pub(super) fn put_on(&self, attributes: &mut Attributes) {
        let set = attributes.edit();
        set.style = self.style.clone().or(set.style.take());
        set.language = self.language.clone().or(set.language.take());
        if let Some(change) = &self.change {
            set.revision = Some((**change).clone());
        }
        if !self.looks.is_empty() {
            set.looks.get_or_insert_default().replace_by(&self.looks);
        }
    }
}

/// How a stretch of text stands out: its formats, and the rest.
#[derive(Debug, Clone, Default)]
pub(super) struct TextStyle {
    pub(super) format: RunFormat,
    pub(super) dress: Option<Rc<Dress>>,
}

impl From<RunFormat> for TextStyle {
    fn from(format: RunFormat) -> Self {
        Self { format, dress: None }
    }
}

impl PartialEq for TextStyle {
    fn eq(&self, other: &Self) -> bool {
        self.format == other.format && same_dress(self.dress.as_ref(), other.dress.as_ref())
    }
}

fn same_dress(one: Option<&Rc<Dress>>, other: Option<&Rc<Dress>>) -> bool {
    match (one, other) {
        (None, None) => true,
        (Some(one), Some(other)) => Rc::ptr_eq(one, other) || one == other,
        _ => false,
    }
}

/// What may be open around inlines.
#[derive(Debug)]
pub(super) enum Frame {
    Link {
        address: CompactString,
        title: Option<CompactString>,
    },
    Change(Revision),
    Direction(Direction),
    /// For these audiences only.
    Audiences(Vec<CompactString>),
    /// Entries of a list of contents, which is made anew.
    Contents,
}

#[derive(Debug)]
struct Stretch {
    style: TextStyle,
    inline: Inline,
}

/// The inlines of a paragraph that is being read.
#[derive(Debug, Default)]
pub(super) struct Line {
    stretches: Vec<Stretch>,
    /// What is open, the outermost first, each with the stretches before it.
    open: Vec<(Frame, Vec<Stretch>)>,
}

impl Line {
    pub(super) fn push(&mut self, inline: Inline, style: TextStyle) {
        self.stretches.push(Stretch { style, inline });
    }

    pub(super) fn push_text(&mut self, text: &str, style: &TextStyle) {
        match self.stretches.last_mut() {
            _ if text.is_empty() => {}
            Some(Stretch { style: last, inline: Inline::Text(before) }) if last == style => {
                before.push_str(text);
            }
            _ => self.push(text.into(), style.clone()),
        }
    }

    /// Nothing but places that links lead to has been read yet.
    pub(super) fn is_bare(&self) -> bool {
        let is_anchor = |stretch: &Stretch| matches!(stretch.inline, Inline::Anchor(_));
        self.open.is_empty() && self.stretches.iter().all(is_anchor)
    }

    /// Whether what is read now stands inside a link.
    pub(super) fn is_inside_link(&self) -> bool {
        self.open.iter().any(|(frame, _)| matches!(frame, Frame::Link { .. }))
    }

    /// Whether readers would see nothing of it.
    pub(super) fn shows_nothing(content: &[Inline]) -> bool {
        content.iter().all(|inline| match inline {
            Inline::Anchor(_) | Inline::Break(_) => true,
            Inline::Text(text) => text.trim().is_empty(),
            _ => false,
        })
    }

    /// How many frames are open.
    pub(super) fn depth(&self) -> usize {
        self.open.len()
    }

    pub(super) fn open(&mut self, frame: Frame) {
        self.open.push((frame, std::mem::take(&mut self.stretches)));
    }

    /// Closes the innermost frame.
    pub(super) fn close(&mut self) {
        let Some((frame, before)) = self.open.pop() else { return };
        let content = nested(&mut std::mem::replace(&mut self.stretches, before));
        if content.is_empty() {
            return;
        }
        let mut attributes = Attributes::NONE;
        match frame {
            Frame::Link { address, title } => {
                let link = Link { address, title, content, attributes };
                return self.push(Inline::Link(Box::new(link)), TextStyle::default());
            }
            Frame::Change(revision) => attributes.edit().revision = Some(revision),
            Frame::Direction(direction) => attributes.edit().direction = Some(direction),
            Frame::Audiences(names) => attributes.edit().audiences = names,
            Frame::Contents => {
                let is_anchor = |inline: &Inline| matches!(inline, Inline::Anchor(_));
                let anchors = content.into_iter().filter(is_anchor);
                return anchors.for_each(|anchor| self.push(anchor, TextStyle::default()));
            }
        }
        self.push(plain(attributes, content), TextStyle::default());
    }

    /// The looks and the language that all text of the paragraph has, taken from each stretch.
    pub(super) fn take_common_dress(&mut self) -> Option<Rc<Dress>> {
        let dress = self.stretches.first()?.style.dress.clone()?;
        let is_common = |stretch: &Stretch| same_dress(stretch.style.dress.as_ref(), Some(&dress));
        // A box around each word is none around the paragraph.
        let is_of_text = dress.style.is_some()
            || dress.change.is_some()
            || dress.looks.of_box() != Looks::default();
        if is_of_text || !self.open.is_empty() || !self.stretches.iter().all(is_common) {
            return None;
        }
        self.stretches.iter_mut().for_each(|stretch| stretch.style.dress = None);
        Some(dress)
    }

    /// Closes all that is open and gives the inlines.
    pub(super) fn finish(mut self) -> Vec<Inline> {
        while !self.open.is_empty() {
            self.close();
        }
        nested(&mut self.stretches)
    }
}

fn plain(attributes: Attributes, content: Vec<Inline>) -> Inline {
    Inline::Formatted(Box::new(Formatted { format: Formatting::Plain, attributes, content }))
}

/// Nests formats: of those a stretch has, the one that reaches farthest goes outside. Recursion is
/// bounded by the number of formats.
fn nested(stretches: &mut [Stretch]) -> Vec<Inline> {
    let is_plain = |stretch: &Stretch| {
        stretch.style.format == RunFormat::default() && stretch.style.dress.is_none()
    };
    // Most lines, and most of what is left of others: neighbours of one style are one already.
    if stretches.iter().all(is_plain) {
        let mut inlines = Vec::with_capacity(stretches.len());
        for stretch in stretches {
            let nothing = Inline::Text(CompactString::default());
            push_joined(&mut inlines, std::mem::replace(&mut stretch.inline, nothing), false);
        }
        return inlines;
    }
    let mut inlines: Vec<Inline> = Vec::new();
    let mut start = 0;
    while let Some(stretch) = stretches.get(start) {
        let format = stretch.style.format;
        let reach = |mark: RunFormat| {
            let same = stretches.get(start..).unwrap_or_default();
            same.iter().take_while(|stretch| stretch.style.format.has(mark)).count()
        };
        let outermost = RunFormat::nesting()
            .filter(|(mark, _)| format.has(*mark))
            .map(|(mark, formatting)| (reach(mark), mark, formatting))
            .reduce(|best, next| if next.0 > best.0 { next } else { best });
        let length = match outermost {
            Some((length, mark, formatting)) => {
                let Some(part) = stretches.get_mut(start..start + length) else { break };
                part.iter_mut().for_each(|stretch| {
                    stretch.style.format = stretch.style.format.without(mark);
                });
                let content = nested(part);
                let attributes = Attributes::NONE;
                let formatted = Formatted { format: formatting, attributes, content };
                inlines.push(Inline::Formatted(Box::new(formatted)));
                length
            }
            None => without_format(stretches.get_mut(start..).unwrap_or_default(), &mut inlines),
        };
        start += length;
    }
    inlines
}

/// Takes the stretches that have no more formats to nest and are dressed like the first. Gives
/// their number.
fn without_format(stretches: &mut [Stretch], inlines: &mut Vec<Inline>) -> usize {
    let Some(first) = stretches.first() else { return 1 };
    let dress = first.style.dress.clone();
    let is_like_first = |stretch: &&Stretch| {
        stretch.style.format.without(RunFormat::CODE) == RunFormat::default()
            && same_dress(stretch.style.dress.as_ref(), dress.as_ref())
    };
    let length = stretches.iter().take_while(is_like_first).count().max(1);
    let mut content = if dress.is_some() { Vec::new() } else { std::mem::take(inlines) };
    for stretch in stretches.iter_mut().take(length) {
        let nothing = Inline::Text(CompactString::default());
        let taken = std::mem::replace(&mut stretch.inline, nothing);
        push_joined(&mut content, taken, stretch.style.format.has(RunFormat::CODE));
    }
    let Some(dress) = dress else {
        *inlines = content;
        return length;
    };
    let mut attributes = Attributes::NONE;
    dress.put_on(&mut attributes);
    inlines.push(plain(attributes, content));
    length
}

/// Adds an inline; joins text with text and code with code.
fn push_joined(inlines: &mut Vec<Inline>, inline: Inline, is_code: bool) {
    match (inlines.last_mut(), inline) {
        (Some(Inline::Text(before)), Inline::Text(text)) if !is_code => before.push_str(&text),
        (Some(Inline::Code(before)), Inline::Text(text)) if is_code => before.text.push_str(&text),
        (_, Inline::Text(text)) if is_code => {
            let code = InlineCode { text, attributes: Attributes::NONE };
            inlines.push(Inline::Code(Box::new(code)));
        }
        (_, inline) => inlines.push(inline),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::build::{code, emphasis, strong};

    #[test]
    fn the_format_that_reaches_farthest_goes_outside() {
        let both = RunFormat::STRONG.with(RunFormat::EMPHASIS);
        let mut line = Line::default();
        line.push_text("a", &RunFormat::EMPHASIS.into());
        line.push_text("b", &both.into());
        line.push_text("c", &RunFormat::EMPHASIS.with(RunFormat::CODE).into());
        line.push_text("d", &RunFormat::STRONG.into());
        let expected = vec![emphasis(["a".into(), strong("b"), code("c")]), strong("d")];
        assert_eq!(line.finish(), expected);
    }

    #[test]
    fn equal_neighbours_become_one_and_empty_frames_none() {
        let mut line = Line::default();
        line.push_text("tide ", &TextStyle::default());
        line.push_text("mill", &TextStyle::default());
        line.open(Frame::Link { address: "x".into(), title: None });
        line.close();
        assert_eq!(line.finish(), vec!["tide mill".into()]);
    }
}
