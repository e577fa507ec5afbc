use super::Repair;
use super::lines::{Piece, drop_empty, each_line, each_piece};
use crate::document::Document;
use crate::findings::{Code, Findings};

/// Characters that nobody sees and nobody typed go: byte order marks, word joiners, object
/// replacement characters, controls. Joiners of scripts that need them, soft hyphens, places for
/// line breaks and marks of direction stay.
#[derive(Debug, Clone, Copy)]
pub struct InvisibleCharacters;

impl Repair for InvisibleCharacters {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            let mut changed = false;
            each_piece(line, &mut |piece| {
                if let Piece::Text(text) = piece
                    && text.contains(is_stray)
                {
                    text.retain(|c| !is_stray(c));
                    changed = true;
                }
            });
            if changed {
                drop_empty(line);
                findings.count(Code::CharactersRepaired, "invisible", Some(place));
            }
        });
    }
}

fn is_stray(c: char) -> bool {
    matches!(c, '\u{feff}' | '\u{2060}' | '\u{fffc}' | '\u{180e}')
        || (c.is_control() && c != '\t' && c != '\n')
}
