//! What goes to standard error and standard output.

use crate::failure::Failure;
use obblet::findings::{Code as FindingCode, Finding, FindingKind, Weight};
use std::io::{self, IsTerminal as _, Write as _};

/// How many findings of one document are printed beside what was lost; all of them are in the ledger.
const SHOWN: usize = 12;

/// A line of talk. Nobody can be told when standard error is closed.
pub(crate) fn say(line: &str) {
    say_as_it_is(&harmless(line));
}

/// A finding as a line.
pub(crate) fn say_finding(finding: &Finding, file: &str) {
    say_as_it_is(&painted(finding, file));
}

/// A text that cannot steer a terminal or show its words in another order: names of files and words of
/// documents may hold anything.
pub(crate) fn harmless(text: &str) -> String {
    let steers = |c: char| {
        c.is_control() && !matches!(c, '\n' | '\t')
            || matches!(c, '\u{200e}' | '\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}')
    };
    let shown = |c: char| if steers(c) { c.escape_unicode().to_string() } else { c.to_string() };
    match text.chars().any(steers) {
        true => text.chars().map(shown).collect(),
        false => text.to_string(),
    }
}

fn say_as_it_is(line: &str) {
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

/// Findings, one a line: what was lost of content and structure first and in full, then what else one may
/// have to act on; of formatting and layout only how much there is.
pub(crate) fn say_findings(file: &str, findings: &[Finding]) {
    let is_light = |finding: &&Finding| finding.weight() > Weight::Structure;
    let (light, mut heavy): (Vec<&Finding>, Vec<&Finding>) =
        findings.iter().partition(|finding| is_light(finding) && !must_be_said(finding));
    heavy.sort_by_key(|finding| (rank(finding), finding.weight()));
    let in_full = heavy.iter().take_while(|finding| must_be_said(finding)).count();
    let shown = heavy.len().min(in_full.max(SHOWN));
    heavy.iter().take(shown).for_each(|finding| say_finding(finding, file));
    if heavy.len() > shown {
        let more = heavy.len() - shown;
        say(&format!("{file}: and {more} more findings; --ledger FILE writes all of them"));
    }
    for weight in [Weight::Formatting, Weight::Layout] {
        say_light(file, weight, &light);
    }
}

/// Findings of little weight, in one line.
fn say_light(file: &str, weight: Weight, findings: &[&Finding]) {
    let mut of_weight = findings.iter().filter(|finding| finding.weight() == weight);
    let Some(first) = of_weight.next() else { return };
    match of_weight.count() {
        0 => say_finding(first, file),
        more => {
            let count = counted(more + 1, "finding", "findings");
            say(&format!("{file}: {weight}: {count} not shown; --ledger FILE lists them"));
        }
    }
}

/// Whether a finding is shown however many there are.
fn must_be_said(finding: &Finding) -> bool {
    let is_lost = finding.kind() == FindingKind::Lost && finding.weight() <= Weight::Structure;
    is_lost || finding.code == FindingCode::TooLong
}

/// Those first that one has to act on.
fn rank(finding: &Finding) -> u8 {
    match (finding.code, finding.kind()) {
        // The destination will not take it at all.
        (FindingCode::TooLong, _) => 0,
        (_, FindingKind::Lost) => 1,
        (_, FindingKind::Problem) => 2,
        (_, FindingKind::Changed) => 3,
        (_, FindingKind::Repaired) => 4,
    }
}

/// A finding as a line, its kind in colour on a terminal.
fn painted(finding: &Finding, file: &str) -> String {
    let line = harmless(&finding.line(file));
    if !io::stderr().is_terminal() || std::env::var_os("NO_COLOR").is_some() {
        return line;
    }
    let colour = match finding.kind() {
        FindingKind::Lost => "\x1b[31m",
        FindingKind::Changed => "\x1b[33m",
        FindingKind::Repaired => "\x1b[32m",
        FindingKind::Problem => "\x1b[35m",
    };
    let word = finding.kind().to_string();
    line.replacen(&format!(" {word}: "), &format!(" {colour}{word}\x1b[0m: "), 1)
}

/// `1 page`, `2 pages`
pub(crate) fn counted(count: usize, one: &str, many: &str) -> String {
    format!("{count} {}", if count == 1 { one } else { many })
}
