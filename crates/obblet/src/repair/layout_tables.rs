use super::Repair;
use super::lines::each_flow;
use crate::document::{Block, BlockKind, Document, Table};
use crate::findings::{Code, Findings};

/// Tables that only place things on the page become what they hold: those of one column, and those
/// without headers in which headings or other tables stand.
#[derive(Debug, Clone, Copy)]
pub struct LayoutTables;

impl Repair for LayoutTables {
    fn repair(&self, document: &mut Document, findings: &mut Findings) {
        each_flow(document, |blocks| {
            while blocks.iter().any(is_layout) {
                for block in std::mem::take(blocks) {
                    match block.kind {
                        BlockKind::Table(table) if is_layout_table(&table) => {
                            findings.count(Code::LayoutTableUnwrapped, "", Some(block.place));
                            let rows = table.groups.into_iter().flat_map(|group| group.rows);
                            let cells = rows.flat_map(|row| row.cells);
                            blocks.extend(cells.flat_map(|cell| cell.content));
                        }
                        kind => blocks.push(Block { kind, ..block }),
                    }
                }
            }
        });
    }
}

fn is_layout(block: &Block) -> bool {
    matches!(&block.kind, BlockKind::Table(table) if is_layout_table(table))
}

fn is_layout_table(table: &Table) -> bool {
    let cells = || table.rows().flat_map(|(_, row)| &row.cells);
    if table.caption.is_some() || cells().any(|cell| cell.header.is_some()) {
        return false;
    }
    let holds_structure = cells().flat_map(|cell| &cell.content).any(|block| {
        matches!(block.kind, BlockKind::Heading(_) | BlockKind::Table(_) | BlockKind::Figure(_))
    });
    table.rows().all(|(_, row)| row.cells.len() <= 1) || holds_structure
}
