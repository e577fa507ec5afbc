//! The plan: what would become of every file of a folder.

use crate::PublishOptions;
use crate::links::{joined, normalised};
use ignore::WalkBuilder;
use obblet::Format;
use obblet::formats::html::Syntax;
use obblet::formats::org;
use obblet::house::StylePlacement;
use obblet::page::style_sheet;
use std::collections::{HashMap, HashSet};
use std::ffi::OsString;
use std::path::{Path, PathBuf};
use std::{fs, io};
use thiserror::Error;

/// Why a folder cannot be planned at all.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum PlanError {
    /// The source folder is not there or cannot be listed.
    #[error("the folder {} cannot be read: {error}", folder.display())]
    Source {
        /// The folder.
        folder: PathBuf,
        /// What the system says.
        error: io::Error,
    },
    /// The source is a file.
    #[error("{} is no folder; to convert one document, use “obblet convert”", .0.display())]
    NoFolder(PathBuf),
    /// The output would be published again with the sources.
    #[error(
        "the output folder {} lies inside the source folder {}; choose a folder outside it",
        output.display(), source_folder.display()
    )]
    OutputInside {
        /// The output folder.
        output: PathBuf,
        /// The source folder.
        source_folder: PathBuf,
    },
    /// The output is a file.
    #[error("the output {} is a file, not a folder", .0.display())]
    OutputIsFile(PathBuf),
}

/// What is to be done with one file.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Action {
    /// Read as this format and written as a page.
    Convert(Format),
    /// Copied as it is.
    Copy,
    /// A symbolic link; not followed.
    SkipLink,
}

/// One file of the plan. Paths have `/` between folders.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Entry {
    /// The path below the source folder.
    pub source: String,
    /// The path below the output folder.
    pub target: String,
    /// What is to be done.
    pub action: Action,
    /// The target does not have the name one would expect, because another source has it.
    pub renamed: bool,
}

/// What would become of every file of a folder.
#[derive(Debug, Clone)]
pub struct Plan {
    pub(crate) source: PathBuf,
    pub(crate) output: PathBuf,
    pub(crate) title: String,
    entries: Vec<Entry>,
    /// Paths that could not be looked at, with the reason.
    pub(crate) unreadable: Vec<(String, String)>,
    by_source: HashMap<String, usize>,
    /// What the names of pages end with, the period too.
    page_ending: &'static str,
    /// The page that leads to all others.
    pub(crate) index: String,
    /// The file of the pages' common style sheet, when they have one.
    pub(crate) style_sheet: Option<String>,
}

impl Plan {
    /// Looks at a folder. Writes nothing.
    ///
    /// Hidden files and folders (with a dot first) are left out; symbolic links are not followed.
    ///
    /// # Errors
    /// [`PlanError`] when the source is no readable folder, or the output is a file or lies inside
    /// the source.
    pub fn of(source: &Path, output: &Path, options: &PublishOptions) -> Result<Self, PlanError> {
        let failed = |error| PlanError::Source { folder: source.to_path_buf(), error };
        let root = source.canonicalize().map_err(failed)?;
        if !root.is_dir() {
            return Err(PlanError::NoFolder(source.to_path_buf()));
        }
        std::fs::read_dir(&root).map_err(failed)?;
        let output_path = resolved(output);
        if output_path.starts_with(&root) {
            let (output, source_folder) = (output.to_path_buf(), source.to_path_buf());
            return Err(PlanError::OutputInside { output, source_folder });
        }
        if output_path.is_file() {
            return Err(PlanError::OutputIsFile(output.to_path_buf()));
        }
        let title = options.title.clone().unwrap_or_else(|| folder_title(&root));
        let mut plan = Self {
            source: root,
            output: output_path,
            title,
            entries: Vec::new(),
            unreadable: Vec::new(),
            by_source: HashMap::new(),
            page_ending: match options.house.page.syntax {
                Syntax::Html => ".html",
                Syntax::Xhtml => ".xhtml",
            },
            index: String::new(),
            style_sheet: None,
        };
        plan.index = format!("index{}", plan.page_ending);
        plan.walk();
        plan.choose_targets();
        // A sheet that cannot be read is each page's failure.
        let has_sheet = style_sheet(&options.house).is_ok_and(|sheet| !sheet.is_empty());
        if has_sheet && options.house.page.style_placement == StylePlacement::Linked {
            plan.style_sheet = Some(plan.free_name("style", ".css"));
        }
        Ok(plan)
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

    /// The entry of a source path.
    pub(crate) fn entry(&self, source: &str) -> Option<&Entry> {
        self.entries.get(*self.by_source.get(source)?)
    }

    /// Whether the folder has an index page of its own.
    pub(crate) fn has_own_index(&self) -> bool {
        self.entries.iter().any(|entry| entry.target == self.index)
    }

    /// The name of a file in the output folder that no source becomes.
    fn free_name(&self, stem: &str, ending: &str) -> String {
        let is_taken = |name: &String| {
            self.entries.iter().any(|entry| entry.target.eq_ignore_ascii_case(name))
        };
        let mut name = format!("{stem}{ending}");
        let mut number = 2;
        while is_taken(&name) {
            name = format!("{stem}-{number}{ending}");
            number += 1;
        }
        name
    }

    fn walk(&mut self) {
        let walker = WalkBuilder::new(&self.source)
            .standard_filters(false)
            .hidden(true)
            .follow_links(false)
            .build();
        for found in walker {
            match found {
                Ok(found) => {
                    let kind = found.file_type();
                    let is_link = kind.is_some_and(|kind| kind.is_symlink());
                    if !is_link && !kind.is_some_and(|kind| kind.is_file()) {
                        continue;
                    }
                    if let Some(source) = relative(&self.source, found.path()) {
                        let action = if is_link { Action::SkipLink } else { action(&source) };
                        let target = String::new();
                        self.entries.push(Entry { source, target, action, renamed: false });
                    }
                }
                Err(error) => {
                    let why =
                        error.io_error().map_or_else(|| error.to_string(), io::Error::to_string);
                    let path = failed_path(&error);
                    let path = path.and_then(|path| relative(&self.source, path));
                    self.unreadable.push((path.unwrap_or_else(|| "?".into()), why));
                }
            }
        }
        self.entries.sort_by(|one, two| one.source.cmp(&two.source));
    }

    /// Gives every file its target. Where two would get the same one, copies come first, since
    /// nobody rewrites the links to them; a page that comes too late keeps its whole source name:
    /// `guide.docx.html`.
    fn choose_targets(&mut self) {
        let mut taken = HashSet::new();
        let ending = self.page_ending;
        let is_page = |entry: &Entry| matches!(entry.action, Action::Convert(_));
        for pages in [false, true] {
            for entry in self.entries.iter_mut().filter(|entry| is_page(entry) == pages) {
                entry.target = match entry.action {
                    Action::Convert(format) => {
                        let stated = output_name(&self.source.join(&entry.source), format);
                        page_name(&entry.source, stated.as_deref(), ending)
                    }
                    _ => entry.source.clone(),
                };
                // Some file systems cannot tell names apart that differ by case only.
                if !taken.insert(entry.target.to_lowercase()) && pages {
                    entry.renamed = true;
                    entry.target = format!("{}{ending}", entry.source);
                    while !taken.insert(entry.target.to_lowercase()) {
                        entry.target.insert(entry.target.len() - ending.len(), '_');
                    }
                }
            }
        }
        let sources = self.entries.iter().enumerate();
        self.by_source = sources.map(|(index, entry)| (entry.source.clone(), index)).collect();
    }
}

/// The path of what could not be looked at.
fn failed_path(error: &ignore::Error) -> Option<&Path> {
    match error {
        ignore::Error::WithPath { path, .. } => Some(path),
        ignore::Error::WithDepth { err, .. } | ignore::Error::WithLineNumber { err, .. } => {
            failed_path(err)
        }
        _ => None,
    }
}

fn action(source: &str) -> Action {
    match Format::of_file_name(source) {
        // A page saved as one file is for no browser to read as it is.
        Some(Format::Html) if is_saved_page(source) => Action::Convert(Format::Html),
        Some(Format::Html) => Action::Copy,
        Some(format) if format.can_read() => Action::Convert(format),
        // HTML is what a web folder is made of; plain text is fine as it is.
        _ => Action::Copy,
    }
}

fn is_saved_page(source: &str) -> bool {
    let ending = source.rsplit_once('.').map_or("", |(_, ending)| ending);
    ["mht", "mhtml"].iter().any(|saved| ending.eq_ignore_ascii_case(saved))
}

/// The name that a document states for what is made of it.
fn output_name(file: &Path, format: Format) -> Option<String> {
    // What cannot be read is told when its turn comes.
    (format == Format::Org).then(|| fs::read(file).ok())?.and_then(|bytes| org::output_name(&bytes))
}

fn page_name(source: &str, stated: Option<&str>, ending: &str) -> String {
    let (stem, _) = source.rsplit_once('.').unwrap_or((source, ""));
    let folder = source.rsplit_once('/').map_or("", |(folder, _)| folder);
    match (stated, folder) {
        (None, _) => format!("{stem}{ending}"),
        (Some(name), "") => format!("{name}{ending}"),
        (Some(name), folder) => format!("{folder}/{name}{ending}"),
    }
}

/// A path below a folder, with `/` between folders; names that are no Unicode are shown lossily.
fn relative(root: &Path, path: &Path) -> Option<String> {
    let below = path.strip_prefix(root).ok()?;
    let names: Vec<_> = below.iter().map(|name| name.to_string_lossy()).collect();
    (!names.is_empty()).then(|| names.join("/"))
}

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

/// A folder's name as a title: `tide-mill` becomes `Tide mill`.
pub(crate) fn title_of_name(name: &str) -> String {
    let name = name.replace(['-', '_'], " ");
    let mut characters = name.chars();
    let first = characters.next().map(|first| first.to_uppercase().collect::<String>());
    first.map_or_else(|| "Documents".into(), |first| first + characters.as_str())
}

/// The source path that an address in a document leads to.
pub(crate) fn addressed(document: &str, address: &str) -> Option<String> {
    let folder = document.rsplit_once('/').map_or("", |(folder, _)| folder);
    normalised(&joined(folder, address))
}
