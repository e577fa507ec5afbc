//! The elements of HTML that may go out, and what each may stand in and hold.

/// What an element is and holds (HTML Standard, 3.2.5.2, kinds of content).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Content {
    /// A block that holds blocks.
    Flow,
    /// A block that holds only what stands in lines.
    Heading,
    /// Stands in lines and holds only such.
    Phrasing,
    /// Holds what its parent holds.
    Transparent,
    /// Stands in lines, holds nothing.
    Void,
    /// A block that holds nothing.
    VoidBlock,
    /// Stands only in this element, or in `ol` or `ul` for `list`; holds blocks.
    Part(&'static str),
    /// Part of a table; the parser lets it stand nowhere else. Holds blocks.
    Table,
}

impl Content {
    pub(super) fn is_block(self) -> bool {
        !matches!(self, Self::Phrasing | Self::Transparent | Self::Void | Self::Table)
    }
}

/// The elements that may go out, sorted, each with what it may stand in and hold.
const ELEMENTS: &[(&str, Content)] = &[
    ("a", Content::Transparent),
    ("abbr", Content::Phrasing),
    ("article", Content::Flow),
    ("aside", Content::Flow),
    ("b", Content::Phrasing),
    ("bdi", Content::Phrasing),
    ("bdo", Content::Phrasing),
    ("blockquote", Content::Flow),
    ("br", Content::Void),
    ("caption", Content::Table),
    ("cite", Content::Phrasing),
    ("code", Content::Phrasing),
    ("col", Content::Table),
    ("colgroup", Content::Table),
    ("dd", Content::Part("dl")),
    ("del", Content::Transparent),
    ("details", Content::Flow),
    ("dfn", Content::Phrasing),
    ("div", Content::Flow),
    ("dl", Content::Flow),
    ("dt", Content::Part("dl")),
    ("em", Content::Phrasing),
    ("figcaption", Content::Part("figure")),
    ("figure", Content::Flow),
    ("footer", Content::Flow),
    ("h1", Content::Heading),
    ("h2", Content::Heading),
    ("h3", Content::Heading),
    ("h4", Content::Heading),
    ("h5", Content::Heading),
    ("h6", Content::Heading),
    ("header", Content::Flow),
    ("hr", Content::VoidBlock),
    ("i", Content::Phrasing),
    ("img", Content::Void),
    ("input", Content::Void),
    ("ins", Content::Transparent),
    ("kbd", Content::Phrasing),
    ("li", Content::Part("list")),
    ("mark", Content::Phrasing),
    ("nav", Content::Flow),
    ("ol", Content::Flow),
    ("p", Content::Heading),
    ("pre", Content::Heading),
    ("q", Content::Phrasing),
    ("rp", Content::Phrasing),
    ("rt", Content::Phrasing),
    ("ruby", Content::Phrasing),
    ("s", Content::Phrasing),
    ("samp", Content::Phrasing),
    ("section", Content::Flow),
    ("small", Content::Phrasing),
    ("span", Content::Phrasing),
    ("strong", Content::Phrasing),
    ("sub", Content::Phrasing),
    ("summary", Content::Part("details")),
    ("sup", Content::Phrasing),
    ("table", Content::Flow),
    ("tbody", Content::Table),
    ("td", Content::Table),
    ("tfoot", Content::Table),
    ("th", Content::Table),
    ("thead", Content::Table),
    ("time", Content::Phrasing),
    ("tr", Content::Table),
    ("u", Content::Phrasing),
    ("ul", Content::Flow),
    ("var", Content::Phrasing),
    ("wbr", Content::Void),
];

/// What is known about an allowed element.
pub(super) fn entry(name: &str) -> Option<(&'static str, Content)> {
    let index = ELEMENTS.binary_search_by(|entry| entry.0.cmp(name)).ok()?;
    ELEMENTS.get(index).copied()
}

/// Whether an element of this name may go out.
pub(crate) fn is_element(name: &str) -> bool {
    entry(name).is_some()
}

/// Whether an element of this name may hold anything.
pub(crate) fn can_hold_content(name: &str) -> bool {
    entry(name).is_some_and(|(_, content)| !matches!(content, Content::Void | Content::VoidBlock))
}

/// Whether an element of this name stands on lines of its own.
pub(crate) fn is_block(name: &str) -> bool {
    entry(name).is_some_and(|(_, content)| content.is_block() || content == Content::Table)
}

/// Whether an element of this name holds only what stands in lines.
pub(crate) fn holds_lines(name: &str) -> bool {
    entry(name).is_some_and(|(_, content)| matches!(content, Content::Heading | Content::Phrasing))
}

/// The elements that one of this name may stand in; none for one that is not bound to any.
pub(crate) fn places_of(name: &str) -> &'static [&'static str] {
    match (name, entry(name)) {
        ("td" | "th", _) => &["tr"],
        ("tr", _) => &["table", "thead", "tbody", "tfoot"],
        ("col", _) => &["colgroup"],
        ("thead" | "tbody" | "tfoot" | "caption" | "colgroup", _) => &["table"],
        ("dt" | "dd", _) => &["dl", "div"],
        ("li", _) => &["ol", "ul", "menu"],
        ("figcaption", _) => &["figure"],
        ("summary", _) => &["details"],
        ("rt" | "rp", _) => &["ruby"],
        _ => &[],
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn elements_are_sorted_and_parts_have_their_places() {
        assert!(ELEMENTS.is_sorted_by_key(|entry| entry.0));
        for (name, content) in ELEMENTS {
            let is_part = matches!(content, Content::Part(_));
            assert!(!is_part || !places_of(name).is_empty(), "{name}");
        }
    }
}
