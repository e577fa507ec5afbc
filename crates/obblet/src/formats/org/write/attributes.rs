//! The lines before a block that say something about it.

use super::Writer;
use crate::document::{Attributes, Caption, Inline, Picture, Revision};
use crate::formats::org::read::{DYNAMIC, TABLE_FORMULAS};

/// The column at which tags of headings end.
pub(super) const TAG_COLUMN: usize = 77;

impl Writer<'_> {
    /// `#+name:` and `#+attr_html:`, and attributes for other targets as the source had them.
    pub(super) fn attribute_lines(&mut self, attributes: &Attributes, more: &[(&str, String)]) {
        self.tell_change(attributes.revision());
        let mut html: Vec<(String, String)> = Vec::new();
        let mut lines = String::new();
        if let Some(set) = attributes.get() {
            if let Some(id) = &set.id {
                let is_name = !id.contains(char::is_whitespace)
                    && !self.survey.heading_ids.contains(id.as_str());
                match is_name {
                    true => lines.push_str(&format!("#+name: {id}\n")),
                    false => html.push(("id".into(), id.to_string())),
                }
            }
            if !set.classes.is_empty() {
                html.push(("class".into(), set.classes.join(" ")));
            }
            if let Some(language) = &set.language {
                html.push(("lang".into(), language.to_string()));
            }
            if set.direction.is_some() {
                self.lost("a direction of writing");
            }
            if !set.audiences.is_empty() {
                html.push(("data-audience".into(), set.audiences.join(" ")));
            }
            for (name, value) in &set.pairs {
                match name.as_str() {
                    TABLE_FORMULAS | DYNAMIC => {}
                    "results" | "header" | "plot" => {
                        lines.push_str(format!("#+{name}: {value}").trim_end());
                        lines.push('\n');
                    }
                    name if name.starts_with("attr_") => {
                        lines.push_str(&format!("#+{name}: {value}\n"));
                    }
                    name => html.push((name.to_string(), value.to_string())),
                }
            }
        }
        html.extend(more.iter().map(|(name, value)| ((*name).to_string(), value.clone())));
        if !html.is_empty() {
            let pairs: Vec<String> = html.iter().map(|(name, value)| pair(name, value)).collect();
            lines.push_str(&format!("#+attr_html: {}\n", pairs.join(" ")));
        }
        self.lines(&lines);
    }

    fn tell_change(&mut self, revision: Option<&Revision>) {
        if revision.is_some() {
            self.lost("a tracked change of a block");
        }
    }

    /// `#+caption:`. The label that Org would show is not written.
    pub(super) fn caption_line(&mut self, caption: Option<&Caption>) {
        let Some(caption) = caption else { return };
        let mut parts = Vec::new();
        for block in &caption.content {
            match &block.kind {
                crate::document::BlockKind::Paragraph(content) => {
                    parts.push(self.one_line(content))
                }
                _ => self.lost("a caption of more than a paragraph"),
            }
        }
        self.lines(format!("#+caption: {}", parts.join(" ")).trim_end());
    }
}

fn pair(name: &str, value: &str) -> String {
    let is_quoted = value.split([' ', '\t']).any(|word| word.starts_with(':'))
        || value.is_empty()
        || value.starts_with('"');
    match is_quoted {
        true => format!(":{name} \"{}\"", value.replace('"', "\\\"")),
        false => format!(":{name} {value}"),
    }
}

/// What is said about a picture that stands alone.
pub(super) fn of_picture(inline: &Inline) -> Vec<(&'static str, String)> {
    let picture: &Picture = match inline {
        Inline::Picture(picture) => picture,
        Inline::Link(link) => match link.content.as_slice() {
            [Inline::Picture(picture)] => picture,
            _ => return Vec::new(),
        },
        _ => return Vec::new(),
    };
    let mut pairs = Vec::new();
    let alternative = crate::document::plain_text(&picture.alternative);
    if !alternative.is_empty() || picture.decorative {
        pairs.push(("alt", alternative));
    }
    for (name, size) in [("width", picture.width), ("height", picture.height)] {
        pairs.extend(size.map(|size| (name, size.to_string())));
    }
    pairs.extend(picture.title.as_ref().map(|title| ("title", title.to_string())));
    pairs
}
