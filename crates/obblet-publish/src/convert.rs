//! One document of a folder: read, links turned, written to memory.

use crate::entry::{Action, Entry};
use crate::fingerprint::Fingerprint;
use crate::late::picture_token;
use crate::links::{Leads, rewrite_links};
use crate::plan::Plan;
use crate::record::{AnchorRecord, PageRecord, PictureRecord, SourceRecord};
use crate::resolver::NotingResolver;
use crate::scope::Split;
use crate::targets::portable_name;
use obblet::address::relative;
use obblet::assembly::{SplitPage, split};
use obblet::dates::When;
use obblet::document::build::{bullets, link, paragraph};
use obblet::document::{
    Block, CompactString, Document, Inline, Media, Metadata, Node, PictureSource, Place, SourceMap,
    Value, Visit, id_of_words, plain_text, walk,
};
use obblet::findings::{Finding, FindingKind, Findings};
use obblet::{Account, ConvertError, Converter, Draft, Format, WriteOptions};
use std::collections::HashMap;

/// A document in memory.
pub(crate) struct Converted {
    pub(crate) content: Content,
    /// Files that it holds, with what the record says of each.
    pub(crate) media: Vec<Media>,
    pub(crate) findings: Vec<Finding>,
    pub(crate) account: Account,
    pub(crate) facts: SourceRecord,
}

/// What a document has become.
pub(crate) enum Content {
    /// HTML, to be laid out; a page each.
    Drafts(Vec<Draft>),
    /// Another format, done.
    Bytes(Vec<u8>),
}

/// Converts one document.
pub(crate) fn convert(bytes: &[u8], entry: &Entry, plan: &Plan) -> Result<Converted, ConvertError> {
    let format = match entry.action {
        Action::Convert(format) => format,
        _ => plan.format,
    };
    let hash = Fingerprint::of(bytes);
    let options = write_options(entry, plan);
    let resolver = NotingResolver::new(&plan.source, &entry.source);
    let converter = Converter::with_options(&options)
        .from(format)
        .resolver(&resolver)
        .additions(plan.additions.clone());
    let mut reading = converter.read(bytes)?;
    entry.scope.complete(&mut reading.document.metadata);
    let mut findings = std::mem::take(&mut reading.findings);
    let leads = rewrite_links(&mut reading.document, entry, plan, &mut findings);
    let names = match plan.format {
        Format::Html => picture_names(&reading.document),
        _ => HashMap::new(),
    };
    let (content, pages, media, later, account) = match plan.format {
        Format::Html => drafted(reading.document, entry, plan, &options)?,
        _ => {
            let written = converter.write(&reading.document)?;
            let page = page_record(
                written.title.as_deref(),
                &reading.document.metadata,
                "",
                options.house.page.language.as_str(),
            );
            let pages = vec![PageRecord { target: entry.target.clone(), ..page }];
            (Content::Bytes(written.bytes), pages, written.media, written.findings, written.account)
        }
    };
    findings.extend(later);
    findings.locate(&reading.map);
    findings.sort();
    let findings = findings.into_vec();
    let facts = SourceRecord {
        hash,
        settings: entry.settings(plan.format, plan.added),
        pages,
        pictures: media.iter().map(|medium| picture_record(medium, entry, &names)).collect(),
        needs: resolver.into_needs(),
        anchors: anchor_records(&leads, &reading.map),
        links: leads.links,
        findings: counted(&findings),
    };
    let account = account.behind(reading.account);
    Ok(Converted { content, media, findings, account, facts })
}

/// What the writer is told, but for the pages around.
pub(crate) fn write_options(entry: &Entry, plan: &Plan) -> WriteOptions {
    WriteOptions {
        house: entry.house().clone(),
        picture_folder: Some(match plan.format {
            Format::Html => picture_token(&entry.source),
            _ => picture_folder(&entry.target).rsplit('/').next().unwrap_or_default().into(),
        }),
        ..WriteOptions::format(plan.format)
    }
}

/// The folder of a page's own pictures, below the output folder.
pub(crate) fn picture_folder(target: &str) -> String {
    let (folder, file) = target.rsplit_once('/').unwrap_or(("", target));
    let stem = file.rsplit_once('.').map_or(file, |(stem, _)| stem);
    obblet::address::joined(folder, &format!("{stem}-pictures"))
}

/// What becomes of a document: its pages, what is known of each, its own files, what there is to say, how
/// many words the pages hold.
type Drafted = (Content, Vec<PageRecord>, Vec<Media>, Findings, Account);

fn drafted(
    document: Document,
    entry: &Entry,
    plan: &Plan,
    options: &WriteOptions,
) -> Result<Drafted, ConvertError> {
    let (mut drafts, mut pages, mut findings) = (Vec::new(), Vec::new(), Findings::new());
    let (mut media, mut account) = (Vec::new(), Account::default());
    for (target, document) in split_pages(document, entry, plan) {
        let mut draft = Draft::of(&document, options)?;
        let mut places: Vec<&str> = draft.ids().iter().map(|id| id.as_str()).collect();
        places.sort_unstable();
        let page = page_record(
            draft.title(),
            draft.metadata(),
            &places.join(" "),
            options.house.page.language.as_str(),
        );
        pages.push(PageRecord { target, ..page });
        // Every page has all files of its document at hand.
        media = draft.take_media();
        findings.extend(draft.take_findings());
        account.add(draft.account());
        drafts.push(draft);
    }
    Ok((Content::Drafts(drafts), pages, media, findings, account))
}

/// The pages of a document with their targets: one, unless its folder wants it split.
fn split_pages(document: Document, entry: &Entry, plan: &Plan) -> Vec<(String, Document)> {
    let (level, at_breaks) = match plan.split_of(entry) {
        Split::Never => return vec![(entry.target.clone(), document)],
        Split::AtLevel(level) => (level, false),
        Split::AtPageBreaks => (0, true),
    };
    let file = |name: &str| relative(&entry.target, &split_target(entry, plan, name));
    let mut pages = split(document, level, at_breaks, &file);
    let list = contents(&pages, &file);
    if let Some(first) = pages.first_mut() {
        first.document.blocks.extend(list);
    }
    pages.into_iter().map(|page| (split_target(entry, plan, &page.name), page.document)).collect()
}

/// A list of all pages but the first, to stand on that.
fn contents(pages: &[SplitPage], file: &dyn Fn(&str) -> String) -> Option<Block> {
    let items: Vec<Vec<Block>> = pages
        .iter()
        .skip(1)
        .map(|page| {
            let title = page.document.title_or_first_heading().unwrap_or_else(|| page.name.clone());
            vec![paragraph(vec![link(file(&page.name), title.as_str())])]
        })
        .collect();
    (!items.is_empty()).then(|| bullets(items))
}

/// The target of a page by its name: beside the first one, with that one's name in front. Two hyphens
/// stand between, which no name of a page has.
fn split_target(entry: &Entry, plan: &Plan, name: &str) -> String {
    if name.is_empty() {
        return entry.target.clone();
    }
    let ending = entry.target.rfind('.').unwrap_or(entry.target.len());
    let (stem, ending) = entry.target.split_at(ending);
    let mut target = format!("{stem}--{name}{ending}");
    while plan.is_target(&target) {
        target.insert(target.len() - ending.len(), '_');
    }
    target
}

/// What the record keeps of a page. Of a date it keeps what machines read, where that is understood.
fn page_record(
    title: Option<&str>,
    metadata: &Metadata,
    places: &str,
    language: &str,
) -> PageRecord {
    let language = metadata.language.as_deref().unwrap_or(language);
    let date = metadata.date.as_deref().map(|date| {
        When::of_text(date, language).map_or_else(|| date.to_string(), |when| when.html())
    });
    let authors: Vec<&str> = metadata.authors.iter().map(|person| person.name.as_str()).collect();
    let subtitle = plain_text(&metadata.subtitle);
    PageRecord {
        title: title.map(Into::into),
        description: metadata
            .description
            .clone()
            .or(Some(subtitle).filter(|text| !text.is_empty())),
        date,
        author: Some(authors.join(", ")).filter(|names| !names.is_empty()),
        tags: metadata.keywords.iter().map(ToString::to_string).collect(),
        formerly: formerly(metadata),
        places: places.into(),
        ..PageRecord::default()
    }
}

/// The addresses that a page had before, as its document says.
fn formerly(metadata: &Metadata) -> Vec<String> {
    let stated = metadata.extra.iter().find(|(name, _)| name == "formerly");
    let values = match stated.map(|(_, value)| value) {
        Some(Value::List(values)) => values.as_slice(),
        Some(value) => std::slice::from_ref(value),
        None => &[],
    };
    values.iter().filter_map(Value::to_text).collect()
}

/// Better names for pictures that a program has only numbered: the words that stand for them.
fn picture_names(document: &Document) -> HashMap<CompactString, String> {
    let mut names = HashMap::new();
    let notes = document.notes.iter().map(|note| note.content.as_slice());
    for visit in std::iter::once(document.blocks.as_slice()).chain(notes).flat_map(walk) {
        let Visit::Enter(Node::Inline(Inline::Picture(picture))) = visit else { continue };
        let PictureSource::Media(id) = &picture.source else { continue };
        let Some(medium) = document.media.get(*id).filter(|medium| is_numbered(&medium.name))
        else {
            continue;
        };
        let ending =
            medium.name.rfind('.').map_or("", |at| medium.name.get(at..).unwrap_or_default());
        let words = id_of_words(&plain_text(&picture.alternative));
        let words = shortened(&words);
        if !words.is_empty() {
            names.entry(medium.name.clone()).or_insert_with(|| format!("{words}{ending}"));
        }
    }
    names
}

/// Whether a name says nothing: `image12.png`, `picture3.jpeg`.
fn is_numbered(name: &str) -> bool {
    let stem = name.rsplit_once('.').map_or(name, |(stem, _)| stem);
    let word = stem.trim_end_matches(|c: char| c.is_ascii_digit() || matches!(c, '-' | '_' | ' '));
    ["", "image", "img", "media", "picture", "graphic"]
        .iter()
        .any(|known| known.eq_ignore_ascii_case(word))
}

/// The first words of an id, up to forty letters.
fn shortened(id: &str) -> &str {
    const MOST: usize = 40;
    let Some((cut, _)) = id.char_indices().nth(MOST) else { return id };
    let start = id.get(..cut).unwrap_or_default();
    start.rfind('-').and_then(|at| start.get(..at)).unwrap_or(start)
}

fn picture_record(
    medium: &Media,
    entry: &Entry,
    names: &HashMap<CompactString, String>,
) -> PictureRecord {
    let name = names.get(&medium.name).map_or(medium.name.as_str(), String::as_str);
    // Names come out of documents: whatever they say, the file stays in its folder.
    let name = name.rsplit(['/', '\\']).next().unwrap_or_default();
    PictureRecord {
        hash: Fingerprint::of(&medium.bytes),
        name: medium.name.to_string(),
        target: format!("{}/{}", picture_folder(&entry.target), portable_name(name)),
    }
}

/// Links to places in other documents, with their lines: the source is gone through once for all.
fn anchor_records(leads: &Leads, map: &SourceMap) -> Vec<AnchorRecord> {
    let places: Vec<Option<Place>> = leads.anchors.iter().map(|link| Some(link.place)).collect();
    let positions = map.positions(&places);
    let anchors = leads.anchors.iter().zip(positions);
    anchors
        .map(|(link, position)| AnchorRecord {
            document: link.document.clone(),
            anchor: link.anchor.clone(),
            address: link.address.clone(),
            line: position.map_or(0, |position| position.line),
            column: position.map_or(0, |position| position.column),
            file: map.file(link.place).map(Into::into),
        })
        .collect()
}

/// How many findings there are: lost, changed, repaired, problems.
pub(crate) fn counted(findings: &[Finding]) -> [u64; 4] {
    FindingKind::ALL.map(|kind| {
        let wanted = findings.iter().filter(|finding| finding.kind() == kind);
        wanted.map(|finding| u64::from(finding.count)).sum()
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_that_say_nothing_are_known() {
        for name in ["image1.png", "IMG_0042.JPG", "media-3", "12.gif", "picture 2.svg"] {
            assert!(is_numbered(name), "{name}");
        }
        for name in ["stair.png", "wheel2.png", "imagery.png", "image-of-the-mill.png"] {
            assert!(!is_numbered(name), "{name}");
        }
    }

    #[test]
    fn long_names_end_at_a_word() {
        let words = "a-drawing-of-the-stair-with-its-rail-at-the-left-side";
        assert_eq!(shortened(words), "a-drawing-of-the-stair-with-its-rail-at");
        assert_eq!(shortened("wheel"), "wheel");
        assert_eq!(shortened(&"x".repeat(50)).len(), 40);
    }
}
