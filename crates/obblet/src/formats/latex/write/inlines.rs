//! Inlines.

use super::escape::{self, Context};
use super::{Need, Writer};
use crate::document::{
    Block, BlockKind, Formatted, Formatting, Inline, InlineCode, LineBreak, Link, NoteId, NoteKind,
    Picture, PictureSource, Reference, ReferenceShows, RevisionKind, plain_text,
};
use crate::findings::{Code, OTHER_AUDIENCES};
use crate::formats::latex::babel_name;

impl Writer<'_> {
    pub(super) fn inlines(&mut self, inlines: &[Inline]) {
        inlines.iter().for_each(|inline| self.inline(inline));
    }

    fn inline(&mut self, inline: &Inline) {
        match inline {
            Inline::Text(text) => self.text(text),
            Inline::Break(LineBreak::Soft) => {
                self.out.push(if self.is_argument { ' ' } else { '\n' })
            }
            Inline::Break(LineBreak::Hard) => {
                self.out.push_str(if self.is_cell { "\\newline " } else { "\\\\\n" });
            }
            Inline::Formatted(formatted) => self.formatted(formatted),
            Inline::Code(code) => self.inline_code(code),
            Inline::Link(link) => self.link(link),
            Inline::Picture(picture) => self.picture(picture),
            Inline::NoteMark(note) => self.note_mark(*note),
            Inline::CommentMark(_) => self.lost("a review comment"),
            Inline::Anchor(anchor) => {
                let label = self.label_of(&anchor.id);
                if !label.is_empty() {
                    self.out.push_str("\\phantomsection");
                    self.out.push_str(&label);
                }
            }
            Inline::Reference(reference) => self.reference(reference),
            Inline::Citation(citation) => self.citation(citation),
            Inline::Formula(formula) => self.inline_formula(formula),
            Inline::CheckBox(checked) => {
                self.need(Need::TaskBoxCommand);
                self.out.push_str(if *checked { "\\taskdone{}" } else { "\\taskopen{}" });
            }
            Inline::Timestamp(timestamp) => {
                let spelled = timestamp.spelled();
                self.text(&spelled);
                self.lost("that a date is a date");
            }
            Inline::Ruby(ruby) => {
                self.need(Need::ReadingCommand);
                let base = self.as_argument(|writer| writer.inlines(&ruby.base));
                let reading = self.as_argument(|writer| writer.inlines(&ruby.reading));
                self.out.push_str(&format!("\\reading{{{base}}}{{{reading}}}"));
            }
            Inline::Foreign(foreign) => match foreign.format.as_str() {
                "latex" | "tex" => self.out.push_str(&foreign.markup),
                other => {
                    self.findings.count(Code::ForeignMarkupLost, other, Some(self.place));
                }
            },
        }
    }

    fn formatted(&mut self, formatted: &Formatted) {
        let attributes = &formatted.attributes;
        if !attributes.is_for(&self.options.audiences) {
            self.findings.count(Code::NotPublished, OTHER_AUDIENCES, Some(self.place));
            return;
        }
        if let Some(id) = attributes.id() {
            let label = self.label_of(id);
            if !label.is_empty() {
                self.out.push_str("\\phantomsection");
                self.out.push_str(&label);
            }
        }
        if let Some(set) = attributes.get()
            && (!set.classes.is_empty() || set.pairs.iter().any(|(name, _)| name != "title"))
        {
            self.lost("classes and other attributes");
        }
        let words = self.as_argument(|writer| writer.inlines(&formatted.content));
        let words = match attributes.get().and_then(|set| set.language.as_deref()) {
            Some(tag) => self.in_language(tag, &words),
            None => words,
        };
        let revision = attributes.revision().map(|revision| revision.kind);
        let (command, need) = match (revision, formatted.format) {
            (Some(RevisionKind::Insertion | RevisionKind::MoveTarget), _)
            | (None, Formatting::Inserted) => ("added", Some(Need::Changes)),
            (Some(RevisionKind::Deletion | RevisionKind::MoveSource), _)
            | (None, Formatting::Deleted) => ("deleted", Some(Need::Changes)),
            (_, Formatting::Emphasis) => ("emph", None),
            (_, Formatting::Strong) => ("textbf", None),
            (_, Formatting::Underline) => ("uline", Some(Need::Ulem)),
            (_, Formatting::Struck) => ("sout", Some(Need::Ulem)),
            (_, Formatting::Superscript) => ("textsuperscript", None),
            (_, Formatting::Subscript) => ("textsubscript", None),
            (_, Formatting::SmallCapitals) => ("textsc", None),
            (_, Formatting::Highlight) => ("hl", Some(Need::HighlightCommand)),
            (_, Formatting::SmallPrint) => ("textsmall", Some(Need::SmallPrintCommand)),
            (_, Formatting::KeyboardInput) => ("keystroke", Some(Need::KeystrokeCommand)),
            (_, Formatting::ProgramOutput) => ("programoutput", Some(Need::ProgramOutputCommand)),
            (_, Formatting::Variable) => ("variable", Some(Need::VariableCommand)),
            (_, Formatting::Quoted) => ("enquote", Some(Need::Csquotes)),
            (_, Formatting::WorkTitle) => ("worktitle", Some(Need::WorkTitleCommand)),
            (_, Formatting::DefinedTerm) => ("definedterm", Some(Need::DefinedTermCommand)),
            (_, Formatting::Abbreviation) => {
                let title = attributes.pair("title").unwrap_or_default().to_string();
                let title = self.as_argument(|writer| writer.text(&title));
                self.need(Need::AbbreviationCommand);
                return self.out.push_str(&format!("\\abbreviation{{{words}}}{{{title}}}"));
            }
            (_, Formatting::Plain) | (Some(_), _) => return self.out.push_str(&words),
        };
        if let Some(need) = need {
            self.need(need);
        }
        if revision.is_some() {
            self.lost("who made a tracked change, and when");
        }
        self.push_command(command, &words);
    }

    fn in_language(&mut self, tag: &str, words: &str) -> String {
        match babel_name(tag) {
            Some(name) => {
                self.languages.insert(name);
                format!("\\foreignlanguage{{{name}}}{{{words}}}")
            }
            None => {
                self.lost("the language of a piece of text");
                words.to_string()
            }
        }
    }

    fn inline_code(&mut self, code: &InlineCode) {
        let language = code.attributes.classes().first().cloned();
        let words = self.as_argument(|writer| writer.characters(&code.text, Context::Code));
        match language {
            Some(language) => {
                self.need(Need::InlineCodeCommand);
                let language = self.as_argument(|writer| writer.text(&language));
                self.out.push_str(&format!("\\inlinecode{{{language}}}{{{words}}}"));
            }
            None => self.out.push_str(&format!("\\texttt{{{words}}}")),
        }
    }

    fn link(&mut self, link: &Link) {
        if link.title.is_some() {
            self.lost("the advice on a link");
        }
        self.report_attributes(&link.attributes);
        if let Some(target) = link.address.strip_prefix('#') {
            let words = self.as_argument(|writer| writer.inlines(&link.content));
            let target = escape::label(target);
            return self.out.push_str(&format!("\\hyperref[{target}]{{{words}}}"));
        }
        let address = escape::address(&link.address);
        if plain_text(&link.content) == link.address.as_str()
            && matches!(link.content.as_slice(), [Inline::Text(_)])
            && !self.is_argument
            && link.address.is_ascii()
            && !link.address.contains(['{', '}', '\\', '%', '#', '~', '^', ' '])
        {
            return self.out.push_str(&format!("\\url{{{}}}", link.address));
        }
        let words = self.as_argument(|writer| writer.inlines(&link.content));
        self.out.push_str(&format!("\\href{{{address}}}{{{words}}}"));
    }

    fn picture(&mut self, picture: &Picture) {
        if picture.title.is_some() {
            self.lost("the advice on a picture");
        }
        self.report_attributes(&picture.attributes);
        self.need(Need::Graphicx);
        let file = match &picture.source {
            PictureSource::Address(address) => address.to_string(),
            PictureSource::Media(id) => {
                let Some(media) = self.document.media.get(*id) else {
                    return self.lost("a picture that is not there");
                };
                let folder = self.options.picture_folder.as_deref();
                folder.map_or_else(|| media.name.to_string(), |f| format!("{f}/{}", media.name))
            }
        };
        if file.contains("://")
            || file.starts_with("data:")
            || file.contains(['{', '}', '\\', '%', '#', '~'])
        {
            // What is somewhere else cannot be set; its words can.
            self.lost("a picture that is not beside the document");
            return self.inlines(&picture.alternative);
        }
        let mut options = Vec::new();
        for (name, length) in [("width", picture.width), ("height", picture.height)] {
            if let Some(pixels) = length {
                options.push(format!("{name}={}bp", (f64::from(pixels) * 75.0).round() / 100.0));
            }
        }
        if picture.decorative {
            options.push("alt={}".into());
        } else if !picture.alternative.is_empty() {
            let words = plain_text(&picture.alternative);
            let words = self.as_argument(|writer| writer.text(&words));
            options.push(format!("alt={{{words}}}"));
        }
        let options =
            if options.is_empty() { String::new() } else { format!("[{}]", options.join(",")) };
        self.out.push_str(&format!("\\includegraphics{options}{{{file}}}"));
    }

    pub(super) fn note_mark(&mut self, id: NoteId) {
        let Some(note) = self.document.note(id) else {
            return self.findings.add_about(
                Code::NoteMissing,
                &id.index().to_string(),
                Some(self.place),
            );
        };
        let command = match note.kind {
            NoteKind::Footnote => "footnote",
            NoteKind::Endnote => {
                self.need(Need::Endnotes);
                "endnote"
            }
        };
        if let Some(number) = self.note_numbers.get(&id) {
            let mark = format!("\\{command}mark[{number}]");
            self.lost("a second mark of a note");
            return self.out.push_str(&mark);
        }
        let count = match note.kind {
            NoteKind::Footnote => &mut self.footnotes,
            NoteKind::Endnote => &mut self.endnotes,
        };
        *count += 1;
        self.note_numbers.insert(id, *count);
        let words = self.as_argument(|writer| writer.note_content(&note.content));
        self.push_command(command, words.trim());
    }

    /// `\command{words}`.
    fn push_command(&mut self, command: &str, words: &str) {
        for part in ["\\", command, "{", words, "}"] {
            self.out.push_str(part);
        }
    }

    /// In a cell, an empty line would end more than a paragraph.
    fn note_content(&mut self, content: &[Block]) {
        match content {
            [Block { kind: BlockKind::Paragraph(only), .. }] => self.inlines(only),
            blocks => self.blocks(blocks),
        }
    }

    pub(super) fn end_notes(&mut self) {
        if self.endnotes > 0 {
            self.paragraph_break();
            self.out.push_str("\\theendnotes\n");
        }
    }

    fn reference(&mut self, reference: &Reference) {
        let target = escape::label(&reference.target);
        let stored = plain_text(&reference.stored);
        let shows_number =
            matches!(reference.shows, ReferenceShows::Number | ReferenceShows::LabelAndNumber);
        if shows_number && !stored.is_empty() && self.headings.lacks_number(&reference.target) {
            let what = "a reference to what has no number";
            self.findings.count(Code::NodeChanged, what, Some(self.place));
            return self.reference_by_words(reference);
        }
        let command = match reference.shows {
            ReferenceShows::Number => "ref",
            ReferenceShows::EquationNumber => {
                self.need(Need::Amsmath);
                "eqref"
            }
            ReferenceShows::Page => "pageref",
            ReferenceShows::Text => "nameref",
            ReferenceShows::LabelAndNumber => {
                let is_short = ["fig.", "eq.", "table", "theorem", "lemma"]
                    .iter()
                    .any(|word| stored.starts_with(word));
                let is_capital = stored.starts_with("Section") || stored.starts_with("Chapter");
                if is_short || is_capital {
                    self.need(Need::Cleveref);
                }
                match (is_short, is_capital) {
                    (true, _) => "cref",
                    (_, true) => "Cref",
                    _ => "autoref",
                }
            }
            ReferenceShows::Relative => {
                self.lost("a reference by place");
                return self.reference_by_words(reference);
            }
        };
        self.out.push_str(&format!("\\{command}{{{target}}}"));
    }

    /// A link that shows what the document has stored.
    fn reference_by_words(&mut self, reference: &Reference) {
        let target = escape::label(&reference.target);
        let words = self.as_argument(|writer| writer.inlines(&reference.stored));
        self.out.push_str(&format!("\\hyperref[{target}]{{{words}}}"));
    }
}
