use super::Repair;
use super::lines::{each_flow, is_blank};
use crate::document::{Block, BlockKind, Document, GroupRole, Inline};
use crate::findings::{Code, Findings};

/// Paragraphs, headings and groups in which there is nothing to see go, and so do breaks at the
/// start and end of paragraphs and headings. What links may point to stays.
#[derive(Debug, Clone, Copy)]
pub struct EmptyParagraphs;

impl Repair for EmptyParagraphs {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_flow(document, |blocks| {
            for block in blocks.iter_mut() {
                let content = match &mut block.kind {
                    BlockKind::Paragraph(content) => content,
                    BlockKind::Heading(heading) => &mut heading.content,
                    _ => continue,
                };
                // What links may point to stays, but not its breaks.
                let has_break = content.iter().any(|inline| matches!(inline, Inline::Break(_)));
                if has_break && content.iter().all(is_nothing) {
                    content.clear();
                    findings.count(Code::BreaksRepaired, "", Some(block.place));
                }
                if content.iter().any(|inline| !is_nothing(inline)) && without_outer_breaks(content)
                {
                    findings.count(Code::BreaksRepaired, "", Some(block.place));
                }
            }
            let before = blocks.len();
            let place = blocks.iter().find(|block| is_empty(block)).map(|block| block.place);
            blocks.retain(|block| !is_empty(block));
            for _ in blocks.len()..before {
                findings.count(Code::EmptyRemoved, "", place);
            }
        });
    }
}

fn is_empty(block: &Block) -> bool {
    let has_id = block.attributes.id().is_some();
    !has_id
        && match &block.kind {
            BlockKind::Paragraph(content) => content.iter().all(is_nothing),
            BlockKind::Heading(heading) => {
                heading.content.iter().all(is_nothing) && heading.number.is_none()
            }
            BlockKind::Group(group) => {
                matches!(group.role, GroupRole::Plain | GroupRole::Centred)
                    && group.content.iter().all(|block| {
                        is_empty(block) || matches!(block.kind, BlockKind::SourceRemark(_))
                    })
            }
            _ => false,
        }
}

fn is_nothing(inline: &Inline) -> bool {
    match inline {
        Inline::Text(text) => text.chars().all(is_blank),
        Inline::Break(_) => true,
        Inline::Formatted(formatted) => {
            formatted.attributes.id().is_none() && formatted.content.iter().all(is_nothing)
        }
        Inline::Link(link) => link.attributes.id().is_none() && link.content.iter().all(is_nothing),
        _ => false,
    }
}

fn without_outer_breaks(content: &mut Vec<Inline>) -> bool {
    let before = content.len();
    while content.last().is_some_and(is_nothing) {
        content.pop();
    }
    let first = content.iter().position(|inline| !is_nothing(inline)).unwrap_or(0);
    // Spaces alone are another pass's work.
    if content.get(..first).is_some_and(|start| start.iter().any(|i| matches!(i, Inline::Break(_))))
    {
        content.drain(..first);
    }
    content.len() < before
}
