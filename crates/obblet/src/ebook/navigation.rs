//! The navigation document and the title page.

use super::title_of;
use crate::document::{BlockKind, Document, plain_text};
use crate::formats::html::escaped_text;
use crate::house::House;
use crate::locale::Words;

/// An entry of the table of contents.
#[derive(Debug)]
pub(super) struct Entry {
    level: u8,
    address: String,
    words: String,
}

impl Entry {
    /// The headings of the two highest levels of a page.
    pub(super) fn all_of(document: &Document, file: &str) -> Vec<Self> {
        let headings = document.blocks.iter().filter_map(|block| match &block.kind {
            BlockKind::Heading(heading) if heading.level <= 2 => Some((block, heading)),
            _ => None,
        });
        headings
            .filter_map(|(block, heading)| {
                let words = plain_text(&heading.content).trim().to_string();
                let id = block.attributes.id()?;
                let address = format!("{file}#{}", crate::address::encoded_place(id));
                (!words.is_empty()).then_some(Self { level: heading.level, address, words })
            })
            .collect()
    }
}

fn head(document: &Document, house: &House, title: &str) -> String {
    let language = document.metadata.language.as_deref().unwrap_or(&house.page.language);
    let language = escaped_text(language);
    format!(
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<!DOCTYPE html>\n\
         <html xmlns=\"http://www.w3.org/1999/xhtml\" xmlns:epub=\"http://www.idpf.org/2007/ops\" \
         lang=\"{language}\" xml:lang=\"{language}\">\n<head>\n<title>{}</title>\n\
         <link rel=\"stylesheet\" href=\"style.css\" />\n</head>\n",
        escaped_text(title)
    )
}

/// The navigation document (EPUB 3, 7): nested as the levels are, none left out.
pub(super) fn navigation(document: &Document, house: &House, entries: &[Entry]) -> String {
    let words = Words::of_language(document.metadata.language.as_deref());
    let title = words.contents;
    let mut out = head(document, house, title);
    out.push_str(&format!(
        "<body>\n<nav epub:type=\"toc\" role=\"doc-toc\" aria-label=\"{title}\">\n<h1>{title}</h1>\n<ol>\n"
    ));
    let top = title_of(document);
    out.push_str(&format!("<li><a href=\"title.xhtml\">{}</a></li>\n", escaped_text(&top)));
    let mut is_nested = false;
    let mut entries = entries.iter().peekable();
    while let Some(entry) = entries.next() {
        let next_is_deeper = entries.peek().is_some_and(|next| next.level > entry.level);
        let link = format!(
            "<a href=\"{}\">{}</a>",
            escaped_text(&entry.address),
            escaped_text(&entry.words)
        );
        if entry.level == 1 && is_nested {
            out.push_str("</ol>\n</li>\n");
            is_nested = false;
        }
        if next_is_deeper {
            out.push_str(&format!("<li>{link}\n<ol>\n"));
            is_nested = true;
        } else {
            out.push_str(&format!("<li>{link}</li>\n"));
        }
    }
    if is_nested {
        out.push_str("</ol>\n</li>\n");
    }
    out + "</ol>\n</nav>\n</body>\n</html>\n"
}

/// The page with title, authors and date.
pub(super) fn title_page(document: &Document, house: &House) -> String {
    let title = title_of(document);
    let metadata = &document.metadata;
    let mut out = head(document, house, &title);
    out.push_str(
        "<body epub:type=\"frontmatter\" class=\"titlepage\">\n<section epub:type=\"titlepage\">\n",
    );
    out.push_str(&format!("<h1 class=\"title\">{}</h1>\n", escaped_text(&title)));
    let line = |class: &str, text: &str| match text.trim() {
        "" => String::new(),
        text => format!("<p class=\"{class}\">{}</p>\n", escaped_text(text)),
    };
    out.push_str(&line("subtitle", &plain_text(&metadata.subtitle)));
    let authors: Vec<&str> = metadata.authors.iter().map(|person| person.name.as_str()).collect();
    out.push_str(&line("byline", &authors.join(", ")));
    out.push_str(&line("byline", metadata.date.as_deref().unwrap_or_default()));
    out + "</section>\n</body>\n</html>\n"
}
