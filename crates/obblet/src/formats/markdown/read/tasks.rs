//! Items that can be ticked (GFM 5.3).

use super::assemble::Assembler;
use super::tree::{Line, Node};
use crate::document::CheckState;

impl<'s> Assembler<'s, '_> {
    /// GFM 5.3: `[ ]` or `[x]` and white space, at the start of an item's first paragraph. Gives
    /// the state and the lines without it.
    pub(super) fn task(&self, paragraph: &Node) -> Option<(CheckState, Vec<Line>)> {
        let mut lines = self.lines(paragraph).to_vec();
        let first = lines.first_mut()?;
        let text = first.text(self.source);
        let check = match text.as_bytes() {
            [b'[', b' ' | b'\t', b']', b' ' | b'\t', ..] => CheckState::Open,
            [b'[', b'x' | b'X', b']', b' ' | b'\t', ..] => CheckState::Done,
            _ => return None,
        };
        let behind = text.get(3..)?;
        let content = behind.trim_start_matches([' ', '\t']);
        if content.is_empty() {
            return None;
        }
        first.start += 3 + (behind.len() - content.len()) as u32;
        Some((check, lines))
    }
}
