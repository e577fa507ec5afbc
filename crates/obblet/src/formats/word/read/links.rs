//! Hyperlinks (17.16.22).

use super::super::xml::Element;
use super::Reader;
use super::line::Frame;
use crate::document::CompactString;
use crate::findings::Code;

impl Reader<'_> {
    pub(super) fn hyperlink(&mut self, element: &Element<'_>) -> Option<Frame> {
        let mut address = String::new();
        if let Some(id) = element.value("id").filter(|id| !id.is_empty()) {
            match self.part.relationships.get(&id) {
                Some(relationship) => address.clone_from(&relationship.target),
                None => {
                    self.findings.add_about(Code::RelationMissing, &id, Some(self.place()));
                }
            }
        }
        if let Some(anchor) = element.value("anchor").filter(|anchor| !anchor.is_empty()) {
            address = format!("{address}#{anchor}");
        }
        let title = element.value("tooltip").map(Into::into);
        (!address.is_empty()).then(|| Frame::Link { address: address.into(), title })
    }
}

/// The address and the title of the link that a field is, if it is one.
pub(super) fn link_of(words: &[String]) -> Option<(CompactString, Option<CompactString>)> {
    let mut words = words.iter().map(String::as_str);
    let name = words.next()?.to_ascii_uppercase();
    let mut address = String::new();
    let (mut anchor, mut title) = (None, None);
    while let Some(word) = words.next() {
        match word {
            "\\l" => anchor = words.next(),
            "\\o" => title = words.next(),
            "\\t" | "\\*" | "\\d" | "\\f" => {
                words.next();
            }
            _ if word.starts_with('\\') => {}
            _ if address.is_empty() => address = word.to_string(),
            _ => {}
        }
    }
    match name.as_str() {
        "HYPERLINK" => {
            if let Some(anchor) = anchor {
                address = format!("{address}#{anchor}");
            }
        }
        "REF" | "PAGEREF" | "NOTEREF" if !address.is_empty() => address = format!("#{address}"),
        _ => return None,
    }
    (!address.is_empty()).then(|| (address.into(), title.map(Into::into)))
}
