//! Doing what a plan says, all cores wide.

use crate::PublishOptions;
use crate::convert::{Page, convert};
use crate::index::index_page;
use crate::links::AnchorLink;
use crate::plan::{Action, Entry, Plan};
use crate::record::{Record, Standing, hash};
use crate::report::{Outcome, OutcomeKind, Report};
use crate::write::{WriteFailure, backup_path, write_atomically};
use obblet::document::CompactString;
use obblet::findings::Finding;
use obblet::page::style_sheet;
use obblet::{Format, WriteError};
use rayon::ThreadPoolBuilder;
use rayon::prelude::*;
use std::collections::{HashMap, HashSet};
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::time::Instant;
use thiserror::Error;

/// Told how a run goes; called from all workers.
pub trait Watcher: Sync {
    /// A run of so many files begins.
    fn begins(&self, files: usize);
    /// One more file is done.
    fn done(&self, outcome: &Outcome);
}

/// Nobody watches.
impl Watcher for () {
    fn begins(&self, _files: usize) {}
    fn done(&self, _outcome: &Outcome) {}
}

/// Why a run could not be finished.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PublishError {
    /// No workers could be started.
    #[error("no workers can be started: {0}")]
    Workers(String),
    /// The output folder or the record in it cannot be written.
    #[error(transparent)]
    Write(#[from] WriteFailure),
    /// The index page cannot be written.
    #[error("the index page: {0}")]
    Index(#[from] WriteError),
}

/// What a worker gives besides the outcome.
struct Done {
    outcome: Outcome,
    ids: HashSet<CompactString>,
    anchors: Vec<(AnchorLink, Finding)>,
    /// Targets written or found the same, with their hashes.
    noted: Vec<(String, String)>,
}

/// Does what a plan says. Every page appears whole; what fails is an outcome of its own.
///
/// # Errors
/// [`PublishError`] only when the output folder itself, the index or the record cannot be
/// written.
pub fn publish(
    plan: &Plan,
    options: &PublishOptions,
    watcher: &dyn Watcher,
) -> Result<Report, PublishError> {
    let begun = Instant::now();
    std::fs::create_dir_all(plan.output())
        .map_err(|error| WriteFailure { path: plan.output().to_path_buf(), error })?;
    let run = Run { plan, options, before: Record::load(plan.output()) };
    let pool = ThreadPoolBuilder::new()
        .num_threads(options.jobs.map_or(0, Into::into))
        .build()
        .map_err(|error| PublishError::Workers(error.to_string()))?;
    watcher.begins(plan.entries().len());
    // Results come in the order of the plan, however many workers there are.
    let mut done: Vec<Done> = pool.install(|| {
        plan.entries()
            .par_iter()
            .map(|entry| {
                let done = run.entry(entry);
                watcher.done(&done.outcome);
                done
            })
            .collect()
    });
    check_anchors(&mut done);

    let mut record = run.before.clone();
    done.iter_mut().flat_map(|done| done.noted.drain(..)).for_each(|(target, hash)| {
        record.note(&target, hash);
    });
    let mut outcomes: Vec<Outcome> = done.into_iter().map(|done| done.outcome).collect();
    outcomes.extend(plan.unreadable.iter().map(|(path, why)| unreadable(path, why)));
    if !plan.has_own_index() {
        let bytes = index_page(plan, &outcomes, options)?;
        outcomes.push(run.made(&plan.index, &bytes, &mut record));
    }
    if let Some(target) = &plan.style_sheet {
        let sheet = style_sheet(&options.house)?;
        outcomes.push(run.made(target, sheet.as_bytes(), &mut record));
    }
    record.save(plan.output())?;
    Ok(Report { outcomes, duration: begun.elapsed() })
}

/// What all workers share.
struct Run<'p> {
    plan: &'p Plan,
    options: &'p PublishOptions,
    before: Record,
}

impl Run<'_> {
    /// One file. A panic anywhere in its conversion is that file's failure, not the run's.
    fn entry(&self, entry: &Entry) -> Done {
        let attempt = catch_unwind(AssertUnwindSafe(|| self.attempt(entry)));
        attempt.unwrap_or_else(|_| {
            let why = "the conversion broke off inside Obblet; please report this file".to_string();
            failed(entry, why)
        })
    }

    fn attempt(&self, entry: &Entry) -> Done {
        if entry.action == Action::SkipLink {
            let mut outcome = empty_outcome(&entry.source, &entry.target);
            outcome.kind = OutcomeKind::Skipped;
            outcome.reason = Some("it is a symbolic link".into());
            return without_page(outcome);
        }
        let bytes = match std::fs::read(self.plan.source.join(&entry.source)) {
            Ok(bytes) => bytes,
            Err(error) => return failed(entry, format!("it cannot be read: {error}")),
        };
        match entry.action {
            Action::Convert(format) => self.document(entry, format, &bytes),
            Action::Copy | Action::SkipLink => self.copy(entry, &bytes),
        }
    }

    fn document(&self, entry: &Entry, format: Format, bytes: &[u8]) -> Done {
        let page = match convert(bytes, format, entry, self.plan, self.options) {
            Ok(page) => page,
            Err(error) => return failed(entry, error.to_string()),
        };
        let Page { bytes, media, media_folder, findings, title, description, ids, anchors } = page;
        let mut outcome = empty_outcome(&entry.source, &entry.target);
        (outcome.findings, outcome.title, outcome.description) = (findings, title, description);
        let mut noted = Vec::new();
        self.put(&entry.target, &bytes, OutcomeKind::Converted, &mut outcome, &mut noted);
        for picture in &media {
            let target = format!("{media_folder}/{}", picture.name);
            let mut of_picture = empty_outcome(&entry.source, &target);
            self.put(&target, &picture.bytes, OutcomeKind::Copied, &mut of_picture, &mut noted);
            if matches!(of_picture.kind, OutcomeKind::InConflict | OutcomeKind::Failed) {
                outcome.kind = of_picture.kind;
                outcome.reason = of_picture.reason.map(|why| format!("{target}: {why}"));
            }
        }
        Done { outcome, ids, anchors, noted }
    }

    fn copy(&self, entry: &Entry, bytes: &[u8]) -> Done {
        let mut outcome = empty_outcome(&entry.source, &entry.target);
        let mut noted = Vec::new();
        self.put(&entry.target, bytes, OutcomeKind::Copied, &mut outcome, &mut noted);
        Done { noted, ..without_page(outcome) }
    }

    /// Writes what no source became.
    fn made(&self, target: &str, bytes: &[u8], record: &mut Record) -> Outcome {
        let mut noted = Vec::new();
        let mut outcome = empty_outcome("", target);
        self.put(target, bytes, OutcomeKind::Made, &mut outcome, &mut noted);
        noted.into_iter().for_each(|(target, hash)| record.note(&target, hash));
        outcome
    }

    /// Writes a target, unless it is the same already or somebody else's.
    fn put(
        &self,
        target: &str,
        bytes: &[u8],
        kind: OutcomeKind,
        outcome: &mut Outcome,
        noted: &mut Vec<(String, String)>,
    ) {
        let output = self.plan.output();
        let path = output.join(target);
        let mut written = Ok(());
        outcome.kind = match self.before.standing(output, target, bytes) {
            Standing::Same => OutcomeKind::Unchanged,
            Standing::Foreign if !self.options.overwrite => {
                let why = "the target was changed by hand or comes from elsewhere; \
                           move it away, or use --overwrite, which keeps a backup";
                outcome.reason = Some(why.into());
                outcome.kind = OutcomeKind::InConflict;
                return;
            }
            Standing::Foreign => {
                let backup = backup_path(&path);
                written = std::fs::rename(&path, &backup)
                    .map_err(|error| WriteFailure { path: path.clone(), error })
                    .and_then(|()| write_atomically(&path, bytes));
                kind
            }
            Standing::Free => {
                written = write_atomically(&path, bytes);
                kind
            }
        };
        match written {
            Ok(()) => noted.push((target.to_string(), hash(bytes))),
            Err(failure) => {
                outcome.kind = OutcomeKind::Failed;
                outcome.reason = Some(failure.to_string());
            }
        }
    }
}

fn empty_outcome(source: &str, target: &str) -> Outcome {
    Outcome {
        source: source.to_string(),
        target: target.to_string(),
        kind: OutcomeKind::Unchanged,
        reason: None,
        findings: Vec::new(),
        title: None,
        description: None,
    }
}

fn without_page(outcome: Outcome) -> Done {
    Done { outcome, ids: HashSet::new(), anchors: Vec::new(), noted: Vec::new() }
}

fn failed(entry: &Entry, why: String) -> Done {
    let mut outcome = empty_outcome(&entry.source, &entry.target);
    outcome.kind = OutcomeKind::Failed;
    outcome.reason = Some(why);
    without_page(outcome)
}

fn unreadable(path: &str, why: &str) -> Outcome {
    let mut outcome = empty_outcome(path, "");
    outcome.kind = OutcomeKind::Failed;
    outcome.reason = Some(format!("it cannot be read: {why}"));
    outcome
}

/// Once every page is known, links to places in other pages can be checked.
fn check_anchors(done: &mut [Done]) {
    let ids: HashMap<String, HashSet<CompactString>> = done
        .iter_mut()
        .map(|done| (done.outcome.source.clone(), std::mem::take(&mut done.ids)))
        .collect();
    for done in done {
        for (link, finding) in done.anchors.drain(..) {
            let page = ids.get(&link.document);
            // A page that failed has no places; its own failure is what is wrong.
            let is_there =
                page.is_none_or(|ids| ids.is_empty() || ids.contains(link.anchor.as_str()));
            if !link.anchor.is_empty() && !is_there {
                done.outcome.findings.push(finding);
            }
        }
    }
}
