//! Whose a file in the output folder is.

use crate::fingerprint::Fingerprint;
use crate::journal::LeftBehind;
use crate::record::Record;
use std::fs::Metadata;
use std::path::Path;
use std::time::SystemTime;

/// Whose a file in the output folder is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Standing {
    /// Nothing is there.
    Missing,
    /// What a run wrote is there.
    Ours,
    /// Something that we did not write, or that was changed since.
    Foreign,
    /// The same, or what a power cut left of something that we wrote: whoever writes it finds out.
    Doubtful,
}

/// What is known of the files in the output folder.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Standings<'r> {
    output: &'r Path,
    before: &'r Record,
    left_behind: &'r LeftBehind,
}

impl<'r> Standings<'r> {
    pub(crate) fn of(output: &'r Path, before: &'r Record, left_behind: &'r LeftBehind) -> Self {
        Self { output, before, left_behind }
    }

    /// Whether a run wrote exactly this content there.
    pub(crate) fn is_ours(&self, target: &str, there: Fingerprint) -> bool {
        self.before.targets.get(target) == Some(&there)
            || self.left_behind.has_written(target, there)
    }

    /// Looks at a target. One that the system says was not touched since the record was written is
    /// not read; whoever replaces it reads it first.
    pub(crate) fn at_a_glance(&self, target: &str) -> Standing {
        let path = self.output.join(target);
        let Ok(facts) = std::fs::symlink_metadata(&path) else { return Standing::Missing };
        let is_known = self.before.targets.contains_key(target);
        if is_known && self.before.written.is_some_and(|then| was_touched_before(&facts, then)) {
            return Standing::Ours;
        }
        match std::fs::read(&path) {
            Ok(there) if self.is_ours(target, Fingerprint::of(&there)) => Standing::Ours,
            Ok(_) if self.left_behind.is_unfinished() => Standing::Doubtful,
            _ => Standing::Foreign,
        }
    }
}

/// Whether neither the content nor the facts of a file have changed since. The time of the facts
/// cannot be set back by hand, unlike that of the content.
fn was_touched_before(facts: &Metadata, then: SystemTime) -> bool {
    let content = facts.is_file() && facts.modified().is_ok_and(|time| time < then);
    content && facts_changed(facts).is_none_or(|time| time < then)
}

#[cfg(unix)]
fn facts_changed(facts: &Metadata) -> Option<SystemTime> {
    use std::os::unix::fs::MetadataExt as _;
    use std::time::Duration;
    let seconds = u64::try_from(facts.ctime()).ok()?;
    let nanos = u32::try_from(facts.ctime_nsec()).ok()?;
    SystemTime::UNIX_EPOCH.checked_add(Duration::new(seconds, nanos))
}

#[cfg(not(unix))]
fn facts_changed(_facts: &Metadata) -> Option<SystemTime> {
    None
}
