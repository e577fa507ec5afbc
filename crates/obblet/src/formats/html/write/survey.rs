//! What the writer must know of a whole document before it writes the first block.

use crate::document::Ids;
use crate::document::{
    Block, BlockKind, ContentsKind, Document, Inline, Node, Note, plain_text, walk,
};
use crate::formats::WriteError;
use crate::formats::depth::refuse_depth;
use std::collections::HashSet;

/// About how many bytes the tags of a node take.
const TAGS: usize = 24;

/// Gathered from the blocks one after the other, so that they need not stand in memory together.
#[derive(Debug, Default)]
pub(crate) struct Survey {
    /// Knows the ids that the source states: they must reach their own nodes, so that no heading
    /// may take them.
    pub(super) ids: Ids,
    /// The words of the first heading that stands in no other block.
    pub(crate) first_heading: Option<String>,
    /// The smallest level of such headings.
    pub(super) highest_level: Option<u8>,
    /// How many of them have that level.
    pub(super) top_headings: usize,
    /// Of what the document has lists.
    pub(super) lists: HashSet<ContentsKind>,
    /// About how long the page will be, in bytes.
    pub(super) expected_length: usize,
    /// How deep the deepest node stands.
    depth: usize,
}

impl Survey {
    /// Of a document that is there as a whole.
    ///
    /// # Errors
    /// [`WriteError::TooDeep`] when it nests deeper than any reader makes it.
    pub(crate) fn of(document: &Document) -> Result<Self, WriteError> {
        let mut survey = Self::default();
        document.blocks.iter().for_each(|block| survey.block(block));
        survey.notes(&document.notes);
        refuse_depth(survey.depth)?;
        Ok(survey)
    }

    /// Takes note of the next block of the document.
    pub(crate) fn block(&mut self, block: &Block) {
        if let BlockKind::Heading(heading) = &block.kind {
            let highest = self.highest_level.map_or(heading.level, |up| up.min(heading.level));
            if self.highest_level != Some(highest) {
                self.top_headings = 0;
            }
            self.top_headings += usize::from(heading.level == highest);
            self.highest_level = Some(highest);
            self.first_heading.get_or_insert_with(|| plain_text(&heading.content));
        }
        self.reserve_ids(std::slice::from_ref(block));
    }

    /// Takes note of the notes, once all blocks are known.
    pub(crate) fn notes(&mut self, notes: &[Note]) {
        notes.iter().for_each(|note| self.reserve_ids(&note.content));
    }

    fn reserve_ids(&mut self, blocks: &[Block]) {
        let mut nodes = walk(blocks);
        while let Some(node) = nodes.next_node() {
            self.depth = self.depth.max(nodes.depth());
            self.expected_length += match node {
                Node::Inline(Inline::Text(text)) => text.len(),
                _ => TAGS,
            };
            if let Some(id) = node.id() {
                self.ids.reserve(id);
            }
            if let Node::Block(Block { kind: BlockKind::Contents(list), .. }) = node {
                self.lists.insert(list.kind);
            }
        }
    }
}
