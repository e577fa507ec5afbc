use super::Repair;
use super::lines::each_line;
use crate::document::{Document, Inline, LineBreak};
use crate::findings::{Code, Findings};

/// A line break inside a sentence becomes a space: the line before it ends without a mark, the one
/// behind it begins with a small letter.
#[derive(Debug, Clone, Copy)]
pub struct ManualBreaks;

impl Repair for ManualBreaks {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            for at in 1..line.len().saturating_sub(1) {
                let Some([before, middle, behind]) = line.get_mut(at - 1..at + 2) else { continue };
                if matches!(middle, Inline::Break(LineBreak::Hard))
                    && ends_open(before)
                    && begins_small(behind)
                {
                    *middle = Inline::Break(LineBreak::Soft);
                    findings.count(Code::BreaksRepaired, "", Some(place));
                }
            }
        });
    }
}

fn ends_open(inline: &Inline) -> bool {
    let Inline::Text(text) = inline else { return false };
    text.trim_end().ends_with(|c: char| c.is_alphanumeric() || c == ',')
}

fn begins_small(inline: &Inline) -> bool {
    let Inline::Text(text) = inline else { return false };
    text.trim_start().starts_with(char::is_lowercase)
}
