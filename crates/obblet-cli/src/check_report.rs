//! What `obblet check` has found: as text, as JSON, and in SARIF 2.1.0.

use crate::talk::{counted, harmless};
use obblet::Format;
use obblet::address::relative;
use obblet::findings::{Code, Finding, Severity};
use serde_json::{Value, json};
use std::collections::{BTreeSet, HashSet};
use std::fmt::Write as _;
use std::io::{self, IsTerminal as _};

/// One checked file, as it is reported.
#[derive(Debug)]
pub(crate) struct Checked {
    pub(crate) file: String,
    pub(crate) format: Option<Format>,
    pub(crate) findings: Result<Vec<Finding>, String>,
}

/// All files of a run.
#[derive(Debug, Default)]
pub(crate) struct Report {
    pub(crate) files: Vec<Checked>,
}

impl Report {
    /// How many findings weigh so much.
    pub(crate) fn count(&self, wanted: Severity) -> u64 {
        let findings = self.files.iter().filter_map(|file| file.findings.as_ref().ok()).flatten();
        let of_severity = findings.filter(|finding| finding.code.severity() == wanted);
        of_severity.map(|finding| u64::from(finding.count)).sum()
    }
}

/// A line for each finding, and below the first of each code what one can do.
pub(crate) fn text(report: &Report, is_mended: bool) -> String {
    let is_coloured = io::stdout().is_terminal() && std::env::var_os("NO_COLOR").is_none();
    let mut text = String::new();
    let mut told: HashSet<Code> = HashSet::new();
    for Checked { file, findings, .. } in &report.files {
        let findings = match findings {
            Ok(findings) => findings,
            Err(why) => {
                let _ = writeln!(text, "{}: not checked: {}", harmless(file), harmless(why));
                continue;
            }
        };
        for finding in findings {
            let _ = writeln!(text, "{}", line(finding, file, is_coloured));
            if told.insert(finding.code) {
                let mending = finding.code.mending();
                let _ = writeln!(text, "{}", painted(&format!("    {mending}"), "2", is_coloured));
            }
        }
    }
    if !text.is_empty() {
        text.push('\n');
    }
    let counts: Vec<String> = Severity::ALL
        .into_iter()
        .map(|severity| (severity, report.count(severity) as usize))
        .filter(|(_, count)| *count > 0)
        .map(|(severity, count)| match severity {
            Severity::Error => counted(count, "error", "errors"),
            Severity::Warning => counted(count, "warning", "warnings"),
            Severity::Advice => counted(count, "piece of advice", "pieces of advice"),
        })
        .collect();
    let unread = report.files.iter().filter(|checked| checked.findings.is_err()).count();
    let mut files = counted(report.files.len() - unread, "file", "files");
    if unread > 0 {
        let _ = write!(files, " checked, {unread} not");
    }
    let left = if is_mended { " left" } else { "" };
    let _ = match counts.is_empty() {
        true if unread == report.files.len() && unread > 0 => writeln!(text, "{files}"),
        true => writeln!(text, "{files}: nothing found"),
        false => writeln!(text, "{files}: {}{left}", counts.join(", ")),
    };
    text
}

/// `guide.md:12:3: error: …  [code]`
fn line(finding: &Finding, file: &str, is_coloured: bool) -> String {
    let weight = finding.code.severity();
    let colour = match weight {
        Severity::Error => "31",
        Severity::Warning => "33",
        Severity::Advice => "36",
    };
    let mut place = format!("{}:", harmless(finding.file.as_deref().unwrap_or(file)));
    if let Some(position) = finding.position {
        let _ = write!(place, "{}:{}:", position.line, position.column);
    }
    let weight = painted(&weight.to_string(), colour, is_coloured);
    let code = painted(&format!("[{}]", finding.code), "2", is_coloured);
    format!("{place} {weight}: {} {code}", harmless(&finding.message()))
}

fn painted(text: &str, colour: &str, is_coloured: bool) -> String {
    if is_coloured { format!("\x1b[{colour}m{text}\x1b[0m") } else { text.to_string() }
}

pub(crate) fn json(report: &Report) -> String {
    let files: Vec<Value> = report.files.iter().map(file_json).collect();
    let counts: serde_json::Map<String, Value> = Severity::ALL
        .into_iter()
        .map(|severity| (severity.to_string(), report.count(severity).into()))
        .collect();
    let whole = json!({ "version": 1, "counts": counts, "files": files });
    format!("{whole:#}\n")
}

fn file_json(checked: &Checked) -> Value {
    let Checked { file, format, findings } = checked;
    match findings {
        Err(why) => json!({ "file": file, "format": format, "error": why, "findings": [] }),
        Ok(findings) => {
            let findings: Vec<Value> = findings.iter().map(finding_json).collect();
            json!({ "file": file, "format": format, "findings": findings })
        }
    }
}

fn finding_json(finding: &Finding) -> Value {
    json!({
        "code": finding.code,
        "severity": finding.code.severity(),
        "topic": finding.code.topic(),
        "line": finding.position.map(|position| position.line),
        "column": finding.position.map(|position| position.column),
        "in": finding.file,
        "message": finding.message(),
        "mending": finding.code.mending(),
        "count": finding.count,
    })
}

/// SARIF 2.1.0 (OASIS), which code hosts and editors read.
pub(crate) fn sarif(report: &Report) -> String {
    let found =
        || report.files.iter().filter_map(|file| Some((file, file.findings.as_ref().ok()?)));
    let codes: BTreeSet<Code> =
        found().flat_map(|(_, findings)| findings.iter().map(|finding| finding.code)).collect();
    let rules: Vec<Value> = codes
        .into_iter()
        .map(|code| {
            json!({
                "id": code.name(),
                "shortDescription": { "text": code.message().replace("{}", "…") },
                "fullDescription": { "text": code.explanation() },
                "help": { "text": code.mending() },
                "defaultConfiguration": { "level": level(code) },
            })
        })
        .collect();
    let results: Vec<Value> = found()
        .flat_map(|(checked, findings)| {
            findings.iter().map(|finding| result(finding, &checked.file))
        })
        .collect();
    let whole = json!({
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": {
                "name": "Obblet",
                "semanticVersion": env!("CARGO_PKG_VERSION"),
                "rules": rules,
            } },
            "columnKind": "unicodeCodePoints",
            "results": results,
        }],
    });
    format!("{whole:#}\n")
}

fn result(finding: &Finding, file: &str) -> Value {
    let name = finding.file.as_deref().unwrap_or(file).replace('\\', "/");
    let scheme = if name.starts_with('/') { "file://" } else { "" };
    let address = format!("{scheme}{}", relative("", &name));
    let mut place = json!({ "artifactLocation": { "uri": address } });
    if let Some(position) = finding.position {
        place["region"] = json!({ "startLine": position.line, "startColumn": position.column });
    }
    json!({
        "ruleId": finding.code.name(),
        "level": level(finding.code),
        "message": { "text": finding.message() },
        "locations": [{ "physicalLocation": place }],
    })
}

fn level(code: Code) -> &'static str {
    match code.severity() {
        Severity::Error => "error",
        Severity::Warning => "warning",
        Severity::Advice => "note",
    }
}

/// What a code means, or with `all` what all mean, as Markdown.
pub(crate) fn explained(name: &str) -> Option<String> {
    if name != "all" {
        return Code::of_name(name).map(plain_entry);
    }
    let mut text = String::from(ALL_HEAD);
    for code in Code::all() {
        text.push('\n');
        // A sign that begins a tag elsewhere is a sign here.
        text.push_str(&entry(code).replace('<', "\\<"));
    }
    Some(text)
}

/// One code, for a terminal.
fn plain_entry(code: Code) -> String {
    format!(
        "{code} ({}, {})\n{}\n\n{}\n\nWhat to do: {}\n",
        code.severity(),
        code.topic().name(),
        code.message().replace("{}", "…"),
        code.explanation(),
        code.mending(),
    )
}

const ALL_HEAD: &str = "\
# Findings

What a conversion or a check can have to say, by its code, in the order of the program's own list. The
*kind* is that of a conversion: something was lost, changed or repaired, or is a problem of the source.
The *severity* is that of a check: error, warning or advice. `obblet check --explain CODE` prints one of these
paragraphs; this page is `obblet check --explain all`.
";

/// One code, as Markdown.
fn entry(code: Code) -> String {
    format!(
        "## {code}\n\n*{}; {}; {}*\n\n{}\n\n{}\n\nWhat to do: {}\n",
        code.kind(),
        code.severity(),
        code.topic().name(),
        sentence(code.message()),
        code.explanation(),
        code.mending(),
    )
}

/// The words of a finding, with a gap for its subject.
fn sentence(message: &str) -> String {
    format!("> {}", message.replace("{}", "…"))
}
