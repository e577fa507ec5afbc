//! Looks: what a document looks like, apart from what it says.
//!
//! Every property is optional: `None` means that the source does not state it. A house may keep
//! looks, turn them into classes or drop them.

use super::{Attributes, CompactString, Formatted, Formatting, Inline, VerticalAlign};
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
    /// Height, at least.
    pub height: Option<Length>,
    /// Where content stands in a higher cell.
    pub vertical: Option<VerticalAlign>,
    /// Keep on one page with the next block.
    pub keep_with_next: Option<bool>,
    /// Start a new page.
    pub page_break_before: Option<bool>,
    /// The direction of lines.
    pub writing: Option<WritingMode>,
    /// What stands before the items of a list.
    pub marker: Option<CompactString>,
    /// Where the box stands that is narrower than what is around it.
    pub box_align: Option<TextAlign>,
    /// Space between the cells of a table; zero lets their borders become one.
    pub cell_spacing: Option<Length>,
    /// Set in this many columns.
    pub columns: Option<u8>,
    /// Places on the line that tabs lead to, sorted.
    pub tabs: Vec<TabStop>,
}

/// Runs a statement for each property that is an `Option`.
macro_rules! each_option {
    ($each:ident, $one:expr) => {
        each_option!(@ $each, $one, size, colour, background, weight, italic, underline, strike,
            capitals, small_capitals, letter_spacing, raise, hidden, align, indent_start, indent_end,
            indent_first, space_before, space_after, line_height, borders, padding, width, height, vertical,
            keep_with_next, page_break_before, writing, marker, box_align, cell_spacing, columns)
    };
    (@ $each:ident, $one:expr, $($property:ident),*) => {
        $( $each!($one, $property); )*
    };
}

impl Looks {
    /// True when nothing is stated.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }

    /// Takes over what stands inside these looks states itself: a size in multiples of the font
    /// size is one of theirs.
    pub(crate) fn take_inner(&mut self, inner: &Self) {
        let size = match (self.size, inner.size) {
            (Some(Length::Points(size)), Some(Length::Ems(times))) => {
                Some(Length::Points(size * times))
            }
            (Some(Length::Ems(size)), Some(Length::Ems(times))) => Some(Length::Ems(size * times)),
            (known, None) => known,
            (_, stated) => stated,
        };
        self.replace_by(inner);
        self.size = size;
    }

    /// Takes over what somebody states who has the last word.
    pub(crate) fn replace_by(&mut self, stronger: &Self) {
        macro_rules! take_over {
            ($stronger:expr, $property:ident) => {
                if $stronger.$property.is_some() {
                    self.$property.clone_from(&$stronger.$property);
                }
            };
        }
        each_option!(take_over, stronger);
        if !stronger.fonts.is_empty() {
            self.fonts.clone_from(&stronger.fonts);
        }
        if !stronger.tabs.is_empty() {
            self.tabs.clone_from(&stronger.tabs);
        }
    }

    /// What is left to be stated where this already holds around.
    pub(crate) fn beyond(&self, around: &Self) -> Self {
        let mut left = self.clone();
        macro_rules! leave_out {
            ($around:expr, $property:ident) => {
                if left.$property == $around.$property {
                    left.$property = None;
                }
            };
        }
        each_option!(leave_out, around);
        if left.fonts == around.fonts {
            left.fonts.clear();
        }
        if left.tabs == around.tabs {
            left.tabs.clear();
        }
        if let (Some(Length::Ems(size)), Some(Length::Ems(outer))) = (left.size, around.size) {
            left.size = Some(Length::Ems(size / outer));
        }
        left
    }

    /// The properties that what stands inside has too, unless it states them itself (CSS Cascading
    /// and Inheritance 4, 7.1).
    pub(crate) fn inherited(&self) -> Self {
        Self {
            fonts: self.fonts.clone(),
            size: self.size,
            colour: self.colour,
            capitals: self.capitals,
            letter_spacing: self.letter_spacing,
            align: self.align,
            indent_first: self.indent_first,
            line_height: self.line_height,
            ..Self::default()
        }
    }

    /// The properties of the box alone.
    pub(crate) fn of_box(&self) -> Self {
        self.beyond(&self.inherited())
    }
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
    /// Multiples of the font size.
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

/// The direction of lines, where they do not run across.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum WritingMode {
    /// Lines run from top to bottom, the next one to the left.
    VerticalDown,
    /// Lines run from bottom to top, the next one to the right.
    VerticalUp,
}

/// A place on the line that a tab leads to.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct TabStop {
    /// How far from the start of the text, in points.
    pub position: f32,
    /// What of the text behind the tab stands there.
    pub align: TabAlign,
    /// What fills the way.
    pub leader: TabLeader,
}

/// What of the text behind a tab stands at the stop.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum TabAlign {
    /// Its start.
    Start,
    /// Its middle.
    Centre,
    /// Its end.
    End,
    /// Its decimal mark.
    Decimal,
    /// Nothing: a stop that a style states is no longer there.
    Cleared,
}

/// What fills the way to a tab stop.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum TabLeader {
    /// Nothing.
    None,
    /// Dots.
    Dots,
    /// Dashes.
    Dashes,
    /// A line.
    Line,
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
    /// What a block, or text, of this style looks like; what it starts from is in it.
    pub looks: Looks,
    /// Blocks that name no style are of this one.
    #[serde(default)]
    pub is_default: bool,
}

/// What a named style applies to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
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

/// The weight from which on text is bold (CSS Fonts 4, 2.5).
const BOLD: u16 = 600;

impl Looks {
    /// The formats that say the same: slanted, bold, underlined, struck, raised, lowered, small
    /// capitals.
    pub(crate) fn formats(&self) -> impl Iterator<Item = Formatting> + use<> {
        let amount = |length: Length| match length {
            Length::Points(amount) | Length::Ems(amount) | Length::Share(amount) => amount,
        };
        let raise = self.raise.map_or(0.0, amount);
        let is_underlined = self.underline.is_some_and(|line| line != UnderlineLine::None);
        let said = [
            (self.small_capitals == Some(true), Formatting::SmallCapitals),
            (raise > 0.0, Formatting::Superscript),
            (raise < 0.0, Formatting::Subscript),
            (self.strike == Some(true), Formatting::Struck),
            (is_underlined, Formatting::Underline),
            (self.italic == Some(true), Formatting::Emphasis),
            (self.weight.is_some_and(|weight| weight >= BOLD), Formatting::Strong),
        ];
        said.into_iter().filter(|(is_said, _)| *is_said).map(|(_, format)| format)
    }
}

impl Formatted {
    /// Whether any of its looks says a format.
    pub(crate) fn looks_say_formats(&self) -> bool {
        self.attributes.looks().is_some_and(|looks| looks.formats().next().is_some())
    }

    /// Wraps the content in a format for each of its looks that says one; those looks go.
    pub(crate) fn turn_looks_into_formats(&mut self) {
        let Some(looks) = self.attributes.looks().filter(|_| self.looks_say_formats()) else {
            return;
        };
        let formats = looks.formats();
        let mut left = looks.clone();
        (left.italic, left.weight, left.underline, left.strike) = (None, None, None, None);
        (left.small_capitals, left.raise) = (None, None);
        self.attributes.edit().looks = (!left.is_empty()).then(|| Box::new(left));
        for format in formats.filter(|format| *format != self.format) {
            let content = std::mem::take(&mut self.content);
            let attributes = Attributes::NONE;
            self.content =
                vec![Inline::Formatted(Box::new(Formatted { format, attributes, content }))];
        }
    }
}
