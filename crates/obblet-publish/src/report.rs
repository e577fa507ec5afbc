//! What became of every file.

use obblet::Account;
use obblet::findings::{Finding, FindingKind};
use serde::Serialize;
use std::time::Duration;

/// What became of a file, in one word.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum OutcomeKind {
    /// A document became a page, or its page was made anew.
    Converted,
    /// A page that has no source of its own, such as an index, was made from the others.
    Made,
    /// A file was copied.
    Copied,
    /// The target was there already, byte for byte.
    Unchanged,
    /// Its source is gone, and so is its page now.
    Removed,
    /// Its source is gone; its page is still there.
    LeftBehind,
    /// The target was changed by hand or comes from elsewhere; it was left alone.
    InConflict,
    /// It is not published.
    Skipped,
    /// The source could not be read or the target not written.
    Failed,
}

impl OutcomeKind {
    /// All kinds, in the order of a summary.
    pub const ALL: [Self; 9] = [
        Self::Converted,
        Self::Made,
        Self::Copied,
        Self::Unchanged,
        Self::Removed,
        Self::LeftBehind,
        Self::InConflict,
        Self::Skipped,
        Self::Failed,
    ];

    /// The word people read.
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Converted => "converted",
            Self::Made => "made",
            Self::Copied => "copied",
            Self::Unchanged => "unchanged",
            Self::Removed => "removed",
            Self::LeftBehind => "left behind",
            Self::InConflict => "in conflict",
            Self::Skipped => "skipped",
            Self::Failed => "failed",
        }
    }
}

/// What became of one file.
#[derive(Debug, Clone, Serialize)]
pub struct Outcome {
    /// The path below the source folder; empty for pages that have no source.
    pub source: String,
    /// The path below the output folder.
    pub target: String,
    /// What became of it.
    pub kind: OutcomeKind,
    /// Why it failed, was skipped or is in conflict.
    pub reason: Option<String>,
    /// What else is to be said of it, such as why its page does not have the name one would expect.
    pub notes: Vec<String>,
    /// What the conversion has to say. Of an unchanged file only what has changed around it.
    pub findings: Vec<Finding>,
    /// How many words went through; nothing of files that were not converted in this run.
    #[serde(skip)]
    pub account: Option<Account>,
    /// The title of the page.
    pub title: Option<String>,
    /// The description of the page.
    pub description: Option<String>,
    /// How long the conversion took.
    #[serde(skip)]
    pub duration: Duration,
}

impl Outcome {
    /// Of a file that nothing was done with yet.
    pub(crate) fn new(source: &str, target: &str) -> Self {
        Self {
            source: source.to_string(),
            target: target.to_string(),
            kind: OutcomeKind::Unchanged,
            reason: None,
            notes: Vec::new(),
            findings: Vec::new(),
            account: None,
            title: None,
            description: None,
            duration: Duration::ZERO,
        }
    }
}

/// What became of a whole folder.
#[derive(Debug, Clone)]
pub struct Report {
    /// An outcome for every file, sorted by source path, then those of pages without a source.
    pub outcomes: Vec<Outcome>,
    /// How many findings unchanged files had when they were converted: lost, changed, repaired,
    /// problems.
    pub earlier_findings: [u64; 4],
    /// How long it took.
    pub duration: Duration,
    /// Somebody ended the run early; what was not come to is as it was.
    pub stopped: bool,
}

impl Report {
    /// How many files had this outcome.
    #[must_use]
    pub fn count(&self, kind: OutcomeKind) -> usize {
        self.outcomes.iter().filter(|outcome| outcome.kind == kind).count()
    }

    /// How many findings have this kind; findings that stand for several count as often.
    #[must_use]
    pub fn findings(&self, kind: FindingKind) -> u64 {
        let findings = self.outcomes.iter().flat_map(|outcome| &outcome.findings);
        let wanted = findings.filter(|finding| finding.kind() == kind);
        wanted.map(|finding| u64::from(finding.count)).sum()
    }
}
