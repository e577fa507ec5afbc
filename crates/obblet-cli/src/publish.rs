//! `obblet publish`: a folder.

use crate::arguments::PublishArguments;
use crate::failure::{Code, Failure};
use crate::house::chosen;
use crate::talk::{counted, painted, print, say};
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressState, ProgressStyle};
use obblet::findings::{Finding, Severity};
use obblet_publish::{
    Action, Outcome, OutcomeKind, Plan, PublishOptions, Report, Watcher, publish, write_atomically,
};
use serde::Serialize;
use std::collections::BTreeMap;
use std::path::Path;

pub(crate) fn run(arguments: &PublishArguments) -> Result<Code, Failure> {
    let options = PublishOptions {
        house: chosen(&arguments.house)?,
        title: None,
        jobs: arguments.jobs,
        overwrite: arguments.overwrite,
    };
    let plan = Plan::of(&arguments.folder, &arguments.output, &options)?;
    if arguments.dry_run {
        print(dry_run(&plan, arguments.json).as_bytes())?;
        return Ok(Code::Done);
    }
    let report = publish_watched(&plan, &options)?;
    if let Some(ledger) = &arguments.ledger {
        let files: Vec<LedgerFile<'_>> = report
            .outcomes
            .iter()
            .filter(|outcome| !outcome.findings.is_empty())
            .map(|outcome| LedgerFile { file: &outcome.source, findings: &outcome.findings })
            .collect();
        write_ledger(ledger, &files)?;
    }
    let output = arguments.output.display().to_string();
    print(summary(&report, &output, arguments.json).as_bytes())?;
    Ok(exit_code(&report, arguments.strict))
}

/// The most lines about files that a run prints; all of them are in the ledger.
const LINES: usize = 40;

/// Publishes with a progress bar, then says what an editor has to act on: failures, losses and
/// problems. What was only changed or repaired is in the counts, and in the ledger.
pub(crate) fn publish_watched(plan: &Plan, options: &PublishOptions) -> Result<Report, Failure> {
    let bar = Bar::new();
    let report = publish(plan, options, &bar)?;
    bar.0.finish_and_clear();
    let mut lines = Vec::new();
    for outcome in &report.outcomes {
        let failed = matches!(outcome.kind, OutcomeKind::Failed | OutcomeKind::InConflict);
        if failed && let Some(reason) = &outcome.reason {
            let name = if outcome.source.is_empty() { &outcome.target } else { &outcome.source };
            lines.push(format!("{name}: {}: {reason}", outcome.kind.word()));
        }
    }
    for outcome in &report.outcomes {
        let acted_on =
            |finding: &&Finding| matches!(finding.severity(), Severity::Lost | Severity::Problem);
        let findings = outcome.findings.iter().filter(acted_on);
        lines.extend(findings.map(|finding| painted(finding, &outcome.source)));
    }
    lines.iter().take(LINES).for_each(|line| say(line));
    if lines.len() > LINES {
        let more = lines.len() - LINES;
        say(&format!("and {more} more; --ledger FILE writes all of them"));
    }
    Ok(report)
}

pub(crate) fn exit_code(report: &Report, strict: bool) -> Code {
    let failed = report.count(OutcomeKind::Failed) + report.count(OutcomeKind::InConflict);
    if failed > 0 {
        Code::Files
    } else if strict && report.findings(Severity::Lost) > 0 {
        Code::DoesNotHold
    } else {
        Code::Done
    }
}

/// A progress bar, on a terminal only.
struct Bar(ProgressBar);

impl Bar {
    fn new() -> Self {
        let bar = ProgressBar::with_draw_target(None, ProgressDrawTarget::stderr());
        let form = "{bar:30} {pos} of {len} files, {rate}, {eta} left  {wide_msg}";
        if let Ok(style) = ProgressStyle::with_template(form) {
            bar.set_style(style.with_key("rate", rate));
        }
        Self(bar)
    }
}

/// `364 a second`
fn rate(state: &ProgressState, out: &mut dyn std::fmt::Write) {
    let _ = write!(out, "{:.0} a second", state.per_sec());
}

impl Watcher for Bar {
    fn begins(&self, files: usize) {
        self.0.set_length(files as u64);
    }

    fn done(&self, outcome: &Outcome) {
        self.0.set_message(outcome.source.clone());
        self.0.inc(1);
    }
}

/// The summary an editor reads in five seconds.
pub(crate) fn summary(report: &Report, output: &str, json: bool) -> String {
    let counts: BTreeMap<&str, usize> =
        OutcomeKind::ALL.into_iter().map(|kind| (kind.word(), report.count(kind))).collect();
    let severities = [Severity::Lost, Severity::Changed, Severity::Repaired, Severity::Problem];
    if json {
        let findings: BTreeMap<String, u64> = severities
            .into_iter()
            .map(|severity| (severity.to_string(), report.findings(severity)))
            .collect();
        let files: Vec<&Outcome> = report.outcomes.iter().collect();
        let whole = serde_json::json!({
            "output": output, "counts": counts, "findings": findings, "files": files,
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
    let findings: Vec<String> = severities
        .into_iter()
        .map(|severity| (severity, report.findings(severity)))
        .filter(|(_, count)| *count > 0)
        .map(|(severity, count)| match (severity, count) {
            (Severity::Problem, 2..) => format!("{count} problems"),
            _ => format!("{count} {severity}"),
        })
        .collect();
    if !findings.is_empty() {
        text.push_str(&format!("Findings: {}\n", findings.join(", ")));
    }
    let seconds = report.duration.as_secs_f64();
    text.push_str(&format!("{output} is ready ({seconds:.1} s)\n"));
    text
}

/// What a run would do.
fn dry_run(plan: &Plan, json: bool) -> String {
    let rows: Vec<PlanRow<'_>> = plan
        .entries()
        .iter()
        .map(|entry| PlanRow {
            source: &entry.source,
            target: &entry.target,
            action: action_word(entry.action),
            is_new: !plan.output().join(&entry.target).exists(),
        })
        .collect();
    if json {
        return format!("{:#}\n", serde_json::json!({ "files": rows }));
    }
    let mut text = String::new();
    for row in &rows {
        let there = if row.is_new { "" } else { "  (is there already)" };
        text.push_str(&format!("{:<8} {} → {}{there}\n", row.action, row.source, row.target));
    }
    let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
    rows.iter().for_each(|row| *counts.entry(row.action).or_default() += 1);
    let counts: Vec<String> =
        counts.iter().map(|(word, count)| format!("{count} {word}")).collect();
    let files = counted(rows.len(), "file", "files");
    text.push_str(&format!("{files}: {}. Nothing was written.\n", counts.join(", ")));
    text
}

#[derive(Serialize)]
struct PlanRow<'p> {
    source: &'p str,
    target: &'p str,
    action: &'static str,
    is_new: bool,
}

fn action_word(action: Action) -> &'static str {
    match action {
        Action::Convert(_) => "convert",
        Action::Copy => "copy",
        Action::SkipLink => "skip",
    }
}

/// One file of the ledger.
#[derive(Serialize)]
pub(crate) struct LedgerFile<'f> {
    pub(crate) file: &'f str,
    #[serde(serialize_with = "with_words")]
    pub(crate) findings: &'f [Finding],
}

/// A finding with its severity and its words, for readers that do not know the codes.
fn with_words<S: serde::Serializer>(
    findings: &[Finding],
    serializer: S,
) -> Result<S::Ok, S::Error> {
    #[derive(Serialize)]
    struct Row<'f> {
        severity: Severity,
        message: String,
        #[serde(flatten)]
        finding: &'f Finding,
    }
    serializer.collect_seq(findings.iter().map(|finding| Row {
        severity: finding.severity(),
        message: finding.message(),
        finding,
    }))
}

/// Writes the ledger: all findings of a run, by file. See `docs/ledger.md`.
pub(crate) fn write_ledger(path: &Path, files: &[LedgerFile<'_>]) -> Result<(), Failure> {
    let ledger = serde_json::json!({ "version": 1, "files": files });
    write_atomically(path, format!("{ledger:#}\n").as_bytes())?;
    Ok(())
}
