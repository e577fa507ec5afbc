use super::Repair;
use crate::document::{Block, BlockKind, Document, Formatting, Heading, Inline, plain_text};
use crate::findings::{Code, Findings};

/// Longest heading that is taken for one, in characters.
const LONGEST: usize = 80;

/// A short paragraph that is bold as a whole and has text below it becomes a heading, one level
/// below the heading before it. The finding says why.
#[derive(Debug, Clone, Copy)]
pub struct BoldHeadings;

impl Repair for BoldHeadings {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        let mut level = 0;
        let blocks = &mut document.blocks;
        for at in 0..blocks.len() {
            let has_text_below = blocks.get(at + 1).is_some_and(|next| {
                !matches!(next.kind, BlockKind::Heading(_)) && bold_words(next).is_none()
            });
            let Some(block) = blocks.get_mut(at) else { continue };
            if let BlockKind::Heading(heading) = &block.kind {
                level = heading.level;
            }
            if !has_text_below {
                continue;
            }
            let Some(content) = bold_words(block) else { continue };
            let subject = plain_text(&content);
            findings.add_about(Code::BoldHeadingMade, &subject, Some(block.place));
            let level = (level + 1).clamp(2, 6);
            block.kind =
                BlockKind::Heading(Box::new(Heading { level, content, ..Default::default() }));
        }
    }
}

/// The words of a paragraph that is nothing but strong text, short and without a period.
fn bold_words(block: &Block) -> Option<Vec<Inline>> {
    let BlockKind::Paragraph(content) = &block.kind else { return None };
    let [Inline::Formatted(strong)] = content.as_slice() else { return None };
    let text = plain_text(&strong.content);
    let is_short = text.chars().count() <= LONGEST;
    let is_sentence = text.trim_end().ends_with(['.', ',', ';', ':', '!', '?']);
    let fits = strong.format == Formatting::Strong && is_short && !is_sentence && !text.is_empty();
    fits.then(|| strong.content.clone())
}
