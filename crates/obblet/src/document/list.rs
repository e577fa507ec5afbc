//! Lists.

use super::{Attributes, Block, CompactString, Inline, Place};
use serde::{Deserialize, Serialize};

/// A bulleted or numbered list.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct List {
    /// Bulleted or numbered.
    pub kind: ListKind,
    /// Whether items are lines or paragraphs.
    pub spacing: ListSpacing,
    /// The items.
    pub items: Vec<ListItem>,
}

/// Bulleted or numbered.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum ListKind {
    /// The order of items says nothing. Holds the bullet as the source wrote it.
    Bulleted(Option<char>),
    /// Items are numbered.
    Numbered(Numbering),
}

/// Whether the items of a list stand close together.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum ListSpacing {
    /// Items are lines.
    #[default]
    Tight,
    /// Items are paragraphs with space between them.
    Loose,
}

/// How the items of a list are numbered.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Numbering {
    /// The first item's number, also where the list continues an earlier one.
    pub start: i32,
    /// How numbers are spelled.
    pub style: NumeralStyle,
    /// What stands around a number.
    pub delimiter: NumberDelimiter,
    /// Lists of one sequence continue each other's numbers; the name is the source's own.
    pub sequence: Option<CompactString>,
    /// The whole label as a pattern when it shows more than this level's number: `%1.%2(%3)`,
    /// where `%n` stands for the number of list level `n`, counted from 1.
    pub pattern: Option<CompactString>,
}

impl Default for Numbering {
    fn default() -> Self {
        Self {
            start: 1,
            style: NumeralStyle::Decimal,
            delimiter: NumberDelimiter::Period,
            sequence: None,
            pattern: None,
        }
    }
}

/// How a number is spelled.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum NumeralStyle {
    /// 1, 2, 3
    Decimal,
    /// a, b, c
    LowerLetter,
    /// A, B, C
    UpperLetter,
    /// i, ii, iii
    LowerRoman,
    /// I, II, III
    UpperRoman,
}

/// What stands around an item's number.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum NumberDelimiter {
    /// `1.`
    Period,
    /// `1)`
    Parenthesis,
    /// `(1)`
    Parentheses,
    /// Nothing.
    None,
}

/// One item of a list.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct ListItem {
    /// The blocks.
    pub content: Vec<Block>,
    /// The state of a task's box.
    pub check: Option<CheckState>,
    /// The item's own number where it is not the one after the item before it.
    pub number: Option<i32>,
    /// The whole label as the source shows it, where that is more than a number with its mark:
    /// `2.1(a)`, `Article 4`.
    pub label: Option<CompactString>,
    /// Attributes.
    pub attributes: Attributes,
    /// Where it stood in the source.
    pub place: Place,
}

/// The state of a task's box.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum CheckState {
    /// To be done.
    Open,
    /// Some parts of it are done.
    Partial,
    /// Done.
    Done,
}

/// Terms with what is said about them.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct DescriptionItem {
    /// One or more terms.
    pub terms: Vec<Vec<Inline>>,
    /// One or more descriptions of them, each of one or more blocks.
    pub descriptions: Vec<Vec<Block>>,
}

impl NumeralStyle {
    /// The number spelled in this style. Numbers a style cannot spell come out in decimal.
    ///
    /// ```
    /// use obblet::document::NumeralStyle;
    /// assert_eq!(NumeralStyle::LowerLetter.spell(28), "ab");
    /// assert_eq!(NumeralStyle::UpperRoman.spell(1893), "MDCCCXCIII");
    /// assert_eq!(NumeralStyle::LowerRoman.spell(0), "0");
    /// ```
    #[must_use]
    pub fn spell(self, number: i32) -> String {
        match self {
            Self::Decimal => number.to_string(),
            Self::LowerLetter => letters(number),
            Self::UpperLetter => letters(number).to_uppercase(),
            Self::LowerRoman => roman(number).to_lowercase(),
            Self::UpperRoman => roman(number),
        }
    }
}

/// 1 is `a`, 26 is `z`, 27 is `aa`.
fn letters(number: i32) -> String {
    let Ok(mut left @ 1..) = u32::try_from(number) else { return number.to_string() };
    let mut reversed = Vec::new();
    while left > 0 {
        left -= 1;
        reversed.extend(char::from_digit(10 + left % 26, 36));
        left /= 26;
    }
    reversed.iter().rev().collect()
}

pub(super) fn roman(number: i32) -> String {
    const STEPS: [(i32, &str); 13] = [
        (1000, "M"),
        (900, "CM"),
        (500, "D"),
        (400, "CD"),
        (100, "C"),
        (90, "XC"),
        (50, "L"),
        (40, "XL"),
        (10, "X"),
        (9, "IX"),
        (5, "V"),
        (4, "IV"),
        (1, "I"),
    ];
    if !(1..4000).contains(&number) {
        return number.to_string();
    }
    let mut left = number;
    let mut spelled = String::new();
    for (value, letters) in STEPS {
        while left >= value {
            spelled.push_str(letters);
            left -= value;
        }
    }
    spelled
}
