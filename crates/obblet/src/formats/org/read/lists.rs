//! Lists (Org syntax, “Plain Lists and Items”).

use super::Reader;
use super::lines::{Bullet, BulletKind, block_begin, bullet, drawer_name};
use crate::document::{
    Block, BlockKind, CheckState, DescriptionItem, Inline, List, ListItem, ListKind, ListSpacing,
    NumberDelimiter, Numbering, NumeralStyle, Place,
};
use crate::findings::Code;

/// An item as it stands in its lines.
struct Item {
    bullet: Bullet,
    /// The counter it sets, as in `[@5]`.
    counter: Option<i32>,
    check: Option<CheckState>,
    /// What stands before ` :: `.
    term: Option<Vec<Inline>>,
    content: Vec<Block>,
    place: Place,
    /// Whether a blank line parts it from the next one.
    is_parted: bool,
}

impl Reader<'_> {
    /// A list, from its first item on. Gives the line behind it.
    pub(super) fn list(&mut self, at: usize, end: usize, out: &mut Vec<Block>) -> usize {
        let indentation = self.lines.get(at).map_or(0, |line| line.indentation());
        let mut items = Vec::new();
        let mut next = at;
        // Items take their marks and terms off their lines.
        let start = self.place_of(&(at..at + 1)).start;
        while let Some(line) = self.lines.get(next).filter(|_| next < end)
            && line.indentation() == indentation
            && self.starts(next, end).is_some_and(|e| e == super::elements::Element::Item)
            && let Some(bullet) = bullet(line.text)
        {
            let (item, behind, is_over) = self.item(next, end, indentation, bullet);
            items.push(item);
            next = behind;
            if is_over {
                break;
            }
        }
        let place = Place { start, ..self.place_of(&(at..next)) };
        let is_description = items.first().is_some_and(|item| item.term.is_some());
        let kind = match is_description {
            true => self.descriptions(items),
            false => self.numbered_or_bulleted(items),
        };
        out.push(Block::new(kind).at(place));
        next
    }

    /// An item, the line behind it, and whether the list ends there.
    fn item(
        &mut self,
        at: usize,
        end: usize,
        indentation: usize,
        bullet: Bullet,
    ) -> (Item, usize, bool) {
        let (behind, blank) = self.end_of_item(at, end, indentation);
        let next = behind + blank;
        let mut item = Item {
            bullet,
            counter: None,
            check: None,
            term: None,
            content: Vec::new(),
            place: self.place_of(&(at..behind)),
            is_parted: blank > 0 && next < end,
        };
        if let Some(line) = self.lines.get_mut(at) {
            let mut skipped = bullet.length;
            let rest = |skipped: usize| line.text.get(skipped..).unwrap_or_default();
            skipped += leading_space(rest(skipped));
            if let Some((counter, length)) = counter(rest(skipped)) {
                item.counter = Some(counter);
                skipped += length;
            }
            if let Some((check, length)) = check_box(rest(skipped)) {
                item.check = Some(check);
                skipped += length;
            }
            *line = line.rest(skipped);
        }
        item.term = self.term(at, matches!(bullet.kind, BulletKind::Sign(_)));
        let place = item.place;
        let read = self.deeper(place, |reader| reader.elements(at..behind));
        item.content = read.unwrap_or_else(|| self.as_text(at..behind));
        (item, next, blank >= 2)
    }

    /// The line behind an item, and the blank lines behind that.
    fn end_of_item(&self, at: usize, end: usize, indentation: usize) -> (usize, usize) {
        let mut behind = at + 1;
        let mut blank = 0;
        let mut next = at + 1;
        while let Some(line) = self.lines.get(next).filter(|_| next < end) {
            if line.is_blank() {
                blank += 1;
                next += 1;
                // Two blank lines end all lists.
                if blank >= 2 {
                    break;
                }
                continue;
            }
            if line.indentation() <= indentation {
                break;
            }
            blank = 0;
            // What stands in a block may be indented as it likes.
            next = self.inner_end(next, end).map_or(next, |close| close) + 1;
            behind = next;
        }
        (behind, blank)
    }

    /// The last line of a block or drawer that begins at a line.
    fn inner_end(&self, at: usize, end: usize) -> Option<usize> {
        let text = self.lines.get(at)?.trimmed();
        match text.as_bytes().first()? {
            b'#' => {
                let (name, _) = block_begin(text)?;
                self.survey.block_end(name, at, end)
            }
            b':' => {
                drawer_name(text)?;
                self.survey.drawer_end(at, end)
            }
            _ => None,
        }
    }

    /// Takes `term ::` off the first line of an item.
    fn term(&mut self, at: usize, is_sign: bool) -> Option<Vec<Inline>> {
        let line = self.lines.get(at).copied().filter(|_| is_sign)?;
        let text = line.text;
        let colons = match text.ends_with(" ::") {
            true => text.len() - 3,
            false => text.find(" :: ").or_else(|| text.find(" ::\t"))?,
        };
        let term = text.get(..colons)?;
        let behind = (colons + 3).min(text.len());
        let rest = text.get(behind..).unwrap_or_default();
        if let Some(place) = self.lines.get_mut(at) {
            *place = line.rest(behind + leading_space(rest));
        }
        Some(self.inlines_of_text(term.trim(), line.place()))
    }

    fn descriptions(&mut self, items: Vec<Item>) -> BlockKind {
        let mut descriptions: Vec<DescriptionItem> = Vec::new();
        for item in items {
            if item.check.is_some() {
                let what = "the box of a described term";
                self.findings.count(Code::NodeNotCarried, what, Some(item.place));
            }
            let Some(term) = item.term else {
                // A term may have several descriptions.
                if let Some(last) = descriptions.last_mut() {
                    last.descriptions.push(item.content);
                }
                continue;
            };
            if item.content.is_empty() {
                descriptions.push(DescriptionItem { terms: vec![term], descriptions: Vec::new() });
                continue;
            }
            match descriptions.last_mut().filter(|last| last.descriptions.is_empty()) {
                // Terms without a description share that of the next one.
                Some(last) => {
                    last.terms.push(term);
                    last.descriptions.push(item.content);
                }
                None => descriptions
                    .push(DescriptionItem { terms: vec![term], descriptions: vec![item.content] }),
            }
        }
        BlockKind::DescriptionList(descriptions)
    }

    fn numbered_or_bulleted(&mut self, items: Vec<Item>) -> BlockKind {
        let Some(first) = items.first() else { return BlockKind::Paragraph(Vec::new()) };
        let start = first.counter.unwrap_or(1);
        let kind = match first.bullet.kind {
            BulletKind::Sign(sign) => ListKind::Bulleted(Some(sign)),
            BulletKind::Number { is_parenthesis, .. } => {
                let delimiter = match is_parenthesis {
                    true => NumberDelimiter::Parenthesis,
                    false => NumberDelimiter::Period,
                };
                ListKind::Numbered(Numbering { start, delimiter, ..Numbering::default() })
            }
        };
        let is_loose = items.iter().rev().skip(1).any(|item| item.is_parted);
        let spacing = if is_loose { ListSpacing::Loose } else { ListSpacing::Tight };
        let mut expected = start;
        let mut list_items = Vec::new();
        for item in items {
            let mut content = item.content;
            if let Some(term) = item.term {
                put_back_term(term, &mut content, item.place);
            }
            let counter = item.counter.unwrap_or(expected);
            let number = (counter != expected).then_some(counter);
            expected = counter.saturating_add(1);
            list_items.push(ListItem {
                content,
                check: item.check,
                number,
                place: item.place,
                ..ListItem::default()
            });
        }
        BlockKind::List(Box::new(List { kind, spacing, items: list_items }))
    }
}

/// In a list that is none of descriptions a term is only text.
fn put_back_term(mut words: Vec<Inline>, content: &mut Vec<Block>, place: Place) {
    words.push(Inline::Text(" :: ".into()));
    match content.first_mut() {
        Some(Block { kind: BlockKind::Paragraph(rest), .. }) => {
            words.append(rest);
            *rest = words;
        }
        _ => content.insert(0, Block::new(BlockKind::Paragraph(words)).at(place)),
    }
}

fn leading_space(text: &str) -> usize {
    text.len() - text.trim_start_matches([' ', '\t']).len()
}

/// `[@5]` or `[@c]`, with the white space behind it.
fn counter(text: &str) -> Option<(i32, usize)> {
    let (inner, rest) = text.strip_prefix("[@")?.split_once(']')?;
    let value = match inner.as_bytes() {
        [letter] if letter.is_ascii_alphabetic() => {
            i32::from(letter.to_ascii_lowercase() - b'a') + 1
        }
        _ => inner.parse().ok().filter(|value| *value >= 0)?,
    };
    Some((value, text.len() - rest.len() + leading_space(rest)))
}

/// `[ ]`, `[-]` or `[X]`, with the white space behind it.
fn check_box(text: &str) -> Option<(CheckState, usize)> {
    let check = match text.as_bytes().get(..3)? {
        b"[ ]" => CheckState::Open,
        b"[-]" => CheckState::Partial,
        b"[X]" | b"[x]" => CheckState::Done,
        _ => return None,
    };
    let rest = text.get(3..)?;
    let is_parted = rest.is_empty() || rest.starts_with([' ', '\t']);
    is_parted.then(|| (check, 3 + leading_space(rest)))
}

/// Letters and Roman numerals are an attribute for HTML: `:type a`.
pub(super) fn apply_numerals(block: &mut Block, stated: Option<&str>) {
    let BlockKind::List(list) = &mut block.kind else { return };
    let ListKind::Numbered(numbering) = &mut list.kind else { return };
    numbering.style = match stated {
        Some("a") => NumeralStyle::LowerLetter,
        Some("A") => NumeralStyle::UpperLetter,
        Some("i") => NumeralStyle::LowerRoman,
        Some("I") => NumeralStyle::UpperRoman,
        _ => return,
    };
}
