use super::Repair;
use super::lines::{Piece, each_line, each_piece, is_blank};
use crate::document::Document;
use crate::findings::{Code, Findings};
use std::ops::Range;

/// Typed leaders (`Gates ........ 4`) become an ellipsis, and lines to fill in (`Name: ________`)
/// no longer than need be, so that they neither break nor run over on a narrow screen.
#[derive(Debug, Clone, Copy)]
pub struct TypedLeaders;

/// Dots that make a leader.
const FEWEST_DOTS: usize = 5;
/// Characters of a line to fill in.
pub(super) const LONGEST_LINE: usize = 24;

impl Repair for TypedLeaders {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            let mut changed = false;
            each_piece(line, &mut |piece| {
                if let Piece::Text(text) = piece
                    && let Some(shorter) = shortened(text)
                {
                    *text = shorter.into();
                    changed = true;
                }
            });
            if changed {
                findings.count(Code::LeadersRepaired, "", Some(place));
            }
        });
    }
}

/// A text with shorter leaders and lines; `None` where there are none that are too long.
fn shortened(text: &str) -> Option<String> {
    let mut done = String::new();
    let mut from = 0;
    let mut changed = false;
    for run in runs(text) {
        let drawn = text.get(run.clone())?;
        let is_leader = is_leader(text, &run);
        let length = drawn.chars().count();
        if !is_leader && length <= LONGEST_LINE {
            continue;
        }
        let before = text.get(from..run.start)?;
        if is_leader {
            done.push_str(before.trim_end_matches(is_blank));
            done.push_str(" … ");
            let behind = text.get(run.end..)?;
            from = text.len() - behind.trim_start_matches(is_blank).len();
        } else {
            done.push_str(before);
            done.extend(drawn.chars().take(LONGEST_LINE));
            from = run.end;
        }
        changed = true;
    }
    done.push_str(text.get(from..)?);
    changed.then_some(done)
}

/// The leaders of a text, with the blanks on both sides of them.
pub(super) fn leaders(text: &str) -> impl Iterator<Item = Range<usize>> {
    runs(text).filter(|run| is_leader(text, run)).map(|run| {
        let before = text.get(..run.start).unwrap_or_default().trim_end_matches(is_blank);
        let behind = text.get(run.end..).unwrap_or_default().trim_start_matches(is_blank);
        before.len()..text.len() - behind.len()
    })
}

/// Whether dots lead from one text to another.
fn is_leader(text: &str, run: &Range<usize>) -> bool {
    let drawn = text.get(run.clone()).unwrap_or_default();
    let is_said = |part: Option<&str>, end: bool| {
        let blank = part.unwrap_or_default().trim_matches(is_blank);
        let next = if end { blank.chars().next_back() } else { blank.chars().next() };
        next.is_some_and(|c| c != '_' && !is_dot(c))
    };
    drawn.starts_with(is_dot)
        && drawn.chars().filter(|c| is_dot(*c)).count() >= FEWEST_DOTS
        && is_said(text.get(..run.start), true)
        && is_said(text.get(run.end..), false)
}

/// Runs of dots, which may stand one space apart, and of underscores.
fn runs(text: &str) -> impl Iterator<Item = Range<usize>> {
    let mut at = 0;
    std::iter::from_fn(move || {
        let start = at + text.get(at..)?.find(|c| is_dot(c) || c == '_')?;
        let rest = text.get(start..)?;
        let mut behind = rest.trim_start_matches('_');
        if rest.starts_with(is_dot) {
            behind = rest.trim_start_matches(is_dot);
            while let Some(more) = behind.strip_prefix(' ').filter(|more| more.starts_with(is_dot))
            {
                behind = more.trim_start_matches(is_dot);
            }
        }
        at = text.len() - behind.len();
        Some(start..at)
    })
}

fn is_dot(c: char) -> bool {
    matches!(c, '.' | '…' | '·')
}
