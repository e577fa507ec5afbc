//! What a finding is about.

use serde::Serialize;
use std::str::FromStr;

/// What a finding is about when a document is checked.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Topic {
    /// Headings, lists, tables, and what is typed to look like them.
    Structure,
    /// Where links and pictures lead, and their words.
    Links,
    /// What keeps people from reading.
    Access,
    /// Whether a page is valid HTML.
    Html,
    /// Spaces, signs, words.
    Text,
    /// What a house does not take.
    House,
    /// What the reader of the format met.
    Source,
}

impl Topic {
    /// All topics.
    pub const ALL: [Self; 7] = [
        Self::Structure,
        Self::Links,
        Self::Access,
        Self::Html,
        Self::Text,
        Self::House,
        Self::Source,
    ];

    /// The name in small letters.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Structure => "structure",
            Self::Links => "links",
            Self::Access => "access",
            Self::Html => "html",
            Self::Text => "text",
            Self::House => "house",
            Self::Source => "source",
        }
    }
}

impl FromStr for Topic {
    type Err = String;

    fn from_str(name: &str) -> Result<Self, Self::Err> {
        let found = Self::ALL.into_iter().find(|topic| topic.name() == name);
        let names = || Self::ALL.map(Self::name).join(", ");
        found.ok_or_else(|| format!("there is no such topic; there are {}", names()))
    }
}
