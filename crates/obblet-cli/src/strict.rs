//! What `--strict` holds: nothing is lost that matters, and no link leads nowhere.

use crate::failure::Code;
use obblet::findings::{Finding, FindingKind, Weight};

/// The exit code of a run that is done.
pub(crate) fn code_of<'f>(
    strict: Option<Weight>,
    findings: impl IntoIterator<Item = &'f Finding>,
) -> Code {
    let is_broken = strict.is_some_and(|least| findings.into_iter().any(|it| breaks(it, least)));
    if is_broken { Code::DoesNotHold } else { Code::Done }
}

fn breaks(finding: &Finding, least: Weight) -> bool {
    let is_lost = finding.kind() == FindingKind::Lost && finding.weight() <= least;
    is_lost || finding.code.is_broken_link()
}
