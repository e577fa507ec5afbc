//! What word processors write when they save a page: list items as paragraphs with their marks typed
//! out, notes and comments by roles of their own, bookmarks for their own use.

use super::super::comments::COMMENTS;
use super::super::css::{ListLevelMarks, Stated};
use super::super::dom::NodeId;
use super::Reader;
use crate::document::{
    Block, BlockKind, CompactString, Heading, ListParagraph, Mark, NumberDelimiter, NumeralStyle,
};

/// A list paragraph's own words for where it stands.
pub(super) struct ListPlace {
    pub(super) level: u8,
    pub(super) list: CompactString,
    pub(super) mark: Mark,
}

/// Whether a comment of the source is a program's note to itself.
pub(super) fn is_for_programs(remark: &str) -> bool {
    let remark = remark.trim();
    remark.starts_with(['[', '?']) || matches!(remark, "StartFragment" | "EndFragment")
}

/// Whether an element belongs to a word processor's own vocabulary, as `o:p` does.
pub(super) fn is_foreign_name(name: &str) -> bool {
    name.contains(':')
}

impl Reader<'_> {
    /// The list and level of a paragraph that is an item.
    pub(super) fn list_place(&mut self, node: NodeId) -> Option<ListPlace> {
        let stated = self.styles.stated(node);
        let level = stated.list_level.as_ref()?;
        let typed = self.typed_out(node);
        let defined = self.styles.list_level(level).cloned();
        let mark = mark_of(typed.as_deref(), defined.as_ref())?;
        Some(ListPlace { level: level.level, list: level.list.clone(), mark })
    }

    /// The mark that stands before an item as text.
    fn typed_out(&mut self, node: NodeId) -> Option<String> {
        let dom = self.dom;
        let spans = dom.below(node).filter(|below| dom.attribute(*below, "style").is_some());
        for span in spans {
            if self.styles.stated(span).typed_out == Some(true) {
                return Some(dom.text_of(span));
            }
        }
        None
    }

    /// The level of a paragraph that is a heading by its style.
    pub(super) fn outline_level(&self, node: NodeId, stated: &Stated) -> Option<u8> {
        let class = self.dom.attribute(node, "class").unwrap_or_default();
        if class.split_ascii_whitespace().any(|class| class == "MsoTitle") {
            return Some(1);
        }
        stated.outline_level.filter(|level| (1..=9).contains(level))
    }

    /// A paragraph as the heading that it is.
    pub(super) fn heading_of(block: Block, level: u8) -> Block {
        let Block { kind: BlockKind::Paragraph(content), attributes, place } = block else {
            return block;
        };
        let kind = BlockKind::Heading(Box::new(Heading { level, content, ..Heading::default() }));
        Block { kind, attributes, place }
    }

    /// Whether an element holds notes or comments, which are read from where they are marked.
    pub(super) fn holds_notes(&mut self, node: NodeId) -> bool {
        let role = self.dom.attribute(node, "role");
        if matches!(role, Some("doc-endnotes" | "doc-footnotes"))
            || self.dom.attribute(node, "data-kind") == Some(COMMENTS)
        {
            return true;
        }
        let role = self.role_by_style(node);
        matches!(role.as_deref(), Some("footnote-list" | "endnote-list" | "comment-list"))
    }

    /// The role that an element's own `style` gives it.
    pub(super) fn role_by_style(&mut self, node: NodeId) -> Option<CompactString> {
        self.dom.attribute(node, "style")?;
        self.styles.stated(node).role.clone()
    }
}

/// The mark of an item: what is typed out says the number, the list's definition its form.
fn mark_of(typed: Option<&str>, defined: Option<&ListLevelMarks>) -> Option<Mark> {
    let typed = typed.and_then(Mark::of);
    let Some(defined) = defined else { return typed };
    let style = match defined.format.as_str() {
        "bullet" | "image" => return Some(Mark::Bullet('•')),
        "" | "arabic" => NumeralStyle::Decimal,
        "alpha-lower" => NumeralStyle::LowerLetter,
        "alpha-upper" => NumeralStyle::UpperLetter,
        "roman-lower" => NumeralStyle::LowerRoman,
        "roman-upper" => NumeralStyle::UpperRoman,
        _ => return typed,
    };
    let Some(Mark::Number(readings, delimiter)) = typed else {
        let delimiter = match defined.text.as_str() {
            text if text.starts_with('(') => NumberDelimiter::Parentheses,
            text if text.ends_with(')') => NumberDelimiter::Parenthesis,
            _ => NumberDelimiter::Period,
        };
        let number = defined.start.unwrap_or(1);
        return typed.or(Some(Mark::Number(vec![(style, number)], delimiter)));
    };
    let readings: Vec<_> = match readings.iter().find(|(found, _)| *found == style) {
        Some(reading) => vec![*reading],
        None => readings,
    };
    Some(Mark::Number(readings, delimiter))
}

/// One paragraph of a list with its text.
pub(super) fn list_paragraph(place: ListPlace, block: Block) -> ListParagraph {
    let ListPlace { level, list, mark } = place;
    ListParagraph { level, list, mark, block }
}
