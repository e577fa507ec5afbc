use super::Repair;
use super::lines::each_line;
use super::tracking_parameters::for_each_link;
use crate::document::Document;
use crate::findings::{Code, Findings};
use url::Url;

/// Links that lead through a page that only sends on (`…/url?q=https://…`) lead straight there.
#[derive(Debug, Clone, Copy)]
pub struct Redirects;

/// The last part of such a page's path.
const PAGES: [&str; 7] = ["url", "redirect", "redir", "l.php", "out", "away", "away.php"];

/// The parameters that name where to.
const PARAMETERS: [&str; 7] = ["q", "url", "u", "to", "target", "dest", "destination"];

impl Repair for Redirects {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_line(document, |place, line| {
            for_each_link(line, &mut |address| {
                // A page that sends on may send to another one; no real link has many of them.
                for _ in 0..4 {
                    let Some(target) = target(address) else { break };
                    *address = target.into();
                    findings.count(Code::AddressRepaired, "redirect", Some(place));
                }
            });
        });
    }
}

fn target(address: &str) -> Option<String> {
    let url = Url::parse(address).ok().filter(|url| matches!(url.scheme(), "http" | "https"))?;
    let page = url.path_segments()?.next_back()?.to_string();
    if !PAGES.contains(&page.as_str()) {
        return None;
    }
    let mut pairs = url.query_pairs();
    let (_, target) = pairs.find(|(name, value)| {
        PARAMETERS.contains(&name.as_ref())
            && (value.starts_with("https://") || value.starts_with("http://"))
    })?;
    Url::parse(&target).ok().map(|_| target.into_owned())
}
