//! What goes to standard error and standard output.

use crate::failure::Failure;
use obblet::findings::{Code as FindingCode, Finding, Severity};
use std::io::{self, IsTerminal as _, Write as _};

/// The most findings of one document that are printed; all of them are in the ledger.
const SHOWN: usize = 12;

/// A line of talk. Nobody can be told when standard error is closed.
pub(crate) fn say(line: &str) {
    // In one piece, so that nothing of another program comes between.
    let _ = io::stderr().lock().write_all(format!("{line}\n").as_bytes());
}

/// A result. A reader that has seen enough is no failure.
pub(crate) fn print(result: &[u8]) -> Result<(), Failure> {
    let mut out = io::stdout().lock();
    match out.write_all(result).and_then(|()| out.flush()) {
        Err(error) if error.kind() == io::ErrorKind::BrokenPipe => Ok(()),
        other => other.map_err(Failure::Output),
    }
}

/// Findings, one a line, those first that one has to act on; says how many more there are.
pub(crate) fn say_findings(file: &str, findings: &[Finding]) {
    let mut sorted: Vec<&Finding> = findings.iter().collect();
    sorted.sort_by_key(|finding| match (finding.code, finding.severity()) {
        // The destination will not take it at all.
        (FindingCode::TooLong, _) => 0,
        (_, Severity::Lost) => 1,
        (_, Severity::Problem) => 2,
        (_, Severity::Changed) => 3,
        (_, Severity::Repaired) => 4,
    });
    for finding in sorted.iter().take(SHOWN) {
        say(&painted(finding, file));
    }
    if sorted.len() > SHOWN {
        let more = sorted.len() - SHOWN;
        say(&format!("{file}: and {more} more findings; --ledger FILE writes all of them"));
    }
}

/// A finding as a line, its severity in colour on a terminal.
pub(crate) fn painted(finding: &Finding, file: &str) -> String {
    let line = finding.line(file);
    if !io::stderr().is_terminal() || std::env::var_os("NO_COLOR").is_some() {
        return line;
    }
    let colour = match finding.severity() {
        Severity::Lost => "\x1b[31m",
        Severity::Changed => "\x1b[33m",
        Severity::Repaired => "\x1b[32m",
        Severity::Problem => "\x1b[35m",
    };
    let word = finding.severity().to_string();
    line.replacen(&format!(" {word}: "), &format!(" {colour}{word}\x1b[0m: "), 1)
}

/// `1 page`, `2 pages`
pub(crate) fn counted(count: usize, one: &str, many: &str) -> String {
    format!("{count} {}", if count == 1 { one } else { many })
}
