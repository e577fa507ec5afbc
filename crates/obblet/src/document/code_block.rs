//! Preformatted text, and what stands in it besides characters.

use super::{CompactString, Formatted, Formatting, Inline, InlineCode, LineBreak, Link};
use super::{Node, Visit, walk_inlines};
use serde::{Deserialize, Serialize};

/// Preformatted text.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct CodeBlock {
    /// The lines, each ended by a newline, nothing escaped.
    pub text: String,
    /// The first word of what the source says about the code: usually its language.
    pub language: Option<CompactString>,
    /// All that the source says behind the language.
    pub details: Option<CompactString>,
    /// The same text where links, pictures or formats stand in it: its characters are
    /// [`Inline::Code`], each line but the last ends with a break. Empty where there are only
    /// characters.
    pub content: Vec<Inline>,
}

impl CodeBlock {
    /// Code that has only characters.
    #[must_use]
    pub fn of_text(text: impl Into<String>) -> Self {
        Self { text: text.into(), ..Self::default() }
    }

    /// Code of a line or several; texts become code, spans that say nothing go.
    #[must_use]
    pub fn of_inlines(inlines: Vec<Inline>) -> Self {
        let mut content = Vec::new();
        push_as_code(inlines, &mut content);
        let text = text_of(&content);
        let is_text = |inline: &Inline| matches!(inline, Inline::Code(_) | Inline::Break(_));
        if content.iter().all(is_text) {
            content.clear();
        }
        Self { text, content, ..Self::default() }
    }

    /// Adds the lines of another one.
    pub(crate) fn append(&mut self, other: Self) {
        if !self.content.is_empty() || !other.content.is_empty() {
            let mut content = std::mem::take(&mut self.content);
            if content.is_empty() {
                push_lines(without_last_end(&self.text), &mut content);
            }
            content.push(Inline::Break(LineBreak::Hard));
            match other.content.is_empty() {
                true => push_lines(without_last_end(&other.text), &mut content),
                false => content.extend(other.content),
            }
            self.content = content;
        }
        self.text.push_str(&other.text);
    }
}

/// The same inlines with their texts as code, in one line.
pub(crate) fn as_code(inlines: Vec<Inline>) -> Vec<Inline> {
    let mut content = Vec::new();
    push_as_code(inlines, &mut content);
    content
}

/// Links and formats nest no deeper than readers make them.
fn push_as_code(inlines: Vec<Inline>, out: &mut Vec<Inline>) {
    for inline in inlines {
        match inline {
            Inline::Text(text) => push_lines(&text, out),
            Inline::Code(code) if code.attributes.is_empty() => push_lines(&code.text, out),
            Inline::Link(link) => {
                let content = as_code(link.content);
                out.push(Inline::Link(Box::new(Link { content, ..*link })));
            }
            Inline::Formatted(formatted) if says_nothing(&formatted) => {
                push_as_code(formatted.content, out);
            }
            Inline::Formatted(formatted) => {
                let content = as_code(formatted.content);
                out.push(Inline::Formatted(Box::new(Formatted { content, ..*formatted })));
            }
            inline => out.push(inline),
        }
    }
}

/// Colours of code are made anew where it is shown.
fn says_nothing(formatted: &Formatted) -> bool {
    let attributes = formatted.attributes.get();
    formatted.format == Formatting::Plain
        && attributes.is_none_or(|set| {
            set.id.is_none() && set.revision.is_none() && set.audiences.is_empty()
        })
}

fn without_last_end(text: &str) -> &str {
    text.strip_suffix('\n').unwrap_or(text)
}

fn push_lines(text: &str, out: &mut Vec<Inline>) {
    for (index, line) in text.split('\n').enumerate() {
        if index > 0 {
            out.push(Inline::Break(LineBreak::Hard));
        }
        match out.last_mut() {
            _ if line.is_empty() => {}
            Some(Inline::Code(last)) if last.attributes.is_empty() => last.text.push_str(line),
            _ => {
                let text = line.into();
                out.push(Inline::Code(Box::new(InlineCode {
                    text,
                    attributes: Default::default(),
                })));
            }
        }
    }
}

/// The characters of inlines, every line ended.
fn text_of(content: &[Inline]) -> String {
    let mut text = String::new();
    for visit in walk_inlines(content) {
        let Visit::Enter(Node::Inline(inline)) = visit else { continue };
        match inline {
            Inline::Break(_) => text.push('\n'),
            Inline::Text(words) => text.push_str(words),
            Inline::Code(code) => text.push_str(&code.text),
            Inline::Formula(formula) => text.push_str(&formula.source),
            _ => {}
        }
    }
    if !text.is_empty() {
        text.push('\n');
    }
    text
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::build;

    #[test]
    fn characters_alone_are_text_and_a_link_makes_content() {
        let plain = CodeBlock::of_inlines(vec!["one\n".into(), "  two".into()]);
        assert_eq!((plain.text.as_str(), plain.content.len()), ("one\n  two\n", 0));
        let link = build::link("b.html", vec!["two".into()]);
        let rich = CodeBlock::of_inlines(vec!["one ".into(), link, "\nthree".into()]);
        assert_eq!(rich.text, "one two\nthree\n");
        assert_eq!(rich.content.len(), 4);
    }

    #[test]
    fn lines_are_added_to_both() {
        let mut code = CodeBlock::of_text("one\n");
        code.append(CodeBlock::of_text("two\n"));
        assert_eq!((code.text.as_str(), code.content.len()), ("one\ntwo\n", 0));
        code.append(CodeBlock::of_inlines(vec![build::link("b.html", vec!["three".into()])]));
        assert_eq!((code.text.as_str(), code.content.len()), ("one\ntwo\nthree\n", 5));
    }
}
