//! Inlines.

use super::super::dom::{NodeData, NodeId};
use super::{DEPTH, Part, Reader};
use crate::document::{
    Anchor, Attributes, CompactString, Formatted, Formatting, Inline, InlineCode, LineBreak, Link,
    Picture, PictureSource, Revision, RevisionKind, Ruby,
};
use crate::findings::Code;

/// The inlines of one leaf as they are gathered.
#[derive(Default)]
pub(super) struct Line {
    content: Vec<Inline>,
    /// White space that goes before the next word.
    pending: Option<Pending>,
    /// Something stands before in this line already.
    started: bool,
}

#[derive(Clone, Copy)]
enum Pending {
    Space,
    LineEnding,
}

impl Line {
    fn text(&mut self, text: &str) {
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
            self.flush();
            let end = left.find(is_space).unwrap_or(left.len());
            let (word, rest) = left.split_at(end);
            self.push_text(word);
            left = rest;
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
        match self.pending.take().filter(|_| self.started) {
            Some(Pending::Space) => self.push_text(" "),
            Some(Pending::LineEnding) => self.content.push(Inline::Break(LineBreak::Soft)),
            None => {}
        }
    }

    fn push(&mut self, inline: Inline) {
        self.flush();
        self.content.push(inline);
        self.started = true;
    }

    /// A hard break swallows the white space around it.
    fn hard_break(&mut self) {
        self.pending = None;
        self.content.push(Inline::Break(LineBreak::Hard));
        self.started = false;
    }

    pub(super) fn is_empty(&self) -> bool {
        self.content.is_empty()
    }

    /// What was gathered; a break at the very end shows nothing.
    pub(super) fn finish(mut self) -> Vec<Inline> {
        while matches!(self.content.last(), Some(Inline::Break(_))) {
            self.content.pop();
        }
        self.content
    }
}

impl Reader<'_> {
    /// The inlines below a node.
    pub(super) fn inlines(&mut self, node: NodeId) -> Vec<Inline> {
        let mut line = Line::default();
        self.push_children(node, &mut line);
        line.finish()
    }

    fn push_children(&mut self, node: NodeId, line: &mut Line) {
        let dom = self.dom;
        for child in dom.children(node) {
            self.push_inline(child, line);
        }
    }

    pub(super) fn push_inline(&mut self, node: NodeId, line: &mut Line) {
        let dom = self.dom;
        match dom.data(node) {
            NodeData::Text(text) => line.text(text),
            NodeData::Remark(_) | NodeData::Document => {}
            NodeData::Element { .. } if self.depth >= DEPTH => {
                self.dropped(Code::NestingTooDeep, "", node);
                let text = self.text_of(node);
                line.text(&text);
            }
            NodeData::Element { .. } => {
                self.depth += 1;
                self.push_element(node, line);
                self.depth -= 1;
            }
        }
    }

    fn push_element(&mut self, node: NodeId, line: &mut Line) {
        let name = self.dom.name(node).unwrap_or_default();
        if let Some(format) = format_of(name) {
            return self.push_formatted(node, format, line);
        }
        match name {
            "br" => line.hard_break(),
            "wbr" => line.push(Inline::Text("\u{200B}".into())),
            "a" => self.push_link(node, line),
            "img" => self.push_picture(node, line),
            "span" | "font" | "bdi" | "bdo" => self.push_span(node, line),
            "code" | "tt" => self.push_code(node, line),
            "ruby" => self.push_ruby(node, line),
            "input" if self.dom.attribute(node, "type") == Some("checkbox") => {
                line.push(Inline::CheckBox(self.dom.attribute(node, "checked").is_some()));
            }
            "time" | "data" | "label" | "output" => self.push_children(node, line),
            "obblet-part" => self.push_part(node, line),
            "script" | "style" | "template" | "noscript" | "object" | "embed" | "iframe"
            | "video" | "audio" | "canvas" | "svg" | "math" | "select" | "textarea" | "button"
            | "input" | "map" | "area" | "head" | "title" | "meta" | "link" | "base" => {
                self.dropped(Code::ElementDropped, name, node);
            }
            _ => {
                self.dropped(Code::ElementUnwrapped, name, node);
                self.push_children(node, line);
            }
        }
    }

    fn push_part(&mut self, node: NodeId, line: &mut Line) {
        if let Some(Part::Inline(inline)) = self.take_part(node) {
            match inline {
                Inline::Text(text) => line.text(&text),
                Inline::Break(LineBreak::Soft) => line.text("\n"),
                Inline::Break(LineBreak::Hard) => line.hard_break(),
                inline => line.push(inline),
            }
        }
    }

    fn push_formatted(&mut self, node: NodeId, format: Formatting, line: &mut Line) {
        // The mark of a note stands raised; that says nothing more.
        if format == Formatting::Superscript && self.push_note_mark(node, line) {
            return;
        }
        let mut attributes = self.attributes(node);
        if let Some(revision) = self.revision(node, &mut attributes) {
            attributes.edit().revision = Some(revision);
            return self.push_content(node, line, |content| {
                formatted(Formatting::Plain, attributes, content)
            });
        }
        self.push_content(node, line, |content| formatted(format, attributes, content));
    }

    /// `ins` and `del` with a date are a tracked change, without one a format.
    pub(super) fn revision(&self, node: NodeId, attributes: &mut Attributes) -> Option<Revision> {
        let kind = match self.dom.name(node)? {
            "ins" => RevisionKind::Insertion,
            "del" => RevisionKind::Deletion,
            _ => return None,
        };
        let date = self.dom.attribute(node, "datetime")?;
        let author = attributes.take_pair("title");
        Some(Revision { kind, author, date: Some(date.into()) })
    }

    /// An inline around the content of an element. White space before goes before it.
    fn push_content(
        &mut self,
        node: NodeId,
        line: &mut Line,
        make: impl FnOnce(Vec<Inline>) -> Inline,
    ) {
        line.flush();
        let outer = std::mem::take(&mut line.content);
        self.push_children(node, line);
        let content = std::mem::replace(&mut line.content, outer);
        if !content.is_empty() {
            line.content.push(make(content));
        }
    }

    fn push_note_mark(&mut self, node: NodeId, line: &mut Line) -> bool {
        let mut children = self.dom.children(node);
        let (Some(only), None) = (children.next(), children.next()) else { return false };
        let Some(note) = self.note_of(only) else { return false };
        line.push(Inline::NoteMark(note));
        true
    }

    fn note_of(&self, node: NodeId) -> Option<crate::document::NoteId> {
        if self.dom.attribute(node, "role") != Some("doc-noteref") {
            return None;
        }
        let id = self.dom.attribute(node, "href")?.strip_prefix('#')?;
        self.notes.get(id).copied()
    }

    fn push_link(&mut self, node: NodeId, line: &mut Line) {
        if let Some(note) = self.note_of(node) {
            return line.push(Inline::NoteMark(note));
        }
        if self.dom.attribute(node, "role") == Some("doc-backlink") {
            line.pending = None;
            return;
        }
        let (attributes, title) = self.attributes_and_title(node);
        let Some(address) = self.dom.attribute(node, "href").filter(|_| !self.in_link) else {
            let id = self.dom.attribute(node, "name").filter(|name| !name.is_empty());
            if let Some(id) = attributes.id().or(id) {
                line.flush();
                line.content.push(Inline::Anchor(Box::new(Anchor { id: id.into() })));
            }
            return self.push_children(node, line);
        };
        let address: CompactString = address.trim().into();
        line.flush();
        line.started = true;
        self.in_link = true;
        let outer = std::mem::take(&mut line.content);
        self.push_children(node, line);
        self.in_link = false;
        let content = std::mem::replace(&mut line.content, outer);
        let title = title.map(Into::into);
        line.content.push(Inline::Link(Box::new(Link { address, title, content, attributes })));
    }

    fn push_picture(&mut self, node: NodeId, line: &mut Line) {
        let (attributes, title) = self.attributes_and_title(node);
        let Some(source) =
            self.dom.attribute(node, "src").filter(|source| !source.trim().is_empty())
        else {
            return self.dropped(Code::ElementDropped, "img", node);
        };
        let alternative = self.dom.attribute(node, "alt");
        let size =
            |name| self.dom.attribute(node, name)?.trim().trim_end_matches("px").parse().ok();
        let picture = Picture {
            source: PictureSource::Address(source.trim().into()),
            alternative: match alternative {
                Some(text) if !text.trim().is_empty() => vec![Inline::Text(one_line(text))],
                _ => Vec::new(),
            },
            decorative: alternative.is_some_and(|text| text.trim().is_empty()),
            title: title.map(Into::into),
            width: size("width"),
            height: size("height"),
            attributes,
        };
        line.push(Inline::Picture(Box::new(picture)));
    }

    /// A span is an anchor when it holds nothing but has an id, and nothing when it says nothing.
    fn push_span(&mut self, node: NodeId, line: &mut Line) {
        let attributes = self.attributes(node);
        if attributes.is_empty() {
            return self.push_children(node, line);
        }
        let has_content = self.dom.first_child(node).is_some();
        if let Some(id) = attributes.id().filter(|_| !has_content) {
            line.flush();
            return line.content.push(Inline::Anchor(Box::new(Anchor { id: id.into() })));
        }
        self.push_content(node, line, |content| formatted(Formatting::Plain, attributes, content));
    }

    /// Code that holds elements of its own keeps them.
    fn push_code(&mut self, node: NodeId, line: &mut Line) {
        let attributes = self.attributes(node);
        let has_elements = self.dom.below(node).any(|below| self.dom.name(below).is_some());
        if has_elements {
            return self.push_content(node, line, |content| {
                formatted(Formatting::ProgramOutput, attributes, content)
            });
        }
        let text = self.text_of(node).replace('\n', " ");
        if !text.is_empty() {
            let text = text.into();
            line.push(Inline::Code(Box::new(InlineCode { text, attributes })));
        }
    }

    fn push_ruby(&mut self, node: NodeId, line: &mut Line) {
        let dom = self.dom;
        let (mut base, mut reading) = (Line::default(), Line::default());
        for child in dom.children(node) {
            match dom.name(child) {
                Some("rt") => self.push_children(child, &mut reading),
                Some("rp") => {}
                _ => self.push_inline(child, &mut base),
            }
        }
        let (base, reading) = (base.finish(), reading.finish());
        line.push(Inline::Ruby(Box::new(Ruby { base, reading })));
    }
}

fn formatted(format: Formatting, attributes: Attributes, content: Vec<Inline>) -> Inline {
    Inline::Formatted(Box::new(Formatted { format, attributes, content }))
}

/// A text whose white space is single spaces.
fn one_line(text: &str) -> CompactString {
    let words: Vec<&str> = text.split_ascii_whitespace().collect();
    words.join(" ").into()
}

fn format_of(name: &str) -> Option<Formatting> {
    Some(match name {
        "em" | "i" => Formatting::Emphasis,
        "strong" | "b" => Formatting::Strong,
        "u" => Formatting::Underline,
        "s" | "strike" => Formatting::Struck,
        "del" => Formatting::Deleted,
        "ins" => Formatting::Inserted,
        "sup" => Formatting::Superscript,
        "sub" => Formatting::Subscript,
        "mark" => Formatting::Highlight,
        "small" => Formatting::SmallPrint,
        "kbd" => Formatting::KeyboardInput,
        "samp" => Formatting::ProgramOutput,
        "var" => Formatting::Variable,
        "q" => Formatting::Quoted,
        "cite" => Formatting::WorkTitle,
        "dfn" => Formatting::DefinedTerm,
        "abbr" | "acronym" => Formatting::Abbreviation,
        _ => return None,
    })
}

/// Whether an element is read as an inline wherever it stands.
pub(super) fn is_inline(name: &str) -> bool {
    format_of(name).is_some()
        || matches!(
            name,
            "a" | "br"
                | "wbr"
                | "img"
                | "span"
                | "font"
                | "bdi"
                | "bdo"
                | "code"
                | "tt"
                | "ruby"
                | "time"
                | "data"
                | "label"
                | "output"
                | "input"
        )
}
