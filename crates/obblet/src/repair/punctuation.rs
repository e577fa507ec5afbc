use super::Repair;
use super::lines::{Piece, each_line, each_piece};
use crate::document::{CompactString, Document};
use crate::findings::{Code, Findings};
use crate::typography::{Quotes, opens_quotation, single_quote};

/// Quotation marks, apostrophes, dashes and ellipses, all typographic or all plain.
#[derive(Debug, Clone, Copy)]
pub struct Punctuation(pub PunctuationForm);

/// How punctuation is spelled.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum PunctuationForm {
    /// As the source has it.
    Kept,
    /// As printers set it in the document's language: “ ”, ’, –, …
    Typographic,
    /// As typewriters had it: ", ', --, ...
    Plain,
}

impl Repair for Punctuation {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        let quotes = Quotes::of_language(document.metadata.language.as_deref());
        each_line(document, |place, line| {
            let mut changed = false;
            let mut before = ' ';
            let mut inner_open = false;
            each_piece(line, &mut |piece| match piece {
                Piece::Text(text) => {
                    let spelled = match self.0 {
                        PunctuationForm::Kept => return,
                        PunctuationForm::Typographic => {
                            typographic(text, before, &mut inner_open, quotes)
                        }
                        PunctuationForm::Plain => plain(text),
                    };
                    before = text.chars().next_back().unwrap_or(before);
                    changed |= spelled != *text;
                    *text = spelled;
                }
                Piece::Break => before = ' ',
                Piece::Object => before = 'x',
            });
            if changed {
                findings.count(Code::PunctuationRepaired, "", Some(place));
            }
        });
    }
}

fn typographic(
    text: &CompactString,
    before: char,
    inner_open: &mut bool,
    quotes: Quotes,
) -> CompactString {
    if !text.contains(['"', '\'', '-', '.']) {
        return text.clone();
    }
    let mut spelled = CompactString::default();
    let mut last = before;
    let mut left = text.as_str();
    while let Some(c) = left.chars().next() {
        let (sign, taken): (&str, usize) = match c {
            '-' if left.starts_with("---") && !left.starts_with("----") => ("—", 3),
            '-' if left.starts_with("--") && !left.starts_with("---") => ("–", 2),
            '-' if last == ' ' && left.starts_with("- ") && !spelled.is_empty() => ("–", 1),
            '-' => {
                let run = left.len() - left.trim_start_matches('-').len();
                (left.get(..run).unwrap_or("-"), run)
            }
            '.' if left.starts_with("...") && !left.starts_with("....") => ("…", 3),
            '"' if opens_quotation(last, left) => (quotes.outer[0], 1),
            '"' => (quotes.outer[1], 1),
            '\'' => (single_quote(last, left, inner_open, quotes), 1),
            _ => (left.get(..c.len_utf8()).unwrap_or_default(), c.len_utf8()),
        };
        spelled.push_str(sign);
        left = left.get(taken..).unwrap_or_default();
        last = sign.chars().next_back().unwrap_or(c);
    }
    spelled
}

fn plain(text: &CompactString) -> CompactString {
    let mut spelled = CompactString::default();
    for c in text.chars() {
        match c {
            '“' | '”' | '„' | '‟' | '«' | '»' => spelled.push('"'),
            '‘' | '’' | '‚' | '‛' => spelled.push('\''),
            '–' => spelled.push_str("--"),
            '—' => spelled.push_str("---"),
            '…' => spelled.push_str("..."),
            c => spelled.push(c),
        }
    }
    spelled
}
