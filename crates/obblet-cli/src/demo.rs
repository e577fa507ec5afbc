//! `obblet demo`: the demo folder, out of the binary alone.

use crate::arguments::DemoArguments;
use crate::failure::{Code, Failure};
use crate::publish::{exit_code, publish_watched, summary};
use crate::talk::{print, say};
use include_dir::{Dir, DirEntry, include_dir};
use obblet_publish::{Plan, PublishOptions, write_atomically};
use std::path::Path;

static DEMO: Dir<'_> = include_dir!("$CARGO_MANIFEST_DIR/demo");

pub(crate) fn run(arguments: &DemoArguments) -> Result<Code, Failure> {
    let (texts, web) = (arguments.folder.join("texts"), arguments.folder.join("web"));
    write_folder(&DEMO, &texts)?;
    say(&format!("The Marrowby Tide Mill Trust's documents are in {}", texts.display()));
    let options =
        PublishOptions { title: Some("Marrowby Tide Mill Trust".into()), ..Default::default() };
    let plan = Plan::of(&texts, &web, &options)?;
    let report = publish_watched(&plan, &options)?;
    print(summary(&report, &web.display().to_string(), false).as_bytes())?;
    say(&format!("Open {} in a browser.", web.join("index.html").display()));
    Ok(exit_code(&report, None))
}

/// Writes a folder of the binary; files that are there and differ are left alone.
fn write_folder(folder: &Dir<'_>, target: &Path) -> Result<(), Failure> {
    for entry in folder.entries() {
        match entry {
            DirEntry::Dir(inner) => write_folder(inner, target)?,
            DirEntry::File(file) => {
                let path = target.join(file.path());
                match std::fs::read(&path) {
                    Ok(there) if there == file.contents() => {}
                    Ok(_) => say(&format!("{} was changed and is left as it is", path.display())),
                    Err(_) => write_atomically(&path, file.contents())?,
                }
            }
        }
    }
    Ok(())
}
