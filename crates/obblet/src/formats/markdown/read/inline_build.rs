//! From the flat list of pieces to a tree of inlines.

use super::abbreviations::mark_abbreviations;
use super::delimiters::Mark;
use super::inlines::{InlineReader, LinkTarget, Piece, TargetKind};
use super::text::LeafText;
use crate::document::{
    Anchor, Attributes, Block, BlockKind, Formatted, Formatting, Inline, Link, NESTING_LIMIT,
    NoteId, Picture, PictureSource, Place,
};
use crate::findings::Code;

/// What is being filled.
enum Frame {
    Mark(Mark),
    Link(Box<LinkTarget>),
    /// Too deep to be kept: its content goes to the frame outside.
    Flat,
}

/// Frames from the outermost in, each with the inlines before it.
struct Builder {
    frames: Vec<(Frame, Vec<Inline>)>,
    content: Vec<Inline>,
    too_deep: bool,
}

impl InlineReader<'_> {
    /// Builds the tree once all runs are paired.
    pub(super) fn build(&mut self, leaf: LeafText<'_>) -> Vec<Inline> {
        let capacity = self.pieces.len().min(64);
        let mut builder =
            Builder { frames: Vec::new(), content: Vec::with_capacity(capacity), too_deep: false };
        for piece in self.pieces.drain(..) {
            match piece {
                Piece::Text(range) | Piece::Bracket(range) => {
                    builder.push_text(leaf.text.get(range).unwrap_or_default());
                }
                Piece::Characters(characters) => builder.push_text(&characters),
                Piece::Leaf(inline) => builder.content.push(inline),
                Piece::Open(target) => builder.open(Frame::Link(target)),
                Piece::Close => builder.close(&mut self.inline_notes),
                Piece::Run(run) => {
                    let Some(run) = self.runs.get(run) else { continue };
                    for _ in &run.closes {
                        builder.close(&mut self.inline_notes);
                    }
                    let left = run.start..run.start + run.left;
                    builder.push_text(leaf.text.get(left).unwrap_or_default());
                    for mark in run.opens.iter().rev() {
                        builder.open(Frame::Mark(*mark));
                    }
                }
            }
        }
        // Runs and links always close what they open.
        while !builder.frames.is_empty() {
            builder.close(&mut self.inline_notes);
        }
        if builder.too_deep {
            let start = leaf.in_source(0);
            self.findings.add(Code::NestingTooDeep, Some(Place::new(start, start + 1)));
        }
        let mut content = builder.content;
        if self.definitions.has_abbreviations() {
            mark_abbreviations(&mut content, self.definitions);
        }
        content
    }
}

impl Builder {
    fn push_text(&mut self, text: &str) {
        match self.content.last_mut() {
            _ if text.is_empty() => {}
            Some(Inline::Text(last)) => last.push_str(text),
            _ => self.content.push(Inline::Text(text.into())),
        }
    }

    fn open(&mut self, frame: Frame) {
        if self.frames.len() >= NESTING_LIMIT {
            self.too_deep = true;
            self.frames.push((Frame::Flat, Vec::new()));
        } else {
            self.frames.push((frame, std::mem::take(&mut self.content)));
        }
    }

    fn close(&mut self, notes: &mut Vec<(NoteId, Block)>) {
        let Some((frame, before)) = self.frames.pop() else { return };
        if matches!(frame, Frame::Flat) {
            return;
        }
        let mut content = std::mem::replace(&mut self.content, before);
        content.shrink_to_fit();
        self.content.push(match frame {
            Frame::Mark(mark) => marked(mark, content),
            Frame::Link(target) => match target.kind {
                TargetKind::Picture => picture(*target, content),
                TargetKind::Link => link(*target, content),
                TargetKind::Span => span(*target, content),
                TargetKind::Note(note) => {
                    let block = Block::new(BlockKind::Paragraph(content));
                    notes.push((note, block));
                    Inline::NoteMark(note)
                }
            },
            Frame::Flat => return,
        });
    }
}

fn marked(mark: Mark, content: Vec<Inline>) -> Inline {
    let format = match mark {
        Mark::Emphasis => Formatting::Emphasis,
        Mark::Strong => Formatting::Strong,
        Mark::Struck => Formatting::Deleted,
        Mark::Highlight => Formatting::Highlight,
        Mark::Inserted => Formatting::Inserted,
        Mark::Superscript => Formatting::Superscript,
        Mark::Subscript => Formatting::Subscript,
    };
    Inline::Formatted(Box::new(Formatted { format, attributes: Attributes::NONE, content }))
}

/// Text with attributes; without text, and with nothing but an id, an anchor.
fn span(target: LinkTarget, content: Vec<Inline>) -> Inline {
    if content.is_empty()
        && let Some(id) = target.attributes.id()
        && target.attributes == Attributes::with_id(id)
    {
        return Inline::Anchor(Box::new(Anchor { id: id.into() }));
    }
    let (format, attributes) = (Formatting::Plain, target.attributes);
    Inline::Formatted(Box::new(Formatted { format, attributes, content }))
}

fn link(target: LinkTarget, content: Vec<Inline>) -> Inline {
    let LinkTarget { address, title, attributes, .. } = target;
    Inline::Link(Box::new(Link { address, title, content, attributes }))
}

fn picture(mut target: LinkTarget, alternative: Vec<Inline>) -> Inline {
    let mut size = |name| {
        let value = target.attributes.pair(name)?;
        let pixels =
            value.parse().ok().filter(|pixels: &f32| pixels.is_finite() && *pixels > 0.0)?;
        target.attributes.take_pair(name);
        Some(pixels)
    };
    let (width, height) = (size("width"), size("height"));
    Inline::Picture(Box::new(Picture {
        source: PictureSource::Address(target.address),
        alternative,
        decorative: false,
        title: target.title,
        width,
        height,
        attributes: target.attributes,
    }))
}
