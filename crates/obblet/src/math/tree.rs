//! The formula tree.

use crate::source::CompactString;
use serde::{Deserialize, Serialize};

/// A part of a formula.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Expression {
    /// Parts side by side. A row inside a row is a group of its own: no spacing reaches into it.
    Row(Vec<Expression>),
    /// A variable or another name.
    Identifier(CompactString, LetterStyle),
    /// A number.
    Number(CompactString),
    /// An operator, relation, bracket or mark.
    Operator(CompactString),
    /// Words.
    Text(CompactString, LetterStyle),
    /// Room between two parts, in hundredths of a mathematical unit, of which 18 are an em. May be
    /// negative.
    Space(i32),
    /// One thing over another.
    Fraction {
        /// What stands above.
        over: Box<Expression>,
        /// What stands below.
        under: Box<Expression>,
        /// What stands between.
        line: FractionLine,
    },
    /// A root, with its degree where that is not two.
    Root {
        /// What stands below the root sign.
        body: Box<Expression>,
        /// The degree.
        degree: Option<Box<Expression>>,
    },
    /// Something with what is lowered and raised behind it.
    Scripts {
        /// What has them.
        base: Box<Expression>,
        /// The lowered part.
        sub: Option<Box<Expression>>,
        /// The raised part.
        sup: Option<Box<Expression>>,
    },
    /// The same before it.
    PreScripts {
        /// What has them.
        base: Box<Expression>,
        /// The lowered part.
        sub: Option<Box<Expression>>,
        /// The raised part.
        sup: Option<Box<Expression>>,
    },
    /// Something with what stands below and above it.
    Stacked {
        /// What has them.
        base: Box<Expression>,
        /// Below.
        below: Option<Box<Expression>>,
        /// Above.
        above: Option<Box<Expression>>,
    },
    /// A sum, integral or the like.
    LargeOperator {
        /// The sign.
        sign: CompactString,
        /// Where it starts.
        lower: Option<Box<Expression>>,
        /// Where it ends.
        upper: Option<Box<Expression>>,
        /// Where the two stand.
        placement: Placement,
        /// What it is about; empty where the source does not say how far that reaches.
        body: Box<Expression>,
    },
    /// Parts in brackets that grow with them.
    Fenced(Box<Fenced>),
    /// A bracket of a stated size.
    SizedBracket {
        /// The bracket.
        sign: CompactString,
        /// 1 to 4; 0 for one that grows with the brackets around it.
        size: u8,
        /// Which side it is on.
        side: BracketSide,
    },
    /// Rows of cells.
    Matrix(Vec<Vec<Expression>>),
    /// Rows of cells whose columns are aligned as stated.
    Array(Box<Array>),
    /// Formulas one below the other, each cut where they line up.
    Lines(Vec<Vec<Expression>>),
    /// The same, in the middle and not cut.
    Stack(Vec<Expression>),
    /// A display whose lines may have numbers.
    Display(Box<Display>),
    /// A named function of something.
    Function {
        /// Its name, perhaps with a limit.
        name: Box<Expression>,
        /// What it is applied to.
        argument: Box<Expression>,
    },
    /// A mark above a letter or more.
    Accent {
        /// The mark, as a character of its own or as one that joins a letter.
        mark: char,
        /// What is below it.
        base: Box<Expression>,
    },
    /// A sign that spans something, above or below it.
    Span {
        /// The sign: a line, a brace, an arrow.
        sign: char,
        /// Whether it stands below.
        is_below: bool,
        /// What it spans.
        base: Box<Expression>,
    },
    /// An arrow that grows with what stands above and below it.
    Stretched(CompactString),
    /// In a frame.
    Framed(Box<Expression>),
    /// Struck out.
    Struck(Strike, Box<Expression>),
    /// Takes its place, and is not seen.
    Invisible(Extent, Box<Expression>),
    /// Is seen, and takes no place.
    Overlapping(Overlap, Box<Expression>),
    /// In a colour: a name of CSS, or `#` and six hexadecimal digits.
    Coloured(CompactString, Box<Expression>),
    /// In the size of another style of formulas.
    Sized(FormulaSize, Box<Expression>),
    /// Spaced as if it were of another class.
    Classed(SpacingClass, Box<Expression>),
    /// Chemistry in its own notation, and what that shows.
    Chemical {
        /// The notation, as it is written.
        source: CompactString,
        /// What it shows.
        shown: Box<Expression>,
    },
    /// Source that nobody understood, shown as it is written.
    Source(CompactString),
}

/// Parts in brackets that grow with them.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
pub struct Fenced {
    /// The bracket before; empty for none.
    pub open: CompactString,
    /// The bracket behind; empty for none.
    pub close: CompactString,
    /// What stands between two parts.
    pub separator: CompactString,
    /// The parts.
    pub parts: Vec<Expression>,
}

/// Rows of cells with stated columns.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Array {
    /// `l`, `c` or `r` for each column, `|` for each line between them.
    pub columns: String,
    /// The cells.
    pub rows: Vec<Vec<Expression>>,
    /// Lines across: one stands above the row of each of these indices.
    pub lines: Vec<usize>,
}

/// A display of one or more lines.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Display {
    /// How its lines are set.
    pub arrangement: Arrangement,
    /// The lines.
    pub lines: Vec<DisplayLine>,
}

/// One line of a display.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
pub struct DisplayLine {
    /// Its parts, cut where lines line up.
    pub cells: Vec<Expression>,
    /// Its number.
    pub number: LineNumber,
    /// The label references use.
    pub label: Option<CompactString>,
    /// Whether it is words between lines, which take no part in lining up.
    pub is_words: bool,
}

/// How the lines of a display are set.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Arrangement {
    /// One line.
    Single,
    /// Lined up at one or more places.
    Aligned,
    /// The same, without room of its own between the columns.
    AlignedTight,
    /// The same, over the whole width.
    AlignedWide,
    /// Each in the middle.
    Gathered,
    /// The first at the left, the last at the right.
    Broken,
}

/// The number of a line.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum LineNumber {
    /// It has none.
    #[default]
    None,
    /// It is counted; this is what it came to, where that is known.
    Counted(Option<CompactString>),
    /// It is stated, and shown in parentheses.
    Stated(CompactString),
    /// It is stated, and shown as it is.
    Bare(CompactString),
}

/// What stands between the parts of a fraction.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum FractionLine {
    /// A line.
    Bar,
    /// A line, in a fraction that goes on below it.
    Continued,
    /// Nothing, as in binomial coefficients.
    None,
    /// A slanted line.
    Slanted,
    /// A slash, in one line of text.
    Slash,
}

/// How letters are set.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum LetterStyle {
    /// As variables are: slanted where it is one letter. Words: as the text around them.
    #[default]
    Usual,
    /// Upright.
    Upright,
    /// Upright, and the name of a function.
    Name,
    /// Slanted, as a word is.
    Slanted,
    /// Bold and upright.
    Bold,
    /// Bold and slanted.
    BoldSlanted,
    /// As sets of numbers are.
    DoubleStruck,
    /// Script.
    Script,
    /// Script of another, rounder kind.
    RoundScript,
    /// Black letter.
    Fraktur,
    /// Without serifs.
    SansSerif,
    /// All of one width.
    Monospace,
}

/// Where the limits of a large operator stand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Placement {
    /// Below and above it in displays, behind it in running text.
    BelowAndAbove,
    /// Below and above it everywhere.
    AlwaysBelowAndAbove,
    /// Behind it.
    Behind,
}

/// Which side of something a bracket is on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum BracketSide {
    /// Not said.
    Unstated,
    /// Before it.
    Open,
    /// Behind it.
    Close,
    /// Between two parts.
    Middle,
}

/// How something is struck out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Strike {
    /// From the lower left to the upper right.
    Rising,
    /// From the upper left to the lower right.
    Falling,
    /// Both.
    Crossed,
    /// Straight through.
    Level,
}

/// In which directions something unseen takes its place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Extent {
    /// Both.
    Both,
    /// Along the line only.
    Width,
    /// Above and below the line only.
    Height,
}

/// In which direction something takes no place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Overlap {
    /// Above and below the line.
    Height,
    /// Reaches to the left.
    Left,
    /// Reaches to the right.
    Right,
    /// Reaches to both sides.
    Centre,
}

/// The four sizes of formulas.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum FormulaSize {
    /// As in displays.
    Display,
    /// As in running text.
    Text,
    /// As scripts are.
    Script,
    /// As scripts of scripts are.
    SmallScript,
}

/// The classes that spacing goes by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum SpacingClass {
    /// A letter or the like.
    Ordinary,
    /// A large operator or the name of a function.
    Operator,
    /// Joins two parts.
    Binary,
    /// Relates two parts.
    Relation,
    /// A bracket before.
    Open,
    /// A bracket behind.
    Close,
    /// Punctuation.
    Punctuation,
    /// A part in brackets.
    Inner,
}

impl Expression {
    /// Nothing.
    #[must_use]
    pub fn nothing() -> Self {
        Self::Row(Vec::new())
    }

    /// Whether it is a row without parts.
    #[must_use]
    pub fn is_nothing(&self) -> bool {
        matches!(self, Self::Row(parts) if parts.is_empty())
    }

    /// These parts side by side; one alone is itself.
    #[must_use]
    pub fn of(mut parts: Vec<Self>) -> Self {
        match (parts.len(), parts.pop()) {
            (1, Some(only)) => only,
            (_, last) => {
                parts.extend(last);
                Self::Row(parts)
            }
        }
    }

    /// An operator.
    #[must_use]
    pub fn operator(sign: impl Into<CompactString>) -> Self {
        Self::Operator(sign.into())
    }

    /// This and another in one row.
    #[must_use]
    pub fn beside(self, other: Self) -> Self {
        let mut parts = self.into_parts();
        parts.extend(other.into_parts());
        Self::Row(parts)
    }

    /// The parts of a row; anything else is one part.
    #[must_use]
    pub fn into_parts(self) -> Vec<Self> {
        match self {
            Self::Row(parts) => parts,
            only => vec![only],
        }
    }

    /// This with something below and above it; what has one of the two gets the other.
    #[must_use]
    pub fn stacked(self, below: Option<Box<Self>>, above: Option<Box<Self>>) -> Self {
        match self {
            Self::Stacked { base, below: known, above: None } if below.is_none() => {
                Self::Stacked { base, below: known, above }
            }
            Self::Stacked { base, below: None, above: known } if above.is_none() => {
                Self::Stacked { base, below, above: known }
            }
            base => Self::Stacked { base: Box::new(base), below, above },
        }
    }
}
