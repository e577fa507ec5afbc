use super::Repair;
use super::lines::{drop_empty, each_line, is_blank};
use crate::document::{CompactString, Document, Inline, LineBreak};
use crate::findings::{Code, Findings};

/// Runs of spaces become one, no-break spaces and tabs among them; spaces at the ends of lines go,
/// and so do spaces and tabs that only indent. A no-break space alone stays.
#[derive(Debug, Clone, Copy)]
pub struct DoubleSpaces;

impl Repair for DoubleSpaces {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            if tidied(line) {
                drop_empty(line);
                findings.count(Code::SpacesRepaired, "", Some(place));
            }
        });
    }
}

fn tidied(line: &mut Vec<Inline>) -> bool {
    let mut changed = false;
    // A line begins as if a space stood before it.
    tidy(line, &mut true, &mut changed);
    changed |= trim_end(line);
    if changed {
        // What is left of a format that held nothing but spaces stands in the way of those before it.
        drop_empty(line);
    }
    move_out(line, &mut changed);
    changed
}

/// A space at the start of a format goes before it, one at its end behind it.
fn move_out(inlines: &mut Vec<Inline>, changed: &mut bool) {
    for inline in std::mem::take(inlines) {
        let Inline::Formatted(mut formatted) = inline else {
            push_joined(inlines, inline);
            continue;
        };
        move_out(&mut formatted.content, changed);
        match formatted.content.first_mut() {
            Some(Inline::Text(text)) if text.starts_with(' ') => {
                *text = text.trim_start_matches(' ').into();
                push_space(inlines);
                *changed = true;
            }
            Some(Inline::Break(LineBreak::Soft)) => {
                inlines.push(formatted.content.remove(0));
                *changed = true;
            }
            _ => {}
        }
        let last = take_last_space(&mut formatted.content);
        inlines.push(Inline::Formatted(formatted));
        if let Some(space) = last {
            match space {
                Inline::Text(_) => push_space(inlines),
                line_ending => inlines.push(line_ending),
            }
            *changed = true;
        }
    }
}

/// Texts that stand together are one.
fn push_joined(inlines: &mut Vec<Inline>, inline: Inline) {
    match (inlines.last_mut(), inline) {
        (Some(Inline::Text(last)), Inline::Text(text)) => last.push_str(&text),
        (_, inline) => inlines.push(inline),
    }
}

/// The space or line ending at the end of what holds more than that.
fn take_last_space(content: &mut Vec<Inline>) -> Option<Inline> {
    let is_alone = content.len() == 1;
    match content.last_mut()? {
        Inline::Break(LineBreak::Soft) if !is_alone => content.pop(),
        Inline::Text(text) if text.as_str() == " " => content.pop_if(|_| !is_alone),
        Inline::Text(text) if text.ends_with(' ') => {
            text.pop();
            Some(Inline::Text(" ".into()))
        }
        _ => None,
    }
}

fn push_space(inlines: &mut Vec<Inline>) {
    match inlines.last_mut() {
        Some(Inline::Text(last)) => last.push(' '),
        _ => inlines.push(Inline::Text(" ".into())),
    }
}

fn tidy(inlines: &mut Vec<Inline>, after_space: &mut bool, changed: &mut bool) {
    inlines.retain_mut(|inline| {
        match inline {
            Inline::Text(text) => *changed |= collapse(text, after_space),
            // A line ending of the source shows as a space.
            Inline::Break(LineBreak::Soft) if *after_space => {
                *changed = true;
                return false;
            }
            Inline::Break(_) => *after_space = true,
            Inline::Formatted(formatted) => tidy(&mut formatted.content, after_space, changed),
            Inline::Link(link) => tidy(&mut link.content, after_space, changed),
            Inline::Anchor(_) | Inline::CommentMark(_) => {}
            _ => *after_space = false,
        }
        true
    });
}

fn collapse(text: &mut CompactString, after_space: &mut bool) -> bool {
    let is_tidy = {
        let mut after = *after_space;
        text.chars().all(|c| {
            let fits = !(is_space(c) && after) && c != '\t';
            after = is_space(c);
            fits
        })
    };
    if is_tidy {
        if let Some(last) = text.chars().next_back() {
            *after_space = is_space(last);
        }
        return false;
    }
    let mut tidy = CompactString::default();
    let mut run = *after_space;
    let mut chars = text.chars().peekable();
    while let Some(c) = chars.next() {
        if !is_space(c) {
            tidy.push(c);
            run = false;
        } else if !run {
            // The first of several: a no-break space that pads is no more than a space.
            let is_alone = chars.peek().is_none_or(|next| !is_space(*next));
            tidy.push(if is_alone && c != '\t' { c } else { ' ' });
            run = true;
        }
    }
    *after_space = run;
    *text = tidy;
    true
}

/// Takes spaces off the end of a line, and before its breaks.
fn trim_end(line: &mut Vec<Inline>) -> bool {
    let mut changed = false;
    trim_before_end(line, &mut true, &mut changed);
    changed
}

fn trim_before_end(inlines: &mut Vec<Inline>, at_end: &mut bool, changed: &mut bool) {
    let mut kept: Vec<Inline> = Vec::with_capacity(inlines.len());
    for mut inline in std::mem::take(inlines).into_iter().rev() {
        match &mut inline {
            Inline::Text(text) if *at_end => {
                let end = text.trim_end_matches(is_space).len();
                *changed |= end < text.len();
                text.truncate(end);
                *at_end = text.is_empty();
            }
            Inline::Break(LineBreak::Soft) if *at_end => {
                *changed = true;
                continue;
            }
            Inline::Break(LineBreak::Hard) => *at_end = true,
            Inline::Formatted(formatted) => {
                trim_before_end(&mut formatted.content, at_end, changed);
            }
            Inline::Link(link) => trim_before_end(&mut link.content, at_end, changed),
            Inline::Anchor(_) | Inline::CommentMark(_) => {}
            _ => *at_end = false,
        }
        kept.push(inline);
    }
    kept.reverse();
    *inlines = kept;
}

fn is_space(c: char) -> bool {
    is_blank(c) && c != '\n'
}
