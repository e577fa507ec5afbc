//! Where the tags of a source stand. The parser tells the line at which an element begins; a scan of
//! the tags tells the rest.

use crate::document::Place;
use crate::formats::html::dom::{Dom, NodeId};
use crate::formats::html::{Tag, tags};
use std::collections::HashMap;

/// The place of each element's start tag.
#[derive(Debug)]
pub(super) struct TagPlaces {
    places: HashMap<NodeId, Place>,
    /// Where each line begins.
    lines: Vec<usize>,
}

impl TagPlaces {
    pub(super) fn of(text: &str, dom: &Dom) -> Self {
        let ends = memchr::memchr_iter(b'\n', text.as_bytes()).map(|at| at + 1);
        let lines: Vec<usize> = std::iter::once(0).chain(ends).collect();
        // By name, in order; the element of a tag is the next of this name on the line on which the
        // tag ends.
        let mut by_name: HashMap<String, std::collections::VecDeque<(u32, Place)>> = HashMap::new();
        for Tag { name, span, .. } in tags(text).filter(|tag| !tag.is_end) {
            let line = lines.partition_point(|start| *start < span.end);
            let place = Place::new(span.start, span.end);
            let line = u32::try_from(line).unwrap_or(u32::MAX);
            by_name.entry(name).or_default().push_back((line, place));
        }
        let mut places = HashMap::new();
        let mut nodes: Vec<NodeId> =
            dom.below(0).filter(|node| dom.name(*node).is_some()).collect();
        // The parser made them in the order of their tags.
        nodes.sort_unstable();
        for node in nodes {
            let Some(open) = dom.name(node).and_then(|name| by_name.get_mut(name)) else {
                continue;
            };
            let line = dom.line(node);
            while open.front().is_some_and(|(of_tag, _)| *of_tag < line) {
                open.pop_front();
            }
            if open.front().is_some_and(|(of_tag, _)| *of_tag == line)
                && let Some((_, place)) = open.pop_front()
            {
                places.insert(node, place);
            }
        }
        Self { places, lines }
    }

    /// The place of an element's tag; of one that the parser put in, the line at which it did.
    pub(super) fn of_node(&self, node: NodeId) -> Place {
        self.places.get(&node).copied().unwrap_or_default()
    }

    /// The beginning of a line, counted from 1.
    pub(super) fn of_line(&self, line: u32) -> Place {
        let start = self.lines.get((line as usize).saturating_sub(1)).copied().unwrap_or_default();
        Place::new(start, start)
    }
}
