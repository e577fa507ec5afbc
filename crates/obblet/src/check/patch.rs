//! Mending a source in place: only the blocks in which a pass finds something are written anew, and
//! all else stays as it was typed.

use super::mending::mend;
use crate::additions::Additions;
use crate::compare::{CompareOptions, compare};
use crate::convert::{read_with, write};
use crate::document::{Block, BlockKind, Document, Inline, Metadata, SourceMap, walk_inlines_mut};
use crate::findings::{Finding, FindingKind};
use crate::format::Format;
use crate::formats::ReadError;
use crate::house::House;
use crate::options::WriteOptions;
use crate::resolver::Resolver;
use std::ops::Range;
use std::sync::Arc;

/// Changes that are tried one by one when all together are not right.
const TRIED: usize = 200;
/// Stands behind the last block of what is written, so that notes can be told from it.
const END: &str = "OBBLETENDOFBLOCKS";

/// A source that was mended.
#[derive(Debug, Clone)]
pub struct MendedSource {
    /// The whole source, with the line endings it had.
    pub text: String,
    /// What was mended.
    pub mended: Vec<Finding>,
}

/// A run of blocks that a pass has changed.
struct Change {
    /// Which blocks of the document as it was.
    blocks: Range<usize>,
    /// What stands for them.
    mended: Vec<Block>,
    /// The same, written.
    text: String,
    /// The bytes of the source that it stands for.
    bytes: Range<usize>,
}

/// Mends a source of a text format in place: `None` when there is nothing to mend, or nothing that
/// can be mended without changing more than that.
///
/// Notes, and what stands in them, stay as they are; so does LaTeX, whose blocks have no known ends.
///
/// ```
/// use obblet::{Format, House, check::mend_source};
/// let text = b"A  tide.\n\nKept\nas __it__ is: `a  b`\n";
/// let mended = mend_source(text, Format::Markdown, &House::default(), &())?;
/// let text = mended.map(|mended| mended.text).unwrap_or_default();
/// assert_eq!(text, "A tide.\n\nKept\nas __it__ is: `a  b`\n");
/// # Ok::<(), obblet::ReadError>(())
/// ```
///
/// # Errors
/// Those of [`read`](crate::convert::read).
pub fn mend_source(
    source: &[u8],
    format: Format,
    house: &House,
    resolver: &dyn Resolver,
) -> Result<Option<MendedSource>, ReadError> {
    // In others it is not known where blocks end.
    let has_ends = matches!(format, Format::Markdown | Format::Org | Format::Text);
    let Some(line_end) = line_end(source).filter(|_| has_ends) else { return Ok(None) };
    let none = Additions::new();
    let reading = read_with(source, format, &house.read_options(), resolver, &none)?;
    let Some(text) = own_text(&reading.map) else { return Ok(None) };
    let document = reading.document;
    let mut mended = document.clone();
    let findings = mend(&mut mended, house).into_vec();
    if findings.is_empty() {
        return Ok(None);
    }
    let maker = Maker { document: &document, text: &text, format, house };
    let changes = maker.changes(mended);
    let held = held(&document, changes, &text, |text| {
        read_with(text.as_bytes(), format, &house.read_options(), resolver, &none)
            .map(|reading| reading.document)
            .ok()
    });
    if held.is_empty() {
        return Ok(None);
    }
    let patched = text_with(&text, &held);
    let text = if line_end == "\n" { patched } else { patched.replace('\n', line_end) };
    let is_held = |finding: &Finding| {
        let at = finding.place.map_or(usize::MAX, |place| place.start as usize);
        held.iter().any(|change| (change.bytes.start..=change.bytes.end).contains(&at))
    };
    let mended = findings.into_iter().filter(is_held).collect();
    Ok(Some(MendedSource { text, mended }))
}

/// How the lines of a source end; `None` where they do not all end alike, or where it is no UTF-8: not
/// all of it could stay as it is.
fn line_end(source: &[u8]) -> Option<&'static str> {
    let text = std::str::from_utf8(source).ok()?;
    let (both, feeds) = (text.matches("\r\n").count(), text.matches('\n').count());
    let returns = text.matches('\r').count();
    match (both, returns) {
        (0, 0) => Some("\n"),
        _ if both == feeds && both == returns => Some("\r\n"),
        _ => None,
    }
}

/// The text of a source that includes no other.
fn own_text(map: &SourceMap) -> Option<Arc<str>> {
    match map {
        SourceMap::Text(text) => Some(text.clone()),
        SourceMap::Files(files) => match &**files {
            [(_, text)] => Some(text.clone()),
            _ => None,
        },
        _ => None,
    }
}

/// What changes are made of.
struct Maker<'m> {
    document: &'m Document,
    text: &'m str,
    format: Format,
    house: &'m House,
}

impl Maker<'_> {
    /// The runs of blocks that differ, each written.
    fn changes(&self, after: Document) -> Vec<Change> {
        let mut changes = Vec::new();
        let mut mended = after.blocks.into_iter().peekable();
        let blocks = &self.document.blocks;
        let mut at = 0;
        while at < blocks.len() {
            let (first, mut taken) = (at, Vec::new());
            while let Some(block) = blocks.get(at) {
                // Of each block what a pass has made of it has its place, or is gone.
                let mut made = Vec::new();
                while let Some(next) = mended.next_if(|next| next.place.start < block.place.end) {
                    made.push(next);
                }
                if is_same(block, &made) {
                    break;
                }
                taken.extend(made);
                at += 1;
            }
            if at > first {
                changes.extend(self.change(first..at, taken));
            }
            at += 1;
        }
        changes
    }

    /// A change with its text; `None` where the writer cannot carry what it is about, or it is not
    /// known where it stands.
    fn change(&self, blocks: Range<usize>, mended: Vec<Block>) -> Option<Change> {
        let first = self.document.blocks.get(blocks.start)?;
        let last = self.document.blocks.get(blocks.end.checked_sub(1)?)?;
        let bytes = first.place.start as usize..last.place.end as usize;
        let source = self.text.get(bytes.clone()).filter(|source| !source.is_empty())?;
        if mended.is_empty() {
            // With the blank line behind it.
            let behind = self.text.get(bytes.end..).unwrap_or_default();
            let blank = behind.len() - behind.trim_start_matches('\n').len();
            let bytes = bytes.start..bytes.end + blank;
            return Some(Change { blocks, mended, text: String::new(), bytes });
        }
        let body = self.written(&mended)?;
        // The block ends as it did.
        let ends = source.len() - source.trim_end_matches('\n').len();
        let text = format!("{}{}", body.trim_matches('\n'), "\n".repeat(ends));
        Some(Change { blocks, mended, text, bytes })
    }

    fn written(&self, mended: &[Block]) -> Option<String> {
        let mut part = Document {
            blocks: mended.to_vec(),
            metadata: Metadata::default(),
            ..self.document.clone()
        };
        part.blocks.push(crate::document::build::paragraph(END));
        let mut house = self.house.clone();
        house.page.extent = crate::house::Extent::Body;
        let options = WriteOptions { house, ..WriteOptions::format(self.format) };
        let made = write(&part, &options).ok()?;
        if made.findings.iter().any(|finding| finding.kind() == FindingKind::Lost) {
            return None;
        }
        let (body, _) = made.text().split_once(END)?;
        Some(body.to_string())
    }
}

/// Passes also join texts that no reader tells apart.
fn is_same(block: &Block, made: &[Block]) -> bool {
    let [one] = made else { return false };
    if one == block {
        return true;
    }
    let mut both = [vec![block.clone()], vec![one.clone()]];
    both.iter_mut().for_each(|blocks| walk_inlines_mut(blocks, |_, inlines| join_texts(inlines)));
    both[0] == both[1]
}

fn join_texts(inlines: &mut Vec<Inline>) {
    let mut joined: Vec<Inline> = Vec::with_capacity(inlines.len());
    for inline in inlines.drain(..) {
        match (joined.last_mut(), inline) {
            (Some(Inline::Text(before)), Inline::Text(text)) => before.push_str(&text),
            (_, inline) => joined.push(inline),
        }
    }
    *inlines = joined;
}

/// The changes after which the source says what the mended document does: all of them, or those that
/// do so one by one.
fn held(
    document: &Document,
    changes: Vec<Change>,
    text: &str,
    read: impl Fn(&str) -> Option<Document>,
) -> Vec<Change> {
    let fits = |changes: &[Change]| {
        let mut wanted = document_with(document, changes);
        read(&text_with(text, changes)).is_some_and(|mut again| {
            drop_numbers(&mut wanted);
            drop_numbers(&mut again);
            compare(&wanted, &again, &CompareOptions::default()).is_same()
        })
    };
    if fits(&changes) {
        return changes;
    }
    let mut kept: Vec<Change> = Vec::new();
    for change in changes.into_iter().take(TRIED) {
        kept.push(change);
        if !fits(&kept) {
            kept.pop();
        }
    }
    kept
}

/// A heading of another level has another number.
fn drop_numbers(document: &mut Document) {
    for block in &mut document.blocks {
        if let BlockKind::Heading(heading) = &mut block.kind {
            heading.number = None;
        }
    }
}

fn text_with(text: &str, changes: &[Change]) -> String {
    let mut whole = String::with_capacity(text.len());
    let mut from = 0;
    for change in changes {
        whole.push_str(text.get(from..change.bytes.start).unwrap_or_default());
        whole.push_str(&change.text);
        from = change.bytes.end;
    }
    whole.push_str(text.get(from..).unwrap_or_default());
    whole
}

fn document_with(document: &Document, changes: &[Change]) -> Document {
    let mut blocks = Vec::with_capacity(document.blocks.len());
    let mut from = 0;
    for change in changes {
        blocks.extend(document.blocks.get(from..change.blocks.start).unwrap_or_default().to_vec());
        blocks.extend(change.mended.iter().cloned());
        from = change.blocks.end;
    }
    blocks.extend(document.blocks.get(from..).unwrap_or_default().to_vec());
    Document { blocks, ..document.clone() }
}
