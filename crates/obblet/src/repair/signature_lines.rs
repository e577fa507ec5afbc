use super::Repair;
use super::lines::{each_flow, is_blank};
use super::typed_leaders::LONGEST_LINE;
use crate::document::{Block, BlockKind, Document, Inline, LineBreak, Place, plain_text};
use crate::findings::{Code, Findings};

/// A line of underscores and the few words below it, who signs and where, become one paragraph, so
/// that they stay together and are not taken for a thematic break.
#[derive(Debug, Clone, Copy)]
pub struct SignatureLines;

/// Underscores that make a line.
const FEWEST_UNDERSCORES: usize = 8;
/// Characters of what is to be signed there.
const LONGEST_LABEL: usize = 60;

impl Repair for SignatureLines {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_flow(document, |blocks| {
            let is_signed =
                |pair: &[Block]| matches!(pair, [line, label] if is_line(line) && is_label(label));
            if blocks.windows(2).any(is_signed) {
                *blocks = joined(std::mem::take(blocks), findings);
            }
        });
    }
}

fn joined(blocks: Vec<Block>, findings: &mut Findings) -> Vec<Block> {
    let mut done: Vec<Block> = Vec::with_capacity(blocks.len());
    for mut block in blocks {
        let line = done.pop_if(|line| is_line(line) && is_label(&block));
        if let (Some(Block { place, .. }), BlockKind::Paragraph(label)) = (line, &mut block.kind) {
            let line = Inline::Text("_".repeat(LONGEST_LINE).into());
            label.splice(..0, [line, Inline::Break(LineBreak::Hard)]);
            findings.count(Code::LeadersRepaired, "", Some(place));
            block.place = Place { end: block.place.end, ..place };
        }
        done.push(block);
    }
    done
}

/// A paragraph of nothing but one line to sign on.
fn is_line(block: &Block) -> bool {
    let BlockKind::Paragraph(content) = &block.kind else { return false };
    let [Inline::Text(text)] = content.as_slice() else { return false };
    let drawn = text.trim_matches(is_blank);
    block.attributes.id().is_none()
        && drawn.len() >= FEWEST_UNDERSCORES
        && drawn.bytes().all(|byte| byte == b'_')
}

/// A paragraph of a few words that are no sentence.
fn is_label(block: &Block) -> bool {
    let BlockKind::Paragraph(content) = &block.kind else { return false };
    let text = plain_text(content);
    let said = text.trim_matches(is_blank);
    !said.is_empty()
        && said.chars().count() <= LONGEST_LABEL
        && !said.ends_with(['.', '!', '?', '…', ':', ';'])
        && said.contains(char::is_alphabetic)
        && !said.contains("___")
}
