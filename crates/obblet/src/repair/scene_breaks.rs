use super::Repair;
use super::lines::each_flow;
use crate::document::{Block, BlockKind, Document, plain_text};
use crate::findings::{Code, Findings};

/// Paragraphs of nothing but asterisks, hyphens, number signs or the like (`* * *`) become
/// thematic breaks.
#[derive(Debug, Clone, Copy)]
pub struct SceneBreaks;

impl Repair for SceneBreaks {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_flow(document, |blocks| {
            for block in blocks.iter_mut().filter(|block| is_scene_break(block)) {
                block.kind = BlockKind::ThematicBreak;
                findings.count(Code::SceneBreakMade, "", Some(block.place));
            }
        });
    }
}

fn is_scene_break(block: &Block) -> bool {
    let BlockKind::Paragraph(content) = &block.kind else { return false };
    if content.len() > 8 {
        return false;
    }
    let text: String = plain_text(content).chars().filter(|c| !c.is_whitespace()).collect();
    let mut chars = text.chars();
    let Some(first) = chars.next() else { return false };
    let count = text.chars().count();
    match first {
        '⁂' | '❦' | '❧' => count == 1,
        '*' | '#' | '~' | '•' | '-' | '_' | '–' | '—' | '=' | '◆' | '✦' | '·' => {
            (3..=60).contains(&count) && chars.all(|c| c == first)
        }
        _ => false,
    }
}
