//! HTML inside another format: what a writer says in tags because its own format has no words for
//! it.

use crate::document::{
    Attributes, Block, BlockKind, Document, Formatted, Inline, Node, PictureSource, Revision,
    RevisionKind, Visit, walk_inlines,
};
use crate::formats::html::{
    HtmlWriteOptions, RawHtml, element_of, escaped_text, is_language_tag, write_body,
};

/// An opening tag with what HTML can say of the attributes.
pub(crate) fn open_tag(name: &str, attributes: &Attributes) -> String {
    let mut tag = format!("<{name}");
    if let Some(set) = attributes.get() {
        if let Some(id) = &set.id {
            push_attribute(&mut tag, "id", id);
        }
        if !set.classes.is_empty() {
            push_attribute(&mut tag, "class", &set.classes.join(" "));
        }
        if let Some(language) = set.language.as_deref().filter(|tag| is_language_tag(tag)) {
            push_attribute(&mut tag, "lang", language);
        }
        if let Some(direction) = set.direction {
            push_attribute(&mut tag, "dir", direction.html());
        }
        if let Some(title) = attributes.pair("title") {
            push_attribute(&mut tag, "title", title);
        }
    }
    tag.push('>');
    tag
}

/// Adds ` name="value"`.
pub(crate) fn push_attribute(tag: &mut String, name: &str, value: &str) {
    tag.push(' ');
    tag.push_str(name);
    tag.push_str("=\"");
    // A line ending inside a tag would begin a new line of the format around it.
    tag.push_str(&escaped_text(value).replace('\n', "&#10;"));
    tag.push('"');
}

/// The tags for a format of text, its tracked change included; `None` when HTML has no element
/// for it.
pub(crate) fn tags_of(formatted: &Formatted) -> Option<(String, String)> {
    let attributes = &formatted.attributes;
    let (mut open, mut close) = match element_of(formatted.format) {
        Some(name) => (open_tag(name, attributes), format!("</{name}>")),
        None => {
            let open = open_tag("span", attributes);
            if open == "<span>" { Default::default() } else { (open, "</span>".to_string()) }
        }
    };
    if let Some((change, element)) = attributes.revision().and_then(change_tag) {
        open.insert_str(0, &change);
        close.push_str(&format!("</{element}>"));
    }
    (!open.is_empty()).then_some((open, close))
}

fn change_tag(revision: &Revision) -> Option<(String, &'static str)> {
    let element = match revision.kind {
        RevisionKind::Insertion | RevisionKind::MoveTarget => "ins",
        RevisionKind::Deletion | RevisionKind::MoveSource => "del",
        RevisionKind::Formatting => return None,
    };
    let mut tag = format!("<{element}");
    if let Some(date) = &revision.date {
        push_attribute(&mut tag, "datetime", date);
    }
    if let Some(author) = &revision.author {
        push_attribute(&mut tag, "title", author);
    }
    tag.push('>');
    Some((tag, element))
}

/// Inlines as HTML in one line; `None` when they hold something that only the format around them
/// can say: a note's mark, a formula, a picture of the document's own.
pub(crate) fn inline_html(inlines: &[Inline]) -> Option<String> {
    for visit in walk_inlines(inlines) {
        let Visit::Enter(Node::Inline(inline)) = visit else { continue };
        let sayable = match inline {
            Inline::Text(_) | Inline::Break(_) | Inline::Code(_) | Inline::Ruby(_) => true,
            Inline::Formatted(formatted) => {
                formatted.attributes.get().is_none_or(|set| set.audiences.is_empty())
            }
            Inline::Link(_) | Inline::Anchor(_) => true,
            Inline::Picture(picture) => matches!(picture.source, PictureSource::Address(_)),
            Inline::Foreign(foreign) => foreign.format == "html",
            _ => false,
        };
        if !sayable {
            return None;
        }
    }
    let options = HtmlWriteOptions { raw_html: RawHtml::Trusted, ..HtmlWriteOptions::default() };
    let paragraph = Block::new(BlockKind::Paragraph(inlines.to_vec()));
    let (body, findings) = write_body(&Document::of(vec![paragraph]), &options).ok()?;
    if !findings.is_empty() {
        return None;
    }
    let html = body.html.trim_end();
    let html = html.strip_prefix("<p>").and_then(|html| html.strip_suffix("</p>"))?;
    Some(html.replace("<br>\n", "<br>").replace('\n', " "))
}
