//! Inlines.

use super::escape::Context;
use super::{Need, Writer};
use crate::document::{
    Formatted, Formatting, Inline, InlineCode, LineBreak, Picture, PictureSource, RevisionKind,
    plain_text,
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

    /// `\command{words}`.
    pub(super) fn push_command(&mut self, command: &str, words: &str) {
        for part in ["\\", command, "{", words, "}"] {
            self.out.push_str(part);
        }
    }
}
