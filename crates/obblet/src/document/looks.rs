//! Looks: what a document looks like, apart from what it says.
//!
//! Every property is optional: `None` means that the source does not state it. A house may keep
//! looks, turn them into classes or drop them.

use super::{CompactString, VerticalAlign};
use serde::{Deserialize, Serialize};

/// The looks of one node or style.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Looks {
    /// Font families, best first.
    pub fonts: Vec<CompactString>,
    /// Font size.
    pub size: Option<Length>,
    /// Text colour.
    pub colour: Option<Colour>,
    /// Colour behind the text or block.
    pub background: Option<Colour>,
    /// Weight on CSS's scale of 1 to 1000; 400 is normal, 700 bold.
    pub weight: Option<u16>,
    /// Slanted or not.
    pub italic: Option<bool>,
    /// The line below the text.
    pub underline: Option<UnderlineLine>,
    /// A line through the text.
    pub strike: Option<bool>,
    /// All letters as capitals.
    pub capitals: Option<bool>,
    /// Lower-case letters as small capitals.
    pub small_capitals: Option<bool>,
    /// Extra space between letters.
    pub letter_spacing: Option<Length>,
    /// Raised by this much; negative is lowered.
    pub raise: Option<Length>,
    /// Not shown at all.
    pub hidden: Option<bool>,
    /// Alignment of lines.
    pub align: Option<TextAlign>,
    /// Indent at the start side.
    pub indent_start: Option<Length>,
    /// Indent at the end side.
    pub indent_end: Option<Length>,
    /// Extra indent of the first line; negative hangs.
    pub indent_first: Option<Length>,
    /// Space above.
    pub space_before: Option<Length>,
    /// Space below.
    pub space_after: Option<Length>,
    /// Height of a line.
    pub line_height: Option<LineHeight>,
    /// Borders.
    pub borders: Option<Box<Borders>>,
    /// Space between border and content: top, end, bottom, start.
    pub padding: Option<[Length; 4]>,
    /// Width.
    pub width: Option<Length>,
    /// Where content stands in a higher cell.
    pub vertical: Option<VerticalAlign>,
    /// Keep on one page with the next block.
    pub keep_with_next: Option<bool>,
    /// Start a new page.
    pub page_break_before: Option<bool>,
}

/// A length.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Length {
    /// Points, 72 to the inch.
    Points(f32),
    /// Multiples of the font size.
    Ems(f32),
    /// Part of the containing width; 1 is all of it.
    Share(f32),
}

/// The height of a line.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum LineHeight {
    /// Multiples of the font's own line height.
    Times(f32),
    /// Exactly this much.
    Exactly(Length),
    /// This much or more.
    AtLeast(Length),
}

/// A colour: red, green, blue, 0 to 255 each.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct Colour(pub u8, pub u8, pub u8);

/// Alignment of lines in a block.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum TextAlign {
    /// At the line's start.
    Start,
    /// In the middle.
    Centre,
    /// At the line's end.
    End,
    /// At both.
    Justify,
}

/// The line below a text.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum UnderlineLine {
    /// Explicitly none.
    None,
    /// One line.
    Single,
    /// Two lines.
    Double,
    /// Dots.
    Dotted,
    /// Dashes.
    Dashed,
    /// A wave.
    Wavy,
}

/// The borders of a block or cell.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Borders {
    /// Above.
    pub top: Option<Border>,
    /// At the end side.
    pub end: Option<Border>,
    /// Below.
    pub bottom: Option<Border>,
    /// At the start side.
    pub start: Option<Border>,
}

/// One border.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Border {
    /// Its line.
    pub line: BorderLine,
    /// Its thickness.
    pub width: Length,
    /// Its colour; `None` is the text's.
    pub colour: Option<Colour>,
}

/// The line of a border.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum BorderLine {
    /// Explicitly none.
    None,
    /// One line.
    Single,
    /// Two lines.
    Double,
    /// Dots.
    Dotted,
    /// Dashes.
    Dashed,
}

/// A named style of the document.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct NamedStyle {
    /// The name people see and attributes use.
    pub name: CompactString,
    /// What it applies to.
    pub kind: StyleKind,
    /// The style it starts from.
    pub based_on: Option<CompactString>,
    /// What it states itself, beyond the style it starts from.
    pub looks: Looks,
}

/// What a named style applies to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum StyleKind {
    /// Paragraphs and other blocks.
    Block,
    /// Text inside a line.
    Inline,
    /// Tables.
    Table,
    /// Lists.
    List,
}
