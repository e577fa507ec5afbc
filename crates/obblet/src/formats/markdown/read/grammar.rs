//! What the writer asks the reader's grammar, so that both hold to the same rules.

use super::assemble::alert_kind;
use super::bare_addresses::{BareAddress, bare_addresses};
use super::blocks::BlockStructure;
use super::definitions::{Definition, Definitions, abbreviation, definition};
use super::entities::character_reference;
use super::html_scan::{RawScan, with_harmless_tags, without_harmless_tags};
use super::inline_scan::angle_address;
use super::inlines::InlineReader;
use super::notes::NoteLabels;
use super::starts::{self, HtmlEnd, MarkerKind};
use super::tables::{cells, delimiter_row};
use super::text::LeafText;
use super::tree::Tree;
use crate::document::{Inline, Place};
use crate::findings::Findings;
use crate::formats::markdown::{Switch, Switches};
use std::borrow::Cow;

/// The labels and definitions that inlines refer to, as the reader will know them.
pub(in crate::formats::markdown) struct Labels(BlockStructure);

impl Labels {
    pub(in crate::formats::markdown) fn new<'l>(
        notes: impl Iterator<Item = &'l str>,
        links: impl Iterator<Item = (&'l str, &'l str, Option<&'l str>)>,
        abbreviations: impl Iterator<Item = (&'l str, &'l str)>,
    ) -> Self {
        let mut labels = NoteLabels::default();
        let mut definitions = Definitions::default();
        for label in notes {
            // The writer makes labels unique, so this cannot fail.
            let _ = labels.define(label, Place::default());
        }
        for (label, address, title) in links {
            let (address, title) = (address.into(), title.map(Into::into));
            let _ = definitions.add(label, Definition { address, title, place: Place::default() });
        }
        for (short, long) in abbreviations {
            definitions.abbreviate(short, long);
        }
        Self(BlockStructure { tree: Tree::default(), definitions, notes: labels })
    }
}

/// Reads single texts as the reader does.
pub(in crate::formats::markdown) struct TextReader<'d> {
    inlines: InlineReader<'d>,
}

impl<'d> TextReader<'d> {
    pub(in crate::formats::markdown) fn new(
        labels: &'d Labels,
        switches: Switches,
        language: Option<&str>,
        findings: &'d mut Findings,
    ) -> Self {
        let unbounded = usize::MAX / 16;
        Self { inlines: InlineReader::new(switches, &labels.0, language, findings, unbounded) }
    }

    /// The inlines of a text.
    pub(in crate::formats::markdown) fn read(&mut self, text: &str) -> Vec<Inline> {
        self.inlines.read(LeafText::plain(text))
    }
}

/// Where lines of a text could be taken for the start of a block; they are asked for in order.
pub(in crate::formats::markdown) struct LineStarts {
    switches: Switches,
    markup: RawScan,
}

impl LineStarts {
    pub(in crate::formats::markdown) fn new(switches: Switches) -> Self {
        Self { switches, markup: RawScan::default() }
    }

    /// Where in the first line of a text a backslash keeps it from being the start of a block, or the
    /// underline of the line before. `None` when the line is only text already.
    pub(in crate::formats::markdown) fn escape_position(
        &mut self,
        text: &str,
        before: Option<&str>,
    ) -> Option<usize> {
        let switches = self.switches;
        let line = text.split('\n').next().unwrap_or_default();
        let rest = line.as_bytes();
        let first = *rest.first()?;
        let in_paragraph = before.is_some();
        if let Some(marker) = starts::list_marker(rest)
            && (!in_paragraph || starts::interrupts_paragraph(rest, marker))
        {
            return Some(match marker.kind {
                MarkerKind::Bullet(_) => 0,
                MarkerKind::Number(..) => marker.width - 1,
            });
        }
        let is_start = match first {
            b'>' => true,
            b'<' => {
                starts::html_block(rest, in_paragraph).is_some()
                    && self.markup.raw_html(text.as_bytes()).is_none()
            }
            b'#' => starts::atx_heading(rest).is_some(),
            b'`' | b'~' => starts::opening_fence(rest).is_some(),
            b'*' | b'_' => {
                starts::is_thematic_break(rest)
                    || !in_paragraph
                        && switches.has(Switch::Abbreviations)
                        && abbreviation(line, 0).is_some()
            }
            b'-' | b'=' | b'|' | b':' => {
                starts::is_thematic_break(rest)
                    || in_paragraph && starts::setext_underline(rest).is_some()
                    || before.is_some_and(|before| is_table_start(rest, before, switches))
                    || switches.has(Switch::DescriptionLists) && starts::is_description_mark(rest)
                    || switches.has(Switch::Containers) && rest.starts_with(b":::")
            }
            b'[' => {
                switches.has(Switch::Footnotes) && starts::note_definition(rest).is_some()
                    || switches.has(Switch::Alerts) && alert_kind(line).is_some()
            }
            _ => false,
        };
        is_start.then_some(0)
    }
}

fn is_table_start(rest: &[u8], before: &str, switches: Switches) -> bool {
    switches.has(Switch::Tables)
        && delimiter_row(rest).is_some_and(|columns| columns.len() == cells(before).count())
}

/// Whether a paragraph's text begins with a link definition.
pub(in crate::formats::markdown) fn begins_with_definition(text: &str) -> bool {
    text.starts_with('[') && definition(text, 0).is_some()
}

/// How markup is written so that the reader makes it what it is.
pub(in crate::formats::markdown) fn written_html(markup: &str, switches: Switches) -> Cow<'_, str> {
    if switches.has(Switch::HarmlessTags) && markup.contains("&lt;") {
        Cow::Owned(without_harmless_tags(markup))
    } else {
        Cow::Borrowed(markup)
    }
}

/// How the reader gives markup that was written.
pub(in crate::formats::markdown) fn read_html(markup: &str, switches: Switches) -> Cow<'_, str> {
    if switches.has(Switch::HarmlessTags) {
        Cow::Owned(with_harmless_tags(markup))
    } else {
        Cow::Borrowed(markup)
    }
}

/// What markup is as the lines of a block.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(in crate::formats::markdown) enum HtmlLines {
    /// One HTML block that a blank line ends.
    EndedByBlankLine,
    /// One HTML block that ends with its own last line.
    EndedByItself,
    /// An HTML block that would go on to the end of its container; this in a further line ends it.
    Unended(&'static str),
    /// Not one HTML block.
    Other,
}

/// What markup is as the lines of a block.
pub(in crate::formats::markdown) fn html_lines(markup: &str, switches: Switches) -> HtmlLines {
    let markup = written_html(markup, switches);
    let first = markup.lines().next().unwrap_or_default();
    let content = first.trim_start_matches(' ');
    let begins = first.len() - content.len() <= 3;
    let Some(end) = starts::html_block(content.as_bytes(), false).filter(|_| begins) else {
        return HtmlLines::Other;
    };
    let ends = match end {
        HtmlEnd::Holds(ends) => ends,
        HtmlEnd::BlankLine if markup.lines().any(|line| line.trim().is_empty()) => {
            return HtmlLines::Other;
        }
        HtmlEnd::BlankLine => return HtmlLines::EndedByBlankLine,
    };
    let holds = |line: &str| {
        let line = line.to_ascii_lowercase();
        ends.iter().any(|end| line.contains(&end.to_ascii_lowercase()))
    };
    match markup.lines().position(holds) {
        Some(line) if line + 1 == markup.lines().count() => HtmlLines::EndedByItself,
        Some(_) => HtmlLines::Other,
        None => {
            let fits = |end: &&&str| {
                content.to_ascii_lowercase().starts_with(&end.replace("</", "<").replace('>', ""))
            };
            HtmlLines::Unended(ends.iter().find(fits).or(ends.first()).copied().unwrap_or_default())
        }
    }
}

/// Whether an HTML block begins at this markup even in the middle of a paragraph.
pub(in crate::formats::markdown) fn html_interrupts(markup: &str, switches: Switches) -> bool {
    let markup = written_html(markup, switches);
    starts::html_block(markup.trim_start_matches(' ').as_bytes(), true).is_some()
}

/// Whether a character reference begins here, at `&`.
pub(in crate::formats::markdown) fn is_reference(text: &str) -> bool {
    character_reference(text).is_some()
}

/// Whether a text is, as a whole, a bare address for this link.
pub(in crate::formats::markdown) fn is_bare_address(text: &str, address: &str) -> bool {
    let mut found = Vec::new();
    bare_addresses(text, &mut found);
    matches!(found.as_slice(), [only] if only.range == (0..text.len())
        && address.strip_prefix(only.prefix) == Some(text))
}

/// Where bare addresses stand in a text: the offset of the character that makes each one.
pub(in crate::formats::markdown) fn bare_address_hooks(text: &str) -> Vec<usize> {
    let mut found = Vec::new();
    bare_addresses(text, &mut found);
    let hook = |address: &BareAddress| {
        let shown = text.get(address.range.clone()).unwrap_or_default();
        let at = shown.find("://").or_else(|| shown.find("www.").map(|at| at + 3));
        address.range.start + at.or_else(|| shown.find('@')).unwrap_or(0)
    };
    found.iter().map(hook).collect()
}

/// Whether a text in angle brackets is a link to this address.
pub(in crate::formats::markdown) fn is_angle_address(text: &str, address: &str) -> bool {
    let spelled = format!("<{text}>");
    angle_address(&spelled, 0).is_some_and(|(range, prefix)| {
        range == (1..spelled.len() - 1) && address.strip_prefix(prefix) == Some(text)
    })
}

/// Whether a label of a note can be written as it is.
pub(in crate::formats::markdown) fn is_note_label(label: &str) -> bool {
    let spelled = format!("{label}]");
    starts::note_label(spelled.as_bytes()) == Some(label.len())
}

/// Whether a row of a table has exactly these cells.
pub(in crate::formats::markdown) fn has_cells(row: &str, wanted: &[String]) -> bool {
    let found = cells(row).map(|range| row.get(range).unwrap_or_default());
    found.eq(wanted.iter().map(String::as_str))
}
