use super::Repair;
use super::lines::{each_flow, is_blank};
use crate::document::{
    Block, BlockKind, Document, Inline, ListParagraph, Mark, NumeralStyle, nested_lists,
};
use crate::findings::{Code, Findings};

/// Paragraphs that begin with a typed bullet or number become lists: two or more in a row, numbers
/// counting on.
#[derive(Debug, Clone, Copy)]
pub struct TypedLists;

impl Repair for TypedLists {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_flow(document, |blocks| {
            if blocks.iter().filter(|block| mark(block).is_some()).count() >= 2 {
                *blocks = with_lists(std::mem::take(blocks), findings);
            }
        });
    }
}

fn with_lists(blocks: Vec<Block>, findings: &mut Findings) -> Vec<Block> {
    let mut done = Vec::with_capacity(blocks.len());
    let mut run: Vec<(Mark, Block)> = Vec::new();
    for block in blocks {
        match mark(&block) {
            Some(mark) => {
                if run.last().is_some_and(|(last, _)| !follows(last, &mark)) {
                    end_run(&mut run, &mut done, findings);
                }
                run.push((mark, block));
            }
            None => {
                end_run(&mut run, &mut done, findings);
                done.push(block);
            }
        }
    }
    end_run(&mut run, &mut done, findings);
    done
}

fn end_run(run: &mut Vec<(Mark, Block)>, done: &mut Vec<Block>, findings: &mut Findings) {
    let run = std::mem::take(run);
    if run.len() < 2 || !run.first().is_some_and(|(mark, _)| begins_list(mark)) {
        return done.extend(run.into_iter().map(|(_, block)| block));
    }
    if let Some((_, first)) = run.first() {
        findings.add(Code::TypedListMade, Some(first.place));
    }
    let item = |(mark, mut block): (Mark, Block)| {
        without_mark(&mut block);
        ListParagraph { level: 1, list: Default::default(), mark, block }
    };
    done.extend(nested_lists(run.into_iter().map(item).collect()));
}

/// Whether a mark can be the next of the same list.
fn follows(last: &Mark, next: &Mark) -> bool {
    match (last, next) {
        (Mark::Bullet(one), Mark::Bullet(two)) => one == two,
        (Mark::Number(one, delimiter), Mark::Number(two, next_delimiter)) => {
            delimiter == next_delimiter
                && one.iter().any(|(style, number)| two.contains(&(*style, number + 1)))
        }
        _ => false,
    }
}

/// The text a paragraph begins with, when that is a mark and something follows.
fn mark(block: &Block) -> Option<Mark> {
    let BlockKind::Paragraph(content) = &block.kind else { return None };
    let Some(Inline::Text(text)) = content.first() else { return None };
    let (mark, rest) = split(text)?;
    let has_more = !rest.trim_matches(is_blank).is_empty() || content.len() > 1;
    Mark::of(mark).filter(|_| has_more)
}

/// Whether marks that begin so are a list's: letters count from one, or they are initials.
fn begins_list(mark: &Mark) -> bool {
    match mark {
        Mark::Bullet(_) => true,
        Mark::Number(readings, _) => {
            readings.iter().any(|(style, number)| *style == NumeralStyle::Decimal || *number == 1)
        }
    }
}

fn split(text: &str) -> Option<(&str, &str)> {
    let text = text.trim_start_matches(is_blank);
    let end = text.find(is_blank)?;
    Some((text.get(..end)?, text.get(end..)?))
}

fn without_mark(block: &mut Block) {
    let BlockKind::Paragraph(content) = &mut block.kind else { return };
    let Some(Inline::Text(text)) = content.first_mut() else { return };
    let rest = split(text).map_or("", |(_, rest)| rest.trim_start_matches(is_blank)).into();
    *text = rest;
    if text.is_empty() {
        content.remove(0);
    }
}
