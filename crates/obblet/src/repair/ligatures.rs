use super::Repair;
use super::lines::{Piece, each_line, each_piece};
use crate::document::Document;
use crate::findings::{Code, Findings};

/// The Latin ligatures of Unicode (`ﬁ`, `ﬂ` …) become their letters, so that words can be found.
#[derive(Debug, Clone, Copy)]
pub struct Ligatures;

impl Repair for Ligatures {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            let mut changed = false;
            each_piece(line, &mut |piece| {
                if let Piece::Text(text) = piece
                    && text.contains(|c| letters(c).is_some())
                {
                    let mut plain = String::with_capacity(text.len());
                    for c in text.chars() {
                        match letters(c) {
                            Some(letters) => plain.push_str(letters),
                            None => plain.push(c),
                        }
                    }
                    *text = plain.into();
                    changed = true;
                }
            });
            if changed {
                findings.count(Code::CharactersRepaired, "ligatures", Some(place));
            }
        });
    }
}

fn letters(c: char) -> Option<&'static str> {
    Some(match c {
        'ﬀ' => "ff",
        'ﬁ' => "fi",
        'ﬂ' => "fl",
        'ﬃ' => "ffi",
        'ﬄ' => "ffl",
        'ﬅ' | 'ﬆ' => "st",
        _ => return None,
    })
}
