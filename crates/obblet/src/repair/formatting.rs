use super::Repair;
use super::lines::{each_line, is_blank};
use crate::document::{Document, Formatted, Formatting, Inline, LineBreak};
use crate::findings::{Code, Findings};

/// Neighbours of one format become one; a format inside the same format goes; a format around
/// nothing but spaces goes, and so does a span that says nothing.
#[derive(Debug, Clone, Copy)]
pub struct FormattingRepair;

impl Repair for FormattingRepair {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            let mut changed = false;
            tidy(line, &mut Vec::new(), &mut changed);
            if changed {
                findings.count(Code::FormattingRepaired, "", Some(place));
            }
        });
    }
}

fn tidy(inlines: &mut Vec<Inline>, around: &mut Vec<Formatting>, changed: &mut bool) {
    let mut done: Vec<Inline> = Vec::with_capacity(inlines.len());
    for mut inline in std::mem::take(inlines) {
        match &mut inline {
            Inline::Formatted(formatted) => {
                around.push(formatted.format);
                tidy(&mut formatted.content, around, changed);
                around.pop();
                if says_nothing(formatted, around) {
                    *changed = true;
                    std::mem::take(&mut formatted.content)
                        .into_iter()
                        .for_each(|inner| push(&mut done, inner, changed));
                    continue;
                }
            }
            Inline::Link(link) => tidy(&mut link.content, around, changed),
            _ => {}
        }
        push(&mut done, inline, changed);
    }
    *inlines = done;
}

fn says_nothing(formatted: &Formatted, around: &[Formatting]) -> bool {
    let is_blank_text = |inline: &Inline| match inline {
        Inline::Text(text) => text.chars().all(is_blank),
        _ => false,
    };
    formatted.attributes.is_empty()
        && (formatted.format == Formatting::Plain
            || around.contains(&formatted.format) && is_flat(formatted.format)
            || !shows_spaces(formatted.format) && formatted.content.iter().all(is_blank_text))
}

/// Formats that mean no more when they are there twice.
fn is_flat(format: Formatting) -> bool {
    matches!(
        format,
        Formatting::Strong
            | Formatting::Emphasis
            | Formatting::Underline
            | Formatting::Struck
            | Formatting::Highlight
            | Formatting::SmallCapitals
    )
}

fn shows_spaces(format: Formatting) -> bool {
    matches!(format, Formatting::Underline | Formatting::Struck | Formatting::Highlight)
}

/// Adds an inline, to the one before where both are the same, also with spaces between them.
fn push(done: &mut Vec<Inline>, inline: Inline, changed: &mut bool) {
    match (done.last_mut(), inline) {
        (Some(Inline::Text(last)), Inline::Text(text)) => last.push_str(&text),
        (Some(_), Inline::Formatted(mut next)) if is_mergeable(&next) => {
            let at = counterpart(done, &next);
            let gap = at.map_or(Vec::new(), |at| done.split_off(at + 1));
            let Some(Inline::Formatted(last)) = done.last_mut().filter(|_| at.is_some()) else {
                return done.push(Inline::Formatted(next));
            };
            *changed = true;
            for inner in gap.into_iter().chain(std::mem::take(&mut next.content)) {
                push(&mut last.content, inner, changed);
            }
        }
        (_, inline) => done.push(inline),
    }
}

fn is_mergeable(formatted: &Formatted) -> bool {
    is_flat(formatted.format) && formatted.attributes.is_empty()
}

/// The index of the same format right before, or before a space.
fn counterpart(done: &[Inline], next: &Formatted) -> Option<usize> {
    let is_gap = |inline: &Inline| match inline {
        Inline::Text(text) => text.chars().all(is_blank),
        Inline::Break(LineBreak::Soft) => true,
        _ => false,
    };
    let last = done.iter().rposition(|inline| !is_gap(inline))?;
    match done.get(last)? {
        Inline::Formatted(before) if before.format == next.format && is_mergeable(before) => {
            Some(last)
        }
        _ => None,
    }
}
