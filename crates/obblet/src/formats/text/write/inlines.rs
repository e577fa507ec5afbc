//! Inlines as characters.

use super::{LinkNotes, Writer};
use crate::document::{
    Attributes, Formatted, Formatting, Inline, LineBreak, Link, Picture, RevisionKind, plain_text,
};
use crate::findings::{Code, OTHER_AUDIENCES};

impl Writer<'_> {
    /// The text of a line; `\n` stands for a hard break.
    pub(super) fn line(&mut self, inlines: &[Inline]) -> String {
        let mut text = String::new();
        self.push_inlines(inlines, &mut text);
        text
    }

    fn push_inlines(&mut self, inlines: &[Inline], out: &mut String) {
        for inline in inlines {
            self.push_inline(inline, out);
        }
    }

    fn push_inline(&mut self, inline: &Inline, out: &mut String) {
        match inline {
            Inline::Text(text) => out.push_str(&text.replace('\t', " ")),
            Inline::Break(LineBreak::Soft) => out.push(' '),
            Inline::Break(LineBreak::Hard) => {
                self.changed("a line break");
                out.push('\n');
            }
            Inline::Formatted(formatted) => self.push_formatted(formatted, out),
            Inline::Code(code) => {
                self.lost("code as code in a line");
                out.push_str(&code.text);
            }
            Inline::Link(link) => self.push_link(link, out),
            Inline::Picture(picture) => self.push_picture(picture, out),
            Inline::NoteMark(note) => {
                self.changed("a note");
                let number = self.note_number(*note);
                out.push_str(&format!(" [{number}]"));
            }
            Inline::CommentMark(_) => self.lost("a review comment"),
            Inline::Anchor(_) => {}
            Inline::Reference(reference) => {
                self.changed("a reference");
                self.push_inlines(&reference.stored, out);
            }
            Inline::Citation(citation) => {
                self.changed("a citation");
                let keys: Vec<&str> = citation.works.iter().map(|work| work.key.as_str()).collect();
                out.push_str(&format!("[{}]", keys.join("; ")));
            }
            Inline::Formula(formula) => {
                self.findings.count(Code::FormulaAsSource, "TeX", Some(self.place));
                out.push_str(formula.source.trim());
            }
            Inline::CheckBox(ticked) => {
                self.changed("a check box in the text");
                out.push_str(if *ticked { "[x]" } else { "[ ]" });
            }
            Inline::Timestamp(timestamp) => {
                self.changed("a date");
                out.push_str(&timestamp.spelled());
            }
            Inline::Ruby(ruby) => {
                self.changed("how characters are read");
                self.push_inlines(&ruby.base, out);
                out.push_str(" (");
                self.push_inlines(&ruby.reading, out);
                out.push(')');
            }
            Inline::Foreign(foreign) => {
                self.findings.count(Code::ForeignMarkupLost, &foreign.format, Some(self.place));
            }
        }
    }

    fn push_formatted(&mut self, formatted: &Formatted, out: &mut String) {
        if !formatted.attributes.is_for(&self.options.audiences) {
            self.findings.count(Code::NotPublished, OTHER_AUDIENCES, Some(self.place));
            return;
        }
        if self.is_deleted(&formatted.attributes) {
            return;
        }
        self.report_attributes(&formatted.attributes);
        let (before, behind) = match formatted.format {
            Formatting::Plain => ("", ""),
            Formatting::Quoted => {
                self.changed("quoted words");
                ("“", "”")
            }
            // What is no longer right would read as if it were.
            Formatting::Struck | Formatting::Deleted => {
                return self.lost("text that is struck out");
            }
            format => {
                self.lost(name_of(format));
                ("", "")
            }
        };
        out.push_str(before);
        self.push_inlines(&formatted.content, out);
        out.push_str(behind);
    }

    fn push_link(&mut self, link: &Link, out: &mut String) {
        if link.title.is_some() {
            self.lost("the title of a link");
        }
        self.report_attributes(&link.attributes);
        let start = out.len();
        self.push_inlines(&link.content, out);
        let shown = out.get(start..).unwrap_or_default();
        let address = link.address.as_str();
        let bare = address.strip_prefix("mailto:").unwrap_or(address);
        if shown == address || shown == bare {
            return;
        }
        // A place in a text that is on one page has no address.
        if address.starts_with('#') {
            return self.lost("a link to a place in the text");
        }
        match self.options.links {
            LinkNotes::Notes => {
                let number = self.address_number(bare);
                out.push_str(&format!(" [{number}]"));
            }
            LinkNotes::Inline => out.push_str(&format!(" <{bare}>")),
            LinkNotes::Dropped => self.lost("the address of a link"),
        }
    }

    fn push_picture(&mut self, picture: &Picture, out: &mut String) {
        let words = plain_text(&picture.alternative);
        if picture.decorative && words.is_empty() {
            return;
        }
        self.lost("a picture");
        if !words.is_empty() {
            out.push_str(&format!("[{words}]"));
        }
    }

    /// Whether a tracked change takes the node away.
    pub(super) fn is_deleted(&mut self, attributes: &Attributes) -> bool {
        let kind = attributes.revision().map(|revision| revision.kind);
        let is_deleted = matches!(kind, Some(RevisionKind::Deletion | RevisionKind::MoveSource));
        if is_deleted {
            self.lost("text that a tracked change deletes");
        }
        is_deleted
    }
}

fn name_of(format: Formatting) -> &'static str {
    match format {
        Formatting::Emphasis => "emphasis",
        Formatting::Strong => "strong text",
        Formatting::Superscript => "raised letters",
        Formatting::Subscript => "lowered letters",
        _ => "a format of letters",
    }
}
