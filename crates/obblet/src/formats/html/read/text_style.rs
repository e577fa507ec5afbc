//! What styles make of the text below an element.

use super::super::css::{Display, Raise, Stated, Weight};
use super::super::dom::NodeId;
use super::Reader;
use super::line::Formats;
use super::looks::LooksAround;
use crate::document::{Formatting, TextAlign};
use crate::findings::Code;
use std::rc::Rc;

/// What holds for text at one place of the page.
#[derive(Debug, Clone, Default)]
pub(super) struct TextStyle {
    /// The formats that styles give, those of outer elements included.
    pub(super) formats: Formats,
    /// White space stands as it is.
    pub(super) preformatted: bool,
    /// How lines are aligned, and how the cell around them says they are.
    pub(super) align: Option<TextAlign>,
    pub(super) cell_align: Option<TextAlign>,
    /// Inside headings and header cells, which are bold anyway.
    bold_says_nothing: bool,
    pub(super) looks: LooksAround,
}

impl Reader<'_> {
    /// Goes into an element: its styles hold until [`leave`](Self::leave).
    pub(super) fn enter(&mut self, node: NodeId) -> TextStyle {
        let outer = self.text.clone();
        let stated = if self.in_code { Rc::default() } else { self.styles.stated(node) };
        let name = self.dom.name(node).unwrap_or_default();
        let is_link = self.is_link(node);
        let formats = &mut self.text.formats;
        if let Some(weight) = stated.weight {
            formats.set(Formatting::Strong, weight == Weight::Bold);
        }
        if let Some(italic) = stated.italic {
            formats.set(Formatting::Emphasis, italic);
        }
        // A line below an outer element goes on below all that is in it.
        if stated.underline == Some(true) && !is_link {
            formats.set(Formatting::Underline, true);
        }
        if stated.strike == Some(true) {
            formats.set(Formatting::Struck, true);
        }
        if let Some(small) = stated.small_capitals {
            formats.set(Formatting::SmallCapitals, small);
        }
        if let Some(highlight) = stated.highlight {
            formats.set(Formatting::Highlight, highlight);
        }
        if let Some(raise) = stated.raise.filter(|_| !matches!(name, "td" | "th" | "tr" | "img")) {
            formats.set(Formatting::Superscript, raise == Raise::Above);
            formats.set(Formatting::Subscript, raise == Raise::Below);
        }
        self.hold_back(name, &stated);
        let align = stated.align.or_else(|| self.stated_align(node));
        self.text.align = align.or(self.text.align);
        if let Some(preformatted) = stated.preformatted {
            self.text.preformatted = preformatted;
        }
        if self.options.looks && !self.in_code {
            self.enter_looks(node, &stated, align);
        }
        outer
    }

    /// The alignment that an attribute states.
    fn stated_align(&self, node: NodeId) -> Option<TextAlign> {
        match self.dom.name(node) {
            Some("img" | "table" | "hr") => return None,
            Some("center") if self.options.looks => return Some(TextAlign::Centre),
            _ => {}
        }
        match self.dom.attribute(node, "align")? {
            "left" => Some(TextAlign::Start),
            "center" | "middle" => Some(TextAlign::Centre),
            "right" => Some(TextAlign::End),
            "justify" => Some(TextAlign::Justify),
            _ => None,
        }
    }

    /// Says that the lines of a block stand otherwise than lines do by themselves.
    pub(super) fn report_alignment(&mut self, node: NodeId) {
        let align = self.text.align.unwrap_or(TextAlign::Start);
        let around = self.text.cell_align.unwrap_or(TextAlign::Start);
        if align != around && align != TextAlign::Start && !self.options.looks {
            self.dropped(Code::LooksNotRead, "text-align", node);
        }
    }

    /// Formats that an element has anyway, or whose own element says them.
    fn hold_back(&mut self, name: &str, stated: &Stated) {
        let formats = &mut self.text.formats;
        match name {
            "h1" | "h2" | "h3" | "h4" | "h5" | "h6" | "th" => {
                formats.set(Formatting::Strong, false);
                formats.set(Formatting::Emphasis, false);
                self.text.bold_says_nothing = true;
            }
            "b" | "strong" if stated.weight != Some(Weight::Normal) => {
                formats.set(Formatting::Strong, false);
            }
            "i" | "em" | "cite" | "var" | "dfn" if stated.italic != Some(false) => {
                formats.set(Formatting::Emphasis, false);
            }
            "u" | "ins" => formats.set(Formatting::Underline, false),
            "s" | "strike" | "del" => formats.set(Formatting::Struck, false),
            "sup" => formats.set(Formatting::Superscript, false),
            "sub" => formats.set(Formatting::Subscript, false),
            "mark" => formats.set(Formatting::Highlight, false),
            "code" | "tt" | "pre" => self.text.preformatted = false,
            _ => {}
        }
        if self.text.bold_says_nothing {
            self.text.formats.set(Formatting::Strong, false);
        }
        if self.in_link {
            self.text.formats.set(Formatting::Underline, false);
        }
    }

    /// Goes back to what held around the element.
    pub(super) fn leave(&mut self, outer: TextStyle) {
        self.text = outer;
    }

    /// Whether a style takes away what the element is for: `<b style="font-weight: normal">`.
    pub(super) fn is_undone(&mut self, node: NodeId, format: Formatting) -> bool {
        if self.in_code {
            return false;
        }
        let stated = self.styles.stated(node);
        match format {
            Formatting::Strong => stated.weight == Some(Weight::Normal),
            Formatting::Emphasis => stated.italic == Some(false),
            Formatting::Underline => stated.underline == Some(false),
            Formatting::Superscript | Formatting::Subscript => stated.raise == Some(Raise::No),
            _ => false,
        }
    }

    /// The format of an outer element that this one takes away from its own text.
    pub(super) fn undone_formats(&mut self, node: NodeId) -> Option<Formatting> {
        let stated = self.styles.stated(node);
        if stated.weight == Some(Weight::Normal) {
            return Some(Formatting::Strong);
        }
        (stated.italic == Some(false)).then_some(Formatting::Emphasis)
    }

    /// Whether readers see the element; what they do not see is dropped and told.
    pub(super) fn is_shown(&mut self, node: NodeId) -> bool {
        let stated = self.styles.stated(node);
        // The list itself shows the mark.
        if stated.typed_out == Some(true) && self.in_list_paragraph {
            return false;
        }
        if self.left_out.contains(&node) {
            return false;
        }
        let hidden =
            stated.display == Some(Display::Hidden) || self.dom.attribute(node, "hidden").is_some();
        if hidden && self.dom.first_child(node).is_some() {
            self.dropped(Code::HiddenDropped, "", node);
        }
        !hidden
    }

    /// Links are underlined without meaning anything by it.
    fn is_link(&self, node: NodeId) -> bool {
        let class = self.dom.attribute(node, "class").unwrap_or_default();
        self.dom.name(node) == Some("a") || class.contains("Hyperlink")
    }
}
