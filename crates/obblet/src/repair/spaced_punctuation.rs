use super::Repair;
use super::lines::{Piece, each_line, each_piece};
use crate::document::{CompactString, Document};
use crate::findings::{Code, Findings};

/// Spaces before commas, periods, semicolons, colons, question and exclamation marks go; not in
/// French, which wants them before some.
#[derive(Debug, Clone, Copy)]
pub struct SpacedPunctuation;

impl Repair for SpacedPunctuation {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        let is_french =
            document.metadata.language.as_deref().is_some_and(|tag| tag.starts_with("fr"));
        let marks: &[char] = if is_french { &[',', '.'] } else { &[',', '.', ';', ':', '?', '!'] };
        each_line(document, |place, line| {
            let mut changed = false;
            each_piece(line, &mut |piece| {
                if let Piece::Text(text) = piece {
                    changed |= closed_up(text, marks);
                }
            });
            if changed {
                findings.count(Code::SpacesRepaired, "", Some(place));
            }
        });
    }
}

/// Only before a mark that ends a word: `.5`, `:-)` and an ellipsis stay.
fn closed_up(text: &mut CompactString, marks: &[char]) -> bool {
    let mut tidy = CompactString::default();
    let mut left = text.as_str();
    while let Some(space) = left.find(' ') {
        let (before, behind) = left.split_at(space);
        let mut next = behind.trim_start_matches(' ').chars();
        let is_mark = next.next().is_some_and(|c| marks.contains(&c))
            && next.next().is_none_or(char::is_whitespace)
            && before.ends_with(char::is_alphanumeric);
        tidy.push_str(before);
        let rest = behind.trim_start_matches(' ');
        if !is_mark {
            tidy.push_str(behind.get(..behind.len() - rest.len()).unwrap_or_default());
        }
        left = rest;
    }
    tidy.push_str(left);
    let changed = tidy != *text;
    *text = tidy;
    changed
}
