//! Lists: numbered and bulleted paragraphs, items with boxes, and what else stands in items.

use super::Writer;
use super::blocks::Around;
use super::list_levels::LEVELS;
use super::looks::points;
use super::markup::twips;
use super::numbering::OpenList;
use crate::document::{
    Attributes, Block, BlockKind, CheckState, Length, List, ListItem, ListSpacing, Looks, StyleKind,
};
use crate::formats::word::vocabulary::{Container, LIST_ITEM};

impl<'d> Writer<'d> {
    /// A list that stands in no other one.
    pub(super) fn list(
        &mut self,
        list: &'d List,
        around: &Around,
        outer: Option<&OpenList>,
        indent: Option<Length>,
        out: &mut String,
    ) {
        if outer.is_some_and(|outer| outer.level + 1 >= LEVELS) {
            // Word knows nine levels: what is deeper stands on the last one.
            self.changed("a list deeper than nine levels");
        }
        let indent = indent.map(|indent| twips(points(indent, None)));
        let mut open = self.lists.open(list, outer, indent);
        let mut around = Around { is_top: false, ..around.clone() };
        for item in &list.items {
            self.item(item, list.spacing, &mut open, &around, out);
            around.ids.clear();
            around.is_behind_table = false;
        }
    }

    fn item(
        &mut self,
        item: &'d ListItem,
        spacing: ListSpacing,
        open: &mut OpenList,
        around: &Around,
        out: &mut String,
    ) {
        self.place = item.place;
        self.report_attributes(&item.attributes);
        let inner = around.inside(&item.attributes);
        let number = self.lists.item(open, item.number);
        let (first, rest) = match item.content.split_first() {
            Some((block @ Block { kind: BlockKind::Paragraph(content), .. }, rest)) => {
                (Some((block, content)), rest)
            }
            _ => (None, &item.content[..]),
        };
        let mut attributes = first.map_or(Attributes::NONE, |(block, _)| block.attributes.clone());
        take_over_looks(&item.attributes, &mut attributes);
        // A document with looks of its own says by itself what style its items have.
        let style = self.document.styles.is_empty();
        let style = style.then(|| self.styles.id(StyleKind::Block, LIST_ITEM));
        let mut paragraph = self.paragraph_of(&attributes, style, &inner);
        paragraph.properties.numbering = Some((open.level, number));
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
        let inner = Around { ids: Vec::new(), is_behind_table: false, ..inner };
        self.rest_of_item(rest, open, &inner, out);
    }

    fn rest_of_item(
        &mut self,
        rest: &'d [Block],
        open: &OpenList,
        around: &Around,
        out: &mut String,
    ) {
        let level = open.level;
        let mut last_is_list = false;
        for block in rest {
            match &block.kind {
                // A second list right behind the first one would go on with it.
                BlockKind::List(list) if !last_is_list && level + 1 < LEVELS => {
                    self.report_attributes(&block.attributes);
                    let inner = around.inside(&block.attributes);
                    let indent = list_indent(block);
                    self.list(list, &inner, Some(open), indent, out);
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

/// How far a list says that it stands in from what is around it.
pub(super) fn list_indent(block: &Block) -> Option<Length> {
    block.attributes.looks().and_then(|looks| looks.indent_start)
}

/// Gives the first paragraph of an item the style and the looks of the item, which stand there alone.
fn take_over_looks(item: &Attributes, paragraph: &mut Attributes) {
    let Some(set) = item.get() else { return };
    if set.style.is_some() {
        paragraph.edit().style.clone_from(&set.style);
    }
    if let Some(looks) = &set.looks {
        // How far items stand in says their list.
        let looks = Looks { indent_start: None, indent_first: None, ..(**looks).clone() };
        paragraph.edit().looks.get_or_insert_default().replace_by(&looks);
    }
}
