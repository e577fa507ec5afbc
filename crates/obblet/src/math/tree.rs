//! The formula tree.

use serde::{Deserialize, Serialize};

/// A part of a formula.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Expression {
    /// Parts side by side.
    Row(Vec<Expression>),
    /// A variable or another name.
    Identifier(String, LetterStyle),
    /// A number.
    Number(String),
    /// An operator, relation, bracket or mark.
    Operator(String),
    /// Words.
    Text(String),
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
        sign: String,
        /// Where it starts.
        lower: Option<Box<Expression>>,
        /// Where it ends.
        upper: Option<Box<Expression>>,
        /// Where the two stand.
        placement: Placement,
        /// What it is about.
        body: Box<Expression>,
    },
    /// Parts in brackets that grow with them.
    Fenced {
        /// The bracket before; empty for none.
        open: String,
        /// The bracket behind; empty for none.
        close: String,
        /// What stands between two parts.
        separator: String,
        /// The parts.
        parts: Vec<Expression>,
    },
    /// Rows of cells.
    Matrix(Vec<Vec<Expression>>),
    /// Formulas one below the other, each cut where they line up.
    Lines(Vec<Vec<Expression>>),
    /// A named function of something.
    Function {
        /// Its name, perhaps with a limit.
        name: Box<Expression>,
        /// What it is applied to.
        argument: Box<Expression>,
    },
    /// A mark above a letter or more.
    Accent {
        /// The mark, as a character of its own.
        mark: char,
        /// What is below it.
        base: Box<Expression>,
    },
    /// A sign that spans something, above or below it.
    Span {
        /// The sign: a line or a brace.
        sign: char,
        /// Whether it stands below.
        is_below: bool,
        /// What it spans.
        base: Box<Expression>,
    },
    /// In a frame.
    Framed(Box<Expression>),
    /// Takes its place, and is not seen.
    Invisible(Box<Expression>),
}

/// What stands between the parts of a fraction.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum FractionLine {
    /// A line.
    Bar,
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
    /// As variables are: slanted where it is one letter.
    #[default]
    Usual,
    /// Upright.
    Upright,
    /// Bold and upright.
    Bold,
    /// Bold and slanted.
    BoldSlanted,
    /// As sets of numbers are.
    DoubleStruck,
    /// Script.
    Script,
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
    /// Below and above it.
    BelowAndAbove,
    /// Behind it.
    Behind,
}
