//! CSS selectors on parsed HTML: the `selectors` crate matches, this tells it what elements are.

use super::dom::{Dom, NodeData, NodeId};
use crate::document::CompactString;
use cssparser::{ParseError, Parser as CssParser, ToCss};
use html5ever::{Attribute, local_name, ns};
use precomputed_hash::PrecomputedHash;
use selectors::attr::{AttrSelectorOperation, CaseSensitivity, NamespaceConstraint};
use selectors::bloom::BloomFilter;
use selectors::context::{
    MatchingContext, MatchingForInvalidation, MatchingMode, NeedsSelectorFlags, QuirksMode,
    SelectorCaches,
};
use selectors::matching::{ElementSelectorFlags, matches_selector};
use selectors::parser::{
    Component, ParseRelative, Selector, SelectorImpl, SelectorList, SelectorParseErrorKind,
};
use selectors::{Element, OpaqueElement};
use std::cell::Cell;
use std::fmt;
use std::hash::{BuildHasher, BuildHasherDefault, DefaultHasher};

/// The types selectors are made of here.
#[derive(Debug, Clone)]
pub(crate) struct Html;

/// A name, class, id or value in a selector.
#[derive(Debug, Clone, Default, PartialEq, Eq, Hash)]
pub(crate) struct Name(CompactString);

impl From<&str> for Name {
    fn from(text: &str) -> Self {
        Self(text.into())
    }
}

impl AsRef<str> for Name {
    fn as_ref(&self) -> &str {
        &self.0
    }
}

impl ToCss for Name {
    fn to_css<W: fmt::Write>(&self, out: &mut W) -> fmt::Result {
        cssparser::serialize_identifier(&self.0, out)
    }
}

impl PrecomputedHash for Name {
    fn precomputed_hash(&self) -> u32 {
        let hash = BuildHasherDefault::<DefaultHasher>::default().hash_one(&self.0);
        // The lower half of a good hash is a good hash.
        hash as u32
    }
}

/// A pseudo-class or pseudo-element. None says anything about a page that nobody looks at.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum NoPseudo {}

impl ToCss for NoPseudo {
    fn to_css<W: fmt::Write>(&self, _: &mut W) -> fmt::Result {
        match *self {}
    }
}

impl selectors::parser::NonTSPseudoClass for NoPseudo {
    fn is_active_or_hover(&self) -> bool {
        match *self {}
    }

    fn is_user_action_state(&self) -> bool {
        match *self {}
    }
}

impl selectors::parser::PseudoElement for NoPseudo {}

impl SelectorImpl for Html {
    type ExtraMatchingData<'a> = ();
    type AttrValue = Name;
    type Identifier = Name;
    type LocalName = Name;
    type NamespaceUrl = Name;
    type NamespacePrefix = Name;
    type BorrowedNamespaceUrl = Name;
    type BorrowedLocalName = Name;
    type NonTSPseudoClass = NoPseudo;
    type PseudoElement = NoPseudo;
}

/// Reads selectors.
pub(crate) struct SelectorReader;

impl<'i> selectors::Parser<'i> for SelectorReader {
    type Impl = Html;
    type Error = SelectorParseErrorKind;

    fn parse_is_and_where(&self) -> bool {
        true
    }

    fn parse_has(&self) -> bool {
        true
    }
}

/// The selectors of a list, parted by commas.
pub(crate) fn selector_list(
    input: &mut CssParser<'_>,
) -> Result<SelectorList<Html>, ParseError<SelectorParseErrorKind>> {
    SelectorList::parse(&SelectorReader, input, ParseRelative::No)
}

/// What an element must have for a selector to match, told from its last part alone.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Key {
    Id(CompactString),
    Class(CompactString),
    Type(CompactString),
    /// Any element may match.
    None,
}

impl Key {
    pub(crate) fn of(selector: &Selector<Html>) -> Self {
        let mut key = Self::None;
        for component in selector.iter() {
            match component {
                Component::ID(id) => return Self::Id(id.0.clone()),
                Component::Class(class) => key = Self::Class(class.0.clone()),
                Component::LocalName(name) if key == Self::None => {
                    key = Self::Type(name.lower_name.0.clone());
                }
                _ => {}
            }
        }
        key
    }
}

/// How many siblings and children one matcher looks at. Selectors such as `a ~ b` and `:has(a)` may
/// look at all of them for every element, which takes time with the square of a page.
const MOST_STEPS: u64 = 20_000_000;

/// Matches selectors against the elements of a page.
#[derive(Default)]
pub(crate) struct Matcher {
    caches: SelectorCaches,
    steps: Cell<u64>,
}

impl Matcher {
    /// Whether the matcher has given up looking; it finds too little from then on.
    pub(crate) fn has_given_up(&self) -> bool {
        self.steps.get() >= MOST_STEPS
    }

    pub(crate) fn matches(&mut self, dom: &Dom, node: NodeId, selector: &Selector<Html>) -> bool {
        if self.has_given_up() {
            return false;
        }
        let mut context = MatchingContext::new(
            MatchingMode::Normal,
            None,
            &mut self.caches,
            QuirksMode::NoQuirks,
            NeedsSelectorFlags::No,
            MatchingForInvalidation::No,
        );
        let element = HtmlElement { dom, node, steps: &self.steps };
        matches_selector(selector, 0, None, element, &mut context)
    }
}

/// One element of a page.
#[derive(Clone, Copy)]
struct HtmlElement<'d> {
    dom: &'d Dom,
    node: NodeId,
    steps: &'d Cell<u64>,
}

impl fmt::Debug for HtmlElement<'_> {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "<{}>", self.dom.name(self.node).unwrap_or_default())
    }
}

impl HtmlElement<'_> {
    fn at(self, node: Option<NodeId>) -> Option<Self> {
        node.map(|node| Self { node, ..self })
    }

    fn is_element(self, node: NodeId) -> bool {
        self.dom.name(node).is_some()
    }

    /// The first element of some nodes.
    fn first(self, mut nodes: impl Iterator<Item = NodeId>) -> Option<Self> {
        let found = nodes.find(|node| {
            self.steps.set(self.steps.get() + 1);
            self.is_element(*node)
        });
        self.at(found)
    }

    fn attributes(&self) -> &[Attribute] {
        match self.dom.data(self.node) {
            NodeData::Element { attributes, .. } => attributes,
            _ => &[],
        }
    }
}

impl Element for HtmlElement<'_> {
    type Impl = Html;

    fn opaque(&self) -> OpaqueElement {
        OpaqueElement::new(self.dom.data(self.node))
    }

    fn parent_element(&self) -> Option<Self> {
        self.at(self.dom.parent(self.node).filter(|parent| self.is_element(*parent)))
    }

    fn parent_node_is_shadow_root(&self) -> bool {
        false
    }

    fn containing_shadow_host(&self) -> Option<Self> {
        None
    }

    fn is_pseudo_element(&self) -> bool {
        false
    }

    fn prev_sibling_element(&self) -> Option<Self> {
        let dom = self.dom;
        self.first(std::iter::successors(dom.previous(self.node), |node| dom.previous(*node)))
    }

    fn next_sibling_element(&self) -> Option<Self> {
        let dom = self.dom;
        self.first(std::iter::successors(dom.next(self.node), |node| dom.next(*node)))
    }

    fn first_element_child(&self) -> Option<Self> {
        self.first(self.dom.children(self.node))
    }

    fn is_html_element_in_html_document(&self) -> bool {
        matches!(self.dom.data(self.node), NodeData::Element { name, .. } if name.ns == ns!(html))
    }

    fn has_local_name(&self, name: &Name) -> bool {
        self.dom.name(self.node) == Some(name.as_ref())
    }

    fn has_namespace(&self, namespace: &Name) -> bool {
        matches!(self.dom.data(self.node), NodeData::Element { name, .. } if &*name.ns == namespace.as_ref())
    }

    fn is_same_type(&self, other: &Self) -> bool {
        self.dom.name(self.node) == other.dom.name(other.node)
    }

    fn attr_matches(
        &self,
        _: &NamespaceConstraint<&Name>,
        name: &Name,
        operation: &AttrSelectorOperation<&Name>,
    ) -> bool {
        self.dom.attribute(self.node, name.as_ref()).is_some_and(|value| operation.eval_str(value))
    }

    fn match_non_ts_pseudo_class(&self, pseudo: &NoPseudo, _: &mut MatchingContext<Html>) -> bool {
        match *pseudo {}
    }

    fn match_pseudo_element(&self, pseudo: &NoPseudo, _: &mut MatchingContext<Html>) -> bool {
        match *pseudo {}
    }

    fn apply_selector_flags(&self, _: ElementSelectorFlags) {}

    fn is_link(&self) -> bool {
        self.dom.name(self.node) == Some("a") && self.dom.attribute(self.node, "href").is_some()
    }

    fn is_html_slot_element(&self) -> bool {
        false
    }

    fn has_id(&self, id: &Name, case: CaseSensitivity) -> bool {
        let value = self.dom.attribute(self.node, "id");
        value.is_some_and(|value| case.eq(value.as_bytes(), id.as_ref().as_bytes()))
    }

    fn has_class(&self, wanted: &Name, case: CaseSensitivity) -> bool {
        let is_class = |attribute: &&Attribute| attribute.name.local == local_name!("class");
        let classes = self.attributes().iter().find(is_class);
        classes.is_some_and(|classes| {
            let mut classes = classes.value.split_ascii_whitespace();
            classes.any(|class| case.eq(class.as_bytes(), wanted.as_ref().as_bytes()))
        })
    }

    fn has_custom_state(&self, _: &Name) -> bool {
        false
    }

    fn imported_part(&self, _: &Name) -> Option<Name> {
        None
    }

    fn is_part(&self, _: &Name) -> bool {
        false
    }

    fn is_empty(&self) -> bool {
        self.dom.children(self.node).all(|child| match self.dom.data(child) {
            NodeData::Text(text) => text.is_empty(),
            NodeData::Element { .. } => false,
            _ => true,
        })
    }

    fn is_root(&self) -> bool {
        self.parent_element().is_none()
    }

    fn add_element_unique_hashes(&self, _: &mut BloomFilter) -> bool {
        false
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn selectors_find_their_elements() {
        let dom = Dom::of_page(
            "<div class='a b'><p id=x>1</p><p class=MsoNormal title=t>2</p></div><p>3</p>",
        );
        let found = |text: &str| {
            let mut input = CssParser::new(text);
            let list = selector_list(&mut input).map_err(|_| text).unwrap();
            let mut matcher = Matcher::default();
            let matches = |node: &NodeId| {
                dom.name(*node).is_some()
                    && list.slice().iter().any(|s| matcher.matches(&dom, *node, s))
            };
            dom.below(0).filter(matches).count()
        };
        let cases = [
            ("p", 3),
            ("P", 3),
            (".a p", 2),
            ("div > p", 2),
            ("#x + p", 1),
            ("p.MsoNormal, #x", 2),
            ("[title=t]", 1),
            ("div p:last-child", 1),
            (":not(.a) > p", 1),
            ("p:nth-child(2)", 2),
            ("div:has(#x)", 1),
            ("span", 0),
        ];
        for (selector, expected) in cases {
            assert_eq!(found(selector), expected, "{selector}");
        }
        assert_eq!(Key::of(&parsed("div p.c")), Key::Class("c".into()));
        assert_eq!(Key::of(&parsed("p#i.c")), Key::Id("i".into()));
        assert_eq!(Key::of(&parsed(".c P")), Key::Type("p".into()));
        assert_eq!(Key::of(&parsed("[title]")), Key::None);
    }

    fn parsed(text: &str) -> Selector<Html> {
        selector_list(&mut CssParser::new(text)).map_err(|_| text).unwrap().slice()[0].clone()
    }
}
