use super::Repair;
use super::lines::each_line;
use crate::document::{Document, Formatting, Inline};
use crate::findings::{Code, Findings};

/// Underlining around or inside a link goes: links show that they are links.
#[derive(Debug, Clone, Copy)]
pub struct UnderlinedLinks;

impl Repair for UnderlinedLinks {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            let mut changed = false;
            tidy(line, false, &mut changed);
            if changed {
                findings.count(Code::FormattingRepaired, "", Some(place));
            }
        });
    }
}

fn tidy(inlines: &mut Vec<Inline>, in_link: bool, changed: &mut bool) {
    let mut done = Vec::with_capacity(inlines.len());
    for mut inline in std::mem::take(inlines) {
        match &mut inline {
            Inline::Link(link) => tidy(&mut link.content, true, changed),
            Inline::Formatted(formatted) => {
                tidy(&mut formatted.content, in_link, changed);
                let is_link = matches!(formatted.content.as_slice(), [Inline::Link(_)]);
                if formatted.format == Formatting::Underline
                    && formatted.attributes.is_empty()
                    && (in_link || is_link)
                {
                    done.append(&mut formatted.content);
                    *changed = true;
                    continue;
                }
            }
            _ => {}
        }
        done.push(inline);
    }
    *inlines = done;
}
