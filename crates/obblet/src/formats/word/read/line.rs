//! One paragraph's inlines while they are read: stretches with formats, and what is open around
//! them.

use crate::document::{
    Attributes, CompactString, Formatted, Formatting, Inline, InlineCode, Link, Revision,
};

/// What is special about a stretch of text, as a set.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) struct RunFormat(u16);

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
    /// Text that is not shown; it never reaches a line.
    pub(super) const HIDDEN: Self = Self(1 << 9);

    /// The formats that become elements around others.
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

/// What may be open around inlines.
#[derive(Debug)]
pub(super) enum Frame {
    Link { address: CompactString, title: Option<CompactString> },
    Change(Revision),
}

#[derive(Debug)]
struct Stretch {
    format: RunFormat,
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
    pub(super) fn push(&mut self, inline: Inline, format: RunFormat) {
        self.stretches.push(Stretch { format, inline });
    }

    pub(super) fn push_text(&mut self, text: &str, format: RunFormat) {
        match self.stretches.last_mut() {
            _ if text.is_empty() => {}
            Some(Stretch { format: last, inline: Inline::Text(before) }) if *last == format => {
                before.push_str(text);
            }
            _ => self.push(text.into(), format),
        }
    }

    /// Whether what is read now stands inside a link.
    pub(super) fn is_inside_link(&self) -> bool {
        self.open.iter().any(|(frame, _)| matches!(frame, Frame::Link { .. }))
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
        let inline = match frame {
            Frame::Link { address, title } => Inline::Link(Box::new(Link {
                address,
                title,
                content,
                attributes: Attributes::NONE,
            })),
            Frame::Change(revision) => {
                let mut attributes = Attributes::NONE;
                attributes.edit().revision = Some(revision);
                let format = Formatting::Plain;
                Inline::Formatted(Box::new(Formatted { format, attributes, content }))
            }
        };
        self.push(inline, RunFormat::default());
    }

    /// Closes all that is open and gives the inlines.
    pub(super) fn finish(mut self) -> Vec<Inline> {
        while !self.open.is_empty() {
            self.close();
        }
        nested(&mut self.stretches)
    }
}

/// Nests formats: of those a stretch has, the one that reaches farthest goes outside. Recursion is
/// bounded by the number of formats.
fn nested(stretches: &mut [Stretch]) -> Vec<Inline> {
    let mut inlines: Vec<Inline> = Vec::new();
    let mut start = 0;
    while let Some(stretch) = stretches.get(start) {
        let format = stretch.format;
        let reach = |mark: RunFormat| {
            let same = stretches.get(start..).unwrap_or_default();
            same.iter().take_while(|stretch| stretch.format.has(mark)).count()
        };
        let outermost = RunFormat::NESTING
            .into_iter()
            .filter(|(mark, _)| format.has(*mark))
            .map(|(mark, formatting)| (reach(mark), mark, formatting))
            .reduce(|best, next| if next.0 > best.0 { next } else { best });
        match outermost {
            Some((length, mark, formatting)) => {
                let Some(part) = stretches.get_mut(start..start + length) else { break };
                part.iter_mut().for_each(|stretch| stretch.format = stretch.format.without(mark));
                let content = nested(part);
                inlines.push(Inline::Formatted(Box::new(Formatted {
                    format: formatting,
                    attributes: Attributes::NONE,
                    content,
                })));
                start += length;
            }
            None => {
                let Some(stretch) = stretches.get_mut(start) else { break };
                let taken =
                    std::mem::replace(&mut stretch.inline, Inline::Text(CompactString::default()));
                push_joined(&mut inlines, taken, format.has(RunFormat::CODE));
                start += 1;
            }
        }
    }
    inlines
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
        line.push_text("a", RunFormat::EMPHASIS);
        line.push_text("b", both);
        line.push_text("c", RunFormat::EMPHASIS.with(RunFormat::CODE));
        line.push_text("d", RunFormat::STRONG);
        let expected = vec![emphasis(["a".into(), strong("b"), code("c")]), strong("d")];
        assert_eq!(line.finish(), expected);
    }

    #[test]
    fn equal_neighbours_become_one_and_empty_frames_none() {
        let mut line = Line::default();
        line.push_text("tide ", RunFormat::default());
        line.push_text("mill", RunFormat::default());
        line.open(Frame::Link { address: "x".into(), title: None });
        line.close();
        assert_eq!(line.finish(), vec!["tide mill".into()]);
    }
}
