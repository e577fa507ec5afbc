//! Formulas, entities and line breaks: what a backslash or a dollar sign begins.

use super::citations::citation;
use super::entities::entity;
use super::leaf::Leaf;
use super::plain::LineBuilder;
use super::{Reader, Spot};
use crate::document::{CitationForm, Foreign, Inline, LineBreak, Reference, ReferenceShows};
use crate::formats::latex;
use crate::math::Formula;
use std::ops::Range;

impl Reader<'_> {
    pub(super) fn backslash(
        &mut self,
        spot: Spot<'_, '_>,
        line: &mut LineBuilder,
    ) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let text = leaf.text.get(at..range.end)?;
        match text.as_bytes().get(1)? {
            b'\\' => self.hard_break(text, at, range.end == leaf.text.len(), line),
            b'(' => self.delimited(spot, "\\)", line),
            b'[' => self.delimited(spot, "\\]", line),
            b'_' => self.spaces(text, at, line),
            b'-' if self.settings.options.special_strings => {
                line.text.push_str("\\-");
                Some(at + 2)
            }
            c if c.is_ascii_alphabetic() => self.command(spot, line),
            _ => None,
        }
    }

    /// Two backslashes at the end of a line.
    fn hard_break(
        &mut self,
        text: &str,
        at: usize,
        is_whole: bool,
        line: &mut LineBuilder,
    ) -> Option<usize> {
        let rest = text.get(2..)?;
        let white = rest.len() - rest.trim_start_matches([' ', '\t']).len();
        let behind = rest.get(white..)?;
        if !(behind.is_empty() && is_whole || behind.starts_with('\n')) {
            return None;
        }
        let kept = line.text.trim_end_matches([' ', '\t']).len();
        line.text.truncate(kept);
        self.push(line, Inline::Break(LineBreak::Hard));
        Some(at + 2 + white + usize::from(!behind.is_empty()))
    }

    /// `\_` and spaces: that many spaces that are seen.
    fn spaces(&mut self, text: &str, at: usize, line: &mut LineBuilder) -> Option<usize> {
        let rest = text.get(2..)?;
        let count = rest.len() - rest.trim_start_matches(' ').len();
        if count == 0 || !self.settings.options.entities {
            return None;
        }
        line.text.push_str(&"\u{2002}".repeat(count));
        Some(at + 2 + count)
    }

    /// `\(…\)` or `\[…\]`
    fn delimited(
        &mut self,
        spot: Spot<'_, '_>,
        end: &'static str,
        line: &mut LineBuilder,
    ) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let close = leaf.next(end, at + 2).filter(|close| close + 2 <= range.end)?;
        self.push_formula(leaf, at + 2..close, end == "\\]", line)?;
        Some(close + 2)
    }

    fn push_formula(
        &mut self,
        leaf: &Leaf<'_>,
        inside: Range<usize>,
        display: bool,
        line: &mut LineBuilder,
    ) -> Option<()> {
        if !self.settings.options.formulas {
            return None;
        }
        let source = leaf.text.get(inside.clone())?.trim();
        // A comment goes on to the end of its line.
        let source = match display || source.contains('%') {
            true => source.to_string(),
            false => source.replace('\n', " "),
        };
        let formula = Formula { source, display, ..Formula::default() };
        let formula = self.with_tree(formula, leaf.place(inside.start));
        self.push(line, Inline::Formula(Box::new(formula)));
        Some(())
    }

    /// `$…$` where nothing else can be meant, or `$$…$$`.
    pub(super) fn dollar(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let text = leaf.text.get(at..range.end)?;
        if text.starts_with("$$") {
            let close = leaf.next("$$", at + 2).filter(|close| close + 2 <= range.end)?;
            self.push_formula(leaf, at + 2..close, true, line)?;
            return Some(close + 2);
        }
        let before = leaf.text.get(range.start..at)?.chars().next_back();
        let close = leaf.next("$", at + 1).filter(|close| *close < range.end)?;
        let inside = leaf.text.get(at + 1..close)?;
        let is_edge = |c: char| super::marks::is_white(c) || matches!(c, '.' | ',');
        let first = inside.chars().next()?;
        let last = inside.chars().next_back()?;
        let next = leaf.text.get(close + 1..)?.chars().next();
        let is_formula = before != Some('$')
            && !is_edge(first)
            && first != ';'
            && !is_edge(last)
            && next.is_none_or(|c| c.is_whitespace() || !c.is_alphanumeric() && c != '$');
        if !is_formula {
            return None;
        }
        self.push_formula(leaf, at + 1..close, false, line)?;
        Some(close + 1)
    }

    /// Whether the document's own lines for LaTeX speak of a command.
    fn defines(&self, name: &str) -> bool {
        let extra = self.document.metadata.extra.iter();
        let mut lines = extra.filter(|(key, _)| key.starts_with("latex_header"));
        lines.any(|(_, value)| {
            value.to_text().is_some_and(|text| text.contains(&format!("\\{name}")))
        })
    }

    /// `\name`: a character by its name, or a command of LaTeX.
    fn command(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let text = leaf.text.get(at + 1..range.end)?;
        let letters = text.bytes().take_while(u8::is_ascii_alphabetic).count();
        // Some names end with digits.
        let digits = text.get(letters..)?.bytes().take_while(u8::is_ascii_digit).count();
        for length in [letters + digits, letters] {
            let name = text.get(..length)?;
            let behind = text.get(length..)?;
            if self.settings.options.entities
                && !behind.starts_with(|c: char| c.is_ascii_alphabetic())
                && let Some(characters) = entity(name)
            {
                line.text.push_str(characters);
                let braces = if behind.starts_with("{}") { 2 } else { 0 };
                return Some(at + 1 + length + braces);
            }
        }
        let name = text.get(..letters)?;
        let mut end = at + 1 + letters;
        let star = usize::from(leaf.text.get(end..range.end)?.starts_with('*'));
        end += star;
        let first = end;
        while let Some(b'[' | b'{') = leaf.text.as_bytes().get(end).filter(|_| end < range.end) {
            end = leaf.partner(end).filter(|close| *close < range.end)? + 1;
        }
        if !self.settings.options.formulas {
            return None;
        }
        let argument =
            leaf.text.get(first + 1..end.saturating_sub(1).max(first + 1)).unwrap_or_default();
        if end > first
            && let Some(inline) = reference(name, argument)
        {
            self.targets.expect_number(argument, leaf.place(at));
            self.push(line, inline);
            return Some(end);
        }
        // A word behind a backslash is a word, unless TeX knows it or it has arguments.
        if end == first && star == 0 && !latex::knows_command(name) && !self.defines(name) {
            return None;
        }
        let markup = leaf.text.get(at..end)?.to_string();
        let foreign = Foreign { format: "latex".into(), markup };
        self.push(line, Inline::Foreign(Box::new(foreign)));
        Some(end)
    }
}

/// Commands that refer to a label or a work.
fn reference(name: &str, argument: &str) -> Option<Inline> {
    if argument.is_empty() || argument.contains(['[', '{']) {
        return None;
    }
    let shows = match name {
        "ref" => ReferenceShows::Number,
        "eqref" => ReferenceShows::EquationNumber,
        "pageref" => ReferenceShows::Page,
        "cite" | "citep" | "parencite" => {
            return Some(citation(argument, CitationForm::Bracketed));
        }
        "citet" | "textcite" => return Some(citation(argument, CitationForm::InText)),
        "nocite" => return Some(citation(argument, CitationForm::Silent)),
        _ => return None,
    };
    let reference = Reference { target: argument.into(), shows, stored: Vec::new() };
    Some(Inline::Reference(Box::new(reference)))
}
