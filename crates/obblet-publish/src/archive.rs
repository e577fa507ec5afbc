//! One file to upload: the web folder as a ZIP archive.

use crate::plan::Plan;
use crate::record::Record;
use crate::write::{WriteFailure, folder_of};
use std::fs::File;
use std::io::{self, BufWriter};
use std::path::Path;
use zip::write::SimpleFileOptions;
use zip::{CompressionMethod, ZipWriter};

/// Puts every file that was published into a ZIP archive: those of the record, and nothing else that
/// may lie in the output folder. Equal folders give equal archives.
///
/// Gives the number of files.
///
/// # Errors
/// [`WriteFailure`] when a file cannot be read or the archive cannot be written; then it is as it was
/// before.
pub fn archive(plan: &Plan, file: &Path) -> Result<usize, WriteFailure> {
    let failed = |error| WriteFailure { path: file.to_path_buf(), error };
    let targets = Record::load(plan.output()).targets;
    let folder = folder_of(file);
    std::fs::create_dir_all(folder).map_err(failed)?;
    let part = tempfile::NamedTempFile::new_in(folder).map_err(failed)?;
    let mut zip = ZipWriter::new(BufWriter::new(part.reopen().map_err(failed)?));
    let mut count = 0;
    for target in targets.keys() {
        add(&mut zip, plan.output(), target).map_err(failed)?;
        count += 1;
    }
    let written = zip
        .finish()
        .map_err(io::Error::from)
        .and_then(|buffer| buffer.into_inner().map_err(io::IntoInnerError::into_error)?.sync_all());
    written.map_err(failed)?;
    part.persist(file).map_err(|refused| failed(refused.error))?;
    Ok(count)
}

fn add(zip: &mut ZipWriter<BufWriter<File>>, output: &Path, target: &str) -> io::Result<()> {
    // No times: they would make equal folders differ.
    let options = SimpleFileOptions::default()
        .compression_method(CompressionMethod::Deflated)
        .last_modified_time(zip::DateTime::default());
    zip.start_file(target, options)?;
    let mut file = match File::open(output.join(target)) {
        Ok(file) => file,
        // Somebody has taken it away since.
        Err(error) if error.kind() == io::ErrorKind::NotFound => return Ok(()),
        Err(error) => return Err(error),
    };
    io::copy(&mut file, zip)?;
    Ok(())
}
