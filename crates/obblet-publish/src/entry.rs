//! One file of a plan: what is to be done with it, and why.

use crate::fingerprint::Fingerprint;
use crate::scope::Scope;
use obblet::{Format, House};
use serde::Serialize;
use std::sync::Arc;

/// What is to be done with one file.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Action {
    /// Read as this format and written as a page.
    Convert(Format),
    /// Copied as it is.
    Copy,
    /// Left out.
    LeaveOut,
    /// Its source is gone; its page goes when one asks for that.
    Remove,
}

/// How a file stands to what was published before.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum State {
    /// It was not there before.
    New,
    /// Its page is to be made anew.
    Changed,
    /// Its page is what it has to be.
    Unchanged,
    /// Its source is gone.
    Removed,
    /// Its target was changed by hand or comes from elsewhere.
    InConflict,
    /// It is not published.
    Excluded,
}

impl State {
    /// All states, in the order of a summary.
    pub const ALL: [Self; 6] = [
        Self::New,
        Self::Changed,
        Self::Unchanged,
        Self::Removed,
        Self::InConflict,
        Self::Excluded,
    ];

    /// The word people read.
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::New => "new",
            Self::Changed => "changed",
            Self::Unchanged => "unchanged",
            Self::Removed => "removed",
            Self::InConflict => "in conflict",
            Self::Excluded => "excluded",
        }
    }
}

/// One file of the plan. Paths have `/` between folders.
#[derive(Debug, Clone)]
pub struct Entry {
    /// The path below the source folder.
    pub source: String,
    /// The path below the output folder; empty for what is left out.
    pub target: String,
    /// What is to be done.
    pub action: Action,
    /// How it stands to what was published before.
    pub state: State,
    /// Why it is in this state.
    pub why: String,
    /// What else is to be said: why the target does not have the name one would expect.
    pub notes: Vec<String>,
    /// Why it cannot be read, when it cannot.
    pub(crate) unreadable: Option<String>,
    pub(crate) hash: Option<Fingerprint>,
    /// The name that it states for its page.
    pub(crate) stated: Option<String>,
    pub(crate) scope: Arc<Scope>,
}

impl Entry {
    /// The house that it is written for.
    #[must_use]
    pub fn house(&self) -> &House {
        &self.scope.house
    }

    /// Whether anything is to be done for it.
    pub(crate) fn is_open(&self) -> bool {
        matches!(self.action, Action::Convert(_) | Action::Copy) && self.state != State::Unchanged
    }

    /// The fingerprint of all that its pages depend on, but for the source, what that includes and
    /// links to, and the pages around.
    /// `added` stands for what the program adds.
    pub(crate) fn settings(&self, format: Format, added: Fingerprint) -> Fingerprint {
        let read_as = match self.action {
            Action::Convert(read_as) => read_as.name(),
            _ => "",
        };
        Fingerprint::of_parts([
            self.scope.print.as_bytes(),
            env!("CARGO_PKG_VERSION").as_bytes(),
            read_as.as_bytes(),
            format.name().as_bytes(),
            self.target.as_bytes(),
            added.as_bytes(),
        ])
    }
}
