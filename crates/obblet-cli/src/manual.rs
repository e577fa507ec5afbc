//! `obblet completions` and `obblet manual`: what shells and `man` want to know of the command, made
//! of the same words as its help.

use crate::arguments::{Arguments, CompletionsArguments, ManualArguments};
use crate::failure::{Code, Failure};
use crate::talk::{counted, print, say};
use clap::{Command, CommandFactory as _};
use clap_mangen::Man;
use obblet_publish::write_atomically;

pub(crate) fn completions(arguments: &CompletionsArguments) -> Result<Code, Failure> {
    let mut script = Vec::new();
    clap_complete::generate(arguments.shell, &mut Arguments::command(), "obblet", &mut script);
    print(&script)?;
    Ok(Code::Done)
}

pub(crate) fn run(arguments: &ManualArguments) -> Result<Code, Failure> {
    let command = Arguments::command();
    let Some(folder) = &arguments.folder else {
        print(&page(command)?)?;
        return Ok(Code::Done);
    };
    let pages = pages(command, "obblet");
    for (name, command) in &pages {
        write_atomically(&folder.join(format!("{name}.1")), &page(command.clone())?)?;
    }
    say(&format!("{} in {}", counted(pages.len(), "page", "pages"), folder.display()));
    Ok(Code::Done)
}

fn page(command: Command) -> Result<Vec<u8>, Failure> {
    let mut page = Vec::new();
    Man::new(command).render(&mut page).map_err(Failure::Output)?;
    Ok(page)
}

/// A command and those below it, by the names of their pages.
fn pages(command: Command, name: &str) -> Vec<(String, Command)> {
    let below: Vec<Command> = command.get_subcommands().cloned().collect();
    // A page is called as its command is.
    let mut all = vec![(name.to_string(), command.name(name.to_string()))];
    for inner in below {
        let inner_name = format!("{name}-{}", inner.get_name());
        all.extend(pages(inner, &inner_name));
    }
    all
}
