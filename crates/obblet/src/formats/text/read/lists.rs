//! Lists: bullets and numbers at the beginning of lines, nested by their indent.

use super::Reader;
use super::lines::{Chunk, Line};
use crate::document::{
    Block, BlockKind, List, ListItem, ListKind, ListSpacing, Mark, NumberDelimiter, Numbering,
    NumeralStyle,
};

/// An item's first line: its mark, and the line behind that.
pub(super) fn item<'t>(line: &Line<'t>) -> Option<(Mark, Line<'t>)> {
    let (mark, rest) = line.text.split_once([' ', '\t'])?;
    // A lone small o is a word in some languages.
    if rest.trim().is_empty() || mark.len() > 8 || matches!(mark, "o" | "§" | "–" | "—") {
        return None;
    }
    Some((Mark::of(mark)?, line.behind(mark.len())))
}

/// Whether a mark may begin a list: letters count from the first, numbers from where they like.
fn begins(mark: &Mark) -> bool {
    match mark {
        Mark::Bullet(_) => true,
        Mark::Number(readings, delimiter) => readings.iter().any(|(style, number)| {
            let is_year = *number > 200 && *delimiter == NumberDelimiter::Period;
            match style {
                NumeralStyle::Decimal => !is_year,
                _ => *number == 1,
            }
        }),
    }
}

fn is_next(one: &Mark, two: &Mark) -> bool {
    match (one, two) {
        (Mark::Bullet(one), Mark::Bullet(two)) => one == two,
        (Mark::Number(one, first), Mark::Number(two, second)) => {
            first == second && one.iter().any(|(style, number)| two.contains(&(*style, number + 1)))
        }
        _ => false,
    }
}

/// An item with all its lines.
struct Item<'t> {
    mark: Mark,
    chunks: Vec<Chunk<'t>>,
    is_loose: bool,
}

impl Reader {
    /// A list: items until something stands further left that is none. Gives how many chunks it takes.
    pub(super) fn list(&mut self, rest: &[Chunk<'_>], blocks: &mut Vec<Block>) -> Option<usize> {
        let chunk = rest.first()?;
        let first = chunk.lines.first()?;
        let (mark, _) = item(first).filter(|(mark, _)| begins(mark))?;
        let base = first.indent;
        let mut items: Vec<Item<'_>> = Vec::new();
        let mut taken = 0;
        let mut last = mark;
        'chunks: for (at, chunk) in rest.iter().enumerate() {
            for (index, line) in chunk.lines.iter().enumerate() {
                let found = item(line).filter(|_| line.indent <= base + 1);
                match found {
                    Some((mark, inner)) if items.is_empty() || is_next(&last, &mark) => {
                        let is_loose = index == 0 && at > 0;
                        if let Some(item) = items.last_mut() {
                            item.is_loose |= is_loose;
                        }
                        last = mark.clone();
                        let lines = vec![inner];
                        let chunks = vec![Chunk { lines, blanks: 0 }];
                        items.push(Item { mark, chunks, is_loose: false });
                    }
                    // Another list, or text that stands as far left as the marks.
                    _ if index == 0 && line.indent <= base && at > 0 => break 'chunks,
                    Some(_) if index == 0 => break 'chunks,
                    _ => {
                        let Some(item) = items.last_mut() else { break 'chunks };
                        if index == 0 {
                            item.is_loose = true;
                            item.chunks.push(Chunk { lines: vec![*line], blanks: chunk.blanks });
                        } else if let Some(open) = item.chunks.last_mut() {
                            open.lines.push(*line);
                        }
                    }
                }
            }
            taken = at + 1;
        }
        // One item alone is a list when it is marked, and a sentence when it is numbered.
        let is_list = items.len() > 1 || matches!(items.first()?.mark, Mark::Bullet(_));
        if !is_list || taken == 0 {
            return None;
        }
        self.took("lists", chunk.place());
        let list = self.made(items);
        blocks.push(Block::new(BlockKind::List(Box::new(list))).at(chunk.place()));
        Some(taken)
    }

    fn made(&mut self, items: Vec<Item<'_>>) -> List {
        let is_loose = items.iter().any(|item| item.is_loose);
        let kind =
            items.first().map_or(ListKind::Bulleted(None), |item| kind_of(&items, &item.mark));
        let items = items
            .into_iter()
            .map(|item| {
                let mut chunks = item.chunks;
                for chunk in &mut chunks {
                    take_indent(chunk);
                }
                let chunks: Vec<Chunk<'_>> = chunks.into_iter().flat_map(parted).collect();
                ListItem { content: self.inner(&chunks), ..ListItem::default() }
            })
            .collect();
        let spacing = if is_loose { ListSpacing::Loose } else { ListSpacing::Tight };
        List { kind, spacing, items }
    }
}

/// The style in which all marks count on.
fn kind_of(items: &[Item<'_>], first: &Mark) -> ListKind {
    match first {
        Mark::Bullet(bullet) => ListKind::Bulleted(Some(*bullet)),
        Mark::Number(readings, delimiter) => {
            let counts_on = |(style, start): &&(NumeralStyle, i32)| {
                items.iter().zip(0..).all(|(item, at)| match &item.mark {
                    Mark::Number(readings, _) => readings.contains(&(*style, start + at)),
                    Mark::Bullet(_) => false,
                })
            };
            let (style, start) = readings
                .iter()
                .find(counts_on)
                .or(readings.first())
                .copied()
                .unwrap_or((NumeralStyle::Decimal, 1));
            ListKind::Numbered(Numbering {
                start,
                style,
                delimiter: *delimiter,
                ..Numbering::default()
            })
        }
    }
}

/// Lines below an item's first one lose the indent that they have because of the item.
fn take_indent(chunk: &mut Chunk<'_>) {
    let base = chunk.indent();
    chunk.lines.iter_mut().for_each(|line| line.indent -= base);
}

/// A chunk in which a list begins on a line of its own becomes two.
fn parted(chunk: Chunk<'_>) -> Vec<Chunk<'_>> {
    let begins_list = |line: &Line<'_>| item(line).is_some_and(|(mark, _)| begins(&mark));
    let at = match chunk.lines.first() {
        Some(first) if item(first).is_none() => chunk.lines.iter().skip(1).position(begins_list),
        _ => None,
    };
    let Some(at) = at.map(|at| at + 1) else { return vec![chunk] };
    let mut first = chunk;
    let lines = first.lines.split_off(at);
    vec![first, Chunk { lines, blanks: 0 }]
}
