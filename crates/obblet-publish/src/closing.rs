//! How a run ends: with a record, or at once where nothing is to be done.

use crate::entry::{Action, Entry, State};
use crate::fingerprint::Fingerprint;
use crate::journal::JOURNAL_NAME;
use crate::plan::Plan;
use crate::record::{Record, SourceRecord};
use crate::report::{Outcome, OutcomeKind, Report};
use crate::search::is_shard;
use crate::standing::Standing;
use crate::worker::Shared;
use crate::{PublishOptions, made};
use std::collections::{BTreeMap, HashMap, HashSet};
use std::sync::Arc;
use std::time::Instant;

/// Whether nothing is to be done at all: no source and nothing around it has changed, and every file
/// that an earlier run has made is as it was.
pub(crate) fn is_settled(plan: &Plan, options: &PublishOptions) -> bool {
    let entries = plan.entries();
    let is_still = |entry: &Entry| !entry.is_open() && entry.unreadable.is_none();
    let is_pruned = options.prune && !plan.before.left.is_empty();
    let was_killed = plan.output.join(JOURNAL_NAME).exists();
    if !entries.iter().all(is_still) || is_pruned || was_killed {
        return false;
    }
    plan.before.site == Some(plan.site_print())
        && made_targets(plan).all(|target| plan.standings().at_a_glance(target) == Standing::Ours)
}

/// What an earlier run has made that is no source's: those of sources were looked at for the plan.
pub(crate) fn made_targets(plan: &Plan) -> impl Iterator<Item = &str> {
    // The plan knows the first target of each source; these are the others.
    let others: HashSet<&str> = plan
        .entries()
        .iter()
        .filter_map(|entry| plan.before.sources.get(&entry.source))
        .filter(|known| known.pages.len() > 1 || !known.pictures.is_empty())
        .flat_map(|known| targets_of(known, ""))
        .collect();
    let is_of_source = move |target: &str| plan.is_target(target) || others.contains(target);
    let targets = plan.before.targets.keys().map(String::as_str);
    targets.filter(move |target| !is_of_source(target) && !plan.before.left.contains(*target))
}

/// The report of a run that had nothing to do.
pub(crate) fn settled(plan: &Plan, begun: Instant) -> Report {
    let mut outcomes: Vec<Outcome> = plan.entries().iter().map(outcome_of).collect();
    outcomes.extend(made_targets(plan).map(|target| Outcome::new("", target)));
    let earlier_findings = earlier_findings(plan);
    Report { outcomes, earlier_findings, duration: begun.elapsed(), stopped: false }
}

/// How many findings unchanged sources had.
pub(crate) fn earlier_findings(plan: &Plan) -> [u64; 4] {
    let unchanged = plan.entries().iter().filter(|entry| entry.state == State::Unchanged);
    let known = unchanged.filter_map(|entry| plan.before.sources.get(&entry.source));
    known.fold([0; 4], |mut sums, known| {
        sums.iter_mut().zip(known.findings).for_each(|(sum, count)| *sum += count);
        sums
    })
}

/// The outcome of an entry that nothing is done with.
pub(crate) fn outcome_of(entry: &Entry) -> Outcome {
    let mut outcome = Outcome::new(&entry.source, &entry.target);
    match (entry.action, &entry.unreadable) {
        (_, Some(why)) => {
            outcome.kind = OutcomeKind::Failed;
            outcome.reason = Some(format!("it cannot be read: {why}"));
        }
        (Action::LeaveOut, None) => {
            (outcome.kind, outcome.reason) = (OutcomeKind::Skipped, Some(entry.why.clone()));
        }
        (Action::Remove, None) => {
            outcome.kind = OutcomeKind::LeftBehind;
            outcome.reason = Some(format!("{}; --prune takes its page away", entry.why));
        }
        _ => outcome.notes.clone_from(&entry.notes),
    }
    outcome
}

/// The targets that a source alone becomes: its pages, or its copy.
pub(crate) fn own_targets<'f>(
    facts: &'f SourceRecord,
    copy: &'f str,
) -> impl Iterator<Item = &'f str> {
    let pages = facts.pages.iter().map(|page| page.target.as_str());
    pages.chain(facts.pages.is_empty().then_some(copy))
}

/// The same, and its pictures, which other sources may carry too.
fn targets_of<'f>(facts: &'f SourceRecord, copy: &'f str) -> impl Iterator<Item = &'f str> {
    let pictures = facts.pictures.iter().map(|picture| picture.target.as_str());
    own_targets(facts, copy).chain(pictures)
}

/// The record of a run that has ended, and the end of what is no longer made of anything.
pub(crate) fn finished_record(
    plan: &Plan,
    options: &PublishOptions,
    shared: &Shared,
    facts: BTreeMap<String, Arc<SourceRecord>>,
    noted: BTreeMap<String, Fingerprint>,
    outcomes: &mut [Outcome],
    stopped: bool,
) -> Record {
    let before = &plan.before;
    let moved = made::moved(plan, &facts);
    let site = plan.site_print();
    let mut record = Record::default();
    (record.targets, record.moved, record.site) = (noted, moved, Some(site));
    record.sources = facts;
    let is_here = |source: &str| {
        plan.entry(source).is_some_and(|entry| !matches!(entry.action, Action::Remove))
    };
    // What failed or was not come to is as it was.
    let mut kept: HashSet<&str> = HashSet::new();
    for (source, known) in &before.sources {
        if !record.sources.contains_key(source) && (is_here(source) || stopped) {
            record.sources.insert(source.clone(), known.clone());
            let copy = plan.entry(source).map_or("", |entry| entry.target.as_str());
            kept.extend(targets_of(known, copy));
        }
    }
    let left_behind =
        outcomes.iter().enumerate().filter(|(_, o)| o.kind == OutcomeKind::LeftBehind);
    let left_behind: HashMap<String, usize> =
        left_behind.map(|(at, outcome)| (outcome.target.clone(), at)).collect();
    for (target, hash) in &before.targets {
        if record.targets.contains_key(target) {
            continue;
        }
        // Words that no page has any more would still be found.
        let is_unused = options.prune || (shared.search.is_some() && is_shard(target));
        let is_pruned = is_unused && !stopped && !kept.contains(target.as_str());
        if is_pruned && shared.output.remove(target).is_ok_and(|gone| gone) {
            let of_target = left_behind.get(target);
            if let Some(outcome) = of_target.and_then(|at| outcomes.get_mut(*at)) {
                (outcome.kind, outcome.reason) = (OutcomeKind::Removed, None);
            }
            continue;
        }
        if !kept.contains(target.as_str()) {
            record.left.insert(target.clone());
        }
        record.targets.insert(target.clone(), *hash);
    }
    for outcome in outcomes.iter_mut().filter(|o| o.kind == OutcomeKind::LeftBehind) {
        if let Some(new) = record.moved.get(&outcome.target) {
            outcome.kind = OutcomeKind::Removed;
            outcome.reason = Some(format!("its page leads on to {new}"));
        }
    }
    // Sources that are gone stay known until their pages are.
    for (source, known) in &before.sources {
        let target = known.pages.first().map_or(source.as_str(), |page| page.target.as_str());
        let is_left = record.targets.contains_key(target) && !record.moved.contains_key(target);
        if is_left && !record.sources.contains_key(source) {
            record.sources.insert(source.clone(), known.clone());
        }
    }
    record
}
