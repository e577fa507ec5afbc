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
mod manual;
mod preview;
mod progress;
mod publish;
mod strict;
mod talk;

use arguments::{Arguments, Command};
use clap::Parser as _;
use std::process::ExitCode;

fn main() -> ExitCode {
    let arguments = Arguments::parse();
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
