//! The documents of a preview, in every house that one looks at them in.

use crate::convert::{Content, convert, write_options};
use crate::entry::{Action, Entry};
use crate::error::PlanError;
use crate::houses::house_inside;
use crate::late::LateAddresses;
use crate::plan::Plan;
use crate::record::SourceRecord;
use crate::watch::Changes;
use crate::{PublishOptions, inside};
use obblet::document::Media;
use obblet::findings::Finding;
use obblet::house::{BUILT_IN, LimitSettings};
use obblet::{Additions, Converter, Draft, Format, House, ReadOptions, WriteOptions, write};
use serde::Serialize;
use std::collections::{BTreeMap, HashMap};
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

/// What the house is called that the preview was opened with.
pub(super) const OWN: &str = "own";

/// The most pages that are kept in memory.
const KEPT: usize = 24;

/// The documents of a preview.
pub(super) struct Desk {
    root: PathBuf,
    /// The one document that is looked at, where it is one.
    only: Option<String>,
    options: PublishOptions,
    pub(super) changes: Changes,
    state: Mutex<State>,
}

/// What holds until something changes.
#[derive(Default)]
struct State {
    seen: u64,
    plans: HashMap<String, Arc<Plan>>,
    pages: HashMap<(String, String), Arc<Shown>>,
}

/// A document as one house shows it.
pub(super) struct Shown {
    pub(super) bytes: Vec<u8>,
    pub(super) media_type: &'static str,
    media: Vec<(String, Media)>,
    pub(super) facts: Facts,
}

/// What is said about a document beside its page.
#[derive(Serialize)]
pub(super) struct Facts {
    title: String,
    source: String,
    target: String,
    findings: Vec<FindingLine>,
    /// The written target, when it is text.
    written: String,
    /// The source, when it is text.
    text: String,
    /// The document as plain text.
    plain: String,
    /// How long it is, as the house counts, and how long it may be; 0 for any length.
    length: u64,
    most: u32,
}

#[derive(Serialize)]
struct FindingLine {
    kind: String,
    message: String,
    code: String,
    line: u32,
    column: u32,
    file: Option<String>,
}

/// A document that can be chosen.
#[derive(Serialize)]
pub(super) struct Choice {
    pub(super) source: String,
    pub(super) target: String,
}

impl Desk {
    pub(super) fn of(
        root: PathBuf,
        only: Option<String>,
        options: PublishOptions,
        changes: Changes,
    ) -> Result<Self, PlanError> {
        let desk = Self { root, only, options, changes, state: Mutex::default() };
        // What is wrong with the folder is told before a browser is opened.
        desk.plan(OWN).map(|_| desk)
    }

    /// The houses to choose from.
    pub(super) fn houses(&self) -> Vec<String> {
        let built_in = BUILT_IN.iter().map(|(name, _, _)| (*name).to_string());
        let files = std::fs::read_dir(&self.root).into_iter().flatten().flatten();
        let mut own: Vec<String> = files
            .filter_map(|file| file.file_name().into_string().ok())
            .filter(|name| name.ends_with(".toml") && name != crate::FOLDER_FILE)
            .filter(|name| self.house_in_folder(name).is_some())
            .collect();
        own.sort();
        std::iter::once(OWN.to_string()).chain(built_in).chain(own).collect()
    }

    /// The documents to choose from.
    pub(super) fn choices(&self, house: &str) -> Result<Vec<Choice>, PlanError> {
        let plan = self.plan(house)?;
        let documents = plan.entries().iter().filter(|entry| self.is_shown(entry));
        Ok(documents
            .map(|entry| Choice { source: entry.source.clone(), target: entry.target.clone() })
            .collect())
    }

    fn is_shown(&self, entry: &Entry) -> bool {
        let is_page = matches!(entry.action, Action::Convert(_));
        is_page && self.only.as_ref().is_none_or(|only| *only == entry.source)
    }

    /// Forgets everything when something has changed.
    fn state(&self) -> std::sync::MutexGuard<'_, State> {
        let mut state = self.state.lock().unwrap_or_else(PoisonError::into_inner);
        let now = self.changes.count();
        if state.seen != now {
            *state = State { seen: now, ..State::default() };
        }
        state
    }

    fn plan(&self, house: &str) -> Result<Arc<Plan>, PlanError> {
        if let Some(plan) = self.state().plans.get(house) {
            return Ok(plan.clone());
        }
        let mut options = self.options.clone();
        if let Some(chosen) = self.house(house) {
            options.house = chosen;
            options.follow_folder_houses = false;
        }
        // A single document may be of the format that a folder's would only be copied in.
        if self.only.is_some() {
            options.formats = Some(Format::ALL.to_vec());
        }
        // One document is one page here: all of it is looked at.
        let plan = Arc::new(Plan::of_sources(&self.root, &options)?.without_splitting());
        self.state().plans.insert(house.into(), plan.clone());
        Ok(plan)
    }

    /// A house by its name, or one that stands in the folder and asks for no trust.
    fn house_in_folder(&self, name: &str) -> Option<House> {
        let house = house_inside(name, &self.root, Path::new("")).ok()?;
        let trusts = self.options.house.safety.trust_sources;
        (trusts || !house.safety.trust_sources).then_some(house)
    }

    /// The house of this name; none for the one that the preview was opened with.
    fn house(&self, name: &str) -> Option<House> {
        (name != OWN).then(|| self.house_in_folder(name)).flatten()
    }

    /// The document at a target, in a house.
    pub(super) fn shown(&self, house: &str, target: &str) -> Result<Arc<Shown>, String> {
        let key = (house.to_string(), target.to_string());
        if let Some(shown) = self.state().pages.get(&key) {
            return Ok(shown.clone());
        }
        let plan = self.plan(house).map_err(|error| error.to_string())?;
        let entry = plan
            .entries()
            .iter()
            .find(|entry| entry.target == target && matches!(entry.action, Action::Convert(_)));
        let entry = entry.ok_or_else(|| format!("there is no document for {target}"))?;
        let shown = Arc::new(show(&plan, entry)?);
        let mut state = self.state();
        if state.pages.len() >= KEPT {
            state.pages.clear();
        }
        state.pages.insert(key, shown.clone());
        Ok(shown)
    }

    /// A file that pages show: a picture that a document carries, or one of the folder.
    pub(super) fn file(&self, house: &str, target: &str) -> Option<Vec<u8>> {
        for shown in self.state().pages.values() {
            if let Some((_, media)) = shown.media.iter().find(|(place, _)| place == target) {
                return Some(media.bytes.to_vec());
            }
        }
        let plan = self.plan(house).ok()?;
        let copied = plan
            .entries()
            .iter()
            .find(|entry| entry.target == target && entry.action == Action::Copy);
        if let Some(entry) = copied {
            return inside::read(&self.root, Path::new(&entry.source)).ok();
        }
        plan.style_sheets
            .values()
            .find(|(sheet, _)| sheet == target)
            .map(|(_, text)| text.clone().into_bytes())
    }
}

/// Converts a document and says all there is to say about it.
fn show(plan: &Plan, entry: &Entry) -> Result<Shown, String> {
    let bytes = inside::read(&plan.source, Path::new(&entry.source))
        .map_err(|error| format!("it cannot be read: {error}"))?;
    let converted = convert(&bytes, entry, plan).map_err(|error| error.to_string())?;
    let known = converted.facts;
    let mut findings = converted.findings;
    let (written, media_type) = match converted.content {
        Content::Bytes(bytes) => (bytes, "text/plain; charset=utf-8"),
        Content::Drafts(drafts) => {
            let page = laid_out(plan, entry, drafts, &known, &mut findings)?;
            (page, "text/html; charset=utf-8")
        }
    };
    let media = converted.media.iter().zip(&known.pictures);
    let media = media.map(|(media, picture)| (picture.target.clone(), media.clone())).collect();
    let text = String::from_utf8_lossy(&written).into_owned();
    let limits: &LimitSettings = &entry.house().limits;
    let title = known.pages.first().and_then(|page| page.title.clone());
    let facts = Facts {
        title: title.unwrap_or_else(|| entry.source.clone()),
        source: entry.source.clone(),
        target: entry.target.clone(),
        findings: findings.iter().map(line).collect(),
        text: source_text(&bytes, entry),
        plain: plain(&bytes, entry, &plan.additions).unwrap_or_default(),
        length: limits.length(&text),
        most: limits.characters,
        written: text,
    };
    Ok(Shown { bytes: written, media_type, media, facts })
}

/// The page of a document, without the pages around.
fn laid_out(
    plan: &Plan,
    entry: &Entry,
    drafts: Vec<Draft>,
    known: &SourceRecord,
    findings: &mut Vec<Finding>,
) -> Result<Vec<u8>, String> {
    let late = LateAddresses::of(plan, &entry.source, known, &BTreeMap::new());
    let mut options = write_options(entry, plan);
    options.style_sheet_address =
        plan.style_sheet_of(entry).map(|sheet| obblet::address::relative(&entry.target, sheet));
    let mut draft = drafts.into_iter().next().ok_or("the document has become no page")?;
    if let Some(html) = late.settle(draft.html(), &entry.target) {
        draft.replace_html(html);
    }
    let written = draft.lay_out(&options).map_err(|error| error.to_string())?;
    findings.extend(written.findings.into_vec());
    Ok(written.bytes)
}

fn line(finding: &Finding) -> FindingLine {
    FindingLine {
        kind: finding.kind().to_string(),
        message: finding.message(),
        code: finding.code.to_string(),
        line: finding.position.map_or(0, |position| position.line),
        column: finding.position.map_or(0, |position| position.column),
        file: finding.file.as_ref().map(ToString::to_string),
    }
}

/// The source, where it is text.
fn source_text(bytes: &[u8], entry: &Entry) -> String {
    match entry.action {
        Action::Convert(Format::Word) => String::new(),
        _ => String::from_utf8_lossy(bytes).into_owned(),
    }
}

/// The document as plain text.
fn plain(bytes: &[u8], entry: &Entry, additions: &Additions) -> Option<String> {
    let Action::Convert(format) = entry.action else { return None };
    let read = ReadOptions::default().with_nodes_for_html();
    let converter = Converter::default().from(format).additions(additions.clone());
    let reading = converter.read_as_it_is(bytes, &read).ok()?;
    let written = write(&reading.document, &WriteOptions::format(Format::Text)).ok()?;
    Some(written.text().to_string())
}
