//! Writing files so that each appears whole or not at all.

use std::ffi::OsString;
use std::fs::File;
use std::io::{self, Write};
use std::path::{Path, PathBuf};
use thiserror::Error;

/// Why a file could not be written.
#[derive(Debug, Error)]
#[error("{} cannot be written: {error}", path.display())]
pub struct WriteFailure {
    /// The file.
    pub path: PathBuf,
    /// What the system says.
    pub error: io::Error,
}

/// The folder that a file lies in: for a name alone, the one where one is.
///
/// ```
/// use obblet_publish::folder_of;
/// use std::path::Path;
///
/// assert_eq!(folder_of(Path::new("texts/guide.md")), Path::new("texts"));
/// assert_eq!(folder_of(Path::new("guide.md")), Path::new("."));
/// ```
#[must_use]
pub fn folder_of(file: &Path) -> &Path {
    match file.parent() {
        Some(folder) if !folder.as_os_str().is_empty() => folder,
        _ => Path::new("."),
    }
}

/// Writes a file beside its place and renames it into place. Missing folders are made.
///
/// # Errors
/// [`WriteFailure`] with what the system says; then the file is as it was before.
pub fn write_atomically(path: &Path, bytes: &[u8]) -> Result<(), WriteFailure> {
    let failed = |error| WriteFailure { path: path.to_path_buf(), error };
    if is_device(path) {
        return std::fs::write(path, bytes).map_err(failed);
    }
    let folder = folder_of(path);
    std::fs::create_dir_all(folder).map_err(failed)?;
    let mut file = new_file(folder).map_err(failed)?;
    file.write_all(bytes).map_err(failed)?;
    file.persist(path).map_err(|refused| failed(refused.error))?;
    Ok(())
}

/// Whether there is something that a file must not take the place of: a device, a pipe.
fn is_device(path: &Path) -> bool {
    let known = std::fs::symlink_metadata(path);
    known.is_ok_and(|it| !it.is_file() && !it.is_dir() && !it.is_symlink())
}

fn new_file(folder: &Path) -> io::Result<tempfile::NamedTempFile> {
    let mut builder = tempfile::Builder::new();
    builder.prefix(".obblet-");
    // Files on the web are read by a server that is another user.
    #[cfg(unix)]
    builder.permissions(std::os::unix::fs::PermissionsExt::from_mode(0o644));
    builder.tempfile_in(folder)
}

/// Where a target of a run stands until it is whole: a name that the next run can find.
pub(crate) fn part_path(path: &Path) -> PathBuf {
    let name = path.file_name().unwrap_or_default();
    let mut part = OsString::from(".obblet-part-");
    // File systems allow 255 bytes.
    if name.len() > 200 {
        part.push(blake3::hash(name.as_encoded_bytes()).to_hex().as_str());
    } else {
        part.push(name);
    }
    path.with_file_name(part)
}

/// The same as [`write_atomically`] for a target of a run.
pub(crate) fn write_target(path: &Path, bytes: &[u8]) -> Result<(), WriteFailure> {
    let part = part_path(path);
    let written = std::fs::write(&part, bytes).or_else(|error| match path.parent() {
        Some(folder) if error.kind() == io::ErrorKind::NotFound => {
            std::fs::create_dir_all(folder).and_then(|()| std::fs::write(&part, bytes))
        }
        _ => Err(error),
    });
    written.and_then(|()| std::fs::rename(&part, path)).map_err(|error| {
        let _ = std::fs::remove_file(&part);
        WriteFailure { path: path.to_path_buf(), error }
    })
}

/// The same, and on the disk when this returns.
pub(crate) fn write_durably(path: &Path, bytes: &[u8]) -> Result<(), WriteFailure> {
    let failed = |error| WriteFailure { path: path.to_path_buf(), error };
    let part = part_path(path);
    let written = File::create(&part).and_then(|mut file| {
        file.write_all(bytes)?;
        file.sync_all()
    });
    written.and_then(|()| std::fs::rename(&part, path)).map_err(failed)?;
    sync_folder(path.parent().unwrap_or(Path::new("."))).map_err(failed)
}

/// How many files are synchronised one by one.
const FEW: usize = 200;

/// Brings files of a folder to the disk. Many of them at once, where the system can: one by one that takes
/// longer than to write them.
pub(crate) fn sync_all(folder: &Path, files: &[PathBuf]) -> Result<(), WriteFailure> {
    if files.len() > FEW && sync_file_system(folder) {
        return Ok(());
    }
    for path in files {
        match File::open(path).and_then(|file| file.sync_all()) {
            // Somebody else has taken it away.
            Err(error) if error.kind() == io::ErrorKind::NotFound => {}
            Err(error) if error.kind() != io::ErrorKind::PermissionDenied => {
                return Err(WriteFailure { path: path.clone(), error });
            }
            _ => {}
        }
    }
    Ok(())
}

#[cfg(target_os = "linux")]
fn sync_file_system(folder: &Path) -> bool {
    File::open(folder).is_ok_and(|folder| rustix::fs::syncfs(folder).is_ok())
}

#[cfg(not(target_os = "linux"))]
fn sync_file_system(_: &Path) -> bool {
    false
}

/// Brings the names in a folder to the disk, where folders can be opened for that.
pub(crate) fn sync_folder(folder: &Path) -> io::Result<()> {
    #[cfg(unix)]
    File::open(folder)?.sync_all()?;
    #[cfg(not(unix))]
    let _ = folder;
    Ok(())
}

/// A free name for a backup: `page.html.bak`, then `page.html.bak2`.
#[must_use]
pub fn backup_path(path: &Path) -> PathBuf {
    let named = |suffix: &str| {
        let mut name = path.file_name().unwrap_or_default().to_os_string();
        name.push(suffix);
        path.with_file_name(name)
    };
    let mut candidate = named(".bak");
    let mut number = 1;
    while candidate.exists() {
        number += 1;
        candidate = named(&format!(".bak{number}"));
    }
    candidate
}
