//! The account is kept honest: a reading or a writer that drops, doubles or swaps every k-th run, cell,
//! note, item or formula is noticed, in each format.

use super::{Output, of_output, of_parts, of_reading};
use crate::convert::{read, write};
use crate::document::{
    Block, BlockKind, Cell, Document, Inline, Node, SourceMap, Visit, walk, walk_blocks_mut,
    walk_inlines_mut,
};
use crate::findings::{Account, Code, Findings};
use crate::format::Format;
use crate::formats::ReadOptions;
use crate::options::WriteOptions;
use std::io::Read as _;

const FORMATS: [Format; 6] =
    [Format::Markdown, Format::Html, Format::Word, Format::Latex, Format::Org, Format::Text];

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum What {
    Runs,
    Cells,
    Notes,
    Items,
    Formulas,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Change {
    Drop,
    Double,
    Swap,
}

/// A text of the mill, with enough of everything.
fn sample() -> String {
    const PLACES: [&str; 16] = [
        "weir", "sluice", "pond", "race", "wheel", "shaft", "hopper", "stones", "bolter", "hoist",
        "loft", "quay", "gate", "lade", "tailrace", "granary",
    ];
    const KEEPERS: [&str; 16] = [
        "Sands", "Leat", "Quill", "Marrow", "Tench", "Bolt", "Fenner", "Oakes", "Pryor", "Ridd",
        "Sallow", "Thatch", "Udall", "Venn", "Wharf", "Yeo",
    ];
    let mut text = String::from("# The tide mill\n\n");
    for (number, (place, keeper)) in PLACES.iter().zip(KEEPERS).enumerate() {
        text.push_str(&format!(
            "## Room {number}: the {place}\n\nThe *{place}* of {keeper} was built in {year}, and the \
             **{place} keeper** {keeper} minds it[^{place}] with $\\frac{{{place}_{{{number}}}}}{{height + width}} = {place}^{{2}}$.\n\n",
            year = 1700 + number,
        ));
        text.push_str(&format!(
            "| Part {number} | Work |\n| --- | --- |\n| {place} board | oak {number} |\n| {place} pin | ash {number} |\n\n",
        ));
        text.push_str(&format!(
            "- grease the {place}\n- sweep {number} steps\n- lock door {place}\n\n"
        ));
        text.push_str(&format!("[^{place}]: Keeper {number} lives behind the {place} wall, and lights the lamps of the {place} before each ebb.\n\n"));
    }
    text
}

/// A source of each format with its reading.
struct Source {
    format: Format,
    bytes: Vec<u8>,
    document: Document,
    map: SourceMap,
}

fn source_in(format: Format) -> Source {
    let markdown = read(sample().as_bytes(), Format::Markdown, &ReadOptions::default());
    let document = markdown.expect("Markdown reads").document;
    let options = WriteOptions::format(format);
    let bytes = write(&document, &options).expect("it can be written").bytes;
    let reading = read(&bytes, format, &ReadOptions::default()).expect("it reads");
    Source { format, bytes, document: reading.document, map: reading.map }
}

/// What the account says of a document that was read from a source.
fn account_of(source: &Source, document: &Document) -> (Account, bool) {
    let mut findings = Findings::new();
    let account = match source.format {
        Format::Word => {
            let parts = parts_of(&source.bytes);
            let parts: Vec<&str> = parts.iter().map(String::as_str).collect();
            of_parts(&parts, document, &mut findings)
        }
        format => of_reading(format, &source.map, document, &mut findings),
    };
    let codes = [Code::TextUnaccounted, Code::TextAdded, Code::TextMoved];
    let is_reported = findings.iter().any(|finding| codes.contains(&finding.code));
    (account, is_reported)
}

fn parts_of(bytes: &[u8]) -> Vec<String> {
    let mut archive = zip::ZipArchive::new(std::io::Cursor::new(bytes)).expect("a package");
    let mut part = |name: &str| {
        let mut text = String::new();
        archive.by_name(name).ok()?.read_to_string(&mut text).ok()?;
        Some(text)
    };
    ["word/document.xml", "word/footnotes.xml"].into_iter().filter_map(&mut part).collect()
}

/// The document with every k-th thing of a kind changed; `None` where it has none.
fn changed(document: &Document, what: What, change: Change, step: usize) -> Option<Document> {
    let mut changed = document.clone();
    let mut count = 0;
    let mut is_hit = || {
        count += 1;
        count % step == 0
    };
    match what {
        What::Runs => walk_inlines_mut(&mut changed.blocks, |_, list| {
            let is_run =
                |inline: &Inline| matches!(inline, Inline::Text(text) if text.trim().len() > 3);
            alter(list, change, is_run, &mut is_hit);
        }),
        What::Formulas => walk_inlines_mut(&mut changed.blocks, |_, list| {
            alter(list, change, |inline| matches!(inline, Inline::Formula(_)), &mut is_hit);
        }),
        What::Notes => {
            let mut notes: Vec<_> =
                changed.notes.iter_mut().map(|note| std::mem::take(&mut note.content)).collect();
            alter_contents(&mut notes, change, &mut is_hit);
            for (note, content) in changed.notes.iter_mut().zip(notes) {
                note.content = content;
            }
        }
        What::Cells | What::Items => walk_blocks_mut(&mut changed.blocks, |blocks| {
            for block in blocks {
                alter_block(block, what, change, &mut is_hit);
            }
        }),
    }
    (changed != *document).then_some(changed)
}

fn alter_block(block: &mut Block, what: What, change: Change, is_hit: &mut impl FnMut() -> bool) {
    match &mut block.kind {
        BlockKind::Table(table) if what == What::Cells => {
            for row in table.groups.iter_mut().flat_map(|group| &mut group.rows) {
                let take = |cell: &mut Cell| std::mem::take(&mut cell.content);
                let mut contents: Vec<_> = row.cells.iter_mut().map(take).collect();
                alter_contents(&mut contents, change, is_hit);
                row.cells.iter_mut().zip(contents).for_each(|(cell, it)| cell.content = it);
            }
        }
        BlockKind::List(list) if what == What::Items => {
            let mut contents: Vec<_> =
                list.items.iter_mut().map(|item| std::mem::take(&mut item.content)).collect();
            alter_contents(&mut contents, change, is_hit);
            list.items.iter_mut().zip(contents).for_each(|(item, it)| item.content = it);
        }
        _ => {}
    }
}

fn alter_contents(contents: &mut [Vec<Block>], change: Change, is_hit: &mut impl FnMut() -> bool) {
    for at in 0..contents.len() {
        if contents[at].is_empty() || !is_hit() {
            continue;
        }
        match change {
            Change::Drop => contents[at].clear(),
            Change::Double => {
                let again = contents[at].clone();
                contents[at].extend(again);
            }
            Change::Swap if at + 1 < contents.len() => contents.swap(at, at + 1),
            Change::Swap if at > 0 => contents.swap(at, at - 1),
            Change::Swap => {}
        }
    }
}

fn alter(
    list: &mut Vec<Inline>,
    change: Change,
    is_wanted: impl Fn(&Inline) -> bool,
    is_hit: &mut impl FnMut() -> bool,
) {
    let mut at = 0;
    while at < list.len() {
        if is_wanted(&list[at]) && is_hit() {
            match change {
                Change::Drop => {
                    list.remove(at);
                    continue;
                }
                Change::Double => {
                    list.insert(at, list[at].clone());
                    at += 1;
                }
                Change::Swap => {
                    let other = (at + 1..list.len()).find(|other| is_wanted(&list[*other]));
                    if let Some(other) = other {
                        list.swap(at, other);
                        at = other;
                    }
                }
            }
        }
        at += 1;
    }
}

/// What is not noticed, and why.
fn is_unnoticed(format: Format, what: What, change: Change) -> bool {
    match (format, what, change) {
        // Macros make words, so more words and another order say nothing there.
        (Format::Latex, _, Change::Double | Change::Swap) => true,
        // Formulas have other words in each of these; they are counted.
        (Format::Word | Format::Html, What::Formulas, Change::Swap) => true,
        _ => false,
    }
}

#[test]
fn a_reading_that_drops_doubles_or_swaps_is_noticed() {
    let mut tried = 0;
    for format in FORMATS {
        let source = source_in(format);
        let (account, is_reported) = account_of(&source, &source.document);
        assert!(!is_reported, "{format:?} as it was read: {account:?}");
        for what in [What::Runs, What::Cells, What::Notes, What::Items, What::Formulas] {
            for change in [Change::Drop, Change::Double, Change::Swap] {
                // The rooms of the sample say much the same: fewer changes of order than these may pass.
                let steps: &[usize] = if change == Change::Swap { &[2] } else { &[2, 3, 4] };
                for &step in steps {
                    let Some(mutant) = changed(&source.document, what, change, step) else {
                        continue;
                    };
                    if is_unnoticed(format, what, change) {
                        continue;
                    }
                    tried += 1;
                    let (account, is_reported) = account_of(&source, &mutant);
                    assert!(
                        is_reported,
                        "{format:?}, {what:?}, {change:?}, every {step}th: {account:?}"
                    );
                }
            }
        }
    }
    assert!(tried > 100, "{tried} changes were tried");
}

#[test]
fn a_writer_that_drops_is_noticed_in_each_format() {
    let source = source_in(Format::Markdown);
    for format in FORMATS {
        for what in [What::Runs, What::Cells, What::Notes, What::Items] {
            for step in [2, 4] {
                let Some(mutant) = changed(&source.document, what, Change::Drop, step) else {
                    continue;
                };
                let house = WriteOptions::house("body").expect("a house");
                let options = WriteOptions { format, ..house };
                let written = write(&mutant, &options).expect("it is written");
                let mut findings = Findings::new();
                let parts;
                let texts: Vec<&str>;
                let output = match format {
                    Format::Word => {
                        parts = parts_of(&written.bytes);
                        texts = parts.iter().map(String::as_str).collect();
                        Output::Parts(&texts)
                    }
                    format => Output::Text(format, written.text()),
                };
                let account = of_output(&source.document, &output, &mut findings);
                assert!(
                    account.unaccounted > 0,
                    "{format:?}, {what:?}, every {step}th: {account:?}"
                );
            }
        }
    }
}

#[test]
fn the_sample_has_enough_of_everything() {
    let source = source_in(Format::Markdown);
    let nodes = walk(&source.document.blocks).filter_map(|visit| match visit {
        Visit::Enter(node) => Some(node),
        Visit::Leave(_) => None,
    });
    let cells = nodes.filter(|node| matches!(node, Node::Cell(_))).count();
    assert!(cells > 60 && source.document.notes.len() > 12);
}
