//! Raw HTML made harmless: parsed, filtered by lists of what is allowed, written anew.
//!
//! What goes out is written from the parsed tree and from nothing else, so that a second parser
//! sees what the first one saw.

use super::ITEM_LABEL;
use super::address::{AddressUse, check, push_address};
use super::dom::{Dom, NodeData, NodeId};
use super::elements::{Content, entry};
use super::escape::{push_text, push_value};
use super::formula::{formula_of, push_formula};
use crate::document::{Ids, Place};
use crate::findings::{Code, Findings};
use crate::notation::Page;
use html5ever::{Attribute, ns};
use std::collections::HashSet;

/// Elements that go with all they hold, sorted. Any other element that is not allowed goes alone.
const DROPPED_WHOLE: &[&str] = &[
    "applet", "audio", "canvas", "embed", "frame", "frameset", "head", "iframe", "link", "math",
    "meta", "noembed", "noframes", "noscript", "object", "param", "script", "style", "svg",
    "template", "textarea", "title", "video", "xmp",
];

/// Whether an element goes with all it holds.
pub(super) fn is_dropped_whole(name: &str) -> bool {
    DROPPED_WHOLE.binary_search(&name).is_ok()
}

/// Attributes any element may have.
const GLOBAL_ATTRIBUTES: &[&str] = &["class", "data-audience", "dir", "id", "lang", "title"];

/// Whether this element may have this attribute.
fn is_allowed(element: &str, attribute: &str) -> bool {
    GLOBAL_ATTRIBUTES.contains(&attribute)
        || match element {
            "a" => matches!(attribute, "href" | "role" | "aria-label"),
            "img" => matches!(attribute, "src" | "alt" | "width" | "height"),
            "ol" => matches!(attribute, "start" | "type" | "reversed"),
            "li" => attribute == "value",
            "td" => matches!(attribute, "colspan" | "rowspan" | "style"),
            "th" => matches!(attribute, "colspan" | "rowspan" | "scope" | "style"),
            "col" | "colgroup" => attribute == "span",
            "input" => matches!(attribute, "type" | "disabled" | "checked"),
            "details" => attribute == "open",
            "aside" => attribute == "data-kind",
            "span" => attribute == ITEM_LABEL,
            "time" => attribute == "datetime",
            "ins" | "del" => attribute == "datetime",
            "nav" => attribute == "aria-label",
            "section" => matches!(attribute, "role" | "aria-label"),
            _ => false,
        }
}

/// What sanitising gives.
pub(super) struct Clean {
    pub(super) html: String,
    /// How many mistakes the parser mended.
    pub(super) mended: usize,
}

/// Where the labels of lines of formulas get their ids.
struct Labels<'i>(&'i mut Ids);

impl Page for Labels<'_> {
    fn push_text(&mut self, out: &mut String, text: &str) {
        push_text(out, text);
    }

    fn push_value(&mut self, out: &mut String, value: &str) {
        push_value(out, value);
    }

    fn id_of_label(&mut self, label: &str) -> Option<String> {
        self.0.stated(label).map(Into::into)
    }
}

/// Makes a part of the inside of a body harmless. Ids go to whoever states them first; the place
/// is for all findings.
pub(super) fn sanitise(
    html: &str,
    ids: &mut Ids,
    findings: &mut Findings,
    place: Option<Place>,
) -> Clean {
    let dom = Dom::of_body(html);
    let mut writer = CleanWriter {
        dom: &dom,
        out: String::with_capacity(html.len()),
        ids,
        holding_blocks: holding_blocks(&dom),
        findings,
        place,
    };
    writer.run();
    Clean { html: writer.out, mended: dom.mended }
}

/// An element that is being written.
struct OpenElement {
    name: &'static str,
    /// Whether its children may be blocks.
    holds_blocks: bool,
}

struct CleanWriter<'d, 'f> {
    dom: &'d Dom,
    out: String,
    ids: &'f mut Ids,
    /// The nodes that hold a block at any depth.
    holding_blocks: HashSet<NodeId>,
    findings: &'f mut Findings,
    place: Option<Place>,
}

/// The nodes that hold a block at any depth. A formatting element that was never closed holds all
/// that follows; it is the element that has to go then, not the blocks.
fn holding_blocks(dom: &Dom) -> HashSet<NodeId> {
    let mut holding = HashSet::new();
    // Each node twice: on the way in, and once all it holds has been seen.
    let mut steps = vec![(dom.root(), None, false)];
    while let Some((node, parent, seen)) = steps.pop() {
        if !seen {
            steps.push((node, parent, true));
            let mut child = dom.first_child(node);
            while let Some(inner) = child {
                steps.push((inner, Some(node), false));
                child = dom.next(inner);
            }
            continue;
        }
        let is_block = match dom.data(node) {
            NodeData::Element { name, .. } => {
                entry(&name.local).is_some_and(|(_, content)| content.is_block())
            }
            _ => false,
        };
        if is_block || holding.contains(&node) {
            holding.extend(parent);
        }
    }
    holding
}

/// A step still to be taken.
enum Step {
    Node(NodeId),
    /// Writes the closing tag of the innermost open element.
    Close,
}

impl CleanWriter<'_, '_> {
    fn run(&mut self) {
        let mut open: Vec<OpenElement> = Vec::new();
        let mut steps = Vec::new();
        self.push_children(self.dom.root(), &mut steps);
        while let Some(step) = steps.pop() {
            match step {
                Step::Close => {
                    if let Some(element) = open.pop() {
                        self.out.push_str(&format!("</{}>", element.name));
                    }
                }
                Step::Node(node) => self.node(node, &mut open, &mut steps),
            }
        }
    }

    /// Pushes the next sibling never, all children at once, the first one last.
    fn push_children(&self, parent: NodeId, steps: &mut Vec<Step>) {
        let from = steps.len();
        let mut child = self.dom.first_child(parent);
        while let Some(node) = child {
            steps.push(Step::Node(node));
            child = self.dom.next(node);
        }
        if let Some(children) = steps.get_mut(from..) {
            children.reverse();
        }
    }

    fn node(&mut self, node: NodeId, open: &mut Vec<OpenElement>, steps: &mut Vec<Step>) {
        match self.dom.data(node) {
            NodeData::Text(text) => push_text(&mut self.out, text),
            NodeData::Remark(_) | NodeData::Document => {}
            NodeData::Element { name, attributes } => {
                let local = &*name.local;
                if local == "math" && self.formula(node) {
                    return;
                }
                if name.ns != ns!(html) || is_dropped_whole(local) {
                    self.findings.count(Code::ElementDropped, local, self.place);
                    return;
                }
                match self.allowed_here(node, local, attributes, open) {
                    Some((element, content)) => {
                        self.open_tag(element, attributes);
                        if matches!(content, Content::Void | Content::VoidBlock) {
                            return;
                        }
                        let inherited = open.last().is_none_or(|parent| parent.holds_blocks);
                        let holds_blocks = match content {
                            Content::Heading | Content::Phrasing => false,
                            Content::Transparent => inherited,
                            _ => true,
                        };
                        open.push(OpenElement { name: element, holds_blocks });
                        steps.push(Step::Close);
                    }
                    None => self.findings.count(Code::ElementUnwrapped, local, self.place),
                }
                self.push_children(node, steps);
            }
        }
    }

    /// Of a formula nothing goes out but what its tree says, as the writer writes it.
    fn formula(&mut self, node: NodeId) -> bool {
        let (formula, unknown) = formula_of(self.dom, node);
        if formula.source.is_empty() || !unknown.is_empty() {
            return false;
        }
        let numbered = formula.numbered(self.findings, self.place);
        let labels = &mut Labels(self.ids);
        push_formula(&mut self.out, &formula.source, formula.display, &numbered, labels);
        true
    }

    /// The element's entry when it may stand here; else only its content goes on.
    fn allowed_here(
        &self,
        node: NodeId,
        name: &str,
        attributes: &[Attribute],
        open: &[OpenElement],
    ) -> Option<(&'static str, Content)> {
        let (name, content) = entry(name)?;
        let parent = open.last();
        let blocks_fit = parent.is_none_or(|parent| parent.holds_blocks);
        let is_inside = |name: &str| open.iter().any(|element| element.name == name);
        let fits = match content {
            Content::Part("list") => parent.is_some_and(|p| matches!(p.name, "ol" | "ul")),
            Content::Part(whole) => parent.is_some_and(|parent| parent.name == whole),
            Content::Phrasing => !self.holding_blocks.contains(&node),
            _ if content.is_block() => blocks_fit,
            _ => true,
        };
        let value = |wanted: &str| attributes.iter().find(|a| &*a.name.local == wanted);
        let is_whole = match name {
            "a" => !is_inside("a"),
            // A row without a cell is none.
            "tr" => self.has_cell(node),
            "input" => {
                value("type").is_some_and(|kind| kind.value.eq_ignore_ascii_case("checkbox"))
            }
            "img" => value("src").is_some_and(|source| {
                !source.value.trim().is_empty() && check(&source.value, AddressUse::Picture).is_ok()
            }),
            _ => true,
        };
        (fits && is_whole).then_some((name, content))
    }

    fn has_cell(&self, row: NodeId) -> bool {
        let mut child = self.dom.first_child(row);
        while let Some(node) = child {
            if let NodeData::Element { name, .. } = self.dom.data(node)
                && matches!(&*name.local, "td" | "th")
            {
                return true;
            }
            child = self.dom.next(node);
        }
        false
    }

    fn open_tag(&mut self, element: &'static str, attributes: &[Attribute]) {
        self.out.push('<');
        self.out.push_str(element);
        let has = |wanted: &str| attributes.iter().any(|a| &*a.name.local == wanted);
        for attribute in attributes {
            let name = match &*attribute.name.local {
                // What links led to before elements had ids.
                "name" if element == "a" && !has("id") => "id",
                name => name,
            };
            if attribute.name.ns != ns!() || !self.attribute(element, name, &attribute.value) {
                self.findings.count(Code::AttributeDropped, name, self.place);
            }
        }
        if element == "img" && !has("alt") {
            self.out.push_str(" alt=\"\"");
        }
        if element == "input" && !has("disabled") {
            self.out.push_str(" disabled");
        }
        self.out.push('>');
    }

    /// Writes an attribute if it may go out with this value.
    fn attribute(&mut self, element: &str, name: &str, value: &str) -> bool {
        if !is_allowed(element, name) {
            return false;
        }
        let whole_number = || !value.is_empty() && value.bytes().all(|byte| byte.is_ascii_digit());
        let fits = match name {
            "href" => check(value, AddressUse::Link).is_ok(),
            "src" => check(value, AddressUse::Picture).is_ok(),
            "id" => return self.id(value),
            "style" => value
                .strip_prefix("text-align: ")
                .is_some_and(|v| matches!(v, "start" | "center" | "end")),
            "colspan" | "rowspan" | "span" => whole_number() && !value.starts_with('0'),
            "width" | "height" => whole_number(),
            "start" | "value" => value.parse::<i32>().is_ok(),
            "lang" => super::write::is_language_tag(value),
            "dir" => matches!(value, "ltr" | "rtl" | "auto"),
            "scope" => matches!(value, "col" | "row" | "colgroup" | "rowgroup"),
            "type" => element == "input" || matches!(value, "1" | "a" | "A" | "i" | "I"),
            "role" => value.starts_with("doc-"),
            "class" => !value.trim().is_empty(),
            _ => true,
        };
        if !fits {
            return false;
        }
        self.out.push(' ');
        self.out.push_str(name);
        if matches!(name, "disabled" | "checked" | "open" | "reversed") {
            return true;
        }
        self.out.push_str("=\"");
        match name {
            "href" | "src" => push_address(&mut self.out, value),
            _ => push_value(&mut self.out, value),
        }
        self.out.push('"');
        true
    }

    /// The first element with an id keeps it.
    fn id(&mut self, value: &str) -> bool {
        let id = self.ids.stated(value);
        if let Some(id) = &id {
            self.out.push_str(" id=\"");
            push_value(&mut self.out, id);
            self.out.push('"');
        }
        id.is_some()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn clean(html: &str) -> String {
        sanitise(html, &mut Ids::default(), &mut Findings::new(), None).html
    }

    #[test]
    fn lists_are_sorted() {
        assert!(DROPPED_WHOLE.is_sorted());
    }

    #[test]
    fn nothing_that_runs_goes_out() {
        let cases = [
            ("<script>x</script>a", "a"),
            ("<p onclick=x>a</p>", "<p>a</p>"),
            ("<a href=\" java&#10;script:x\">a</a>", "<a>a</a>"),
            ("<img src=javascript:x alt=a>", ""),
            ("<img src=x onerror=y>", "<img src=\"x\" alt=\"\">"),
            ("<svg><script>x</script></svg>b", "b"),
            ("<iframe srcdoc='<script>x</script>'></iframe>", ""),
            ("<input type=password>", ""),
            (
                "<math><mtext><table><mglyph><style><!--</style><img title=\"--&gt;&lt;img src=1 onerror=x&gt;\">",
                "",
            ),
            ("<p style='background:url(javascript:x)'>a</p>", "<p>a</p>"),
            ("<td style='text-align: start'>", ""),
        ];
        for (html, expected) in cases {
            assert_eq!(clean(html), expected, "{html}");
        }
    }

    #[test]
    fn what_is_kept_stands_where_it_may() {
        let cases = [
            ("<b>a<i>b</b>c</i>", "<b>a<i>b</i></b><i>c</i>"),
            ("<span><div>a</div></span>", "<div>a</div>"),
            ("<b>a<p>b</p>", "a<p>b</p>"),
            ("<h2><div>a</div></h2>", "<h2>a</h2>"),
            ("<li>a</li>", "a"),
            ("<ul><li>a</ul>", "<ul><li>a</li></ul>"),
            ("<font color=red>a</font>", "a"),
            (
                "<table><tr></tr><tr><td>a</table>",
                "<table><tbody><tr><td>a</td></tr></tbody></table>",
            ),
            ("<p id=a>x</p><p id=a>y</p>", "<p id=\"a\">x</p><p>y</p>"),
            ("a & b &lt;", "a &amp; b &lt;"),
            (
                "<details><summary>s</summary>t</details>",
                "<details><summary>s</summary>t</details>",
            ),
        ];
        for (html, expected) in cases {
            assert_eq!(clean(html), expected, "{html}");
        }
    }

    #[test]
    fn output_is_a_fixed_point() {
        for html in
            ["<b>a<i>b</b>c</i>", "<table><tr><td>a<p>b", "<a href='a b&c'>x</a>", "<p>&nbsp;&lt;"]
        {
            let once = clean(html);
            assert_eq!(clean(&once), once);
        }
    }
}
