//! `obblet publish`: a folder.

use crate::arguments::PublishArguments;
use crate::dry_run;
use crate::failure::{Code, Failure};
use crate::house::{chosen, settings, tell_of_trust};
use crate::ledger::{LedgerFile, write_ledger};
use crate::progress::{Bar, is_stopped, listen_for_stop};
use crate::strict::code_of;
use crate::talk::{counted, harmless, print, say, say_finding};
use crate::targets::refuse_overwriting;
use obblet::findings::{Finding, FindingKind, Weight};
use obblet_publish::{
    CatalogueForm, Changes, Outcome, OutcomeKind, Plan, PublishOptions, Report, archive, catalogue,
    folder_of, publish, write_atomically,
};
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::time::Duration;

pub(crate) fn run(arguments: &PublishArguments) -> Result<Code, Failure> {
    let options = options(arguments)?;
    tell_of_trust(&options.house);
    let plan = Plan::of(&arguments.folder, &arguments.output, &options)?;
    refuse_targets_in_source(arguments, &plan)?;
    if arguments.dry_run {
        let shown =
            if arguments.json { dry_run::json(&plan) } else { harmless(&dry_run::text(&plan)) };
        print(shown.as_bytes())?;
        return Ok(Code::Done);
    }
    let code = run_once(arguments, &plan, &options)?;
    std::mem::forget(plan);
    if arguments.watch { watch(arguments) } else { Ok(code) }
}

/// What is written beside the pages may be no source, and no two of them one file.
fn refuse_targets_in_source(arguments: &PublishArguments, plan: &Plan) -> Result<(), Failure> {
    let sources: Vec<_> = plan.sources().collect();
    let targets = [&arguments.log, &arguments.ledger, &arguments.zip, &arguments.catalogue];
    let targets = targets.into_iter().flatten().map(PathBuf::as_path);
    refuse_overwriting(sources.iter().map(PathBuf::as_path), targets)
}

/// One run, with all that was asked for beside the pages.
fn run_once(
    arguments: &PublishArguments,
    plan: &Plan,
    options: &PublishOptions,
) -> Result<Code, Failure> {
    let report = publish_watched(plan, options)?;
    if let Some(log) = &arguments.log {
        write_atomically(log, log_lines(&report).as_bytes())?;
    }
    if let Some(ledger) = &arguments.ledger {
        let files: Vec<LedgerFile<'_>> = report
            .outcomes
            .iter()
            .filter(|outcome| !outcome.findings.is_empty() || outcome.account.is_some())
            .map(|outcome| LedgerFile {
                file: &outcome.source,
                account: outcome.account,
                findings: &outcome.findings,
            })
            .collect();
        write_ledger(ledger, &files)?;
    }
    if !report.stopped {
        write_extras(arguments, plan, options)?;
    }
    let output = arguments.output.display().to_string();
    print(summary(&report, &output, arguments.json).as_bytes())?;
    let code = exit_code(&report, arguments.strict);
    if !arguments.watch {
        // The process ends: the system takes the memory of a large report back faster than we.
        std::mem::forget(report);
    }
    Ok(code)
}

/// Publishes again whenever something changes, until somebody presses Ctrl-C.
fn watch(arguments: &PublishArguments) -> Result<Code, Failure> {
    let mut folders = vec![arguments.folder.as_path()];
    let house = arguments.house.house.as_deref().map(Path::new).filter(|path| path.is_file());
    // A house file brings pieces that stand beside it.
    folders.extend(house.map(folder_of));
    let changes = Changes::watch(&folders).map_err(|error| Failure::Watch(error.to_string()))?;
    say(&format!("Watching {}; Ctrl-C ends it", arguments.folder.display()));
    let mut seen = changes.count();
    while !is_stopped() {
        let Some(now) = changes.wait(seen, Duration::from_millis(300)) else { continue };
        seen = now;
        // What is wrong now may be right after the next change.
        let run = || {
            let options = options(arguments)?;
            let plan = Plan::of(&arguments.folder, &arguments.output, &options)?;
            run_once(arguments, &plan, &options)
        };
        if let Err(failure) = run() {
            say(&format!("obblet: {failure}"));
        }
    }
    Ok(Code::Done)
}

fn options(arguments: &PublishArguments) -> Result<PublishOptions, Failure> {
    let mut house = chosen(&arguments.house)?;
    if let Some(format) = arguments.write_as {
        house.page.format = format;
    }
    Ok(PublishOptions {
        house,
        follow_folder_houses: arguments.house.house.is_none(),
        settings: settings(&arguments.house.settings)?,
        title: arguments.title.clone(),
        formats: (!arguments.formats.is_empty()).then(|| arguments.formats.clone()),
        only: arguments.only.clone(),
        skip: arguments.skip.clone(),
        hidden: arguments.hidden,
        split: arguments.split.unwrap_or_default(),
        jobs: arguments.jobs,
        patience: Duration::from_secs(arguments.patience.get().into()),
        rebuild: arguments.rebuild,
        prune: arguments.prune,
        overwrite: arguments.overwrite,
        ..PublishOptions::default()
    })
}

/// The archive and the catalogue, where they are asked for.
fn write_extras(
    arguments: &PublishArguments,
    plan: &Plan,
    options: &PublishOptions,
) -> Result<(), Failure> {
    if let Some(file) = &arguments.zip {
        let count = counted(archive(plan, file)?, "file", "files");
        say(&format!("{count} in {}", file.display()));
    }
    if let Some(file) = &arguments.catalogue {
        let form = match file.extension().and_then(|ending| ending.to_str()) {
            Some("csv") => CatalogueForm::Csv,
            Some("json") => CatalogueForm::Json,
            _ => {
                let shown = file.display();
                let why = format!("--catalogue {shown}: the name must end with .csv or .json");
                return Err(Failure::Usage(why));
            }
        };
        let count = counted(catalogue(plan, options, form, file)?, "page", "pages");
        say(&format!("{count} in {}", file.display()));
    }
    Ok(())
}

/// A line for each file: what became of it, how long it took, how much there is to say about it.
fn log_lines(report: &Report) -> String {
    let mut text = String::new();
    for outcome in &report.outcomes {
        let name = if outcome.source.is_empty() { &outcome.target } else { &outcome.source };
        let milliseconds = outcome.duration.as_secs_f64() * 1000.0;
        text.push_str(&format!(
            "{:<11} {milliseconds:>9.1} ms {:>5} {name}",
            outcome.kind.word(),
            counted(outcome.findings.len(), "finding", "findings"),
        ));
        if !outcome.source.is_empty() && !outcome.target.is_empty() {
            text.push_str(&format!(" → {}", outcome.target));
        }
        let said = outcome.reason.iter().chain(&outcome.notes);
        said.for_each(|said| text.push_str(&format!("; {said}")));
        text.push('\n');
    }
    text
}

/// The most lines about files that a run prints; all of them are in the ledger.
const LINES: usize = 40;

/// What is said of a file.
enum Line<'r> {
    Told(String),
    Finding(&'r Finding, &'r str),
}

/// Publishes with a progress bar, then says what an editor has to act on: failures, losses and
/// problems. What was only changed or repaired is in the counts, and in the ledger.
pub(crate) fn publish_watched(plan: &Plan, options: &PublishOptions) -> Result<Report, Failure> {
    listen_for_stop();
    let bar = Bar::new();
    let report = publish(plan, options, &bar)?;
    bar.finish();
    let mut lines: Vec<Line<'_>> = Vec::new();
    for outcome in &report.outcomes {
        let name = if outcome.source.is_empty() { &outcome.target } else { &outcome.source };
        let failed = matches!(outcome.kind, OutcomeKind::Failed | OutcomeKind::InConflict);
        if failed && let Some(reason) = &outcome.reason {
            lines.push(Line::Told(format!("{name}: {}: {reason}", outcome.kind.word())));
        }
        lines.extend(
            outcome
                .notes
                .iter()
                .map(|note| Line::Told(format!("{name}: {note}; see {}", outcome.target))),
        );
    }
    for outcome in &report.outcomes {
        let acted_on =
            |finding: &&Finding| matches!(finding.kind(), FindingKind::Lost | FindingKind::Problem);
        let findings = outcome.findings.iter().filter(acted_on);
        lines.extend(findings.map(|finding| Line::Finding(finding, &outcome.source)));
    }
    for line in lines.iter().take(LINES) {
        match line {
            Line::Told(line) => say(line),
            Line::Finding(finding, file) => say_finding(finding, file),
        }
    }
    if lines.len() > LINES {
        let more = lines.len() - LINES;
        say(&format!("and {more} more; --ledger FILE writes all findings, --log FILE all files"));
    }
    Ok(report)
}

pub(crate) fn exit_code(report: &Report, strict: Option<Weight>) -> Code {
    let failed = report.count(OutcomeKind::Failed) + report.count(OutcomeKind::InConflict);
    if failed > 0 || report.stopped {
        return Code::Files;
    }
    code_of(strict, report.outcomes.iter().flat_map(|outcome| &outcome.findings))
}

/// ` but for 2 files`, where some failed or are in conflict.
fn but_for(report: &Report) -> String {
    match report.count(OutcomeKind::Failed) + report.count(OutcomeKind::InConflict) {
        0 => String::new(),
        left => format!(" but for {}", counted(left, "file", "files")),
    }
}

/// The summary an editor reads in five seconds.
pub(crate) fn summary(report: &Report, output: &str, json: bool) -> String {
    let counts: BTreeMap<&str, usize> =
        OutcomeKind::ALL.into_iter().map(|kind| (kind.word(), report.count(kind))).collect();
    if json {
        let findings: BTreeMap<String, u64> = FindingKind::ALL
            .into_iter()
            .map(|kind| (kind.to_string(), report.findings(kind)))
            .collect();
        let files: Vec<&Outcome> = report.outcomes.iter().collect();
        let whole = serde_json::json!({
            "output": output, "counts": counts, "findings": findings,
            "earlier_findings": report.earlier_findings.iter().sum::<u64>(),
            "stopped": report.stopped, "files": files,
        });
        return format!("{whole:#}\n");
    }
    let mut text = String::new();
    for kind in OutcomeKind::ALL {
        let count = report.count(kind);
        if count > 0 {
            text.push_str(&format!("{count:>6} {}\n", kind.word()));
        }
    }
    let findings: Vec<String> = FindingKind::ALL
        .into_iter()
        .map(|kind| (kind, report.findings(kind)))
        .filter(|(_, count)| *count > 0)
        .map(|(kind, count)| match (kind, count) {
            (FindingKind::Problem, 2..) => format!("{count} problems"),
            _ => format!("{count} {kind}"),
        })
        .collect();
    if !findings.is_empty() {
        text.push_str(&format!("Findings: {}\n", findings.join(", ")));
    }
    let earlier: u64 = report.earlier_findings.iter().sum();
    if earlier > 0 {
        text.push_str(&format!("Unchanged files had {earlier} more; --rebuild tells them again\n"));
    }
    let seconds = report.duration.as_secs_f64();
    text.push_str(&match report.stopped {
        true => format!(
            "Stopped after {seconds:.1} s; what is written is whole. Run it again to go on\n"
        ),
        false => format!("{output} is ready{} ({seconds:.1} s)\n", but_for(report)),
    });
    text
}
