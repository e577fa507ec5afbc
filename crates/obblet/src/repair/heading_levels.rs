use super::Repair;
use crate::document::{BlockKind, Document};
use crate::findings::{Code, Findings};

/// Headings that jump levels come up to the level below the heading before them; headings of one
/// level stay of one.
#[derive(Debug, Clone, Copy)]
pub struct HeadingLevels;

impl Repair for HeadingLevels {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        // The headings around, outermost first: the level they had and the one they got.
        let mut around: Vec<(u8, u8)> = Vec::new();
        for block in &mut document.blocks {
            let place = block.place;
            let BlockKind::Heading(heading) = &mut block.kind else { continue };
            let wanted = heading.level;
            while around.last().is_some_and(|(level, _)| *level >= wanted) {
                around.pop();
            }
            let level = around.last().map_or(wanted, |(_, above)| wanted.min(above + 1));
            around.push((wanted, level));
            if level != wanted {
                heading.level = level;
                let subject = format!("{wanted} became one of level {level}");
                findings.add_about(Code::HeadingLevelRaised, &subject, Some(place));
            }
        }
    }
}
