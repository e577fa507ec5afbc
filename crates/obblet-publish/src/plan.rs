//! The plan: what would become of every file of a folder, and why.

use crate::entry::{Action, Entry, State};
use crate::error::PlanError;
use crate::fingerprint::Fingerprint;
use crate::journal::LeftBehind;
use crate::record::Record;
use crate::scope::{Scope, Split};
use crate::titles::title_of_name;
use crate::walk::{FoundKind, walk};
use crate::{PublishOptions, inside, targets};
use obblet::address::joined;
use obblet::formats::org;
use obblet::house::{Extent, StylePlacement};
use obblet::page::style_sheet;
use obblet::{Additions, Format, House};
use rayon::prelude::*;
use std::cell::RefCell;
use std::collections::{HashMap, HashSet};
use std::ffi::OsString;
use std::io::Read as _;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::{fs, io};

/// What would become of every file of a folder.
#[derive(Debug, Clone)]
pub struct Plan {
    pub(crate) source: PathBuf,
    pub(crate) output: PathBuf,
    pub(crate) title: String,
    /// The format of all targets.
    pub(crate) format: Format,
    pub(crate) entries: Vec<Entry>,
    pub(crate) by_source: HashMap<String, usize>,
    /// Every folder that is published, with its settings; the top one first.
    pub(crate) folders: Vec<(String, Arc<Scope>)>,
    pub(crate) top: Arc<Scope>,
    /// The style sheet of each house that keeps it in a file: its target and its text.
    pub(crate) style_sheets: HashMap<Fingerprint, (String, String)>,
    pub(crate) before: Arc<Record>,
    /// What the program adds, and the fingerprint of it.
    pub(crate) additions: Additions,
    pub(crate) added: Fingerprint,
    splits: bool,
    /// What links to sources and folders lead to: folders that have an index.
    indexes: HashMap<String, String>,
    /// All targets of sources.
    targets: HashSet<String>,
    /// Sources that are gone, by their content.
    pub(crate) gone: HashMap<Fingerprint, Vec<String>>,
    pub(crate) left_behind: LeftBehind,
}

impl Plan {
    /// Looks at a folder, and at what an earlier run has made of it. Writes nothing.
    ///
    /// # Errors
    /// [`PlanError`] when the source is no readable folder, the output is a file or one lies inside
    /// the other, or a folder's settings are wrong.
    pub fn of(source: &Path, output: &Path, options: &PublishOptions) -> Result<Self, PlanError> {
        let (root, output) = checked_folders(source, output)?;
        options.with_crew(|| {
            let (plan, (before, left)) = rayon::join(
                || Self::of_sources(&root, options),
                || (Record::load(&output), LeftBehind::of(&output)),
            );
            let mut plan = plan?;
            plan.before = Arc::new(before);
            plan.left_behind = left;
            plan.output = output;
            plan.compare_with_record(options);
            plan.index_sources();
            Ok(plan)
        })
    }

    /// Whether the pages of a folder have anything around them: whole pages of HTML do.
    pub(crate) fn has_surroundings(&self, folder: &str) -> bool {
        let house = self.scope(folder).map_or(&self.top().house, |scope| &scope.house);
        self.format == Format::Html && house.page.extent == Extent::Page
    }

    /// The same without an output folder: what is there, and what it would be called.
    pub(crate) fn of_sources(root: &Path, options: &PublishOptions) -> Result<Self, PlanError> {
        let walk = walk(root, options)?;
        let format = options.house.page.format;
        let mut folders = walk.folders;
        folders.sort_by(|one, two| one.0.cmp(&two.0));
        // The top folder is always there: it was walked.
        let outer = || Arc::new(Scope::outer(options));
        let top = folders.first().map_or_else(outer, |(_, scope)| scope.clone());
        let title = options.title.clone().or_else(|| top.title.clone());
        let mut entries: Vec<Entry> =
            walk.found.into_iter().map(|found| entry(found, format, options)).collect();
        entries.sort_by(|one, two| one.source.cmp(&two.source));
        entries.par_iter_mut().for_each(|entry| look_at(entry, root));
        targets::choose(&mut entries, format);
        let mut plan = Self {
            title: title.unwrap_or_else(|| folder_title(root)),
            source: root.to_path_buf(),
            output: PathBuf::new(),
            top,
            format,
            by_source: HashMap::new(),
            entries,
            folders,
            style_sheets: HashMap::new(),
            before: Arc::default(),
            additions: options.additions.clone(),
            added: Fingerprint::of(format!("{:?}", options.additions).as_bytes()),
            splits: true,
            indexes: HashMap::new(),
            targets: HashSet::new(),
            gone: HashMap::new(),
            left_behind: LeftBehind::default(),
        };
        plan.index_sources();
        plan.find_indexes();
        plan.name_style_sheets();
        Ok(plan)
    }

    /// The paths of all files that the folder is published from.
    pub fn sources(&self) -> impl Iterator<Item = PathBuf> {
        self.entries.iter().map(|entry| self.source.join(&entry.source))
    }

    /// The files, sorted by source path.
    #[must_use]
    pub fn entries(&self) -> &[Entry] {
        &self.entries
    }

    /// The output folder.
    #[must_use]
    pub fn output(&self) -> &Path {
        &self.output
    }

    /// How many files are in a state.
    #[must_use]
    pub fn count(&self, state: State) -> usize {
        self.entries.iter().filter(|entry| entry.state == state).count()
    }

    fn index_sources(&mut self) {
        let sources = self.entries.iter().enumerate();
        self.by_source = sources.map(|(index, entry)| (entry.source.clone(), index)).collect();
    }

    /// The entry of a source path.
    pub(crate) fn entry(&self, source: &str) -> Option<&Entry> {
        self.entries.get(*self.by_source.get(source)?)
    }

    /// What holds for a folder.
    pub(crate) fn scope(&self, folder: &str) -> Option<&Arc<Scope>> {
        let at = self.folders.binary_search_by(|(path, _)| path.as_str().cmp(folder)).ok()?;
        self.folders.get(at).map(|(_, scope)| scope)
    }

    /// What holds for the whole.
    pub(crate) fn top(&self) -> &Scope {
        &self.top
    }

    /// The language of pages that no source becomes.
    pub(crate) fn language(&self) -> &str {
        let stated = self.top.web.language.as_deref();
        stated.unwrap_or(&self.top.house.page.language)
    }

    /// What the names of pages end with in the top folder, the period too.
    pub(crate) fn page_ending(&self) -> String {
        targets::ending(&self.top.house, self.format)
    }

    /// The target that stands for a source path: of a file that is published, or of a folder's index.
    pub(crate) fn target_of(&self, path: &str) -> Option<&str> {
        let Some(entry) = self.entry(path) else {
            return self.indexes.get(path).map(String::as_str);
        };
        let is_published = matches!(entry.action, Action::Convert(_) | Action::Copy);
        is_published.then_some(entry.target.as_str())
    }

    /// The target of a folder's index, whether that is made or is the page of a source.
    pub(crate) fn index_of(&self, folder: &str) -> String {
        let house = self.scope(folder).map_or(&self.top.house, |scope| &scope.house);
        joined(folder, &format!("index{}", targets::ending(house, self.format)))
    }

    /// Whether a source becomes this target.
    pub(crate) fn is_target(&self, target: &str) -> bool {
        self.targets.contains(target)
    }

    /// The targets of files that are copied.
    pub(crate) fn copies(&self) -> impl Iterator<Item = &str> {
        let copied = self.entries.iter().filter(|entry| entry.action == Action::Copy);
        copied.map(|entry| entry.target.as_str())
    }

    /// The file that holds the style sheet of an entry's page, when there is one.
    pub(crate) fn style_sheet_of(&self, entry: &Entry) -> Option<&str> {
        self.style_sheets.get(&entry.scope.house_print).map(|(target, _)| target.as_str())
    }

    /// The fingerprint of all that pages that no source becomes depend on beside the sources, and of
    /// which sources there are.
    pub(crate) fn site_print(&self) -> Fingerprint {
        let mut text = Vec::new();
        let mut part = |part: &str| {
            text.extend_from_slice(part.as_bytes());
            text.push(0);
        };
        part(env!("CARGO_PKG_VERSION"));
        part(self.format.name());
        part(&self.title);
        for (path, scope) in &self.folders {
            part(path);
            part(&scope.listing());
        }
        for entry in &self.entries {
            if matches!(entry.action, Action::Convert(_) | Action::Copy) {
                part(&entry.source);
            }
        }
        Fingerprint::of(&text)
    }

    /// Every folder with a page in it, or below it, gets an index that links to it lead to.
    fn find_indexes(&mut self) {
        let published = |entry: &&Entry| matches!(entry.action, Action::Convert(_) | Action::Copy);
        self.targets =
            self.entries.iter().filter(published).map(|entry| entry.target.clone()).collect();
        if self.format != Format::Html {
            return;
        }
        let mut indexes = HashMap::new();
        for entry in self.entries.iter().filter(|entry| matches!(entry.action, Action::Convert(_)))
        {
            let mut path = entry.source.as_str();
            while let Some((folder, _)) = path.rsplit_once('/') {
                if indexes.contains_key(folder) {
                    break;
                }
                if self.has_surroundings(folder) {
                    indexes.insert(folder.to_string(), self.index_of(folder));
                }
                path = folder;
            }
        }
        indexes.insert(String::new(), self.index_of(""));
        self.indexes = indexes;
    }

    /// Where a document becomes several pages.
    pub(crate) fn split_of(&self, entry: &Entry) -> Split {
        let splits = self.splits && self.format == Format::Html;
        if splits { entry.scope.split } else { Split::Never }
    }

    /// Whether the document of a source may become several pages.
    pub(crate) fn is_split(&self, source: &str) -> bool {
        self.entry(source).is_some_and(|entry| self.split_of(entry) != Split::Never)
    }

    /// The same plan with each document on one page.
    pub(crate) fn without_splitting(self) -> Self {
        Self { splits: false, ..self }
    }

    /// The name of a file in the output folder that no source becomes.
    pub(crate) fn free_name(&self, stem: &str, ending: &str) -> String {
        let is_taken = |name: &String| {
            self.entries.iter().any(|entry| entry.target.eq_ignore_ascii_case(name))
                || self.style_sheets.values().any(|(target, _)| target == name)
        };
        let mut name = format!("{stem}{ending}");
        let mut number = 2;
        while is_taken(&name) {
            name = format!("{stem}-{number}{ending}");
            number += 1;
        }
        name
    }

    /// One file for each house that has its style sheet beside its pages, in the order of folders.
    fn name_style_sheets(&mut self) {
        let houses: Vec<(Fingerprint, Arc<House>)> = self
            .folders
            .iter()
            .map(|(_, scope)| (scope.house_print, scope.house.clone()))
            .filter(|(_, house)| house.page.style_placement == StylePlacement::Linked)
            .collect();
        for (print, house) in houses.into_iter().filter(|_| self.format == Format::Html) {
            if self.style_sheets.contains_key(&print) {
                continue;
            }
            // A sheet that cannot be read is each page's failure.
            let sheet = style_sheet(&house).unwrap_or_default();
            let same = self.style_sheets.values().find(|(_, text)| *text == sheet);
            let name = match same {
                _ if sheet.is_empty() => continue,
                Some((name, _)) => name.clone(),
                None => self.free_name("style", ".css"),
            };
            self.style_sheets.insert(print, (name, sheet));
        }
    }
}

/// The folders as they really are, when one can be published to the other.
fn checked_folders(source: &Path, output: &Path) -> Result<(PathBuf, PathBuf), PlanError> {
    let failed = |error| PlanError::Source { folder: source.to_path_buf(), error };
    let root = source.canonicalize().map_err(failed)?;
    if !root.is_dir() {
        return Err(PlanError::NoFolder(source.to_path_buf()));
    }
    fs::read_dir(&root).map_err(failed)?;
    let output_path = resolved(output);
    let (output, source_folder) = (output.to_path_buf(), source.to_path_buf());
    if output_path.starts_with(&root) {
        return Err(PlanError::OutputInside { output, source_folder });
    }
    if output_path.is_file() {
        return Err(PlanError::OutputIsFile(output));
    }
    if root.starts_with(&output_path) {
        return Err(PlanError::SourceInside { output, source_folder });
    }
    Ok((root, output_path))
}

fn entry(found: crate::walk::Found, format: Format, options: &PublishOptions) -> Entry {
    let mut entry = Entry {
        action: action(&found.source, format, options),
        source: found.source,
        target: String::new(),
        state: State::New,
        why: String::new(),
        notes: Vec::new(),
        unreadable: None,
        hash: None,
        stated: None,
        scope: found.scope,
    };
    match found.kind {
        FoundKind::File => {}
        FoundKind::LeftOut(why) => {
            (entry.action, entry.state, entry.why) = (Action::LeaveOut, State::Excluded, why);
        }
        FoundKind::Unreadable(why) => {
            (entry.action, entry.state) = (Action::LeaveOut, State::Excluded);
            entry.why = format!("it cannot be read: {why}");
            entry.unreadable = Some(why);
        }
    }
    if entry.action == Action::LeaveOut && entry.why.is_empty() {
        (entry.state, entry.why) = (State::Excluded, "its format is not asked for".into());
    }
    entry
}

/// Plain texts that programs look for by their names.
const FOR_PROGRAMS: [&str; 6] =
    ["robots.txt", "humans.txt", "security.txt", "ads.txt", "app-ads.txt", "license.txt"];

/// The format of a document by its name; none of what is for programs alone.
pub(crate) fn document_format(source: &str, additions: &Additions) -> Option<Format> {
    let name = source.rsplit('/').next().unwrap_or(source).to_ascii_lowercase();
    additions.format_of_file_name(source).filter(|_| !FOR_PROGRAMS.contains(&name.as_str()))
}

/// What becomes of a file by its name: HTML is what a web folder is made of, unless one asks for other
/// things.
fn action(source: &str, target: Format, options: &PublishOptions) -> Action {
    let Some(format) = document_format(source, &options.additions) else { return Action::Copy };
    if let Some(wanted) = &options.formats {
        return match wanted.contains(&format) {
            true => Action::Convert(format),
            false if format != target => Action::LeaveOut,
            false => Action::Copy,
        };
    }
    match format {
        // A page saved as one file is for no browser to read as it is.
        Format::Html if is_saved_page(source) => Action::Convert(Format::Html),
        format if format == target => Action::Copy,
        format => Action::Convert(format),
    }
}

fn is_saved_page(source: &str) -> bool {
    let ending = source.rsplit_once('.').map_or("", |(_, ending)| ending);
    ["mht", "mhtml"].iter().any(|saved| ending.eq_ignore_ascii_case(saved))
}

/// Takes the fingerprint of a file that is published.
fn look_at(entry: &mut Entry, root: &Path) {
    if entry.action == Action::LeaveOut {
        return;
    }
    // What cannot be read fails when its turn comes, with what the system says then.
    let path = Path::new(&entry.source);
    if entry.action == Action::Convert(Format::Org) {
        let bytes = inside::read(root, path).ok();
        entry.hash = bytes.as_deref().map(Fingerprint::of);
        entry.stated = bytes.and_then(|bytes| org::output_name(&bytes));
    } else {
        entry.hash = hash_of_file(&root.join(path)).ok();
    }
}

pub(crate) fn hash_of_file(path: &Path) -> io::Result<Fingerprint> {
    thread_local! {
        // One buffer a thread: thousands of small files would each ask for memory of their own.
        static BUFFER: RefCell<Vec<u8>> = const { RefCell::new(Vec::new()) };
    }
    BUFFER.with_borrow_mut(|buffer| {
        buffer.clear();
        fs::File::open(path)?.read_to_end(buffer)?;
        let hash = Fingerprint::of(buffer);
        // A film among the files is no reason to hold its size for ever.
        buffer.shrink_to(MOST_KEPT);
        Ok(hash)
    })
}

/// The most bytes that a thread keeps for reading files.
const MOST_KEPT: usize = 1 << 20;

/// A path with links resolved as far as it exists, and the rest behind it.
fn resolved(path: &Path) -> PathBuf {
    let absolute = std::path::absolute(path).unwrap_or_else(|_| path.to_path_buf());
    let mut existing = absolute.as_path();
    let mut rest: Vec<OsString> = Vec::new();
    loop {
        if let Ok(found) = existing.canonicalize() {
            return rest.iter().rev().fold(found, |path, name| path.join(name));
        }
        let (Some(parent), Some(name)) = (existing.parent(), existing.file_name()) else {
            return absolute;
        };
        rest.push(name.to_os_string());
        existing = parent;
    }
}

fn folder_title(folder: &Path) -> String {
    title_of_name(&folder.file_name().unwrap_or_default().to_string_lossy())
}
