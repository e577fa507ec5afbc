//! What stands in a line.

use super::Writer;
use super::escape::{self, APART, Surroundings};
use crate::document::{Foreign, Inline, LineBreak, Moment, Timestamp};
use crate::findings::Code;
use crate::formats::org::ORG;
use crate::formats::org::read::starts_element;

impl Writer<'_> {
    /// A line or lines of text.
    pub(super) fn inlines(&mut self, inlines: &[Inline], around: Surroundings) {
        for (at, inline) in inlines.iter().enumerate() {
            let is_last = around.is_last && at + 1 == inlines.len();
            self.inline(inline, Surroundings { is_last, ..around });
        }
    }

    /// Inlines that have to stand in one line.
    pub(super) fn one_line(&mut self, inlines: &[Inline]) -> String {
        let outer = std::mem::replace(&mut self.is_line, true);
        let around =
            Surroundings { is_last: true, is_cell: self.is_cell, ..Surroundings::default() };
        let text = self.apart(|writer| writer.inlines(inlines, around));
        self.is_line = outer;
        self.needs_apart = false;
        text.trim().to_string()
    }

    /// The text of a paragraph, line by line.
    pub(super) fn paragraph_text(&mut self, inlines: &[Inline], is_item: bool) -> String {
        let around = Surroundings { is_last: true, ..Surroundings::default() };
        let text = self.apart(|writer| writer.inlines(inlines, around));
        self.needs_apart = false;
        let text = escape::lines(text.trim_matches([' ', '\n']), is_item);
        match self.options.wrap as usize {
            0 => text,
            width => wrapped(&text, width.saturating_sub(self.indentation)),
        }
    }

    fn inline(&mut self, inline: &Inline, around: Surroundings) {
        if !matches!(inline, Inline::Text(_) | Inline::Break(_) | Inline::Formatted(_)) {
            // What begins with a bracket may follow a mark; other signs may not.
            let next = match inline {
                Inline::Link(_) | Inline::NoteMark(_) | Inline::Citation(_) => '[',
                Inline::Formula(_) => '\\',
                _ => 'x',
            };
            self.keep_apart(Some(next));
        }
        match inline {
            Inline::Text(text) => {
                self.keep_apart(text.chars().next());
                escape::push(&mut self.out, text, around);
            }
            Inline::Break(LineBreak::Soft) => {
                self.needs_apart = false;
                let is_joined = self.is_line || self.options.wrap > 0;
                self.out.push(if is_joined { ' ' } else { '\n' });
            }
            Inline::Break(LineBreak::Hard) => {
                self.needs_apart = false;
                if self.is_line {
                    self.changed("a line break in a line");
                    return self.out.push(' ');
                }
                self.out.push_str(" \\\\\n");
            }
            Inline::Formatted(formatted) => {
                if self.needs_apart {
                    self.needs_apart = false;
                    self.out.push(APART);
                }
                self.formatted(formatted, around);
            }
            Inline::Code(code) => self.code(code),
            Inline::Link(link) => self.link(link, around),
            Inline::Picture(picture) => self.picture(picture),
            Inline::NoteMark(note) => self.note_mark(*note),
            Inline::CommentMark(_) => self.lost("a review comment"),
            Inline::Anchor(anchor) => self.out.push_str(&format!("<<{}>>", anchor.id)),
            Inline::Reference(reference) => self.reference(reference, around),
            Inline::Citation(citation) => self.citation(citation),
            Inline::Formula(formula) => self.formula_in_line(formula),
            Inline::CheckBox(checked) => {
                self.changed("a check box in the text");
                self.out.push_str(if *checked { "[X]" } else { "[ ]" });
            }
            Inline::Timestamp(timestamp) => self.out.push_str(&spelled(timestamp)),
            Inline::Ruby(ruby) => {
                self.findings.count(Code::FormatAsHtml, "ruby", Some(self.place));
                self.snippet("html", "<ruby>");
                self.inlines(&ruby.base, around);
                self.snippet("html", "<rt>");
                self.inlines(&ruby.reading, around);
                self.snippet("html", "</rt></ruby>");
            }
            Inline::Foreign(foreign) => self.foreign_in_line(foreign),
        }
    }

    fn foreign_in_line(&mut self, foreign: &Foreign) {
        match foreign.format.as_str() {
            ORG => self.out.push_str(&foreign.markup),
            // A command stands in the text as it is.
            "latex" if is_command(&foreign.markup) => self.out.push_str(&foreign.markup),
            format => self.snippet(format, &foreign.markup),
        }
    }

    /// The notes, under the heading that Org keeps them under.
    pub(super) fn notes(&mut self) {
        let marked = self.survey.marked.clone();
        if marked.is_empty() {
            return;
        }
        self.blank_line();
        self.out.push_str("* Footnotes\n");
        for id in marked {
            let Some(note) = self.document.note(id) else { continue };
            let label = self.survey.note_labels.get(id.index()).cloned().unwrap_or_default();
            let content = self.apart(|writer| {
                writer.is_start = true;
                writer.open.push("\n\n\n".into());
                writer.blocks(&note.content);
                writer.open.pop();
            });
            if note.kind == crate::document::NoteKind::Endnote {
                self.findings.count(Code::EndnoteAsFootnote, &label, None);
            }
            self.out.push_str(&format!("\n[fn:{label}] "));
            // Two blank lines would end the note.
            self.out.push_str(without_double_blanks(content.trim_matches('\n')).as_str());
            self.out.push('\n');
        }
    }
}

/// The signs around a formula that do not stand in it.
pub(super) fn delimiters(source: &str, display: bool) -> (&'static str, &'static str) {
    match display {
        true if source.contains("\\]") => ("$$", "$$"),
        true => ("\\[", "\\]"),
        false if source.contains("\\)") => ("$", "$"),
        false => ("\\(", "\\)"),
    }
}

fn is_command(markup: &str) -> bool {
    markup.starts_with('\\')
        && markup.get(1..2).is_some_and(|c| c.chars().all(|c| c.is_ascii_alphabetic()))
}

fn without_double_blanks(text: &str) -> String {
    let mut out = text.to_string();
    while out.contains("\n\n\n") {
        out = out.replace("\n\n\n", "\n\n");
    }
    out
}

/// A date as Org writes it, with the name of its day.
pub(super) fn spelled(timestamp: &Timestamp) -> String {
    let (open, close) = if timestamp.active { ('<', '>') } else { ('[', ']') };
    let intervals: String = [&timestamp.repeater, &timestamp.warning]
        .into_iter()
        .flatten()
        .map(|interval| format!(" {interval}"))
        .collect();
    let moment = |moment: Moment, until: Option<(u8, u8)>, intervals: &str| {
        let Moment { year, month, day, time } = moment;
        let time = time.map(|(hour, minute)| format!(" {hour:02}:{minute:02}")).unwrap_or_default();
        let until =
            until.map(|(hour, minute)| format!("-{hour:02}:{minute:02}")).unwrap_or_default();
        let name = day_name(moment);
        format!("{open}{year:04}-{month:02}-{day:02} {name}{time}{until}{intervals}{close}")
    };
    match timestamp.end {
        None => moment(timestamp.start, None, &intervals),
        Some(end) => {
            let is_same_day =
                Moment { time: None, ..end } == Moment { time: None, ..timestamp.start };
            match end.time.filter(|_| is_same_day && timestamp.start.time.is_some()) {
                Some(until) => moment(timestamp.start, Some(until), &intervals),
                None => format!(
                    "{}--{}",
                    moment(timestamp.start, None, &intervals),
                    moment(end, None, "")
                ),
            }
        }
    }
}

/// The name of a day of the Gregorian calendar.
fn day_name(moment: Moment) -> &'static str {
    const NAMES: [&str; 7] = ["Sat", "Sun", "Mon", "Tue", "Wed", "Thu", "Fri"];
    // Zeller's congruence: January and February belong to the year before.
    let (month, year) = match i32::from(moment.month) {
        month @ ..=2 => (month + 12, i32::from(moment.year) - 1),
        month => (month, i32::from(moment.year)),
    };
    let day = i32::from(moment.day) + 13 * (month + 1) / 5 + year + year.div_euclid(4)
        - year.div_euclid(100)
        + year.div_euclid(400);
    let index = usize::try_from(day.rem_euclid(7)).unwrap_or_default();
    NAMES.get(index).copied().unwrap_or_default()
}

/// Breaks lines longer than a width where there are spaces; no line begins what is no text.
fn wrapped(text: &str, width: usize) -> String {
    let mut out = String::with_capacity(text.len() + text.len() / 60);
    for (at, line) in text.split('\n').enumerate() {
        if at > 0 {
            out.push('\n');
        }
        let (mut column, mut start) = (0, 0);
        for word in line.split(' ') {
            let length = word.chars().count();
            let rest = line.get(start..).unwrap_or_default();
            let breaks = column + 1 + length > width.max(20)
                && column > 0
                && !word.is_empty()
                && word != "\\\\"
                && !starts_element(rest);
            if start > 0 {
                out.push(if breaks { '\n' } else { ' ' });
                column = if breaks { 0 } else { column + 1 };
            }
            out.push_str(word);
            column += length;
            start += word.len() + 1;
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn days_have_their_names() {
        let cases = [
            ((2026, 11, 27), "Fri"),
            ((1893, 4, 1), "Sat"),
            ((2024, 2, 29), "Thu"),
            ((2000, 1, 1), "Sat"),
        ];
        for ((year, month, day), expected) in cases {
            assert_eq!(day_name(Moment { year, month, day, time: None }), expected);
        }
    }
}
