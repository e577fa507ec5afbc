use super::Repair;
use crate::document::{BlockKind, Document};
use crate::findings::{Code, Findings};

/// When a document begins with a heading of the highest level and has more of that level, all
/// others go down by one.
#[derive(Debug, Clone, Copy)]
pub struct OneTopHeading;

impl Repair for OneTopHeading {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        let levels = || {
            document.blocks.iter().filter_map(|block| match &block.kind {
                BlockKind::Heading(heading) => Some(heading.level),
                _ => None,
            })
        };
        let (Some(first), Some(highest)) = (levels().next(), levels().min()) else { return };
        let tops = levels().filter(|level| *level == highest).count();
        if first != highest || tops < 2 {
            return;
        }
        let mut is_first = true;
        for block in &mut document.blocks {
            let place = block.place;
            let BlockKind::Heading(heading) = &mut block.kind else { continue };
            if !std::mem::take(&mut is_first) {
                heading.level = (heading.level + 1).min(9);
                findings.count(Code::HeadingLowered, "", Some(place));
            }
        }
    }
}
