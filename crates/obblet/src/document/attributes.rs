//! What any block or inline can carry: an id, classes, a language, a tracked change.

use super::{CompactString, Looks};
use serde::{Deserialize, Serialize};

/// The attributes of one node. Empty attributes take 8 bytes and no allocation.
///
/// ```
/// use obblet::document::Attributes;
/// let attributes = Attributes::with_id("tide-table");
/// assert_eq!(attributes.id(), Some("tide-table"));
/// assert!(attributes.classes().is_empty());
/// ```
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
#[serde(transparent)]
pub struct Attributes(Option<Box<AttributeSet>>);

/// What stands behind [`Attributes`] once there is anything to say.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct AttributeSet {
    /// The identifier that links point to. Unique within a document.
    pub id: Option<CompactString>,
    /// Class names, in source order.
    pub classes: Vec<CompactString>,
    /// Other named values, in source order.
    pub pairs: Vec<(CompactString, CompactString)>,
    /// The name of the style in [`Document::styles`](super::Document::styles).
    pub style: Option<CompactString>,
    /// Direct formatting, beyond what the style says.
    pub looks: Option<Box<Looks>>,
    /// Language as a BCP 47 tag.
    pub language: Option<CompactString>,
    /// Writing direction, where the source states one.
    pub direction: Option<Direction>,
    /// The audiences the node is meant for; empty means everybody.
    pub audiences: Vec<CompactString>,
    /// The tracked change that the node as a whole belongs to.
    pub revision: Option<Revision>,
}

/// Writing direction.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Direction {
    /// As in English.
    LeftToRight,
    /// As in Arabic.
    RightToLeft,
}

impl Direction {
    /// The value of HTML's `dir` attribute.
    #[must_use]
    pub fn html(self) -> &'static str {
        match self {
            Self::LeftToRight => "ltr",
            Self::RightToLeft => "rtl",
        }
    }
}

/// One tracked change.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Revision {
    /// What was done.
    pub kind: RevisionKind,
    /// Who did it.
    pub author: Option<CompactString>,
    /// When, as the source wrote it (ISO 8601 in Word files).
    pub date: Option<CompactString>,
}

/// What a tracked change did to the node that carries it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum RevisionKind {
    /// The node was added.
    Insertion,
    /// The node was removed, and is still there to be looked at.
    Deletion,
    /// The node was moved away from here.
    MoveSource,
    /// The node was moved here.
    MoveTarget,
    /// Only the node's looks were changed.
    Formatting,
}

impl Attributes {
    /// No attributes at all.
    pub const NONE: Self = Self(None);

    /// Attributes with nothing but an id.
    #[must_use]
    pub fn with_id(id: impl Into<CompactString>) -> Self {
        let mut attributes = Self::NONE;
        attributes.edit().id = Some(id.into());
        attributes
    }

    /// True when nothing is said.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.0.as_deref().is_none_or(|set| *set == AttributeSet::default())
    }

    /// The whole set for reading, when there is one.
    #[must_use]
    pub fn get(&self) -> Option<&AttributeSet> {
        self.0.as_deref()
    }

    /// The whole set for changing; makes an empty one first where there is none.
    pub fn edit(&mut self) -> &mut AttributeSet {
        self.0.get_or_insert_with(Box::default)
    }

    /// The identifier that links point to.
    #[must_use]
    pub fn id(&self) -> Option<&str> {
        self.get()?.id.as_deref()
    }

    /// Class names, in source order.
    #[must_use]
    pub fn classes(&self) -> &[CompactString] {
        self.get().map_or(&[], |set| &set.classes)
    }

    /// The value of a named pair.
    #[must_use]
    pub fn pair(&self, name: &str) -> Option<&str> {
        let pairs = &self.get()?.pairs;
        pairs.iter().find(|(key, _)| key == name).map(|(_, value)| value.as_str())
    }

    /// Takes a named pair out.
    pub fn take_pair(&mut self, name: &str) -> Option<CompactString> {
        let pairs = &mut self.0.as_deref_mut()?.pairs;
        let at = pairs.iter().position(|(key, _)| key == name)?;
        let (_, value) = pairs.remove(at);
        if self.is_empty() {
            self.0 = None;
        }
        Some(value)
    }

    /// The named style.
    #[must_use]
    pub fn style(&self) -> Option<&str> {
        self.get()?.style.as_deref()
    }

    /// The tracked change the node belongs to.
    #[must_use]
    pub fn revision(&self) -> Option<&Revision> {
        self.get()?.revision.as_ref()
    }

    /// Whether the node is meant for one of these audiences, or for everybody.
    #[must_use]
    pub fn is_for(&self, audiences: &[CompactString]) -> bool {
        let meant_for = self.get().map_or(&[][..], |set| &set.audiences);
        meant_for.is_empty() || meant_for.iter().any(|audience| audiences.contains(audience))
    }

    /// Direct formatting.
    #[must_use]
    pub fn looks(&self) -> Option<&Looks> {
        self.get()?.looks.as_deref()
    }
}

/// No set and an empty set say the same.
impl PartialEq for Attributes {
    fn eq(&self, other: &Self) -> bool {
        match (self.get(), other.get()) {
            (Some(one), Some(two)) => one == two,
            _ => self.is_empty() && other.is_empty(),
        }
    }
}

impl From<AttributeSet> for Attributes {
    fn from(set: AttributeSet) -> Self {
        if set == AttributeSet::default() { Self::NONE } else { Self(Some(Box::new(set))) }
    }
}
