//! Runs: what text has, and text with it (ECMA-376 part 1, 17.3.2).

use super::Writer;
use super::looks::run_properties;
use super::markup::{moment, push_text};
use crate::document::{CompactString, Formatting, Looks, Revision, RevisionKind, StyleKind};
use crate::findings::Code;
use crate::formats::word::vocabulary::TEXT_STYLES;

/// What a stretch of text has.
#[derive(Debug, Clone, Default, PartialEq)]
pub(super) struct RunLook {
    /// The id of its style.
    pub(super) style: Option<CompactString>,
    pub(super) bold: bool,
    pub(super) italic: bool,
    pub(super) underline: bool,
    pub(super) struck: bool,
    pub(super) small_capitals: bool,
    pub(super) highlight: bool,
    pub(super) superscript: bool,
    pub(super) subscript: bool,
    pub(super) right_to_left: bool,
    pub(super) language: Option<CompactString>,
    pub(super) looks: Option<Box<Looks>>,
    /// The tracked change that each run has to say for itself.
    pub(super) change: Option<Revision>,
    /// The tracked change of how it looks.
    pub(super) looks_change: Option<Revision>,
    /// Deleted text has an element of its own.
    pub(super) is_deleted: bool,
    /// `w:rPr` as it is written.
    written: String,
}

impl RunLook {
    /// The same with something changed.
    pub(super) fn with(&self, change: impl FnOnce(&mut Self)) -> Self {
        let mut look = self.clone();
        change(&mut look);
        look.settle();
        look
    }

    fn settle(&mut self) {
        let properties = run_properties(self);
        self.written = match properties.as_str() {
            "" => String::new(),
            properties => format!("<w:rPr>{properties}</w:rPr>"),
        };
    }

    /// What it says for the mark of a paragraph's end.
    pub(super) fn of_mark(&self) -> &str {
        let inside = self.written.strip_prefix("<w:rPr>");
        inside.and_then(|rest| rest.strip_suffix("</w:rPr>")).unwrap_or_default()
    }
}

impl Writer<'_> {
    /// The look of formatted text inside text of a look.
    pub(super) fn formatted(&mut self, format: Formatting, around: &RunLook) -> RunLook {
        let style = TEXT_STYLES.iter().find(|(_, says)| *says == format).map(|(name, _)| *name);
        let style = style.map(|name| self.styles.id(StyleKind::Inline, name));
        // Text has one style: the outer one gives way, with a finding.
        if style.is_some() && around.style.is_some() && around.style != style {
            self.lost("a format inside another one");
        }
        around.with(|look| match format {
            Formatting::Emphasis => look.italic = true,
            Formatting::Strong => look.bold = true,
            Formatting::Underline => look.underline = true,
            Formatting::Struck => look.struck = true,
            Formatting::SmallCapitals => look.small_capitals = true,
            Formatting::Highlight => look.highlight = true,
            Formatting::Superscript => (look.superscript, look.subscript) = (true, false),
            Formatting::Subscript => (look.superscript, look.subscript) = (false, true),
            _ => look.style = style.or(look.style.take()),
        })
    }

    /// Text as a run; tabs, hyphens and breaks of its own are elements.
    pub(super) fn push_run(&mut self, text: &str, look: &RunLook, out: &mut String) {
        if text.is_empty() {
            return;
        }
        let inside = |writer: &mut Self, out: &mut String| {
            out.push_str("<w:r>");
            writer.push_look(look, out);
            writer.push_characters(text, look.is_deleted, out);
            out.push_str("</w:r>");
        };
        self.changed_run(look, inside, out);
    }

    /// A run of something else than text.
    pub(super) fn push_object_run(&mut self, object: &str, look: &RunLook, out: &mut String) {
        let inside = |writer: &mut Self, out: &mut String| {
            out.push_str("<w:r>");
            writer.push_look(look, out);
            out.push_str(object);
            out.push_str("</w:r>");
        };
        self.changed_run(look, inside, out);
    }

    /// Adds `w:rPr`. What the text looked like before a tracked change nobody knows: like other text.
    fn push_look(&mut self, look: &RunLook, out: &mut String) {
        let Some(change) = &look.looks_change else { return out.push_str(&look.written) };
        let mut values = String::new();
        self.push_change_values(change, &mut values);
        let own = look.of_mark();
        out.push_str(&format!("<w:rPr>{own}<w:rPrChange{values}><w:rPr/></w:rPrChange></w:rPr>"));
    }

    fn changed_run(
        &mut self,
        look: &RunLook,
        inside: impl FnOnce(&mut Self, &mut String),
        out: &mut String,
    ) {
        match &look.change {
            Some(change) => {
                let name = self.open_change(change, out);
                inside(self, out);
                out.push_str(&format!("</{name}>"));
            }
            None => inside(self, out),
        }
    }

    fn push_characters(&mut self, text: &str, is_deleted: bool, out: &mut String) {
        let name = if is_deleted { "w:delText" } else { "w:t" };
        let is_special = |c: char| matches!(c, '\t' | '\u{2011}' | '\u{AD}');
        let mut rest = text;
        while !rest.is_empty() {
            let end = rest.find(is_special).unwrap_or(rest.len());
            let (plain, behind) = rest.split_at_checked(end).unwrap_or((rest, ""));
            if !plain.is_empty() {
                let keeps =
                    plain.starts_with(char::is_whitespace) || plain.ends_with(char::is_whitespace);
                out.push('<');
                out.push_str(name);
                out.push_str(if keeps { " xml:space=\"preserve\">" } else { ">" });
                if push_text(out, plain) {
                    self.findings.add(Code::ControlDropped, Some(self.place));
                }
                out.push_str("</");
                out.push_str(name);
                out.push('>');
            }
            let mut characters = behind.chars();
            match characters.next() {
                Some('\t') => out.push_str("<w:tab/>"),
                Some('\u{2011}') => out.push_str("<w:noBreakHyphen/>"),
                Some(_) => out.push_str("<w:softHyphen/>"),
                None => {}
            }
            rest = characters.as_str();
        }
    }

    /// Opens the element of a tracked change; gives its name.
    pub(super) fn open_change(&mut self, change: &Revision, out: &mut String) -> &'static str {
        let name = match change.kind {
            RevisionKind::Deletion => "w:del",
            RevisionKind::MoveSource => "w:moveFrom",
            RevisionKind::MoveTarget => "w:moveTo",
            RevisionKind::Insertion | RevisionKind::Formatting => "w:ins",
        };
        out.push('<');
        out.push_str(name);
        self.push_change_values(change, out);
        out.push('>');
        name
    }

    /// Number, author and date of a tracked change.
    pub(super) fn push_change_values(&mut self, change: &Revision, out: &mut String) {
        self.changes += 1;
        out.push_str(&format!(" w:id=\"{}\" w:author=\"", self.changes));
        push_text(out, change.author.as_deref().unwrap_or("Unknown"));
        out.push('"');
        if let Some(date) = &change.date {
            out.push_str(" w:date=\"");
            push_text(out, &moment(date));
            out.push('"');
        }
    }
}
