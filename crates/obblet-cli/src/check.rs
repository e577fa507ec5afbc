//! `obblet check`: what is wrong before it is published.

use crate::arguments::CheckArguments;
use crate::check_report::{Checked, Report, explained, json, sarif, text};
use crate::convert::{read_source, shown_name, source_format};
use crate::failure::{Code, Failure};
use crate::fix::{Fixed, fix};
use crate::house::{chosen, settings};
use crate::progress::{Bar, listen_for_stop};
use crate::talk::{print, say};
use crate::targets::refuse_overwriting;
use obblet::findings::{Code as FindingCode, Finding, Severity};
use obblet::{Format, House};
use obblet_publish::{
    CheckedFile, PublishOptions, check_file, check_folder, documents_of, write_atomically,
};
use std::path::{Path, PathBuf};
use std::sync::Arc;

pub(crate) fn run(arguments: &CheckArguments) -> Result<Code, Failure> {
    if let Some(name) = &arguments.explain {
        let text = explained(name).ok_or_else(|| unknown_code(name))?;
        print(text.as_bytes())?;
        return Ok(Code::Done);
    }
    let files = arguments.paths.iter().filter(|path| !path.is_dir());
    refuse_overwriting(files.map(PathBuf::as_path), arguments.sarif.as_deref())?;
    // What is wrong with a setting is wrong for every file.
    chosen(&arguments.house)?;
    listen_for_stop();
    if arguments.fix {
        fix_all(arguments)?;
    }
    let mut report = Report::default();
    for path in &arguments.paths {
        if path.is_dir() {
            check_in(path, arguments, &mut report)?;
        } else {
            report.files.push(check_alone(path, arguments));
        }
    }
    for file in &mut report.files {
        if let Ok(findings) = &mut file.findings {
            findings.retain(|finding| is_wanted(finding, arguments));
        }
    }
    if let Some(target) = &arguments.sarif {
        write_atomically(target, sarif(&report).as_bytes())?;
    }
    let shown = if arguments.json { json(&report) } else { text(&report, arguments.fix) };
    print(shown.as_bytes())?;
    Ok(if report.files.iter().any(|file| file.findings.is_err()) {
        Code::Files
    } else if report.count(Severity::Error) > 0 {
        Code::DoesNotHold
    } else {
        Code::Done
    })
}

fn unknown_code(name: &str) -> Failure {
    let nearest = FindingCode::nearest(name).map(FindingCode::name).unwrap_or_default();
    let hint =
        if nearest.is_empty() { String::new() } else { format!("; did you mean {nearest}?") };
    Failure::Usage(format!("there is no code “{name}”{hint}; --explain all prints all codes"))
}

fn is_wanted(finding: &Finding, arguments: &CheckArguments) -> bool {
    let is_of_topic = arguments.only.is_empty() || arguments.only.contains(&finding.code.topic());
    let is_heavy = finding.code.severity() <= arguments.least;
    is_of_topic && is_heavy && !arguments.ignore.contains(&finding.code)
}

/// One that cannot be read does not keep the others from being checked.
fn check_alone(path: &Path, arguments: &CheckArguments) -> Checked {
    let checked = || -> Result<(Format, Vec<Finding>), String> {
        let source = read_source(path).map_err(|failure| failure.to_string())?;
        let format = source_format(path, arguments.read_as, &source);
        let house = chosen(&arguments.house).map_err(|failure| failure.to_string())?;
        Ok((format, check_file(path, &source, format, &house)?.into_vec()))
    };
    let file = shown_name(path);
    match checked() {
        Ok((format, findings)) => Checked { file, format: Some(format), findings: Ok(findings) },
        Err(why) => {
            let format = Some(source_format(path, arguments.read_as, &[]));
            Checked { file, format, findings: Err(why) }
        }
    }
}

fn check_in(folder: &Path, arguments: &CheckArguments, report: &mut Report) -> Result<(), Failure> {
    let bar = Bar::new();
    let files = check_folder(folder, &options(arguments)?, &bar)?;
    bar.finish();
    for CheckedFile { file, format, findings } in files {
        let file = match folder == Path::new(".") {
            true => file,
            false => folder.join(file).display().to_string(),
        };
        report.files.push(Checked {
            file,
            format,
            findings: findings.map(|found| found.into_vec()),
        });
    }
    Ok(())
}

fn options(arguments: &CheckArguments) -> Result<PublishOptions, Failure> {
    Ok(PublishOptions {
        house: chosen(&arguments.house)?,
        follow_folder_houses: arguments.house.house.is_none(),
        settings: settings(&arguments.house.settings)?,
        skip: arguments.skip.clone(),
        ..PublishOptions::default()
    })
}

/// Mends every file in which a repair pass finds something to do, and says what it did.
fn fix_all(arguments: &CheckArguments) -> Result<(), Failure> {
    let house = Arc::new(chosen(&arguments.house)?);
    let mut files: Vec<(PathBuf, Arc<House>)> = Vec::new();
    for path in &arguments.paths {
        if path.is_dir() {
            let found = documents_of(path, &options(arguments)?)?;
            files.extend(found.into_iter().map(|(file, house)| (path.join(file), house)));
        } else if path == Path::new("-") {
            let why = "--fix needs the names of the files to mend; standard input has none";
            return Err(Failure::Usage(why.into()));
        } else {
            files.push((path.clone(), house.clone()));
        }
    }
    for (file, house) in files {
        let shown = file.display();
        match fix(&file, arguments.read_as, &house) {
            Ok(Fixed::Nothing) => {}
            Ok(Fixed::Refused(why)) => say(&format!("{shown}: not mended: {why}")),
            Ok(Fixed::Mended { what, backup }) => {
                say(&format!("{shown}: mended {what}; the file as it was is {}", backup.display()));
            }
            Err(failure) => say(&format!("obblet: {failure}")),
        }
    }
    Ok(())
}
