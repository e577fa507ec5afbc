//! Code in a line, and calls of code that are never made.

use super::leaf::Leaf;
use super::plain::LineBuilder;
use super::{Reader, Spot, raw};
use crate::document::{Attributes, Inline, InlineCode};
use crate::findings::Code;
use std::ops::Range;

impl Reader<'_> {
    /// `src_language[arguments]{code}` and `call_name[…](…)[…]`, at their sign.
    pub(super) fn code_in_line(
        &mut self,
        spot: Spot<'_, '_>,
        line: &mut LineBuilder,
    ) -> Option<usize> {
        let Spot { leaf, at, range, .. } = spot;
        let before = leaf.text.get(range.start..at)?;
        let word = ["src", "call"].into_iter().find(|word| {
            before.strip_suffix(word).is_some_and(|outer| {
                !outer.chars().next_back().is_some_and(|c| c.is_alphanumeric() || c == '_')
            })
        })?;
        let text = leaf.text.get(at + 1..range.end)?;
        let length =
            text.find(|c: char| c.is_whitespace() || matches!(c, '[' | '{' | '(' | ']' | '}'))?;
        let name = text.get(..length).filter(|name| !name.is_empty())?;
        let start = at - word.len();
        let mut end = at + 1 + length;
        let option = |end: &mut usize| -> Option<Range<usize>> {
            let is_open = leaf.text.as_bytes().get(*end) == Some(&b'[');
            let close = leaf.partner(*end).filter(|close| is_open && *close < range.end)?;
            let inside = *end + 1..close;
            *end = close + 1;
            Some(inside)
        };
        let arguments = option(&mut end);
        let is_source = word == "src";
        let open = leaf.text.as_bytes().get(end)?;
        if *open != if is_source { b'{' } else { b'(' } {
            return None;
        }
        let close = leaf.partner(end).filter(|close| *close < range.end)?;
        let inside = end + 1..close;
        end = close + 1;
        if !is_source {
            option(&mut end);
        }
        line.text.truncate(line.text.len().saturating_sub(word.len()));
        let place = leaf.place(start);
        let markup = leaf.text.get(start..end)?;
        if !is_source {
            self.findings.count(Code::CodeNotRun, name, Some(place));
            if self.options.keeps_hidden {
                self.push(line, raw(markup));
                return Some(end);
            }
            return Some(results_start(leaf, end, range));
        }
        let has_results = leaf.text.get(end..range.end)?.trim_start().starts_with("{{{results(");
        if self.options.keeps_hidden && (has_results || arguments.is_some()) {
            self.push(line, raw(markup));
            return Some(end);
        }
        let arguments = arguments.and_then(|range| leaf.text.get(range)).unwrap_or_default();
        let exports = self.exports(name, arguments);
        // Results are what is wanted of code in a line, where there are any.
        let shows = exports.map_or(!has_results, |exports| exports.code || !has_results);
        if has_results && !shows {
            self.findings.count(Code::CodeNotRun, name, Some(place));
        }
        if shows {
            let mut attributes = Attributes::NONE;
            attributes.edit().classes.push(name.into());
            let text = leaf.text.get(inside)?.into();
            self.push(line, Inline::Code(Box::new(InlineCode { text, attributes })));
            return Some(end);
        }
        Some(results_start(leaf, end, range))
    }
}

/// Where results begin, if they follow code that is not shown.
fn results_start(leaf: &Leaf<'_>, end: usize, range: &Range<usize>) -> usize {
    let rest = leaf.text.get(end..range.end).unwrap_or_default();
    let words = rest.trim_start();
    if words.starts_with("{{{results(") { end + rest.len() - words.len() } else { end }
}
