//! The `obblet` command: arguments in, calls out, results printed. No conversion logic.

mod arguments;
mod bind;
mod check;
mod check_report;
mod clean;
mod compare;
mod convert;
mod demo;
mod dry_run;
mod failure;
mod fix;
mod house;
mod ledger;
mod limits;
mod manual;
mod preview;
mod progress;
mod publish;
mod strict;
mod talk;
mod targets;

use arguments::{Arguments, Command};
use clap::Parser as _;
use std::process::ExitCode;

/// Seconds that a command may take, unless it publishes or shows a folder.
const TIME: u64 = 600;

fn main() -> ExitCode {
    let arguments = Arguments::parse();
    let lasts =
        matches!(arguments.command, Command::Publish(_) | Command::Preview(_) | Command::Demo(_));
    let time = arguments.time_limit.unwrap_or(if lasts { 0 } else { TIME });
    limits::watch(arguments.memory_limit, time);
    let done = match arguments.command {
        Command::Convert(arguments) => convert::run(&arguments),
        Command::Clean(arguments) => clean::run(&arguments),
        Command::Check(arguments) => check::run(&arguments),
        Command::Compare(arguments) => compare::run(&arguments),
        Command::Bind(arguments) => bind::run(&arguments),
        Command::Publish(arguments) => publish::run(&arguments),
        Command::Preview(arguments) => preview::run(&arguments),
        Command::House(arguments) => house::run(&arguments),
        Command::Demo(arguments) => demo::run(&arguments),
        Command::Completions(arguments) => manual::completions(&arguments),
        Command::Manual(arguments) => manual::run(&arguments),
    };
    match done {
        Ok(code) => code.into(),
        Err(failure) => {
            talk::say(&format!("obblet: {failure}"));
            failure.code().into()
        }
    }
}
