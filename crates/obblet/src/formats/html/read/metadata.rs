//! What a page says about itself, in its head and where it shows that.

use super::super::dom::NodeId;
use super::{AFFILIATIONS, BYLINE, Reader, attributes};
use crate::document::{CompactString, Direction, Inline, Metadata, Person};

impl<'d> Reader<'d> {
    pub(super) fn metadata(&mut self, root: NodeId) -> Metadata {
        let mut metadata = Metadata::default();
        // Word processors say the language of the body.
        let body = self.dom.children(root).find(|node| self.dom.name(*node) == Some("body"));
        let stated = |node| self.dom.attribute(node, "lang").filter(|tag| !tag.is_empty());
        let language = stated(root).or_else(|| stated(body?));
        metadata.language = language.map(attributes::language_tag);
        metadata.direction = match self.dom.attribute(root, "dir") {
            Some("rtl") => Some(Direction::RightToLeft),
            Some("ltr") => Some(Direction::LeftToRight),
            _ => None,
        };
        let nodes: Vec<NodeId> = self.dom.below(0).collect();
        for node in nodes {
            match self.dom.name(node) {
                Some("title") if metadata.title.is_empty() => {
                    let title = self.text_of(node);
                    let words: Vec<&str> = title.split_ascii_whitespace().collect();
                    if !words.is_empty() {
                        metadata.title = vec![Inline::Text(words.join(" ").into())];
                    }
                }
                Some("meta") => self.meta(node, &mut metadata),
                Some("body") => break,
                _ => {}
            }
        }
        metadata
    }

    pub(super) fn meta(&self, node: NodeId, metadata: &mut Metadata) {
        let name = self.dom.attribute(node, "name").unwrap_or_default();
        let content = self.dom.attribute(node, "content").unwrap_or_default().trim();
        if content.is_empty() {
            return;
        }
        match name.to_ascii_lowercase().as_str() {
            "author" => {
                let names = content
                    .split(", ")
                    .map(|name| Person { name: name.into(), ..Person::default() });
                metadata.authors.extend(names);
            }
            "description" => metadata.description = Some(content.into()),
            "keywords" => {
                metadata.keywords.extend(content.split(',').map(|word| word.trim().into()));
            }
            _ => {}
        }
    }

    /// The subtitle that a page of ours shows below its first heading, or below a title that is none.
    pub(super) fn take_subtitle(&mut self, content: NodeId) -> Vec<Inline> {
        let dom = self.dom;
        let first = dom.children(content).find(|node| dom.name(*node).is_some());
        let Some(group) = first.filter(|node| dom.name(*node) == Some("hgroup")) else {
            return Vec::new();
        };
        let named = |name: &str| dom.children(group).find(|node| dom.name(*node) == Some(name));
        let title = named("h1").filter(|node| dom.attribute(*node, "id").is_none());
        let Some(subtitle) = named("p") else { return Vec::new() };
        self.shown_metadata.extend(title.into_iter().chain([subtitle]));
        self.inlines(subtitle)
    }

    /// What a page of ours shows of its metadata: a title that is no heading of the document's own
    /// (those have ids), and the line of authors and date.
    pub(super) fn find_shown_metadata(&self, content: NodeId) -> Vec<NodeId> {
        let dom = self.dom;
        let elements = dom.children(content).filter(|node| dom.name(*node).is_some()).take(3);
        let is_title =
            |node: NodeId| dom.name(node) == Some("h1") && dom.attribute(node, "id").is_none();
        let is_byline = |node: NodeId| dom.attribute(node, "class") == Some(BYLINE);
        elements
            .enumerate()
            .filter(|(at, node)| {
                (*at == 0 && is_title(*node)) || is_byline(*node) || self.is_affiliations(*node)
            })
            .map(|(_, node)| node)
            .collect()
    }

    pub(super) fn is_affiliations(&self, node: NodeId) -> bool {
        self.dom.name(node) == Some("ul") && self.dom.attribute(node, "class") == Some(AFFILIATIONS)
    }

    /// Where authors work, as a page of ours lists it.
    pub(super) fn read_affiliations(&self, metadata: &mut Metadata) {
        let dom = self.dom;
        let Some(list) = self.shown_metadata.iter().find(|node| self.is_affiliations(**node))
        else {
            return;
        };
        for item in dom.children(*list).filter(|node| dom.name(*node) == Some("li")) {
            let text = dom.text_of(item);
            let named = |name: &str| dom.children(item).find(|node| dom.name(*node) == Some(name));
            let place = named("span").map(|node| dom.text_of(node));
            let is_theirs = |author: &&mut Person| text.starts_with(author.name.as_str());
            let Some(author) = metadata.authors.iter_mut().find(is_theirs) else { continue };
            let before = place.as_ref().map_or_else(String::new, |place| format!(", {place}"));
            let rest = text.strip_prefix(author.name.as_str()).unwrap_or_default();
            let mail = rest.strip_prefix(before.as_str()).and_then(|rest| rest.strip_prefix(", "));
            author.affiliation = place.map(Into::into);
            author.email = mail.map(Into::into);
        }
    }

    /// The date behind the authors in the line that shows both.
    pub(super) fn shown_date(&self, metadata: &Metadata) -> Option<CompactString> {
        let is_byline = |node: &&NodeId| self.dom.attribute(**node, "class") == Some(BYLINE);
        let byline = self.text_of(*self.shown_metadata.iter().find(is_byline)?);
        let names: Vec<&str> = metadata.authors.iter().map(|author| &*author.name).collect();
        let date = byline.strip_prefix(&names.join(", "))?;
        let date = date.strip_prefix(" · ").unwrap_or(date);
        (!date.is_empty()).then(|| date.into())
    }
}
