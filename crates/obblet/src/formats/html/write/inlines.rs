//! Inlines.

use super::{PicturePlacement, Writer};
use crate::document::{
    Attributes, Formatted, Formatting, Inline, InlineCode, LineBreak, Picture, PictureSource,
    plain_text,
};
use crate::findings::{Code, OTHER_AUDIENCES};
use crate::formats::html::address::{AddressUse, BadAddress, check, push_address};
use crate::formats::html::escape::{push_text, push_value};
use crate::notation::Page;
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use std::borrow::Cow;

impl Writer<'_> {
    pub(super) fn inlines(&mut self, inlines: &[Inline]) {
        let mut left = inlines;
        while let Some((first, rest)) = left.split_first() {
            let run = if self.inside_code { 0 } else { code_run(left) };
            match left.split_at_checked(run).filter(|_| run > 0) {
                Some((code, behind)) => {
                    self.out.push_str("<code>");
                    self.inside_code(code);
                    self.out.push_str("</code>");
                    left = behind;
                }
                None => {
                    self.inline(first);
                    left = rest;
                }
            }
        }
    }

    /// The inside of an element of code.
    pub(super) fn inside_code(&mut self, inlines: &[Inline]) {
        self.inside_code = true;
        self.inlines(inlines);
        self.inside_code = false;
    }

    fn inline(&mut self, inline: &Inline) {
        match inline {
            Inline::Text(text) => self.text(text),
            Inline::Break(_) if self.inside_code => self.out.push('\n'),
            Inline::Code(code) if self.inside_code => self.text(&code.text),
            Inline::Break(LineBreak::Soft) => self.out.push('\n'),
            Inline::Break(LineBreak::Hard) => self.out.push_str("<br>\n"),
            Inline::Formatted(formatted) => self.formatted(formatted),
            Inline::Code(code) => self.inline_code(code),
            Inline::Link(link) => self.link(link),
            Inline::Picture(picture) => self.picture(picture),
            Inline::NoteMark(note) => self.note_mark(*note),
            Inline::CommentMark(mark) => self.comment_mark(*mark),
            Inline::Anchor(anchor) => {
                self.out.push_str("<span");
                self.stated_id(&anchor.id);
                self.out.push_str("></span>");
            }
            Inline::Reference(reference) => self.reference(reference),
            Inline::Citation(citation) => self.citation(citation),
            Inline::Formula(formula) => self.formula(formula),
            Inline::CheckBox(ticked) => self.out.push(if *ticked { '☑' } else { '☐' }),
            Inline::Timestamp(timestamp) => self.timestamp(timestamp),
            Inline::Ruby(ruby) => {
                self.out.push_str("<ruby>");
                self.inlines(&ruby.base);
                self.out.push_str("<rt>");
                self.inlines(&ruby.reading);
                self.out.push_str("</rt></ruby>");
            }
            Inline::Foreign(foreign) => self.foreign(foreign, false),
        }
    }

    fn formatted(&mut self, formatted: &Formatted) {
        let attributes = &formatted.attributes;
        if !attributes.is_for(&self.options.audiences) {
            self.findings.count(Code::NotPublished, OTHER_AUDIENCES, Some(self.place));
            return;
        }
        if !self.keeps_looks() && formatted.looks_say_formats() {
            let mut plain = formatted.clone();
            plain.turn_looks_into_formats();
            return self.formatted(&plain);
        }
        let close = self.open_revision(attributes);
        match element_of(formatted.format) {
            Some(name) => {
                self.out.push('<');
                self.out.push_str(name);
                self.attributes(attributes);
                self.out.push('>');
                self.inlines(&formatted.content);
                self.close(name);
            }
            None => self.plain(formatted),
        }
        self.out.push_str(close);
    }

    /// Content whose format has no element: a `span` only where attributes need one.
    fn plain(&mut self, formatted: &Formatted) {
        let keeps_looks = self.keeps_looks();
        let mut attributes = Cow::Borrowed(&formatted.attributes);
        match formatted.format {
            Formatting::SmallCapitals if keeps_looks => {
                let looks = &mut attributes.to_mut().edit().looks;
                looks.get_or_insert_default().small_capitals = Some(true);
            }
            Formatting::SmallCapitals => self.not_carried("small capitals"),
            _ => {}
        }
        let needs_element = attributes.get().is_some_and(|set| {
            ((set.looks.is_some() || set.style.is_some()) && keeps_looks)
                || !set.audiences.is_empty()
                || set.id.is_some()
                || !set.classes.is_empty()
                || set.language.is_some()
                || set.direction.is_some()
                || !set.pairs.is_empty()
        });
        if needs_element {
            self.open("span", &attributes);
        } else {
            self.look_attributes(attributes.looks());
            attributes.style().map(|name| self.style_attributes(name));
        }
        self.inlines(&formatted.content);
        if needs_element {
            self.close("span");
        }
    }

    fn inline_code(&mut self, code: &InlineCode) {
        self.open("code", &code.attributes);
        self.text(&code.text);
        self.close("code");
    }

    /// The title of a link or picture, unless an attribute states it too.
    pub(super) fn title(&mut self, title: Option<&str>, attributes: &Attributes) {
        if let Some(title) = title.filter(|_| attributes.pair("title").is_none()) {
            self.attribute("title", title);
        }
    }

    pub(super) fn bad_address(&mut self, bad: BadAddress, address: &str) {
        let code = match bad {
            BadAddress::Unsafe => Code::AddressUnsafe,
            BadAddress::Broken => Code::AddressBroken,
        };
        let shown: String = address.chars().take(80).collect();
        self.findings.add_about(code, &shown, Some(self.place));
    }

    fn picture(&mut self, picture: &Picture) {
        let alternative = plain_text(&picture.alternative);
        if self.options.pictures == PicturePlacement::Dropped {
            let subject = self.picture_name(&picture.source);
            self.findings.add_about(Code::PictureDropped, &subject, Some(self.place));
            return self.text(&alternative);
        }
        let start = self.out.len();
        self.out.push_str("<img src=\"");
        if let Err(bad) = self.picture_source(&picture.source) {
            // What cannot be shown is replaced by what it was to show.
            self.out.truncate(start);
            if let PictureSource::Address(address) = &picture.source {
                self.bad_address(bad, address);
            }
            return self.text(&alternative);
        }
        self.out.push('"');
        let is_undescribed = alternative.is_empty() && !picture.decorative;
        if !(is_undescribed && self.options.leaves_undescribed) {
            self.attribute("alt", &alternative);
        }
        if is_undescribed {
            let subject = self.picture_name(&picture.source);
            self.findings.add_about(Code::AlternativeMissing, &subject, Some(self.place));
        }
        for (name, size) in [("width", picture.width), ("height", picture.height)] {
            if let Some(size) = size.filter(|size| *size >= 1.0) {
                self.attribute(name, &format!("{size:.0}"));
            }
        }
        self.title(picture.title.as_deref(), &picture.attributes);
        self.attributes(&picture.attributes);
        self.out.push('>');
    }

    fn picture_source(&mut self, source: &PictureSource) -> Result<(), BadAddress> {
        match source {
            PictureSource::Address(address) => {
                check(address, AddressUse::Picture)?;
                if address.trim().is_empty() {
                    return Err(BadAddress::Broken);
                }
                push_address(&mut self.out, address);
            }
            PictureSource::Media(id) => {
                let media = self.document.media.get(*id).ok_or(BadAddress::Broken)?;
                match &self.options.pictures {
                    PicturePlacement::Embedded => {
                        let kind = &media.media_type;
                        self.out.push_str(&format!("data:{kind};base64,"));
                        STANDARD.encode_string(&media.bytes, &mut self.out);
                    }
                    PicturePlacement::Beside(folder) => {
                        push_address(&mut self.out, &format!("{folder}/{}", media.name));
                    }
                    PicturePlacement::Dropped => return Err(BadAddress::Broken),
                }
            }
        }
        Ok(())
    }

    fn picture_name(&self, source: &PictureSource) -> String {
        match source {
            PictureSource::Address(address) => address.chars().take(80).collect(),
            PictureSource::Media(id) => self
                .document
                .media
                .get(*id)
                .map_or_else(String::new, |media| media.name.to_string()),
        }
    }
}
/// How many inlines from here on are pieces of one code: code, and links and formats with nothing but
/// code in them, side by side. 0 for code alone, which is its own element.
fn code_run(inlines: &[Inline]) -> usize {
    let is_code = |inline: &&Inline| match inline {
        Inline::Code(code) => code.attributes.is_empty(),
        inline => holds_code(inline),
    };
    let run = inlines.iter().take_while(is_code).count();
    let has_code = inlines.iter().take(run).any(|inline| matches!(inline, Inline::Code(_)));
    if has_code && run > 1 { run } else { 0 }
}

/// Whether a link or format holds code alone.
fn holds_code(inline: &Inline) -> bool {
    let content = match inline {
        Inline::Link(link) => &link.content,
        Inline::Formatted(formatted) => &formatted.content,
        _ => return false,
    };
    let is_code =
        |inline: &Inline| matches!(inline, Inline::Code(code) if code.attributes.is_empty());
    !content.is_empty() && content.iter().all(is_code)
}

/// The element of a format, where HTML has one.
pub(crate) fn element_of(format: Formatting) -> Option<&'static str> {
    Some(match format {
        Formatting::Plain | Formatting::SmallCapitals => return None,
        Formatting::Emphasis => "em",
        Formatting::Strong => "strong",
        Formatting::Underline => "u",
        Formatting::Struck => "s",
        Formatting::Deleted => "del",
        Formatting::Inserted => "ins",
        Formatting::Superscript => "sup",
        Formatting::Subscript => "sub",
        Formatting::Highlight => "mark",
        Formatting::SmallPrint => "small",
        Formatting::KeyboardInput => "kbd",
        Formatting::ProgramOutput => "samp",
        Formatting::Variable => "var",
        Formatting::Quoted => "q",
        Formatting::WorkTitle => "cite",
        Formatting::DefinedTerm => "dfn",
        Formatting::Abbreviation => "abbr",
    })
}

impl Page for Writer<'_> {
    fn push_text(&mut self, out: &mut String, text: &str) {
        push_text(out, text);
    }

    fn push_value(&mut self, out: &mut String, value: &str) {
        push_value(out, value);
    }

    fn id_of_label(&mut self, label: &str) -> Option<String> {
        self.ids.stated(label).map(Into::into)
    }
}
