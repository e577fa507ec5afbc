//! Files that a document carries inside itself and only links to.
//!
//! Such a link has the address `cid:` and the file's name in the document's media, as parts of a message
//! refer to each other (RFC 2392). Where files go beside the target, it leads there; where they do not, its
//! words stay, with a finding.

use crate::document::{Block, Document, Inline, Place, walk_inlines_mut};
use crate::findings::{Code, Findings};
use std::borrow::Cow;
use std::collections::HashSet;

const SCHEME: &str = "cid:";

/// The address of a file among a document's media.
pub(crate) fn address_of(name: &str) -> String {
    format!("{SCHEME}{name}")
}

/// The name of the file that an address leads to, if it is one of a document's own.
pub(crate) fn name_in(address: &str) -> Option<&str> {
    address.strip_prefix(SCHEME)
}

/// The document with the addresses of its attached files settled.
pub(crate) fn settled<'d>(
    document: &'d Document,
    folder: Option<&str>,
    findings: &mut Findings,
) -> Cow<'d, Document> {
    let is_picture = |kind: &str| kind.starts_with("image/");
    let files = document.media.iter().filter(|media| !is_picture(&media.media_type));
    let names: HashSet<String> = files.map(|media| media.name.to_string()).collect();
    if names.is_empty() {
        return Cow::Borrowed(document);
    }
    let mut document = document.clone();
    let mut settle = |blocks: &mut Vec<Block>| {
        walk_inlines_mut(blocks, |place, inlines| {
            settle_line(inlines, &names, folder, place, findings);
        });
    };
    settle(&mut document.blocks);
    document.notes.iter_mut().for_each(|note| settle(&mut note.content));
    Cow::Owned(document)
}

fn settle_line(
    inlines: &mut Vec<Inline>,
    names: &HashSet<String>,
    folder: Option<&str>,
    place: Place,
    findings: &mut Findings,
) {
    let attached = |inline: &Inline| match inline {
        Inline::Link(link) => {
            link.address.strip_prefix(SCHEME).filter(|name| names.contains(*name)).map(String::from)
        }
        _ => None,
    };
    if inlines.iter().all(|inline| attached(inline).is_none()) {
        return;
    }
    for inline in std::mem::take(inlines) {
        let name = attached(&inline);
        match (inline, name, folder) {
            (Inline::Link(mut link), Some(name), Some(folder)) => {
                link.address = format!("{folder}/{name}").into();
                inlines.push(Inline::Link(link));
            }
            (Inline::Link(link), Some(name), None) => {
                let subject = format!("the embedded file {name}");
                findings.count(Code::NodeNotCarried, &subject, Some(place));
                inlines.extend(link.content);
            }
            (inline, _, _) => inlines.push(inline),
        }
    }
}
