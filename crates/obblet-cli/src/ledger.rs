//! The ledger: the findings of a run, as JSON. See `docs/ledger.md`.

use crate::failure::Failure;
use obblet::Account;
use obblet::findings::{Construct, Finding, FindingKind, Severity, Weight};
use obblet_publish::write_atomically;
use serde::Serialize;
use std::path::Path;

/// One file of the ledger.
#[derive(Serialize)]
pub(crate) struct LedgerFile<'f> {
    pub(crate) file: &'f str,
    /// How many words went through.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub(crate) account: Option<Account>,
    #[serde(serialize_with = "with_words")]
    pub(crate) findings: &'f [Finding],
}

/// A finding with what its code says and its words, for readers that do not know the codes.
fn with_words<S: serde::Serializer>(
    findings: &[Finding],
    serializer: S,
) -> Result<S::Ok, S::Error> {
    #[derive(Serialize)]
    struct Row<'f> {
        kind: FindingKind,
        severity: Severity,
        weight: Weight,
        #[serde(skip_serializing_if = "Option::is_none")]
        construct: Option<Construct>,
        message: String,
        #[serde(flatten)]
        finding: &'f Finding,
    }
    serializer.collect_seq(findings.iter().map(|finding| Row {
        kind: finding.kind(),
        severity: finding.code.severity(),
        weight: finding.weight(),
        construct: finding.construct(),
        message: finding.message(),
        finding,
    }))
}

/// Writes the ledger: all findings of a run, by file.
pub(crate) fn write_ledger(path: &Path, files: &[LedgerFile<'_>]) -> Result<(), Failure> {
    let ledger = serde_json::json!({ "version": 2, "files": files });
    write_atomically(path, format!("{ledger:#}\n").as_bytes())?;
    Ok(())
}
