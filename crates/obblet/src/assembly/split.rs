//! One document into several, at its headings or page breaks, with links that cross between them.

use super::identify::{name_headings, places};
use crate::document::{
    Block, BlockKind, BreakKind, CitedWork, CompactString, Document, Heading, Inline, Metadata,
    Node, Note, NoteId, Visit, id_of_words, plain_text, walk, walk_inlines_mut,
};
use std::collections::{HashMap, HashSet};

/// One of the documents.
#[derive(Debug, Clone)]
pub struct SplitPage {
    /// What its file is called, without an ending: empty for the first page, which keeps the name of
    /// the whole; for the others the words of its heading.
    pub name: String,
    /// The document.
    pub document: Document,
}

/// Splits a document into pages: each top-level heading of `level` or higher begins one, but for the
/// heading that the document begins with; where `at_breaks`, so does each page break.
///
/// `file` gives the address of a page by its name. Links and references to places on other pages lead
/// there. Notes go with their marks. A document without such a heading is one page.
///
/// ```
/// use obblet::assembly::split;
/// use obblet::document::{Document, build::*};
/// let blocks = vec![
///     heading(1, "Handbook"),
///     paragraph(vec![link("#floats", "see below")]),
///     heading(2, "Floats"),
/// ];
/// let pages = split(Document::of(blocks), 2, false, &|name| format!("{name}.html"));
/// assert_eq!((pages.len(), pages[1].name.as_str()), (2, "floats"));
/// let first = serde_json::to_string(&pages[0].document.blocks).unwrap();
/// assert!(first.contains("floats.html#floats"));
/// ```
#[must_use]
pub fn split(
    mut document: Document,
    level: u8,
    at_breaks: bool,
    file: &dyn Fn(&str) -> String,
) -> Vec<SplitPage> {
    name_headings(&mut document);
    let metadata = document.metadata.clone();
    let groups = groups(std::mem::take(&mut document.blocks), level, at_breaks);
    let all_notes = std::mem::take(&mut document.notes);
    let names = names(&groups);
    let mut homes: HashMap<CompactString, usize> = HashMap::new();
    for (page, blocks) in groups.iter().enumerate() {
        for place in places(blocks) {
            homes.entry(place).or_insert(page);
        }
    }
    let pages = groups.into_iter().enumerate().map(|(page, mut blocks)| {
        let name = names.get(page).cloned().unwrap_or_default();
        let mut notes = take_notes(&mut blocks, &all_notes);
        let turn = |blocks: &mut Vec<Block>| {
            walk_inlines_mut(blocks, |_, inlines| {
                inlines.iter_mut().for_each(|inline| turned(inline, page, &homes, &names, file));
            });
        };
        turn(&mut blocks);
        notes.iter_mut().for_each(|note| turn(&mut note.content));
        let metadata = page_metadata(&metadata, page, &blocks);
        raise(&mut blocks, page);
        let bibliography = take_works(&mut blocks, &notes, &document.bibliography);
        let document = Document { metadata, blocks, notes, bibliography, ..document.clone() };
        SplitPage { name, document }
    });
    pages.collect()
}

/// The blocks of each page.
fn groups(blocks: Vec<Block>, level: u8, at_breaks: bool) -> Vec<Vec<Block>> {
    let mut groups: Vec<Vec<Block>> = vec![Vec::new()];
    for block in blocks {
        let is_break = at_breaks && matches!(block.kind, BlockKind::Break(BreakKind::Page));
        let level_here = heading_level(&block);
        let begins = is_break || level_here.is_some_and(|here| here <= level);
        if begins && groups.last().is_some_and(|page| is_a_page(page, level_here)) {
            groups.push(Vec::new());
        }
        if let Some(page) = groups.last_mut().filter(|_| !is_break) {
            page.push(block);
        }
    }
    groups.retain(|page| !page.is_empty());
    groups
}

/// Whether blocks make a page of their own when another one begins with a heading of some level. A
/// heading with nothing but lower ones below it does not.
fn is_a_page(blocks: &[Block], next: Option<u8>) -> bool {
    blocks.iter().any(|block| match (&block.kind, next) {
        (BlockKind::SourceRemark(_) | BlockKind::Break(_), _) => false,
        (BlockKind::Heading(heading), Some(next)) => heading.level >= next,
        _ => true,
    })
}

fn heading_level(block: &Block) -> Option<u8> {
    match &block.kind {
        BlockKind::Heading(heading) => Some(heading.level),
        _ => None,
    }
}

/// The name of each page, unique also where large and small letters are the same.
fn names(groups: &[Vec<Block>]) -> Vec<String> {
    let mut taken: HashSet<String> = HashSet::new();
    let name = |(page, blocks): (usize, &Vec<Block>)| {
        if page == 0 {
            return String::new();
        }
        let words = first_heading(blocks).map(|heading| id_of_words(&plain_text(&heading.content)));
        let base =
            words.filter(|words| !words.is_empty()).unwrap_or_else(|| (page + 1).to_string());
        // File systems allow 255 bytes.
        let base: String = base.chars().take(60).collect();
        let mut name = base.clone();
        let mut number = 2;
        while !taken.insert(name.clone()) {
            name = format!("{base}-{number}");
            number += 1;
        }
        name
    };
    groups.iter().enumerate().map(name).collect()
}

fn first_heading(blocks: &[Block]) -> Option<&Heading> {
    blocks.iter().find_map(|block| match &block.kind {
        BlockKind::Heading(heading) => Some(&**heading),
        _ => None,
    })
}

/// The notes whose marks are on a page, numbered anew. Notes may have marks of others.
fn take_notes(blocks: &mut Vec<Block>, all: &[Note]) -> Vec<Note> {
    let mut numbers: HashMap<usize, usize> = HashMap::new();
    let mut notes: Vec<Note> = Vec::new();
    let mut take = |blocks: &mut Vec<Block>, wanted: &mut Vec<usize>| {
        walk_inlines_mut(blocks, |_, inlines| {
            for inline in inlines {
                let Inline::NoteMark(id) = inline else { continue };
                let next = numbers.len();
                let number = *numbers.entry(id.index()).or_insert_with(|| {
                    wanted.push(id.index());
                    next
                });
                *id = NoteId::new(number);
            }
        });
    };
    let mut wanted = Vec::new();
    take(blocks, &mut wanted);
    let mut done = 0;
    while let Some(number) = wanted.get(done).copied() {
        done += 1;
        let Some(note) = all.get(number) else { continue };
        let mut note = note.clone();
        take(&mut note.content, &mut wanted);
        notes.push(note);
    }
    notes
}

/// The works that are listed on a page: all where the document has its list, or else those that the
/// page cites, in a list at its end.
fn take_works(blocks: &mut Vec<Block>, notes: &[Note], all: &[CitedWork]) -> Vec<CitedWork> {
    let mut cited: HashSet<&str> = HashSet::new();
    let mut has_list = false;
    for visit in std::iter::once(blocks.as_slice())
        .chain(notes.iter().map(|note| note.content.as_slice()))
        .flat_map(walk)
    {
        match visit {
            Visit::Enter(Node::Inline(Inline::Citation(citation))) => {
                cited.extend(citation.works.iter().map(|cite| cite.key.as_str()));
            }
            Visit::Enter(Node::Block(Block { kind: BlockKind::Bibliography, .. })) => {
                has_list = true
            }
            _ => {}
        }
    }
    if has_list {
        return all.to_vec();
    }
    let works: Vec<CitedWork> =
        all.iter().filter(|work| cited.contains(work.key.as_str())).cloned().collect();
    if !works.is_empty() {
        blocks.push(Block::new(BlockKind::Bibliography));
    }
    works
}

/// Lets a link or reference lead to another page, where its place is there.
fn turned(
    inline: &mut Inline,
    page: usize,
    homes: &HashMap<CompactString, usize>,
    names: &[String],
    file: &dyn Fn(&str) -> String,
) {
    let address_of = |place: &str| {
        let home = *homes.get(place).filter(|home| **home != page)?;
        Some(format!("{}#{place}", file(names.get(home)?)))
    };
    match inline {
        Inline::Link(link) => {
            if let Some(address) = link.address.strip_prefix('#').and_then(address_of) {
                link.address = address.into();
            }
        }
        Inline::Reference(reference) => {
            if let Some(address) = address_of(&reference.target) {
                // What it says was worked out by the source, or else the place's own name has to do.
                let content = match reference.stored.is_empty() {
                    true => vec![Inline::Text(reference.target.clone())],
                    false => std::mem::take(&mut reference.stored),
                };
                *inline = crate::document::build::link(address, content);
            }
        }
        _ => {}
    }
}

/// What is said about a page: all that is said about the whole, under its own title.
fn page_metadata(whole: &Metadata, page: usize, blocks: &[Block]) -> Metadata {
    if page == 0 {
        return whole.clone();
    }
    let title = first_heading(blocks).map(|heading| heading.content.clone()).unwrap_or_default();
    // Marks of notes are no part of a title.
    let title = plain_text(&title);
    Metadata {
        title: if title.is_empty() {
            whole.title.clone()
        } else {
            vec![Inline::Text(title.into())]
        },
        subtitle: Vec::new(),
        description: None,
        front_matter: None,
        ..whole.clone()
    }
}

/// Lets the heading that a page begins with be its highest.
fn raise(blocks: &mut [Block], page: usize) {
    let Some(top) = first_heading(blocks).map(|heading| heading.level).filter(|_| page > 0) else {
        return;
    };
    crate::document::blocks_in_order_mut(blocks, |block| {
        if let BlockKind::Heading(heading) = &mut block.kind {
            heading.level = heading.level.saturating_sub(top.saturating_sub(1)).max(1);
        }
    });
}
