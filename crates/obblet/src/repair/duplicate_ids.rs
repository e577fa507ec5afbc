use super::Repair;
use super::lines::each_flow;
use crate::document::{Attributes, CompactString, Document};
use crate::findings::{Code, Findings};
use std::collections::HashSet;

/// The first block with an id keeps it; later ones lose theirs.
#[derive(Debug, Clone, Copy)]
pub struct DuplicateIds;

impl Repair for DuplicateIds {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        let mut known: HashSet<CompactString> = HashSet::new();
        let mut is_second = |attributes: &mut Attributes| {
            let id = attributes.id().map(CompactString::from)?;
            if known.insert(id.clone()) {
                return None;
            }
            attributes.edit().id = None;
            Some(id)
        };
        each_flow(document, |blocks| {
            for block in blocks {
                if let Some(id) = is_second(&mut block.attributes) {
                    findings.add_about(Code::IdDropped, &id, Some(block.place));
                }
            }
        });
    }
}
