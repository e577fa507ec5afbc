//! Links, addresses, and the places that links lead to.

use super::Reader;
use crate::document::{Anchor, Attributes, Inline, Link};
use crate::tex::Name;

impl Reader<'_> {
    /// `\href{address}{words}`.
    pub(super) fn link(&mut self) {
        self.front.option();
        let address = self.address_text();
        let content = self.inline_argument();
        self.push_link(&address, content);
    }

    pub(super) fn address(&mut self) {
        let address = self.address_text();
        let content = vec![Inline::Text(address.as_str().into())];
        self.push_link(&address, content);
    }

    pub(super) fn push_link(&mut self, address: &str, content: Vec<Inline>) {
        let link =
            Link { address: address.into(), title: None, content, attributes: Attributes::NONE };
        self.sheet.mark_place();
        self.sheet.push(Inline::Link(Box::new(link)));
    }

    /// An address, in which special characters may stand with or without a backslash.
    fn address_text(&mut self) -> String {
        self.front.skip_spaces();
        let tokens = match self.front.is_next('{') {
            true => {
                self.front.next_raw();
                let raw = self.front.verbatim("}").unwrap_or_default();
                return raw
                    .replace("\\%", "%")
                    .replace("\\#", "#")
                    .replace("\\&", "&")
                    .replace("\\_", "_")
                    .replace("\\~", "~");
            }
            false => self.front.argument(),
        };
        self.front.typed(&tokens)
    }

    /// `\hyperref[label]{words}` and `\hyperlink{name}{words}`.
    pub(super) fn hyper_link(&mut self, name: Name) {
        let target = match self.front.names.text(name) {
            "hyperref" => match self.front.option_text() {
                Some(label) => label,
                None => {
                    let address = self.front.argument_text();
                    self.front.argument();
                    self.front.argument();
                    let content = self.inline_argument();
                    return self.push_link(&address, content);
                }
            },
            _ => self.front.expanded_argument().into(),
        };
        let content = self.inline_argument();
        self.push_link(&format!("#{target}"), content);
    }

    pub(super) fn target(&mut self) {
        let id = self.front.expanded_argument();
        self.sheet.push(Inline::Anchor(Box::new(Anchor { id: id.as_str().into() })));
        let content = self.inline_argument();
        self.sheet.extend(content);
    }
}
