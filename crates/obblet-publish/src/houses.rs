//! Finding house files, and the files that they name.

use crate::inside;
use obblet::{House, HouseError};
use std::collections::btree_map::Entry;
use std::io;
use std::path::{Path, PathBuf};
use thiserror::Error;

/// Why a house cannot be used.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum HouseFileError {
    /// The file, or one that it names, cannot be read.
    #[error("{} cannot be read: {error}", path.display())]
    Read {
        /// The file.
        path: PathBuf,
        /// What the system says.
        error: io::Error,
    },
    /// The settings are wrong.
    #[error("{file}: {error}")]
    House {
        /// The file, or where the name was given.
        file: String,
        /// What is wrong.
        error: HouseError,
    },
}

/// A built-in house by name, or else a file in `folder` (an empty path is where the program runs).
///
/// # Errors
/// [`HouseFileError`] when there is no such house, or it is wrong, or names a file that is not there.
pub fn house_named(name: &str, folder: &Path) -> Result<House, HouseFileError> {
    house_at(name, folder, &|path| std::fs::read(path))
}

/// The same for a house that a folder's own settings name: neither it nor what it names may lie outside of
/// `root`. Paths are below `root`.
pub(crate) fn house_inside(
    name: &str,
    root: &Path,
    folder: &Path,
) -> Result<House, HouseFileError> {
    house_at(name, folder, &|path| inside::read(root, path))
}

/// Reads a file by its path.
type Read<'r> = &'r dyn Fn(&Path) -> io::Result<Vec<u8>>;

fn house_at(name: &str, folder: &Path, read: Read<'_>) -> Result<House, HouseFileError> {
    let path = folder.join(name);
    let wrong = |error| HouseFileError::House { file: name.into(), error };
    let is_named_as_file = path.extension().is_some_and(|ending| ending == "toml");
    let text = match read_text(&path, read) {
        Ok(text) => text,
        Err(HouseFileError::Read { error, .. })
            if !is_named_as_file && error.kind() == io::ErrorKind::NotFound =>
        {
            return House::built_in(name).map_err(wrong);
        }
        // A folder may have the name of a house that is built in.
        Err(error) if !is_named_as_file => return House::built_in(name).map_err(|_| error),
        Err(error) => return Err(error),
    };
    let mut house = House::from_toml(&text).map_err(wrong)?;
    read_files(&mut house, path.parent().unwrap_or(Path::new("")), read)?;
    Ok(house)
}

fn read_text(path: &Path, read: Read<'_>) -> Result<String, HouseFileError> {
    let failed = |error| HouseFileError::Read { path: path.to_path_buf(), error };
    let no_text = |_| io::Error::new(io::ErrorKind::InvalidData, "it is no text in UTF-8");
    String::from_utf8(read(path).map_err(failed)?).map_err(|error| failed(no_text(error)))
}

/// Reads the files that a house names from a folder, but for those it has.
///
/// # Errors
/// [`HouseFileError::Read`] with the first that cannot be read.
pub fn read_house_files(house: &mut House, folder: &Path) -> Result<(), HouseFileError> {
    read_files(house, folder, &|path| std::fs::read(path))
}

/// The same for a folder below `root`, and nothing outside of `root`.
pub(crate) fn read_files_inside(
    house: &mut House,
    root: &Path,
    folder: &Path,
) -> Result<(), HouseFileError> {
    read_files(house, folder, &|path| inside::read(root, path))
}

fn read_files(house: &mut House, folder: &Path, read: Read<'_>) -> Result<(), HouseFileError> {
    // Templates name further files, which are known once their texts are.
    let mut is_complete = false;
    while !is_complete {
        is_complete = true;
        for name in house.files_named() {
            if let Entry::Vacant(vacant) = house.files.entry(name) {
                let path = folder.join(vacant.key());
                let text = read_text(&path, read)?;
                vacant.insert(text.into());
                is_complete = false;
            }
        }
    }
    if !house.word.pattern.is_empty() && house.pattern.is_none() {
        let path = folder.join(&house.word.pattern);
        let bytes = read(&path).map_err(|error| HouseFileError::Read { path, error })?;
        house.pattern = Some(bytes.into());
    }
    Ok(())
}
