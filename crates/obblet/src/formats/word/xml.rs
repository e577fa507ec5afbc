//! A cursor over the XML of a part: child elements one by one, each with its namespace.
//!
//! Reading follows the elements' nesting: take [`Xml::level`] inside an element, then call
//! [`Xml::child`] with it until there are no more. Whatever a child holds that nobody read is
//! passed over by the next call. No entity is ever fetched or expanded beyond XML's own five.

use quick_xml::XmlVersion;
use quick_xml::events::{BytesStart, Event};
use quick_xml::name::ResolveResult;
use quick_xml::reader::NsReader;

/// The namespaces that documents use; both conformance classes of each.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Ns {
    /// WordprocessingML.
    Word,
    /// DrawingML.
    Drawing,
    /// DrawingML pictures.
    Picture,
    /// How a drawing stands in a Word document.
    WordDrawing,
    /// Shapes in a Word document.
    WordShape,
    /// Equations.
    Math,
    /// The older vector format.
    Vml,
    /// Markup compatibility.
    Compatibility,
    /// Any other.
    Other,
}

/// Namespaces by their ends: Transitional and Strict names differ in their beginnings only.
const NAMESPACES: [(&str, Ns); 9] = [
    ("/wordprocessingml/2006/main", Ns::Word),
    ("/wordprocessingml/main", Ns::Word),
    ("/drawingml/2006/main", Ns::Drawing),
    ("/drawingml/main", Ns::Drawing),
    ("/picture", Ns::Picture),
    ("ordprocessingDrawing", Ns::WordDrawing),
    ("/wordprocessingShape", Ns::WordShape),
    ("/math", Ns::Math),
    ("microsoft-com:vml", Ns::Vml),
];

fn namespace(uri: &str) -> Ns {
    if uri.contains("markup-compatibility") {
        return Ns::Compatibility;
    }
    NAMESPACES.iter().find(|(end, _)| uri.ends_with(end)).map_or(Ns::Other, |(_, ns)| *ns)
}

/// A start tag.
#[derive(Debug, Clone)]
pub(super) struct Element<'x> {
    pub(super) ns: Ns,
    start: BytesStart<'x>,
}

impl Element<'_> {
    pub(super) fn local(&self) -> &str {
        let name = self.start.name().into_inner();
        name.rsplit_once(':').map_or(name, |(_, local)| local)
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
    pub(super) fn value(&self, local: &str) -> Option<String> {
        for attribute in self.start.attributes().with_checks(false).flatten() {
            let name = attribute.key.into_inner();
            if name.rsplit_once(':').map_or(name, |(_, local)| local) == local {
                return attribute
                    .normalized_value(XmlVersion::Implicit1_0)
                    .ok()
                    .map(|value| value.into_owned());
            }
        }
        None
    }

    /// `w:val` as text.
    pub(super) fn val(&self) -> Option<String> {
        self.value("val")
    }

    /// `w:val` of an on-off property (ECMA-376 part 1, 17.17.4): there and not off.
    pub(super) fn is_on(&self) -> bool {
        !matches!(self.val().as_deref(), Some("0" | "false" | "off" | "none"))
    }

    /// An attribute as a whole number.
    pub(super) fn number(&self, local: &str) -> Option<i64> {
        self.value(local)?.trim().parse().ok()
    }
}

/// The cursor.
pub(super) struct Xml<'x> {
    reader: NsReader<&'x [u8]>,
    /// Elements that are open.
    depth: usize,
    /// What was wrong with the XML, once something was.
    pub(super) broken: Option<String>,
}

impl<'x> Xml<'x> {
    pub(super) fn new(text: &'x str) -> Self {
        let mut reader = NsReader::from_str(text);
        reader.config_mut().expand_empty_elements = true;
        Self { reader, depth: 0, broken: None }
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

    /// All text below a level, up to the end of the element around it.
    pub(super) fn text(&mut self, level: usize) -> String {
        let mut text = String::new();
        while let Some(step) = self.event() {
            match step {
                Step::Text(part) => text.push_str(&part),
                Step::Close if self.depth < level => break,
                _ => {}
            }
        }
        text
    }

    /// The next event; `None` at the end of the part or where the XML breaks off.
    fn event(&mut self) -> Option<Step<'x>> {
        loop {
            let (resolved, event) = match self.reader.read_resolved_event() {
                Ok(pair) => pair,
                Err(error) => {
                    self.broken = Some(error.to_string());
                    // From here on nothing can be trusted.
                    self.reader = NsReader::from_str("");
                    return None;
                }
            };
            match event {
                Event::Start(start) => {
                    let ns = match resolved {
                        ResolveResult::Bound(uri) => namespace(uri.into_inner()),
                        _ => Ns::Other,
                    };
                    self.depth += 1;
                    return Some(Step::Open(Element { ns, start }));
                }
                Event::End(_) => {
                    self.depth = self.depth.saturating_sub(1);
                    return Some(Step::Close);
                }
                Event::Text(text) => return Some(Step::Text(text.xml10_content().into_owned())),
                Event::CData(text) => return Some(Step::Text(text.xml10_content().into_owned())),
                Event::GeneralRef(reference) => {
                    let character = match reference.resolve_char_ref() {
                        Ok(Some(character)) => Some(character),
                        _ => predefined(&reference.xml10_content()),
                    };
                    let text = character.map_or_else(String::new, String::from);
                    return Some(Step::Text(text));
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
}

enum Step<'x> {
    Open(Element<'x>),
    Close,
    Text(String),
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
        <w:b w:val='0'><w:x>skipped</w:x></w:b><w:c>one &amp; <w:d/>two&#33;</w:c></w:a>";

    #[test]
    fn children_come_one_by_one_and_what_nobody_read_is_passed_over() {
        let mut xml = Xml::new(SAMPLE);
        let top = xml.level();
        let root = xml.child(top).unwrap();
        assert!(root.is("a"));
        let inside = xml.level();
        let b = xml.child(inside).unwrap();
        assert_eq!((b.local(), b.is_on()), ("b", false));
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
