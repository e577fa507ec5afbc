//! Many documents into one proof: a cover list, contents, a chapter each; notes in one row, links
//! between the documents turned inward.

use super::identify::{name_headings, places, rename};
use crate::address::{NearAddress, relative, turn_addresses};
use crate::attachments;
use crate::document::build::{bullets, emphasis, heading, link, paragraph};
use crate::document::{
    Attributes, Block, BlockKind, BreakKind, CommentId, CompactString, ContentsKind, ContentsList,
    Document, Group, GroupRole, Inline, Media, MediaId, Metadata, NoteId, PictureSource, Place,
    SourceMap, id_of_words, plain_text, walk_blocks_mut, walk_inlines_mut,
};
use crate::findings::{Code, Findings};
use std::collections::{HashMap, HashSet};

/// One of the documents.
#[derive(Debug, Clone)]
pub struct Part {
    /// Its path relative to a folder that all share, with `/` between folders: by it the others
    /// link to it.
    pub path: String,
    /// The document.
    pub document: Document,
    /// What turns its places into lines and columns.
    pub map: SourceMap,
}

/// What [`bind`] can be told.
#[derive(Debug, Clone)]
pub struct BindOptions {
    /// The title of the whole; `None` for the first document's.
    pub title: Option<String>,
    /// The path of the target, relative to the folder that all share: addresses that lead to other
    /// files are as seen from there. Default: in that folder.
    pub target: String,
    /// Whether a list of the documents, with their authors and descriptions, stands at the front.
    /// Default: yes.
    pub cover: bool,
    /// The deepest level in the contents list behind it, where a document's title is level 1; 0 for
    /// no list. Default: 2.
    pub contents: u8,
    /// Whether each document begins on a new page of paper. Default: no.
    pub page_breaks: bool,
}

impl Default for BindOptions {
    fn default() -> Self {
        Self { title: None, target: "bound".into(), cover: true, contents: 2, page_breaks: false }
    }
}

/// One document made of many.
#[derive(Debug, Clone)]
pub struct Bound {
    /// The document.
    pub document: Document,
    /// What was changed or found wrong on the way.
    pub findings: Findings,
    /// What turns places in it into files, lines and columns.
    pub map: SourceMap,
}

/// Binds documents into one, in their order.
///
/// Each becomes a chapter under its title. Ids that several of them have get the name of their
/// document in front; links from one to another lead to the place inside; notes, comments, media,
/// styles and cited works come together. Numbers that a source states (of figures, equations) stay.
///
/// ```
/// use obblet::assembly::{BindOptions, Part, bind};
/// use obblet::document::SourceMap;
/// use obblet::{Format, ReadOptions, WriteOptions, read, write};
/// # fn main() -> Result<(), obblet::ConvertError> {
/// let part = |path: &str, text: &str| {
///     let reading = read(text.as_bytes(), Format::Markdown, &ReadOptions::default())?;
///     let (document, map) = (reading.document, reading.map);
///     Ok::<_, obblet::ReadError>(Part { path: path.into(), document, map })
/// };
/// let parts = vec![
///     part("tides.md", "# Tides\n\nSee the [wheel](work/wheel.md#floats).\n")?,
///     part("work/wheel.md", "# The wheel\n\n## Floats\n")?,
/// ];
/// let bound = bind(parts, &BindOptions::default());
/// let written = write(&bound.document, &WriteOptions::house("body")?)?;
/// assert!(written.text().contains("See the <a href=\"#floats\">wheel</a>."));
/// # Ok(())
/// # }
/// ```
#[must_use]
pub fn bind(parts: Vec<Part>, options: &BindOptions) -> Bound {
    let mut binder = Binder::default();
    let mut chapters = Vec::new();
    for part in parts {
        let chapter = binder.chapter(part, options);
        chapters.push(chapter);
    }
    turn_links(&mut chapters, &mut binder, options);
    binder.document.metadata = metadata(&chapters, options);
    let language = binder.document.metadata.language.clone();
    let mut blocks = front(&chapters, options);
    let mut bodies = Vec::new();
    for (number, chapter) in chapters.into_iter().enumerate() {
        if options.page_breaks && (number > 0 || !blocks.is_empty()) {
            bodies.push(Block::new(BlockKind::Break(BreakKind::Page)));
        }
        bodies.extend(in_its_language(chapter, language.as_ref()));
    }
    blocks.extend(bodies);
    binder.document.blocks = blocks;
    let Binder { document, findings, maps, .. } = binder;
    Bound { document, findings, map: SourceMap::Several(maps.into()) }
}

/// What is known of a chapter by those that link to it.
#[derive(Debug, Clone)]
struct Way {
    path: String,
    /// The id of its heading.
    heading: CompactString,
    /// Ids that have another name now.
    renamed: HashMap<CompactString, CompactString>,
    ids: HashSet<CompactString>,
    /// Its notes among all.
    notes: std::ops::Range<usize>,
}

struct Chapter {
    way: Way,
    metadata: Metadata,
    title: String,
    blocks: Vec<Block>,
}

/// What comes together.
#[derive(Default)]
struct Binder {
    document: Document,
    findings: Findings,
    taken: HashSet<CompactString>,
    maps: Vec<(String, SourceMap, u32)>,
    sources: u32,
}

impl Binder {
    fn chapter(&mut self, part: Part, options: &BindOptions) -> Chapter {
        let Part { path, mut document, map } = part;
        let file = path.rsplit('/').next().unwrap_or(&path);
        let stem = file.rsplit_once('.').map_or(file, |(stem, _)| stem).to_string();
        name_headings(&mut document);
        let title = document.title_or_first_heading().filter(|title| !title.trim().is_empty());
        let title = title.unwrap_or_else(|| stem.clone());
        let prefix = id_of_words(&stem);
        let heading = self.head(&mut document, &title, &prefix);
        let renamed = self.rename_places(&mut document, &prefix);
        let heading = renamed.get(&heading).cloned().unwrap_or(heading);
        let all =
            std::iter::once(&document.blocks).chain(document.notes.iter().map(|n| &n.content));
        let ids: HashSet<CompactString> = all.flat_map(|blocks| places(blocks)).collect();
        self.taken.extend(ids.iter().cloned());
        let notes = self.take_contents(&mut document);
        self.shift_places(&mut document.blocks, notes.clone());
        if options.contents > 0 {
            self.drop_contents_lists(&mut document.blocks);
        }
        self.tell_metadata(&document.metadata);
        self.maps.push((path.clone(), map.clone(), self.sources));
        self.sources = self.sources.saturating_add(map.source_count());
        let way = Way { path, heading, renamed, ids, notes };
        Chapter { way, metadata: document.metadata, title, blocks: document.blocks }
    }

    /// Lets the document begin with its title as its only heading of level 1. Gives that one's id.
    fn head(&mut self, document: &mut Document, title: &str, prefix: &str) -> CompactString {
        let levels = || document.blocks.iter().filter_map(heading_level);
        let first = document.blocks.first().filter(|block| {
            matches!(&block.kind, BlockKind::Heading(heading) if plain_text(&heading.content) == title)
        });
        let top = levels().min().unwrap_or(1);
        let is_headed = first.is_some_and(|block| heading_level(block) == Some(top))
            && levels().filter(|level| *level == top).count() == 1;
        let shift = if is_headed { 1 } else { 2 } - i16::from(top);
        crate::document::blocks_in_order_mut(&mut document.blocks, |block| {
            if let BlockKind::Heading(heading) = &mut block.kind {
                let level = i16::from(heading.level) + shift;
                heading.level = u8::try_from(level.clamp(1, 9)).unwrap_or(9);
            }
        });
        if is_headed {
            let id = document.blocks.first().and_then(|block| block.attributes.id());
            return id.unwrap_or(prefix).into();
        }
        let own: HashSet<CompactString> = places(&document.blocks).into_iter().collect();
        let id = free(prefix, "chapter", |id| self.taken.contains(id) || own.contains(id));
        if !document.metadata.subtitle.is_empty() {
            let subtitle = std::mem::take(&mut document.metadata.subtitle);
            document.blocks.insert(0, paragraph(vec![emphasis(subtitle)]));
        }
        let content = match document.metadata.title.is_empty() {
            true => vec![Inline::Text(title.into())],
            false => document.metadata.title.clone(),
        };
        let mut opening = heading(1, content);
        opening.attributes = Attributes::with_id(id.as_str());
        opening.place = document.blocks.first().map_or_else(Default::default, |block| block.place);
        document.blocks.insert(0, opening);
        id
    }

    /// Places whose names another document has already get its own name in front.
    fn rename_places(
        &mut self,
        document: &mut Document,
        prefix: &str,
    ) -> HashMap<CompactString, CompactString> {
        let mut renamed: HashMap<CompactString, CompactString> = HashMap::new();
        let mut made: HashSet<CompactString> = HashSet::new();
        let own: HashSet<CompactString> = std::iter::once(&document.blocks)
            .chain(document.notes.iter().map(|note| &note.content))
            .flat_map(|blocks| places(blocks))
            .collect();
        let mut clashing: Vec<&CompactString> =
            own.iter().filter(|id| self.taken.contains(*id)).collect();
        clashing.sort();
        for id in clashing {
            let new = free(&format!("{prefix}-{id}"), "part", |id| {
                self.taken.contains(id) || own.contains(id) || made.contains(id)
            });
            made.insert(new.clone());
            renamed.insert(id.clone(), new);
        }
        rename(&mut document.blocks, &renamed);
        document.notes.iter_mut().for_each(|note| rename(&mut note.content, &renamed));
        renamed
    }

    /// Takes notes, comments, media, styles and cited works, and gives their marks new numbers.
    /// Gives the numbers of the notes.
    fn take_contents(&mut self, document: &mut Document) -> std::ops::Range<usize> {
        let (first_note, first_comment) = (self.document.notes.len(), self.document.comments.len());
        let media: Vec<MediaId> = document
            .media
            .iter()
            .map(|Media { name, media_type, bytes }| {
                self.document.media.add(name, media_type, bytes.clone())
            })
            .collect();
        let names: HashMap<CompactString, CompactString> = document
            .media
            .iter()
            .zip(&media)
            .filter_map(|(old, new)| {
                Some((old.name.clone(), self.document.media.get(*new)?.name.clone()))
            })
            .collect();
        let change = |inline: &mut Inline| match inline {
            Inline::NoteMark(id) => *id = NoteId::new(id.index() + first_note),
            Inline::CommentMark(mark) => {
                mark.comment = CommentId::new(mark.comment.index() + first_comment);
            }
            Inline::Picture(picture) => {
                if let PictureSource::Media(id) = &mut picture.source
                    && let Some(new) = media.get(id.index())
                {
                    *id = *new;
                }
            }
            Inline::Link(link) => {
                let name = attachments::name_in(&link.address).and_then(|name| names.get(name));
                if let Some(name) = name {
                    link.address = attachments::address_of(name).into();
                }
            }
            _ => {}
        };
        let each = |blocks: &mut Vec<Block>| {
            walk_inlines_mut(blocks, |_, inlines| inlines.iter_mut().for_each(change));
        };
        each(&mut document.blocks);
        document.notes.iter_mut().for_each(|note| each(&mut note.content));
        document.comments.iter_mut().for_each(|comment| each(&mut comment.content));
        self.document.notes.append(&mut document.notes);
        for mut comment in document.comments.drain(..) {
            let first = u32::try_from(first_comment).unwrap_or(u32::MAX);
            comment.reply_to = comment.reply_to.map(|reply| reply.saturating_add(first));
            self.document.comments.push(comment);
        }
        self.take_styles_and_works(document);
        first_note..self.document.notes.len()
    }

    fn take_styles_and_works(&mut self, document: &mut Document) {
        for style in document.styles.drain(..) {
            let known = self.document.styles.iter().find(|known| known.name == style.name);
            match known {
                None => self.document.styles.push(style),
                Some(known) if *known == style => {}
                // The first document's style holds for all.
                Some(_) => self.findings.count(Code::BoundStyleDiffers, &style.name, None),
            }
        }
        for work in document.bibliography.drain(..) {
            match self.document.bibliography.iter().find(|known| known.key == work.key) {
                None => self.document.bibliography.push(work),
                Some(known) if *known == work => {}
                Some(_) => self.findings.count(Code::BoundWorkDiffers, &work.key, None),
            }
        }
    }

    /// The contents list of the whole holds those of its documents.
    fn drop_contents_lists(&mut self, blocks: &mut Vec<Block>) {
        let findings = &mut self.findings;
        let is_list = |block: &Block| matches!(&block.kind, BlockKind::Contents(list) if list.kind == ContentsKind::Headings);
        walk_blocks_mut(blocks, |blocks| {
            for block in blocks.iter().filter(|block| is_list(block)) {
                findings.add(Code::BoundContentsList, Some(block.place));
            }
            blocks.retain(|block| !is_list(block));
        });
    }

    /// What is said about a document and has no place in the whole.
    fn tell_metadata(&mut self, metadata: &Metadata) {
        let place = Some(Place { source: self.sources, ..Place::default() });
        let Metadata { created, modified, extra, .. } = metadata;
        let dates = [("created", created), ("modified", modified)];
        for (name, _) in dates.iter().filter(|(_, date)| date.is_some()) {
            self.findings.count(Code::BoundMetadata, name, place);
        }
        for (name, _) in extra {
            self.findings.count(Code::BoundMetadata, name, place);
        }
    }

    /// Lets places say which document they are in.
    fn shift_places(&mut self, blocks: &mut Vec<Block>, notes: std::ops::Range<usize>) {
        let by = self.sources;
        let shift = |blocks: &mut Vec<Block>| {
            walk_blocks_mut(blocks, |blocks| {
                for block in blocks {
                    block.place.source = block.place.source.saturating_add(by);
                    if let BlockKind::List(list) = &mut block.kind {
                        for item in &mut list.items {
                            item.place.source = item.place.source.saturating_add(by);
                        }
                    }
                }
            });
        };
        shift(blocks);
        let notes = self.document.notes.get_mut(notes).into_iter().flatten();
        notes.for_each(|note| shift(&mut note.content));
    }
}

fn heading_level(block: &Block) -> Option<u8> {
    match &block.kind {
        BlockKind::Heading(heading) => Some(heading.level),
        _ => None,
    }
}

/// A name that nothing has yet.
fn free(wanted: &str, or: &str, is_taken: impl Fn(&str) -> bool) -> CompactString {
    let base = if wanted.is_empty() { or } else { wanted };
    let mut name = base.to_string();
    let mut number = 2;
    while is_taken(&name) {
        name = format!("{base}-{number}");
        number += 1;
    }
    name.into()
}

/// Lets links from one document to another lead to the place inside, and all others where they did.
fn turn_links(chapters: &mut [Chapter], binder: &mut Binder, options: &BindOptions) {
    let ways: Vec<Way> = chapters.iter().map(|chapter| chapter.way.clone()).collect();
    let by_path = ways.iter().map(|way| (way.path.as_str(), way)).collect();
    let ways = Ways { by_path, target: &options.target };
    for chapter in chapters {
        ways.turn(&chapter.way, &mut chapter.blocks, &mut binder.findings);
        let notes = binder.document.notes.get_mut(chapter.way.notes.clone());
        for note in notes.into_iter().flatten() {
            ways.turn(&chapter.way, &mut note.content, &mut binder.findings);
        }
    }
}

/// Where links between documents lead now.
struct Ways<'w> {
    by_path: HashMap<&'w str, &'w Way>,
    /// The path of the whole.
    target: &'w str,
}

impl Ways<'_> {
    fn turn(&self, own: &Way, blocks: &mut Vec<Block>, findings: &mut Findings) {
        turn_addresses(blocks, |place, address| self.turned(own, address, place, findings));
    }

    /// Where an address leads now; `None` for one that leads to no file nearby.
    fn turned(
        &self,
        own: &Way,
        address: &str,
        place: Place,
        findings: &mut Findings,
    ) -> Option<String> {
        let near = NearAddress::of(address)?;
        let path = near.from(&own.path)?;
        let Some(way) = self.by_path.get(path.as_str()) else {
            return Some(near.with_path(&relative(self.target, &path)));
        };
        let wanted = near.place().filter(|place| !place.is_empty());
        let id = inner_id(way, wanted.as_deref());
        if id.is_none() {
            findings.add_about(Code::AnchorBroken, address, Some(place));
        }
        Some(format!("#{}", id.unwrap_or(&way.heading)))
    }
}

/// What a place of a document is called now.
fn inner_id<'w>(way: &'w Way, wanted: Option<&str>) -> Option<&'w CompactString> {
    let Some(wanted) = wanted else { return Some(&way.heading) };
    way.renamed.get(wanted).or_else(|| way.ids.get(wanted))
}

fn metadata(chapters: &[Chapter], options: &BindOptions) -> Metadata {
    let first = chapters.first().map(|chapter| &chapter.metadata);
    let mut authors: Vec<crate::document::Person> = Vec::new();
    for person in chapters.iter().flat_map(|chapter| &chapter.metadata.authors) {
        if !authors.iter().any(|known| known.name == person.name) {
            authors.push(person.clone());
        }
    }
    let mut keywords: Vec<CompactString> = Vec::new();
    for keyword in chapters.iter().flat_map(|chapter| &chapter.metadata.keywords) {
        if !keywords.contains(keyword) {
            keywords.push(keyword.clone());
        }
    }
    let title = options.title.clone().or_else(|| chapters.first().map(|c| c.title.clone()));
    Metadata {
        title: vec![Inline::Text(title.unwrap_or_default().into())],
        authors,
        keywords,
        language: first.and_then(|metadata| metadata.language.clone()),
        direction: first.and_then(|metadata| metadata.direction),
        ..Metadata::default()
    }
}

/// The title, the list of the documents, the contents.
fn front(chapters: &[Chapter], options: &BindOptions) -> Vec<Block> {
    let mut blocks = Vec::new();
    if options.cover {
        let items = chapters.iter().map(|chapter| {
            let address = format!("#{}", chapter.way.heading);
            let mut line = vec![link(address, chapter.title.as_str())];
            let authors: Vec<&str> =
                chapter.metadata.authors.iter().map(|person| person.name.as_str()).collect();
            let date = chapter.metadata.date.as_deref();
            for said in authors.into_iter().chain(date) {
                line.push(Inline::Text(format!(", {said}").into()));
            }
            let mut item = vec![paragraph(line)];
            item.extend(chapter.metadata.description.as_deref().map(paragraph));
            item
        });
        blocks.push(bullets(items.collect()));
    }
    if options.contents > 0 {
        let list = ContentsList { kind: ContentsKind::Headings, depth: options.contents };
        blocks.push(Block::new(BlockKind::Contents(Box::new(list))));
    }
    blocks
}

/// A chapter in another language than the whole says so.
fn in_its_language(chapter: Chapter, language: Option<&CompactString>) -> Vec<Block> {
    let own = chapter.metadata.language.as_ref();
    if own.is_none() || own == language {
        return chapter.blocks;
    }
    let group = Group { role: GroupRole::Plain, content: chapter.blocks };
    let mut block = Block::new(BlockKind::Group(Box::new(group)));
    block.attributes.edit().language = own.cloned();
    vec![block]
}
