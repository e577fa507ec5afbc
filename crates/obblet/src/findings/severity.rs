//! What a check thinks of a finding.

use serde::Serialize;
use std::fmt;
use std::str::FromStr;

/// How heavy a finding is when a document is checked.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Severity {
    /// Something is broken, or somebody cannot read it.
    Error,
    /// Most people would want it otherwise.
    Warning,
    /// Worth a look.
    Advice,
}

impl Severity {
    /// All severities, the heaviest first.
    pub const ALL: [Self; 3] = [Self::Error, Self::Warning, Self::Advice];
}

impl fmt::Display for Severity {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(match self {
            Self::Error => "error",
            Self::Warning => "warning",
            Self::Advice => "advice",
        })
    }
}

impl FromStr for Severity {
    type Err = String;

    fn from_str(name: &str) -> Result<Self, Self::Err> {
        let found = Self::ALL.into_iter().find(|severity| severity.to_string() == name);
        found.ok_or_else(|| "there are error, warning and advice".to_string())
    }
}
