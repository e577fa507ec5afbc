//! Tracked changes (17.13.5): what they say, and what is kept of changed blocks, rows and cells.

use super::super::xml::{Element, Xml};
use super::Reader;
use super::gather::Gatherer;
use super::table_grid::GridRow;
use crate::document::{Cell, Revision, RevisionKind};
use crate::formats::word::Changes;

/// A tracked change: what was done, by whom and when (17.13.5).
pub(super) fn revision(element: &Element<'_>) -> Option<Revision> {
    let kind = match element.local() {
        "ins" | "cellIns" => RevisionKind::Insertion,
        "del" | "cellDel" => RevisionKind::Deletion,
        "moveTo" => RevisionKind::MoveTarget,
        "moveFrom" => RevisionKind::MoveSource,
        "rPrChange" => RevisionKind::Formatting,
        _ => return None,
    };
    let author = element.value("author").map(Into::into);
    let date = element.value("date").map(Into::into);
    Some(Revision { kind, author, date })
}

impl Reader<'_> {
    /// Blocks that were put in, taken out or moved as a whole.
    pub(super) fn changed_blocks(
        &mut self,
        revision: Revision,
        xml: &mut Xml<'_>,
        gatherer: &mut Gatherer,
    ) {
        let content = self.blocks(xml);
        match self.is_kept(revision.kind) {
            Some(false) => {}
            Some(true) => content.into_iter().for_each(|block| gatherer.push(block)),
            None => {
                for mut block in content {
                    block.attributes.edit().revision = Some(revision.clone());
                    gatherer.push(block);
                }
            }
        }
    }

    /// Whether content of a tracked change stays; `None` where the change is to be shown.
    pub(super) fn is_kept(&mut self, kind: RevisionKind) -> Option<bool> {
        let is_new = matches!(kind, RevisionKind::Insertion | RevisionKind::MoveTarget);
        match self.options.changes {
            Changes::Shown => None,
            Changes::Accepted => {
                self.settled_changes += 1;
                Some(is_new)
            }
            Changes::Rejected => {
                self.settled_changes += 1;
                Some(!is_new)
            }
        }
    }

    /// Rows that were put in or taken out as a whole.
    pub(super) fn settle_rows(
        &mut self,
        changed: Vec<GridRow>,
        change: &Revision,
        rows: &mut Vec<GridRow>,
    ) {
        match self.is_kept(change.kind) {
            Some(true) => rows.extend(changed),
            Some(false) => {}
            None => rows.extend(changed.into_iter().map(|mut row| {
                let cells = row.cells.iter_mut().flat_map(|cell| cell.cell.content.iter_mut());
                cells.for_each(|block| block.attributes.edit().revision = Some(change.clone()));
                row
            })),
        }
    }

    /// A cell that was put in or taken out: its place in the grid stays, so that the others keep theirs.
    pub(super) fn settle_cell(&mut self, cell: &mut Cell, change: &Revision) {
        match self.is_kept(change.kind) {
            Some(true) => {}
            Some(false) => cell.content.clear(),
            None => {
                for block in &mut cell.content {
                    block.attributes.edit().revision = Some(change.clone());
                }
            }
        }
    }
}
