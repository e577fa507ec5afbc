//! HTML inside another format: what a writer says in tags because its own format has no words for
//! it, and what a reader found in tags, made real.

use crate::document::{
    Attributes, Block, BlockKind, CodeBlock, Document, Formatted, GroupRole, Inline, Node,
    PictureSource, Place, Revision, RevisionKind, Visit, walk_inlines,
};
use crate::findings::{Code, Findings};
use crate::formats::html::{
    HtmlWriteOptions, Part, RawHtml, RawPiece, bounded, element_of, escaped_text, is_language_tag,
    read_inline_parts, read_parts, write_body,
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
    let paragraph = Block::new(BlockKind::Paragraph(inlines.to_vec()));
    let html = html_of(paragraph).filter(|_| are_sayable(inlines))?;
    let html = html.strip_prefix("<p>").and_then(|html| html.strip_suffix("</p>"))?;
    Some(html.replace("<br>\n", "<br>").replace('\n', " "))
}

/// Code with more than characters as HTML; `None` for the same reasons.
pub(crate) fn code_html(code: &CodeBlock, attributes: &Attributes) -> Option<String> {
    let mut block = Block::new(BlockKind::Code(Box::new(code.clone())));
    block.attributes = attributes.clone();
    html_of(block).filter(|_| are_sayable(&code.content))
}

fn are_sayable(inlines: &[Inline]) -> bool {
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
            return false;
        }
    }
    true
}

/// `None` where not all of it can be written.
fn html_of(block: Block) -> Option<String> {
    let options = HtmlWriteOptions { raw_html: RawHtml::Trusted, ..HtmlWriteOptions::default() };
    let (body, findings) = write_body(&Document::of(vec![block]), &options).ok()?;
    findings.is_empty().then(|| body.html.trim_end().to_string())
}

/// Makes raw HTML in a document real blocks and inlines. An element may begin in one piece of raw
/// HTML and end in another, with blocks of the document between them.
pub(crate) fn resolve(document: &mut Document, findings: &mut Findings) {
    resolve_blocks(&mut document.blocks, findings);
    for note in &mut document.notes {
        resolve_blocks(&mut note.content, findings);
    }
}

/// Recursion is bounded by the depth readers nest blocks to.
fn resolve_blocks(blocks: &mut Vec<Block>, findings: &mut Findings) {
    blocks.iter_mut().for_each(|block| resolve_inside(block, findings));
    if !blocks.iter().any(|block| html_of_block(block).is_some()) {
        return;
    }
    let raw: Vec<_> = blocks.iter().filter_map(html_of_block).map(in_block).collect();
    let bounded = bounded(&raw);
    bound(blocks.iter_mut().filter_map(html_of_block_mut), bounded, findings);
    let (mut html, mut lines, mut parts) = (String::new(), Vec::new(), Vec::new());
    for block in blocks.drain(..) {
        match html_of_block(&block) {
            Some(markup) => {
                html.push_str(markup);
                push_lines(&mut lines, markup, block.place);
            }
            None => {
                push_place(&mut html, parts.len());
                lines.push(block.place);
                parts.push(Part::Block(block));
            }
        }
        html.push('\n');
    }
    *blocks = read_parts(&html, lines, parts, findings);
}

/// Adds the place of each line of the markup of a block: from the start of the line to the end of the
/// block where the markup is what stands in the source, else the whole block.
fn push_lines(lines: &mut Vec<Place>, markup: &str, place: Place) {
    let length = place.end.saturating_sub(place.start) as usize;
    let is_literal = length == markup.len() || length == markup.trim_end().len();
    let mut start = place.start;
    for line in markup.split('\n') {
        lines.push(if is_literal { Place { start, ..place } } else { place });
        let behind = u32::try_from(line.len() + 1).unwrap_or(u32::MAX);
        start = start.saturating_add(behind).min(place.end);
    }
}

fn resolve_inside(block: &mut Block, findings: &mut Findings) {
    let place = block.place;
    match &mut block.kind {
        BlockKind::Paragraph(content) => resolve_inlines(content, place, findings),
        BlockKind::Heading(heading) => resolve_inlines(&mut heading.content, place, findings),
        BlockKind::Verse(lines) => {
            lines.iter_mut().for_each(|line| resolve_inlines(line, place, findings));
        }
        BlockKind::Quotation(content) => resolve_blocks(content, findings),
        BlockKind::List(list) => {
            list.items.iter_mut().for_each(|item| resolve_blocks(&mut item.content, findings));
        }
        BlockKind::DescriptionList(items) => {
            for item in items {
                item.terms.iter_mut().for_each(|term| resolve_inlines(term, place, findings));
                item.descriptions.iter_mut().for_each(|blocks| resolve_blocks(blocks, findings));
            }
        }
        BlockKind::Table(table) => {
            if let Some(caption) = &mut table.caption {
                resolve_blocks(&mut caption.content, findings);
            }
            let rows = table.groups.iter_mut().flat_map(|group| &mut group.rows);
            for cell in rows.flat_map(|row| &mut row.cells) {
                resolve_blocks(&mut cell.content, findings);
            }
        }
        BlockKind::Figure(figure) => {
            resolve_blocks(&mut figure.content, findings);
            if let Some(caption) = &mut figure.caption {
                resolve_blocks(&mut caption.content, findings);
            }
        }
        BlockKind::Admonition(admonition) => {
            if let Some(title) = &mut admonition.title {
                resolve_inlines(title, place, findings);
            }
            resolve_blocks(&mut admonition.content, findings);
        }
        BlockKind::Group(group) => {
            if let GroupRole::Disclosure(summary) = &mut group.role {
                resolve_inlines(summary, place, findings);
            }
            resolve_blocks(&mut group.content, findings);
        }
        _ => {}
    }
}

fn resolve_inlines(inlines: &mut Vec<Inline>, place: Place, findings: &mut Findings) {
    for inline in inlines.iter_mut() {
        match inline {
            Inline::Formatted(formatted) => {
                resolve_inlines(&mut formatted.content, place, findings)
            }
            Inline::Link(link) => resolve_inlines(&mut link.content, place, findings),
            _ => {}
        }
    }
    if !inlines.iter().any(|inline| html_of_inline(inline).is_some()) {
        return;
    }
    let raw: Vec<_> = inlines.iter().filter_map(html_of_inline).map(in_line).collect();
    let bounded = bounded(&raw);
    bound(inlines.iter_mut().filter_map(html_of_inline_mut), bounded, findings);
    let (mut html, mut parts) = (String::new(), Vec::new());
    for inline in inlines.drain(..) {
        match (html_of_inline(&inline), &inline) {
            (Some(markup), _) => html.push_str(markup),
            (None, Inline::Text(text)) => html.push_str(&escaped_text(text)),
            (None, _) => {
                push_place(&mut html, parts.len());
                parts.push(Part::Inline(inline));
            }
        }
    }
    *inlines = read_inline_parts(&html, place, parts, findings);
}

fn push_place(html: &mut String, number: usize) {
    html.push_str(&format!("<obblet-part n=\"{number}\"></obblet-part>"));
}

fn html_of_block(block: &Block) -> Option<&str> {
    match &block.kind {
        BlockKind::Foreign(foreign) if foreign.format == "html" => Some(&foreign.markup),
        _ => None,
    }
}

fn html_of_block_mut(block: &mut Block) -> Option<&mut String> {
    match &mut block.kind {
        BlockKind::Foreign(foreign) if foreign.format == "html" => Some(&mut foreign.markup),
        _ => None,
    }
}

fn html_of_inline_mut(inline: &mut Inline) -> Option<&mut String> {
    match inline {
        Inline::Foreign(foreign) if foreign.format == "html" => Some(&mut foreign.markup),
        _ => None,
    }
}

fn in_block(markup: &str) -> RawPiece<'_> {
    RawPiece { markup, line: None }
}

fn in_line(markup: &str) -> RawPiece<'_> {
    RawPiece { markup, line: Some(0) }
}

/// Puts the markup in place that holds nothing behind it.
fn bound<'b>(
    pieces: impl Iterator<Item = &'b mut String>,
    bounded: Vec<Option<String>>,
    findings: &mut Findings,
) {
    for (markup, changed) in pieces.zip(bounded) {
        if let Some(changed) = changed {
            *markup = changed;
            findings.count(Code::HtmlRepaired, "an element that no tag closes", None);
        }
    }
}

fn html_of_inline(inline: &Inline) -> Option<&str> {
    match inline {
        Inline::Foreign(foreign) if foreign.format == "html" => Some(&foreign.markup),
        _ => None,
    }
}
