//! Files that a command writes and may not: those it reads.

use crate::failure::Failure;
use obblet_publish::folder_of;
use std::path::{Path, PathBuf};

/// Refuses to write to a file that is read, or to one file twice.
pub(crate) fn refuse_overwriting<'p>(
    sources: impl IntoIterator<Item = &'p Path>,
    targets: impl IntoIterator<Item = &'p Path>,
) -> Result<(), Failure> {
    let is_file = |path: &&Path| *path != Path::new("-");
    let sources: Vec<PathBuf> = sources.into_iter().filter(is_file).filter_map(real).collect();
    let mut written: Vec<PathBuf> = Vec::new();
    for target in targets.into_iter().filter(is_file) {
        let Some(path) = real(target) else { continue };
        let shown = target.display();
        if sources.contains(&path) {
            return Err(Failure::Usage(format!(
                "{shown} is read and would be overwritten; name another file to write"
            )));
        }
        if written.contains(&path) {
            return Err(Failure::Usage(format!("{shown} would be written twice; name two files")));
        }
        written.push(path);
    }
    Ok(())
}

/// Refuses to write over a document, where the last of several names may have been meant as a source, too:
/// where all of them are files.
pub(crate) fn refuse_document_there(named: &[PathBuf], target: &Path) -> Result<(), Failure> {
    let ending = |path: &Path| path.extension().map(|ending| ending.to_ascii_lowercase());
    let is_like_source = named.iter().any(|source| ending(source) == ending(target));
    if is_like_source && target.exists() && !named.iter().any(|source| source.is_dir()) {
        let shown = target.display();
        return Err(Failure::Usage(format!(
            "{shown}, the last name, is the file to write, and there is a document already; name a new \
             one, or write over it with --overwrite"
        )));
    }
    Ok(())
}

/// The path of a file without links; of one that is not there yet, by its folder.
fn real(path: &Path) -> Option<PathBuf> {
    path.canonicalize()
        .ok()
        .or_else(|| Some(folder_of(path).canonicalize().ok()?.join(path.file_name()?)))
}
