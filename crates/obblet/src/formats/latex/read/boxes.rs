//! Boxes: what TeX sets apart and puts where it is told to. Here their content stands where it is shown.

use super::Reader;
use super::commands::Action;
use crate::document::{Block, BlockKind, walk};
use crate::findings::Code;
use crate::tex::{Name, Spot, Token};
use std::collections::BTreeMap;

/// How many parts of documents boxes may show together: each may show another one twice.
const SHOWN: usize = 1 << 20;

/// What is kept in boxes, by their numbers and names.
#[derive(Default)]
pub(super) struct Boxes {
    kept: BTreeMap<String, Kept>,
    shown: usize,
}

struct Kept {
    content: Vec<Block>,
    spot: Spot,
    is_shown: bool,
}

impl Reader<'_> {
    pub(super) fn box_command(&mut self, action: Action, name: Name, spot: Spot) {
        match action {
            Action::Box => self.set_box(name),
            Action::ShiftedBox => {
                self.front.dimension();
                self.layout("a box that is moved", spot);
            }
            Action::KeepBox => self.keep_box(name, spot),
            Action::ShowBox { is_kept } => self.show_box(is_kept),
            Action::Leaders => self.leaders(),
            _ => {}
        }
    }

    /// `\hbox to 3cm{…}`: its content stands here.
    fn set_box(&mut self, name: Name) {
        self.skip_size();
        // What other boxes hold is a group, and is read like the text around it.
        if self.front.names.text(name) == "hbox" && self.front.next_sign() == Some('{') {
            let content = self.inline_argument();
            self.sheet.extend(content);
        }
    }

    /// `to 3cm` or `spread 1em`.
    fn skip_size(&mut self) {
        if self.front.eat_word("to") || self.front.eat_word("spread") {
            self.front.dimension();
        }
        self.front.skip_spaces();
    }

    /// `\setbox0=\hbox{…}` and `\sbox{\name}{…}`: content that is shown later.
    fn keep_box(&mut self, name: Name, spot: Spot) {
        let is_primitive = self.front.names.text(name) == "setbox";
        let key = self.number_or_command();
        if is_primitive {
            self.front.eat_equals();
            let made_by = self.front.next();
            let Some(Token::Command(made_by)) = made_by.map(|made| made.token) else { return };
            let is_group = matches!(self.front.names.text(made_by), "hbox" | "vbox" | "vtop");
            if !is_group {
                return self.keep_another(key, made_by, spot);
            }
            self.skip_size();
        } else {
            self.front.option();
            self.front.option();
        }
        let content = self.block_argument();
        self.keep(key, content, spot);
    }

    /// `\setbox0=\box1`: what is in one box stands in another.
    fn keep_another(&mut self, key: String, made_by: Name, spot: Spot) {
        let text = self.front.names.text(made_by);
        let is_kept = matches!(text, "copy" | "unhcopy" | "unvcopy");
        if !is_kept && !matches!(text, "box" | "unhbox" | "unvbox") {
            return;
        }
        let other = self.number_or_command();
        if let Some(content) = self.taken_box(&other, is_kept) {
            self.keep(key, content, spot);
        }
    }

    /// `\begin{lrbox}{\name}`.
    pub(super) fn keep_box_environment(&mut self, name: &str, spot: Spot) {
        let key = self.number_or_command();
        let content = self.content_of(name, spot);
        self.keep(key, content, spot);
    }

    fn keep(&mut self, key: String, content: Vec<Block>, spot: Spot) {
        let kept = Kept { content, spot, is_shown: false };
        let before = self.boxes.kept.insert(key.clone(), kept);
        self.report_unshown(&key, before);
    }

    /// TeX shows nothing of a box that is never used.
    fn report_unshown(&mut self, key: &str, kept: Option<Kept>) {
        if let Some(kept) = kept.filter(|kept| !kept.is_shown && !kept.content.is_empty()) {
            self.findings.count(Code::BoxUnshown, key, Some(kept.spot.into()));
        }
    }

    pub(super) fn report_unshown_boxes(&mut self) {
        for (key, kept) in std::mem::take(&mut self.boxes.kept) {
            self.report_unshown(&key, Some(kept));
        }
    }

    /// The number or the command that names a box, or a file that is written.
    pub(super) fn number_or_command(&mut self) -> String {
        self.front.skip_spaces();
        match self.front.peek_raw().map(|next| next.token) {
            Some(Token::Character('{', _)) => self.front.argument_text().trim().to_string(),
            Some(Token::Command(name)) => {
                self.front.next_raw();
                format!("\\{}", self.front.names.text(name))
            }
            _ => self.front.number().to_string(),
        }
    }

    /// `\box0`, `\copy0` and `\usebox{\name}`.
    fn show_box(&mut self, is_kept: bool) {
        let key = self.number_or_command();
        let Some(content) = self.taken_box(&key, is_kept) else { return };
        self.sheet.mark_place();
        match <[Block; 1]>::try_from(content) {
            Ok([block]) => match block.kind {
                BlockKind::Paragraph(content) => self.sheet.extend(content),
                _ => self.sheet.push_block(block),
            },
            Err(blocks) => {
                for block in blocks {
                    self.sheet.push_block(block);
                }
            }
        }
    }

    /// What a box holds; one that is not kept is empty behind this.
    fn taken_box(&mut self, key: &str, is_kept: bool) -> Option<Vec<Block>> {
        if !is_kept {
            return self.boxes.kept.remove(key).map(|kept| kept.content);
        }
        let kept = self.boxes.kept.get_mut(key)?;
        kept.is_shown = true;
        self.boxes.shown += walk(&kept.content).count();
        if self.boxes.shown > SHOWN {
            let spot = self.front.spot();
            self.findings.add(Code::MacroLimit, Some(spot.into()));
            return None;
        }
        Some(self.boxes.kept.get(key)?.content.clone())
    }

    /// `\leaders\hbox{.}\hfill`: dots up to the end of a line, as many as paper has room for.
    fn leaders(&mut self) {
        let made_by = self.front.next();
        let Some(Token::Command(made_by)) = made_by.map(|made| made.token) else { return };
        match self.front.names.text(made_by) {
            "hrule" | "vrule" => self.skip_rule_size(),
            "hbox" | "vbox" | "vtop" => {
                self.skip_size();
                self.front.argument();
            }
            "box" | "copy" => {
                self.number_or_command();
            }
            _ => {}
        }
        self.sheet.space(false);
    }

    /// `height 1pt depth 0pt width 3cm` behind a rule.
    pub(super) fn skip_rule_size(&mut self) {
        while ["height", "depth", "width"].iter().any(|word| self.front.eat_word(word)) {
            self.front.dimension();
        }
    }
}
