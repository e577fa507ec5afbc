//! What an element is, as bits: the kinds of content of the HTML Standard (3.2.5.2).

/// A set of kinds.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Kinds(u16);

impl Kinds {
    pub(super) const NONE: Self = Self(0);
    pub(super) const FLOW: Self = Self(1);
    pub(super) const PHRASING: Self = Self(1 << 1);
    pub(super) const METADATA: Self = Self(1 << 2);
    pub(super) const HEADING: Self = Self(1 << 3);
    pub(super) const SECTIONING: Self = Self(1 << 4);
    /// Whatever its attributes say.
    pub(super) const INTERACTIVE: Self = Self(1 << 5);
    /// A label can be for it.
    pub(super) const LABELABLE: Self = Self(1 << 6);
    /// What stands in lines is also what stands in blocks.
    pub(super) const LINE: Self = Self(Self::FLOW.0 | Self::PHRASING.0);

    pub(super) const fn and(self, other: Self) -> Self {
        Self(self.0 | other.0)
    }

    pub(super) const fn has(self, other: Self) -> bool {
        self.0 & other.0 == other.0
    }
}

/// What an element may hold.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Holds {
    Nothing,
    /// Characters alone.
    Text,
    Phrasing,
    Flow,
    /// What its parent may hold.
    Transparent,
    /// These elements, and white space.
    Only(&'static [&'static str]),
    /// What must not be looked into: scripts, templates, other vocabularies.
    Anything,
}
