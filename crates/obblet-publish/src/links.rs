//! Links between the documents of a folder.

use crate::entry::{Action, Entry};
use crate::late::place_token;
use crate::plan::Plan;
use obblet::address::{NearAddress, relative, turn_addresses};
use obblet::document::{Block, Document, Place};
use obblet::findings::{Code, Findings};
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
        turn_addresses(blocks, |place, address| {
            self.place = place;
            self.rewritten(address)
        });
    }

    /// The address that leads to the target of a source; `None` where nothing changes.
    fn rewritten(&mut self, address: &str) -> Option<String> {
        let near = NearAddress::of(address)?;
        let wanted = near.from(&self.entry.source);
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
        if let Some(anchor) = near.place().filter(|place| is_document && !place.is_empty()) {
            self.leads.anchors.push(AnchorLink {
                document: wanted.clone(),
                anchor: anchor.clone(),
                address: address.to_string(),
                place: self.place,
            });
            // It is not known yet on which page the place is.
            if self.plan.is_split(wanted) {
                return Some(place_token(wanted, &anchor));
            }
        }
        Some(near.with_path(&relative(&self.entry.target, target)))
    }

    fn is_folder(&self, path: Option<&str>) -> bool {
        path.is_some_and(|path| self.plan.source.join(path).is_dir())
    }
}
