//! Properties by their source: word processors write the same few over and over, and what is known
//! need not be read again.

use super::super::xml::Xml;
use super::looks_count::LooksCount;
use memchr::memmem;
use std::collections::HashMap;
use std::rc::Rc;

/// Bytes of a source that is remembered, with its end tag.
const LONGEST_SOURCE: usize = 600;
/// Sources that are remembered of one part.
const MOST_SOURCES: usize = 1000;

/// What was read, and what there was to say about it.
#[derive(Debug, Default)]
pub(super) struct Noted<T> {
    pub(super) properties: T,
    pub(super) looks: LooksCount,
    pub(super) unknown: Vec<String>,
    pub(super) lost: Vec<&'static str>,
}

/// The properties of one kind that have been read in a part.
#[derive(Debug)]
pub(super) struct KnownProperties<T> {
    start_tag: &'static str,
    end_tag: memmem::Finder<'static>,
    /// By all that follows the start tag.
    by_source: HashMap<Box<str>, Rc<Noted<T>>>,
}

impl<T> KnownProperties<T> {
    /// For elements with these tags.
    pub(super) fn new(start_tag: &'static str, end_tag: &'static str) -> Self {
        Self { start_tag, end_tag: memmem::Finder::new(end_tag), by_source: HashMap::new() }
    }

    /// What is known of the element that comes next, which is then passed over.
    ///
    /// A source was remembered with the end tag that really ended it, so that another one that
    /// looks the same ends there too.
    pub(super) fn take(&self, xml: &mut Xml<'_>) -> Option<Rc<Noted<T>>> {
        let rest = xml.source_ahead()?.strip_prefix(self.start_tag)?;
        let near = rest.as_bytes().get(..LONGEST_SOURCE).unwrap_or(rest.as_bytes());
        let length = self.end_tag.find(near)? + self.end_tag.needle().len();
        let noted = self.by_source.get(rest.get(..length)?)?;
        xml.skip(self.start_tag.len() + length);
        Some(noted.clone())
    }

    /// Remembers what was read of an element: all that was `ahead` and `xml` is past now.
    pub(super) fn remember(&mut self, ahead: &str, xml: &Xml<'_>, noted: &Rc<Noted<T>>) {
        let rest = xml.source_ahead().unwrap_or_default();
        let source = ahead.get(..ahead.len() - rest.len().min(ahead.len())).unwrap_or_default();
        let is_usual = source.as_bytes().ends_with(self.end_tag.needle());
        if is_usual && source.len() <= LONGEST_SOURCE && self.by_source.len() < MOST_SOURCES {
            self.by_source.insert(source.into(), noted.clone());
        }
    }
}
