//! Bookmarks: the places that links and references lead to (ECMA-376 part 1, 17.13.6).

use super::Writer;
use super::markup::push_text;
use crate::document::{
    Block, BlockKind, Caption, CompactString, ContentsKind, Document, Heading, Ids, Inline, Node,
    Visit, id_of_words, plain_text, walk,
};
use std::collections::{HashMap, HashSet};

/// Characters of a bookmark's name.
const LONGEST_NAME: usize = 40;

/// The names of bookmarks, and which headings need one.
#[derive(Debug, Default)]
pub(super) struct Bookmarks {
    /// Names by the ids they stand for, where they differ.
    names: HashMap<CompactString, CompactString>,
    taken: HashSet<CompactString>,
    /// Bookmarks of headings that state no id, by the address of their block.
    of_headings: HashMap<usize, CompactString>,
    /// Bookmarks of captions that a list leads to, by their address.
    of_captions: HashMap<usize, CompactString>,
    /// Every heading of a contents list: level, words, and bookmark.
    pub(super) headings: Vec<ListedHeading>,
    /// Every caption of a list of figures or tables.
    pub(super) captions: Vec<ListedCaption>,
    written: u32,
    written_names: HashSet<CompactString>,
}

/// A heading as a contents list shows it.
#[derive(Debug, Clone)]
pub(super) struct ListedHeading {
    pub(super) level: u8,
    pub(super) words: String,
    pub(super) bookmark: CompactString,
}

/// A caption as a list of figures or tables shows it.
#[derive(Debug, Clone)]
pub(super) struct ListedCaption {
    pub(super) kind: ContentsKind,
    pub(super) words: String,
    pub(super) bookmark: CompactString,
}

impl Bookmarks {
    /// Looks for what links lead to, so that headings get the ids that pages would give them.
    pub(super) fn of(document: &Document) -> Self {
        let mut found = Self::default();
        let (mut wanted, mut has_contents) = (HashSet::new(), false);
        let mut ids = Ids::default();
        let mut headings = Vec::new();
        let mut captions = Vec::new();
        let mut listed = HashSet::new();
        let notes = document.notes.iter().map(|note| note.content.as_slice());
        let parts = std::iter::once(document.blocks.as_slice()).chain(notes);
        for (part, blocks) in parts.enumerate() {
            let is_body = part == 0;
            for visit in walk(blocks) {
                match visit {
                    Visit::Enter(Node::Block(block)) => {
                        if let Some(id) = block.attributes.id() {
                            ids.reserve(id);
                        }
                        match &block.kind {
                            BlockKind::Heading(heading) if is_body => {
                                headings.push((block, &**heading));
                            }
                            BlockKind::Contents(list) => {
                                has_contents |= list.kind == ContentsKind::Headings;
                                listed.insert(list.kind);
                            }
                            BlockKind::Figure(figure) => {
                                let caption = figure.caption.as_ref();
                                captions.extend(caption.map(|it| (ContentsKind::Figures, it)));
                            }
                            BlockKind::Table(table) => {
                                let caption = table.caption.as_ref();
                                captions.extend(caption.map(|it| (ContentsKind::Tables, it)));
                            }
                            _ => {}
                        }
                    }
                    Visit::Enter(Node::Inline(Inline::Link(link))) => {
                        wanted.extend(link.address.strip_prefix('#').map(CompactString::from));
                    }
                    Visit::Enter(Node::Inline(Inline::Reference(reference))) => {
                        wanted.insert(reference.target.clone());
                    }
                    _ => {}
                }
            }
        }
        if has_contents || !wanted.is_empty() {
            for (block, heading) in headings {
                found.heading(block, heading, &mut ids, &wanted, has_contents);
            }
        }
        for (kind, caption) in captions.into_iter().filter(|(kind, _)| listed.contains(kind)) {
            found.caption(kind, caption);
        }
        found
    }

    fn caption(&mut self, kind: ContentsKind, caption: &Caption) {
        let bookmark = self.name_of(&format!("_Toc{:08}", 50_000_000 + self.captions.len()));
        self.of_captions.insert(std::ptr::from_ref(caption) as usize, bookmark.clone());
        self.captions.push(ListedCaption { kind, words: caption.plain_text(), bookmark });
    }

    fn heading(
        &mut self,
        block: &Block,
        heading: &Heading,
        ids: &mut Ids,
        wanted: &HashSet<CompactString>,
        has_contents: bool,
    ) {
        let words = plain_text(&heading.content);
        let stated = block.attributes.id().map(CompactString::from);
        let made = match &stated {
            Some(id) => id.clone(),
            None => ids.made(&id_of_words(&words)),
        };
        if !has_contents && !wanted.contains(&made) {
            return;
        }
        // Names of bookmarks that nobody is to see begin so.
        let bookmark = if stated.is_some() || wanted.contains(&made) {
            made
        } else {
            format!("_Toc{:08}", self.headings.len() + 1).into()
        };
        if stated.is_none() {
            self.of_headings.insert(std::ptr::from_ref(block) as usize, bookmark.clone());
        }
        let bookmark = self.name_of(&bookmark);
        self.headings.push(ListedHeading { level: heading.level, words, bookmark });
    }

    /// The bookmark of a heading that states no id.
    pub(super) fn of_heading(&self, block: &Block) -> Option<CompactString> {
        self.of_headings.get(&(std::ptr::from_ref(block) as usize)).cloned()
    }

    /// The bookmark of a caption that a list leads to.
    pub(super) fn of_caption(&self, caption: &Caption) -> Option<CompactString> {
        self.of_captions.get(&(std::ptr::from_ref(caption) as usize)).cloned()
    }

    /// The name of the bookmark for an id: the id itself, where it is short enough.
    pub(super) fn name_of(&mut self, id: &str) -> CompactString {
        if let Some(name) = self.names.get(id) {
            return name.clone();
        }
        let mut name: CompactString =
            id.chars().filter(|c| !c.is_whitespace()).take(LONGEST_NAME).collect();
        let mut number = 1;
        while !self.taken.insert(name.clone()) {
            number += 1;
            let end = format!("_{number}");
            let start = id.chars().filter(|c| !c.is_whitespace()).take(LONGEST_NAME - end.len());
            name = start.chain(end.chars()).collect();
        }
        self.names.insert(id.into(), name.clone());
        name
    }
}

impl Writer<'_> {
    /// A place that links lead to.
    pub(super) fn push_bookmark(&mut self, id: &str, out: &mut String) {
        let name = self.bookmarks.name_of(id);
        if name != id {
            self.changed("a name that is too long for a bookmark");
        }
        if !self.bookmarks.written_names.insert(name.clone()) {
            return self.lost("a second place of one name");
        }
        let number = self.bookmarks.written;
        self.bookmarks.written += 1;
        out.push_str(&format!("<w:bookmarkStart w:id=\"{number}\" w:name=\""));
        push_text(out, &name);
        out.push_str(&format!("\"/><w:bookmarkEnd w:id=\"{number}\"/>"));
    }

    /// The mark of an item without text of its own. Programs hide names that begin so.
    pub(super) fn push_empty_item(&mut self, out: &mut String) {
        let number = self.bookmarks.written;
        self.push_bookmark(&format!("_Item{number:08}"), out);
    }
}
