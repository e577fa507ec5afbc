//! A tree as text again: HTML or its XML syntax (HTML Standard, 13.3 and 14), characters literal or
//! as references.

use super::characters::name_of;
use super::{Dom, NodeData, NodeId};
use crate::formats::html::address::push_address;
use crate::formats::html::depth_guard::EMPTY;
use crate::formats::html::escape;
use html5ever::{Attribute, QualName, ns};
use serde::Serialize;
use std::fmt::Write as _;

/// How a tree is spelled.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Writing {
    pub(crate) syntax: Syntax,
    pub(crate) spelling: Spelling,
    /// Characters outside ASCII that the spelling leaves become references.
    pub(crate) ascii_only: bool,
}

/// The two syntaxes of HTML.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Syntax {
    /// What browsers read as `text/html`.
    #[default]
    Html,
    /// XML: every element is closed, every value quoted.
    Xhtml,
}

/// How characters outside ASCII are spelled.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Spelling {
    /// As themselves.
    #[default]
    Literal,
    /// `&mdash;`, where HTML 4 has a name; XML knows none, and gets numbers.
    Named,
    /// `&#8212;`.
    Numeric,
}

/// Attributes that say something by being there.
const BARE: [&str; 4] = ["checked", "disabled", "open", "reversed"];

/// Elements whose text HTML does not escape.
const RAW_TEXT: [&str; 2] = ["script", "style"];

impl Dom {
    /// The inside of a parsed body.
    pub(crate) fn body_html(&self, writing: &Writing) -> String {
        let mut out = Serialiser { dom: self, writing, out: String::new() };
        self.children(self.root()).for_each(|child| out.tree(child));
        out.out
    }

    /// A parsed page, from its document type on.
    pub(crate) fn page_html(&self, writing: &Writing) -> String {
        let head = match writing.syntax {
            Syntax::Html => "<!DOCTYPE html>\n",
            Syntax::Xhtml => "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<!DOCTYPE html>\n",
        };
        let mut out = Serialiser { dom: self, writing, out: head.into() };
        self.children(0).for_each(|child| out.tree(child));
        out.out.push('\n');
        out.out
    }
}

struct Serialiser<'d> {
    dom: &'d Dom,
    writing: &'d Writing,
    out: String,
}

impl Serialiser<'_> {
    fn tree(&mut self, top: NodeId) {
        let mut at = top;
        loop {
            self.enter(at);
            if let Some(child) = self.dom.first_child(at) {
                at = child;
                continue;
            }
            loop {
                self.leave(at);
                if at == top {
                    return;
                }
                if let Some(next) = self.dom.next(at) {
                    at = next;
                    break;
                }
                let Some(parent) = self.dom.parent(at) else { return };
                at = parent;
            }
        }
    }

    fn enter(&mut self, node: NodeId) {
        match self.dom.data(node) {
            NodeData::Text(text) => self.text(node, text),
            NodeData::Remark(text) => self.remark(text),
            NodeData::Element { name, attributes } => self.open_tag(node, name, attributes),
            NodeData::Document => {}
        }
    }

    fn leave(&mut self, node: NodeId) {
        let NodeData::Element { name, .. } = self.dom.data(node) else { return };
        if self.is_closed_at_once(node, name) {
            return;
        }
        self.out.push_str("</");
        self.element_name(name);
        self.out.push('>');
    }

    /// Whether the start tag is the whole element.
    fn is_closed_at_once(&self, node: NodeId, name: &QualName) -> bool {
        if name.ns == ns!(html) {
            return EMPTY.contains(&&*name.local);
        }
        self.dom.first_child(node).is_none()
    }

    fn open_tag(&mut self, node: NodeId, name: &QualName, attributes: &[Attribute]) {
        self.out.push('<');
        self.element_name(name);
        let is_xml = self.writing.syntax == Syntax::Xhtml;
        let around = self.dom.parent(node).map(|parent| self.dom.data(parent));
        let is_same =
            matches!(around, Some(NodeData::Element { name: outer, .. }) if outer.ns == name.ns);
        let is_stated = attributes.iter().any(|attribute| &*attribute.name.local == "xmlns");
        let is_fragment = name.ns == ns!(html) && &*name.local != "html";
        if is_xml && !is_same && !is_stated && !is_fragment {
            let _ = write!(self.out, " xmlns=\"{}\"", name.ns);
        }
        for attribute in attributes {
            self.attribute(attribute, is_xml);
        }
        let is_whole = self.is_closed_at_once(node, name);
        let slash = is_whole && (is_xml || name.ns != ns!(html));
        self.out.push_str(if slash { "/>" } else { ">" });
        if &*name.local == "html" {
            self.out.push('\n');
        }
        // The parser drops a line ending that comes first in these.
        if !is_xml
            && matches!(&*name.local, "pre" | "textarea" | "listing")
            && self.dom.first_child(node).is_some_and(|child| self.begins_with_newline(child))
        {
            self.out.push('\n');
        }
    }

    fn begins_with_newline(&self, node: NodeId) -> bool {
        matches!(self.dom.data(node), NodeData::Text(text) if text.starts_with('\n'))
    }

    fn attribute(&mut self, attribute: &Attribute, is_xml: bool) {
        let name = &*attribute.name.local;
        let is_bare = attribute.value.is_empty() && BARE.contains(&name);
        if is_xml && !is_xml_name(name) {
            return;
        }
        self.out.push(' ');
        self.element_name(&attribute.name);
        let value = match is_bare {
            true if !is_xml => return,
            true => name,
            false => &*attribute.value,
        };
        self.out.push_str("=\"");
        let start = self.out.len();
        match name {
            "href" | "src" => push_address(&mut self.out, value),
            _ => escape::push_value(&mut self.out, value),
        }
        self.spell_from(start);
        self.out.push('"');
        if name == "lang" && is_xml && attribute.name.ns == ns!() {
            self.out.push_str(" xml:lang=\"");
            escape::push_value(&mut self.out, value);
            self.out.push('"');
        }
    }

    fn element_name(&mut self, name: &QualName) {
        if let Some(prefix) = name.prefix.as_deref().filter(|prefix| !prefix.is_empty()) {
            self.out.push_str(prefix);
            self.out.push(':');
        }
        self.out.push_str(&name.local);
    }

    fn text(&mut self, node: NodeId, text: &str) {
        let around = self.dom.parent(node).and_then(|parent| self.dom.name(parent));
        let start = self.out.len();
        if around.is_some_and(|name| RAW_TEXT.contains(&name)) {
            match self.writing.syntax {
                Syntax::Html => self.out.push_str(text),
                Syntax::Xhtml => escape::push_text(&mut self.out, text),
            }
            if self.writing.ascii_only && around == Some("style") {
                let escaped = css_escaped(self.out.get(start..).unwrap_or_default());
                self.out.truncate(start);
                self.out.push_str(&escaped);
            }
            return;
        }
        escape::push_text(&mut self.out, text);
        self.spell_from(start);
    }

    fn remark(&mut self, text: &str) {
        let start = self.out.len();
        self.out.push_str("<!--");
        // XML allows no two hyphens inside, HTML none but at the end of it.
        self.out.push_str(&text.replace("--", "- -"));
        if text.ends_with('-') {
            self.out.push(' ');
        }
        self.out.push_str("-->");
        self.spell_from(start);
    }

    /// Spells the characters outside ASCII, from here to the end of what is written.
    fn spell_from(&mut self, start: usize) {
        let writing = *self.writing;
        if writing.spelling == Spelling::Literal && !writing.ascii_only {
            return;
        }
        let Some(written) = self.out.get(start..) else { return };
        if written.is_ascii() {
            return;
        }
        let literal = written.to_string();
        self.out.truncate(start);
        for character in literal.chars() {
            self.spell(character);
        }
    }

    fn spell(&mut self, character: char) {
        let writing = self.writing;
        let name = match (writing.spelling, writing.syntax) {
            (Spelling::Named, Syntax::Html) => name_of(character),
            _ => None,
        };
        let is_numeric = writing.ascii_only
            || writing.spelling == Spelling::Numeric
            || (writing.spelling == Spelling::Named
                && writing.syntax == Syntax::Xhtml
                && name_of(character).is_some());
        match name {
            _ if character.is_ascii() => self.out.push(character),
            Some(name) => {
                let _ = write!(self.out, "&{name};");
            }
            None if is_numeric => {
                let _ = write!(self.out, "&#{};", u32::from(character));
            }
            None => self.out.push(character),
        }
    }
}

/// Whether XML takes it as a name; HTML parsers make attributes of names that are none there.
fn is_xml_name(name: &str) -> bool {
    let mut characters = name.chars();
    let begins = characters.next().is_some_and(|c| c.is_alphabetic() || c == '_');
    begins && characters.all(|c| c.is_alphanumeric() || matches!(c, '-' | '_' | '.' | ':'))
}

/// Characters outside ASCII as CSS spells them in ASCII (CSS Syntax 3, 4.3.7).
fn css_escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for character in text.chars() {
        if character.is_ascii() {
            out.push(character);
        } else {
            let _ = write!(out, "\\{:X} ", u32::from(character));
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn syntaxes_and_spellings() {
        let html = Writing::default();
        let xhtml = Writing { syntax: Syntax::Xhtml, ..html };
        let named = Writing { spelling: Spelling::Named, ..html };
        let ascii = Writing { spelling: Spelling::Named, ascii_only: true, ..html };
        let numeric = Writing { spelling: Spelling::Numeric, ..html };
        let named_xml = Writing { spelling: Spelling::Named, ..xhtml };
        let cases = [
            ("a<br>b<hr>", &html, "a<br>b<hr>"),
            ("a<br>b<hr>", &xhtml, "a<br/>b<hr/>"),
            ("<input type=checkbox disabled>", &html, "<input type=\"checkbox\" disabled>"),
            (
                "<input type=checkbox disabled>",
                &xhtml,
                "<input type=\"checkbox\" disabled=\"disabled\"/>",
            ),
            ("<p lang=de>x", &xhtml, "<p lang=\"de\" xml:lang=\"de\">x</p>"),
            ("<img src=a alt>", &xhtml, "<img src=\"a\" alt=\"\"/>"),
            ("a – ł &amp; &lt;", &html, "a – ł &amp; &lt;"),
            ("a – ł &amp; &lt;", &named, "a &ndash; ł &amp; &lt;"),
            ("a – ł", &ascii, "a &ndash; &#322;"),
            ("a – ł", &numeric, "a &#8211; &#322;"),
            ("a – ł", &named_xml, "a &#8211; ł"),
            ("<p title='é'>x", &ascii, "<p title=\"&eacute;\">x</p>"),
            (
                "<style>a:after{content:'—'}</style>",
                &ascii,
                "<style>a:after{content:'\\2014 '}</style>",
            ),
            ("<style>a>b{}</style>", &xhtml, "<style>a&gt;b{}</style>"),
            ("<svg><g/></svg>", &xhtml, "<svg xmlns=\"http://www.w3.org/2000/svg\"><g/></svg>"),
            ("<pre>\n\na</pre>", &html, "<pre>\n\na</pre>"),
            ("<pre>\n\na</pre>", &xhtml, "<pre>\na</pre>"),
            ("<!--a--b-->c", &xhtml, "<!--a- -b-->c"),
            ("<p x\"y=1 z=2>a", &xhtml, "<p z=\"2\">a</p>"),
        ];
        for (source, writing, expected) in cases {
            assert_eq!(Dom::of_body(source).body_html(writing), expected, "{source}");
        }
    }

    #[test]
    fn a_page_as_xml() {
        let page =
            Dom::of_page("<!doctype html><html lang=en><head><title>t</title></head><body>a<br>b");
        let xhtml = Writing { syntax: Syntax::Xhtml, ..Writing::default() };
        assert_eq!(
            page.page_html(&xhtml),
            "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<!DOCTYPE html>\n\
             <html xmlns=\"http://www.w3.org/1999/xhtml\" lang=\"en\" xml:lang=\"en\">\n\
             <head><title>t</title></head><body>a<br/>b</body></html>\n"
        );
    }
}
