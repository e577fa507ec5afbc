//! A cursor over the XML of a part: child elements one by one, each with its namespace.
//!
//! Reading follows the elements' nesting: take [`Xml::level`] inside an element, then call
//! [`Xml::child`] with it until there are no more. Whatever a child holds that nobody read is
//! passed over by the next call. No entity is ever fetched or expanded beyond XML's own five.

use crate::document::CompactString;
use crate::work;
use quick_xml::escape::unescape;
use quick_xml::events::{BytesStart, Event};
use quick_xml::reader::Reader;
use std::borrow::Cow;

/// The namespaces that documents use; both conformance classes of each.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Ns {
    /// WordprocessingML.
    Word,
    /// What later versions added to it.
    WordExtension,
    /// DrawingML.
    Drawing,
    /// DrawingML pictures.
    Picture,
    /// How a drawing stands in a Word document.
    WordDrawing,
    /// Shapes, canvases and groups of shapes in a Word document.
    WordShape,
    /// Charts.
    Chart,
    /// Diagrams.
    Diagram,
    /// Equations.
    Math,
    /// The older vector format.
    Vml,
    /// What office programs add to the older vector format.
    VmlOffice,
    /// Markup compatibility.
    Compatibility,
    /// Bibliographic sources.
    Bibliography,
    /// Any other.
    Other,
}

/// Namespaces by their ends: Transitional and Strict names differ in their beginnings only.
const NAMESPACES: [(&str, Ns); 22] = [
    ("/wordprocessingml/2006/main", Ns::Word),
    ("/wordprocessingml/main", Ns::Word),
    ("/office/word/2010/wordml", Ns::WordExtension),
    ("/office/word/2012/wordml", Ns::WordExtension),
    ("/office/word/2006/wordml", Ns::WordExtension),
    ("/wordml/symex", Ns::WordExtension),
    ("/drawingml/2006/main", Ns::Drawing),
    ("/drawingml/main", Ns::Drawing),
    ("/picture", Ns::Picture),
    ("ordprocessingDrawing", Ns::WordDrawing),
    ("/wordprocessingShape", Ns::WordShape),
    ("/wordprocessingGroup", Ns::WordShape),
    ("/wordprocessingCanvas", Ns::WordShape),
    ("/lockedCanvas", Ns::WordShape),
    ("/chart", Ns::Chart),
    ("/diagram", Ns::Diagram),
    ("/math", Ns::Math),
    ("microsoft-com:vml", Ns::Vml),
    ("microsoft-com:office:office", Ns::VmlOffice),
    ("microsoft-com:office:word", Ns::VmlOffice),
    ("/markup-compatibility/2006", Ns::Compatibility),
    ("/bibliography", Ns::Bibliography),
];

fn namespace(uri: &str) -> Ns {
    NAMESPACES.iter().find(|(end, _)| uri.ends_with(end)).map_or(Ns::Other, |(_, ns)| *ns)
}

/// A start tag.
#[derive(Debug, Clone)]
pub(super) struct Element<'x> {
    pub(super) ns: Ns,
    start: BytesStart<'x>,
    /// Where the local name begins in the name.
    local_at: usize,
}

impl Element<'_> {
    pub(super) fn local(&self) -> &str {
        self.start.name().into_inner().get(self.local_at..).unwrap_or_default()
    }

    /// The name as the part spells it, for findings.
    pub(super) fn shown(&self) -> &str {
        self.start.name().into_inner()
    }

    /// Whether this is the WordprocessingML element of this name.
    pub(super) fn is(&self, local: &str) -> bool {
        self.ns == Ns::Word && self.local() == local
    }

    /// The value of the attribute with this local name.
    pub(super) fn value(&self, local: &str) -> Option<Cow<'_, str>> {
        let (_, value) = self.attributes().find(|(name, _)| *name == local)?;
        unescaped(value)
    }

    /// Local names and values of all attributes, as they are written (XML 1.0, 3.1).
    fn attributes(&self) -> impl Iterator<Item = (&str, &str)> {
        let mut rest = self.start.attributes_raw();
        std::iter::from_fn(move || {
            let (name, behind) = rest.split_at_checked(rest.bytes().position(|b| b == b'=')?)?;
            let behind = behind.get(1..)?.trim_ascii_start();
            let quote = *behind.as_bytes().first().filter(|quote| matches!(quote, b'"' | b'\''))?;
            let behind = behind.get(1..)?;
            let end = behind.bytes().position(|byte| byte == quote)?;
            let name = name.trim_ascii();
            let colon = name.bytes().position(|byte| byte == b':');
            rest = behind.get(end + 1..)?;
            Some((name.get(colon.map_or(0, |at| at + 1)..)?, behind.get(..end)?))
        })
    }

    /// The values of these attributes, in one pass over all.
    pub(super) fn values<const N: usize>(&self, locals: [&str; N]) -> [Option<Cow<'_, str>>; N] {
        let mut found = [const { None }; N];
        for (name, value) in self.attributes() {
            let place = locals.iter().position(|local| *local == name);
            if let Some(place) = place.and_then(|at| found.get_mut(at)) {
                *place = unescaped(value);
            }
        }
        found
    }

    /// The same as a text of its own.
    pub(super) fn string(&self, local: &str) -> Option<String> {
        self.value(local).map(Cow::into_owned)
    }

    /// The same as a short text of its own.
    pub(super) fn short_value(&self, local: &str) -> Option<CompactString> {
        self.value(local).map(Into::into)
    }

    /// `w:val` as text.
    pub(super) fn val(&self) -> Option<Cow<'_, str>> {
        self.value("val")
    }

    /// `w:val` as a short text of its own.
    pub(super) fn short(&self) -> Option<CompactString> {
        self.short_value("val")
    }

    /// `w:val` of an on-off property (ECMA-376 part 1, 17.17.4): there and not off.
    pub(super) fn is_on(&self) -> bool {
        !matches!(self.val().as_deref(), Some("0" | "false" | "off" | "none"))
    }

    /// An attribute that is on or off; `None` where it is not there.
    pub(super) fn flag(&self, local: &str) -> Option<bool> {
        self.value(local).map(|value| matches!(&*value, "1" | "true" | "on" | "t"))
    }

    /// An attribute as a whole number.
    pub(super) fn number(&self, local: &str) -> Option<i64> {
        self.value(local)?.trim().parse().ok()
    }
}

/// The value of an attribute without its references (XML 1.0, 3.3.3).
fn unescaped(value: &str) -> Option<Cow<'_, str>> {
    if memchr::memchr3(b'&', b'\n', b'\t', value.as_bytes()).is_none() {
        return Some(Cow::Borrowed(value));
    }
    let spaced = value.replace(['\n', '\t'], " ");
    Some(unescape(&spaced).ok()?.into_owned().into())
}

/// Whether a start tag binds a prefix.
fn binds(attributes: &str) -> bool {
    let bytes = attributes.as_bytes();
    memchr::memchr_iter(b'x', bytes)
        .any(|at| bytes.get(at..).is_some_and(|rest| rest.starts_with(b"xmlns")))
}

/// Where the local name begins in a name, and what is before it as one number, if that is short.
fn split_prefix(name: &str) -> (usize, Option<u64>) {
    let mut packed = 0;
    for (at, byte) in name.bytes().enumerate().take(9) {
        if byte == b':' {
            return (at + 1, Some(packed));
        }
        packed = packed << 8 | u64::from(byte);
    }
    match name.find(':') {
        Some(at) => (at + 1, None),
        None => (0, Some(0)),
    }
}

/// The cursor.
pub(super) struct Xml<'x> {
    source: &'x str,
    reader: Reader<&'x [u8]>,
    /// Elements that are open.
    depth: usize,
    /// Prefixes with the depth of the element that binds them, the outermost first.
    bindings: Vec<(usize, CompactString, Ns)>,
    /// The prefix that was looked up last: most elements have that of the one before.
    last: Option<(u64, Ns)>,
    /// `w` is WordprocessingML, and all prefixes are those of the outermost element.
    has_usual_prefixes: bool,
    /// The element that was given last has no content, and its end is still to be given.
    is_empty: bool,
    /// What was wrong with the XML, once something was.
    pub(super) broken: Option<String>,
}

impl<'x> Xml<'x> {
    pub(super) fn new(text: &'x str) -> Self {
        Self {
            source: text,
            reader: Reader::from_str(text),
            depth: 0,
            bindings: Vec::new(),
            last: None,
            has_usual_prefixes: false,
            is_empty: false,
            broken: None,
        }
    }

    /// The level of the children of the element that was given last.
    pub(super) fn level(&self) -> usize {
        self.depth
    }

    /// The next child element at a level; `None` once the element around it ends.
    pub(super) fn child(&mut self, level: usize) -> Option<Element<'x>> {
        loop {
            match self.event()? {
                Step::Open(element) if self.depth == level + 1 => return Some(element),
                Step::Close if self.depth < level => return None,
                _ => {}
            }
        }
    }

    /// The next element at any depth below a level, for reading without nesting.
    pub(super) fn descendant(&mut self, level: usize) -> Option<Element<'x>> {
        loop {
            match self.event()? {
                Step::Open(element) => return Some(element),
                Step::Close if self.depth < level => return None,
                _ => {}
            }
        }
    }

    /// The source behind the last event as it stands, where it may be read without the reader:
    /// with `w` for WordprocessingML, and no other prefixes than those of the part's first element.
    pub(super) fn source_ahead(&self) -> Option<&'x str> {
        let at = self.source.len().checked_sub(self.reader.get_ref().len())?;
        self.source.get(at..).filter(|_| self.has_usual_prefixes && !self.is_empty)
    }

    /// Passes over this many bytes of whole elements.
    pub(super) fn skip(&mut self, bytes: usize) {
        let rest = self.reader.get_mut();
        *rest = rest.get(bytes..).unwrap_or_default();
    }

    /// The text of the element that comes next, which is then passed over: one that begins with
    /// this tag, is spelled the usual way and holds nothing but text without references.
    pub(super) fn take_text(&mut self, start_tag: &str, end_tag: &str) -> Option<&'x str> {
        let content = self.source_ahead()?.strip_prefix(start_tag)?;
        let end = memchr::memchr3(b'<', b'&', b'\r', content.as_bytes())?;
        let (text, behind) = content.split_at_checked(end)?;
        if !behind.starts_with(end_tag) {
            return None;
        }
        self.skip(start_tag.len() + text.len() + end_tag.len());
        Some(text)
    }

    /// All text below a level, up to the end of the element around it.
    pub(super) fn text(&mut self, level: usize) -> Cow<'x, str> {
        let mut text = Cow::Borrowed("");
        while let Some(step) = self.event() {
            match step {
                Step::Text(part) if text.is_empty() => text = part,
                Step::Text(part) => text.to_mut().push_str(&part),
                Step::Close if self.depth < level => break,
                _ => {}
            }
        }
        text
    }

    /// The next event; `None` at the end of the part or where the XML breaks off.
    fn event(&mut self) -> Option<Step<'x>> {
        if self.is_empty {
            self.is_empty = false;
            self.leave();
            return Some(Step::Close);
        }
        loop {
            work::count(1);
            if work::is_over() {
                return None;
            }
            let event = match self.reader.read_event() {
                Ok(event) => event,
                Err(error) => {
                    self.broken = Some(error.to_string());
                    // From here on nothing can be trusted.
                    self.reader = Reader::from_str("");
                    return None;
                }
            };
            match event {
                Event::Start(start) => {
                    self.depth += 1;
                    return Some(Step::Open(self.element(start)));
                }
                Event::Empty(start) => {
                    self.depth += 1;
                    self.is_empty = true;
                    return Some(Step::Open(self.element(start)));
                }
                Event::End(_) => {
                    self.leave();
                    return Some(Step::Close);
                }
                Event::Text(text) => return Some(Step::Text(text.xml10_content())),
                Event::CData(text) => return Some(Step::Text(text.xml10_content())),
                Event::GeneralRef(reference) => {
                    let character = match reference.resolve_char_ref() {
                        Ok(Some(character)) => Some(character),
                        _ => predefined(&reference.xml10_content()),
                    };
                    let text = character.map_or_else(String::new, String::from);
                    return Some(Step::Text(text.into()));
                }
                Event::Eof => {
                    if self.depth > 0 && self.broken.is_none() {
                        self.broken = Some("the part ends inside an element".into());
                    }
                    return None;
                }
                _ => {}
            }
        }
    }

    /// A start tag with its namespace.
    fn element(&mut self, start: BytesStart<'x>) -> Element<'x> {
        if binds(start.attributes_raw()) {
            self.bind(&start);
        }
        let name = start.name().into_inner();
        let (local_at, packed) = split_prefix(name);
        let ns = match (self.last, packed) {
            (Some((last, ns)), Some(prefix)) if last == prefix => ns,
            _ => {
                let prefix = name.get(..local_at.saturating_sub(1)).unwrap_or_default();
                let ns = self.look_up(prefix);
                self.last = packed.map(|prefix| (prefix, ns));
                ns
            }
        };
        Element { ns, start, local_at }
    }

    fn look_up(&self, prefix: &str) -> Ns {
        let bound = self.bindings.iter().rev().find(|(_, name, _)| name == prefix);
        bound.map_or(Ns::Other, |(_, _, ns)| *ns)
    }

    /// Notes the prefixes that a start tag binds (Namespaces in XML 1.0, 3).
    fn bind(&mut self, start: &BytesStart<'_>) {
        for attribute in start.attributes().with_checks(false).flatten() {
            let key = attribute.key.into_inner();
            let Some(rest) = key.strip_prefix("xmlns") else { continue };
            let prefix = rest.strip_prefix(':').unwrap_or(rest);
            self.bindings.push((self.depth, prefix.into(), namespace(&attribute.value)));
        }
        self.bindings_changed();
    }

    fn bindings_changed(&mut self) {
        self.last = None;
        let is_of_root = self.bindings.last().is_some_and(|(depth, _, _)| *depth == 1);
        self.has_usual_prefixes = is_of_root && self.look_up("w") == Ns::Word;
    }

    fn leave(&mut self) {
        if self.bindings.last().is_some_and(|(depth, _, _)| *depth >= self.depth) {
            self.bindings.retain(|(depth, _, _)| *depth < self.depth);
            self.bindings_changed();
        }
        self.depth = self.depth.saturating_sub(1);
    }
}

enum Step<'x> {
    Open(Element<'x>),
    Close,
    Text(Cow<'x, str>),
}

/// XML's five predefined entities (XML 1.0, 4.6).
fn predefined(name: &str) -> Option<char> {
    Some(match name {
        "amp" => '&',
        "lt" => '<',
        "gt" => '>',
        "quot" => '"',
        "apos" => '\'',
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    const SAMPLE: &str = "<w:a xmlns:w='http://purl.oclc.org/ooxml/wordprocessingml/main'>\
        <w:b w:val='0' w:n='a &amp; b&#33;'><w:x>skipped</w:x></w:b><w:c>one &amp; <w:d/>two&#33;</w:c></w:a>";

    #[test]
    fn children_come_one_by_one_and_what_nobody_read_is_passed_over() {
        let mut xml = Xml::new(SAMPLE);
        let top = xml.level();
        let root = xml.child(top).unwrap();
        assert!(root.is("a"));
        let inside = xml.level();
        let b = xml.child(inside).unwrap();
        assert_eq!((b.local(), b.is_on()), ("b", false));
        assert_eq!(b.value("n").as_deref(), Some("a & b!"));
        let c = xml.child(inside).unwrap();
        assert_eq!(c.local(), "c");
        let level = xml.level();
        assert_eq!(xml.text(level), "one & two!");
        assert!(xml.child(inside).is_none());
        assert!(xml.child(top).is_none());
        assert_eq!(xml.broken, None);
    }

    #[test]
    fn xml_that_breaks_off_ends_and_says_so() {
        for text in ["<a><b>", "<a></b>", "<a b=></a", "<a>&"] {
            let mut xml = Xml::new(text);
            let top = xml.level();
            while xml.descendant(top).is_some() {}
            assert!(xml.broken.is_some(), "{text}");
        }
    }
}
