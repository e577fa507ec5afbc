//! Inlines as runs, links, fields and marks.

use super::Writer;
use super::markup::push_text;
use super::runs::RunLook;
use crate::document::{
    Attributes, CommentEdge, Direction, Formatted, Formatting, Inline, LineBreak, RevisionKind,
    Ruby, StyleKind,
};
use crate::findings::Code;
use crate::formats::word::vocabulary::{CODE_TEXT, Container};

impl<'d> Writer<'d> {
    pub(super) fn inlines(&mut self, inlines: &[Inline], look: &RunLook, out: &mut String) {
        for inline in inlines {
            self.inline(inline, look, out);
        }
    }

    fn inline(&mut self, inline: &Inline, look: &RunLook, out: &mut String) {
        match inline {
            Inline::Text(text) => self.push_run(text, look, out),
            Inline::Break(LineBreak::Soft) => self.push_run(" ", look, out),
            Inline::Break(LineBreak::Hard) => self.push_object_run("<w:br/>", look, out),
            Inline::Formatted(formatted) => self.formatted_inlines(formatted, look, out),
            Inline::Code(code) => {
                self.report_attributes(&code.attributes);
                if let Some(id) = code.attributes.id() {
                    self.push_bookmark(id, out);
                }
                let style = self.styles.id(StyleKind::Inline, CODE_TEXT);
                let inner = self.with_attributes(&code.attributes, look);
                let inner = inner.with(|look| look.style = Some(style));
                self.push_run(&code.text, &inner, out);
            }
            Inline::Link(link) => self.link(link, look, out),
            Inline::Picture(picture) => self.picture(picture, look, out),
            Inline::NoteMark(note) => self.note_mark(*note, look, out),
            Inline::CommentMark(mark) => self.comment_mark(*mark, out),
            Inline::Anchor(anchor) => self.push_bookmark(&anchor.id, out),
            Inline::Reference(reference) => self.reference(reference, look, out),
            Inline::Citation(citation) => self.citation(citation, look, out),
            Inline::Formula(formula) => {
                let equation = self.inline_equation(formula);
                out.push_str(&equation);
            }
            Inline::CheckBox(ticked) => self.push_check_box(*ticked, look, out),
            Inline::Timestamp(timestamp) => {
                self.changed("a date");
                self.push_run(&timestamp.spelled(), look, out);
            }
            Inline::Ruby(ruby) => self.ruby(ruby, look, out),
            Inline::Foreign(foreign) => {
                self.findings.count(Code::ForeignMarkupLost, &foreign.format, Some(self.place));
            }
        }
    }

    /// The look of text with attributes.
    fn with_attributes(&mut self, attributes: &Attributes, look: &RunLook) -> RunLook {
        let Some(set) = attributes.get() else { return look.clone() };
        let style = set.style.as_deref().map(|name| self.styles.id(StyleKind::Inline, name));
        look.with(|look| {
            look.style = style.or(look.style.take());
            look.language = set.language.clone().or(look.language.take());
            if set.direction == Some(Direction::RightToLeft) {
                look.right_to_left = true;
            }
            if let Some(looks) = &set.looks {
                look.looks.get_or_insert_default().take_inner(looks);
            }
        })
    }

    fn formatted_inlines(&mut self, formatted: &Formatted, look: &RunLook, out: &mut String) {
        let attributes = &formatted.attributes;
        let audiences = super::blocks::audiences(attributes);
        if let Some(names) = &audiences {
            self.open_container(Container::For(names), Some(&format!("For: {names}")), out);
        }
        self.report_attributes(attributes);
        let inner = self.with_attributes(attributes, look);
        let inner = match formatted.format {
            Formatting::Plain | Formatting::Quoted => inner,
            format => self.formatted(format, &inner),
        };
        if let Some(id) = attributes.id() {
            self.push_bookmark(id, out);
        }
        let direction = attributes.get().and_then(|set| set.direction);
        if let Some(direction) = direction {
            let word = if direction == Direction::RightToLeft { "rtl" } else { "ltr" };
            out.push_str(&format!("<w:dir w:val=\"{word}\">"));
        }
        match attributes.revision() {
            Some(change) if change.kind == RevisionKind::Formatting => {
                let inner = inner.with(|look| look.looks_change = Some(change.clone()));
                self.formatted_content(formatted, &inner, out);
            }
            Some(change) if look.change.is_none() => {
                let inner = inner.with(|look| {
                    look.is_deleted = super::blocks::is_deletion(Some(change));
                    look.change = Some(change.clone());
                });
                self.formatted_content(formatted, &inner, out);
            }
            _ => self.formatted_content(formatted, &inner, out),
        }
        if direction.is_some() {
            out.push_str("</w:dir>");
        }
        if audiences.is_some() {
            self.close_container(out);
        }
    }

    fn formatted_content(&mut self, formatted: &Formatted, look: &RunLook, out: &mut String) {
        let (before, behind) = match formatted.format {
            Formatting::Quoted => {
                self.changed("a quotation in a line");
                ("“", "”")
            }
            _ => ("", ""),
        };
        self.push_run(before, look, out);
        self.inlines(&formatted.content, look, out);
        self.push_run(behind, look, out);
    }

    /// A field with its result (17.16.18).
    pub(super) fn push_field(
        &mut self,
        instruction: &str,
        result: &str,
        look: &RunLook,
        out: &mut String,
    ) {
        self.open_field(instruction, look, out);
        self.push_run(result, look, out);
        self.push_object_run("<w:fldChar w:fldCharType=\"end\"/>", look, out);
    }

    pub(super) fn open_field(&mut self, instruction: &str, look: &RunLook, out: &mut String) {
        self.push_object_run("<w:fldChar w:fldCharType=\"begin\"/>", look, out);
        let mut text = String::from("<w:instrText xml:space=\"preserve\"> ");
        push_text(&mut text, instruction);
        text.push_str(" </w:instrText>");
        self.push_object_run(&text, look, out);
        self.push_object_run("<w:fldChar w:fldCharType=\"separate\"/>", look, out);
    }

    fn ruby(&mut self, ruby: &Ruby, look: &RunLook, out: &mut String) {
        let language = look.language.as_deref().unwrap_or("ja-JP").to_string();
        let mut inside = String::from(
            "<w:ruby><w:rubyPr><w:rubyAlign w:val=\"distributeSpace\"/><w:hps w:val=\"11\"/>\
             <w:hpsRaise w:val=\"20\"/><w:hpsBaseText w:val=\"22\"/><w:lid w:val=\"",
        );
        push_text(&mut inside, &language);
        inside.push_str("\"/></w:rubyPr><w:rt>");
        let small = RunLook::default().with(|inner| inner.language.clone_from(&look.language));
        self.inlines(&ruby.reading, &small, &mut inside);
        inside.push_str("</w:rt><w:rubyBase>");
        self.inlines(&ruby.base, &small, &mut inside);
        inside.push_str("</w:rubyBase></w:ruby>");
        self.push_object_run(&inside, look, out);
    }

    fn comment_mark(&mut self, mark: crate::document::CommentMark, out: &mut String) {
        let id = mark.comment.index();
        if self.document.comments.get(id).is_none() {
            return;
        }
        let reference = format!(
            "<w:r><w:rPr><w:rStyle w:val=\"{}\"/></w:rPr><w:commentReference w:id=\"{id}\"/></w:r>",
            self.styles.id(StyleKind::Inline, "annotation reference")
        );
        match mark.edge {
            CommentEdge::Start => {
                out.push_str(&format!("<w:commentRangeStart w:id=\"{id}\"/>"));
            }
            CommentEdge::End => {
                out.push_str(&format!("<w:commentRangeEnd w:id=\"{id}\"/>{reference}"));
            }
            CommentEdge::Point => out.push_str(&reference),
        }
    }
}
