//! Lists: numbered and bulleted paragraphs, items with boxes, and what else stands in items.

use super::Writer;
use super::blocks::Around;
use super::numbering::{LEVELS, OpenList};
use crate::document::{
    Attributes, Block, BlockKind, CheckState, List, ListItem, ListSpacing, StyleKind,
};
use crate::formats::word::vocabulary::{Container, LIST_ITEM};

impl<'d> Writer<'d> {
    /// A list that stands in no other one.
    pub(super) fn list(
        &mut self,
        list: &'d List,
        around: &Around,
        outer: Option<(&OpenList, usize)>,
        apart: bool,
        out: &mut String,
    ) {
        let level = outer.map_or(0, |(_, level)| level + 1);
        if level >= LEVELS {
            // Word knows nine levels: what is deeper stands on the last one.
            self.changed("a list deeper than nine levels");
        }
        let level = level.min(LEVELS - 1);
        let mut open = self.lists.open(list, level, outer.map(|(open, _)| open), apart);
        let mut around = Around { is_top: false, ..around.clone() };
        for item in &list.items {
            self.item(item, list.spacing, &mut open, level, &around, out);
            around.ids.clear();
        }
    }

    fn item(
        &mut self,
        item: &'d ListItem,
        spacing: ListSpacing,
        open: &mut OpenList,
        level: usize,
        around: &Around,
        out: &mut String,
    ) {
        self.place = item.place;
        self.report_attributes(&item.attributes);
        let inner = around.inside(&item.attributes);
        let number = self.lists.item(open, level, item.number);
        let (first, rest) = match item.content.split_first() {
            Some((block @ Block { kind: BlockKind::Paragraph(content), .. }, rest)) => {
                (Some((block, content)), rest)
            }
            _ => (None, &item.content[..]),
        };
        let nothing = Attributes::NONE;
        let attributes = first.map_or(&nothing, |(block, _)| &block.attributes);
        let style = Some(self.styles.id(StyleKind::Block, LIST_ITEM));
        let mut paragraph = self.paragraph_of(attributes, style, &inner);
        paragraph.properties.numbering = Some((level, number));
        paragraph.properties.is_loose = spacing == ListSpacing::Loose;
        if let Some(check) = item.check {
            let ticked = check == CheckState::Done;
            if check == CheckState::Partial {
                self.changed("a box that is half ticked");
            }
            let look = paragraph.look.clone();
            self.push_check_box(ticked, &look, &mut paragraph.before);
            self.push_run(" ", &look, &mut paragraph.before);
        }
        match first {
            Some((_, content)) => paragraph.content = content,
            // Word counts a paragraph without text too; whoever reads the file knows it by this place.
            None => self.push_empty_item(&mut paragraph.before),
        }
        self.push_paragraph(paragraph, out);
        let inner = Around { ids: Vec::new(), ..inner };
        self.rest_of_item(rest, open, level, &inner, out);
    }

    fn rest_of_item(
        &mut self,
        rest: &'d [Block],
        open: &OpenList,
        level: usize,
        around: &Around,
        out: &mut String,
    ) {
        let mut has_list = false;
        let mut last_is_list = false;
        for block in rest {
            match &block.kind {
                // A second list right behind the first one would go on with it.
                BlockKind::List(list) if !last_is_list && level + 1 < LEVELS => {
                    self.report_attributes(&block.attributes);
                    let inner = around.inside(&block.attributes);
                    self.list(list, &inner, Some((open, level)), has_list, out);
                    has_list = true;
                }
                BlockKind::List(_) => {
                    let one = std::slice::from_ref(block);
                    self.open_container(Container::Item(level), None, out);
                    self.blocks(one, around, out);
                    self.close_container(out);
                }
                _ => self.item_block(block, level, around, out),
            }
            last_is_list = matches!(block.kind, BlockKind::List(_));
        }
    }
}
