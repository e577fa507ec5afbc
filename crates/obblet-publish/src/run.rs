//! Doing what a plan says, all cores wide.
//!
//! First every new or changed document is read and written as the body of its page. Then all titles,
//! places and pictures are known: pictures get their places, and every page whose own content or
//! whose neighbours have changed is laid out and written. Bodies wait in memory for that as far as
//! [`WAITING`](crate::worker::WAITING) allows; what does not fit is read once more.

use crate::closing::{
    earlier_findings, finished_record, is_settled, outcome_of, own_targets, settled,
};
use crate::entry::{Action, Entry, State};
use crate::error::PublishError;
use crate::fingerprint::Fingerprint;
use crate::output::{Output, Put};
use crate::pictures::{self, Pictures};
use crate::plan::Plan;
use crate::pool::{self, Ended, PoolOptions};
use crate::record::{PictureRecord, SourceRecord};
use crate::report::{Outcome, OutcomeKind, Report};
use crate::search::SearchIndex;
use crate::site::{Site, SiteParts};
use crate::worker::{Done, LaidOut, Layout, LayoutGround, Shared};
use crate::{PublishOptions, made};
use obblet::{Cancel, Format};
use std::collections::{BTreeMap, HashMap, HashSet};
use std::sync::atomic::AtomicUsize;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Instant;

/// Told how a run goes, and asked whether it is to go on.
pub trait Watcher: Sync {
    /// A run begins that has so many steps.
    fn begins(&self, steps: usize);
    /// A step is done: a document is read, or a page is written.
    fn step(&self, file: &str);
    /// Whether somebody wants the run to end early. What is written stays, whole.
    fn is_stopped(&self) -> bool {
        false
    }
}

/// Nobody watches.
impl Watcher for () {
    fn begins(&self, _steps: usize) {}
    fn step(&self, _file: &str) {}
}

/// Does what a plan says. Every page appears whole; what fails is an outcome of its own.
///
/// # Errors
/// [`PublishError`] only when the output folder itself, a page that no source becomes, or the record
/// cannot be written, or when another run is at work there.
pub fn publish(
    plan: &Plan,
    options: &PublishOptions,
    watcher: &dyn Watcher,
) -> Result<Report, PublishError> {
    let begun = Instant::now();
    if is_settled(plan, options) {
        return Ok(settled(plan, begun));
    }
    let Some(output) = Output::open(plan, options.overwrite)? else {
        return Err(PublishError::Busy(plan.output.clone()));
    };
    let pictures = Pictures::begin(output.root());
    let shared = Arc::new(Shared {
        plan: plan.clone(),
        output,
        pictures,
        waiting: AtomicUsize::new(0),
        drafts: Mutex::default(),
        search: made::has_search(plan).then(|| Mutex::new(SearchIndex::load(plan))),
    });
    let mut run = Run {
        shared: shared.clone(),
        options,
        watcher,
        outcomes: plan.entries().iter().map(outcome_of).collect(),
        facts: BTreeMap::new(),
        noted: BTreeMap::new(),
        stopped: false,
    };
    run.all()?;
    let Run { shared: of_run, mut outcomes, facts, noted, stopped, .. } = run;
    drop(of_run);
    let record = finished_record(plan, options, &shared, facts, noted, &mut outcomes, stopped);
    // Workers that were given up may still hold what all share; then nothing of theirs is written.
    match Arc::try_unwrap(shared) {
        Ok(shared) => shared.output.close(&record)?,
        Err(shared) => record.save(shared.output.root())?,
    }
    let earlier_findings = earlier_findings(plan);
    Ok(Report { outcomes, earlier_findings, duration: begun.elapsed(), stopped })
}

/// A run, as its one thread that is no worker sees it.
struct Run<'r> {
    shared: Arc<Shared>,
    options: &'r PublishOptions,
    watcher: &'r dyn Watcher,
    /// One for each entry of the plan; then those of pages that have no source.
    outcomes: Vec<Outcome>,
    /// What is known of each source whose pages are right, or will be.
    facts: BTreeMap<String, Arc<SourceRecord>>,
    /// What targets hold now because of us.
    noted: BTreeMap<String, Fingerprint>,
    stopped: bool,
}

impl Run<'_> {
    fn all(&mut self) -> Result<(), PublishError> {
        let entries = self.shared.plan.entries().iter().enumerate();
        let open: Vec<usize> =
            entries.filter(|(_, entry)| entry.is_open()).map(|(at, _)| at).collect();
        self.watcher.begins(open.len() * 2);
        self.take_over_unchanged();
        self.read(&open)?;
        if self.stopped {
            return Ok(());
        }
        self.read(&self.unsearched())?;
        let moved = self.place_pictures();
        self.read(&moved)?;
        self.place_pictures();
        self.write_pictures()?;
        let site = Arc::new(Site::of(&self.shared.plan, &self.facts, self.parts()));
        self.check_anchors();
        self.lay_out(&site)?;
        if !self.stopped {
            self.make(&site)?;
        }
        Ok(())
    }

    /// What is as it was: its facts and targets go from the record into the next one.
    fn take_over_unchanged(&mut self) {
        let plan = &self.shared.plan;
        let before = &plan.before;
        for entry in plan.entries() {
            if entry.state != State::Unchanged {
                continue;
            }
            let Some(known) = before.sources.get(&entry.source) else { continue };
            // Pictures of pages are given their places anew.
            let pictures = known.pictures.iter().filter(|_| plan.format != Format::Html);
            let pictures = pictures.map(|picture| picture.target.as_str());
            for target in own_targets(known, &entry.target).chain(pictures) {
                if let Some(hash) = before.targets.get(target) {
                    self.noted.insert(target.to_string(), *hash);
                }
            }
            self.facts.insert(entry.source.clone(), known.clone());
        }
    }

    /// The documents whose pages stay and whose words nobody knows: where somebody has taken the index away, it
    /// is made anew from all of them.
    fn unsearched(&self) -> Vec<usize> {
        let Some(search) = &self.shared.search else { return Vec::new() };
        if search.lock().unwrap_or_else(PoisonError::into_inner).has_earlier_pages() {
            return Vec::new();
        }
        let is_unknown = |entry: &Entry| {
            entry.state == State::Unchanged && matches!(entry.action, Action::Convert(_))
        };
        let entries = self.shared.plan.entries().iter().enumerate();
        entries.filter(|(_, entry)| is_unknown(entry)).map(|(at, _)| at).collect()
    }

    fn pool<R: Send + 'static>(
        &mut self,
        count: usize,
        work: impl Fn(usize, &Cancel) -> R + Send + Sync + 'static,
        ended: impl FnMut(usize, Ended<R>),
    ) -> Result<(), PublishError> {
        let watcher = self.watcher;
        let options = PoolOptions {
            workers: self.options.workers(),
            patience: self.options.patience,
            is_stopped: &|| watcher.is_stopped(),
        };
        let done = pool::run(count, &options, Arc::new(work), ended);
        self.stopped |= watcher.is_stopped();
        done.map_err(PublishError::Workers)
    }

    /// Reads documents and copies files.
    fn read(&mut self, entries: &[usize]) -> Result<(), PublishError> {
        let (shared, list) = (self.shared.clone(), entries.to_vec());
        let watcher = self.watcher;
        let mut done = Vec::new();
        let source_of = |job: usize| {
            let entry = entries.get(job).and_then(|at| self.shared.plan.entries().get(*at));
            entry.map_or("", |entry| entry.source.as_str()).to_string()
        };
        let sources: Vec<String> = (0..entries.len()).map(source_of).collect();
        let patience = self.options.patience.as_secs();
        self.pool(
            entries.len(),
            move |job, cancel| list.get(job).and_then(|at| shared.take(*at, cancel)),
            |job, ended| {
                watcher.step(sources.get(job).map_or("", String::as_str));
                done.push((job, match ended {
                    Ended::Done(Some(done)) => done,
                    Ended::Done(None) => Done::Failed("it is not in the plan".into()),
                    Ended::BrokeOff => Done::Failed(BROKE_OFF.into()),
                    Ended::TookTooLong => Done::Failed(format!(
                        "it took longer than {patience} seconds and was given up; --patience gives it more"
                    )),
                }));
            },
        )?;
        for (job, done) in done {
            if let Some(at) = entries.get(job) {
                self.note(*at, done);
            }
        }
        Ok(())
    }

    fn note(&mut self, at: usize, done: Done) {
        let plan = &self.shared.plan;
        let (Some(entry), Some(outcome)) = (plan.entries().get(at), self.outcomes.get_mut(at))
        else {
            return;
        };
        match done {
            Done::Failed(why) => {
                (outcome.kind, outcome.reason) = (OutcomeKind::Failed, Some(why));
                // Its page stays as it is, with what was known of it.
                self.facts.remove(&entry.source);
            }
            Done::Refused(why, findings) => {
                (outcome.kind, outcome.reason) = (OutcomeKind::Skipped, Some(why));
                outcome.findings = findings;
                self.facts.remove(&entry.source);
            }
            Done::Copied(facts, put, findings) => {
                tell(outcome, &put, OutcomeKind::Copied);
                outcome.findings = findings;
                if let Some(hash) = put.hash() {
                    self.noted.insert(entry.target.clone(), hash);
                    self.facts.insert(entry.source.clone(), facts);
                }
            }
            Done::Converted(read) => {
                let read = *read;
                outcome.kind = OutcomeKind::Unchanged;
                outcome.findings = read.findings;
                outcome.account = Some(read.account);
                outcome.duration += read.duration;
                if let Some(page) = read.facts.pages.first() {
                    outcome.title.clone_from(&page.title);
                    outcome.description.clone_from(&page.description);
                }
                if let Some(put) = &read.put {
                    tell(outcome, put, OutcomeKind::Converted);
                    if let Some(hash) = put.hash() {
                        self.noted.insert(entry.target.clone(), hash);
                    }
                }
                if let Some((target, put)) = &read.trouble {
                    tell(outcome, put, OutcomeKind::Converted);
                    outcome.reason = outcome.reason.take().map(|why| format!("{target}: {why}"));
                }
                self.noted.extend(read.noted);
                let is_there = read.put.as_ref().is_none_or(|put| put.hash().is_some());
                if is_there {
                    self.facts.insert(entry.source.clone(), Arc::new(read.facts));
                }
            }
        }
    }

    /// Gives pictures their places. Returns the documents that have to be read again, because what
    /// they hold has another place now and is nowhere at hand.
    fn place_pictures(&mut self) -> Vec<usize> {
        let plan = &self.shared.plan;
        if plan.format != Format::Html {
            return Vec::new();
        }
        let copied = plan.entries().iter().filter(|entry| entry.action == Action::Copy);
        let mut copies = HashMap::new();
        for entry in copied.filter(|entry| self.facts.contains_key(&entry.source)) {
            if let Some(hash) = entry.hash {
                copies.entry(hash).or_insert_with(|| entry.target.clone());
            }
        }
        let taken = plan.entries().iter().map(|entry| entry.target.clone());
        pictures::place(&copies, taken, &mut self.facts);
        let is_lost = |entry: &Entry| {
            let known = self.facts.get(&entry.source)?;
            let is_at_hand = |picture: &PictureRecord| {
                self.shared.pictures.has(picture.hash)
                    || plan.before.targets.get(&picture.target) == Some(&picture.hash)
                    || copies.contains_key(&picture.hash)
            };
            Some(!known.pictures.iter().all(is_at_hand))
        };
        let entries = plan.entries().iter().enumerate();
        entries.filter(|(_, entry)| is_lost(entry) == Some(true)).map(|(at, _)| at).collect()
    }

    /// Writes every picture once.
    fn write_pictures(&mut self) -> Result<(), PublishError> {
        if self.shared.plan.format != Format::Html {
            return Ok(());
        }
        let copied: HashSet<&str> = self.shared.plan.copies().collect();
        let mut wanted: BTreeMap<String, Fingerprint> = BTreeMap::new();
        for picture in self.facts.values().flat_map(|facts| &facts.pictures) {
            if !copied.contains(picture.target.as_str()) {
                wanted.insert(picture.target.clone(), picture.hash);
            }
        }
        let wanted: Arc<Vec<(String, Fingerprint)>> = Arc::new(wanted.into_iter().collect());
        let (shared, list) = (self.shared.clone(), wanted.clone());
        let mut done = Vec::new();
        self.pool(
            wanted.len(),
            move |job, _| list.get(job).map(|(target, hash)| shared.put_picture(target, *hash)),
            |job, ended| done.push((job, ended)),
        )?;
        let mut troubles: HashMap<String, Put> = HashMap::new();
        for (job, ended) in done {
            let Some((target, hash)) = wanted.get(job) else { continue };
            match ended {
                Ended::Done(Some(put)) if put.hash().is_some() => {
                    self.noted.insert(target.clone(), *hash);
                }
                Ended::Done(Some(put)) => {
                    troubles.insert(target.clone(), put);
                }
                _ => {
                    troubles.insert(target.clone(), Put::Failed(BROKE_OFF.into()));
                }
            }
        }
        self.tell_troubles(&troubles);
        Ok(())
    }

    /// A document whose picture could not be put in place says so.
    fn tell_troubles(&mut self, troubles: &HashMap<String, Put>) {
        if troubles.is_empty() {
            return;
        }
        for (entry, outcome) in self.shared.plan.entries().iter().zip(&mut self.outcomes) {
            let Some(facts) = self.facts.get(&entry.source) else { continue };
            let mut own = facts.pictures.iter().map(|picture| &picture.target);
            let Some((target, put)) =
                own.find_map(|target| troubles.get(target).map(|put| (target, put)))
            else {
                continue;
            };
            tell(outcome, put, OutcomeKind::Converted);
            outcome.reason = outcome.reason.take().map(|why| format!("{target}: {why}"));
        }
    }

    /// What pages link to beside other pages.
    fn parts(&self) -> SiteParts {
        made::parts(&self.shared.plan, &self.facts)
    }

    /// Links to places in other documents, now that every place is known.
    fn check_anchors(&mut self) {
        for (entry, outcome) in self.shared.plan.entries().iter().zip(&mut self.outcomes) {
            let Some(facts) = self.facts.get(&entry.source) else { continue };
            for link in &facts.anchors {
                // A document that failed has no places; its own failure is what is wrong.
                let Some(pages) = self.facts.get(&link.document).map(|facts| &facts.pages) else {
                    continue;
                };
                let has_places = pages.iter().any(|page| !page.places.is_empty());
                if has_places && !pages.iter().any(|page| page.has_place(&link.anchor)) {
                    outcome.findings.push(link.broken());
                }
            }
        }
    }

    /// Lays out and writes every page that is new, changed, or has other things around it.
    fn lay_out(&mut self, site: &Arc<Site>) -> Result<(), PublishError> {
        let plan = &self.shared.plan;
        if plan.format != Format::Html {
            return Ok(());
        }
        let jobs: Vec<Layout> = plan
            .entries()
            .iter()
            .enumerate()
            .filter_map(|(at, entry)| self.layout(at, entry))
            .collect();
        let sources: Vec<String> = jobs
            .iter()
            .map(|job| plan.entries().get(job.at).map_or(String::new(), |e| e.source.clone()))
            .collect();
        let ground = LayoutGround { site: site.clone(), facts: self.facts.clone() };
        let (shared, jobs) = (self.shared.clone(), Arc::new(jobs));
        let list = jobs.clone();
        let watcher = self.watcher;
        let mut done = Vec::new();
        self.pool(
            jobs.len(),
            move |job, _| list.get(job).and_then(|job| shared.lay_out(&ground, job)),
            |job, ended| {
                // A page that stays as it is is no step.
                if !matches!(ended, Ended::Done(None)) {
                    watcher.step(sources.get(job).map_or("", String::as_str));
                }
                done.push((job, ended));
            },
        )?;
        for (job, ended) in done {
            let Some(layout) = jobs.get(job) else { continue };
            match ended {
                Ended::Done(None) => {}
                Ended::Done(Some(pages)) => self.note_layout(layout, pages),
                Ended::BrokeOff => self.note_layout(layout, vec![LaidOut::failed(BROKE_OFF)]),
                Ended::TookTooLong => {
                    self.note_layout(layout, vec![LaidOut::failed("laying it out took too long")]);
                }
            }
        }
        // Pages that a stopped run did not come to are still what they were.
        if self.stopped {
            for job in jobs.iter() {
                self.forget_unwritten(job.at);
            }
        }
        Ok(())
    }

    /// A document whose pages may have to be laid out.
    fn layout(&self, at: usize, entry: &Entry) -> Option<Layout> {
        let facts = self.facts.get(&entry.source)?;
        matches!(entry.action, Action::Convert(_)).then_some(())?;
        let is_there = facts.pages.iter().all(|page| self.noted.contains_key(&page.target));
        let may_stay = entry.state == State::Unchanged && is_there;
        Some(Layout { at, may_stay, facts: facts.clone() })
    }

    fn note_layout(&mut self, layout: &Layout, written: Vec<LaidOut>) {
        let Some(outcome) = self.outcomes.get_mut(layout.at) else { return };
        let in_trouble = matches!(outcome.kind, OutcomeKind::Failed | OutcomeKind::InConflict);
        let mut source = SourceRecord::clone(&layout.facts);
        let mut is_right = written.len() == source.pages.len();
        for (number, page) in written.into_iter().enumerate() {
            outcome.findings.extend(page.findings);
            outcome.duration += page.duration;
            match (&page.put, in_trouble) {
                (_, true) => {}
                (Put::Same(_), _) if outcome.kind == OutcomeKind::Converted => {}
                (put, _) => tell(outcome, put, OutcomeKind::Converted),
            }
            match (page.put.hash(), source.pages.get_mut(number)) {
                (Some(hash), Some(known)) => {
                    self.noted.insert(known.target.clone(), hash);
                    known.around = page.around;
                }
                _ => is_right = false,
            }
        }
        outcome.findings.sort_by_key(|finding| (finding.position.is_none(), finding.position));
        let key = self.shared.plan.entries().get(layout.at).map(|entry| entry.source.clone());
        if let Some(key) = key.filter(|_| is_right) {
            self.facts.insert(key, Arc::new(source));
        } else {
            self.forget_unwritten(layout.at);
        }
    }

    /// A document whose page could not be written is as the record has it.
    fn forget_unwritten(&mut self, at: usize) {
        let Some(entry) = self.shared.plan.entries().get(at) else { return };
        let is_written = self.facts.get(&entry.source).is_some_and(|facts| {
            facts
                .pages
                .iter()
                .all(|page| page.around.is_some() && self.noted.contains_key(&page.target))
        });
        if !is_written {
            self.facts.remove(&entry.source);
        }
    }

    /// Pages and files that no source becomes.
    fn make(&mut self, site: &Site) -> Result<(), PublishError> {
        let shared = self.shared.clone();
        let search = shared.search.as_ref();
        let mut search = search.map(|search| search.lock().unwrap_or_else(PoisonError::into_inner));
        let moved = made::moved(&shared.plan, &self.facts);
        let (plan, index) = (&shared.plan, search.as_deref_mut());
        let made = self.options.with_crew(|| made::all(plan, site, index, &moved))?;
        drop(search);
        let made = Arc::new(made);
        let (list, mut done) = (made.clone(), Vec::new());
        self.pool(
            made.len(),
            move |job, _| list.get(job).map(|(target, bytes)| shared.output.put(target, bytes)),
            |job, ended| done.push((job, ended)),
        )?;
        done.sort_by_key(|(job, _)| *job);
        for (job, ended) in done {
            let Some((target, _)) = made.get(job) else { continue };
            let put = match ended {
                Ended::Done(Some(put)) => put,
                _ => Put::Failed("it could not be written in time".into()),
            };
            if let Some(hash) = put.hash() {
                self.noted.insert(target.clone(), hash);
            }
            let mut outcome = Outcome::new("", target);
            tell(&mut outcome, &put, OutcomeKind::Made);
            self.outcomes.push(outcome);
        }
        Ok(())
    }
}

const BROKE_OFF: &str = "the conversion broke off inside Obblet; please report this file";

/// Writes into an outcome what became of a target.
fn tell(outcome: &mut Outcome, put: &Put, kind: OutcomeKind) {
    outcome.kind = match put {
        Put::Written(_) => kind,
        Put::Same(_) => OutcomeKind::Unchanged,
        Put::Conflict => {
            outcome.reason = Some(IN_CONFLICT.into());
            OutcomeKind::InConflict
        }
        Put::Failed(why) => {
            outcome.reason = Some(why.clone());
            OutcomeKind::Failed
        }
    };
}

const IN_CONFLICT: &str = "the target was changed by hand or comes from elsewhere; move it away, or \
                           use --overwrite, which keeps a backup";
