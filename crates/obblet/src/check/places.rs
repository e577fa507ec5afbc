//! Where in its block a fault stands. Inlines do not know their places; what a finding is about is
//! looked for in the text of the block.

use crate::document::Place;
use crate::findings::{Code, Finding, Findings};
use std::collections::HashMap;

/// Moves findings whose place is a whole block to what they are about, where that stands there
/// literally; each further one of the same words to the next.
pub(super) fn narrow(findings: &mut Findings, text: &str) {
    let mut seen: HashMap<(Place, String), usize> = HashMap::new();
    for finding in findings.iter_mut() {
        let Some(place) = finding.place.filter(|place| place.source == 0) else { continue };
        let Some(words) = wanted(finding) else { continue };
        let (start, end) = (place.start as usize, place.end as usize);
        let Some(block) = text.get(start..end) else { continue };
        let from = seen.entry((place, words.clone())).or_default();
        let Some(at) = block.get(*from..).and_then(|rest| rest.find(&words)) else { continue };
        let at = *from + at;
        *from = at + words.len();
        finding.place = Some(Place::new(start + at, start + at + words.len()));
    }
}

/// What stands in the source at the fault.
fn wanted(finding: &Finding) -> Option<String> {
    let subject = finding.subject.as_deref().unwrap_or_default();
    let words = match finding.code {
        Code::AddressLocal
        | Code::AddressRunsCode
        | Code::AnchorBroken
        | Code::AttributeDropped
        | Code::LinkBroken
        | Code::LinkTextEmpty
        | Code::LinkTextIsAddress
        | Code::LinkTextRepeated
        | Code::LinkTextVague
        | Code::PictureDescribedByName
        | Code::PictureFileMissing
        | Code::PictureUndescribed => subject.to_string(),
        Code::AddressMalformed => subject.split(" (").next().unwrap_or_default().to_string(),
        Code::ElementDropped | Code::ElementUnwrapped => format!("<{subject}"),
        Code::WordRepeated => format!("{subject} {subject}"),
        Code::TextMisread => subject.split('”').next()?.trim_start_matches('“').to_string(),
        _ => return None,
    };
    (!words.is_empty()).then_some(words)
}
