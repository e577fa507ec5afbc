//! `obblet clean`: HTML to cleaner HTML.

use crate::arguments::CleanArguments;
use crate::convert::{read_source, shown_name};
use crate::failure::{Code, Failure};
use crate::house::{changed, named};
use crate::ledger::{LedgerFile, write_ledger};
use crate::strict::code_of;
use crate::talk::{counted, print, say, say_finding};
use crate::targets::refuse_overwriting;
use obblet::findings::{Finding, FindingKind};
use obblet::{Account, Format, House, WriteOptions, Written, convert};
use obblet_publish::{backup_path, write_atomically};
use std::path::{Path, PathBuf};

pub(crate) fn run(arguments: &CleanArguments) -> Result<Code, Failure> {
    let input = [PathBuf::from("-")];
    let files = if arguments.files.is_empty() { &input[..] } else { &arguments.files };
    if arguments.in_place && files.iter().any(|file| file == Path::new("-")) {
        let message = "--in-place needs the names of the files to clean; standard input has none";
        return Err(Failure::Usage(message.into()));
    }
    refuse_overwriting(files.iter().map(PathBuf::as_path), arguments.ledger.as_deref())?;
    let chosen = arguments.house.as_deref().map(named).transpose()?;
    // What is wrong with a setting is wrong for every file.
    changed(chosen.clone().unwrap_or_default(), &arguments.settings)?;
    let mut code = Code::Done;
    let mut findings: Vec<(String, Vec<Finding>, Account)> = Vec::new();
    for file in files {
        match clean(file, chosen.as_ref(), arguments) {
            Ok((found, account)) => findings.push((shown_name(file), found, account)),
            Err(failure @ Failure::Output(_)) => return Err(failure),
            Err(failure) => {
                say(&format!("obblet: {failure}"));
                code = Code::Files;
            }
        }
    }
    if let Some(ledger) = &arguments.ledger {
        let files: Vec<LedgerFile<'_>> = findings
            .iter()
            .map(|(file, findings, account)| LedgerFile { file, account: Some(*account), findings })
            .collect();
        write_ledger(ledger, &files)?;
    }
    if code == Code::Done {
        code = code_of(arguments.strict, findings.iter().flat_map(|(_, findings, _)| findings));
    }
    Ok(code)
}

fn clean(
    file: &Path,
    chosen: Option<&House>,
    arguments: &CleanArguments,
) -> Result<(Vec<Finding>, Account), Failure> {
    let source = read_source(file)?;
    let house = match chosen {
        Some(house) => house.clone(),
        None => House::for_cleaning(&source),
    };
    let options = WriteOptions {
        house: changed(house, &arguments.settings)?,
        ..WriteOptions::format(Format::Html)
    };
    let shown = shown_name(file);
    let written = convert(&source, Format::Html, &options)
        .map_err(|error| Failure::Convert { file: shown.clone(), error })?;
    let done = match arguments.in_place {
        true => replace(file, &source, &written.bytes)?,
        false => print(&written.bytes).map(|()| String::new())?,
    };
    let line = summary(source.len(), &written);
    let account = written.account;
    let findings = written.findings.into_vec();
    if arguments.findings {
        findings.iter().for_each(|finding| say_finding(finding, &shown));
    }
    say(&format!("{shown}: {line}{done}"));
    Ok((findings, account))
}

/// Puts the clean page in the file's place, and what was there beside it. Says where.
fn replace(file: &Path, before: &[u8], after: &[u8]) -> Result<String, Failure> {
    if before == after {
        return Ok("; unchanged".into());
    }
    let backup = backup_path(file);
    write_atomically(&backup, before)?;
    write_atomically(file, after)?;
    Ok(format!("; the file as it was is {}", backup.display()))
}

/// `8,420 bytes became 1,204 (1,198 characters); 3 lost, 2 changed, 5 repaired, no problems`
fn summary(before: usize, written: &Written) -> String {
    let characters = written.text().chars().count();
    let kinds = [
        (FindingKind::Lost, "lost"),
        (FindingKind::Changed, "changed"),
        (FindingKind::Repaired, "repaired"),
    ];
    let count = |kind: FindingKind| -> u64 {
        let of_kind = written.findings.iter().filter(|found| found.kind() == kind);
        of_kind.map(|finding| u64::from(finding.count)).sum()
    };
    let found: Vec<String> =
        kinds.iter().map(|(kind, word)| format!("{} {word}", grouped(count(*kind)))).collect();
    format!(
        "{} bytes became {} ({} characters); {}, {}",
        grouped(before as u64),
        grouped(written.bytes.len() as u64),
        grouped(characters as u64),
        found.join(", "),
        counted(count(FindingKind::Problem) as usize, "problem", "problems"),
    )
}

/// A number with commas between its thousands.
fn grouped(number: u64) -> String {
    let digits = number.to_string();
    let mut text = String::new();
    for (at, digit) in digits.chars().enumerate() {
        if at > 0 && (digits.len() - at).is_multiple_of(3) {
            text.push(',');
        }
        text.push(digit);
    }
    text
}
