//! Lists.

use super::sayable::{Sayable, without_unsayable};
use super::sayable_inlines::Flow;
use super::spacing::{can_be_loose, can_be_tight};
use crate::document::{
    Attributes, Block, BlockKind, CheckState, CompactString, DescriptionItem, Inline, List,
    ListItem, ListKind, ListSpacing, NumberDelimiter, Numbering, NumeralStyle, Place,
};
use crate::findings::Code;
use crate::formats::markdown::{BulletMark, Switch};

impl Sayable<'_> {
    /// Two lists of one mark, or two description lists, would run together.
    pub(super) fn part_lists(&mut self, blocks: &mut Vec<Block>) {
        let mut parted: Vec<Block> = Vec::with_capacity(blocks.len());
        for mut block in blocks.drain(..) {
            match (parted.last_mut().map(|last| &mut last.kind), &mut block.kind) {
                (Some(BlockKind::List(before)), BlockKind::List(list)) => {
                    if let Some(form) = other_mark(&before.kind, &mut list.kind) {
                        self.findings.count(Code::NumberFormChanged, form, Some(block.place));
                    }
                }
                (Some(BlockKind::DescriptionList(before)), BlockKind::DescriptionList(items)) => {
                    self.findings.count(Code::ListsJoined, "description", Some(block.place));
                    before.append(items);
                    continue;
                }
                _ => {}
            }
            parted.push(block);
        }
        *blocks = parted;
    }

    pub(super) fn push_list(
        &mut self,
        list: &List,
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        let kind = self.list_kind(&list.kind, block.place);
        self.indented += 1;
        let items: Vec<ListItem> = list.items.iter().map(|item| self.item(item)).collect();
        self.indented -= 1;
        self.place = block.place;
        if items.is_empty() {
            return;
        }
        let spacing = match list.spacing {
            ListSpacing::Tight if !can_be_tight(&items, self.options) => ListSpacing::Loose,
            ListSpacing::Loose if !can_be_loose(&items) => ListSpacing::Tight,
            spacing => spacing,
        };
        if spacing != list.spacing {
            self.findings.count(Code::ListSpacingChanged, "", Some(block.place));
        }
        let list = BlockKind::List(Box::new(List { kind, spacing, items }));
        self.push_carried(list, attributes, block, out);
    }

    pub(super) fn list_kind(&mut self, kind: &ListKind, place: Place) -> ListKind {
        let numbering = match kind {
            ListKind::Numbered(numbering) => numbering,
            ListKind::Bulleted(kept) => {
                let kept = kept.filter(|mark| "-+*".contains(*mark));
                return ListKind::Bulleted(Some(match self.options.bullet {
                    BulletMark::Kept => kept.unwrap_or('-'),
                    BulletMark::Hyphen => '-',
                    BulletMark::Asterisk => '*',
                    BulletMark::Plus => '+',
                }));
            }
        };
        let mut sayable = Numbering { start: numbering.start, ..Numbering::default() };
        let carries = self.has(Switch::Containers);
        let is_marker =
            matches!(numbering.delimiter, NumberDelimiter::Period | NumberDelimiter::Parenthesis);
        if carries || is_marker {
            sayable.delimiter = numbering.delimiter;
        }
        if carries {
            sayable.style = numbering.style;
        }
        let form = numbering.pattern.clone().or_else(|| {
            let changed =
                sayable.style != numbering.style || sayable.delimiter != numbering.delimiter;
            changed.then(|| number_form(numbering))
        });
        if let Some(form) = form {
            self.findings.count(Code::NumberFormChanged, &form, Some(place));
        }
        if !(0..=999_999_999).contains(&sayable.start) {
            let form = sayable.start.to_string();
            self.findings.count(Code::NumberFormChanged, &form, Some(place));
            sayable.start = 1;
        }
        ListKind::Numbered(sayable)
    }

    pub(super) fn item(&mut self, item: &ListItem) -> ListItem {
        self.place = item.place;
        if item.number.is_some() {
            self.not_carried("a number of its own inside a list");
        }
        if !without_unsayable(&item.attributes).is_empty() {
            self.not_carried("attributes of a list item");
        }
        let content = self.blocks(&item.content);
        let is_text = matches!(content.first(), Some(block)
            if matches!(block.kind, BlockKind::Paragraph(_)) && block.attributes.is_empty());
        let mut check = item.check;
        if check == Some(CheckState::Partial) {
            self.place = item.place;
            self.not_carried("a box that is ticked in part");
            check = Some(CheckState::Open);
        }
        if check.is_some() && !(is_text && self.has(Switch::Tasks)) {
            self.place = item.place;
            self.not_carried("the box of a task");
            check = None;
        }
        ListItem { content, check, place: item.place, ..ListItem::default() }
    }

    pub(super) fn push_descriptions(
        &mut self,
        items: &[DescriptionItem],
        attributes: Attributes,
        block: &Block,
        out: &mut Vec<Block>,
    ) {
        self.indented += 1;
        let mut sayable: Vec<DescriptionItem> = Vec::new();
        for item in items {
            let terms: Vec<Vec<Inline>> = item
                .terms
                .iter()
                .map(|term| self.term(term))
                .filter(|term| !term.is_empty())
                .collect();
            let descriptions: Vec<Vec<Block>> =
                item.descriptions.iter().map(|blocks| self.blocks(blocks)).collect();
            sayable.push(DescriptionItem { terms, descriptions });
        }
        self.indented -= 1;
        let complete = |item: &DescriptionItem| {
            !item.terms.is_empty()
                && !item.descriptions.is_empty()
                && item.descriptions.iter().all(|blocks| !blocks.is_empty())
        };
        if self.has(Switch::DescriptionLists) && !sayable.is_empty() && sayable.iter().all(complete)
        {
            return self.push_carried(BlockKind::DescriptionList(sayable), attributes, block, out);
        }
        let mut tagged = Vec::new();
        for item in sayable {
            for term in item.terms {
                let term = Block::new(BlockKind::Paragraph(term)).at(block.place);
                self.push_tagged_block("dt", &Attributes::NONE, vec![term], block, &mut tagged);
            }
            for blocks in item.descriptions {
                self.push_tagged_block("dd", &Attributes::NONE, blocks, block, &mut tagged);
            }
        }
        self.push_tagged_block("dl", &attributes, tagged, block, out);
    }

    /// A term or a line of verse; a tag alone in it would begin an HTML block.
    pub(super) fn term(&mut self, term: &[Inline]) -> Vec<Inline> {
        let term = self.leaf(term, Flow::Line);
        if matches!(term.as_slice(), [Inline::Foreign(foreign)] if foreign.format == "html") {
            self.findings.count(Code::ForeignMarkupLost, "html", Some(self.place));
            return Vec::new();
        }
        term
    }
}

/// Gives a list another mark than the list right before it. Gives the changed form when numbers
/// changed theirs.
fn other_mark(before: &ListKind, list: &mut ListKind) -> Option<&'static str> {
    match (before, list) {
        (ListKind::Bulleted(one), ListKind::Bulleted(two)) if one == two => {
            *two = Some(if *one == Some('-') { '*' } else { '-' });
            None
        }
        (ListKind::Numbered(one), ListKind::Numbered(two)) if one.delimiter == two.delimiter => {
            let period = one.delimiter == NumberDelimiter::Period;
            two.delimiter =
                if period { NumberDelimiter::Parenthesis } else { NumberDelimiter::Period };
            Some(if period { "1." } else { "1)" })
        }
        _ => None,
    }
}

fn number_form(numbering: &Numbering) -> CompactString {
    let number = match numbering.style {
        NumeralStyle::Decimal => "1",
        NumeralStyle::LowerLetter => "a",
        NumeralStyle::UpperLetter => "A",
        NumeralStyle::LowerRoman => "i",
        NumeralStyle::UpperRoman => "I",
    };
    match numbering.delimiter {
        NumberDelimiter::Period => format!("{number}."),
        NumberDelimiter::Parenthesis => format!("{number})"),
        NumberDelimiter::Parentheses => format!("({number})"),
        NumberDelimiter::None => number.to_string(),
    }
    .into()
}
