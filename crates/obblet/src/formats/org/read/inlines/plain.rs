//! Plain text: dashes and dots by their signs, quotation marks, and words that link to a target.

use super::Reader;
use crate::document::{CompactString, Inline, LineBreak, Link, clean_id};
use crate::typography::{Quotes, opens_quotation, single_quote};
use aho_corasick::{AhoCorasick, MatchKind};

/// Inlines, and text that is none yet.
#[derive(Debug, Default)]
pub(super) struct LineBuilder {
    pub(super) out: Vec<Inline>,
    pub(super) text: String,
}

impl LineBuilder {
    /// Makes the text an inline as it is.
    pub(super) fn settle(&mut self) {
        if !self.text.is_empty() {
            let text = CompactString::new(&self.text);
            self.text.clear();
            match self.out.last_mut() {
                Some(Inline::Text(before)) => before.push_str(&text),
                _ => self.out.push(Inline::Text(text)),
            }
        }
    }
}

/// Words that link to the radio target that they are.
#[derive(Debug)]
pub(in super::super) struct RadioWords {
    automaton: AhoCorasick,
    ids: Vec<CompactString>,
}

impl Reader<'_> {
    /// Finds the radio targets of the whole document.
    pub(in super::super) fn survey_radio_targets(&mut self) {
        let mut words: Vec<String> = Vec::new();
        if !self.sources.contain(b"<<<") {
            return;
        }
        for (line, is_in_text) in self.lines.iter().zip(&self.survey.in_text) {
            if *is_in_text || !line.text.contains("<<<") {
                continue;
            }
            for part in line.text.split("<<<").skip(1) {
                if let Some((inner, _)) = part.split_once(">>>")
                    && !inner.is_empty()
                    && inner.trim() == inner
                    && !inner.contains(['<', '>'])
                {
                    words.push(inner.to_string());
                }
            }
        }
        if words.is_empty() {
            return;
        }
        words.sort();
        words.dedup();
        let automaton = AhoCorasick::builder()
            .ascii_case_insensitive(true)
            .match_kind(MatchKind::LeftmostLongest)
            .build(&words);
        if let Ok(automaton) = automaton {
            let ids = words.iter().map(|word| clean_id(word).unwrap_or_default()).collect();
            self.radio = Some(RadioWords { automaton, ids });
        }
    }

    /// Makes the text an inline.
    pub(super) fn flush(&mut self, line: &mut LineBuilder) {
        if line.text.is_empty() {
            return;
        }
        if self.settings.options.special_strings
            && memchr::memchr3(b'-', b'.', b'\\', line.text.as_bytes()).is_some()
        {
            line.text = with_special_strings(&line.text);
        }
        match &self.radio {
            Some(radio) => radio.push(line, self.line_break()),
            None => line.settle(),
        }
    }

    pub(super) fn finish(&mut self, mut line: LineBuilder) -> Vec<Inline> {
        self.flush(&mut line);
        if self.settings.options.smart_quotes {
            let language = self.document.metadata.language.as_deref();
            let language = language.or(self.settings.language.as_deref());
            with_quotation_marks(&mut line.out, Quotes::of_language(language));
        }
        line.out
    }
}

impl RadioWords {
    fn push(&self, line: &mut LineBuilder, at_line_end: LineBreak) {
        let text = std::mem::take(&mut line.text);
        let on_one_line = text.replace('\n', " ");
        // The target's own words do not link to themselves.
        let is_target = matches!(line.out.last(), Some(Inline::Anchor(_))) || line.out.is_empty();
        let mut left = 0;
        for found in self.automaton.find_iter(&on_one_line) {
            let before = text.get(..found.start()).and_then(|text| text.chars().next_back());
            let next = text.get(found.end()..).and_then(|text| text.chars().next());
            let is_word = !before.is_some_and(char::is_alphanumeric)
                && !next.is_some_and(char::is_alphanumeric);
            let is_own = is_target && found.len() == text.len();
            let Some(id) = self.ids.get(found.pattern().as_usize()).filter(|_| is_word && !is_own)
            else {
                continue;
            };
            push_lines(
                &mut line.out,
                text.get(left..found.start()).unwrap_or_default(),
                at_line_end,
            );
            let mut content = Vec::new();
            push_lines(&mut content, text.get(found.range()).unwrap_or_default(), at_line_end);
            let address = format!("#{id}").into();
            let attributes = crate::document::Attributes::NONE;
            line.out.push(Inline::Link(Box::new(Link {
                address,
                title: None,
                content,
                attributes,
            })));
            left = found.end();
        }
        push_lines(&mut line.out, text.get(left..).unwrap_or_default(), at_line_end);
    }
}

fn push_lines(out: &mut Vec<Inline>, text: &str, at_line_end: LineBreak) {
    for (number, line) in text.split('\n').enumerate() {
        if number > 0 {
            out.push(Inline::Break(at_line_end));
        }
        match out.last_mut() {
            _ if line.is_empty() => {}
            Some(Inline::Text(before)) => before.push_str(line),
            _ => out.push(Inline::Text(line.into())),
        }
    }
}

/// `--`, `---`, `...` and `\-` as the signs they mean.
fn with_special_strings(text: &str) -> String {
    let mut out = String::with_capacity(text.len() + 8);
    let mut left = text;
    while let Some(at) = memchr::memchr3(b'-', b'.', b'\\', left.as_bytes()) {
        out.push_str(left.get(..at).unwrap_or_default());
        left = left.get(at..).unwrap_or_default();
        let run = |sign: char| left.len() - left.trim_start_matches(sign).len();
        let (sign, taken) = match left.as_bytes().first() {
            Some(b'-') => match run('-') {
                3 => ("—", 3),
                2 => ("–", 2),
                run => (left.get(..run).unwrap_or("-"), run),
            },
            Some(b'.') => match run('.') {
                3 => ("…", 3),
                run => (left.get(..run).unwrap_or("."), run),
            },
            _ if left.starts_with("\\-") => ("\u{ad}", 2),
            _ => ("\\", 1),
        };
        out.push_str(sign);
        left = left.get(taken..).unwrap_or_default();
    }
    out.push_str(left);
    out
}

/// Straight quotation marks as those of a language. What stands in objects was read, and has its marks.
fn with_quotation_marks(inlines: &mut [Inline], quotes: Quotes) {
    let (mut last, mut inner_open) = (' ', false);
    let is_object = |inline: &Inline| !matches!(inline, Inline::Text(_) | Inline::Break(_));
    let before_object: Vec<bool> =
        (1..=inlines.len()).map(|at| inlines.get(at).is_some_and(is_object)).collect();
    for (inline, is_before_object) in inlines.iter_mut().zip(before_object) {
        match inline {
            Inline::Text(text) => {
                // An object is as good as a letter.
                let next = if is_before_object { "x" } else { " " };
                let spelled = curly(&format!("{text}{next}"), &mut last, &mut inner_open, quotes);
                *text = spelled.get(..spelled.len() - 1).unwrap_or_default().into();
                last = text.chars().next_back().unwrap_or(' ');
            }
            Inline::Break(LineBreak::Soft | LineBreak::Hard) => last = ' ',
            _ => last = 'x',
        }
    }
}

fn curly(text: &str, last: &mut char, inner_open: &mut bool, quotes: Quotes) -> String {
    let mut out = String::with_capacity(text.len() + 8);
    let mut left = text;
    while let Some(c) = left.chars().next() {
        match c {
            '"' if opens_quotation(*last, left) => out.push_str(quotes.outer[0]),
            '"' => out.push_str(quotes.outer[1]),
            '\'' => out.push_str(single_quote(*last, left, inner_open, quotes)),
            c => out.push(c),
        }
        *last = out.chars().next_back().unwrap_or(c);
        left = left.get(c.len_utf8()..).unwrap_or_default();
    }
    out
}
