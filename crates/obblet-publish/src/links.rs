//! Links between the documents of a folder.

use crate::plan::{Action, Entry, Plan, addressed};
use obblet::document::{Block, Document, Inline, PictureSource, Place, walk_inlines_mut};
use obblet::findings::{Code, Findings};
use percent_encoding::{AsciiSet, CONTROLS, percent_decode_str, utf8_percent_encode};
use std::collections::BTreeMap;

/// A link to a place in another document of the folder, to be checked once that is written.
#[derive(Debug, Clone)]
pub(crate) struct AnchorLink {
    /// The source path of the document it leads to.
    pub(crate) document: String,
    pub(crate) anchor: String,
    /// The address as the source wrote it.
    pub(crate) address: String,
    pub(crate) place: Place,
}

/// What the links of a document lead to.
#[derive(Debug, Default)]
pub(crate) struct Leads {
    /// Links to places in other documents.
    pub(crate) anchors: Vec<AnchorLink>,
    /// Every source path that a link names, with the target that stands for it.
    pub(crate) links: BTreeMap<String, Option<String>>,
}

/// Turns links to sources into links to their targets. Links that lead nowhere become findings.
pub(crate) fn rewrite_links(
    document: &mut Document,
    entry: &Entry,
    plan: &Plan,
    findings: &mut Findings,
) -> Leads {
    let mut rewriter =
        Rewriter { entry, plan, findings, leads: Leads::default(), place: Place::default() };
    rewriter.blocks(&mut document.blocks);
    for note in &mut document.notes {
        rewriter.blocks(&mut note.content);
    }
    rewriter.leads
}

struct Rewriter<'p, 'f> {
    entry: &'p Entry,
    plan: &'p Plan,
    findings: &'f mut Findings,
    leads: Leads,
    /// The block whose links are being rewritten.
    place: Place,
}

impl Rewriter<'_, '_> {
    fn blocks(&mut self, blocks: &mut Vec<Block>) {
        walk_inlines_mut(blocks, |place, inlines| {
            self.place = place;
            inlines.iter_mut().for_each(|inline| self.inline(inline));
        });
    }

    fn inline(&mut self, inline: &mut Inline) {
        let address = match inline {
            Inline::Link(link) => &mut link.address,
            Inline::Picture(picture) => match &mut picture.source {
                PictureSource::Address(address) => address,
                PictureSource::Media(_) => return,
            },
            _ => return,
        };
        if let Some(new) = self.rewritten(address) {
            *address = new.into();
        }
    }

    /// The address that leads to the target of a source; `None` where nothing changes.
    fn rewritten(&mut self, address: &str) -> Option<String> {
        let (path, query, anchor) = parts(address)?;
        let decoded = percent_decode_str(path).decode_utf8_lossy();
        let wanted = addressed(&self.entry.source, &decoded);
        let target = wanted.as_deref().and_then(|wanted| self.plan.target_of(wanted));
        if let Some(wanted) = &wanted {
            self.leads.links.insert(wanted.clone(), target.map(Into::into));
        }
        let (Some(target), Some(wanted)) = (target, &wanted) else {
            if !self.is_folder(wanted.as_deref()) {
                self.findings.add_about(Code::LinkBroken, address, Some(self.place));
            }
            return None;
        };
        let is_document =
            self.plan.entry(wanted).is_some_and(|to| matches!(to.action, Action::Convert(_)));
        let place = anchor.filter(|place| is_document && !place.is_empty());
        if let Some(anchor) = place {
            self.leads.anchors.push(AnchorLink {
                document: wanted.clone(),
                anchor: percent_decode_str(anchor).decode_utf8_lossy().into_owned(),
                address: address.to_string(),
                place: self.place,
            });
        }
        let mut new = relative_address(&self.entry.target, target);
        new.push_str(query);
        if let Some(anchor) = anchor {
            new.push('#');
            new.push_str(anchor);
        }
        Some(new)
    }

    fn is_folder(&self, path: Option<&str>) -> bool {
        path.is_some_and(|path| self.plan.source.join(path).is_dir())
    }
}

/// Path, query with its mark, and anchor of an address that may lead to a file beside this one.
fn parts(address: &str) -> Option<(&str, &str, Option<&str>)> {
    let (rest, anchor) = match address.split_once('#') {
        Some((rest, anchor)) => (rest, Some(anchor)),
        None => (address, None),
    };
    let query_start = rest.find('?').unwrap_or(rest.len());
    let (path, query) = rest.split_at(query_start);
    let has_scheme = path.split_once(':').is_some_and(|(scheme, _)| !scheme.contains('/'));
    let is_relative = !path.is_empty() && !path.starts_with('/') && !has_scheme;
    is_relative.then_some((path, query, anchor))
}

/// What must be encoded in the path of an address.
const PATH: &AsciiSet =
    &CONTROLS.add(b' ').add(b'"').add(b'#').add(b'%').add(b'<').add(b'>').add(b'?').add(b'`');

/// The address of one target as seen from another.
pub(crate) fn relative_address(from: &str, to: &str) -> String {
    let folders = |path: &str| -> Vec<String> {
        let mut names: Vec<String> = path.split('/').map(String::from).collect();
        names.pop();
        names
    };
    let (from_folders, to_folders) = (folders(from), folders(to));
    let shared = from_folders.iter().zip(&to_folders).take_while(|(one, two)| one == two).count();
    let mut address = "../".repeat(from_folders.len() - shared);
    for name in to_folders.iter().skip(shared) {
        address.push_str(&utf8_percent_encode(name, PATH).to_string());
        address.push('/');
    }
    let file = to.rsplit('/').next().unwrap_or(to);
    address.push_str(&utf8_percent_encode(file, PATH).to_string());
    // A colon in the first segment would look like a scheme.
    if address.split('/').next().is_some_and(|first| first.contains(':')) {
        address.insert_str(0, "./");
    }
    address
}

pub(crate) fn joined(folder: &str, path: &str) -> String {
    if folder.is_empty() { path.to_string() } else { format!("{folder}/{path}") }
}

/// A path without `.` and `..`, empty for the folder itself; `None` when it leads out of it.
pub(crate) fn normalised(path: &str) -> Option<String> {
    let mut names: Vec<&str> = Vec::new();
    for name in path.split('/') {
        match name {
            "" | "." => {}
            ".." => {
                names.pop()?;
            }
            _ => names.push(name),
        }
    }
    Some(names.join("/"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn addresses_lead_from_target_to_target() {
        let cases = [
            ("a.html", "b.html", "b.html"),
            ("x/a.html", "b.html", "../b.html"),
            ("x/a.html", "x/y/b c.html", "y/b%20c.html"),
            ("x/y/a.html", "x/z/b.html", "../z/b.html"),
            ("a.html", "12:30.html", "./12:30.html"),
        ];
        for (from, to, expected) in cases {
            assert_eq!(relative_address(from, to), expected);
        }
    }

    #[test]
    fn only_addresses_of_files_nearby_have_parts() {
        assert_eq!(parts("b.md?x=1#y"), Some(("b.md", "?x=1", Some("y"))));
        for address in ["#y", "https://a.example/b.md", "mailto:x@y", "/b.md", "//h/b.md", ""] {
            assert_eq!(parts(address), None, "{address}");
        }
    }

    #[test]
    fn paths_never_leave_the_folder() {
        assert_eq!(normalised("x/./../b.md").as_deref(), Some("b.md"));
        assert_eq!(normalised("../b.md"), None);
        assert_eq!(normalised("x/../../b.md"), None);
    }
}
