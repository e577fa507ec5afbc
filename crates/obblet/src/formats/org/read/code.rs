//! Code, examples and fixed-width lines; what becomes of results (Org manual, “Working with Source
//! Code”). Nothing is ever run.

use super::Reader;
use super::affiliated::Affiliated;
use super::lines::{fixed_width, indentation};
use crate::document::{Block, BlockKind, CodeBlock, Place};
use crate::findings::Code;
use crate::formats::latex::read_bibtex;
use std::ops::Range;

/// What of code and its results readers see.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) struct Exports {
    pub(super) code: bool,
    pub(super) results: bool,
}

impl Exports {
    /// What arguments say, the last one of several.
    pub(super) fn of(arguments: &str) -> Option<Self> {
        let (_, behind) = arguments.rsplit_once(":exports")?;
        Some(match behind.split_whitespace().next()? {
            "results" => Self { code: false, results: true },
            "both" => Self { code: true, results: true },
            "none" => Self { code: false, results: false },
            _ => Self { code: true, results: false },
        })
    }
}

/// What arguments of code that hold in the file or below a heading say.
#[derive(Debug, Default)]
pub(super) struct InheritedExports(Vec<(usize, Option<String>, Exports)>);

impl InheritedExports {
    /// Takes a property of the file, at level 0, or of a heading. `false` for one that is about
    /// something else.
    pub(super) fn take(&mut self, level: usize, name: &str, arguments: &str) -> bool {
        let name = name.to_ascii_lowercase();
        let Some(language) = name.trim_end_matches('+').strip_prefix("header-args") else {
            return false;
        };
        let language = language.strip_prefix(':').map(ToString::to_string);
        if let Some(exports) = Exports::of(arguments) {
            self.0.push((level, language, exports));
        }
        true
    }

    /// What is said below headings of this level is over.
    pub(super) fn leave(&mut self, level: usize) {
        while self.0.last().is_some_and(|(known, ..)| *known >= level) {
            self.0.pop();
        }
    }

    fn of(&self, language: &str) -> Option<Exports> {
        let of = |wanted: Option<&str>| {
            let mut said = self.0.iter().rev();
            said.find(|(_, language, _)| language.as_deref() == wanted).map(|said| said.2)
        };
        let language = language.to_ascii_lowercase();
        of(Some(&language)).or_else(|| of(None))
    }
}

impl Reader<'_> {
    /// What arguments say, or what holds where the code stands.
    pub(super) fn exports(&self, language: &str, arguments: &str) -> Option<Exports> {
        Exports::of(arguments).or_else(|| self.settings.exports.of(language))
    }

    pub(super) fn code(
        &mut self,
        parameters: &str,
        inside: Range<usize>,
        affiliated: &Affiliated,
        place: Place,
        out: &mut Vec<Block>,
    ) {
        let is_language = !parameters.starts_with([':', '-', '+']) && !parameters.is_empty();
        let (language, details) = match is_language {
            true => parameters.split_once([' ', '\t']).unwrap_or((parameters, "")),
            false => ("", parameters),
        };
        let arguments = format!("{details} {}", affiliated.arguments);
        // What stands on lines of its own before it is an attribute for who writes Org again.
        let details = if self.options.keeps_hidden { details } else { &arguments }.trim();
        let exports = self.exports(language, &arguments);
        let exports = exports.unwrap_or(Exports { code: true, results: false });
        self.targets.set_exports(affiliated.name.as_deref(), exports);
        if exports.results {
            self.findings.count(Code::CodeNotRun, language, Some(place));
        }
        let is_hidden = !exports.code && !exports.results;
        if is_hidden && language == "bibtex" && !self.options.keeps_hidden {
            return self.works(inside, place);
        }
        if !exports.code && !self.options.keeps_hidden {
            return self.hidden("code", place);
        }
        let text = self.literal(inside, details);
        let language = (!language.is_empty()).then(|| language.into());
        let details = (!details.is_empty()).then(|| details.into());
        self.push_code(CodeBlock { language, details, ..CodeBlock::of_text(text) }, place, out);
    }

    /// Works that a document carries inside itself, for a program to make a file of.
    fn works(&mut self, inside: Range<usize>, place: Place) {
        let (works, problems) = read_bibtex(&self.text_of(inside));
        for problem in problems {
            self.findings.add_about(Code::BibliographyBroken, &problem, Some(place));
        }
        self.document.bibliography.extend(works);
    }

    pub(super) fn example(
        &mut self,
        parameters: &str,
        inside: Range<usize>,
        place: Place,
        out: &mut Vec<Block>,
    ) {
        let text = self.literal(inside, parameters);
        let details = (!parameters.is_empty()).then(|| parameters.into());
        self.push_code(CodeBlock { details, ..CodeBlock::of_text(text) }, place, out);
    }

    fn push_code(&mut self, code: CodeBlock, place: Place, out: &mut Vec<Block>) {
        out.push(Block::new(BlockKind::Code(Box::new(code))).at(place));
    }

    /// The text of a block as it is meant: without what is only there for Org, without the indentation
    /// that all lines share, and without marks of lines where the block says so.
    fn literal(&mut self, inside: Range<usize>, switches: &str) -> String {
        let first = inside.start;
        let mut text = self.text_of(inside);
        let has_switch = |wanted: &str| switches.split_whitespace().any(|word| word == wanted);
        if !has_switch("-i") {
            text = without_shared_indentation(&text);
        }
        self.mark_lines(&text, first, switches);
        if has_switch("-r") && !self.options.keeps_hidden {
            let signs = mark_signs(switches);
            let lines = text.lines().map(|line| match reference_mark(line, signs) {
                Some((start, _)) => line.get(..start).unwrap_or_default().trim_end(),
                None => line,
            });
            text = lines.map(|line| format!("{line}\n")).collect();
        }
        text
    }

    /// Remembers which lines references point to, and their numbers.
    fn mark_lines(&mut self, text: &str, first: usize, switches: &str) {
        let mut words = switches.split_whitespace();
        let numbering = words.find(|word| matches!(*word, "-n" | "+n"));
        let stated = numbering.and_then(|_| words.next()?.parse::<usize>().ok());
        let before = match numbering {
            Some("+n") => self.code_line + stated.unwrap_or(1) - 1,
            _ => stated.unwrap_or(1).saturating_sub(1),
        };
        if numbering.is_some() {
            let place = self.place_of(&(first..first + 1));
            self.findings.count(Code::LayoutNotKept, "numbers of lines of code", Some(place));
        }
        let mut count = 0;
        let signs = mark_signs(switches);
        for line in text.lines() {
            count += 1;
            if let Some((_, label)) = reference_mark(line, signs) {
                self.targets.add_line_mark(label, before + count);
            }
        }
        if numbering.is_some() {
            self.code_line = before + count;
        }
    }

    /// Lines as they stand, without the commas that protect them.
    pub(super) fn text_of(&self, range: Range<usize>) -> String {
        let mut text = String::new();
        for line in self.lines.get(range).unwrap_or_default() {
            text.push_str(&without_comma(line.text));
            text.push('\n');
        }
        text
    }

    /// Lines that begin with a colon.
    pub(super) fn fixed_width(&mut self, at: usize, end: usize, out: &mut Vec<Block>) -> usize {
        let mut text = String::new();
        let mut behind = at;
        while let Some(line) = self.lines.get(behind).filter(|_| behind < end)
            && let Some(inside) = fixed_width(line.trimmed())
        {
            text.push_str(inside);
            text.push('\n');
            behind += 1;
        }
        let place = self.place_of(&(at..behind));
        if !self.settings.options.fixed_width && !self.options.keeps_hidden {
            self.hidden("fixed-width lines", place);
            return behind;
        }
        self.push_code(CodeBlock::of_text(text), place, out);
        behind
    }
}

/// The signs around labels at the ends of lines: `(ref:` and `)`, or those that `-l "…%s…"` states.
fn mark_signs(switches: &str) -> (&str, &str) {
    let stated = || {
        let (_, rest) = switches.split_once("-l \"")?;
        let (before, after) = rest.split_once('"')?.0.split_once("%s")?;
        (!before.is_empty()).then_some((before, after))
    };
    stated().unwrap_or(("(ref:", ")"))
}

/// `(ref:label)` at the end of a line of code: where it starts, and the label.
fn reference_mark<'l>(line: &'l str, (before, after): (&str, &str)) -> Option<(usize, &'l str)> {
    let inner = line.trim_end().strip_suffix(after)?;
    let start = inner.rfind(before)?;
    let label = inner.get(start + before.len()..)?;
    let is_label = !label.is_empty()
        && label.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_' | ' '));
    is_label.then_some((start, label))
}

/// One comma before `*`, `#+` and commas before these is Org's, not the text's.
fn without_comma(line: &str) -> std::borrow::Cow<'_, str> {
    let text = line.trim_start_matches([' ', '\t']);
    match text.strip_prefix(',').filter(|_| super::needs_comma(text)) {
        Some(rest) => {
            let indentation = line.get(..line.len() - text.len()).unwrap_or_default();
            format!("{indentation}{rest}").into()
        }
        None => line.into(),
    }
}

/// Takes away the indentation that all lines with text have.
pub(in crate::formats::org) fn without_shared_indentation(text: &str) -> String {
    let filled = || text.lines().filter(|line| !line.trim().is_empty());
    let least = filled().map(indentation).min().unwrap_or(0);
    if least == 0 {
        return text.to_string();
    }
    let mut out = String::with_capacity(text.len());
    for line in text.lines() {
        let mut column = 0;
        let mut left = line;
        while column < least {
            column = match left.as_bytes().first() {
                Some(b' ') => column + 1,
                Some(b'\t') => column + 8 - column % 8,
                _ => break,
            };
            left = left.get(1..).unwrap_or_default();
        }
        // A tab may reach further than what is taken away.
        out.push_str(&" ".repeat(column.saturating_sub(least)));
        out.push_str(left);
        out.push('\n');
    }
    out
}
