//! The output folder during a run: nothing by hand is overwritten, nothing outside is written, and
//! every file appears whole.

use crate::fingerprint::Fingerprint;
use crate::journal::{Journal, LeftBehind};
use crate::plan::Plan;
use crate::record::Record;
use crate::standing::Standings;
use crate::write::{WriteFailure, backup_path, part_path, sync_all, write_target};
use std::collections::HashSet;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

/// What became of a target.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Put {
    /// It was written.
    Written(Fingerprint),
    /// It was there already, byte for byte.
    Same(Fingerprint),
    /// It was changed by hand or comes from elsewhere, and was left alone.
    Conflict,
    /// It could not be written; with what the system says.
    Failed(String),
}

impl Put {
    /// The content that the target has now because of us.
    pub(crate) fn hash(&self) -> Option<Fingerprint> {
        match self {
            Self::Written(hash) | Self::Same(hash) => Some(*hash),
            Self::Conflict | Self::Failed(_) => None,
        }
    }
}

/// The output folder during a run.
#[derive(Debug)]
pub(crate) struct Output {
    root: PathBuf,
    before: Arc<Record>,
    left_behind: LeftBehind,
    journal: Journal,
    overwrite: bool,
    /// Folders that are known to lie inside the output folder.
    inside: Mutex<HashSet<PathBuf>>,
    /// Files that were written and may not be on the disk yet.
    unsynced: Mutex<Vec<PathBuf>>,
}

impl Output {
    /// Takes hold of the output folder; `None` when another run is at work in it.
    pub(crate) fn open(plan: &Plan, overwrite: bool) -> Result<Option<Self>, WriteFailure> {
        let failed = |error| WriteFailure { path: plan.output.clone(), error };
        std::fs::create_dir_all(&plan.output).map_err(failed)?;
        let root = plan.output.canonicalize().map_err(failed)?;
        let Some(journal) = Journal::begin(&root)? else { return Ok(None) };
        Ok(Some(Self {
            root,
            before: plan.before.clone(),
            left_behind: plan.left_behind.clone(),
            journal,
            overwrite,
            inside: Mutex::default(),
            unsynced: Mutex::default(),
        }))
    }

    pub(crate) fn root(&self) -> &Path {
        &self.root
    }

    /// Writes a target, unless it is the same already or somebody else's. Two workers must not write
    /// the same target.
    pub(crate) fn put(&self, target: &str, bytes: &[u8]) -> Put {
        let hash = Fingerprint::of(bytes);
        let path = self.root.join(target);
        if self.left_behind.is_unfinished() {
            // Its line in the journal may not have reached the disk.
            let _ = std::fs::remove_file(part_path(&path));
        }
        let is_foreign = match std::fs::read(&path) {
            Ok(there) if there == bytes => return Put::Same(hash),
            Ok(there) => {
                !self.standings().is_ours(target, Fingerprint::of(&there))
                    && !self.left_behind.is_part_of(&there, bytes)
            }
            // A folder or a link that leads nowhere is not ours.
            Err(_) => path.symlink_metadata().is_ok(),
        };
        if is_foreign && !self.overwrite {
            return Put::Conflict;
        }
        match self.write(target, &path, bytes, hash, is_foreign) {
            Ok(()) => Put::Written(hash),
            Err(why) => Put::Failed(why),
        }
    }

    fn write(
        &self,
        target: &str,
        path: &Path,
        bytes: &[u8],
        hash: Fingerprint,
        is_foreign: bool,
    ) -> Result<(), String> {
        let failed = |error| WriteFailure { path: path.into(), error }.to_string();
        self.check_folder(path)?;
        if is_foreign {
            std::fs::rename(path, backup_path(path)).map_err(failed)?;
        }
        self.journal.note(target, hash).map_err(failed)?;
        write_target(path, bytes).map_err(|failure| failure.to_string())?;
        self.unsynced.lock().unwrap_or_else(PoisonError::into_inner).push(path.to_path_buf());
        Ok(())
    }

    /// Makes the folder of a target, and refuses one that a symbolic link leads out of the output
    /// folder.
    fn check_folder(&self, path: &Path) -> Result<(), String> {
        let folder = path.parent().unwrap_or(&self.root);
        let known = || self.inside.lock().unwrap_or_else(PoisonError::into_inner);
        if known().contains(folder) {
            return Ok(());
        }
        let failed = |error| WriteFailure { path: path.into(), error }.to_string();
        self.check_above(folder)?;
        std::fs::create_dir_all(folder).map_err(failed)?;
        known().insert(folder.to_path_buf());
        Ok(())
    }

    /// The nearest folder that is there already must lie inside.
    fn check_above(&self, folder: &Path) -> Result<(), String> {
        let there = folder.ancestors().find_map(|above| above.canonicalize().ok());
        match there.is_some_and(|there| there.starts_with(&self.root)) {
            true => Ok(()),
            false => {
                let shown = folder.display();
                Err(format!("a symbolic link leads from {shown} out of the output folder"))
            }
        }
    }

    /// Takes a target away that we wrote; false when it is somebody else's now.
    pub(crate) fn remove(&self, target: &str) -> Result<bool, WriteFailure> {
        let path = self.root.join(target);
        let Ok(there) = std::fs::read(&path) else { return Ok(true) };
        let is_inside = path.parent().is_some_and(|folder| self.check_above(folder).is_ok());
        if !is_inside || !self.standings().is_ours(target, Fingerprint::of(&there)) {
            return Ok(false);
        }
        std::fs::remove_file(&path).map_err(|error| WriteFailure { path: path.clone(), error })?;
        // Folders that this leaves empty go too; those that are not empty cannot.
        let mut folder = path.parent();
        while let Some(inner) = folder.filter(|inner| *inner != self.root) {
            if std::fs::remove_dir(inner).is_err() {
                break;
            }
            folder = inner.parent();
        }
        Ok(true)
    }

    fn standings(&self) -> Standings<'_> {
        Standings::of(&self.root, &self.before, &self.left_behind)
    }

    /// Ends the run with its record. Where nothing has changed, nothing is written.
    pub(crate) fn close(self, record: &Record) -> Result<(), WriteFailure> {
        let is_same = self.before.written.is_some() && record.is_same(&self.before);
        // What the record says must be on the disk before it is, and the record before the journal goes.
        let unsynced = self.unsynced.into_inner().unwrap_or_else(PoisonError::into_inner);
        sync_all(&self.root, &unsynced)?;
        if !is_same {
            record.save(&self.root)?;
        }
        self.journal.end();
        Ok(())
    }
}
