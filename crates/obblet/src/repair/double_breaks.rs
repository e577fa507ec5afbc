use super::Repair;
use super::lines::{each_flow, is_blank};
use crate::document::{Block, BlockKind, Document, Inline, LineBreak};
use crate::findings::{Code, Findings};

/// Two or more line breaks in a row part paragraphs, as people mean them to.
#[derive(Debug, Clone, Copy)]
pub struct DoubleBreaks;

impl Repair for DoubleBreaks {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_flow(document, |blocks| {
            let has_double = |block: &Block| match &block.kind {
                BlockKind::Paragraph(content) => first_double(content).is_some(),
                _ => false,
            };
            if !blocks.iter().any(has_double) {
                return;
            }
            for block in std::mem::take(blocks) {
                let Block { kind: BlockKind::Paragraph(content), attributes, place } = block else {
                    blocks.push(block);
                    continue;
                };
                let mut attributes = Some(attributes);
                for part in parts(content) {
                    let attributes = match attributes.take() {
                        Some(first) => first,
                        None => {
                            findings.count(Code::BreaksRepaired, "", Some(place));
                            Default::default()
                        }
                    };
                    blocks.push(Block { kind: BlockKind::Paragraph(part), attributes, place });
                }
            }
        });
    }
}

/// Where a run of at least two breaks begins and ends.
fn first_double(content: &[Inline]) -> Option<(usize, usize)> {
    let mut start = None;
    let mut breaks = 0;
    for (at, inline) in content.iter().enumerate() {
        match inline {
            Inline::Break(LineBreak::Hard) => {
                start.get_or_insert(at);
                breaks += 1;
            }
            Inline::Text(text) if start.is_some() && text.chars().all(is_blank) => {}
            Inline::Break(LineBreak::Soft) => {}
            _ if breaks >= 2 => return start.map(|start| (start, at)),
            _ => (start, breaks) = (None, 0),
        }
    }
    (breaks >= 2).then_some((start?, content.len()))
}

fn parts(mut content: Vec<Inline>) -> Vec<Vec<Inline>> {
    // Gathered from the end, so that each step moves only what it keeps.
    let mut parts = Vec::new();
    while let Some((start, end)) = first_double(&content) {
        let rest = content.split_off(end);
        content.truncate(start);
        if !content.is_empty() {
            parts.push(content);
        }
        content = rest;
    }
    if !content.is_empty() || parts.is_empty() {
        parts.push(content);
    }
    parts
}
