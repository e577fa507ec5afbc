//! Paragraphs that are items of lists, as word processors hold them and as people type them: each
//! knows its mark and its level, and the lists are made of them.

use super::list::roman;
use super::{
    Block, BlockKind, CompactString, List, ListItem, ListKind, ListSpacing, NumberDelimiter,
    Numbering, NumeralStyle, Place,
};

/// A paragraph that is an item.
#[derive(Debug)]
pub(crate) struct ListParagraph {
    /// 1 is the outermost.
    pub(crate) level: u8,
    /// The list it says it belongs to; paragraphs that say nothing belong together.
    pub(crate) list: CompactString,
    pub(crate) mark: Mark,
    pub(crate) block: Block,
}

/// What stands before an item.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Mark {
    /// A character.
    Bullet(char),
    /// A number, in every way its letters can be read, the likeliest first.
    Number(Vec<(NumeralStyle, i32)>, NumberDelimiter),
}

/// Characters that people and programs put before items.
const BULLETS: [char; 19] = [
    '•', '◦', '▪', '▫', '■', '□', '●', '○', '·', '–', '—', '-', '*', '§', '\u{f0b7}', '\u{f0a7}',
    '\u{f0d8}', '➢', '✓',
];

impl Mark {
    /// The mark that a text is, such as `1.`, `(a)`, `iv)` or `•`.
    pub(crate) fn of(text: &str) -> Option<Self> {
        let text = text.trim_matches(|c: char| c.is_whitespace() || c == '\u{a0}');
        let mut chars = text.chars();
        if let (Some(only), None) = (chars.next(), chars.next())
            && (BULLETS.contains(&only) || only == 'o')
        {
            return Some(Self::Bullet(only));
        }
        let (inner, delimiter) = match text.strip_prefix('(').and_then(|t| t.strip_suffix(')')) {
            Some(inner) => (inner, NumberDelimiter::Parentheses),
            None => match text.strip_suffix(')') {
                Some(inner) => (inner, NumberDelimiter::Parenthesis),
                None => (text.strip_suffix('.')?, NumberDelimiter::Period),
            },
        };
        let readings = readings(inner);
        (!readings.is_empty()).then_some(Self::Number(readings, delimiter))
    }

    fn reading(&self, style: NumeralStyle) -> Option<i32> {
        let Self::Number(readings, _) = self else { return None };
        readings.iter().find(|(found, _)| *found == style).map(|(_, number)| *number)
    }
}

/// What a number can mean: `i` is one, or the ninth letter.
fn readings(text: &str) -> Vec<(NumeralStyle, i32)> {
    if text.is_empty() || text.len() > 9 {
        return Vec::new();
    }
    if text.bytes().all(|byte| byte.is_ascii_digit()) {
        return text
            .parse()
            .map(|number| vec![(NumeralStyle::Decimal, number)])
            .unwrap_or_default();
    }
    let (roman, letter) = match () {
        () if text.bytes().all(|byte| byte.is_ascii_lowercase()) => {
            (NumeralStyle::LowerRoman, NumeralStyle::LowerLetter)
        }
        () if text.bytes().all(|byte| byte.is_ascii_uppercase()) => {
            (NumeralStyle::UpperRoman, NumeralStyle::UpperLetter)
        }
        () => return Vec::new(),
    };
    let lower = text.to_ascii_lowercase();
    let mut readings = Vec::new();
    if let Some(number) = roman_number(&lower) {
        readings.push((roman, number));
    }
    if let [only] = lower.as_bytes() {
        readings.push((letter, i32::from(only - b'a') + 1));
    }
    // A list begins with one far more often than with a hundred.
    readings.sort_by_key(|(_, number)| *number);
    readings
}

fn roman_number(text: &str) -> Option<i32> {
    let value = |c: char| {
        Some(match c {
            'i' => 1,
            'v' => 5,
            'x' => 10,
            'l' => 50,
            'c' => 100,
            'd' => 500,
            'm' => 1000,
            _ => return None,
        })
    };
    let values: Option<Vec<i32>> = text.chars().map(value).collect();
    let values = values?;
    let mut sum = 0;
    for (at, value) in values.iter().enumerate() {
        let next = values.get(at + 1).copied().unwrap_or(0);
        sum += if *value < next { -value } else { *value };
    }
    (sum > 0 && roman(sum).to_ascii_lowercase() == text).then_some(sum)
}

struct OpenList {
    level: u8,
    name: CompactString,
    list: List,
    next_number: i32,
    place: Place,
}

impl OpenList {
    fn beginning(first: &ListParagraph) -> Self {
        let kind = kind(&first.mark);
        let next_number = match &kind {
            ListKind::Numbered(numbering) => numbering.start,
            ListKind::Bulleted(_) => 1,
        };
        let list = List { kind, spacing: ListSpacing::Tight, items: Vec::new() };
        let (level, name, place) = (first.level, first.list.clone(), first.block.place);
        Self { level, name, list, next_number, place }
    }
}

/// Lists made of neighbouring paragraphs.
pub(crate) fn nested_lists(paragraphs: Vec<ListParagraph>) -> Vec<Block> {
    let mut done = Vec::new();
    let mut open: Vec<OpenList> = Vec::new();
    for paragraph in paragraphs {
        while open.last().is_some_and(|last| last.level > paragraph.level) {
            close(&mut open, &mut done);
        }
        let goes_on = open
            .last()
            .is_some_and(|last| last.level < paragraph.level || belongs(last, &paragraph));
        if !goes_on {
            close(&mut open, &mut done);
        }
        if open.last().is_none_or(|last| last.level < paragraph.level) {
            open.push(OpenList::beginning(&paragraph));
        }
        push_item(&mut open, paragraph);
    }
    while !open.is_empty() {
        close(&mut open, &mut done);
    }
    done
}

/// Whether a paragraph of the same level is the next item.
fn belongs(open: &OpenList, paragraph: &ListParagraph) -> bool {
    open.name == paragraph.list
        && match (&open.list.kind, &paragraph.mark) {
            (ListKind::Bulleted(_), Mark::Bullet(_)) => true,
            (ListKind::Numbered(numbering), mark @ Mark::Number(_, delimiter)) => {
                *delimiter == numbering.delimiter && mark.reading(numbering.style).is_some()
            }
            _ => false,
        }
}

fn kind(mark: &Mark) -> ListKind {
    match mark {
        Mark::Bullet(_) => ListKind::Bulleted(None),
        Mark::Number(readings, delimiter) => {
            let (style, start) = readings.first().copied().unwrap_or((NumeralStyle::Decimal, 1));
            ListKind::Numbered(Numbering {
                start,
                style,
                delimiter: *delimiter,
                ..Default::default()
            })
        }
    }
}

fn push_item(open: &mut [OpenList], paragraph: ListParagraph) {
    let Some(last) = open.last_mut() else { return };
    let mut item = ListItem { place: paragraph.block.place, ..ListItem::default() };
    // A number that is not the next one is said.
    if let ListKind::Numbered(numbering) = &last.list.kind {
        let stated = paragraph.mark.reading(numbering.style);
        item.number = stated.filter(|number| *number != last.next_number);
        last.next_number = stated.unwrap_or(last.next_number).saturating_add(1);
    }
    item.content.push(paragraph.block);
    last.list.items.push(item);
}

/// Ends the innermost list: into the last item of the one around it, or out.
fn close(open: &mut Vec<OpenList>, done: &mut Vec<Block>) {
    let Some(list) = open.pop() else { return };
    let block = Block::new(BlockKind::List(Box::new(list.list))).at(list.place);
    match open.last_mut().and_then(|outer| outer.list.items.last_mut()) {
        Some(item) => item.content.push(block),
        None => done.push(block),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::build::paragraph;

    #[test]
    fn marks_are_told_from_words() {
        let number = |style, number| Some((style, number));
        let cases = [
            ("1.", number(NumeralStyle::Decimal, 1)),
            ("(12)", number(NumeralStyle::Decimal, 12)),
            ("a)", number(NumeralStyle::LowerLetter, 1)),
            ("i.", number(NumeralStyle::LowerRoman, 1)),
            ("c.", number(NumeralStyle::LowerLetter, 3)),
            ("XIV.", number(NumeralStyle::UpperRoman, 14)),
            ("iiii.", None),
            ("Dr.", None),
            ("1", None),
            ("no.", None),
        ];
        for (text, expected) in cases {
            let found = match Mark::of(text) {
                Some(Mark::Number(readings, _)) => readings.first().copied(),
                _ => None,
            };
            assert_eq!(found, expected, "{text}");
        }
        assert_eq!(Mark::of(" •\u{a0}"), Some(Mark::Bullet('•')));
        assert_eq!(Mark::of("ab"), None);
    }

    #[test]
    fn levels_nest_and_numbers_go_on() {
        let item = |level, mark: &str| ListParagraph {
            level,
            list: CompactString::default(),
            mark: Mark::of(mark).unwrap(),
            block: paragraph(mark),
        };
        let rows = [(1, "3."), (2, "h)"), (2, "i)"), (1, "4."), (1, "7."), (1, "•")];
        let lists = nested_lists(rows.iter().map(|(level, mark)| item(*level, mark)).collect());
        let [numbered, bulleted] = lists.as_slice() else { panic!("{lists:?}") };
        let BlockKind::List(list) = &numbered.kind else { panic!() };
        assert!(matches!(&list.kind, ListKind::Numbered(numbering) if numbering.start == 3));
        let numbers: Vec<Option<i32>> = list.items.iter().map(|item| item.number).collect();
        assert_eq!(numbers, [None, None, Some(7)]);
        let BlockKind::List(inner) = &list.items[0].content[1].kind else { panic!() };
        assert_eq!(inner.items.len(), 2, "i) behind h) is a letter");
        assert!(matches!(&bulleted.kind, BlockKind::List(list) if list.items.len() == 1));
    }
}
