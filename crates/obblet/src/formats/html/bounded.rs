//! Raw HTML that stands in pieces between text of another format, kept from swallowing what follows it.
//!
//! A tag that nobody closes would take all later text into its element; where that element is unknown,
//! hidden or none that may hold blocks, the text would be gone with it. Such an element ends with the
//! piece it stands in, or its tag goes.

use super::elements::entry;
use super::open_tags::{TEXT_ONLY, behind_tag, behind_text};
use super::sanitise::is_dropped_whole;
use crate::hashing::QuickMap;

/// A piece of raw HTML.
#[derive(Debug, Clone, Copy)]
pub(crate) struct RawPiece<'m> {
    pub(crate) markup: &'m str,
    /// What line it stands in; `None` for a block of its own.
    pub(crate) line: Option<u32>,
}

/// A tag that is open.
struct Open {
    name: String,
    piece: usize,
    /// Where it stands in its piece.
    start: usize,
    end: usize,
    line: Option<u32>,
}

/// A change of a piece: what is put where a stretch stood.
struct Edit {
    piece: usize,
    start: usize,
    end: usize,
    put: String,
}

/// The pieces, in order, that need another markup so that they hold nothing behind them.
pub(crate) fn bounded(pieces: &[RawPiece<'_>]) -> Vec<Option<String>> {
    let mut scan = Scan { open: Vec::new(), counts: QuickMap::default(), edits: Vec::new() };
    for (number, piece) in pieces.iter().enumerate() {
        scan.end_lines(piece.line);
        scan.piece(number, piece);
    }
    scan.end_lines(None);
    let rest = std::mem::take(&mut scan.open);
    rest.into_iter().rev().for_each(|open| scan.bound(open, pieces));
    // Of edits at one place the first comes first.
    scan.edits.sort_by_key(|edit| (edit.piece, edit.start));
    let mut changed: Vec<Option<String>> = vec![None; pieces.len()];
    for edits in scan.edits.chunk_by(|one, next| one.piece == next.piece) {
        let number = edits.first().map_or(0, |edit| edit.piece);
        let markup = pieces.get(number).map_or("", |piece| piece.markup);
        if let Some(place) = changed.get_mut(number) {
            *place = Some(edited(markup, edits));
        }
    }
    changed
}

fn edited(markup: &str, edits: &[Edit]) -> String {
    let mut text = String::with_capacity(markup.len());
    let mut from = 0;
    for edit in edits {
        text.push_str(markup.get(from..edit.start).unwrap_or_default());
        text.push_str(&edit.put);
        from = edit.end;
    }
    text.push_str(markup.get(from..).unwrap_or_default());
    text
}

struct Scan {
    open: Vec<Open>,
    /// How many elements of each name are open.
    counts: QuickMap<String, usize>,
    edits: Vec<Edit>,
}

impl Scan {
    /// What a line has opened ends with the line.
    fn end_lines(&mut self, next: Option<u32>) {
        let is_over = |open: &Open| open.line.is_some() && open.line != next;
        while let Some(open) = self.open.pop_if(|open| is_over(open)) {
            self.count_down(&open.name);
            self.remove(open);
        }
    }

    fn piece(&mut self, number: usize, piece: &RawPiece<'_>) {
        let markup = piece.markup;
        let mut at = 0;
        while let Some(found) = markup.get(at..).and_then(|rest| rest.find('<')) {
            let start = at + found;
            at = self.tag(number, piece, start).unwrap_or(markup.len()).max(start + 1);
        }
    }

    /// Reads what begins with this `<`; gives the offset behind it.
    fn tag(&mut self, number: usize, piece: &RawPiece<'_>, start: usize) -> Option<usize> {
        let rest = piece.markup.get(start..)?;
        let behind = |rest: &str| piece.markup.len() - rest.len();
        if let Some(comment) = rest.strip_prefix("<!--") {
            return Some(
                comment.split_once("-->").map_or(piece.markup.len(), |(_, it)| behind(it)),
            );
        }
        let inside = rest.get(1..)?;
        let (is_end, inside) = inside.strip_prefix('/').map_or((false, inside), |it| (true, it));
        if !inside.starts_with(|c: char| c.is_ascii_alphabetic()) {
            return Some(start + 1);
        }
        let length = inside.find(|c: char| c.is_ascii_whitespace() || matches!(c, '/' | '>'))?;
        let name = inside.get(..length)?.to_ascii_lowercase();
        let end = behind(behind_tag(inside.get(length..)?)?);
        if is_end {
            self.close(&name);
            return Some(end);
        }
        let is_text = is_text_only(&name);
        if is_text && let Some(text) = behind_text(piece.markup.get(end..)?, &name) {
            return Some(behind(text));
        }
        if is_text && piece.line.is_none() {
            self.spell_out(number, start);
            return Some(end);
        }
        if is_risky(&name) {
            *self.counts.entry(name.clone()).or_default() += 1;
            self.open.push(Open { name, piece: number, start, end, line: piece.line });
        }
        Some(end)
    }

    fn close(&mut self, name: &str) {
        if self.counts.get(name).is_none_or(|count| *count == 0) {
            return;
        }
        // What is open inside goes with it.
        while let Some(open) = self.open.pop() {
            self.count_down(&open.name);
            if open.name == name {
                return;
            }
        }
    }

    fn count_down(&mut self, name: &str) {
        if let Some(count) = self.counts.get_mut(name) {
            *count = count.saturating_sub(1);
        }
    }

    /// An element that no tag closes.
    fn bound(&mut self, open: Open, pieces: &[RawPiece<'_>]) {
        if is_dropped_whole(&open.name) {
            return self.remove(open);
        }
        let end = pieces.get(open.piece).map_or(0, |piece| piece.markup.trim_end().len());
        let put = format!("</{}>", open.name);
        self.edits.push(Edit {
            piece: open.piece,
            start: end.max(open.end),
            end: end.max(open.end),
            put,
        });
    }

    /// A tag without its end tag is what somebody wrote.
    fn spell_out(&mut self, piece: usize, start: usize) {
        self.edits.push(Edit { piece, start, end: start + 1, put: "&lt;".into() });
    }

    fn remove(&mut self, open: Open) {
        if is_text_only(&open.name) {
            return self.spell_out(open.piece, open.start);
        }
        let Open { piece, start, end, .. } = open;
        self.edits.push(Edit { piece, start, end, put: String::new() });
    }
}

/// Whether an element holds text alone, up to its end tag.
fn is_text_only(name: &str) -> bool {
    TEXT_ONLY.contains(&name) || name == "plaintext"
}

/// Whether text inside of an element may be gone with it.
fn is_risky(name: &str) -> bool {
    const NO_BLOCKS: [&str; 6] = ["button", "option", "optgroup", "picture", "select", "datalist"];
    entry(name).is_none() && name != "obblet-part" && !is_empty(name)
        || is_dropped_whole(name) && !is_empty(name)
        || NO_BLOCKS.contains(&name)
}

fn is_empty(name: &str) -> bool {
    super::depth_guard::EMPTY.contains(&name)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_no_tag_closes_ends_with_its_piece_or_goes() {
        let block = |markup| RawPiece { markup, line: None };
        let line = |markup| RawPiece { markup, line: Some(1) };
        let cases: [(&[RawPiece<'_>], &[&str]); 9] = [
            (&[block("<my-marker/>")], &["<my-marker/></my-marker>"]),
            (&[block("<my-marker>"), block("</my-marker>")], &["<my-marker>", "</my-marker>"]),
            (&[line("<Object>")], &[""]),
            (&[block("<object>\n")], &["\n"]),
            (&[block("<title>")], &["&lt;title>"]),
            (&[block("<title>tide</title>")], &["<title>tide</title>"]),
            (&[block("<select><option>a")], &["<select><option>a</option></select>"]),
            (&[block("<div><b>"), block("<br>")], &["<div><b>", "<br>"]),
            (&[block("<x-a>"), line("<x-b>"), block("</x-a>")], &["<x-a>", "", "</x-a>"]),
        ];
        for (pieces, expected) in cases {
            let changed = bounded(pieces);
            let shown = pieces.iter().zip(changed);
            let shown: Vec<String> =
                shown.map(|(piece, new)| new.unwrap_or_else(|| piece.markup.into())).collect();
            assert_eq!(shown, expected);
        }
    }
}
