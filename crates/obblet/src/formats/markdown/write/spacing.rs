//! Where a blank line must stand between two blocks, and so which lists can be tight or loose.

use super::MarkdownWriteOptions;
use super::blocks::is_underlined;
use crate::document::{Block, BlockKind, List, ListItem, ListKind, NumberDelimiter, NumeralStyle};
use crate::formats::markdown::read::grammar::{self, HtmlLines};

/// Whether all items can be written without a blank line between them and inside them.
pub(super) fn can_be_tight(items: &[ListItem], options: &MarkdownWriteOptions) -> bool {
    let has_gap = |item: &ListItem| {
        item.content.windows(2).any(|pair| match pair {
            [one, two] => needs_blank_line(one, two, options),
            _ => false,
        })
    };
    // The terms of a description list stand behind blank lines.
    let has_terms = |item: &ListItem| {
        item.content.iter().any(|block| {
            matches!(&block.kind, BlockKind::DescriptionList(items) if items.len() > 1)
                && block.attributes.is_empty()
        })
    };
    // An HTML block would take the next item's line too, if no blank line ended it.
    let runs_on =
        |item: &ListItem| item.content.last().is_some_and(|block| is_open_html(block, options));
    let last = items.len().saturating_sub(1);
    !items.iter().any(has_gap)
        && !items.iter().any(has_terms)
        && !items.iter().take(last).any(runs_on)
}

/// Whether a blank line can stand anywhere between items or their blocks.
pub(super) fn can_be_loose(items: &[ListItem]) -> bool {
    items.len() > 1 || items.iter().any(|item| item.content.len() > 1)
}

fn is_open_html(block: &Block, options: &MarkdownWriteOptions) -> bool {
    match &block.kind {
        BlockKind::Foreign(foreign) if foreign.format == "html" => {
            grammar::html_lines(&foreign.markup, options.switches) != HtmlLines::EndedByItself
        }
        _ => false,
    }
}

/// Whether `next` would be read as a part of `before` if it stood in the next line.
pub(super) fn needs_blank_line(
    before: &Block,
    next: &Block,
    options: &MarkdownWriteOptions,
) -> bool {
    if is_open_html(before, options) {
        return true;
    }
    let open_text = match &before.kind {
        // Between the fences of a container, everything ends with the closing fence.
        BlockKind::Paragraph(_)
        | BlockKind::List(_)
        | BlockKind::Quotation(_)
        | BlockKind::DescriptionList(_)
        | BlockKind::Table(_)
        | BlockKind::Formula(_) => before.attributes.is_empty(),
        BlockKind::Admonition(_) => true,
        _ => false,
    };
    let is_term_list = matches!(before.kind, BlockKind::DescriptionList(_));
    is_term_list || open_text && !interrupts(before, next, options)
}

/// Whether a block begins even in the line below open text.
fn interrupts(before: &Block, next: &Block, options: &MarkdownWriteOptions) -> bool {
    if !next.attributes.is_empty()
        && !matches!(next.kind, BlockKind::Code(_) | BlockKind::Heading(_))
    {
        return true;
    }
    match &next.kind {
        BlockKind::List(list) => {
            let behind_list = matches!(before.kind, BlockKind::List(_));
            let starts_at_one =
                !matches!(&list.kind, ListKind::Numbered(numbering) if numbering.start != 1);
            let has_content = list.items.first().is_some_and(|item| !item.content.is_empty());
            needs_carrier(list) || !behind_list && starts_at_one && has_content
        }
        BlockKind::Heading(heading) => !is_underlined(heading, options),
        BlockKind::Quotation(_) => {
            !matches!(before.kind, BlockKind::Quotation(_) | BlockKind::Admonition(_))
        }
        BlockKind::Admonition(_) => false,
        BlockKind::Code(_) | BlockKind::ThematicBreak => true,
        BlockKind::Table(_) => matches!(before.kind, BlockKind::Paragraph(_)),
        BlockKind::Foreign(foreign) => {
            foreign.format != "html" || grammar::html_interrupts(&foreign.markup, options.switches)
        }
        BlockKind::Figure(_)
        | BlockKind::Group(_)
        | BlockKind::Verse(_)
        | BlockKind::Break(_)
        | BlockKind::Contents(_)
        | BlockKind::Bibliography => true,
        BlockKind::Paragraph(_)
        | BlockKind::DescriptionList(_)
        | BlockKind::Formula(_)
        | BlockKind::SourceRemark(_) => false,
    }
}

/// Whether a list's numbers are of a form that only a container can say.
pub(super) fn needs_carrier(list: &List) -> bool {
    matches!(&list.kind, ListKind::Numbered(numbering)
        if numbering.style != NumeralStyle::Decimal
            || !matches!(numbering.delimiter, NumberDelimiter::Period | NumberDelimiter::Parenthesis))
}
