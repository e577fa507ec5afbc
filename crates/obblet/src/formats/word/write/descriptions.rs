//! Terms and descriptions, as paragraphs of their styles.

use super::Writer;
use super::blocks::Around;
use crate::document::{Block, BlockKind, DescriptionItem};
use crate::formats::word::vocabulary::{Container, DESCRIPTION, DESCRIPTION_MORE, TERM};

impl<'d> Writer<'d> {
    pub(super) fn description_list(
        &mut self,
        items: &'d [DescriptionItem],
        around: &Around,
        out: &mut String,
    ) {
        for item in items {
            for term in &item.terms {
                self.styled(TERM, term, around, out);
            }
            for description in &item.descriptions {
                self.description(description, around, out);
            }
        }
    }

    pub(super) fn description(&mut self, blocks: &'d [Block], around: &Around, out: &mut String) {
        let (first, rest) = match blocks.split_first() {
            Some((Block { kind: BlockKind::Paragraph(content), .. }, rest)) => (&content[..], rest),
            _ => (&[][..], blocks),
        };
        self.styled(DESCRIPTION, first, around, out);
        for block in rest {
            match &block.kind {
                BlockKind::Paragraph(content) => {
                    self.styled(DESCRIPTION_MORE, content, around, out);
                }
                _ => {
                    let one = std::slice::from_ref(block);
                    self.contained(Container::Description, None, one, around, out);
                }
            }
        }
    }
}
