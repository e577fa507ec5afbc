//! One line of inlines as it is gathered: white space, and the formats that are open.

use crate::document::{Anchor, Attributes, Formatted, Formatting, Inline, LineBreak, Looks};
use std::rc::Rc;

/// The inlines of one leaf as they are gathered.
#[derive(Default)]
pub(super) struct Line {
    content: Vec<Inline>,
    /// What is open around `content`, outermost first.
    open: Vec<Open>,
    /// White space that goes before the next word.
    pending: Option<Pending>,
    /// Something stands before in this line already.
    started: bool,
    /// Elements that opened a format so far.
    elements: u32,
}

/// A format that goes on.
struct Open {
    /// What stands before it.
    before: Vec<Inline>,
    format: Formatting,
    attributes: Attributes,
    /// The number of the element that opened it, and whose end closes it; `None` for a style.
    element: Option<u32>,
    /// The looks it is there for.
    looks: Option<Rc<Looks>>,
}

/// What stood in a line before a link began.
pub(super) struct Outer {
    content: Vec<Inline>,
    open: Vec<Open>,
}

#[derive(Clone, Copy)]
enum Pending {
    Space,
    LineEnding,
}

/// Formats that styles give, in the order in which they are opened.
pub(super) const STYLED: [Formatting; 8] = [
    Formatting::Strong,
    Formatting::Emphasis,
    Formatting::Underline,
    Formatting::Struck,
    Formatting::Highlight,
    Formatting::SmallCapitals,
    Formatting::Superscript,
    Formatting::Subscript,
];

/// What styles give a text: a set of formats, and looks beyond those of its block.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct Formats {
    set: u8,
    pub(super) looks: Option<Rc<Looks>>,
}

impl Formats {
    fn bit(format: Formatting) -> u8 {
        let at = STYLED.iter().position(|styled| *styled == format);
        at.map_or(0, |at| 1 << at)
    }

    pub(super) fn set(&mut self, format: Formatting, on: bool) {
        if on {
            self.set |= Self::bit(format);
        } else {
            self.set &= !Self::bit(format);
        }
    }

    pub(super) fn has(&self, format: Formatting) -> bool {
        self.set & Self::bit(format) != 0
    }
}

impl Line {
    /// Adds text; white space is one space, or nothing where a line begins or ends.
    pub(super) fn text(&mut self, text: &str, wanted: &Formats) {
        let is_space = |c: char| matches!(c, ' ' | '\t' | '\n' | '\r' | '\x0C');
        let mut left = text;
        while let Some(c) = left.chars().next() {
            if is_space(c) {
                let rest = left.trim_start_matches(is_space);
                let space = left.get(..left.len() - rest.len()).unwrap_or_default();
                let ends_line =
                    space.contains('\n') || matches!(self.pending, Some(Pending::LineEnding));
                self.pending = Some(if ends_line { Pending::LineEnding } else { Pending::Space });
                left = rest;
                continue;
            }
            self.adjust(wanted);
            self.flush();
            let end = left.find(is_space).unwrap_or(left.len());
            let (word, rest) = left.split_at(end);
            self.push_text(word);
            left = rest;
        }
    }

    /// Adds text whose white space stands as it is.
    pub(super) fn verbatim(&mut self, text: &str, wanted: &Formats) {
        for (index, part) in text.split('\n').enumerate() {
            if index > 0 {
                self.hard_break();
            }
            if !part.is_empty() {
                self.adjust(wanted);
                self.flush();
                self.push_text(part);
            }
        }
    }

    fn push_text(&mut self, text: &str) {
        match self.content.last_mut() {
            Some(Inline::Text(last)) => last.push_str(text),
            _ => self.content.push(Inline::Text(text.into())),
        }
        self.started = true;
    }

    /// Puts white space that is due.
    fn flush(&mut self) {
        let Some(pending) = self.pending.take().filter(|_| self.started) else { return };
        // Formats that hold nothing yet begin behind it.
        let content = match self.open.iter().rposition(|open| !open.before.is_empty()) {
            Some(at) if self.content.is_empty() => match self.open.get_mut(at) {
                Some(open) => &mut open.before,
                None => &mut self.content,
            },
            _ => &mut self.content,
        };
        match (pending, content.last_mut()) {
            (Pending::Space, Some(Inline::Text(last))) => last.push(' '),
            (Pending::Space, _) => content.push(Inline::Text(" ".into())),
            (Pending::LineEnding, _) => content.push(Inline::Break(LineBreak::Soft)),
        }
    }

    /// Adds an inline that readers see.
    pub(super) fn push(&mut self, inline: Inline, wanted: &Formats) {
        self.adjust(wanted);
        self.flush();
        self.content.push(inline);
        self.started = true;
    }

    /// Adds an inline that takes no room.
    pub(super) fn push_unseen(&mut self, inline: Inline) {
        self.flush();
        self.content.push(inline);
    }

    /// A hard break swallows the white space around it.
    pub(super) fn hard_break(&mut self) {
        self.pending = None;
        self.content.push(Inline::Break(LineBreak::Hard));
        self.started = false;
    }

    /// Drops the white space that is due.
    pub(super) fn drop_space(&mut self) {
        self.pending = None;
    }

    /// Ends formats that styles no longer want, and begins those they want.
    fn adjust(&mut self, wanted: &Formats) {
        let first_surplus = self.open.iter().position(|open| match &open.looks {
            Some(looks) => wanted.looks.as_ref() != Some(looks),
            None => {
                let is_style = open.element.is_none() && STYLED.contains(&open.format);
                is_style && !wanted.has(open.format)
            }
        });
        if let Some(at) = first_surplus {
            let closed = self.close_from(at);
            self.open_again(closed, |_| true);
        }
        for format in STYLED {
            if wanted.has(format) && !self.open.iter().any(|open| open.format == format) {
                self.open(format, Attributes::NONE, None);
            }
        }
        if let Some(looks) = &wanted.looks
            && !self.open.iter().any(|open| open.looks.is_some())
        {
            let mut attributes = Attributes::NONE;
            attributes.edit().looks = Some(Box::new((**looks).clone()));
            self.open(Formatting::Plain, attributes, None);
            if let Some(open) = self.open.last_mut() {
                open.looks = Some(looks.clone());
            }
        }
    }

    /// Begins a format. White space that is due goes before it once it holds anything.
    fn open(&mut self, format: Formatting, attributes: Attributes, element: Option<u32>) {
        let before = std::mem::take(&mut self.content);
        self.open.push(Open { before, format, attributes, element, looks: None });
    }

    /// Closes formats down to this depth. Gives those that elements opened, the innermost first.
    fn close_from(&mut self, depth: usize) -> Vec<Open> {
        let mut closed = Vec::new();
        while self.open.len() > depth {
            let Some(mut open) = self.open.pop() else { break };
            let before = std::mem::take(&mut open.before);
            let content = std::mem::replace(&mut self.content, before);
            if let (true, Some(id)) = (content.is_empty(), open.attributes.id()) {
                // Links may point to what holds nothing.
                self.content.push(Inline::Anchor(Box::new(Anchor { id: id.into() })));
            } else if !content.is_empty() {
                let (format, attributes) = (open.format, open.attributes.clone());
                let formatted = Formatted { format, attributes, content };
                self.content.push(Inline::Formatted(Box::new(formatted)));
            }
            if open.element.is_some() {
                closed.push(open);
            }
        }
        closed
    }

    /// Begins formats of elements anew after they had to be closed.
    fn open_again(&mut self, closed: Vec<Open>, wanted: impl Fn(Formatting) -> bool) {
        for open in closed.into_iter().rev().filter(|open| wanted(open.format)) {
            self.open(open.format, without_id(open.attributes), open.element);
        }
    }

    /// Begins the format of an element. Gives the element's number.
    pub(super) fn begin(
        &mut self,
        format: Formatting,
        attributes: Attributes,
        wanted: &Formats,
    ) -> u32 {
        self.adjust(wanted);
        self.elements += 1;
        self.open(format, attributes, Some(self.elements));
        self.elements
    }

    /// Ends it, and what began in it.
    pub(super) fn end(&mut self, element: u32) {
        if let Some(at) = self.open.iter().position(|open| open.element == Some(element)) {
            self.close_from(at);
        }
    }

    /// Takes the format of an outer element away for a while: everything from it on is closed, and
    /// begun anew without it. `None` where no element opened the format.
    pub(super) fn suspend(&mut self, format: Formatting) -> Option<Suspended> {
        let at =
            self.open.iter().position(|open| open.element.is_some() && open.format == format)?;
        let closed = self.close_from(at);
        let states = closed.iter().map(|open| (open.format, open.attributes.clone(), open.element));
        let suspended = Suspended(states.collect());
        self.open_again(closed, |kept| kept != format);
        Some(suspended)
    }

    /// Gives it back.
    pub(super) fn resume(&mut self, suspended: Suspended) {
        let is_suspended =
            |open: &Open| suspended.0.iter().any(|(_, _, element)| *element == open.element);
        if let Some(at) = self.open.iter().position(is_suspended) {
            self.close_from(at);
        }
        for (format, attributes, element) in suspended.0.into_iter().rev() {
            self.open(format, without_id(attributes), element);
        }
    }

    /// Begins something that formats do not reach through, such as a link.
    pub(super) fn enter(&mut self, wanted: &Formats) -> Outer {
        self.adjust(wanted);
        self.flush();
        self.started = true;
        Outer { content: std::mem::take(&mut self.content), open: std::mem::take(&mut self.open) }
    }

    /// Ends it and gives what it holds.
    pub(super) fn leave(&mut self, outer: Outer) -> Vec<Inline> {
        self.close_from(0);
        self.open = outer.open;
        std::mem::replace(&mut self.content, outer.content)
    }

    pub(super) fn add(&mut self, inline: Inline) {
        self.content.push(inline);
    }

    pub(super) fn is_empty(&self) -> bool {
        self.content.is_empty() && self.open.is_empty()
    }

    /// What was gathered; a break at the very end shows nothing.
    pub(super) fn finish(self) -> Vec<Inline> {
        let mut content = self.finish_verbatim();
        while matches!(content.last(), Some(Inline::Break(_))) {
            content.pop();
        }
        content
    }

    /// What was gathered, with the breaks at its end.
    pub(super) fn finish_verbatim(mut self) -> Vec<Inline> {
        self.close_from(0);
        self.content
    }
}

/// Formats that were closed for a while, the innermost first.
pub(super) struct Suspended(Vec<(Formatting, Attributes, Option<u32>)>);

/// Only one element may have an id.
fn without_id(mut attributes: Attributes) -> Attributes {
    if attributes.id().is_some() {
        attributes.edit().id = None;
    }
    attributes
}
