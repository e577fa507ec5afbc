//! What a destination takes: elements, attributes, addresses, length.

use crate::address::scheme;
use crate::document::Place;
use crate::findings::{Code, Findings};
use crate::formats::html::dom::{Dom, NodeData, NodeId};
use crate::formats::html::formula_of;
use crate::house::{CountUnit, Counted, LimitSettings};
use crate::rules::{mend, unwrap_apart};
use html5ever::ns;

/// Whether any element of a page could be more than the destination takes.
pub(super) fn bind_elements(limits: &LimitSettings) -> bool {
    !(limits.elements.is_empty() && limits.attributes.is_empty() && limits.schemes.is_empty())
}

/// Takes out of what stands below a node all that the destination does not take. True when there was
/// any.
pub(super) fn hold(
    dom: &mut Dom,
    top: NodeId,
    limits: &LimitSettings,
    place_of: &dyn Fn(u32) -> Option<Place>,
    findings: &mut Findings,
) -> bool {
    if !bind_elements(limits) {
        return false;
    }
    let mut holder = Holder { dom, limits, place_of, findings, has_changed: false };
    for node in holder.dom.below(top).collect::<Vec<_>>() {
        holder.element(node);
    }
    let has_changed = holder.has_changed;
    if has_changed {
        mend(dom, top);
    }
    has_changed
}

struct Holder<'h> {
    dom: &'h mut Dom,
    limits: &'h LimitSettings,
    place_of: &'h dyn Fn(u32) -> Option<Place>,
    findings: &'h mut Findings,
    has_changed: bool,
}

impl Holder<'_> {
    fn element(&mut self, node: NodeId) {
        // What stood in a formula that went is no part of the page any more.
        let NodeData::Element { name, attributes } = self.dom.data(node) else { return };
        if name.ns != ns!(html) && &*name.local != "math" {
            return;
        }
        let name = name.local.to_string();
        let attributes: Vec<String> =
            attributes.iter().map(|attribute| attribute.name.local.to_string()).collect();
        if !takes(&self.limits.elements, &name) {
            let formula = (name == "math").then(|| formula_of(self.dom, node).0);
            if let Some(formula) = formula.filter(|formula| !formula.source.is_empty()) {
                self.replace_by(node, &formula.source);
                return self.report(Code::ElementNotAllowed, &name, node);
            }
            self.report(Code::ElementNotAllowed, &name, node);
            return self.take_out(node, &name);
        }
        for attribute in ["href", "src", "cite"] {
            let address = self.dom.attribute(node, attribute).unwrap_or_default();
            if self.is_allowed_address(address) {
                continue;
            }
            let shown: String = address.chars().take(80).collect();
            self.report(Code::AddressNotAllowed, &shown, node);
            if attribute == "cite" {
                self.dom.remove_attribute(node, attribute);
            } else {
                return self.take_out(node, &name);
            }
        }
        for attribute in attributes.iter().filter(|name| !takes(&self.limits.attributes, name)) {
            if self.dom.remove_attribute(node, attribute) {
                self.report(Code::AttributeNotAllowed, attribute, node);
            }
        }
    }

    fn report(&mut self, code: Code, subject: &str, node: NodeId) {
        self.has_changed = true;
        let place = (self.place_of)(self.dom.line(node));
        self.findings.count(code, subject, place);
    }

    /// Leaves what an element holds; of a picture, what stands for it in words.
    fn take_out(&mut self, node: NodeId, name: &str) {
        if name == "img" {
            let words = self.dom.attribute(node, "alt").unwrap_or_default().to_string();
            return self.replace_by(node, &words);
        }
        if name == "pre" {
            self.lines_to_breaks(node);
        }
        unwrap_apart(self.dom, node);
    }

    fn replace_by(&mut self, node: NodeId, words: &str) {
        let text = self.dom.new_text(words, node);
        self.dom.insert_before(node, text);
        self.dom.remove(node);
    }

    /// The line endings of preformatted text would be spaces elsewhere.
    fn lines_to_breaks(&mut self, pre: NodeId) {
        for node in self.dom.below(pre).collect::<Vec<_>>() {
            let NodeData::Text(text) = self.dom.data(node) else { continue };
            let text = text.trim_end_matches('\n').to_string();
            let mut lines = text.split('\n');
            self.dom.set_text(node, lines.next().unwrap_or_default());
            let mut last = node;
            for line in lines {
                let line_break = self.dom.new_element("br", node);
                self.dom.insert_behind(last, line_break);
                let text = self.dom.new_text(line, node);
                self.dom.insert_behind(line_break, text);
                last = text;
            }
        }
    }

    fn is_allowed_address(&self, address: &str) -> bool {
        // An address without a scheme stays within the destination.
        self.limits.schemes.is_empty()
            || scheme(address).is_none_or(|scheme| takes(&self.limits.schemes, &scheme))
    }
}

/// An empty list takes everything.
fn takes(list: &[String], name: &str) -> bool {
    list.is_empty() || list.iter().any(|one| one.eq_ignore_ascii_case(name))
}

/// By how much a text is longer than the destination takes, in words.
pub(super) fn excess(html: &str, limits: &LimitSettings) -> Option<String> {
    let most = u64::from(limits.characters);
    if most == 0 {
        return None;
    }
    let length = limits.length(html);
    let unit = match limits.unit {
        CountUnit::Character => "characters",
        CountUnit::Utf16 => "UTF-16 units",
        CountUnit::Byte => "bytes",
    };
    let what = match limits.counted {
        Counted::Everything => "tags included",
        Counted::Text => "without tags",
    };
    let over = length.checked_sub(most).filter(|over| *over > 0)?;
    Some(format!("{length} {unit}, {what}; {over} more than the {most} it takes"))
}

impl LimitSettings {
    /// How long some HTML is, counted as the destination counts.
    ///
    /// ```
    /// let listing = obblet::House::built_in("listing")?;
    /// assert_eq!(listing.limits.length("<p>Tide</p>"), 11);
    /// # Ok::<(), obblet::HouseError>(())
    /// ```
    #[must_use]
    pub fn length(&self, html: &str) -> u64 {
        match self.counted {
            Counted::Everything => count(html, self.unit),
            Counted::Text => count(&shown_text(html), self.unit),
        }
    }
}

fn shown_text(html: &str) -> String {
    let dom = Dom::of_page(html);
    dom.text_of(dom.body().unwrap_or_default()).trim().to_string()
}

fn count(text: &str, unit: CountUnit) -> u64 {
    (match unit {
        CountUnit::Character => text.chars().count(),
        CountUnit::Utf16 => text.encode_utf16().count(),
        CountUnit::Byte => text.len(),
    }) as u64
}
