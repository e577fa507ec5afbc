use super::Repair;
use super::lines::each_line;
use crate::document::{Document, Inline};
use crate::findings::{Code, Findings};

/// Parts of link addresses that only tell where a reader came from go.
#[derive(Debug, Clone, Copy)]
pub struct TrackingParameters;

/// Names that begin so.
const PREFIXES: [&str; 4] = ["utm_", "mtm_", "pk_", "hsa_"];

const NAMES: [&str; 13] = [
    "fbclid", "gclid", "dclid", "msclkid", "yclid", "igshid", "mc_cid", "mc_eid", "_hsenc",
    "_hsmi", "gclsrc", "wbraid", "gbraid",
];

impl Repair for TrackingParameters {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            for_each_link(line, &mut |address| {
                if let Some(clean) = without_tracking(address) {
                    *address = clean.into();
                    findings.count(Code::AddressRepaired, "tracking", Some(place));
                }
            });
        });
    }
}

/// Calls `change` with the address of every link of a line.
pub(super) fn for_each_link(
    inlines: &mut [Inline],
    change: &mut dyn FnMut(&mut crate::document::CompactString),
) {
    for inline in inlines {
        match inline {
            Inline::Link(link) => {
                change(&mut link.address);
                for_each_link(&mut link.content, change);
            }
            Inline::Formatted(formatted) => for_each_link(&mut formatted.content, change),
            _ => {}
        }
    }
}

fn without_tracking(address: &str) -> Option<String> {
    let (rest, fragment) = match address.split_once('#') {
        Some((rest, fragment)) => (rest, Some(fragment)),
        None => (address, None),
    };
    let (path, query) = rest.split_once('?')?;
    let kept: Vec<&str> = query.split('&').filter(|part| !is_tracking(part)).collect();
    if kept.len() == query.split('&').count() {
        return None;
    }
    let mut clean = path.to_string();
    if !kept.is_empty() {
        clean.push('?');
        clean.push_str(&kept.join("&"));
    }
    if let Some(fragment) = fragment {
        clean.push('#');
        clean.push_str(fragment);
    }
    Some(clean)
}

fn is_tracking(part: &str) -> bool {
    let name = part.split('=').next().unwrap_or_default();
    PREFIXES.iter().any(|prefix| name.starts_with(prefix)) || NAMES.contains(&name)
}
