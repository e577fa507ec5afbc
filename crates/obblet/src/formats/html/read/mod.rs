//! The HTML reader: html5ever's tree, from elements to meaning.
//!
//! Read are the elements and attributes that say what a text means, and what styles say of that. All
//! that the [writer](super::write_body) writes is read back as it was, but for what its findings say.

mod attributes;
mod blocks;
mod code;
mod comments;
mod formulas;
mod inlines;
mod line;
mod links;
mod lists;
mod looks;
mod metadata;
mod notes;
mod parts;
mod revisions;
mod tables;
mod tasks;
mod text_style;
mod typed_notes;
mod word_processor;

pub(crate) use parts::{Part, read_inline_parts, read_parts};

use super::SHOWS;
use super::css::Styles;
use super::dom::{Dom, NodeId};
use super::saved_page::SavedParts;
use crate::document::{
    Block, BlockKind, CitedWork, CommentId, Document, Ids, MediaStore, NoteId, Place,
    blocks_in_order_mut, plain_text,
};
use crate::findings::{Code, Findings};
use crate::locale::UNTITLED;
use percent_encoding::percent_decode_str;
use std::collections::{HashMap, HashSet};
use text_style::TextStyle;

/// What was added to the levels of headings of a page of ours.
const LOWERED: &str = "data-headings-lowered";

/// The class of the line that shows authors and date on a page of ours.
const BYLINE: &str = "byline";
/// And of the list of where they work.
const AFFILIATIONS: &str = "affiliations";

/// How deep elements may nest before what is deeper is read as text alone.
const DEPTH: usize = 150;

/// Reads a page or a fragment of HTML. Any text is some HTML, so this never fails.
///
/// Of a page that this program made only the `main` element is read: the rest is made anew.
///
/// ```
/// use obblet::document::{BlockKind, plain_text};
/// use obblet::formats::html::read;
/// let (document, _) = read("<title>Tides</title><p>High water at <em>noon</em>.");
/// assert_eq!(plain_text(&document.metadata.title), "Tides");
/// assert!(matches!(&document.blocks[0].kind, BlockKind::Paragraph(_)));
/// ```
#[must_use]
pub fn read(text: &str) -> (Document, Findings) {
    read_with(text, &HtmlReadOptions::default())
}

/// What the HTML reader can be told.
#[derive(Debug, Clone, Copy, Default)]
pub struct HtmlReadOptions {
    /// Leave out what stands around the text of a page: navigation, banners, dialogs, footers, by
    /// their elements and roles. Default: no.
    pub drop_page_frame: bool,
    /// Read fonts, colours, sizes, borders and the like, beside the meaning. Default: no; what styles
    /// say of looks alone is then a finding.
    pub looks: bool,
}

/// The same, told how.
#[must_use]
pub fn read_with(text: &str, options: &HtmlReadOptions) -> (Document, Findings) {
    read_tree(&Dom::of_page(text), text, options, &SavedParts::default())
}

/// The same of a text whose tree is known, with the parts that were saved with the page.
pub(crate) fn read_tree(
    dom: &Dom,
    text: &str,
    options: &HtmlReadOptions,
    saved: &SavedParts,
) -> (Document, Findings) {
    let lines = line_starts(text);
    let mut reader = Reader::new(dom, lines, saved, *options);
    reader.media = Some(MediaStore::default());
    let root = dom.root();
    let mut document = Document { metadata: reader.metadata(root), ..Document::default() };
    reader.find_notes(root);
    reader.find_typed_notes(root);
    reader.find_comments();
    let named = |name: &str| dom.below(0).find(|node| dom.name(*node) == Some(name));
    let is_own = is_own_page(dom);
    let main = if is_own { named("main") } else { None };
    let content = main.or_else(|| named("body")).unwrap_or(root);
    if is_own {
        document.metadata.subtitle = reader.take_subtitle(content);
        reader.shown_metadata.extend(reader.find_shown_metadata(content));
        if plain_text(&document.metadata.title) == UNTITLED {
            document.metadata.title.clear();
        }
        document.metadata.date = reader.shown_date(&document.metadata);
        reader.read_affiliations(&mut document.metadata);
    }
    if options.drop_page_frame {
        reader.drop_page_frame(content);
    }
    if options.looks {
        // What a page states for all its text holds for each of its blocks.
        let mut around: Vec<NodeId> =
            std::iter::successors(Some(content), |node| dom.parent(*node)).collect();
        around.reverse();
        around.into_iter().for_each(|node| {
            reader.enter(node);
        });
        reader.text.looks.begin_blocks();
    }
    document.blocks = reader.flow(content);
    let shift = dom.attribute(content, LOWERED).and_then(|shift| shift.parse().ok());
    if let Some(shift) = shift.filter(|_| is_own) {
        undo_level_shift(&mut document.blocks, shift);
    }
    document.notes = reader.notes();
    document.comments = reader.comments();
    document.bibliography = std::mem::take(&mut reader.works);
    document.media = reader.media.take().unwrap_or_default();
    let mut findings = reader.finish();
    findings.sort();
    (document, findings)
}

/// Whether this program made a page.
fn is_own_page(dom: &Dom) -> bool {
    let head = dom.below(0).take_while(|node| dom.name(*node) != Some("body"));
    let mut metas = head.filter(|node| dom.name(*node) == Some("meta"));
    let generator = metas.find(|node| dom.attribute(*node, "name") == Some("generator"));
    let content = generator.and_then(|node| dom.attribute(node, "content"));
    content.is_some_and(|content| content.starts_with("Obblet "))
}

/// Gives headings the levels that they had before they were put below the title of the page.
fn undo_level_shift(blocks: &mut [Block], shift: i8) {
    blocks_in_order_mut(blocks, |block| {
        if let BlockKind::Heading(heading) = &mut block.kind {
            let level = i16::from(heading.level) - i16::from(shift);
            heading.level = u8::try_from(level.clamp(1, 6)).unwrap_or(heading.level);
        }
    });
}

/// All that links of the page point to inside it, and what of that references show.
fn referenced_ids(dom: &Dom) -> (HashSet<String>, HashSet<String>) {
    let (mut all, mut shown) = (HashSet::new(), HashSet::new());
    for node in dom.below(0) {
        let address = dom.attribute(node, "href");
        let Some(id) = address.and_then(|address| address.strip_prefix('#')) else { continue };
        let id = percent_decode_str(id).decode_utf8_lossy().into_owned();
        if dom.attribute(node, SHOWS).is_some() {
            shown.insert(id.clone());
        }
        all.insert(id);
    }
    (all, shown)
}

fn line_starts(text: &str) -> Vec<Place> {
    let ends = memchr::memchr_iter(b'\n', text.as_bytes()).map(|at| at + 1);
    std::iter::once(0).chain(ends).map(|at| Place::new(at, at)).collect()
}

/// The state of reading one tree.
struct Reader<'d> {
    dom: &'d Dom,
    findings: Findings,
    /// Where each line of the HTML stands in the source.
    lines: Vec<Place>,
    /// Ids that headings get by their words; an id that is just that was not stated.
    made_ids: Ids,
    /// Notes by the id of their element.
    notes: HashMap<String, NoteId>,
    note_nodes: Vec<NodeId>,
    /// Marks and links back of notes that only lead to each other.
    typed_marks: HashMap<NodeId, NoteId>,
    links_back: HashSet<NodeId>,
    /// Review comments by the name of their anchor.
    comments: HashMap<String, CommentId>,
    comment_nodes: Vec<NodeId>,
    /// Works of the list that the page shows.
    works: Vec<CitedWork>,
    /// What links inside the page point to.
    referenced: HashSet<String>,
    /// What references show; these keep their ids, which other formats find them by.
    shown_targets: HashSet<String>,
    /// Pictures that stood in their addresses; a part of another document has no place for them.
    media: Option<MediaStore>,
    /// What was saved with the page.
    saved: &'d SavedParts,
    options: HtmlReadOptions,
    /// Pieces of another format that stand in the HTML, by their number.
    parts: Vec<Option<Part>>,
    depth: usize,
    in_link: bool,
    /// Inside code, where white space stands as it is and colours say nothing.
    in_code: bool,
    /// Whether the words of a heading are read.
    in_heading: bool,
    styles: Styles<'d>,
    text: TextStyle,
    /// Elements that only show metadata.
    shown_metadata: Vec<NodeId>,
    /// Elements around the text of a page that are not wanted.
    left_out: HashSet<NodeId>,
    /// Inside a paragraph that becomes an item, whose typed-out mark says nothing more.
    in_list_paragraph: bool,
}

impl<'d> Reader<'d> {
    fn new(
        dom: &'d Dom,
        lines: Vec<Place>,
        saved: &'d SavedParts,
        options: HtmlReadOptions,
    ) -> Self {
        let (referenced, shown_targets) = referenced_ids(dom);
        Self {
            dom,
            findings: Findings::new(),
            lines,
            made_ids: Ids::default(),
            notes: HashMap::new(),
            note_nodes: Vec::new(),
            typed_marks: HashMap::new(),
            links_back: HashSet::new(),
            comments: HashMap::new(),
            comment_nodes: Vec::new(),
            works: Vec::new(),
            referenced,
            shown_targets,
            media: None,
            saved,
            options,
            parts: Vec::new(),
            depth: 0,
            in_link: false,
            in_code: false,
            in_heading: false,
            // The theme of a page of ours says nothing of its document.
            styles: match is_own_page(dom) {
                true => Styles::without_sheets(dom, options.looks),
                false => Styles::of(dom, saved, options.looks),
            },
            text: TextStyle::default(),
            shown_metadata: Vec::new(),
            left_out: HashSet::new(),
            in_list_paragraph: false,
        }
    }

    /// The place of the node's line.
    fn place(&self, node: NodeId) -> Place {
        place(self.dom, &self.lines, node)
    }

    fn text_of(&self, node: NodeId) -> String {
        self.dom.text_of(node)
    }

    /// Leaves out what stands around the text. Headers and footers of articles and sections are
    /// parts of them.
    fn drop_page_frame(&mut self, content: NodeId) {
        let dom = self.dom;
        let nodes: Vec<NodeId> = dom.below(content).collect();
        for node in nodes {
            let role = dom.attribute(node, "role").unwrap_or_default();
            let is_frame = match dom.name(node) {
                Some("nav" | "dialog" | "search") => role != "doc-toc",
                Some("header" | "footer") => {
                    let mut around = std::iter::successors(dom.parent(node), |n| dom.parent(*n));
                    !around.any(|n| matches!(dom.name(n), Some("article" | "section" | "main")))
                }
                _ => matches!(
                    role,
                    "navigation" | "banner" | "contentinfo" | "dialog" | "alertdialog" | "search"
                ),
            };
            if is_frame {
                self.left_out.insert(node);
                self.dropped(Code::PageFrameDropped, "", node);
            }
        }
    }

    /// All findings, those about styles last.
    fn finish(mut self) -> Findings {
        if let (1.., line) = self.dom.too_deep {
            let line = line.saturating_sub(1) as usize;
            let place = self.lines.get(line).or(self.lines.last()).copied();
            self.findings.count(Code::NestingTooDeep, "", place);
        }
        for (property, count) in self.styles.into_ignored() {
            for _ in 0..count {
                self.findings.count(Code::LooksNotRead, &property, None);
            }
        }
        self.findings
    }

    fn dropped(&mut self, code: Code, subject: &str, node: NodeId) {
        let (dom, lines) = (self.dom, &self.lines);
        self.findings.count_at(code, subject, || Some(extent(dom, lines, node)));
    }
}

/// From the node's line to the line on which what follows it begins.
fn extent(dom: &Dom, lines: &[Place], node: NodeId) -> Place {
    let start = place(dom, lines, node);
    let around = std::iter::successors(Some(node), |node| dom.parent(*node));
    let next = around.into_iter().find_map(|node| dom.next(node));
    let line = next.map_or(usize::MAX, |next| dom.line(next) as usize);
    let end = lines.get(line).or(lines.last()).map_or(start.end, |line| line.start);
    Place { end: end.max(start.end), ..start }
}

fn place(dom: &Dom, lines: &[Place], node: NodeId) -> Place {
    let line = dom.line(node).saturating_sub(1) as usize;
    lines.get(line).or(lines.last()).copied().unwrap_or_default()
}
