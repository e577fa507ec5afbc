//! Diagrams (ECMA-376 part 1, 21.4): what they say, as a list in the order and the depth of their
//! parts.

use super::super::xml::{Ns, Xml};
use super::Reader;
use crate::document::{
    Block, BlockKind, Figure, List, ListItem, ListKind, ListSpacing, NESTING_LIMIT,
};
use crate::findings::Code;
use std::collections::{HashMap, HashSet};

/// The parts of a diagram.
#[derive(Default)]
struct Parts {
    /// Texts by id, in source order.
    texts: Vec<(String, String)>,
    /// Where the text of an id is.
    at: HashMap<String, usize>,
    /// The parts below a part, in their order.
    below: HashMap<String, Vec<(i64, String)>>,
    root: Option<String>,
}

impl Reader<'_> {
    /// A diagram becomes a figure behind its paragraph.
    pub(super) fn diagram(&mut self, relation: &str) {
        let part = self.part.relationships.get(relation).map(|found| found.target.clone());
        let Some(text) = part.and_then(|part| self.named_part_text(&part)) else {
            return self.lost("a diagram");
        };
        let parts = Parts::read(&text);
        let mut seen = HashSet::new();
        let root = parts.root.clone().unwrap_or_default();
        let mut items = parts.items(&root, &mut seen, 0);
        // Parts that nothing leads to are said too.
        for (id, text) in &parts.texts {
            if !seen.contains(id.as_str()) && !text.is_empty() {
                items.push(item(text, Vec::new()));
            }
        }
        if items.is_empty() {
            return self.lost("a diagram without words");
        }
        self.findings.count(Code::DiagramAsList, "", Some(self.place()));
        let figure = Figure { content: vec![list(items)], caption: None };
        let block = Block::new(BlockKind::Figure(Box::new(figure))).at(self.place());
        self.behind_paragraph.push(block);
    }
}

impl Parts {
    fn read(text: &str) -> Self {
        let mut parts = Self::default();
        let mut is_content = false;
        let mut xml = Xml::new(text);
        let level = xml.level();
        while let Some(element) = xml.descendant(level) {
            match (element.ns, element.local()) {
                (Ns::Diagram, "pt") => {
                    let kind = element.value("type");
                    let id = element.string("modelId").unwrap_or_default();
                    is_content = matches!(kind.as_deref(), None | Some("node" | "asst"));
                    if kind.as_deref() == Some("doc") {
                        parts.root = Some(id);
                    } else if is_content {
                        parts.at.insert(id.clone(), parts.texts.len());
                        parts.texts.push((id, String::new()));
                    }
                }
                // Connections of other types join parts with how they are drawn.
                (Ns::Diagram, "cxn") if element.value("type").is_none_or(|t| t == "parOf") => {
                    let end = |name| element.string(name).unwrap_or_default();
                    let order = element.number("srcOrd").unwrap_or_default();
                    parts.below.entry(end("srcId")).or_default().push((order, end("destId")));
                }
                (Ns::Drawing, "p") if is_content => {
                    if let Some((_, text)) = parts.texts.last_mut().filter(|(_, t)| !t.is_empty()) {
                        text.push(' ');
                    }
                }
                (Ns::Drawing, "t") if is_content => {
                    let inside = xml.level();
                    let words = xml.text(inside);
                    if let Some((_, text)) = parts.texts.last_mut() {
                        text.push_str(&words);
                    }
                }
                _ => {}
            }
        }
        parts.below.values_mut().for_each(|below| below.sort_by_key(|(order, _)| *order));
        parts
    }

    fn items<'p>(&'p self, id: &str, seen: &mut HashSet<&'p str>, depth: usize) -> Vec<ListItem> {
        let below = self.below.get(id).map(Vec::as_slice).unwrap_or_default();
        let mut items = Vec::new();
        for (_, id) in below {
            // Each part once: hostile ones lead round in circles.
            if depth > NESTING_LIMIT / 4 || !seen.insert(id.as_str()) {
                continue;
            }
            let text = self.text(id);
            let inner = self.items(id, seen, depth + 1);
            if text.is_empty() {
                items.extend(inner);
            } else {
                items.push(item(text, inner));
            }
        }
        items
    }

    fn text(&self, id: &str) -> &str {
        let found = self.at.get(id).and_then(|at| self.texts.get(*at));
        found.map_or("", |(_, text)| text.trim())
    }
}

fn item(text: &str, inner: Vec<ListItem>) -> ListItem {
    let mut content = vec![Block::new(BlockKind::Paragraph(vec![text.trim().into()]))];
    if !inner.is_empty() {
        content.push(list(inner));
    }
    ListItem { content, ..ListItem::default() }
}

fn list(items: Vec<ListItem>) -> Block {
    let kind = ListKind::Bulleted(None);
    Block::new(BlockKind::List(Box::new(List { kind, spacing: ListSpacing::Tight, items })))
}
