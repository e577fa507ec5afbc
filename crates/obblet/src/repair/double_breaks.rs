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
            let is_parted = |block: &Block| match &block.kind {
                BlockKind::Paragraph(content) => has_double(content),
                _ => false,
            };
            if !blocks.iter().any(is_parted) {
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

/// Whether two breaks stand in a row, spaces between them passed over.
fn has_double(content: &[Inline]) -> bool {
    let mut breaks = 0;
    content.iter().any(|inline| {
        breaks = match inline {
            Inline::Break(LineBreak::Hard) => breaks + 1,
            inline if goes_on(inline, breaks > 0) => breaks,
            _ => 0,
        };
        breaks >= 2
    })
}

/// The content between runs of breaks.
fn parts(content: Vec<Inline>) -> Vec<Vec<Inline>> {
    let mut parts = vec![Vec::new()];
    // Breaks, and the spaces among them, that may turn out to part paragraphs.
    let mut gap: Vec<Inline> = Vec::new();
    for inline in content {
        if goes_on(&inline, !gap.is_empty()) {
            gap.push(inline);
            continue;
        }
        if is_double(&gap) {
            gap.clear();
            parts.push(Vec::new());
        }
        if let Some(part) = parts.last_mut() {
            part.append(&mut gap);
            part.push(inline);
        }
    }
    if !is_double(&gap)
        && let Some(part) = parts.last_mut()
    {
        part.append(&mut gap);
    }
    parts.retain(|part| !part.is_empty());
    if parts.is_empty() { vec![Vec::new()] } else { parts }
}

/// Whether an inline begins a run of breaks, or goes on with one.
fn goes_on(inline: &Inline, in_run: bool) -> bool {
    match inline {
        Inline::Break(LineBreak::Hard) => true,
        Inline::Break(LineBreak::Soft) => in_run,
        Inline::Text(text) => in_run && text.chars().all(is_blank),
        _ => false,
    }
}

fn is_double(gap: &[Inline]) -> bool {
    gap.iter().filter(|inline| matches!(inline, Inline::Break(LineBreak::Hard))).count() >= 2
}
