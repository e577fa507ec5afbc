//! Inlines.

use super::super::citations::citation_of;
use super::super::dom::{NodeData, NodeId};
use super::code::has_no_text;
use super::line::Line;
use super::word_processor::{is_for_programs, is_foreign_name};
use super::{DEPTH, Part, Reader};
use crate::document::{
    Anchor, Attributes, CompactString, Formatting, Inline, LineBreak, Picture, PictureSource, Ruby,
};
use crate::findings::Code;
use crate::picture_file::carried;
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;

impl Reader<'_> {
    /// The inlines below a node.
    pub(super) fn inlines(&mut self, node: NodeId) -> Vec<Inline> {
        let mut line = Line::default();
        self.push_children(node, &mut line);
        line.finish()
    }

    pub(super) fn push_children(&mut self, node: NodeId, line: &mut Line) {
        let dom = self.dom;
        for child in dom.children(node) {
            self.push_inline(child, line);
        }
    }

    pub(super) fn push_inline(&mut self, node: NodeId, line: &mut Line) {
        let dom = self.dom;
        match dom.data(node) {
            NodeData::Text(text) => self.push_text(text, line),
            NodeData::Remark(text) if !is_for_programs(text) && !text.trim().is_empty() => {
                self.dropped(Code::NodeNotCarried, "a remark inside a line", node);
            }
            NodeData::Remark(_) | NodeData::Document => {}
            NodeData::Element { .. } if self.depth >= DEPTH => {
                self.dropped(Code::NestingTooDeep, "", node);
                let text = self.text_of(node);
                self.push_text(&text, line);
            }
            NodeData::Element { .. } => {
                self.depth += 1;
                let outer = self.enter(node);
                if self.is_shown(node) {
                    self.push_element(node, line);
                }
                self.leave(outer);
                self.depth -= 1;
            }
        }
    }

    fn push_text(&mut self, text: &str, line: &mut Line) {
        // A byte order mark inside a text is where two files were put together.
        if text.contains('\u{feff}') {
            self.findings.count(Code::CharactersRepaired, "invisible", None);
            return self.push_text(&text.replace('\u{feff}', ""), line);
        }
        if self.in_code {
            return line.verbatim(text, &self.text.formats);
        }
        if !self.text.preformatted || !text.contains('\n') {
            return line.text(text, &self.text.formats);
        }
        for (index, part) in text.split('\n').enumerate() {
            if index > 0 {
                line.hard_break();
            }
            line.text(part, &self.text.formats);
        }
    }

    fn push_element(&mut self, node: NodeId, line: &mut Line) {
        let name = self.dom.name(node).unwrap_or_default();
        if self.is_about_task(node) {
            return;
        }
        if let Some(format) = format_of(name) {
            return match self.is_undone(node, format) {
                true => self.push_span(node, line),
                false => self.push_formatted(node, format, line),
            };
        }
        let wanted = &self.text.formats.clone();
        match name {
            "br" => line.hard_break(),
            "wbr" => line.push(Inline::Text("\u{200B}".into()), wanted),
            "a" => self.push_link(node, line),
            "img" => self.push_picture(node, line),
            "span" | "font" | "bdi" | "bdo" => self.push_span(node, line),
            "code" | "tt" if self.in_code => self.push_span_of_code(node, line),
            "code" | "tt" => self.push_code(node, line),
            "ruby" => self.push_ruby(node, line),
            "input" if self.dom.attribute(node, "type") == Some("checkbox") => {
                let ticked = self.dom.attribute(node, "checked").is_some();
                line.push(Inline::CheckBox(ticked), wanted);
            }
            "time" => match self.timestamp_of(node) {
                Some(timestamp) => line.push(timestamp, wanted),
                None => self.push_children(node, line),
            },
            "data" | "label" | "output" => self.push_children(node, line),
            "math" => self.push_math(node, line),
            "obblet-part" => self.push_part(node, line),
            // Words that stand for a film or an object stay.
            "object" | "video" | "audio" | "canvas" if self.has_words(node) => {
                self.dropped(Code::ElementUnwrapped, name, node);
                self.push_children(node, line);
            }
            _ if self.in_code && !has_no_text(name) => self.push_children(node, line),
            "script" | "style" | "template" | "noscript" | "object" | "embed" | "iframe"
            | "video" | "audio" | "canvas" | "svg" | "select" | "textarea" | "button" | "input"
            | "map" | "area" | "head" | "title" | "meta" | "link" | "base" => {
                self.dropped(Code::ElementDropped, name, node);
            }
            "xml" => self.dropped(Code::ElementDropped, name, node),
            "v:imagedata" => self.push_picture(node, line),
            // A word processor's mark for the end of a paragraph holds a space that is none.
            "o:p" if self.text_of(node).trim().is_empty() => {}
            name if is_foreign_name(name) => self.push_children(node, line),
            _ => {
                self.dropped(Code::ElementUnwrapped, name, node);
                self.push_children(node, line);
            }
        }
    }

    fn has_words(&self, node: NodeId) -> bool {
        !self.text_of(node).trim().is_empty()
    }

    fn push_part(&mut self, node: NodeId, line: &mut Line) {
        if let Some(Part::Inline(inline)) = self.take_part(node) {
            match inline {
                Inline::Text(text) => line.text(&text, &self.text.formats),
                Inline::Break(LineBreak::Soft) => line.text("\n", &self.text.formats),
                Inline::Break(LineBreak::Hard) => line.hard_break(),
                inline => line.push(inline, &self.text.formats),
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
            return self.push_content(node, line, Formatting::Plain, attributes);
        }
        self.push_content(node, line, format, attributes);
    }

    /// A format around the content of an element. White space before goes before it.
    fn push_content(
        &mut self,
        node: NodeId,
        line: &mut Line,
        format: Formatting,
        attributes: Attributes,
    ) {
        let before = line.begin(format, attributes, &self.text.formats);
        self.push_children(node, line);
        line.end(before);
    }

    fn push_picture(&mut self, node: NodeId, line: &mut Line) {
        let (attributes, title) = self.attributes_and_title(node);
        let Some(source) =
            self.dom.attribute(node, "src").filter(|source| !source.trim().is_empty())
        else {
            return self.dropped(Code::ElementDropped, "img", node);
        };
        if self.counts_readers(node, source.trim()) {
            return self.dropped(Code::CountingPictureDropped, source.trim(), node);
        }
        let alternative = self.dom.attribute(node, "alt");
        let size =
            |name| self.dom.attribute(node, name)?.trim().trim_end_matches("px").parse().ok();
        let picture = Picture {
            source: self.picture_source(source.trim(), node),
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
        line.push(Inline::Picture(Box::new(picture)), &self.text.formats);
    }

    /// Bytes that stand in the address itself become a file of the document.
    fn picture_source(&mut self, address: &str, node: NodeId) -> PictureSource {
        let at_its_address = PictureSource::Address(address.into());
        let Some(media) = &mut self.media else { return at_its_address };
        let (name, bytes) = match self.saved.picture(address) {
            Some((media_type, bytes)) => (name_of(address, media_type), bytes.clone()),
            None => match embedded_picture(address) {
                Some((media_type, bytes)) => (name_by_type(media_type), bytes.into()),
                None => return at_its_address,
            },
        };
        let Some(picture) = carried(&name, bytes) else {
            self.dropped(Code::PictureRefused, &name, node);
            return at_its_address;
        };
        let source = media.add(&picture.name, picture.kind.media_type(), picture.bytes);
        if picture.is_cleaned {
            self.dropped(Code::PictureCleaned, &picture.name, node);
        }
        PictureSource::Media(source)
    }

    /// Whether a picture is there only to count readers: a picture of one pixel from elsewhere.
    fn counts_readers(&self, node: NodeId, address: &str) -> bool {
        let is_tiny = |name| matches!(self.dom.attribute(node, name), Some("0" | "1" | "1px"));
        let is_elsewhere = address.starts_with("http") || address.starts_with("//");
        is_elsewhere && is_tiny("width") && is_tiny("height")
    }

    /// A span is an anchor when it holds nothing but has an id, and nothing when it says nothing.
    fn push_span(&mut self, node: NodeId, line: &mut Line) {
        if self.styles.stated(node).tab == Some(true) {
            return line.push(Inline::Text("\t".into()), &self.text.formats);
        }
        if let Some(timestamp) = self.timestamp_of(node) {
            return line.push(timestamp, &self.text.formats);
        }
        if let Some(citation) = citation_of(self.dom, node) {
            return line.push(Inline::Citation(Box::new(citation)), &self.text.formats);
        }
        if let Some(mark) = self.comment_of(node) {
            return line.push_unseen(mark);
        }
        if self.in_code {
            return self.push_span_of_code(node, line);
        }
        let attributes = self.attributes(node);
        let has_content = self.dom.first_child(node).is_some();
        if let Some(id) = attributes.id().filter(|_| !has_content) {
            return line.push_unseen(Inline::Anchor(Box::new(Anchor { id: id.into() })));
        }
        let suspended = self.undone_formats(node).and_then(|format| line.suspend(format));
        if attributes.is_empty() {
            self.push_children(node, line);
        } else {
            self.push_content(node, line, Formatting::Plain, attributes);
        }
        if let Some(suspended) = suspended {
            line.resume(suspended);
        }
    }

    fn push_ruby(&mut self, node: NodeId, line: &mut Line) {
        let dom = self.dom;
        let (mut base, mut reading) = (Line::default(), Line::default());
        let in_code = std::mem::take(&mut self.in_code);
        for child in dom.children(node) {
            match dom.name(child) {
                Some("rp") => {}
                Some("rt") if !self.is_shown(child) => {}
                Some("rt") => self.push_children(child, &mut reading),
                _ => self.push_inline(child, &mut base),
            }
        }
        self.in_code = in_code;
        let (base, reading) = (base.finish(), reading.finish());
        line.push(Inline::Ruby(Box::new(Ruby { base, reading })), &self.text.formats);
    }
}

/// The name at the end of an address, if it is one of a file.
fn name_of(address: &str, media_type: &str) -> String {
    let path = address.split(['?', '#']).next().unwrap_or_default();
    let name = path.rsplit(['/', ':', '\\']).next().unwrap_or_default();
    let extension = name.rsplit_once('.').map_or("", |(_, extension)| extension);
    let is_name = extension.bytes().all(|byte| byte.is_ascii_alphanumeric());
    match is_name && (1..=4).contains(&extension.len()) {
        true => name.to_string(),
        false => name_by_type(media_type),
    }
}

fn name_by_type(media_type: &str) -> String {
    let extension = media_type.strip_prefix("image/").unwrap_or("bin");
    let extension = extension.split('+').next().unwrap_or("bin");
    format!("picture.{}", extension.replace("jpeg", "jpg"))
}

/// The media type and bytes of a picture in a `data:` address.
fn embedded_picture(address: &str) -> Option<(&str, Vec<u8>)> {
    let (media_type, data) = address.strip_prefix("data:")?.split_once(";base64,")?;
    let data: String = data.chars().filter(|c| !c.is_ascii_whitespace()).collect();
    let bytes = STANDARD.decode(data.as_bytes()).ok()?;
    let is_picture = matches!(
        media_type,
        "image/png" | "image/jpeg" | "image/gif" | "image/webp" | "image/avif"
    );
    is_picture.then_some((media_type, bytes))
}

/// A text whose white space is single spaces.
fn one_line(text: &str) -> CompactString {
    let words: Vec<&str> = text.split_ascii_whitespace().collect();
    words.join(" ").into()
}

pub(super) fn format_of(name: &str) -> Option<Formatting> {
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
                | "math"
        )
}
