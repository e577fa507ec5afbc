//! What happened to something.

use serde::Serialize;
use std::fmt;

/// What happened to something.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum FindingKind {
    /// Something in the source is not in the output.
    Lost,
    /// Something is in the output in another form.
    Changed,
    /// Something was mended.
    Repaired,
    /// Something is wrong with the source; nothing was lost.
    Problem,
}

impl FindingKind {
    /// All kinds.
    pub const ALL: [Self; 4] = [Self::Lost, Self::Changed, Self::Repaired, Self::Problem];
}

impl fmt::Display for FindingKind {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(match self {
            Self::Lost => "lost",
            Self::Changed => "changed",
            Self::Repaired => "repaired",
            Self::Problem => "problem",
        })
    }
}
