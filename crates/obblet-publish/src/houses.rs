//! Finding house files, and the files that they name.

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
    let path = folder.join(name);
    let is_file = path.extension().is_some_and(|ending| ending == "toml") || path.is_file();
    let wrong = |error| HouseFileError::House { file: name.into(), error };
    if !is_file {
        return House::built_in(name).map_err(wrong);
    }
    let text = std::fs::read_to_string(&path)
        .map_err(|error| HouseFileError::Read { path: path.clone(), error })?;
    let mut house = House::from_toml(&text).map_err(wrong)?;
    read_house_files(&mut house, path.parent().unwrap_or(Path::new("")))?;
    Ok(house)
}

/// Reads the files that a house names from a folder, but for those it has.
///
/// # Errors
/// [`HouseFileError::Read`] with the first that cannot be read.
pub fn read_house_files(house: &mut House, folder: &Path) -> Result<(), HouseFileError> {
    // Templates name further files, which are known once their texts are.
    let mut is_complete = false;
    while !is_complete {
        is_complete = true;
        for name in house.files_named() {
            if let Entry::Vacant(vacant) = house.files.entry(name) {
                let path = folder.join(vacant.key());
                let text = std::fs::read_to_string(&path)
                    .map_err(|error| HouseFileError::Read { path, error })?;
                vacant.insert(text.into());
                is_complete = false;
            }
        }
    }
    if !house.word.pattern.is_empty() && house.pattern.is_none() {
        let path = folder.join(&house.word.pattern);
        let bytes = std::fs::read(&path).map_err(|error| HouseFileError::Read { path, error })?;
        house.pattern = Some(bytes.into());
    }
    Ok(())
}
