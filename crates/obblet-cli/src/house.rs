//! `obblet house`, and finding the house that the other commands are told.

use crate::arguments::{HouseArguments, HouseChoice, HouseCommand};
use crate::failure::{Code, Failure};
use crate::talk::{print, say};
use obblet::{House, HouseError};
use obblet_publish::write_atomically;
use std::collections::btree_map::Entry;
use std::path::Path;

pub(crate) fn run(arguments: &HouseArguments) -> Result<Code, Failure> {
    let text = match &arguments.what {
        None | Some(HouseCommand::List) => {
            let line = |house: &(&str, &str, &str)| format!("{:<8} {}\n", house.0, house.1);
            obblet::house::BUILT_IN.iter().map(line).collect()
        }
        Some(HouseCommand::Show { name }) => named(name)?.to_toml(),
        Some(HouseCommand::New { file, like }) => return new(file, like),
    };
    print(text.as_bytes())?;
    Ok(Code::Done)
}

/// Writes a house file to start from.
fn new(file: &Path, like: &str) -> Result<Code, Failure> {
    let start =
        House::start_like(like).map_err(|error| Failure::House { file: "--like".into(), error })?;
    if file.exists() {
        let shown = file.display();
        return Err(Failure::Usage(format!("{shown} is there already; choose another name")));
    }
    write_atomically(file, start.as_bytes())?;
    let shown = file.display();
    say(&format!("{shown} is like {like}; try it with “obblet convert SOURCE --house {shown}”"));
    Ok(Code::Done)
}

/// The chosen house with all its changes.
pub(crate) fn chosen(choice: &HouseChoice) -> Result<House, Failure> {
    changed(named(&choice.house)?, &choice.settings)
}

/// The house with these settings changed.
pub(crate) fn changed(mut house: House, settings: &[String]) -> Result<House, Failure> {
    for setting in settings {
        let (key, value) = setting.split_once('=').ok_or_else(|| {
            Failure::Usage(format!(
                "--set takes KEY=VALUE, for example page.contents=2, not {setting}"
            ))
        })?;
        let wrong = |error| Failure::House { file: "--set".into(), error };
        house.set(key.trim(), value.trim()).map_err(wrong)?;
    }
    // Files that these settings name stand where the command is.
    with_files(&mut house, Path::new(""))?;
    Ok(house)
}

/// A built-in house by name, or else a file.
pub(crate) fn named(name: &str) -> Result<House, Failure> {
    let path = Path::new(name);
    let is_file = path.extension().is_some_and(|extension| extension == "toml") || path.is_file();
    let wrong = |error: HouseError| Failure::House { file: name.to_string(), error };
    if !is_file {
        return House::built_in(name)
            .map_err(|error| Failure::House { file: "--house".into(), error });
    }
    let text = std::fs::read_to_string(path)
        .map_err(|error| Failure::Read { path: path.to_path_buf(), error })?;
    let mut house = House::from_toml(&text).map_err(wrong)?;
    with_files(&mut house, path.parent().unwrap_or(Path::new("")))?;
    Ok(house)
}

/// Reads the files that a house names, but for those it has.
fn with_files(house: &mut House, folder: &Path) -> Result<(), Failure> {
    for name in house.files_named() {
        if let Entry::Vacant(vacant) = house.files.entry(name) {
            let path = folder.join(vacant.key());
            let text =
                std::fs::read_to_string(&path).map_err(|error| Failure::Read { path, error })?;
            vacant.insert(text.into());
        }
    }
    if !house.word.pattern.is_empty() && house.pattern.is_none() {
        let path = folder.join(&house.word.pattern);
        let bytes = std::fs::read(&path).map_err(|error| Failure::Read { path, error })?;
        house.pattern = Some(bytes.into());
    }
    Ok(())
}
