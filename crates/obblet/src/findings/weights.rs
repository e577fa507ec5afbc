//! How much a finding matters.

use serde::Serialize;
use std::fmt;
use std::str::FromStr;

/// How much it matters what happened, the most important first.
///
/// ```
/// use obblet::findings::{Code, Weight};
/// assert_eq!(Code::IncludeMissing.weight(), Weight::Content);
/// assert_eq!(Code::LayoutNotKept.weight(), Weight::Layout);
/// assert!(Weight::Content < Weight::Structure);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Weight {
    /// Words, pictures, formulas, numbers: what a document says.
    Content,
    /// Headings, lists, tables, links, notes: how it holds together.
    Structure,
    /// Fonts, colours, alignment, spelling of signs: how it looks.
    Formatting,
    /// Pages, breaks and spaces of paper.
    Layout,
}

impl Weight {
    /// All weights, the most important first.
    pub const ALL: [Self; 4] = [Self::Content, Self::Structure, Self::Formatting, Self::Layout];

    /// Its name.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Content => "content",
            Self::Structure => "structure",
            Self::Formatting => "formatting",
            Self::Layout => "layout",
        }
    }
}

impl fmt::Display for Weight {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(self.name())
    }
}

impl FromStr for Weight {
    type Err = String;

    fn from_str(name: &str) -> Result<Self, Self::Err> {
        let found = Self::ALL.into_iter().find(|weight| weight.name() == name);
        found.ok_or_else(|| "use content, structure, formatting or layout".to_string())
    }
}
