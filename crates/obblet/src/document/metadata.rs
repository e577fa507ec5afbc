//! What is said about a document as a whole.

use super::{CompactString, Direction, Inline};
use serde::{Deserialize, Serialize};

/// Title, authors, dates and the rest.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Metadata {
    /// The title; may hold emphasis or a formula.
    pub title: Vec<Inline>,
    /// The subtitle.
    pub subtitle: Vec<Inline>,
    /// Authors, in order.
    pub authors: Vec<Person>,
    /// One or two sentences for lists and search results.
    pub description: Option<String>,
    /// Keywords, in order.
    pub keywords: Vec<CompactString>,
    /// Language as a BCP 47 tag.
    pub language: Option<CompactString>,
    /// Writing direction.
    pub direction: Option<Direction>,
    /// The date the document bears, as the source spells it.
    pub date: Option<CompactString>,
    /// When it was made (ISO 8601).
    pub created: Option<CompactString>,
    /// When it was last changed (ISO 8601).
    pub modified: Option<CompactString>,
    /// Every other field, in source order.
    pub extra: Vec<(CompactString, Value)>,
    /// The front matter as it was written, for a round trip to the same format.
    pub front_matter: Option<FrontMatter>,
}

impl Metadata {
    /// The texts of other fields of these names, one after the other.
    pub(crate) fn lines_of(&self, names: &[&str]) -> Vec<&str> {
        let fields = self.extra.iter().filter(|(name, _)| names.contains(&name.as_str()));
        let mut lines = Vec::new();
        for (_, value) in fields {
            let values = match value {
                Value::List(values) => values.as_slice(),
                value => std::slice::from_ref(value),
            };
            lines.extend(values.iter().filter_map(|value| match value {
                Value::Text(text) => Some(text.as_str()),
                _ => None,
            }));
        }
        lines
    }
}

/// Somebody who had a hand in the document.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
pub struct Person {
    /// The whole name.
    pub name: CompactString,
    /// Electronic mail address.
    pub email: Option<CompactString>,
    /// Where they work.
    pub affiliation: Option<CompactString>,
}

/// The value of a metadata field.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(untagged)]
pub enum Value {
    /// Nothing.
    Null,
    /// True or false.
    Bool(bool),
    /// A whole number.
    Integer(i64),
    /// Any other number.
    Number(f64),
    /// Text; dates are texts too.
    Text(String),
    /// Several values.
    List(Vec<Value>),
    /// Named values, in source order.
    Map(Vec<(String, Value)>),
}

impl Value {
    /// The text of a text, number or truth value; `None` for the rest.
    #[must_use]
    pub fn to_text(&self) -> Option<String> {
        match self {
            Self::Text(text) => Some(text.clone()),
            Self::Integer(number) => Some(number.to_string()),
            Self::Number(number) => Some(number.to_string()),
            Self::Bool(value) => Some(value.to_string()),
            Self::Null | Self::List(_) | Self::Map(_) => None,
        }
    }
}

/// Front matter as it was written.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct FrontMatter {
    /// The notation between the fences.
    pub notation: FrontMatterNotation,
    /// The text between the fences.
    pub text: String,
}

/// The notations in use for front matter.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum FrontMatterNotation {
    /// Between lines of three hyphens.
    Yaml,
    /// Between lines of three plus signs.
    Toml,
}
