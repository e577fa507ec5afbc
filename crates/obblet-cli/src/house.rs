//! `obblet house`, and finding the house that the other commands are told.

use crate::arguments::{HouseArguments, HouseChoice, HouseCommand};
use crate::failure::{Code, Failure};
use crate::talk::{print, say};
use obblet::House;
use obblet_publish::{house_named, read_house_files, write_atomically};
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
    changed(named(choice.house.as_deref().unwrap_or("page"))?, &choice.settings)
}

/// The house with these settings changed.
pub(crate) fn changed(mut house: House, changes: &[String]) -> Result<House, Failure> {
    for (key, value) in settings(changes)? {
        let wrong = |error| Failure::House { file: "--set".into(), error };
        house.set(&key, &value).map_err(wrong)?;
    }
    // Files that these settings name stand where the command is.
    read_house_files(&mut house, Path::new(""))?;
    Ok(house)
}

/// `KEY=VALUE`, taken apart.
pub(crate) fn settings(changes: &[String]) -> Result<Vec<(String, String)>, Failure> {
    let apart = |change: &String| {
        let (key, value) = change.split_once('=')?;
        Some((key.trim().to_string(), value.trim().to_string()))
    };
    let wrong = |change: &String| {
        let example = "--set takes KEY=VALUE, for example page.contents=2";
        Failure::Usage(format!("{example}, not {change}"))
    };
    changes.iter().map(|change| apart(change).ok_or_else(|| wrong(change))).collect()
}

/// Says that scripts of a source go out, where the house trusts it.
pub(crate) fn tell_of_trust(house: &House) {
    if house.safety.trust_sources {
        say("safety.trust_sources: what stands in the sources goes out as it is, scripts too");
    }
}

/// A built-in house by name, or else a file.
pub(crate) fn named(name: &str) -> Result<House, Failure> {
    Ok(house_named(name, Path::new(""))?)
}
