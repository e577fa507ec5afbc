//! What a run has written so far. A run that is killed leaves its journal behind; the next one
//! knows by it which files are ours though the record does not say so, and which half-written files
//! to take away. It is there only while a run lasts, and keeps two runs apart.
//!
//! Lines reach the disk when the system likes: after a power cut some may be missing. That there was a run
//! which did not end is known all the same, by the file itself.

use crate::fingerprint::Fingerprint;
use crate::inside;
use crate::record::RECORD_NAME;
use crate::write::{WriteFailure, part_path, sync_folder};
use cap_std::ambient_authority;
use cap_std::fs::{Dir, OpenOptions};
use std::collections::HashMap;
use std::fs::{File, TryLockError};
use std::io::{self, Read as _, Write as _};
use std::path::{Path, PathBuf};
use std::sync::Mutex;

/// The name of the journal in the output folder.
pub const JOURNAL_NAME: &str = ".obblet-journal";

/// The journal of a run that lasts.
#[derive(Debug)]
pub(crate) struct Journal {
    path: PathBuf,
    file: Mutex<File>,
}

impl Journal {
    /// Begins a run; `None` when another one is at work here. Takes away the half-written files of a
    /// run that was killed.
    pub(crate) fn begin(output: &Path) -> Result<Option<Self>, WriteFailure> {
        let path = output.join(JOURNAL_NAME);
        let failed = |error| WriteFailure { path: path.clone(), error };
        let mut file = open(output).map_err(failed)?;
        match file.try_lock() {
            Ok(()) => {}
            Err(TryLockError::WouldBlock) => return Ok(None),
            // Not every file system has locks.
            Err(TryLockError::Error(_)) => {}
        }
        let mut text = Vec::new();
        file.read_to_end(&mut text).map_err(failed)?;
        for target in entries(&text).map(|(_, target)| target).chain([RECORD_NAME]) {
            let _ = std::fs::remove_file(part_path(&output.join(target)));
        }
        // A line that was cut off is none.
        if !text.is_empty() && !text.ends_with(b"\n") {
            file.write_all(b"\n").map_err(failed)?;
        }
        // After a power cut it must be there if anything else of this run is.
        file.sync_all().and_then(|()| sync_folder(output)).map_err(failed)?;
        Ok(Some(Self { path, file: Mutex::new(file) }))
    }

    /// Notes that a target is about to hold this content.
    pub(crate) fn note(&self, target: &str, hash: Fingerprint) -> io::Result<()> {
        let line = format!("{hash} {target}\n");
        // Whoever panicked here has left a line or none.
        let mut file = self.file.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        file.write_all(line.as_bytes())
    }

    /// Ends the run: the record holds all that the journal does.
    pub(crate) fn end(self) {
        let _ = std::fs::remove_file(&self.path);
    }
}

/// The journal, to be added to. A link that leads out of the output folder is not followed.
fn open(output: &Path) -> io::Result<File> {
    let folder = Dir::open_ambient_dir(output, ambient_authority())?;
    let mut how = OpenOptions::new();
    how.read(true).append(true).create(true);
    folder.open_with(JOURNAL_NAME, &how).map(cap_std::fs::File::into_std)
}

/// What a run left behind that did not end.
#[derive(Debug, Clone, Default)]
pub(crate) struct LeftBehind {
    /// There was such a run.
    is_unfinished: bool,
    /// What it wrote: every content that each target may hold.
    written: HashMap<String, Vec<Fingerprint>>,
}

impl LeftBehind {
    pub(crate) fn of(output: &Path) -> Self {
        let Ok(text) = inside::read(output, Path::new(JOURNAL_NAME)) else {
            return Self::default();
        };
        let mut written: HashMap<String, Vec<Fingerprint>> = HashMap::new();
        for (hash, target) in entries(&text) {
            written.entry(target.to_string()).or_default().push(hash);
        }
        Self { is_unfinished: true, written }
    }

    /// Whether it wrote this content there.
    pub(crate) fn has_written(&self, target: &str, there: Fingerprint) -> bool {
        self.written.get(target).is_some_and(|written| written.contains(&there))
    }

    /// Whether files may not be whole, and written though no line says so.
    pub(crate) fn is_unfinished(&self) -> bool {
        self.is_unfinished
    }

    /// Whether a file is what a power cut may leave of this content: its beginning, with zero bytes where
    /// the rest is not there yet.
    pub(crate) fn is_part_of(&self, there: &[u8], content: &[u8]) -> bool {
        let written = there.iter().zip(content).take_while(|(one, other)| one == other).count();
        let rest = there.get(written..).unwrap_or_default();
        self.is_unfinished && there.len() <= content.len() && rest.iter().all(|byte| *byte == 0)
    }
}

fn entries(text: &[u8]) -> impl Iterator<Item = (Fingerprint, &str)> {
    text.split(|byte| *byte == b'\n').filter_map(|line| {
        let (hash, target) = std::str::from_utf8(line).ok()?.split_once(' ')?;
        let hash = Fingerprint::of_hex(hash)?;
        // Nothing outside the output folder is ours.
        let is_inside = target.split('/').all(|name| !matches!(name, "" | "." | ".."));
        is_inside.then_some((hash, target))
    })
}
