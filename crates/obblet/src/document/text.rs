//! The plain text of inlines: for titles, ids, alternative texts.

use super::{Inline, Node, Visit, walk_inlines};

/// The words of these inlines, without any format. Soft and hard breaks become spaces; pictures
/// give their alternative text; note and comment marks give nothing.
#[must_use]
pub fn plain_text(inlines: &[Inline]) -> String {
    let mut text = String::new();
    push_plain_text(inlines, &mut text);
    text
}

/// Adds the words of these inlines to `text`.
pub fn push_plain_text(inlines: &[Inline], text: &mut String) {
    // One text and nothing else is by far the most common case.
    if let [Inline::Text(only)] = inlines {
        text.push_str(only);
        return;
    }
    for visit in walk_inlines(inlines) {
        let Visit::Enter(Node::Inline(inline)) = visit else { continue };
        match inline {
            Inline::Text(words) => text.push_str(words),
            Inline::Break(_) => text.push(' '),
            Inline::Code(code) => text.push_str(&code.text),
            Inline::Formula(formula) => text.push_str(&formula.source),
            // Their own parts are visited next.
            Inline::Formatted(_) | Inline::Link(_) | Inline::Ruby(_) => {}
            Inline::Reference(_) | Inline::Citation(_) | Inline::Picture(_) => {}
            Inline::NoteMark(_) | Inline::CommentMark(_) | Inline::Anchor(_) => {}
            Inline::CheckBox(_) | Inline::Timestamp(_) | Inline::Foreign(_) => {}
        }
    }
}
