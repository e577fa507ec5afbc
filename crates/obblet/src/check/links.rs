//! Where links lead, and whether their words say so.

use super::{Subject, words_of};
use crate::address::{NearAddress, scheme};
use crate::document::{CompactString, Inline, Link, Node, PictureSource, Place, ReferenceShows};
use crate::findings::Code;
use crate::format::Format;
use crate::formats::html::address_is_harmless;
use std::collections::{HashMap, HashSet};
use url::Url;

/// Words that say nothing of where a link leads.
const VAGUE: &[&str] = &[
    "click",
    "click here",
    "here",
    "more",
    "read more",
    "learn more",
    "link",
    "this",
    "this link",
    "this page",
    "page",
    "see here",
    "go",
    "go here",
    "details",
    "more details",
    "more information",
    "info",
    "download",
    "continue",
    "website",
    "web site",
    "hier",
    "mehr",
    "weiter",
    "ici",
    "aquí",
    "qui",
];

/// A link or picture that leads to a file nearby.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NearLink {
    /// The address as the source wrote it.
    pub address: CompactString,
    /// Whether it is a picture.
    pub is_picture: bool,
    /// The block it stands in.
    pub place: Place,
}

impl Subject<'_> {
    pub(super) fn links(&mut self) -> Vec<NearLink> {
        let mut near = Vec::new();
        let mut found: Vec<(Code, String, Place)> = Vec::new();
        // Where links of the same words lead to.
        let mut by_words: HashMap<String, (CompactString, bool)> = HashMap::new();
        self.each_inline(|place, inline| match inline {
            Inline::Link(link) => {
                let mut add = |code: Code, subject: String| found.push((code, subject, place));
                self.address(&link.address, &mut add);
                words(link, self.format, &mut by_words, &mut add);
                let is_near = NearAddress::of(&link.address).is_some();
                if is_near && !is_local(&link.address) {
                    let address = link.address.clone();
                    near.push(NearLink { address, is_picture: false, place });
                }
            }
            Inline::Picture(picture) => {
                let PictureSource::Address(address) = &picture.source else { return };
                let mut add = |code: Code, subject: String| found.push((code, subject, place));
                self.address(address, &mut add);
                if NearAddress::of(address).is_some() && !is_local(address) {
                    near.push(NearLink { address: address.clone(), is_picture: true, place });
                }
            }
            Inline::Reference(reference) if reference.shows != ReferenceShows::Page => {
                let is_looked_for = matches!(self.format, Format::Latex | Format::Org);
                if !is_looked_for && !self.ids.contains(&reference.target) {
                    found.push((Code::AnchorBroken, reference.target.to_string(), place));
                }
            }
            _ => {}
        });
        for (code, subject, place) in found {
            self.findings.add_about(code, &subject, Some(place));
        }
        self.repeated_anchors();
        near
    }

    /// The form of an address, and the place in this document that it names.
    fn address(&self, address: &str, add: &mut dyn FnMut(Code, String)) {
        let shown: String = address.chars().take(80).collect();
        if let Some(place) = address.strip_prefix('#') {
            let place = percent_encoding::percent_decode_str(place).decode_utf8_lossy();
            let is_top = place.is_empty() || place == "top";
            // What Org calls a place inside the file, its reader looks for.
            let is_looked_for = self.format == Format::Org;
            if !is_top && !is_looked_for && !self.ids.contains(place.as_ref()) {
                add(Code::AnchorBroken, shown);
            }
            return;
        }
        if !address_is_harmless(address) {
            return add(Code::AddressRunsCode, shown);
        }
        if is_local(address) {
            return add(Code::AddressLocal, shown);
        }
        if let Some(fault) = fault_of(address) {
            add(Code::AddressMalformed, format!("{shown} ({fault})"));
        }
    }

    /// An id that two things of a source state; of a page the check of its HTML says it.
    fn repeated_anchors(&mut self) {
        if self.format == Format::Html {
            return;
        }
        let mut seen = HashSet::new();
        let mut found = Vec::new();
        let mut place = Place::default();
        for node in self.nodes() {
            if let Node::Block(block) = node {
                place = block.place;
            }
            if let Some(id) = node.id()
                && !seen.insert(id)
            {
                found.push((id.to_string(), place));
            }
        }
        for (id, place) in found {
            self.findings.add_about(Code::IdRepeated, &id, Some(place));
        }
    }
}

/// What the words of a link say.
fn words(
    link: &Link,
    format: Format,
    by_words: &mut HashMap<String, (CompactString, bool)>,
    add: &mut dyn FnMut(Code, String),
) {
    let words = words_of(&link.content);
    let shown: String = link.address.chars().take(80).collect();
    let holds_other = link
        .content
        .iter()
        .any(|inline| matches!(inline, Inline::Formula(_) | Inline::Foreign(_) | Inline::Code(_)));
    if words.is_empty() {
        if !holds_other {
            add(Code::LinkTextEmpty, shown);
        }
        return;
    }
    let lower = words.to_lowercase();
    let bare = lower.trim_matches(|c: char| !c.is_alphanumeric());
    if VAGUE.contains(&bare) {
        return add(Code::LinkTextVague, words);
    }
    // Plain Markdown and Org make links of bare addresses; those are meant to be seen.
    let is_address = words.starts_with("http://") || words.starts_with("https://");
    if is_address && words.chars().count() > 40 && format != Format::Org {
        return add(Code::LinkTextIsAddress, words);
    }
    // Marks of notes and of lists are the same everywhere.
    if bare.chars().count() < 4 {
        return;
    }
    match by_words.get_mut(bare) {
        Some((address, told)) if *address != link.address && !*told => {
            *told = true;
            add(Code::LinkTextRepeated, words);
        }
        Some(_) => {}
        None => {
            by_words.insert(bare.to_string(), (link.address.clone(), false));
        }
    }
}

/// An address that leads to somebody's own machine.
fn is_local(address: &str) -> bool {
    let is_drive = address.as_bytes().get(1) == Some(&b':')
        && address.starts_with(|c: char| c.is_ascii_alphabetic());
    let is_own = ["localhost", "127.0.0.1", "[::1]"].iter().any(|host| {
        ["http://", "https://"].iter().any(|scheme| {
            address
                .strip_prefix(scheme)
                .and_then(|rest| rest.strip_prefix(host))
                .is_some_and(|rest| rest.is_empty() || rest.starts_with([':', '/', '?', '#']))
        })
    });
    is_drive || is_own || address.starts_with("\\\\") || scheme(address).as_deref() == Some("file")
}

/// What is wrong with the form of an address.
fn fault_of(address: &str) -> Option<String> {
    let Some(scheme) = scheme(address) else {
        let is_host = address.starts_with("www.") && !address.contains(char::is_whitespace);
        return is_host.then(|| "it lacks https:// in front".to_string());
    };
    let rest = address.get(scheme.len() + 1..).unwrap_or_default();
    match scheme.as_str() {
        "http" | "https" => web_fault(address, rest),
        "mailto" => {
            let person = rest.split('?').next().unwrap_or_default();
            let is_person = person.split(',').all(|one| {
                one.split_once('@').is_some_and(|(name, host)| {
                    !name.is_empty() && host.contains('.') && !host.contains(['@', ' '])
                })
            });
            let is_in_query = person.is_empty() && rest.contains("to=");
            (!is_person && !is_in_query).then(|| "it names no mailbox".to_string())
        }
        "tel" => {
            let is_number = rest.bytes().any(|byte| byte.is_ascii_digit())
                && rest.bytes().all(|byte| {
                    byte.is_ascii_digit()
                        || b"+-.();=".contains(&byte)
                        || byte.is_ascii_alphabetic()
                });
            (!is_number).then(|| "it is no telephone number".to_string())
        }
        "htp" | "htttp" | "hhttp" | "htpp" | "ttp" | "ttps" | "httpss" | "htps" | "httos" => {
            Some(format!("there is no scheme “{scheme}”"))
        }
        _ => None,
    }
}

fn web_fault(address: &str, rest: &str) -> Option<String> {
    if !rest.starts_with("//") {
        return Some("two slashes are missing behind the scheme".into());
    }
    if let Some(second) = ["http://", "https://", "http//", "https//"]
        .iter()
        .find(|second| rest.get(2..).is_some_and(|rest| rest.starts_with(**second)))
    {
        return Some(format!("“{second}” stands twice"));
    }
    if address.contains(char::is_whitespace) {
        return Some("it holds a space".into());
    }
    let url = match Url::parse(address) {
        Ok(url) => url,
        Err(error) => return Some(error.to_string()),
    };
    let host = url.host_str().unwrap_or_default();
    let is_name = url.domain().is_some();
    if is_name && (!host.contains('.') || host.contains("..") || host.ends_with(".,")) {
        return Some(format!("“{host}” is no name of a server"));
    }
    None
}
