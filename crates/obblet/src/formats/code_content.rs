//! What preformatted text holds besides characters, for formats that keep only these.

use crate::document::{CodeBlock, Formatting, Inline, Node, Place, Visit, walk_inlines};
use crate::findings::{Code, Findings};

/// Reports what goes where code is characters alone.
pub(crate) fn report_lost(code: &CodeBlock, place: Place, findings: &mut Findings) {
    for visit in walk_inlines(&code.content) {
        let Visit::Enter(Node::Inline(inline)) = visit else { continue };
        let subject = match inline {
            Inline::Link(_) => "a link in code",
            Inline::Picture(_) => "a picture in code",
            Inline::NoteMark(_) => "a mark of a note in code",
            Inline::CommentMark(_) => "a comment in code",
            Inline::Anchor(_) => "a place that links point to in code",
            Inline::Formatted(formatted) if formatted.attributes.revision().is_some() => {
                "a tracked change in code"
            }
            Inline::Formatted(formatted) if formatted.format == Formatting::Deleted => {
                "struck text in code"
            }
            Inline::Formatted(formatted) if formatted.format != Formatting::Plain => {
                "a format in code"
            }
            _ => continue,
        };
        findings.count(Code::NodeNotCarried, subject, Some(place));
    }
}
