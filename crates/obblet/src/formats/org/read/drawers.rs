//! Drawers, clocks and inline tasks.

use super::Reader;
use super::lines::drawer_name;
use super::timestamps::timestamp;
use crate::document::{Block, BlockKind, Group, GroupRole, Inline};

/// The kind of admonition that an inline task is.
pub(in crate::formats::org) const TASK: &str = "task";

impl Reader<'_> {
    pub(super) fn drawer(&mut self, at: usize, close: usize, out: &mut Vec<Block>) {
        let name = self.lines.get(at).and_then(|line| drawer_name(line.trimmed()));
        let name = name.unwrap_or_default().to_string();
        let place = self.place_of(&(at..close + 1));
        let is_properties = name.eq_ignore_ascii_case("properties");
        if self.options.keeps_hidden && is_properties {
            return out.push(self.raw(at..close + 1));
        }
        if !self.options.keeps_hidden
            && (is_properties || !self.settings.options.drawers.has(&name))
        {
            return self.hidden(&format!("the drawer “{name}”"), place);
        }
        let read = self.deeper(place, |reader| reader.elements(at + 1..close));
        let content = read.unwrap_or_else(|| self.as_text(at + 1..close));
        let group = Group { role: GroupRole::Drawer(name.into()), content };
        out.push(Block::new(BlockKind::Group(Box::new(group))).at(place));
    }

    /// What stands too deep, as it stands there.
    pub(super) fn as_text(&self, range: std::ops::Range<usize>) -> Vec<Block> {
        let lines = self.lines.get(range.clone()).unwrap_or_default();
        let words: Vec<&str> = lines.iter().map(|line| line.text.trim()).collect();
        let text = words.join(" ");
        if text.trim().is_empty() {
            return Vec::new();
        }
        let paragraph = BlockKind::Paragraph(vec![Inline::Text(text.into())]);
        vec![Block::new(paragraph).at(self.place_of(&range))]
    }

    /// `CLOCK: [2026-11-27 Fri 10:00]--[2026-11-27 Fri 11:00] =>  1:00`
    pub(super) fn clock(&mut self, at: usize, out: &mut Vec<Block>) {
        let is_shown = self.settings.options.clocks && !self.options.keeps_hidden;
        let line = self.lines.get(at).copied();
        let Some(line) = line.filter(|_| is_shown) else {
            return self.hide_line(at, "clocked time", out);
        };
        let value = line.trimmed().strip_prefix("CLOCK:").unwrap_or_default().trim_start();
        let Some((span, length)) = timestamp(value) else {
            return self.hide_line(at, "clocked time", out);
        };
        let mut content = vec![Inline::Timestamp(Box::new(span))];
        let rest = value.get(length..).unwrap_or_default();
        if let Some((_, duration)) = rest.split_once("=>") {
            content.push(Inline::Text(format!(" ({})", duration.trim()).into()));
        }
        out.push(Block::new(BlockKind::Paragraph(content)).at(line.place()));
    }
}
