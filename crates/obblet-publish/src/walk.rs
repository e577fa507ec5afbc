//! Finding the files of a folder: which are published, which are left out and why.

use crate::PublishOptions;
use crate::scope::{FOLDER_FILE, Scope, ScopeError};
use ignore::Match;
use ignore::gitignore::{Gitignore, GitignoreBuilder};
use obblet::address::joined;
use std::fs::{self, DirEntry, FileType};
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// The name of the file that says what is left out of a folder, one pattern a line.
pub const IGNORE_FILE: &str = ".obblet-ignore";

/// Something in the folder. Paths have `/` between folders.
#[derive(Debug)]
pub(crate) struct Found {
    /// The path below the top folder.
    pub(crate) source: String,
    pub(crate) kind: FoundKind,
    /// What holds for its folder.
    pub(crate) scope: Arc<Scope>,
}

#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum FoundKind {
    File,
    /// Left out, also all that is in it when it is a folder; with the reason.
    LeftOut(String),
    /// It cannot be looked at; with what the system says.
    Unreadable(String),
}

/// What a walk gives.
#[derive(Debug, Default)]
pub(crate) struct Walk {
    /// All files, in no order.
    pub(crate) found: Vec<Found>,
    /// Every folder that is not left out, by its path; the top one is empty.
    pub(crate) folders: Vec<(String, Arc<Scope>)>,
}

/// Looks at everything in a folder.
///
/// # Errors
/// [`ScopeError`] when a folder's settings are wrong: nothing is published with settings that
/// somebody did not mean.
pub(crate) fn walk(root: &Path, options: &PublishOptions) -> Result<Walk, ScopeError> {
    let outer = Scope::outer(options);
    let matchers = Matchers::of(root, &outer, None);
    let mut walker = Walker { root, options, walk: Walk::default(), open: Vec::new() };
    let top = Folder {
        path: root.to_path_buf(),
        source: String::new(),
        scope: Arc::new(outer),
        matchers: Arc::new(matchers),
        is_behind_link: false,
    };
    walker.open.push(top);
    while let Some(folder) = walker.open.pop() {
        walker.folder(folder)?;
    }
    Ok(walker.walk)
}

/// A folder to look at, with what holds around it.
struct Folder {
    path: PathBuf,
    source: String,
    scope: Arc<Scope>,
    matchers: Arc<Matchers>,
    is_behind_link: bool,
}

struct Walker<'w> {
    root: &'w Path,
    options: &'w PublishOptions,
    walk: Walk,
    open: Vec<Folder>,
}

impl Walker<'_> {
    fn folder(&mut self, mut folder: Folder) -> Result<(), ScopeError> {
        // A folder that cannot be opened has no settings either.
        let entries = fs::read_dir(&folder.path).and_then(Iterator::collect);
        let entries: Vec<DirEntry> = match entries {
            Ok(entries) => entries,
            Err(error) => {
                let source = folder.source.clone();
                self.found(source, FoundKind::Unreadable(error.to_string()), &folder);
                return Ok(());
            }
        };
        let scope =
            Arc::new(folder.scope.inner(self.root, Path::new(&folder.source), self.options)?);
        folder.matchers =
            Arc::new(Matchers::of(&folder.path, &scope, Some(folder.matchers.clone())));
        folder.scope = scope.clone();
        self.walk.folders.push((folder.source.clone(), scope));
        entries.iter().for_each(|entry| self.entry(entry, &folder));
        Ok(())
    }

    fn found(&mut self, source: String, kind: FoundKind, folder: &Folder) {
        self.walk.found.push(Found { source, kind, scope: folder.scope.clone() });
    }

    fn left_out(&mut self, source: String, why: &str, folder: &Folder) {
        self.found(source, FoundKind::LeftOut(why.into()), folder);
    }

    fn entry(&mut self, entry: &DirEntry, folder: &Folder) {
        let name = entry.file_name();
        let Some(name) = name.to_str() else {
            let source = joined(&folder.source, &name.to_string_lossy());
            return self.left_out(source, "its name is no Unicode", folder);
        };
        let source = joined(&folder.source, name);
        if name == FOLDER_FILE || name == IGNORE_FILE {
            return;
        }
        let kind = match entry.file_type() {
            Ok(kind) => kind,
            Err(error) => {
                return self.found(source, FoundKind::Unreadable(error.to_string()), folder);
            }
        };
        if name.starts_with('.') && !self.options.hidden {
            return self.left_out(source, "it is hidden", folder);
        }
        let (is_folder, is_link) = match self.kind(entry, kind, folder) {
            Ok(kinds) => kinds,
            Err(why) => return self.left_out(source, &why, folder),
        };
        if let Some(why) = folder.matchers.reason(&entry.path(), is_folder) {
            return self.left_out(source, why, folder);
        }
        if is_folder {
            self.open.push(Folder {
                path: entry.path(),
                source,
                scope: folder.scope.clone(),
                matchers: folder.matchers.clone(),
                is_behind_link: folder.is_behind_link || is_link,
            });
        } else {
            self.found(source, FoundKind::File, folder);
        }
    }

    /// Whether an entry is a folder, and whether by way of a link. An error says why it is left out.
    fn kind(
        &self,
        entry: &DirEntry,
        kind: FileType,
        folder: &Folder,
    ) -> Result<(bool, bool), String> {
        if !kind.is_symlink() {
            return match kind.is_dir() || kind.is_file() {
                true => Ok((kind.is_dir(), false)),
                false => Err("it is no ordinary file".into()),
            };
        }
        let leads_nowhere = |_| "it is a symbolic link that leads nowhere".to_string();
        let target = entry.path().canonicalize().map_err(leads_nowhere)?;
        if !target.starts_with(self.root) {
            return Err("it is a symbolic link that leads out of the folder".into());
        }
        let is_folder = target.is_dir();
        let here = folder.path.canonicalize().map_err(leads_nowhere)?;
        // Links in linked folders could go round and round.
        match is_folder && (folder.is_behind_link || here.starts_with(&target)) {
            true => Err("it is a symbolic link to a folder that holds it".into()),
            false => Ok((is_folder, true)),
        }
    }
}

/// The patterns that hold in a folder, its own and those of the folders around it.
struct Matchers {
    around: Option<Arc<Matchers>>,
    ignore: Gitignore,
    skip: Gitignore,
    only: Gitignore,
}

impl Matchers {
    fn of(folder: &Path, scope: &Scope, around: Option<Arc<Self>>) -> Self {
        let built = |patterns: &[String]| {
            let mut builder = GitignoreBuilder::new(folder);
            for pattern in patterns {
                // A pattern that is none matches nothing.
                let _ = builder.add_line(None, pattern);
            }
            builder.build().unwrap_or_else(|_| Gitignore::empty())
        };
        let lines = fs::read_to_string(folder.join(IGNORE_FILE)).unwrap_or_default();
        let lines: Vec<String> = lines.lines().map(Into::into).collect();
        Self { around, ignore: built(&lines), skip: built(&scope.skip), only: built(&scope.only) }
    }

    /// Why something is left out; `None` when it is not. The innermost folder that says anything
    /// about it decides.
    fn reason(&self, path: &Path, is_folder: bool) -> Option<&'static str> {
        let mut level = Some(self);
        let mut is_decided = false;
        while let Some(matchers) = level {
            let cases = [(&matchers.ignore, "an ignore file names it"), (&matchers.skip, SKIPPED)];
            for (patterns, why) in cases {
                match patterns.matched(path, is_folder) {
                    Match::Ignore(_) if !is_decided => return Some(why),
                    Match::Whitelist(_) => is_decided = true,
                    _ => {}
                }
            }
            // Folders are looked into for what is wanted.
            let is_wanted = is_folder
                || matchers.only.is_empty()
                || matchers.only.matched_path_or_any_parents(path, false).is_ignore();
            if !is_wanted {
                return Some("no pattern of “only” names it");
            }
            level = matchers.around.as_deref();
        }
        None
    }
}

const SKIPPED: &str = "a pattern of “skip” names it";
