//! Checking a folder: every document by itself, and the links between them.

use crate::inside;
use crate::plan::document_format;
use crate::pool::{self, Ended, PoolOptions};
use crate::resolver::FolderResolver;
use crate::run::Watcher;
use crate::walk::{FoundKind, walk};
use crate::write::folder_of;
use crate::{PlanError, PublishOptions};
use obblet::address::NearAddress;
use obblet::check::{CheckOptions, Checked, NearLink, check};
use obblet::document::CompactString;
use obblet::findings::{Code, Findings};
use obblet::{Additions, Cancel, Format, House, Limits};
use std::collections::{HashMap, HashSet};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use thiserror::Error;

/// A file that was checked.
#[derive(Debug)]
pub struct CheckedFile {
    /// Its path below the folder, with `/` between folders.
    pub file: String,
    /// The format it was read as; none for a folder that cannot be opened.
    pub format: Option<Format>,
    /// What is wrong in it, by place; or why it could not be checked.
    pub findings: Result<Findings, String>,
}

/// Why a folder could not be checked.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum CheckError {
    /// The folder or its settings.
    #[error(transparent)]
    Folder(#[from] PlanError),
    /// No workers could be started.
    #[error("no workers can be started: {0}")]
    Workers(#[from] std::io::Error),
}

/// A file that is to be checked, with what holds for it.
#[derive(Debug, Clone)]
struct Job {
    file: String,
    format: Format,
    house: Arc<House>,
}

/// Checks every document of a folder, in the order of their names. Of the options those count that
/// choose files, and the house, which folders may name for themselves.
///
/// # Errors
/// [`CheckError`] when there is no such folder, the settings in it are wrong, or no worker can be started.
pub fn check_folder(
    folder: &Path,
    options: &PublishOptions,
    watcher: &dyn Watcher,
) -> Result<Vec<CheckedFile>, CheckError> {
    let Jobs { root, jobs, files, unreadable } = jobs_in(folder, options)?;
    watcher.begins(jobs.len());
    let mut checked = check_all(&root, jobs, &files, options, watcher)?;
    checked.extend(unreadable.into_iter().map(|(file, why)| CheckedFile {
        file,
        format: None,
        findings: Err(format!("it cannot be read: {why}")),
    }));
    Ok(checked)
}

/// What is to be checked in a folder.
struct Jobs {
    root: PathBuf,
    jobs: Vec<Job>,
    /// Every file and folder that links may lead to.
    files: HashSet<String>,
    /// What cannot be looked at, and what the system says.
    unreadable: Vec<(String, String)>,
}

fn jobs_in(folder: &Path, options: &PublishOptions) -> Result<Jobs, PlanError> {
    let root = folder
        .canonicalize()
        .ok()
        .filter(|root| root.is_dir())
        .ok_or_else(|| PlanError::NoFolder(folder.to_path_buf()))?;
    let walk = walk(&root, options).map_err(PlanError::Settings)?;
    let mut files: HashSet<String> = HashSet::new();
    let mut jobs = Vec::new();
    let mut unreadable = Vec::new();
    for found in &walk.found {
        match &found.kind {
            FoundKind::File => {}
            FoundKind::LeftOut(_) => continue,
            FoundKind::Unreadable(why) => {
                unreadable.push((found.source.clone(), why.clone()));
                continue;
            }
        }
        files.insert(found.source.clone());
        let format = document_format(&found.source, &options.additions);
        let is_wanted =
            |format: &Format| options.formats.as_ref().is_none_or(|wanted| wanted.contains(format));
        if let Some(format) = format.filter(is_wanted) {
            let house = found.scope.house.clone();
            jobs.push(Job { file: found.source.clone(), format, house });
        }
    }
    files.extend(walk.folders.into_iter().map(|(folder, _)| folder));
    jobs.sort_by(|one, two| one.file.cmp(&two.file));
    Ok(Jobs { root, jobs, files, unreadable })
}

/// The documents of a folder that [`check_folder`] checks, by their names, with the house of each.
///
/// # Errors
/// [`PlanError`] when there is no such folder or the settings in it are wrong.
pub fn documents_of(
    folder: &Path,
    options: &PublishOptions,
) -> Result<Vec<(String, Arc<House>)>, PlanError> {
    Ok(jobs_in(folder, options)?.jobs.into_iter().map(|job| (job.file, job.house)).collect())
}

fn check_all(
    root: &Path,
    jobs: Vec<Job>,
    files: &HashSet<String>,
    options: &PublishOptions,
    watcher: &dyn Watcher,
) -> std::io::Result<Vec<CheckedFile>> {
    let jobs = Arc::new(jobs);
    let mut results: Vec<Option<Result<Checked, String>>> = jobs.iter().map(|_| None).collect();
    let (of_workers, top): (Arc<Vec<Job>>, PathBuf) = (jobs.clone(), root.to_path_buf());
    let additions = options.additions.clone();
    let work = move |index: usize, cancel: &Cancel| match of_workers.get(index) {
        Some(job) => {
            let limits = Limits { cancel: cancel.clone(), ..Limits::default() };
            let checked = limits.run(|| check_one(&top, job, &additions));
            checked.unwrap_or_else(|exceeded| Err(exceeded.to_string()))
        }
        None => Err("there is no such file".to_string()),
    };
    let pool_options = PoolOptions {
        workers: options.workers(),
        patience: options.patience,
        is_stopped: &|| watcher.is_stopped(),
    };
    pool::run(jobs.len(), &pool_options, Arc::new(work), |index, ended| {
        let result = match ended {
            Ended::Done(result) => result,
            Ended::BrokeOff => Err("the check broke off; please report this".to_string()),
            Ended::TookTooLong => Err("it took too long".to_string()),
        };
        if let Some(place) = results.get_mut(index) {
            *place = Some(result);
        }
        watcher.step(jobs.get(index).map_or("", |job| &job.file));
    })?;
    let ids: HashMap<&str, HashSet<CompactString>> = jobs
        .iter()
        .zip(&mut results)
        .filter_map(|(job, result)| {
            let checked = result.as_mut()?.as_mut().ok()?;
            Some((job.file.as_str(), std::mem::take(&mut checked.ids)))
        })
        .collect();
    let mut checked_files = Vec::new();
    for (job, result) in jobs.iter().zip(results) {
        let result = result.unwrap_or_else(|| Err("the check was stopped before it".into()));
        let findings = result.map(|mut checked| {
            let near = std::mem::take(&mut checked.near);
            let exists = |path: &str| files.contains(path);
            let folder = root.join(&job.file);
            let exists_outside = |path: &str| {
                folder.parent().is_some_and(|folder| folder.join(decoded(path)).exists())
            };
            let has = |path: &str, place: &str| ids.get(path).is_none_or(|ids| ids.contains(place));
            let ground = Ground { exists: &exists, exists_outside: &exists_outside, has: &has };
            add_broken(&mut checked, &near, &job.file, &ground);
            checked.findings
        });
        checked_files.push(CheckedFile {
            file: job.file.clone(),
            format: Some(job.format),
            findings,
        });
    }
    Ok(checked_files)
}

fn check_one(root: &Path, job: &Job, additions: &Additions) -> Result<Checked, String> {
    let path = root.join(&job.file);
    let source = inside::read(root, Path::new(&job.file))
        .map_err(|error| format!("it cannot be read: {error}"))?;
    let resolver = FolderResolver::new(root, path.parent().unwrap_or(root));
    let options = CheckOptions { house: House::clone(&job.house), additions: additions.clone() };
    check(&source, job.format, &options, &resolver).map_err(|error| error.to_string())
}

/// Checks one file. What its links lead to is looked for beside it; of documents that it links to,
/// also the places.
///
/// # Errors
/// What the system or the reader says when the file cannot be read.
pub fn check_file(
    path: &Path,
    source: &[u8],
    format: Format,
    house: &House,
) -> Result<Findings, String> {
    let folder = folder_of(path);
    let resolver = FolderResolver::new(folder, folder);
    let options = CheckOptions { house: house.clone(), ..CheckOptions::default() };
    let mut checked =
        check(source, format, &options, &resolver).map_err(|error| error.to_string())?;
    let near = std::mem::take(&mut checked.near);
    // Beside standard input there is nothing.
    if path != Path::new("-") {
        add_broken_beside(&mut checked, &near, folder);
    }
    Ok(checked.findings)
}

fn add_broken_beside(checked: &mut Checked, near: &[NearLink], folder: &Path) {
    let mut known: HashMap<PathBuf, Option<HashSet<CompactString>>> = HashMap::new();
    let fault = |link: &NearLink| -> Option<Code> {
        let parts = NearAddress::of(&link.address)?;
        let path = folder.join(decoded(parts.path));
        if !path.exists() {
            return Some(code_of(link));
        }
        let place = parts.place().filter(|place| !place.is_empty())?;
        let ids = known.entry(path.clone()).or_insert_with(|| ids_in(&path));
        ids.as_ref().is_some_and(|ids| !ids.contains(place.as_str())).then_some(Code::AnchorBroken)
    };
    add_faults(checked, near, fault);
}

fn add_faults(
    checked: &mut Checked,
    near: &[NearLink],
    mut fault: impl FnMut(&NearLink) -> Option<Code>,
) {
    checked.add_about(near.iter().filter_map(|link| Some((fault(link)?, link))));
}

fn ids_in(path: &Path) -> Option<HashSet<CompactString>> {
    let format = Format::of_file_name(&path.to_string_lossy())?;
    let source = std::fs::read(path).ok()?;
    let checked = check(&source, format, &CheckOptions::default(), &()).ok()?;
    Some(checked.ids)
}

/// What is known of the files that links lead to.
struct Ground<'g> {
    /// Whether a path is in the folder.
    exists: &'g dyn Fn(&str) -> bool,
    /// Whether there is a file at an address that leads out of the folder.
    exists_outside: &'g dyn Fn(&str) -> bool,
    /// Whether a file has a place; of what is no document that is not known.
    has: &'g dyn Fn(&str, &str) -> bool,
}

/// Adds the links that lead nowhere.
fn add_broken(checked: &mut Checked, near: &[NearLink], file: &str, ground: &Ground<'_>) {
    add_faults(checked, near, |link| {
        let parts = NearAddress::of(&link.address)?;
        let Some(target) = parts.from(file) else {
            return (!(ground.exists_outside)(parts.path)).then(|| code_of(link));
        };
        if !(ground.exists)(&target) {
            return Some(code_of(link));
        }
        let place = parts.place().filter(|place| !place.is_empty())?;
        (!(ground.has)(&target, &place)).then_some(Code::AnchorBroken)
    });
}

fn code_of(link: &NearLink) -> Code {
    if link.is_picture { Code::PictureFileMissing } else { Code::LinkBroken }
}

fn decoded(path: &str) -> String {
    percent_encoding::percent_decode_str(path).decode_utf8_lossy().into_owned()
}
