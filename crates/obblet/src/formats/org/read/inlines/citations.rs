//! Citations (Org syntax, “Citations”).

use super::leaf::Leaf;
use super::plain::LineBuilder;
use super::{Reader, Spot};
use crate::document::{Citation, CitationForm, Cite, Inline};
use crate::findings::Code;
use std::ops::Range;

impl Reader<'_> {
    /// `[cite/style:before; see @key page 3; @other; behind]`
    pub(super) fn citation(&mut self, spot: Spot<'_, '_>, line: &mut LineBuilder) -> Option<usize> {
        let Spot { leaf, at, range, depth } = spot;
        let close = leaf.partner(at).filter(|close| *close < range.end)?;
        let inner = leaf.text.get(at + 5..close)?;
        let colon = inner.find(':')?;
        let style = inner.get(..colon)?;
        let is_style = style.is_empty()
            || style.strip_prefix('/').is_some_and(|style| {
                style.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '_' | '/'))
            });
        if !is_style || !inner.get(colon..)?.contains('@') {
            return None;
        }
        let form = self.form(style.trim_start_matches('/'), leaf, at);
        let mut works: Vec<Cite> = Vec::new();
        let mut before_all: Vec<Inline> = Vec::new();
        let mut start = at + 5 + colon + 1;
        while start <= close {
            let end = self.part_end(leaf, start, close);
            let part = leaf.text.get(start..end)?;
            match key(part) {
                Some((from, to)) => {
                    let mut before = self.trimmed(leaf, start..start + from, depth);
                    if works.is_empty() && !before_all.is_empty() {
                        let mut all = std::mem::take(&mut before_all);
                        if !before.is_empty() {
                            all.push(Inline::Text(" ".into()));
                        }
                        all.append(&mut before);
                        before = all;
                    }
                    let behind = self.trimmed(leaf, start + to..end, depth);
                    let key = part.get(from + 1..to)?.into();
                    works.push(Cite { key, before, behind });
                }
                None if works.is_empty() => before_all = self.trimmed(leaf, start..end, depth),
                None => {
                    let behind = self.trimmed(leaf, start..end, depth);
                    if let Some(last) = works.last_mut().filter(|_| !behind.is_empty()) {
                        if !last.behind.is_empty() {
                            last.behind.push(Inline::Text("; ".into()));
                        }
                        last.behind.extend(behind);
                    }
                }
            }
            start = end + 1;
        }
        if works.is_empty() {
            return None;
        }
        self.push(line, Inline::Citation(Box::new(Citation { form, works })));
        Some(close + 1)
    }

    /// The semicolon that ends a part; those in brackets do not.
    fn part_end(&self, leaf: &Leaf<'_>, start: usize, close: usize) -> usize {
        let bytes = leaf.text.as_bytes();
        let mut at = start;
        while at < close {
            match bytes.get(at) {
                Some(b';') => return at,
                Some(b'[') => at = leaf.partner(at).filter(|end| *end < close).unwrap_or(at),
                _ => {}
            }
            at += 1;
        }
        close
    }

    pub(super) fn trimmed(
        &mut self,
        leaf: &Leaf<'_>,
        range: Range<usize>,
        depth: usize,
    ) -> Vec<Inline> {
        let text = leaf.text.get(range.clone()).unwrap_or_default();
        let start = range.start + text.len() - text.trim_start().len();
        let end = start + text.trim().len();
        if start >= end {
            return Vec::new();
        }
        self.objects(leaf, start..end, depth + 1)
    }

    fn form(&mut self, style: &str, leaf: &Leaf<'_>, at: usize) -> CitationForm {
        let (name, variant) = style.split_once('/').unwrap_or((style, ""));
        if !variant.is_empty() {
            let place = Some(leaf.place(at));
            self.findings.count(Code::CitationStyleDropped, style, place);
        }
        match name {
            "" => CitationForm::Bracketed,
            "t" | "text" => CitationForm::InText,
            "a" | "author" => CitationForm::AuthorOnly,
            "y" | "year" | "na" | "noauthor" => CitationForm::YearOnly,
            "n" | "nocite" => CitationForm::Silent,
            _ => {
                let place = Some(leaf.place(at));
                self.findings.count(Code::CitationStyleDropped, name, place);
                CitationForm::Bracketed
            }
        }
    }
}

/// Where a part has its key, with the sign before it.
fn key(part: &str) -> Option<(usize, usize)> {
    let is_key = |c: char| c.is_alphanumeric() || "-.:?!`'/*@+|(){}<>&_^$#%~".contains(c);
    for (at, _) in part.match_indices('@') {
        let rest = part.get(at + 1..)?;
        let mut length = rest.find(|c: char| !is_key(c)).unwrap_or(rest.len());
        // A sign of a sentence behind a key is not of it.
        while length > 0 && rest.get(..length)?.ends_with(['.', ':', '?', '!', '\'', ')']) {
            length -= 1;
        }
        if length > 0 {
            return Some((at, at + 1 + length));
        }
    }
    None
}

pub(super) fn citation(keys: &str, form: CitationForm) -> Inline {
    let cite = |key: &str| Cite { key: key.trim().into(), before: Vec::new(), behind: Vec::new() };
    Inline::Citation(Box::new(Citation { form, works: keys.split(',').map(cite).collect() }))
}
